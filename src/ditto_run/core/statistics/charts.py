"""Individuals and moving range, of readings or of deviations from nominal."""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from math import log
from statistics import fmean, variance

from ditto_run.core.statistics.ranges import d2, range_limits

FEWEST = 2


@dataclass(frozen=True, slots=True)
class Individuals:
    """Individuals and moving range.

    Args:
        mean: of the readings. [their unit]
        moving: mean moving range of two. [their unit]
        sigma: spread from reading to reading, moving / d2. [their unit]
        low, high: limits of a reading, three sigma. [their unit]
        most_moving: upper limit of a moving range. [their unit]
        outside: readings beyond the limits, counted from 0.
        jumped: readings whose step from the one before is beyond its limit, counted from 0.
    """

    mean: float
    moving: float
    sigma: float
    low: float
    high: float
    most_moving: float
    outside: tuple[int, ...]
    jumped: tuple[int, ...]


def individuals(values: Sequence[float]) -> Individuals | None:
    """Return the chart of individuals and moving range; None for fewer than two readings.

    Args:
        values: readings in the order in which they were taken. [any unit]

    Source:
        [nist] 6.3.2.2.
    """
    if len(values) < FEWEST:
        return None
    steps = [abs(b - a) for a, b in itertools.pairwise(values)]
    mean, moving = fmean(values), fmean(steps)
    sigma = moving / d2(2)
    low, high = mean - 3 * sigma, mean + 3 * sigma
    most = range_limits(2)[1] * moving
    return Individuals(
        *(mean, moving, sigma, low, high, most),
        tuple(i for i, value in enumerate(values) if not low <= value <= high),
        tuple(i for i, step in enumerate(steps, 1) if step > most),
    )


def from_nominal(values: Sequence[float], nominals: Sequence[float]) -> Individuals | None:
    """Return the chart of the deviations from nominal, for a short run of unlike sizes made by one process.

    Args:
        values: readings in order. [mm or inch, one unit]
        nominals: the nominal of each, in the same unit. [mm or inch]

    Source:
        Common practice, no source. It holds where the sizes scatter alike; `spreads_alike` says whether they seem to.
    """
    return individuals([value - nominal for value, nominal in zip(values, nominals, strict=True)])


def spreads_alike(groups: Sequence[Sequence[float]]) -> float:
    """Return the chance that spreads at least this unlike come from one process, [0 to 1]; 1 where there is too little to say.

    Args:
        groups: readings of each size. [any unit]

    Source:
        Bartlett's test, its chi-square approximation; held to scipy's.
    """
    from scipy.special import chdtrc  # noqa: PLC0415 - heavy, and seldom wanted

    counted = [(len(group) - 1, variance(group)) for group in groups if len(group) >= FEWEST]
    if len(counted) < FEWEST or any(not square for _, square in counted):
        return 1.0
    freedom = sum(n for n, _ in counted)
    pooled = sum(n * square for n, square in counted) / freedom
    top = freedom * log(pooled) - sum(n * log(square) for n, square in counted)
    bottom = 1 + (sum(1 / n for n, _ in counted) - 1 / freedom) / (3 * (len(counted) - 1))
    return float(chdtrc(len(counted) - 1, top / bottom))
