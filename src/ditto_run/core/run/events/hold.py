"""Pieces are held until somebody decides."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.run.effects import stand
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.require import require_pieces, require_reason
from ditto_run.core.run.state import RunState
from ditto_run.core.run.words import numbers_text


@dataclass(frozen=True, slots=True)
class HoldPieces:
    """Hold pieces: numbers and ranges, such as 11, 14-17."""

    pieces: str
    reason: str
    kind: Literal["hold_pieces"] = "hold_pieces"


@dataclass(frozen=True, slots=True)
class Hold:
    """Pieces are held until somebody decides."""

    pieces: tuple[int, ...]
    reason: str
    kind: Literal["hold"] = "hold"


@decide.register
def _decide(command: HoldPieces, state: RunState, _now: Now) -> Hold:
    return Hold(require_pieces(state, command.pieces), require_reason(command.reason))


@apply.register
def _apply(body: Hold, state: RunState, line: LogLine) -> None:
    for number in body.pieces:
        piece = state.pieces[number]
        piece.hold_reason, piece.outcome, piece.decided_at = body.reason, "", line.seq
        stand(state, piece)


@sentence.register
def _say(body: Hold, _state: RunState, _seq: int) -> str:
    return f"Held: {numbers_text(body.pieces)}, {body.reason}."
