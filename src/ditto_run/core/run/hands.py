"""What the hands did between loads, told apart by the clock alone: unloading, gauging, loading."""

from bisect import bisect_left
from dataclasses import dataclass
from datetime import datetime
from itertools import pairwise
from statistics import median

from ditto_run.core.run.forecast import CycleSoFar
from ditto_run.core.run.judge.finish import gaps_of, strays_of
from ditto_run.core.run.state import RunState

LONGEST_READING_S = (
    300.0  # between two readings; beyond it something else was done; common practice, no source
)
FEWEST = 3  # readings behind one another, under which nobody knows how long one takes


@dataclass(frozen=True, slots=True)
class HandsApart:
    """Where the time of the hands went, [s].

    Args:
        unload: from the end of a cycle to the first reading.
        gauge: readings between two loads; those taken while the machine cuts cost nothing here.
        load: from the last reading to the next start.
        mixed: unloading and loading where nothing was gauged between them, and all that cannot be told apart.
        reading: one reading, the middle one; 0 while not known.
    """

    unload: float
    gauge: float
    load: float
    mixed: float
    reading: float


def hands_apart(state: RunState, origin: datetime, case: CycleSoFar, hands_s: float) -> HandsApart | None:
    """Return where the time of the hands went; None while too few readings were taken between loads.

    A reading is written down when it is over. How long the first one after a load took is taken as long as the middle one of
    those that follow another.

    Args:
        state: the run, looked at from the cycle.
        origin: when its first timed load began.
        case: its loads.
        hands_s: of the hands in all. [s]

    Source:
        Own derivation.
    """
    taken = sorted(
        (one.at - origin).total_seconds() for one in state.gaugings.values() if one.setup in state.here.setups
    )
    gaps = [(a.end, b.start) for a, b in pairwise(case.loads)]
    told = gaps_of(case)
    strays = strays_of(told)
    between = [
        taken[bisect_left(taken, end) : bisect_left(taken, start)]
        if not odd and float(hand) >= start - end - 1  # no break in it
        else []
        for (end, start), hand, odd in zip(gaps, told.hand, strays, strict=True)
    ]
    steps = [b - a for readings in between for a, b in pairwise(readings) if 0 < b - a <= LONGEST_READING_S]
    if len(steps) < FEWEST:
        return None
    reading = median(steps)
    unload = gauge = load = 0.0
    for (end, start), readings in zip(gaps, between, strict=True):
        if readings:
            first = max(readings[0] - reading, end)
            unload += first - end
            gauge += readings[-1] - first
            load += start - readings[-1]
    return HandsApart(unload, gauge, load, max(hands_s - unload - gauge - load, 0.0), reading)
