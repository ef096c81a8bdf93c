"""A line no longer counts, or counts again. Both are lines of their own."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.errors import NotNow
from ditto_run.core.place.offsets import axis_text
from ditto_run.core.run.events.adjustment import Adjustment, move_of
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.events.closing import RunClosed
from ditto_run.core.run.events.composition import Composition
from ditto_run.core.run.events.correction import Correction
from ditto_run.core.run.events.cycle import CycleEnded, CycleStarted
from ditto_run.core.run.events.disposition import Disposition
from ditto_run.core.run.events.late import LoadsEntered
from ditto_run.core.run.events.master import MasterAccepted
from ditto_run.core.run.events.note import Note
from ditto_run.core.run.events.reading import Reading
from ditto_run.core.run.events.revision import PlanRevised
from ditto_run.core.run.events.setup import SetupOpened
from ditto_run.core.run.events.starting import RunStarted
from ditto_run.core.run.state import RunState

LASTING = (RunStarted, PlanRevised, RunClosed)


@dataclass(frozen=True, slots=True)
class Undo:
    """Take back the last thing this person recorded."""

    kind: Literal["undo"] = "undo"


@dataclass(frozen=True, slots=True)
class Redo:
    """Let the line that this person undid last count again."""

    kind: Literal["redo"] = "redo"


@dataclass(frozen=True, slots=True)
class Undone:
    """The line of that number no longer counts; `words` is what it said."""

    undoes: int
    words: str = ""
    kind: Literal["undone"] = "undone"


@dataclass(frozen=True, slots=True)
class Redone:
    """The line of that number counts again; `words` is what it said."""

    redoes: int
    words: str = ""
    kind: Literal["redone"] = "redone"


def undoable(state: RunState, who: str) -> tuple[int, str] | None:
    """Return the line that a person's undo would take back, and what it said; None if there is none."""
    mine = [line for line in state.recent_events if line.who == who]
    if not mine or isinstance(mine[-1].body, LASTING):
        return None
    return mine[-1].seq, sentence(mine[-1].body, state, mine[-1].seq)


def redoable(state: RunState, who: str) -> tuple[int, str] | None:
    """Return the line that a person's redo would let count again, and what it said; None if there is none."""
    if not state.undone:
        return None
    line, by, words = state.undone[-1]
    return (line, words) if by == who else None


@decide.register
def _undo(_command: Undo, state: RunState, now: Now) -> Undone:
    found = undoable(state, now.who)
    if found is None:
        raise NotNow(
            f"{now.who} has nothing left to undo here.", "Undo on the planning pages is beside each list."
        )
    seq, words = found
    body = next(line.body for line in state.recent_events if line.seq == seq)
    later = [line for line in state.recent_events if line.seq > seq and _leans_on(line.body, body)]
    if later:
        raise NotNow(
            f"{later[0].who} has recorded something that leans on it.", "Let them undo theirs first."
        )
    if isinstance(body, Adjustment):
        _require_reads(body, now, back=True)
    return Undone(seq, words)


@decide.register
def _redo(_command: Redo, state: RunState, now: Now) -> Redone:
    found = redoable(state, now.who)
    if found is None:
        raise NotNow(
            f"{now.who} has nothing to redo here.",
            "Only what was undone last, with nothing since, can be redone.",
        )
    body = state.undone_bodies[found[0]]
    if isinstance(body, Adjustment):
        _require_reads(body, now, back=False)
    return Redone(*found)


def _require_reads(body: Adjustment, now: Now, *, back: bool) -> None:
    """Raise NotNow unless the register still reads what the adjustment wrote, or what it read before."""
    moved = body.moved
    if moved is None:  # written before a line said what the register read: nothing to hold it against
        if back and move_of(body.what, body.amount, body.unit, now) is not None:
            raise NotNow(
                "This was recorded before a line kept what the register read.",
                "Set the offset on Place, Offsets, to what it should read.",
            )
        return
    offset = now.offsets.get(moved.code) if now.machine and now.machine.id == moved.machine else None
    reads = offset.axes.get(moved.axis) if offset else None
    if reads == (moved.after if back else moved.before):
        return
    name = f"{moved.code} {moved.axis.upper()}"
    shown = (
        "is not set"
        if reads is None or offset is None
        else f"reads {axis_text(moved.axis, reads, offset.unit)}"
    )
    raise NotNow(
        f"{name} was set again since: it {shown}.", "Set it on Place, Offsets, to what it should read."
    )


def _leans_on(later: object, earlier: object) -> bool:
    """Return True if a later line makes no sense without an earlier one."""
    if isinstance(earlier, CycleStarted | CycleEnded | LoadsEntered | SetupOpened | Composition):
        return not isinstance(later, Note)
    if isinstance(earlier, Reading | Correction):
        return isinstance(later, Correction | MasterAccepted | Disposition)
    return isinstance(earlier, MasterAccepted) and isinstance(later, CycleStarted)


@apply.register
def _undone(_body: Undone, _state: RunState, _line: LogLine) -> None:
    """The fold leaves the undone line out; nothing is left to do here."""


@apply.register
def _redone(_body: Redone, _state: RunState, _line: LogLine) -> None:
    """The fold takes the line in again; nothing is left to do here."""


@sentence.register
def _say_undone(body: Undone, _state: RunState, _seq: int) -> str:
    return f"Undone: {body.words}" if body.words else f"Line {body.undoes} undone."


@sentence.register
def _say_redone(body: Redone, _state: RunState, _seq: int) -> str:
    return f"Redone: {body.words}" if body.words else f"Line {body.redoes} counts again."
