"""Siblings of a job: its plan under another name, with some sizes changed."""

from dataclasses import replace

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.edits.part import SetCharacteristic
from ditto_run.core.errors import BadEntry, DittoError
from ditto_run.core.part import Characteristic, check_heading
from ditto_run.core.part.family import Sibling
from ditto_run.core.plan import Plan


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
            replace(plan.heading, part=sibling.name, quantity=sibling.quantity, family=family, due=None)
        )
        made = replace(plan, heading=heading, choice=None)
        for c in plan.characteristics:
            if c.name.lower() in sibling.sizes:
                made = apply_edit(_changed(c, sibling.sizes[c.name.lower()]), made, shop).plan
    except DittoError as refusal:
        raise BadEntry(f"Line {sibling.row}: {refusal.problem}", refusal.remedy, "siblings") from None
    return made


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
    )
