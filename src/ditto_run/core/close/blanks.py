"""A gauging sheet with blanks for the loads still to come, for a time without the screen."""

from dataclasses import dataclass

from ditto_run.core.run.due import is_regular
from ditto_run.core.run.loads import Deal, next_number
from ditto_run.core.run.state import RunState

MOST_LOADS = 60


@dataclass(frozen=True, slots=True)
class BlankRow:
    """A piece still to be cut: its load, station, number, and which dimensions the plan asks for on it."""

    load: int
    station: str
    piece: int
    asked: frozenset[int]


def blank_rows(state: RunState, most: int = MOST_LOADS) -> tuple[BlankRow, ...]:
    """Return the pieces of the loads still to come in the cycle that is looked at, as they will be dealt out.

    Args:
        state: the run, looked at from the cycle; a load that is cut is not among them.
        most: loads.
    """
    deal, first = Deal(state), next_number(state)
    sizes = [c for c in state.gauged_here() if c.grade != "free"]
    found: list[BlankRow] = []
    for load in range(first, first + most):
        stations = deal.next_load()
        if not stations:
            break
        asked = frozenset(c.number for c in sizes if is_regular(state, c, load))
        found += [BlankRow(load, one.station, piece, asked) for one in stations for piece in one.pieces]
    return tuple(found)
