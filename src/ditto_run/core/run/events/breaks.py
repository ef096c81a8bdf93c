"""New bar, box of blanks or shift."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.run.effects import note_change
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.require import require_text
from ditto_run.core.run.state import RunState


@dataclass(frozen=True, slots=True)
class MarkBreak:
    """New bar, box of blanks or shift."""

    what: str
    kind: Literal["mark_break"] = "mark_break"


@dataclass(frozen=True, slots=True)
class Break:
    """New bar, box of blanks or shift."""

    setup: int
    what: str
    kind: Literal["break"] = "break"


@decide.register
def _decide(command: MarkBreak, state: RunState, _now: Now) -> Break:
    return Break(state.setup, require_text(command.what, "what", "what is new, such as bar 2"))


@apply.register
def _apply(body: Break, state: RunState, line: LogLine) -> None:
    note_change(state, line.seq, "break", body.what)


@sentence.register
def _say(body: Break, _state: RunState, _seq: int) -> str:
    return f"New: {body.what}."
