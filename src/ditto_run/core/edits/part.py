"""Changes to the head of a job and to its characteristics."""

from dataclasses import dataclass, fields, replace
from typing import Any, Literal

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.edits.following import followed
from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.part import Characteristic, Grade, Heading, check_heading, doubt_about_size
from ditto_run.core.part.characteristic import LimitsHold
from ditto_run.core.part.coated import as_machined
from ditto_run.core.part.features.kinds import WHOLE
from ditto_run.core.part.finish import Face
from ditto_run.core.plan import Changed, Plan
from ditto_run.core.sizes import Size, read_size
from ditto_run.core.units import counted

MOST_ROWS = 500
OF_THE_JOB = ("customer", "due", "waits_for", "purpose", "batches")  # said once for all parts made together


@dataclass(frozen=True, slots=True)
class SetHeading(Heading):
    """Change the head of the job."""

    kind: Literal["set_heading"] = "set_heading"


@dataclass(frozen=True, slots=True)
class SetCharacteristic:
    """Add a characteristic, or change the one of that number. `keep` holds a size we asked about."""

    name: str
    size: str
    grade: Grade = "functional"
    gauge_id: int | None = None
    why: str = ""
    setup: int | None = None
    number: int | None = None
    keep: str = ""
    made_in: int | None = None
    finish: int | None = None
    face: Face = "none"
    limits_hold: LimitsHold = "finished"
    mate: str = ""
    mate_at_hand: bool = False
    customer_words: str = ""
    agreed: str = ""
    also_in: int | None = None
    kind: Literal["set_characteristic"] = "set_characteristic"


@dataclass(frozen=True, slots=True)
class AddCharacteristics:
    """Add many at once, after they were rehearsed."""

    rows: tuple[SetCharacteristic, ...]
    kind: Literal["add_characteristics"] = "add_characteristics"


@dataclass(frozen=True, slots=True)
class RemoveCharacteristic:
    """Take a characteristic out."""

    number: int
    kind: Literal["remove_characteristic"] = "remove_characteristic"


@apply_edit.register
def _set_heading(edit: SetHeading, plan: Plan, _shop: PlanRegisters) -> Changed:
    typed: dict[str, Any] = {part.name: getattr(edit, part.name) for part in fields(Heading)}
    stripped: dict[str, Any] = {
        name: value.strip() if isinstance(value, str) else value for name, value in typed.items()
    }
    heading = check_heading(Heading(**stripped))
    changed = {
        name: getattr(heading, name)
        for name in OF_THE_JOB
        if getattr(heading, name) != getattr(plan.heading, name)
    }
    companions = plan.companions
    if changed:
        companions = tuple(
            replace(one, plan=replace(one.plan, heading=replace(one.plan.heading, **changed)))
            for one in companions
        )
    return Changed(replace(plan, heading=heading, companions=companions), "the job's head")


def read_characteristic(edit: SetCharacteristic, plan: Plan, others: tuple[Characteristic, ...]) -> Size:
    """Return the size of a characteristic to be.

    Args:
        edit: the characteristic as typed.
        plan: the plan it would belong to.
        others: the other characteristics of the plan.

    Raises:
        BadEntry: if its name is missing or taken, or its size cannot be read.
        NeedsAnswer: if the size is doubtful beside the others and was not said twice.
    """
    if not edit.name.strip():
        raise BadEntry("The dimension has no name.", "Type what the shop calls it, such as slot.", "name")
    if any(other.name.lower() == edit.name.strip().lower() for other in others):
        raise BadEntry(f"There is a dimension {edit.name.strip()} already.", "Choose another name.", "name")
    size = read_size(edit.size, plan.heading.unit)
    said = [
        size
        for one in plan.described
        if one.feature.kind in WHOLE.values()
        for size in one.feature.sizes.values()
    ]
    doubt = doubt_about_size(size, [*(other.drawing for other in others), *said], plan.heading.unit)
    if doubt is not None and edit.grade != "free" and edit.keep.strip() != edit.size.strip():
        raise doubt
    return size


@apply_edit.register
def _set_characteristic(edit: SetCharacteristic, plan: Plan, shop: PlanRegisters) -> Changed:
    others = tuple(c for c in plan.characteristics if c.number != edit.number)
    if edit.gauge_id is not None and edit.gauge_id not in shop.gauge_ids:
        raise NotFound("gauge", edit.gauge_id, "Choose one from Shop.")
    for named in (edit.setup, edit.made_in, edit.also_in):
        if named is not None:
            plan.setup(named)
    if edit.finish is not None:
        plan.finish(edit.finish)
    was = next((c for c in plan.characteristics if c.number == edit.number), None)
    size = read_characteristic(edit, plan, others)
    new = as_machined(
        Characteristic(
            plan.number_for(Characteristic, edit.number),
            edit.name.strip(),
            size,
            edit.grade,
            edit.gauge_id,
            edit.why.strip(),
            edit.setup,
            edit.made_in,
            edit.finish,
            edit.face,
            edit.limits_hold,
            None,
            edit.mate.strip(),
            edit.mate_at_hand,
            edit.customer_words.strip(),
            edit.agreed.strip(),
            was.every if was is not None else None,
            edit.also_in,
        ),
        plan.finishes,
    )
    plan = plan.put(new)
    if was is not None:
        plan = followed(plan, was, new)
    return Changed(plan, f"{'added' if edit.number is None else 'changed'} {new.drawn}")


@apply_edit.register
def _add_characteristics(edit: AddCharacteristics, plan: Plan, shop: PlanRegisters) -> Changed:
    if not 0 < len(edit.rows) <= MOST_ROWS:
        raise BadEntry(
            f"{counted(len(edit.rows), 'row')}; between 1 and {MOST_ROWS} can be added at once.",
            "Paste fewer.",
            "rows",
        )
    for row in edit.rows:
        plan = _set_characteristic(row, plan, shop).plan
    return Changed(plan, f"added {counted(len(edit.rows), 'dimension')}")


@apply_edit.register
def _remove_characteristic(edit: RemoveCharacteristic, plan: Plan, _shop: PlanRegisters) -> Changed:
    gone = plan.characteristic(edit.number)
    figures = tuple(figure for figure in plan.figures if figure.thing != f"size {gone.number}")
    return Changed(replace(plan.without(gone), figures=figures), f"removed {gone.name}")
