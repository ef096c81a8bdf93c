"""A piece is out of limits: which of those before it to measure again next, and which to hold unmeasured; from the log of a run."""

from collections.abc import Sequence
from dataclasses import dataclass, field

from ditto_run.core.run.judge.recheck import RecheckOne, contain
from ditto_run.core.run.judged import HistoryHere, ReadingPast
from ditto_run.core.run.state import RunState


@dataclass(frozen=True, slots=True)
class SeenHere:
    """A reading as deviation from the middle of the limits, in half tolerances. [-]."""

    piece: int
    station: int
    load: int
    deviation: float


@dataclass(frozen=True, slots=True)
class CaseHere:
    """What is known when a piece has failed, as the judgement reads it.

    Args:
        pieces_done, stations: cut so far, and side by side.
        readings: of the dimension up to the failure.
        failed: the piece that is out.
        cause: what somebody thinks it was; unknown while nobody said it.
        events: load and what was written down before it.
        rechecks: readings since.
        places: piece to load and station.
    """

    pieces_done: int
    stations: int
    readings: Sequence[SeenHere]
    failed: int
    cause: str
    events: Sequence[tuple[int, str]]
    rechecks: Sequence[SeenHere]
    places: dict[int, tuple[int, int]] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Suspects:
    """What to do about the pieces behind one that is out.

    Args:
        failed: its number.
        dimension: number of the dimension it is out in.
        recheck: number of the piece to measure next; 0 for none.
        hold: numbers of those that are bad almost for certain.
        why: one sentence.
    """

    failed: int
    dimension: int
    recheck: int
    hold: tuple[int, ...]
    why: str


def case_of(state: RunState, history: HistoryHere, setup: int) -> tuple[CaseHere, str] | None:
    """Return the case of the piece that was found out last, and its dimension; None where none is out, or loads were cut since.

    Args:
        state: the run, looked at from the cycle of the setup.
        history: what was written down of it.
        setup: its key.
    """
    newest: list[ReadingPast] = []
    for one in reversed(history.readings):
        if one.after_piece < history.pieces_done:
            break  # somebody went on since
        newest.append(one)
    first = next((one for one in reversed(newest) if _is_out(state, history, setup, one)), None)
    if first is None or not state.here.outs:
        return None
    mine = [one for one in history.readings if one.dimension == first.dimension]
    at = mine.index(first)
    dimension = next(one for one in history.job.dimensions if one.name == first.dimension)
    middle, half = (dimension.upper + dimension.lower) / 2, (dimension.upper - dimension.lower) / 2

    def seen(one: ReadingPast) -> SeenHere:
        load, station = history.places[one.piece]
        return SeenHere(one.piece, station, load, (one.value - middle) / half)

    events = [
        (history.places[one.after_piece + 1][0], one.kind)
        for one in history.events
        if one.after_piece + 1 in history.places
    ]
    case = CaseHere(
        history.pieces_done,
        history.job.stations,
        [seen(one) for one in mine[: at + 1]],
        first.piece,
        state.here.causes.get(history.numbers[first.piece - 1], "unknown"),
        events,
        [seen(one) for one in mine[at + 1 :] if one.piece != first.piece],
        history.places,
    )
    return case, first.dimension


def suspects_of(state: RunState, history: HistoryHere, setup: int) -> Suspects | None:
    """Return what to do about the pieces behind the one that was found out last; None where nothing is.

    Args:
        state: the run, looked at from the cycle of the setup.
        history: what was written down of it.
        setup: its key.

    Source:
        `judge.contain`; the log in its terms by own derivation.
    """
    found = case_of(state, history, setup)
    if found is None:
        return None
    case, name = found
    answer, number = contain(case), history.of[name].number
    failed = history.numbers[case.failed - 1]
    if isinstance(answer, RecheckOne):
        piece = history.numbers[answer.piece - 1]
        return Suspects(
            failed, number, piece, (), answer.why.replace(f"Piece {answer.piece} ", f"Piece {piece} ")
        )
    hold = tuple(history.numbers[piece - 1] for piece in answer.hold)
    open_ones = tuple(n for n in hold if state.pieces[n].standing not in {"held", "scrap", "lost"})
    return Suspects(failed, number, 0, open_ones, answer.why) if open_ones else None


def _is_out(state: RunState, history: HistoryHere, setup: int, one: ReadingPast) -> bool:
    number = history.numbers[one.piece - 1]
    return (setup, history.of[one.dimension].number) in state.pieces[number].out_keys
