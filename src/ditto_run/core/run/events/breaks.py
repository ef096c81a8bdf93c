"""New bar, box of blanks or shift; with its heat, also for pieces that are made already."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.run.effects import note_change
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.require import require_pieces, require_text
from ditto_run.core.run.state import RunState
from ditto_run.core.run.words import ranges_text

LONGEST_HEAT = 60


@dataclass(frozen=True, slots=True)
class MarkBreak:
    """New bar, box of blanks or shift. `heat` is its material's; `pieces` says of which made ones besides."""

    what: str
    heat: str = ""
    pieces: str = ""
    kind: Literal["mark_break"] = "mark_break"


@dataclass(frozen=True, slots=True)
class Break:
    """New bar, box of blanks or shift; with `pieces` it says only of which bar and heat those were."""

    setup: int
    what: str
    heat: str = ""
    pieces: tuple[int, ...] = ()
    kind: Literal["break"] = "break"


@decide.register
def _decide(command: MarkBreak, state: RunState, _now: Now) -> Break:
    what = require_text(command.what, "what", "what is new, such as bar 2")
    heat = command.heat.strip()[:LONGEST_HEAT]
    pieces = require_pieces(state, command.pieces) if command.pieces.strip() else ()
    if pieces:
        heat = require_text(heat, "heat", "the heat that those pieces are of")
    return Break(state.cycle, what, heat, pieces)


@apply.register
def _apply(body: Break, state: RunState, line: LogLine) -> None:
    for number in body.pieces:
        state.pieces[number].heat = body.heat
    if not body.pieces:
        state.heat = body.heat or state.heat
        note_change(state, line.seq, "break", body.what, body.setup)


@sentence.register
def _say(body: Break, _state: RunState, _seq: int) -> str:
    heat = f", heat {body.heat}" if body.heat else ""
    if body.pieces:
        return f"Of {body.what}{heat}: {ranges_text(body.pieces)}."
    return f"New: {body.what}{heat}."
