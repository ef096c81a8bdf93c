"""Batches of a job: run 1, 2, 3 …, each with a log of its own; a piece keeps its number through all of them."""

from ditto_run.core.errors import NotNow
from ditto_run.core.run.state import RunState

MOST_BATCHES = 1_000


def require_next(batch: int, there: int, last: RunState | None) -> None:
    """Raise NotNow unless a batch is the next one, and the one before it is closed.

    Args:
        batch: the batch to begin, from 1.
        there: how many were begun.
        last: the newest run; None before there is one.
    """
    if batch != there + 1:
        raise NotNow(f"Batch {batch} cannot begin: this job has {there} so far.", f"Begin batch {there + 1}.")
    if last is not None and last.closed_at is None:
        raise NotNow(f"Batch {last.batch} is still open.", "Close it first.")


def last_number(last: RunState | None) -> int:
    """Return the highest number a piece of the batches so far has, 0 before there is one.

    Args:
        last: the newest run; None before there is one.
    """
    return 0 if last is None else max(last.pieces, default=last.numbered_after)


def revisions_in(state: RunState) -> set[int]:
    """Return the revisions that pieces of a batch were made to, and the one it stands at."""
    return {made.revision for piece in state.pieces.values() for made in piece.made.values()} | {
        state.revision
    }
