"""What every decision may ask for: a piece that is there, a text that says something, a machine that stands."""

from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.run.loads import read_pieces
from ditto_run.core.run.state import Piece, RunState

LONGEST_TEXT = 500
NO_FIRST_PIECE = {"scrap", "lost", "trial"}


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


def require_pieces(state: RunState, text: str) -> tuple[int, ...]:
    """Return the pieces a list with ranges names, such as 11, 14-17.

    Raises:
        BadEntry: if it names none, or one that is not there.
    """
    try:
        numbers = read_pieces(text)
    except ValueError:
        numbers = ()
    if not numbers:
        raise BadEntry(
            f"“{text[:40]}” names no pieces.", "Type numbers and ranges, such as 11, 14-17.", "pieces"
        )
    for number in numbers:
        require_piece(state, number, "pieces")
    return numbers


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


def require_standstill(state: RunState, remedy: str) -> None:
    """Raise NotNow while a load is cutting."""
    if state.running is not None:
        raise NotNow(f"Load {state.running.number} is cutting.", remedy)


def require_proven(state: RunState) -> None:
    """Raise NotNow if a load was cut in this setup and its first piece is not accepted yet."""
    run = state.here
    if run.master is not None:
        return
    tried = [number for load in run.loads if not load.entered for number in load.pieces]
    candidates = [n for n in tried if state.pieces[n].standing not in NO_FIRST_PIECE]
    if candidates:
        raise NotNow(
            f"Piece {candidates[0]} is not accepted as the first piece of this setup.",
            "Gauge every critical dimension on it, then accept it, or scrap it and cut another.",
        )
