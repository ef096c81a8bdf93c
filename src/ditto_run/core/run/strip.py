"""The ditto strip as values: which mark stands where. Drawing it is somebody else's business."""

from collections.abc import Iterable
from dataclasses import dataclass, field
from itertools import pairwise
from math import ceil
from typing import Literal

from ditto_run.core.part import Characteristic
from ditto_run.core.run.loads import loads_behind, loads_to_go, still_to_pass, to_go
from ditto_run.core.run.state import CycleRun, Gauging, Load, Piece, RunChange, RunState
from ditto_run.core.run.verdict import is_quiet, slip
from ditto_run.core.run.where import are_unlike
from ditto_run.core.run.words import mark_words

Shape = Literal[
    "master", "ditto", "slip", "dash", "cutting", "come", "scrap", "reworked", "trial", "spare", "lost"
]
ALL_SHOWN = 74  # columns that still take a mark each, at 12 px, in the narrower window
WINDOW = 20  # columns shown with all their detail in a longer run
CHUNK = 48  # loads in one piece of the weave that is redrawn at a time


Spot = tuple[str, int]  # lane and load


@dataclass(frozen=True, slots=True)
class Mark:
    """One piece on the strip.

    Args:
        piece: its number; 0 to come.
        shape: which shape code.
        slip: where its worst dimension stands, ±1 at the limits. [-]
        digit: number of that dimension, 0 if it repeats the master.
        held: True if it is held.
        due: True if it is to be gauged next.
        name: the same in words.
    """

    piece: int
    shape: Shape
    slip: float = 0.0
    digit: int = 0
    held: bool = False
    due: bool = False
    name: str = ""


@dataclass(frozen=True, slots=True)
class Notch:
    """Something that happened before a load: a notch in these lanes, or a break line through all."""

    load: int
    kind: Literal["notch", "break"]
    lanes: tuple[str, ...]
    words: str


@dataclass(frozen=True, slots=True)
class Strip:
    """A part of the strip.

    Args:
        lanes: lane names: station, and place in it where it takes several.
        loads: load numbers of the columns.
        marks: (lane, load) to mark.
        changes: notches and breaks before these loads.
        first: first load of the whole strip, 1.
        last: last load that is planned.
        words: what the picture shows, in one sentence.
        sides: lane to its part and its setup, where the stations of the cycle are unlike; the part empty where a job has one.
        goes_on: where a piece goes on to its next side: from a lane and load to a lane and load.
    """

    lanes: tuple[str, ...]
    loads: tuple[int, ...]
    marks: dict[tuple[str, int], Mark]
    changes: tuple[Notch, ...]
    last: int
    words: str
    sides: dict[str, tuple[str, str]] = field(default_factory=dict)
    goes_on: tuple[tuple[Spot, Spot], ...] = ()

    @property
    def whole(self) -> bool:
        """True if every load is shown."""
        return len(self.loads) == self.last


def lane_name(run: CycleRun, station: str, place: int) -> str:
    """Return the name of a lane: the station's label, and the place in it where it takes several pieces."""
    return f"{station}{place}" if run.places.get(station, 1) > 1 else station


def lanes_of(run: CycleRun) -> dict[str, str]:
    """Return the lanes in order, each with its station."""
    return {
        lane_name(run, label, place): label
        for label, room in run.places.items()
        for place in range(1, room + 1)
    }


def worst(state: RunState, piece: Piece, setup: int) -> tuple[Characteristic, Gauging, float] | None:
    """Return a piece's worst gauged dimension with where it stands, or None if nothing is gauged."""
    found: tuple[Characteristic, Gauging, float] | None = None
    run = state.run_of(piece, setup)
    for characteristic in state.plan_of(piece, setup).owner_of(setup).characteristics:
        gauging = piece.last(setup, characteristic.number)
        if gauging is None or gauging.rough or (characteristic.grade == "free" and found is not None):
            continue
        if gauging.value is None:
            slipped = 0.0 if gauging.inside else 1.01
        elif characteristic.grade == "free":
            slipped = 0.0
        else:
            slipped = slip(gauging.value, state.middle_line(characteristic, setup, run), characteristic.size)
        if found is None or abs(slipped) > abs(found[2]):
            found = (characteristic, gauging, slipped)
    return found


def mark_of(state: RunState, piece: Piece, setup: int, *, due: bool = False) -> Mark:
    """Return the mark of a piece that is made or being cut in a setup."""
    found = worst(state, piece, setup)
    name = mark_words(state, piece, setup, found)
    held = piece.standing in {"held", "rework"}
    run = state.run_of(piece, setup)
    shape: Shape
    if piece.standing == "cutting":
        shape = "cutting"
    elif piece.standing in {"scrap", "trial", "spare", "lost", "reworked"}:
        shape = piece.standing
    elif run.masters.get(setup) == piece.number:
        shape = "master"
    elif found is None:
        shape = "dash"
    else:
        characteristic, gauging, slipped = found
        quiet = gauging.inside and (
            gauging.value is None
            or not slipped
            or is_quiet(gauging.value, state.middle_line(characteristic, setup, run), characteristic.size)
        )
        shape = "ditto" if quiet else "slip"
    digit = found[0].number if found is not None and shape == "slip" else 0
    return Mark(piece.number, shape, found[2] if found else 0.0, digit, held, due, name)


def frame(state: RunState, first: int | None = None) -> tuple[tuple[str, ...], range, int, int]:
    """Return what the strip is drawn in: its lanes, the loads shown, the last load begun, the last planned."""
    run = state.here
    made = run.loads[-1].number if run.loads else 0
    last = made + ceil(loads_to_go(state))
    shown = range(1, last + 1)
    if last > ALL_SHOWN:
        start = max(1, min(first if first is not None else made - WINDOW + 4, last - WINDOW + 1))
        shown = range(start, min(start + WINDOW, last + 1))
    return tuple(lanes_of(run)), shown, made, last


def build(state: RunState, due: Iterable[int] = (), first: int | None = None) -> Strip:
    """Return the strip of the setup being run, whole or as a window.

    Args:
        state: the run.
        due: pieces to be gauged next; the first of them gets the brass corners.
        first: first load of the window in a long run; None shows the newest.

    Returns:
        The strip. Its cost depends on the columns shown, not on the length of the run.
    """
    run = state.here
    lanes, shown, made, last = frame(state, first)
    next_due = next(iter(due), 0)
    marks: dict[tuple[str, int], Mark] = {}
    for load in run.loads[shown.start - 1 : shown.stop - 1]:
        marks |= _marks_of_load(state, load, next_due)
    marks |= _to_come(state, shown, made)
    near = [c for c in run.changes if c.load in shown or c.load == made + 1]
    changes = tuple(_notch(run, change) for change in near if change.kind != "stations")
    return Strip(
        lanes,
        tuple(shown),
        marks,
        changes,
        last,
        strip_words(state, last),
        sides_of(state),
        tuple(_goes_on(state, shown)) if are_unlike(state) else (),
    )


def sides_of(state: RunState) -> dict[str, tuple[str, str]]:
    """Return the part and the setup of each lane of the cycle looked at; nothing where all of them cut the same."""
    if not are_unlike(state):
        return {}
    plan, run = state.plan, state.here
    names = plan.part_names if plan.companions else {}
    return {
        lane: (names.get(plan.part_of(run.setup_at[station]), ""), plan.setup(run.setup_at[station]).name)
        for lane, station in lanes_of(run).items()
    }


def _goes_on(state: RunState, shown: range) -> Iterable[tuple[Spot, Spot]]:
    """Give where pieces that are shown went on to their next side in the same cycle."""
    run = state.here
    spots: dict[int, list[Spot]] = {}
    for load in run.loads[shown.start - 1 : shown.stop - 1]:
        for loaded in load.stations:
            for place, number in enumerate(loaded.pieces, 1):
                spots.setdefault(number, []).append((lane_name(run, loaded.station, place), load.number))
    for mine in spots.values():
        yield from pairwise(mine)


def changed_marks(state: RunState, since: int, due: Iterable[int]) -> dict[tuple[str, int], Mark]:
    """Return the marks of the setup being run that lines after `since` have changed, and those to be gauged.

    Args:
        state: the run.
        since: number of the line the asker knows.
        due: pieces to be gauged; the first of them gets the brass corners.
    """
    wanted = list(due)
    touched = {number for number in wanted if number in state.pieces}
    touched |= {number for number in state.last_touched if state.pieces[number].touched > since}
    found: dict[tuple[str, int], Mark] = {}
    loads = {
        made.load for n in touched for made in state.pieces[n].made.values() if made.cycle == state.cycle
    }
    for number in loads:
        found |= _marks_of_load(state, state.here.loads[number - 1], next(iter(wanted), 0))
    return found


def _marks_of_load(state: RunState, load: Load, due: int) -> dict[tuple[str, int], Mark]:
    run = state.cycles[load.cycle]
    return {
        (lane_name(run, loaded.station, place), load.number): mark_of(
            state, state.pieces[number], load.setup_of(loaded), due=number == due
        )
        for loaded in load.stations
        for place, number in enumerate(loaded.pieces, 1)
    }


def _to_come(state: RunState, shown: range, made: int) -> dict[tuple[str, int], Mark]:
    """Return hollow dots for what is to come: full loads, and the short last one."""
    run = state.here
    found: dict[tuple[str, int], Mark] = {}
    for setup in run.setups:
        active = [
            lane_name(run, label, place)
            for label, room in run.composition.items()
            if run.setup_at[label] == setup
            for place in range(1, room + 1)
        ]
        left, late = still_to_pass(state, setup), loads_behind(state, setup)
        first = made + 1 + late
        for load in range(max(first, shown.start), shown.stop if active else 0):
            before = (load - first) * len(active)
            for lane in active[: max(0, left - before)]:
                found[lane, load] = Mark(0, "come", name=f"Load {load}, station {lane}, to come")
    return found


def _notch(run: CycleRun, change: RunChange) -> Notch:
    lanes = lanes_of(run)
    touched = tuple(lane for lane, station in lanes.items() if change.station in {"", station})
    words = f"{change.words}, before load {change.load}"
    return Notch(change.load, "break" if change.kind == "break" else "notch", touched, words)


def strip_words(state: RunState, last: int) -> str:
    """Return what the strip shows in one sentence."""
    counts = state.counts
    parts = [f"{counts['good'] + counts['reworked']} good"]
    parts += [
        f"{counts[name]} {name}"
        for name in ("not gauged", "held", "rework", "scrap", "trial", "spare", "lost")
        if counts[name]
    ]
    loads = len(state.here.loads)
    return f"Ditto strip: {loads} of {last} loads begun, {', '.join(parts)}, {to_go(state)} to go."


def weave_chunks(last: int) -> list[range]:
    """Return the loads of a long run in parts that are redrawn one at a time."""
    return [range(start, min(start + CHUNK, last + 1)) for start in range(1, last + 1, CHUNK)]


def weave(state: RunState, chunk: range) -> dict[str, list[tuple[int, Mark]]]:
    """Return a part of the whole run, lane by lane: (load, mark)."""
    found: dict[str, list[tuple[int, Mark]]] = {lane: [] for lane in lanes_of(state.here)}
    for load in state.here.loads[chunk.start - 1 : chunk.stop - 1]:
        for (lane, number), mark in _marks_of_load(state, load, 0).items():
            found.setdefault(lane, []).append((number, mark))
    return found
