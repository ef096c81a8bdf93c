"""Where each station stands, for somebody who comes back to a run."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta

from ditto_run.core.run.loads import next_load
from ditto_run.core.run.said import last_said
from ditto_run.core.run.state import Gauging, RunState
from ditto_run.core.run.words import answer, numbers_text

AWAY = timedelta(minutes=30)  # after which one has to be told where things stand; common practice, no source
MOST_MARKS = 60  # last pieces of a station that are looked through


@dataclass(frozen=True, slots=True)
class StationStands:
    """How a station stands.

    Args:
        label: of it.
        there: what sits in it now, in words.
        last: the last reading of each size there, as name and what it said.
        dialled: what was dialled there since, in words; the newest first.
    """

    label: str
    there: str
    last: tuple[tuple[str, str], ...]
    dialled: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Resumed:
    """Where a cycle stands.

    Args:
        said: what was said last.
        stations: each of them.
        gauge_first: pieces to be gauged before anything else.
        held: pieces that wait for a decision.
        stopped: what stopped it last, in words, where no load was begun since; empty for nothing.
    """

    said: str
    stations: tuple[StationStands, ...]
    gauge_first: tuple[int, ...]
    held: tuple[int, ...]
    stopped: str = ""


def resumed(state: RunState, due: Sequence[int]) -> Resumed:
    """Return where the cycle that is looked at stands.

    Args:
        state: the run.
        due: the pieces to be gauged now.
    """
    held = tuple(p.number for p in state.pieces.values() if p.standing in {"held", "rework"})
    stations = tuple(_station(state, label) for label in state.here.composition)
    return Resumed(
        last_said(state), stations, tuple(due), held if state.counts["held"] else (), _stopped(state)
    )


def _stopped(state: RunState) -> str:
    last = next(reversed(state.here.stopped), None)
    if last is None or (state.here.loads and state.here.loads[-1].seq > last.seq):
        return ""
    return f"{last.what.rstrip('.')}.{f' It goes on at {last.recover}.' if last.recover else ''}"


def _station(state: RunState, label: str) -> StationStands:
    run = state.here
    cutting = {one.station: one.pieces for one in run.running.stations} if run.running else {}
    coming = {one.station: one.pieces for one in next_load(state)} if not run.running else {}
    made = run.at_station.get(label, [])
    if not run.composition[label]:
        there = "switched off"
    elif label in cutting:
        there = f"{numbers_text(cutting[label])} is being cut"
    elif label in coming:
        before = f"{made[-1][1]} came off last; " if made else ""
        there = f"{before}{numbers_text(coming[label])} goes in"
    else:
        there = f"{made[-1][1]} came off last; nothing goes in" if made else "nothing yet"
    last = []
    for number in {n for at, n in run.lanes if at == label}:
        lane = run.lanes[label, number]
        found: Gauging | None = next((lane[p] for _, p in reversed(made[-MOST_MARKS:]) if p in lane), None)
        if found is not None:
            plan = state.plan_of(state.pieces[found.piece], found.setup)
            reply = answer(state, found)
            last.append(
                (plan.characteristic(number).name, f"{reply.shown}, {reply.words} (piece {found.piece})")
            )
    newest = [
        f"{one.what} before load {one.load}" for one in reversed(run.dialled) if one.station in {"", label}
    ]
    return StationStands(label, there, tuple(sorted(last)), tuple(newest[:2]))
