"""Features added as they are said in one line; sizes with limits become dimensions of the job."""

from dataclasses import dataclass, replace
from dataclasses import fields as fields_of
from typing import Literal

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.edits.following import called, same_size
from ditto_run.core.edits.part import SetCharacteristic, read_characteristic
from ditto_run.core.errors import BadEntry, DittoError, standing_at
from ditto_run.core.hold import Feature, FeatureKind, check_feature
from ditto_run.core.part import Characteristic
from ditto_run.core.part.coated import as_machined
from ditto_run.core.part.faces import BAR, FACES, Form
from ditto_run.core.part.features import Described, Role, feature_text, form_of_first, read_feature
from ditto_run.core.part.features.described import ENDS
from ditto_run.core.part.features.form import line_of_form
from ditto_run.core.part.features.kinds import MAIN_SIZE
from ditto_run.core.plan import Changed, Plan
from ditto_run.core.sizes import size_text
from ditto_run.core.units import counted

MOST_FEATURES = 200
IN_CHAIN: dict[str, FeatureKind] = {
    "hole": "hole",
    "bore": "hole",
    "cross hole": "hole",
    "tapped hole": "thread",
    "outside thread": "thread",
    "centre hole": "centre hole",
    "face": "face",
    "step": "pocket",
    "outline": "outline",
    "body": "turned",
    "pocket": "pocket",
    "slot": "slot",
    "slit": "slot",
    "chamfer": "chamfer",
    "broken edge": "chamfer",
    "shoulder": "turned",
    "taper": "turned",
    "groove": "slot",
    "undercut": "slot",
    "knurl": "slot",
    "part off": "cut off",
    "flat": "pocket",
    "hexagon": "pocket",
    "square": "pocket",
    "bend": "by hand",
    "by hand": "by hand",
}


@dataclass(frozen=True, slots=True)
class SetFeatureLine:
    """Add the feature a line describes, or change the one of that key.

    Args:
        line: in shop language.
        key: of the feature to change.
        keep: the line again, where a size in it was asked about and is right.
        part_form: chosen beside the first line of a part; counts only while the part has neither features nor setups.
    """

    line: str
    key: int | None = None
    keep: str = ""
    part_form: Form | None = None
    kind: Literal["set_feature_line"] = "set_feature_line"


@dataclass(frozen=True, slots=True)
class AddFeatureLines:
    """Add a feature for each line, or none of them.

    Args:
        lines: one feature a line; empty ones are passed over.
        keep: the lines again, where a size in them was asked about and is right.
    """

    lines: str
    keep: str = ""
    kind: Literal["add_feature_lines"] = "add_feature_lines"


@dataclass(frozen=True, slots=True)
class SetFeatureForm:
    """Add the feature a form describes; its fields are put into a line, which is kept.

    Args:
        what: its kind.
        on_face: on which it lies.
        count, by, arranged: how many, their spacing, and line or circle.
        through: anything where it goes through.
        thread, diameter, width, length, depth, height, across, radius, size: its sizes as typed.
        from_left, from_right, from_front, from_back, from_free_end, from_chuck_end: where it stands.
        turn: how far round the axis of a turned part, from the top. [degrees]
    """

    what: str
    on_face: str = ""
    count: str = ""
    by: str = ""
    arranged: str = ""
    through: str = ""
    thread: str = ""
    diameter: str = ""
    width: str = ""
    length: str = ""
    depth: str = ""
    height: str = ""
    across: str = ""
    radius: str = ""
    size: str = ""
    from_left: str = ""
    from_right: str = ""
    from_front: str = ""
    from_back: str = ""
    from_free_end: str = ""
    from_chuck_end: str = ""
    turn: str = ""
    kind: Literal["set_feature_form"] = "set_feature_form"


@apply_edit.register
def _set_feature_form(edit: SetFeatureForm, plan: Plan, shop: PlanRegisters) -> Changed:
    fields = {field.name: str(getattr(edit, field.name)) for field in fields_of(edit) if field.name != "kind"}
    line = line_of_form(fields | {"kind": edit.what, "face": edit.on_face})
    with standing_at("what"):
        return _said(SetFeatureLine(line), plan, shop)


@apply_edit.register
def _add_feature_lines(edit: AddFeatureLines, plan: Plan, shop: PlanRegisters) -> Changed:
    lines = [(number, line.strip()) for number, line in enumerate(edit.lines.splitlines(), 1) if line.strip()]
    if not 0 < len(lines) <= MOST_FEATURES:
        raise BadEntry(
            f"{counted(len(lines), 'line')}; between 1 and {MOST_FEATURES} can be added at once.",
            "Paste fewer, one feature a line.",
            "lines",
        )
    sure = edit.keep.split() == edit.lines.split()
    before = len(plan.features)
    for number, line in lines:
        try:
            plan = apply_edit(SetFeatureLine(line, keep=line if sure else ""), plan, shop).plan
        except DittoError as refusal:
            refusal.problem = f"Line {number}, “{line[:40]}”: {refusal.problem}"
            refusal.field = "lines"
            raise
    return Changed(plan, f"added {counted(len(plan.features) - before, 'feature')}")


@apply_edit.register
def _set_feature_line(edit: SetFeatureLine, plan: Plan, shop: PlanRegisters) -> Changed:
    with standing_at("line"):
        return _said(edit, plan, shop)


def form_of_line(plan: Plan, line: str, chosen: Form | None = None) -> Form:
    """Return the form of the part once a line is said: of one that has neither features nor setups, the line may say it.

    Args:
        plan: as it is.
        line: as typed.
        chosen: beside the line; None where nobody chose.
    """
    if plan.features or plan.setups:
        return plan.form
    return form_of_first(line, chosen or plan.form, plan.heading.unit)


def _said(edit: SetFeatureLine, plan: Plan, shop: PlanRegisters) -> Changed:
    if not edit.line.strip():
        raise BadEntry("No feature is typed.", "Say it as in 4x M6 x 12 deep, top.")
    plan = replace(plan, form=form_of_line(plan, edit.line, edit.part_form))
    described = read_feature(edit.line, plan.form, plan.heading.unit)
    if not described.kind:
        raise BadEntry(
            "The line does not say what it is.", "Say hole, slot, pocket, shoulder or what else it is."
        )
    single = [described]
    if described.extent == "both ends" and plan.form == "turned" and not described.face:
        single = [replace(described, extent="", face=end) for end in ENDS]
        if edit.key is not None:
            raise BadEntry(
                "This is one feature; the line makes two of it.", "Say at which end, and add the other one."
            )
    names = []
    for one in single:
        plan, name = _put(edit, one, plan, shop)
        names.append(name)
    return Changed(plan, f"feature {' and '.join(names)}")


def _put(edit: SetFeatureLine, described: Described, plan: Plan, shop: PlanRegisters) -> tuple[Plan, str]:
    others = tuple(feature for feature in plan.features if feature.key != edit.key)
    was = plan.feature(edit.key) if edit.key is not None else None
    if was is None and len(others) >= MOST_FEATURES:
        raise BadEntry(f"{MOST_FEATURES} features are the most.", "Group some of them.")
    face = described.face or _usual_face(described, plan)
    name = described.called or (was.name if was is not None else _name(described, plan))
    number = None
    if not described.supplied:  # it is measured when it comes, not piece by piece
        plan, number = _dimensions(edit, described, name, was, plan, shop)
    new = Feature(
        plan.number_for(Feature, edit.key),
        name,
        face,
        IN_CHAIN[described.kind],
        _refers(described, face, plan),
        was.one_sided if was is not None else False,
        number,
        feature_text(described),
        described.supplied,
    )
    return plan.put(check_feature(new, others, plan.form)), name


def _refers(described: Described, face: str, plan: Plan) -> tuple[str, ...]:
    """The faces it is measured from: those said with a distance, and its own where it has a depth from it."""
    said = [at.face for at in described.places]
    depth = [face] if described.face and Role.DEPTH in described.sizes else []
    return tuple(one for one in dict.fromkeys(depth + said) if one in FACES[plan.form])


def _usual_face(described: Described, plan: Plan) -> str:
    """The face a kind lies on where the line need not say it.

    Raises:
        BadEntry: it has to be said.
    """
    if "on which face" in described.open:
        raise BadEntry(
            "Nobody said on which face it lies.", f"Add one to the line: {', '.join(FACES[plan.form])}."
        )
    if described.kind == "part off":
        return BAR
    return "outside" if plan.form == "turned" else "top"


def _name(described: Described, plan: Plan) -> str:
    """A name nothing else has: the kind, with its face or a number where there are more."""
    words = described.words if described.kind == "by hand" else described.kind
    base = f"{described.face} face" if described.kind == "face" and described.face else words[:30]
    taken = {feature.name.lower() for feature in plan.features} | set(FACES[plan.form])
    tried = [
        base,
        *([f"{base}, {described.face}"] if described.face else []),
        *(f"{base} {n}" for n in range(2, 400)),
    ]
    return next(name for name in tried if name.lower() not in taken)


def _dimensions(
    edit: SetFeatureLine,
    described: Described,
    name: str,
    was: Feature | None,
    plan: Plan,
    shop: PlanRegisters,
) -> tuple[Plan, int | None]:
    """Keep each size with limits, and each thread, as a dimension; return the plan and the number the feature carries.

    A dimension it carried follows the line, limits or none; what is known of it beside its size is kept.
    """
    carried = was.characteristic if was is not None else None
    main = MAIN_SIZE.get(described.kind)
    ordered = sorted(described.sizes, key=lambda role: role is not main)
    for role in ordered:
        size = described.sizes[role]
        first = role is main or carried is None
        named = called(described, name, role, plan)
        there = next((c for c in plan.characteristics if c.name.lower() == named.lower()), None)
        follows = role is main and (
            carried is not None or (there is not None and same_size(there.drawing, size))
        )
        if not size.has_limits and role is not Role.THREAD and not follows:
            continue
        kept = plan.characteristic(carried) if first and carried is not None else there
        if kept is None or not same_size(kept.drawing, size):
            if was is None and kept is not None:
                kept = None  # of the same name and another size: refused as one typed on Part would be
            plan = _sized(edit, named, size.text, kept, plan, shop)
        if first and carried is None:
            carried = kept.number if kept is not None else plan.characteristics[-1].number
    return _forms(edit, described, name, plan, shop), carried


def _forms(edit: SetFeatureLine, described: Described, name: str, plan: Plan, shop: PlanRegisters) -> Plan:
    """Keep each form and position as a dimension of its own, gauged as a value: bore perpendicular, holes position."""
    for size in described.geometry:
        named = f"{name} {size.name}"
        there = next((c for c in plan.characteristics if c.name.lower() == named.lower()), None)
        if there is None or not same_size(there.drawing, size):
            plan = _sized(edit, named, f"{size_text(size)} {size.note}".strip(), there, plan, shop)
    return plan


def _sized(
    edit: SetFeatureLine, named: str, text: str, kept: Characteristic | None, plan: Plan, shop: PlanRegisters
) -> Plan:
    """Add a dimension, or give the one there its new size."""
    keep = text if edit.keep.strip() == edit.line.strip() else ""
    if kept is None:
        return apply_edit(SetCharacteristic(named, text, keep=keep), plan, shop).plan
    others = tuple(c for c in plan.characteristics if c is not kept)
    size = read_characteristic(SetCharacteristic(kept.name, text, kept.grade, keep=keep), plan, others)
    return plan.put(as_machined(replace(kept, size=size, finished=None), plan.finishes))
