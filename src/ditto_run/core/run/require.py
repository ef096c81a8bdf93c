"""What every decision may ask for: a piece that is there, a text that says something."""

from ditto_run.core.errors import BadEntry
from ditto_run.core.run.state import Piece, RunState

LONGEST_TEXT = 500


def require_piece(state: RunState, number: int, field: str = "piece") -> Piece:
    """Return a piece of the run.

    Raises:
        BadEntry: if there is none of that number.
    """
    piece = state.pieces.get(number)
    if piece is None:
        made = max(state.pieces, default=0)
        raise BadEntry(
            f"There is no piece {number} yet.",
            f"Pieces 1 to {made} are made or being cut." if made else "Start the first load.",
            field,
        )
    return piece


def require_reason(text: str) -> str:
    """Return the reason, without the blanks around it.

    Raises:
        BadEntry: if it is empty.
    """
    return require_text(text, "reason", "the reason in one sentence")


def require_text(text: str, field: str, what: str) -> str:
    """Return the text, without the blanks around it.

    Raises:
        BadEntry: if it is empty.
    """
    if not text.strip():
        raise BadEntry("It is empty.", f"Type {what}.", field)
    return text.strip()[:LONGEST_TEXT]
