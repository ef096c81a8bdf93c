"""Class, gauge, setup and finish of many sizes at once."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal, get_args

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.part import Characteristic, Grade
from ditto_run.core.part.coated import as_machined
from ditto_run.core.part.finish import Face
from ditto_run.core.plan import Changed, Plan
from ditto_run.core.units import counted

GRADES: tuple[Grade, ...] = get_args(Grade)
FACES: tuple[Face, ...] = get_args(Face)


@dataclass(frozen=True, slots=True)
class AssignSizes:
    """Say of many sizes at once what they are gauged with, where, how much they matter and which finish is on them.

    Args:
        numbers: the sizes.
        grades, gauges, gauged_in, finishes, faces: of each, in the same order, as chosen; empty for none.
    """

    numbers: tuple[str, ...]
    grades: tuple[str, ...]
    gauges: tuple[str, ...] = ()
    gauged_in: tuple[str, ...] = ()
    finishes: tuple[str, ...] = ()
    faces: tuple[str, ...] = ()
    kind: Literal["assign_sizes"] = "assign_sizes"


@apply_edit.register
def _assign_sizes(edit: AssignSizes, plan: Plan, shop: PlanRegisters) -> Changed:
    changed = 0
    columns = {name: getattr(edit, name) for name in ("grades", "gauges", "gauged_in", "finishes", "faces")}
    for place, number in enumerate(edit.numbers):
        old = next((c for c in plan.characteristics if str(c.number) == number), None)
        if old is None:
            raise NotFound("size", number[:20], "Somebody took it out meanwhile; look at the list again.")
        row = {name: values[place] for name, values in columns.items() if place < len(values)}
        new = _assigned(old, row, plan, shop)
        changed += new != old
        plan = plan.put(new)
    if not changed:
        raise BadEntry("No size is changed.", "Choose another class, gauge, setup or finish first.", "grades")
    return Changed(plan, f"changed {counted(changed, 'size')}")


def _assigned(old: Characteristic, row: Mapping[str, str], plan: Plan, shop: PlanRegisters) -> Characteristic:
    grade = next((one for one in GRADES if one == row.get("grades", old.grade)), None)
    face = next((one for one in FACES if one == row.get("faces", old.face)), None)
    if grade is None or face is None:
        raise BadEntry(
            f"{old.name} cannot be so.", "Choose from the list.", "grades" if grade is None else "faces"
        )
    new = replace(
        old,
        grade=grade,
        face=face,
        gauge_id=_key(row, "gauges", old.gauge_id),
        setup=_key(row, "gauged_in", old.setup),
        finish=_key(row, "finishes", old.finish),
    )
    if new.gauge_id is not None and new.gauge_id not in shop.gauge_ids:
        raise NotFound("gauge", new.gauge_id, "Choose one from Shop.")
    if new.setup is not None:
        plan.setup(new.setup)
    if new.finish is not None:
        plan.finish(new.finish)
    return as_machined(replace(new, size=old.drawing, finished=None), plan.finishes)


def _key(row: Mapping[str, str], name: str, old: int | None) -> int | None:
    """The number that was chosen; none where none was, the old one where the column was not sent."""
    if name not in row:
        return old
    return int(row[name]) if row[name].isdigit() else None
