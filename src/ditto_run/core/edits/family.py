"""Siblings of a job: its plan under another name, with some sizes changed."""

from dataclasses import replace

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.edits.part import SetCharacteristic
from ditto_run.core.errors import BadEntry, DittoError
from ditto_run.core.part import Characteristic, check_heading
from ditto_run.core.part.family import Sibling
from ditto_run.core.plan import Plan
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sizes import Size, read_value
from ditto_run.core.units import to_base


def make_sibling(plan: Plan, sibling: Sibling, shop: PlanRegisters) -> Plan:
    """Return the plan of a sibling: same setups, tools and sheets, its own name, quantity and sizes.

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
        kit = tuple(replace(part, have=0) for part in plan.kit)
        made = replace(plan, heading=heading, order=None, kit=kit)
        for c in plan.characteristics:
            if c.name.lower() in sibling.sizes:
                made = apply_edit(_changed(c, sibling.sizes[c.name.lower()]), made, shop).plan
                made = _followed(made, c.drawing, made.characteristic(c.number).drawing)
    except DittoError as refusal:
        raise BadEntry(f"Line {sibling.row}: {refusal.problem}", refusal.remedy, "siblings") from None
    return made


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
