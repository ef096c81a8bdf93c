"""Which heat of material a piece is of: said on Run with its bar, else the one of its plan."""

from ditto_run.core.run.state import Piece, RunState

APART = ";"  # between several heats in the job's head


def heats_of(text: str) -> tuple[str, ...]:
    """Return the heats that a job's head names: one, or several parted by semicolons."""
    return tuple(filter(None, (part.strip() for part in text.split(APART))))


def heat_of(state: RunState, piece: Piece) -> str:
    """Return the heat of a piece; empty while nobody said it.

    What was said on Run goes first. Else it is the one heat of the plan the piece was first made to, or of the plan as
    it stands now where that one named none; where the plan names several, nobody knows which.
    """
    if piece.heat:
        return piece.heat
    first = next(iter(piece.made.values()), None)
    plans = [state.plans[first[2]], state.plan] if first else [state.plan]
    named = next((heats for plan in plans if (heats := heats_of(plan.heading.heat))), ())
    return named[0] if len(named) == 1 else ""


def known_heats(state: RunState) -> tuple[str, ...]:
    """Return the heats to choose from: those of the plan, then those said on Run, each once."""
    said = (piece.heat for piece in state.pieces.values() if piece.heat)
    return tuple(dict.fromkeys([*heats_of(state.plan.heading.heat), *said]))
