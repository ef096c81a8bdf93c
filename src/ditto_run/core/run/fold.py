"""Folds the log into the state of the run. Folding the same lines again changes nothing.

The fold is extended by new lines only, and each line touches only the pieces it is about, so that the thousandth piece
costs as much as the first. An undo or a redo folds the whole log again, without what no longer counts.
"""

from collections.abc import Iterable, Mapping, Sequence

from ditto_run.core.plan import Plan
from ditto_run.core.run.events import Event, Note, Redone, Undone, apply
from ditto_run.core.run.state import RunState

KEPT_EVENTS = 60  # last lines kept in the state for undo and the log on the page


def fold(log: Iterable[Event], plans: Mapping[int, Plan]) -> RunState:
    """Return the state that a log adds up to, whatever order its lines come in and however often.

    Args:
        log: lines of one run; repeated lines count once.
        plans: frozen plans by revision.

    Returns:
        A new state.
    """
    lines = sorted({event.seq: event for event in log}.values(), key=lambda event: event.seq)
    out = _undone(lines)
    state = RunState(plans)
    for event in lines:
        _fold_line(state, event, counts=event.seq not in out)
    return state


def extend(state: RunState, new: Sequence[Event], whole_log: Iterable[Event] | None = None) -> RunState:
    """Return the state after further lines; the given state is used up.

    Args:
        state: state so far.
        new: lines after it, oldest first; known ones are passed over.
        whole_log: all lines with the new ones; wanted only if one of the new lines is an undo or a redo.
    """
    fresh = [event for event in new if event.seq > state.seq]
    if any(isinstance(event.body, Undone | Redone) for event in fresh):
        return fold(whole_log or (), state.plans)
    for event in fresh:
        _fold_line(state, event, counts=True)
    return state


def _undone(lines: Sequence[Event]) -> set[int]:
    """Return the lines that no longer count. An undo is itself never undone; a redo lets its line count again."""
    out: set[int] = set()
    for event in lines:
        if isinstance(event.body, Undone):
            out.add(event.body.undoes)
        elif isinstance(event.body, Redone):
            out.discard(event.body.redoes)
    return out


def _fold_line(state: RunState, event: Event, *, counts: bool) -> None:
    if event.client_key and event.client_key in state.client_keys:
        return
    state.seq = max(state.seq, event.seq)
    if state.last_at is not None and event.at < state.last_at:
        state.set_back_at = event.seq
    state.last_at, state.newest = event.at, event
    if event.client_key:
        state.client_keys[event.client_key] = event.seq
    if isinstance(event.body, Undone):
        state.undone.append((event.body.undoes, event.who, event.body.words))
    elif isinstance(event.body, Redone):
        if state.undone:
            state.undone.pop()
    elif not counts:
        state.undone_bodies[event.seq] = event.body
    else:
        if not isinstance(event.body, Note):
            state.undone.clear()
        state.recent_events.append(event)
        del state.recent_events[:-KEPT_EVENTS]
        apply(event.body, state, event)
