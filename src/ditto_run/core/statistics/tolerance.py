"""Between which sizes so great a share of all pieces lies, and which share lies within the limits, each with how sure that is."""

from collections.abc import Sequence
from functools import lru_cache
from math import exp, pi, sqrt
from statistics import NormalDist, fmean, stdev

from ditto_run.core.statistics.indices import gaps_of

NORMAL = NormalDist()
STEPS = 200
ROUNDS = 60
FEWEST = 2


def one_sided(count: int, share: float, confidence: float) -> float:
    """Return k: with this confidence at least this share lies below mean + k standard deviations, [-].

    Args:
        count: readings, two or more. [pieces]
        share: of the pieces. [0 to 1]
        confidence: that it is so. [0 to 1]

    Source:
        Noncentral t; held to [tolerance].
    """
    from scipy.special import nctdtrit  # noqa: PLC0415 - heavy, and seldom wanted

    root = sqrt(count)
    return float(nctdtrit(count - 1, NORMAL.inv_cdf(share) * root, confidence)) / root


@lru_cache(maxsize=64)
def two_sided(count: int, share: float, confidence: float) -> float:
    """Return k: with this confidence at least this share lies within k standard deviations of the mean, [-].

    Args:
        count: readings, two or more. [pieces]
        share: of the pieces. [0 to 1]
        confidence: that it is so. [0 to 1]

    Source:
        Exact, by integrating over where the mean may lie; own derivation, held to [tolerance].
    """
    from scipy.special import chdtrc  # noqa: PLC0415 - heavy, and seldom wanted

    reach = 8 / sqrt(count)
    step = reach / STEPS
    freedom = count - 1
    places = [
        (_half_width(i * step, share), step * (1 if i in {0, STEPS} else 4 if i % 2 else 2) / 3)
        for i in range(STEPS + 1)
    ]
    weights = [
        w * 2 * sqrt(count / (2 * pi)) * exp(-count * (i * step) ** 2 / 2) for i, (_, w) in enumerate(places)
    ]

    def sure(k: float) -> float:
        return sum(
            w * float(chdtrc(freedom, freedom * (r / k) ** 2))
            for w, (r, _) in zip(weights, places, strict=True)
        )

    low, high = 0.01, 1000.0
    for _ in range(ROUNDS):
        middle = sqrt(low * high)
        low, high = (middle, high) if sure(middle) < confidence else (low, middle)
    return sqrt(low * high)


def _half_width(at: float, share: float) -> float:
    """Half width of the piece of the standard normal distribution about `at` that holds this share."""
    low, high = 0.0, at + 10.0
    for _ in range(ROUNDS):
        middle = (low + high) / 2
        holds = NORMAL.cdf(at + middle) - NORMAL.cdf(at - middle)
        low, high = (middle, high) if holds < share else (low, middle)
    return high


def enough(share: float, confidence: float, *, both_ends: bool = False) -> int:
    """Return how many readings are enough to say that this share lies below the greatest, or between the least and the greatest.

    Args:
        share: of the pieces. [0 to 1]
        confidence: that it is so. [0 to 1]
        both_ends: between the least and the greatest.

    Source:
        Wilks; held to [tolerance]. It holds whatever the distribution.
    """
    count = 2
    while True:
        missed = share**count + (count * (1 - share) * share ** (count - 1) if both_ends else 0.0)
        if missed <= 1 - confidence:
            return count
        count += 1


def share_counted(good: int, count: int, confidence: float = 0.95) -> tuple[float, float]:
    """Return the interval of the share of good pieces, so many of so many being good, [0 to 1].

    Args:
        good: good pieces. [pieces]
        count: pieces gauged, over 0. [pieces]
        confidence: [0 to 1]

    Source:
        Clopper and Pearson; held to scipy.
    """
    from scipy.special import betaincinv  # noqa: PLC0415 - heavy, and seldom wanted

    tail = (1 - confidence) / 2
    low = 0.0 if good == 0 else float(betaincinv(good, count - good + 1, tail))
    high = 1.0 if good == count else float(betaincinv(good + 1, count - good, 1 - tail))
    return low, high


def share_within(
    values: Sequence[float], lower: float | None, upper: float | None, confidence: float = 0.95
) -> tuple[float, float, float] | None:
    """Return the share of all pieces that keeps its limits, and the interval it lies in: likely, low, high, [0 to 1].

    Args:
        values: readings, one a piece, taken as normally spread. [size's unit]
        lower: lower limit, None where there is none. [size's unit]
        upper: upper limit, likewise. [size's unit]
        confidence: of the interval, at least. [0 to 1]

    Source:
        Each limit by the noncentral t, the two together by adding what they may miss; own derivation, held to the one-sided factors of
        [tolerance] and to a simulation. None where there are fewer than two readings, no spread or no limit.
    """
    if len(values) < FEWEST or not (spread := stdev(values)) or (lower is None and upper is None):
        return None
    mean, count = fmean(values), len(values)
    gaps = [gap / spread for gap in gaps_of(mean, lower, upper)]
    tail = (1 - confidence) / 2 / len(gaps)
    likely = sum(NORMAL.cdf(-gap) for gap in gaps)
    most = sum(_beyond(gap, count, 1 - tail) for gap in gaps)
    least = max(_beyond(gap, count, tail) for gap in gaps)
    return 1 - likely, max(1 - most, 0.0), 1 - least


def _beyond(gap: float, count: int, confidence: float) -> float:
    """Share beyond a limit so many spreads away that is not exceeded with this confidence."""
    from scipy.special import nctdtr  # noqa: PLC0415 - heavy, and seldom wanted

    root = sqrt(count)
    low, high = -40.0, 40.0  # of the true distance: the farther, the less likely so small a one is seen
    for _ in range(ROUNDS):
        middle = (low + high) / 2
        seen = float(nctdtr(count - 1, middle * root, gap * root))
        low, high = (middle, high) if seen > confidence else (low, middle)
    return NORMAL.cdf(-(low + high) / 2)
