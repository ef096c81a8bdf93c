"""Changes to what is made together: further parts of a job, and cycles that cut several setups with one press of start."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Any, Literal

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.errors import BadEntry, NotFound, NotNow
from ditto_run.core.part.heading import check_heading
from ditto_run.core.place import Station, check_station
from ditto_run.core.plan import Changed, Plan
from ditto_run.core.plan.cycles import CycleHead
from ditto_run.core.plan.document import FIRST_PART, PartPlan
from ditto_run.core.sheet_kinds import sheet_of

MOST_PARTS = 8
MOST_CYCLES = 40
LONGEST = 40


@dataclass(frozen=True, slots=True)
class AddPart:
    """Add a part that is made together with this one. `like` begins with this one's plan, else with an empty one."""

    name: str
    quantity: int
    like: bool = False
    kind: Literal["add_part"] = "add_part"


@dataclass(frozen=True, slots=True)
class RemovePart:
    """Take a part out, with all that is planned for it."""

    part: int
    kind: Literal["remove_part"] = "remove_part"


@dataclass(frozen=True, slots=True)
class SetCycle:
    """Cut stations of several setups, or some stations of one, with one press of start.

    Args:
        name: what the shop calls it.
        seats: the stations, each the key of its setup and its label: 3:A.
        machine_id: the machine; None for that of the setups.
        key: of the cycle to change.
    """

    name: str
    seats: tuple[str, ...] = ()
    machine_id: int | None = None
    key: int | None = None
    kind: Literal["set_cycle"] = "set_cycle"


@dataclass(frozen=True, slots=True)
class RemoveCycle:
    """Take a cycle apart: each setup is cut alone again."""

    key: int
    kind: Literal["remove_cycle"] = "remove_cycle"


@apply_edit.register
def _add_part(edit: AddPart, plan: Plan, _shop: PlanRegisters) -> Changed:
    name = edit.name.strip()
    parts = plan.all_parts
    if any(one.plan.heading.part.lower() == name.lower() for one in parts):
        raise BadEntry(
            f"There is a part {name} already.", "Choose another name, such as the other hand.", "name"
        )
    if len(parts) >= MOST_PARTS:
        raise NotNow(f"A job holds {MOST_PARTS} parts at most.", "Make the others another job.")
    key = max(one.key for one in parts) + 1
    heading = replace(plan.heading, part=name, quantity=edit.quantity, family="")
    if not name:
        raise BadEntry(
            "The part has no name.", "Type what the shop calls it, such as bracket, right.", "name"
        )
    new, number = Plan(check_heading(heading)), plan.next_number
    if edit.like:
        new = renumbered(replace(plan.front, overrides=(), heading=heading), number - 1)
        number += plan.next_number - 1
    companions = (*plan.companions, PartPlan(key, replace(new, part=key)))
    return Changed(replace(plan, companions=companions, next_number=number), f"added part {name}")


@apply_edit.register
def _remove_part(edit: RemovePart, plan: Plan, _shop: PlanRegisters) -> Changed:
    gone = next((one for one in plan.companions if one.key == edit.part), None)
    if gone is None and edit.part != plan.part:
        raise NotFound("part", edit.part, "Choose one of the parts of this job.")
    if gone is None or edit.part == FIRST_PART:
        raise NotNow("The part the job began with stays.", "Rename it, or take the others out.")
    kept = tuple(one for one in plan.companions if one.key != edit.part)
    return Changed(replace(plan, companions=kept), f"removed part {gone.plan.heading.part}")


@apply_edit.register
def _set_cycle(edit: SetCycle, plan: Plan, shop: PlanRegisters) -> Changed:
    name = edit.name.strip()[:LONGEST]
    key = plan.number_for(CycleHead, edit.key)
    if not name:
        raise BadEntry(
            "The cycle has no name.", "Type what the shop calls it, such as both brackets.", "name"
        )
    if any(head.name.lower() == name.lower() and head.key != key for head in plan.cycles):
        raise BadEntry(f"There is a cycle {name} already.", "Choose another name.", "name")
    if len(plan.cycles) >= MOST_CYCLES:
        raise NotNow(f"A job holds {MOST_CYCLES} cycles at most.", "Take one apart first.")
    if edit.machine_id is not None and edit.machine_id not in shop.machines:
        raise NotFound("machine", edit.machine_id, "Choose one from Shop.")
    wanted = _wanted(edit, plan)
    machine = shop.machines.get(_machine_of(edit, plan, wanted) or 0)
    together: list[Station] = []
    for station in wanted.values():
        together.append(check_station(station, together, machine))

    def put(station: Station) -> Station:
        if f"{station.setup}:{station.label}" in wanted:
            return replace(station, cycle=key)
        return replace(station, cycle=0) if station.cycle == key else station

    changed = on_every_station(plan.put(CycleHead(key, name, edit.machine_id)), put)
    return Changed(changed, f"{'changed' if edit.key else 'added'} cycle {name}")


def _wanted(edit: SetCycle, plan: Plan) -> dict[str, Station]:
    """The stations that are to be cut together, in the order of the plan."""
    there = {f"{s.setup}:{s.label}": s for one in plan.all_parts for s in one.plan.stations}
    unknown = sorted(set(edit.seats) - set(there))
    if unknown or not edit.seats:
        what = f"There is no station {unknown[0][:20]}." if unknown else "No station is chosen for it."
        raise BadEntry(what, "Choose the stations that one press of start cuts.", "seats")
    return {seat: station for seat, station in there.items() if seat in edit.seats}


def _machine_of(edit: SetCycle, plan: Plan, wanted: Mapping[str, Station]) -> int | None:
    machines = {plan.setup(station.setup).machine_id for station in wanted.values()} - {None}
    if edit.machine_id is None and len(machines) > 1:
        raise BadEntry(
            "Its setups are on different machines.",
            "Choose the machine that cuts them together.",
            "machine_id",
        )
    return edit.machine_id or next(iter(machines), None)


@apply_edit.register
def _remove_cycle(edit: RemoveCycle, plan: Plan, _shop: PlanRegisters) -> Changed:
    gone = plan.find(CycleHead, edit.key)
    changed = on_every_station(
        plan.without(gone), lambda s: replace(s, cycle=0) if s.cycle == gone.key else s
    )
    changed = changed.without_order(gone.key)
    return Changed(changed, f"took cycle {gone.name} apart")


def on_every_station(plan: Plan, change: Callable[[Station], Station]) -> Plan:
    """Return the job with every station of every part changed."""
    companions = tuple(
        replace(one, plan=replace(one.plan, stations=tuple(map(change, one.plan.stations))))
        for one in plan.companions
    )
    return replace(plan, stations=tuple(map(change, plan.stations)), companions=companions)


def alone(plan: Plan) -> Plan:
    """Return the part in front as a job of its own; a job of one part as it is."""
    if not plan.companions:
        return plan
    found = renumbered(plan.front, 0)
    return replace(found, part=FIRST_PART, kit=plan.kit)


def renumbered(plan: Plan, by: int) -> Plan:
    """Return a plan whose every number is higher by so many, so that it can stand beside another one.

    Args:
        plan: of one part.
        by: how many.
    """

    def at(key: int | None) -> int | None:
        return None if key is None else key + by

    def moved(thing: Any, **more: Any) -> Any:  # noqa: ANN401 - anything a plan lists
        return replace(thing, key=thing.key + by, **more)

    return replace(
        plan,
        next_number=plan.next_number + by,
        characteristics=tuple(
            replace(
                c,
                number=c.number + by,
                setup=at(c.setup),
                made_in=at(c.made_in),
                also_in=at(c.also_in),
                finish=at(c.finish),
            )
            for c in plan.characteristics
        ),
        features=tuple(moved(f, characteristic=at(f.characteristic)) for f in plan.features),
        setups=tuple(moved(s, cuts=tuple(key + by for key in s.cuts)) for s in plan.setups),
        stations=tuple(
            replace(s, setup=s.setup + by, placed=s.placed + by if s.placed else 0, cycle=0)
            for s in plan.stations
        ),
        tool_steps=tuple(
            moved(s, setup=s.setup + by, makes=tuple(key + by for key in s.makes)) for s in plan.tool_steps
        ),
        placed=tuple(moved(p, setup=p.setup + by, cycle=0) for p in plan.placed),
        layouts=tuple(replace(layout, setup=layout.setup + by) for layout in plan.layouts),
        finishes=tuple(moved(f) for f in plan.finishes),
        stock=tuple(moved(s) for s in plan.stock),
        figures=tuple(replace(f, thing=_thing_moved(f.thing, by)) for f in plan.figures),
        kit=(),
        ways=tuple(moved(w) for w in plan.ways),
        choice=None if plan.choice is None else replace(plan.choice, way=plan.choice.way + by),
        order=None,
        sheets=tuple(
            moved(s, setup=at(s.setup), texts=_stock_moved(s.kind, s.texts, by)) for s in plan.sheets
        ),
    )


def _thing_moved(thing: str, by: int) -> str:
    """The thing a figure is about, with its key moved along."""
    what, _, key = thing.rpartition(" ")
    return f"{what} {int(key) + by}" if what else thing


def _stock_moved(kind: str, texts: Mapping[str, str], by: int) -> dict[str, str]:
    """The texts of a sheet with the keys of measured stock moved along."""
    stock = {entry.name for entry in sheet_of(kind).entries if entry.kind == "stock"}
    return {
        name: str(int(text) + by) if name in stock and text.isdigit() else text
        for name, text in texts.items()
    }
