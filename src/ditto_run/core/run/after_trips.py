"""Sizes of a piece after work done elsewhere: the newest reading of each counts, held to the drawing."""

from ditto_run.core.part import Characteristic
from ditto_run.core.run.state import Piece, RunState, SizeAfter
from ditto_run.core.run.verdict import side_of

HELD_AFTER = "outside after"  # what a hold says that such a reading made


def outside_after(
    state: RunState, piece: Piece, *, undecided: bool = True
) -> tuple[tuple[Characteristic, SizeAfter], ...]:
    """Return the dimensions of a piece whose newest reading after a trip is outside the drawing's limits, with that reading.

    Args:
        state: the run.
        piece: of it.
        undecided: leave out what was decided since.
    """
    newest = {one.size: one for one in state.sizes_after if one.piece == piece.number}
    found = []
    for c in state.plan.all_characteristics if newest else ():
        one = newest.get(c.number)
        if one is None or (undecided and piece.decided_at > one.number):
            continue
        if side_of(one.value, one.unit, c.drawing) != "inside":
            found.append((c, one))
    return tuple(found)
