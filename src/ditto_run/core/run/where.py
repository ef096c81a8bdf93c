"""What goes where: new blanks, pieces that go on to their next side, and what a station cuts, in words."""

from collections.abc import Sequence
from dataclasses import dataclass

from ditto_run.core.run.line import Loaded
from ditto_run.core.run.state import Piece, RunState
from ditto_run.core.units import capital

FEW = 3  # pieces that are named with an and between them


@dataclass(frozen=True, slots=True)
class Handled:
    """What the hands do at one station between two loads.

    Args:
        station: its label.
        new: numbers that blanks get.
        over: pieces that were cut before and come here.
        came_from: the station they were in, where that is of this cycle; empty if they come from elsewhere.
        out: pieces of the load before that leave it and are not cut again here.
    """

    station: str
    new: tuple[int, ...] = ()
    over: tuple[int, ...] = ()
    came_from: str = ""
    out: tuple[int, ...] = ()


def are_unlike(state: RunState) -> bool:
    """Return True if the stations of the cycle looked at do not all cut the same setup."""
    return len(state.here.setups) > 1


def side_words(state: RunState, setup: int) -> str:
    """Return what is cut in a setup, as a person says it: its part where the job has several, and its name.

    Args:
        state: the run.
        setup: key of the setup.
    """
    name = state.plan.setup(setup).name
    return f"{state.plan.part_names[state.plan.part_of(setup)]}, {name}" if state.plan.companions else name


def moves(state: RunState, stations: Sequence[Loaded]) -> str:
    """Return what goes where in the next load, in the order of the hands: what goes on, then new blanks.

    Args:
        state: the run, looked at from the cycle.
        stations: the load.
    """
    over: list[str] = []
    new: dict[int, list[str]] = {}
    for loaded in stations:
        for number in loaded.pieces:
            piece = state.pieces.get(number)
            if piece is None or not piece.made:
                new.setdefault(loaded.part, []).append(loaded.station)
            else:
                over.append(_over(state, piece, loaded.station))
    said = []
    if over:
        said.append(" and ".join(over) if len(over) < FEW else ", ".join(over))
    for part, labels in new.items():
        what = "new blanks" if len(labels) > 1 else "a new blank"
        if state.plan.companions:
            what = f"new {state.plan.part_names[part]}"
        said.append(f"{what} in {' and '.join(dict.fromkeys(labels))}")
    text = ", ".join(said)
    return f"{capital(text)}."


def handled(state: RunState, stations: Sequence[Loaded]) -> tuple[Handled, ...]:
    """Return what the hands do at each station before the next load, in the order of the letters.

    Args:
        state: the run, looked at from the cycle, nothing cutting.
        stations: the next load.
    """
    before = (
        {loaded.station: loaded.pieces for loaded in state.here.loads[-1].stations}
        if state.here.loads
        else {}
    )
    after = {loaded.station: loaded.pieces for loaded in stations}
    kept = {number for pieces in after.values() for number in pieces}
    found = []
    for station in sorted({*before, *after}):
        pieces = after.get(station, ())
        over = tuple(n for n in pieces if n in state.pieces and state.pieces[n].made)
        last = next((next(reversed(state.pieces[n].made.values())) for n in over), None)
        found.append(
            Handled(
                station,
                tuple(n for n in pieces if n not in over),
                over,
                last.station if last is not None and last.cycle == state.cycle else "",
                tuple(n for n in before.get(station, ()) if n not in kept),
            )
        )
    return tuple(found)


def _over(state: RunState, piece: Piece, station: str) -> str:
    last = next(reversed(piece.made.values()))
    where = f"from {last.station} to {station}" if last.cycle == state.cycle else f"to {station}"
    return f"piece {piece.number} {where}"
