"""Siblings of a job: its plan under another name, with some sizes changed."""

from dataclasses import replace

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.edits.feature_lines import SetFeatureLine
from ditto_run.core.edits.following import line_with, sizes_said
from ditto_run.core.edits.part import SetCharacteristic
from ditto_run.core.edits.together import alone
from ditto_run.core.errors import BadEntry, DittoError
from ditto_run.core.part import Characteristic, Heading, check_heading
from ditto_run.core.part.family import Sibling
from ditto_run.core.part.kit import uncounted
from ditto_run.core.plan import Plan
from ditto_run.core.plan.ways import PLANNED
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sizes import Size, read_size, read_value
from ditto_run.core.units import to_base


def make_sibling(plan: Plan, sibling: Sibling, shop: PlanRegisters) -> Plan:
    """Return the plan of a sibling of the part in front: same setups, tools and sheets, its own name, quantity and sizes.

    Args:
        plan: the plan it is made from.
        sibling: what differs.
        shop: registers the plan may name.

    Raises:
        BadEntry: if a size cannot be read; the line is named.
    """
    family = plan.heading.family or plan.heading.part
    try:
        heading = check_heading(
            replace(
                plan.heading, part=sibling.name, quantity=sibling.quantity, family=family, due=None, heat=""
            )
        )
        # Its material is not ordered yet, and what lies at hand is counted once, for the other.
        made = replace(alone(plan), heading=heading, order=None, kit=uncounted(plan.kit))
        dimensions = {c.name.lower(): c for c in plan.characteristics}
        for name, text in sibling.sizes.items():
            c = dimensions.get(name)
            if c is not None:
                made = apply_edit(_changed(c, text), made, shop).plan
                old, new = c.drawing, made.characteristic(c.number).drawing
            else:  # a size of a feature that has no limits
                feature, role, old = sizes_said(made)[name]
                new = read_size(text, plan.heading.unit)
                line = line_with(made, feature, role, new)
                made = apply_edit(SetFeatureLine(line, feature.key, keep=line), made, shop).plan
            made = _followed(made, old, new)
    except DittoError as refusal:
        raise BadEntry(f"Line {sibling.row}: {refusal.problem}", refusal.remedy, "siblings") from None
    return made


def plan_like(plan: Plan, heading: Heading) -> Plan:
    """Return the plan of a new job that begins with all that is planned for another, under its own head.

    Args:
        plan: of the other job; the part in front of it.
        heading: of the new job. Its material and customer are the other's where they are empty, its unit is the other's.

    Raises:
        BadEntry: if the head cannot be used.
    """
    old = plan.heading
    head = check_heading(
        replace(
            heading,
            unit=old.unit,
            material=heading.material or old.material,
            customer=heading.customer or old.customer,
            **{name: getattr(old, name) for name in ("gauge_every", "holds_pressure", "lifts", "spins")},
        )
    )
    # What was bought, chosen for another number of pieces, or let stand with a note was so for the other job; what
    # Method filled from the plan is filled anew, for the shop may have learnt since.
    return replace(
        alone(plan),
        heading=head,
        order=None,
        choice=None,
        ways=tuple(way for way in plan.ways if way.kind != PLANNED),
        overrides=(),
        kit=uncounted(plan.kit),
        stock=tuple(replace(size, measured="") for size in plan.stock),
    )


def sibling_sizes(plan: Plan) -> list[str]:
    """Return the names of the sizes a sibling may change: every dimension, and every size that a feature's line says."""
    names = [c.name for c in plan.characteristics]
    taken = {name.lower() for name in names}
    return [*names, *(name for name in sizes_said(plan) if name not in taken)]


def _followed(plan: Plan, old: Size, new: Size) -> Plan:
    """Return a plan whose kept sheets follow a changed size: an entry that said the old one says the new one."""
    unit = plan.heading.unit

    def follow(kind: str, name: str, text: str) -> str:
        entry = next((entry for entry in sheet_of(kind).entries if entry.name == name), None)
        if entry is None or not entry.length:
            return text
        try:
            value, _, typed = read_value(text, unit)
        except DittoError:
            return text
        same = to_base(value, typed) == old.nominal_base
        return f"{new.nominal:f} {new.unit}" if same and new.unit != "arcsec" else text

    sheets = tuple(
        replace(sheet, texts={name: follow(sheet.kind, name, text) for name, text in sheet.texts.items()})
        for sheet in plan.sheets
    )
    return replace(plan, sheets=sheets)


def _changed(c: Characteristic, size: str) -> SetCharacteristic:
    return SetCharacteristic(
        c.name,
        size,
        c.grade,
        c.gauge_id,
        c.why,
        c.setup,
        c.number,
        size,
        c.made_in,
        c.finish,
        c.face,
        c.limits_hold,
        c.mate,
        c.mate_at_hand,
        c.customer_words,
        c.agreed,
        c.also_in,
    )
