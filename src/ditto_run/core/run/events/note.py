"""A sentence to remember, about a piece or the run."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.require import require_piece, require_text
from ditto_run.core.run.state import RunState


@dataclass(frozen=True, slots=True)
class AddNote:
    """A sentence to remember."""

    text: str
    piece: int | None = None
    kind: Literal["add_note"] = "add_note"


@dataclass(frozen=True, slots=True)
class Note:
    """A sentence to remember, about a piece or the run."""

    text: str
    piece: int | None = None
    kind: Literal["note"] = "note"


@decide.register
def _decide(command: AddNote, state: RunState, _now: Now) -> Note:
    if command.piece is not None:
        require_piece(state, command.piece)
    return Note(require_text(command.text, "text", "one sentence"), command.piece)


@apply.register
def _apply(body: Note, state: RunState, line: LogLine) -> None:
    state.notes.append((line.at, line.who, body.text, body.piece))
    if body.piece is not None:
        state.pieces[body.piece].notes.append(body.text)


@sentence.register
def _say(body: Note, _state: RunState, _seq: int) -> str:
    about = f" about piece {body.piece}" if body.piece is not None else ""
    return f"Noted{about}: {body.text}"
