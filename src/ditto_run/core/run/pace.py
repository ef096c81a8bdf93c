"""How long it still takes, with the range it may take."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt
from statistics import fmean, median, stdev

from ditto_run.core.statistics.student import t_80

MOST_LOADS = 12  # the pace is that of the last dozen loads
BREAK = 2.5  # a gap this many times the median is a break, not pace; common practice, no source
FEWEST = 3
PLAN_SPREAD = 0.15  # share of the planned time, while too few loads are known; common practice, no source


@dataclass(frozen=True, slots=True)
class Left:
    """Time that is left.

    Args:
        likely_s: best estimate. [s]
        low_s: lower end of the 80 % range. [s]
        high_s: upper end of the 80 % range. [s]
        measured: False while too few loads are known to say how much they differ.
        seen: steady loads it is made from; 0 while it is the plan's time. [loads]
    """

    likely_s: float
    low_s: float
    high_s: float
    measured: bool
    seen: int = 0


def steady(gaps_s: Sequence[float]) -> list[float]:
    """Return the last dozen load-to-load times without breaks, [s]."""
    recent = list(gaps_s[-MOST_LOADS:])
    if not recent:
        return []
    limit = median(recent) * BREAK
    return [gap for gap in recent if gap <= limit]


def time_left(gaps_s: Sequence[float], loads: float, planned_s: float) -> Left:
    """Return the time for the loads that are left.

    With at least three steady loads it is a prediction range for the sum of m further loads,
    m × mean ± t × s × sqrt(m + m² / k) with t for 80 %; before that, the planned time ± 15 %.

    Args:
        gaps_s: load-to-load times so far, oldest first. [s]
        loads: m, loads still to come; a short last load is a part of one. [loads]
        planned_s: planned load-to-load time. [s]

    Returns:
        The time left with its 80 % range. [s]

    Source:
        Own derivation: prediction interval for a sum of independent, normally spread times; held against a
        simulation by a test.
    """
    known = steady(gaps_s)
    if loads <= 0:
        return Left(0.0, 0.0, 0.0, bool(known), len(known))
    if len(known) < FEWEST:
        each = fmean(known) if known else planned_s
        likely = each * loads
        return Left(
            likely, likely * (1 - PLAN_SPREAD), likely * (1 + PLAN_SPREAD), measured=False, seen=len(known)
        )
    count = len(known)
    likely = fmean(known) * loads
    reach = t_80(count - 1) * stdev(known) * sqrt(loads + loads**2 / count)
    return Left(likely, max(0.0, likely - reach), likely + reach, measured=True, seen=count)
