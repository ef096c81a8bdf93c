"""What becomes of a piece."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.errors import NotNow
from ditto_run.core.run.after_trips import outside_after
from ditto_run.core.run.effects import stand
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.line import Outcome
from ditto_run.core.run.require import LONGEST_TEXT, require_piece, require_reason
from ditto_run.core.run.state import Gauging, RunState
from ditto_run.core.units import value_text

NEEDS_REASON = {"as_is", "rework", "scrap", "lost"}
OUTCOME_WORDS = {"as_is": "accepted as it is", "rework": "sent to rework"}


@dataclass(frozen=True, slots=True)
class Dispose:
    """Decide what becomes of a piece. `concession` says who agreed to one out of limits."""

    piece: int
    outcome: Outcome
    reason: str = ""
    concession: str = ""
    kind: Literal["dispose"] = "dispose"


@dataclass(frozen=True, slots=True)
class Disposition:
    """What becomes of a piece; `concession` is who agreed to one out of limits."""

    piece: int
    outcome: Outcome
    reason: str = ""
    concession: str = ""
    kind: Literal["disposition"] = "disposition"


@decide.register
def _decide(command: Dispose, state: RunState, _now: Now) -> Disposition:
    piece = require_piece(state, command.piece)
    reason = command.reason.strip()
    if piece.standing == "cutting":
        raise NotNow(f"Piece {piece.number} is being cut.", "End the load first.")
    if piece.standing == "reworked" and command.outcome == "good":
        raise NotNow(f"Piece {piece.number} is reworked and good already.", "Nothing is left to decide.")
    if command.outcome == "good" and piece.out:
        names = _outside_words(state, piece.out)
        raise NotNow(
            f"Piece {piece.number} is out of limits: {names}.",
            "Accept it as it is, with the reason, or correct the reading.",
        )
    after = outside_after(state, piece)
    if command.outcome == "good" and after:
        names = " and ".join(c.name for c, _ in after)
        raise NotNow(
            f"Piece {piece.number} came back outside in {names}.",
            "Accept it as it is, with the reason, or gauge it again.",
        )
    if command.outcome in NEEDS_REASON or (command.outcome == "spare" and (piece.out or after)):
        require_reason(reason)
    if command.outcome == "as_is" and not piece.out and piece.standing != "held":
        raise NotNow(f"Piece {piece.number} is inside its limits.", "It counts as good without a reason.")
    concession = command.concession.strip()[:LONGEST_TEXT] if command.outcome == "as_is" else ""
    return Disposition(piece.number, command.outcome, reason[:LONGEST_TEXT], concession)


def _outside_words(state: RunState, out: list[Gauging]) -> str:
    words = []
    for gauging in out:
        characteristic = state.plan.characteristic(gauging.characteristic)
        size, shown = characteristic.size, gauging.text
        if gauging.value is not None:
            shown = value_text(gauging.value, size.unit, max(gauging.decimals, size.decimals))
        words.append(f"{characteristic.name} {shown}")
    return ", ".join(words)


@apply.register
def _apply(body: Disposition, state: RunState, line: LogLine) -> None:
    piece = state.pieces[body.piece]
    piece.outcome, piece.reason, piece.decided_at = body.outcome, body.reason, line.seq
    piece.hold_reason = ""
    piece.was_reworked = piece.was_reworked or body.outcome == "rework"
    stand(state, piece)


@sentence.register
def _say(body: Disposition, _state: RunState, _seq: int) -> str:
    reason = f", {body.reason}" if body.reason else ""
    agreed = f" Agreed by {body.concession}." if body.concession else ""
    return f"Piece {body.piece}: {OUTCOME_WORDS.get(body.outcome, body.outcome)}{reason}.{agreed}"
