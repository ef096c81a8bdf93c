"""What goes where: new blanks, pieces that go on to their next side, and what a station cuts, in words."""

from collections.abc import Sequence

from ditto_run.core.run.line import Loaded
from ditto_run.core.run.state import Piece, RunState

FEW = 3  # pieces that are named with an and between them


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
    return f"{text[:1].upper()}{text[1:]}."


def _over(state: RunState, piece: Piece, station: str) -> str:
    last = next(reversed(piece.made.values()))
    where = f"from {last.station} to {station}" if last.cycle == state.cycle else f"to {station}"
    return f"piece {piece.number} {where}"
