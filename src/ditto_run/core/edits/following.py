"""A size and the line of the feature it belongs to say the same: where a size is changed, the line follows."""

from dataclasses import replace

from ditto_run.core.hold import Feature
from ditto_run.core.part import Characteristic
from ditto_run.core.part.features import Described, Role, feature_text, known_feature
from ditto_run.core.part.features.kinds import MAIN_SIZE
from ditto_run.core.plan import Plan
from ditto_run.core.sizes import Size
from ditto_run.core.units import to_base

OWN_WORD = {"face", "outline", "body", "part off"}  # their sizes are the part's own: height, length, diameter


def called(described: Described, name: str, role: Role, plan: Plan) -> str:
    """Return what a size of a feature is called: as the feature; a face's and a whole part's by what it is, unless one has that name."""
    main = role is MAIN_SIZE.get(described.kind)
    if described.kind in OWN_WORD and not (
        main and any(c.name.lower() == name.lower() for c in plan.characteristics)
    ):
        return str(role)
    return name if main else f"{name} {role}"


def same_size(one: Size, other: Size) -> bool:
    """Return True if two sizes ask the same of a piece."""
    return (one.nominal_base, _limits(one), one.name) == (other.nominal_base, _limits(other), other.name)


def _limits(size: Size) -> tuple[object, ...]:
    return tuple(None if limit is None else to_base(limit, size.unit) for limit in (size.lower, size.upper))


def sizes_said(plan: Plan) -> dict[str, tuple[Feature, Role, Size]]:
    """Return every size that the lines of features say, by what it is called, in lower case; the first of a name."""
    found: dict[str, tuple[Feature, Role, Size]] = {}
    for named in plan.described:
        for role, size in named.feature.sizes.items():
            name = called(named.feature, named.name, role, plan).lower()
            found.setdefault(name, (plan.feature(named.key), role, size))
    return found


def line_with(plan: Plan, feature: Feature, role: Role, size: Size) -> str:
    """Return the line of a feature with another size in one role; the old line where it could not be read again."""
    described = known_feature(feature.line, plan.form, plan.heading.unit)
    if described is None:
        return feature.line
    sized = replace(size, kind=described.sizes[role].kind) if size.kind == "length" else size
    sizes: dict[Role, Size] = {**described.sizes, role: sized}
    line = feature_text(replace(described, sizes=sizes))
    return line if known_feature(line, plan.form, plan.heading.unit) is not None else feature.line


def followed(plan: Plan, was: Characteristic, new: Characteristic) -> Plan:
    """Return the plan with the line of the feature that said a dimension's old size saying its new one.

    Args:
        plan: with the new dimension in it.
        was: the dimension before.
        new: as it is now.
    """
    if same_size(was.drawing, new.drawing):
        return plan
    for name, (feature, role, size) in sizes_said(plan).items():
        carries = feature.characteristic == new.number and role is _main(plan, feature)
        if (carries or name in {was.name.lower(), new.name.lower()}) and same_size(size, was.drawing):
            return plan.put(replace(feature, line=line_with(plan, feature, role, new.drawing)))
    return plan


def _main(plan: Plan, feature: Feature) -> Role | None:
    described = known_feature(feature.line, plan.form, plan.heading.unit)
    return MAIN_SIZE.get(described.kind) if described is not None else None
