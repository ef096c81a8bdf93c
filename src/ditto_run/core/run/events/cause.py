"""What somebody thinks a failure was, and what stopped a cycle: with where it goes on."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.errors import NotNow
from ditto_run.core.run.effects import next_load_number, note_change, stand
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.require import require_piece, require_text
from ditto_run.core.run.state import RunState, StopLine
from ditto_run.core.run.words import numbers_text

Cause = Literal["bumped", "loosened", "dull", "unknown"]
CAUSES: dict[Cause, str] = {
    "bumped": "a stop was bumped",
    "loosened": "something came loose",
    "dull": "the tool is dull or chipped",
    "unknown": "not known",
}
MOST_WORDS = 200  # letters


@dataclass(frozen=True, slots=True)
class SayCause:
    """What somebody thinks it was that put a piece out of limits."""

    piece: int
    cause: Cause
    kind: Literal["say_cause"] = "say_cause"


@dataclass(frozen=True, slots=True)
class CauseSaid:
    """What somebody thinks it was that put a piece out of limits."""

    cycle: int
    piece: int
    cause: Cause
    kind: Literal["cause_said"] = "cause_said"


@dataclass(frozen=True, slots=True)
class WriteStop:
    """Something stopped the cycle; `recover` is where it goes on, `hit` where something was touched or broke.

    `lost` where vacuum, air or coolant was lost: the pieces that were cut by it are held.
    """

    what: str
    recover: str = ""
    hit: bool = False
    lost: bool = False
    kind: Literal["write_stop"] = "write_stop"


@dataclass(frozen=True, slots=True)
class StopWritten:
    """Something stopped a cycle, and where it goes on; `held` are the pieces that are held because of it."""

    cycle: int
    what: str
    recover: str = ""
    hit: bool = False
    held: tuple[int, ...] = ()
    kind: Literal["stop_written"] = "stop_written"


@decide.register
def _decide_cause(command: SayCause, state: RunState, _now: Now) -> CauseSaid:
    piece = require_piece(state, command.piece)
    if not piece.out:
        raise NotNow(f"Piece {piece.number} is not out of limits.", "Say it of the piece that is.")
    return CauseSaid(state.cycle, piece.number, command.cause)


@decide.register
def _decide_stop(command: WriteStop, state: RunState, _now: Now) -> StopWritten:
    what = require_text(command.what, "what", "what happened, such as the drill clogged")
    run = state.here
    load = (run.running or (run.loads[-1] if run.loads else None)) if command.lost else None
    gone = {"scrap", "lost"}
    held = tuple(n for n in load.pieces if state.pieces[n].standing not in gone) if load is not None else ()
    recover = " ".join(command.recover.split())[:MOST_WORDS]
    return StopWritten(state.cycle, what[:MOST_WORDS], recover, command.hit, held)


@apply.register
def _apply_cause(body: CauseSaid, state: RunState, _line: LogLine) -> None:
    state.cycles.get(body.cycle, state.here).causes[body.piece] = body.cause


@apply.register
def _apply_stop(body: StopWritten, state: RunState, line: LogLine) -> None:
    run = state.cycles.get(body.cycle, state.here)
    load = next_load_number(run)
    run.stopped.append(StopLine(line.seq, line.at, line.who, load, body.what, body.recover, body.hit))
    for number in body.held:
        piece = state.pieces[number]
        piece.hold_reason, piece.outcome, piece.decided_at = body.what, "", line.seq
        stand(state, piece)
    if body.hit:
        note_change(state, line.seq, "setting", f"something was hit: {body.what}", body.cycle)


@sentence.register
def _say_cause(body: CauseSaid, _state: RunState, _seq: int) -> str:
    return f"Piece {body.piece} is out: {CAUSES[body.cause]}."


@sentence.register
def _say_stop(body: StopWritten, _state: RunState, _seq: int) -> str:
    goes_on = f" It goes on at {body.recover}." if body.recover else ""
    hit = " Every tool and station is looked at before the next load." if body.hit else ""
    held = f" Held: {numbers_text(body.held)}." if body.held else ""
    return f"Stopped: {body.what.rstrip('.')}.{held}{goes_on}{hit}"
