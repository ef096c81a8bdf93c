"""Changes to the layout: what a setup is checked with, and holders placed, moved, turned, copied, lined up."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from itertools import product
from string import ascii_uppercase
from typing import Literal

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.place import Layout, Placed, Station, check_station
from ditto_run.core.place.fill import free_spots, snapped
from ditto_run.core.plan import Changed, Plan
from ditto_run.core.plan.cycles import chosen_cycle
from ditto_run.core.sheets import Entries
from ditto_run.core.shop import Bed, Machine
from ditto_run.core.units import length_text

ZERO, FULL_TURN = Decimal(0), 360
CLAMPS = {"toe clamps", "side clamps"}  # they hold what stands elsewhere: no station of their own
MOST_PLACED, MOST_COPIES, MOST_STATIONS = 60, 40, 600
FARTHEST_MM = Decimal(100_000)


@dataclass(frozen=True, slots=True)
class SetLayout:
    """Say what a setup's layout is checked with. Lengths are as typed; empty is not known."""

    setup: int
    piece_x: str = ""
    piece_y: str = ""
    piece_z: str = ""
    side_by_side: str = "1"
    how: Literal["centred", "packed"] = "centred"
    gap: str = ""
    cutter: str = ""
    longest: str = ""
    shortest: str = ""
    clear: str = "5 mm"
    kind: Literal["set_layout"] = "set_layout"


@dataclass(frozen=True, slots=True)
class PlaceHolder:
    """Place a holder of the register; without a place it takes the first free one, `count` of them one beside the other.

    `cycle` says on which machine, where its setup is cut on several.
    """

    setup: int
    holder: str
    left: str = ""
    front: str = ""
    turn: str = "0"
    count: str = "1"
    gap: str = ""
    cycle: int = 0
    kind: Literal["place_holder"] = "place_holder"


@dataclass(frozen=True, slots=True)
class MovePlaced:
    """Move a placed holder: by its left and front edge and turn, each as typed; empty stays as it is."""

    key: int
    left: str = ""
    front: str = ""
    turn: str = ""
    snap: bool = False
    kind: Literal["move_placed"] = "move_placed"


@dataclass(frozen=True, slots=True)
class ChangePlaced:
    """Turn a placed holder by a quarter, mirror it, take its handle off or put it on, let it stay or clear it away."""

    key: int
    change: Literal["turn", "mirror", "handle", "stays"]
    kind: Literal["change_placed"] = "change_placed"


@dataclass(frozen=True, slots=True)
class CopyPlaced:
    """Copy a placed holder with its stations to the right of it, or to the first free place."""

    key: int
    times: str = "1"
    gap: str = ""
    kind: Literal["copy_placed"] = "copy_placed"


@dataclass(frozen=True, slots=True)
class RemovePlaced:
    """Take a placed holder off the table, with its stations."""

    key: int
    kind: Literal["remove_placed"] = "remove_placed"


@apply_edit.register
def _set_layout(edit: SetLayout, plan: Plan, _shop: PlanRegisters) -> Changed:
    setup = plan.setup(edit.setup)
    entries = Entries(
        {
            "piece_x": edit.piece_x,
            "piece_y": edit.piece_y,
            "piece_z": edit.piece_z,
            "side_by_side": edit.side_by_side,
            "gap": edit.gap,
            "cutter": edit.cutter,
            "longest": edit.longest,
            "shortest": edit.shortest,
            "clear": edit.clear,
        },
        plan.heading.unit,
        {
            "piece_x": "Piece, X",
            "piece_y": "Piece, Y",
            "piece_z": "Piece, Z",
            "side_by_side": "Pieces side by side",
        },
    )
    piece = None
    if any(entries.has(f"piece_{axis}") for axis in "xyz"):
        piece = (entries.mm("piece_x", "60"), entries.mm("piece_y", "40"), entries.mm("piece_z", "32"))
    longest, shortest = entries.maybe_mm("longest"), entries.maybe_mm("shortest")
    if longest is not None and shortest is not None and shortest > longest:
        raise BadEntry("The shortest tool is longer than the longest.", "Swap them.", "shortest")
    new = Layout(
        setup.key,
        piece,
        entries.whole("side_by_side", 1, 20, 1),
        edit.how,
        entries.maybe_mm("gap", above=False) or ZERO,
        entries.maybe_mm("cutter", above=False) or ZERO,
        longest,
        shortest,
        entries.maybe_mm("clear", above=False) or ZERO,
    )
    changed = _with_layout(plan, new)
    stations = tuple(
        replace(s, pieces=new.pieces) if s.setup == setup.key and _has_jaws(changed, s) else s
        for s in changed.stations
    )
    return Changed(replace(changed, stations=stations), f"layout of {setup.name}")


def _has_jaws(plan: Plan, station: Station) -> bool:
    return bool(station.placed) and plan.holder(station.placed).body.jaw_mm is not None


def _with_layout(plan: Plan, new: Layout) -> Plan:
    return replace(plan, layouts=(*(old for old in plan.layouts if old.setup != new.setup), new))


@apply_edit.register
def _place_holder(edit: PlaceHolder, plan: Plan, shop: PlanRegisters) -> Changed:
    machine, _ = _table(plan, shop, edit.setup, edit.cycle)
    holder = shop.holders.get(edit.holder)
    if holder is None:
        raise BadEntry(
            f"The shop has no holder “{edit.holder[:40]}”.", "Choose one of the register on Shop.", "holder"
        )
    if holder.body is None:
        raise BadEntry(
            f"{holder.name} has no footprint yet.",
            "Type its sizes on Shop, Holders, under On the table.",
            "holder",
        )
    entries = _entries(edit, plan)
    new = Placed(
        plan.number_for(Placed, None),
        edit.setup,
        holder.name,
        holder.body,
        ZERO,
        ZERO,
        _turn(entries.text("turn", "0")),
        cycle=edit.cycle if plan.is_declared(edit.cycle) else 0,
    )
    wanted, gap = entries.whole("count", 1, MOST_COPIES, 1), entries.maybe_mm("gap", above=False)
    seats = holder.kind not in CLAMPS
    if entries.has("left") or entries.has("front"):
        new = at_edges(new, _edge(entries, "left"), _edge(entries, "front"))
        plan = _add(plan, new, machine, seats=seats)
        wanted -= 1
    plan = _add_many(plan, new, wanted, gap, machine, seats=seats)
    return Changed(plan, f"placed {holder.name}")


@apply_edit.register
def _move_placed(edit: MovePlaced, plan: Plan, shop: PlanRegisters) -> Changed:
    old = plan.holder(edit.key)
    _, bed = _table(plan, shop, old.setup, plan.cycle_of_placed(old))
    entries = _entries(edit, plan)
    new = replace(old, turn=_turn(edit.turn)) if edit.turn.strip() else old
    # An edge that is not typed stays where it was, even where the turn changes how far the holder reaches.
    left = _edge(entries, "left") if entries.has("left") else old.left_mm
    front = _edge(entries, "front") if entries.has("front") else old.front_mm
    new = at_edges(new, left, front)
    if edit.snap:
        new = snapped(new, bed)
    return Changed(swapped(plan, new), f"moved {_name(plan, new)} to {_spot(plan, new)}")


@apply_edit.register
def _change_placed(edit: ChangePlaced, plan: Plan, shop: PlanRegisters) -> Changed:
    old = plan.holder(edit.key)
    _table(plan, shop, old.setup, plan.cycle_of_placed(old))
    if edit.change == "turn":
        new, did = replace(old, turn=(old.turn + 90) % FULL_TURN), "turned"
    elif edit.change == "mirror":
        new, did = replace(old, mirrored=not old.mirrored), "mirrored"
    elif edit.change == "handle":
        new, did = (
            replace(old, handle_off=not old.handle_off),
            "put the handle on" if old.handle_off else "took the handle off",
        )
    else:
        new, did = replace(old, stays=not old.stays), "let clear away" if old.stays else "let stay"
    return Changed(swapped(plan, new), f"{did} {_name(plan, new)}")


@apply_edit.register
def _copy_placed(edit: CopyPlaced, plan: Plan, shop: PlanRegisters) -> Changed:
    old = plan.holder(edit.key)
    old = replace(old, cycle=plan.cycle_of_placed(old))
    machine, _ = _table(plan, shop, old.setup, old.cycle)
    entries = _entries(edit, plan)
    times = entries.whole("times", 1, MOST_COPIES, 1)
    seats = bool(plan.stations_in(old.key))
    plan = _add_many(plan, old, times, entries.maybe_mm("gap", above=False), machine, seats=seats)
    return Changed(plan, f"copied {old.holder}")


@apply_edit.register
def _remove_placed(edit: RemovePlaced, plan: Plan, _shop: PlanRegisters) -> Changed:
    gone = plan.holder(edit.key)
    kept = replace(
        plan.without(gone),
        stations=tuple(s for s in plan.stations if s.placed != gone.key),
    )
    return Changed(kept, f"took {_name(plan, gone)} off the table")


def _table(plan: Plan, shop: PlanRegisters, setup_key: int, cycle_key: int) -> tuple[Machine, Bed]:
    cycle = chosen_cycle(plan.cycles_of(plan.setup(setup_key).key), cycle_key)
    machine = shop.machines.get(cycle.machine_id or 0) if cycle else None
    if machine is None:
        raise NotNow("This setup has no machine yet.", "Choose its machine on Hold.")
    if machine.bed is None:
        raise NotNow(
            f"The table of {machine.name} is not measured yet.",
            "Type its size, slots and reach on Shop, under Table.",
        )
    return machine, machine.bed


LABELS = {"left": "Left edge", "front": "Front edge", "count": "How many", "times": "How many", "gap": "Gap"}


def _entries(edit: object, plan: Plan) -> Entries:
    names = ("left", "front", "turn", "count", "times", "gap")
    return Entries({name: str(getattr(edit, name, "")) for name in names}, plan.heading.unit, LABELS)


def _edge(entries: Entries, name: str) -> Decimal:
    return entries.mm(name, "120", least=-FARTHEST_MM)


def _turn(text: str) -> Decimal:
    entries = Entries({"turn": text.replace("°", "")}, "mm", {"turn": "Turned by"})
    return entries.turn("turn", -FULL_TURN, FULL_TURN, 0) % FULL_TURN


def at_edges(placed: Placed, left: Decimal, front: Decimal) -> Placed:
    """Return a holder moved so that its left and front edges are there, [mm]."""
    return replace(
        placed, x_mm=placed.x_mm + left - placed.left_mm, y_mm=placed.y_mm + front - placed.front_mm
    )


def swapped(plan: Plan, new: Placed) -> Plan:
    """Put a changed holder in its own place, and give its nests the shifts that follow."""
    stations = tuple(_with_shift(s, new) if s.placed == new.key else s for s in plan.stations)
    return replace(plan.put(new), stations=stations)


def _with_shift(station: Station, placed: Placed) -> Station:
    if station.nest >= len(placed.body.nests):
        return station
    x, y = placed.shift_mm(station.nest)
    return replace(station, shift=(x, y, ZERO), unit="mm")


def _add_many(
    plan: Plan, like: Placed, wanted: int, gap: Decimal | None, machine: Machine, *, seats: bool
) -> Plan:
    bed = machine.bed
    if not wanted or bed is None:
        return plan
    others = plan.on_table(like.setup, like.cycle)
    spots = free_spots(like, others, bed, wanted, gap, plan.layout(like.setup))
    if len(spots) < wanted:
        room = "No place is free" if not spots else f"Only {len(spots)} more fit"
        raise BadEntry(
            f"{room} on the table for {like.holder}.",
            "Place fewer, move what is there, or turn it.",
            "count",
        )
    for x, y in spots:
        plan = _add(
            plan, replace(like, key=plan.number_for(Placed, None), x_mm=x, y_mm=y), machine, seats=seats
        )
    return plan


def _add(plan: Plan, placed: Placed, machine: Machine, *, seats: bool) -> Plan:
    """Add a holder with a station for its jaws, or one for each nest on a common offset."""
    if len(plan.placed) >= MOST_PLACED or len(plan.stations) + len(placed.body.nests) > MOST_STATIONS:
        raise NotNow(
            "A job holds 60 placed holders and 600 stations at most.", "Take some off the table first."
        )
    if not seats:
        return plan.put(placed)
    mine = plan.stations_of(placed.setup)
    nests = placed.body.nests
    pieces = plan.layout(placed.setup).pieces if placed.body.jaw_mm is not None else 1
    code = _free_code(plan, machine)
    base = Station(
        placed.setup,
        _free_label(_labelled(plan, placed.setup), many=bool(nests)),
        placed.holder[:40],
        code,
        placed=placed.key,
        pieces=pieces,
        cycle=placed.cycle,
    )
    added = [
        _with_shift(replace(base, label=f"{base.label}{n + 1}", nest=n), placed) for n in range(len(nests))
    ] or [base]
    stations = [*mine]
    for station in added:
        if code is None:
            station = replace(station, shift=(ZERO, ZERO, ZERO))  # noqa: PLW2901 - without an offset nothing is shifted
        if len(nests) <= 1:
            check_station(station, [s for s in stations if s.cycle == station.cycle], machine)
        stations.append(station)
    return replace(plan.put(placed), stations=(*plan.stations, *stations[len(mine) :]))


def next_place(plan: Plan, setup_key: int, machine: Machine | None) -> tuple[str, str]:
    """Return the label and the code that the next station of a setup would take; an empty code for none."""
    code = _free_code(plan, machine) if machine else None
    return _free_label(_labelled(plan, setup_key), many=False), code or ""


def _labelled(plan: Plan, setup_key: int) -> Sequence[Station]:
    """The stations whose labels a new one of a setup does not take: all of the job where several setups may be cut together."""
    if plan.companions or plan.cycles:
        return [station for one in plan.all_parts for station in one.plan.stations]
    return plan.stations_of(setup_key)


def _free_label(stations: Sequence[Station], *, many: bool) -> str:
    taken = {station.label for station in stations}
    firsts = {station.label[0] for station in stations}
    start = ascii_uppercase.index("P") if many else 0
    letters = ascii_uppercase[start:] + ascii_uppercase[:start]
    return next(
        (letter for letter in letters if letter not in taken and (letter not in firsts or not many)),
        next(a + b for a, b in product(ascii_uppercase, repeat=2) if a + b not in taken),
    )


def _free_code(plan: Plan, machine: Machine) -> str | None:
    """Return the first code of the machine that no other station on the same machine uses; None if there is none."""
    elsewhere = {
        (station.setup, station.label)
        for cycle in plan.all_cycles
        for station in cycle.stations
        if cycle.machine_id != machine.id
    }
    stations = [station for one in plan.all_parts for station in one.plan.stations]
    taken = {s.offset for s in stations if (s.setup, s.label) not in elsewhere}
    return next((code for code in machine.offset_codes if code not in taken), None)


def _name(plan: Plan, placed: Placed) -> str:
    labels = [station.label for station in plan.stations_in(placed.key)]
    return f"{placed.holder} {labels[0]}" if labels else placed.holder


def _spot(plan: Plan, placed: Placed) -> str:
    unit = plan.heading.unit
    return f"X {length_text(placed.left_mm, unit, 2)}, Y {length_text(placed.front_mm, unit, 2)}"
