"""Pieces nobody gauged are taken all the same, with the reason; on a part with a consequence never."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.run.effects import stand
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.require import require_pieces, require_reason
from ditto_run.core.run.state import RunState
from ditto_run.core.run.words import numbers_text


@dataclass(frozen=True, slots=True)
class TakeUngauged:
    """Count pieces that were neither gauged nor covered: numbers and ranges, such as 11, 14-17."""

    pieces: str
    reason: str
    kind: Literal["take_ungauged"] = "take_ungauged"


@dataclass(frozen=True, slots=True)
class Taken:
    """Pieces that were neither gauged nor covered count all the same."""

    pieces: tuple[int, ...]
    reason: str
    kind: Literal["taken"] = "taken"


@decide.register
def _decide(command: TakeUngauged, state: RunState, _now: Now) -> Taken:
    if state.plan.heading.has_consequence:
        raise NotNow(
            f"This part {state.plan.heading.consequence_words}: every piece is gauged.",
            "Gauge them, or scrap them.",
        )
    numbers = require_pieces(state, command.pieces)
    for number in numbers:
        standing = state.pieces[number].standing
        if standing != "not gauged":
            raise BadEntry(
                f"Piece {number} is {standing}.", "Name only pieces that are not gauged.", "pieces"
            )
    return Taken(numbers, require_reason(command.reason))


@apply.register
def _apply(body: Taken, state: RunState, line: LogLine) -> None:
    for number in body.pieces:
        piece = state.pieces[number]
        piece.outcome, piece.reason, piece.decided_at = "taken", body.reason, line.seq
        stand(state, piece)


@sentence.register
def _say(body: Taken, _state: RunState, _seq: int) -> str:
    return f"Taken without gauging: {numbers_text(body.pieces)}, {body.reason}."
