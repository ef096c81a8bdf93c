"""What the clock says of a cycle: its full loads, as they were timed in this batch."""

from dataclasses import dataclass
from statistics import median, quantiles

from ditto_run.core.run.state import RunState

FEWEST_LOADS = 3  # under so many a clock says nothing of the next; common practice, no source


@dataclass(frozen=True, slots=True)
class Clocked:
    """How long a cycle took.

    Args:
        loads: full loads that were timed.
        cycle_s: the middle one. [s]
        low_s, high_s: 80 % of them are within. [s]
        planned_s: as the run's plan has it. [s]
    """

    loads: int
    cycle_s: float
    low_s: float
    high_s: float
    planned_s: float


def clocked(state: RunState, key: int) -> Clocked | None:
    """Return what the clock says of a cycle; None under three full loads, or where the plan has no time.

    Args:
        state: the run.
        key: of the cycle.

    Source:
        Median and deciles of the loads, so that a tea break says nothing; own derivation.
    """
    run = state.cycles.get(key)
    room = sum(station.pieces for station in state.plan.cycle(key).stations)
    times = [
        load.cycle_s
        for load in (run.loads if run is not None else ())
        if load.cycle_s is not None and not load.joined and len(load.pieces) == room
    ]
    planned = state.plan.times(key).cycle_s
    if len(times) < FEWEST_LOADS or planned <= 0:
        return None
    deciles = quantiles(times, n=10, method="inclusive")
    return Clocked(len(times), median(times), deciles[0], deciles[-1], planned)
