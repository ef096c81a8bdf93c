"""Pieces were heated, joined or bonded by hand: which, with what, and until when they cool or cure."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.run.by_hand import HAND_STEPS, HandName
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.require import require_pieces
from ditto_run.core.run.state import HandWork, RunState
from ditto_run.core.run.words import ranges_text
from ditto_run.core.times import read_seconds

LONGEST = 160


@dataclass(frozen=True, slots=True)
class WorkByHand:
    """A step was done by hand on pieces: which step, which pieces, how long they cool or cure, with what."""

    step: HandName
    pieces: str
    waits: str = ""
    note: str = ""
    kind: Literal["work_by_hand"] = "work_by_hand"


@dataclass(frozen=True, slots=True)
class HandDone:
    """A step was done by hand; the pieces cool or cure for so long. [s]."""

    step: HandName
    pieces: tuple[int, ...]
    waits_s: int = 0
    note: str = ""
    kind: Literal["hand_done"] = "hand_done"


@decide.register
def _decide(command: WorkByHand, state: RunState, _now: Now) -> HandDone:
    pieces = require_pieces(state, command.pieces)
    for number in pieces:
        piece = state.pieces[number]
        if piece.standing in {"scrap", "lost"}:
            raise BadEntry(f"Piece {number} is {piece.standing}.", "Leave it out.", "pieces")
    waits = round(read_seconds(command.waits, "waits", "m"))
    note = " ".join(command.note.split())[:LONGEST]
    if state.plan.heading.has_consequence and not note:
        raise BadEntry(
            f"This part {state.plan.heading.consequence_words}: what was used is not said.",
            "Type lot, filler or adhesive, and the settings.",
            "note",
        )
    return HandDone(command.step, pieces, waits, note)


@apply.register
def _apply(body: HandDone, state: RunState, line: LogLine) -> None:
    state.by_hand.append(
        HandWork(line.seq, line.at, line.who, body.step, body.pieces, body.waits_s, body.note)
    )


@sentence.register
def _say(body: HandDone, _state: RunState, _seq: int) -> str:
    with_it = f", {body.note.rstrip('.')}" if body.note else ""
    many = "pieces" if len(body.pieces) > 1 else "piece"
    return f"{many.capitalize()} {ranges_text(body.pieces)} {HAND_STEPS[body.step].words}{with_it}."
