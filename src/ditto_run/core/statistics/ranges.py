"""What a range of so many readings is worth: the mean and spread of the range of a normal sample, and what charts make of them."""

from functools import cache
from math import erf, exp, lgamma, sqrt

STEPS, REACH = 4000, 9.0


@cache
def d2(count: int) -> float:
    """Return the mean range of so many normal readings, in standard deviations, [-].

    Source:
        Integral of 1 − (1 − Φ)ⁿ − Φⁿ by Simpson's rule; held to [constants].
    """
    step = 2 * REACH / STEPS
    total = 0.0
    for i in range(STEPS + 1):
        below = 0.5 * (1 + erf((-REACH + i * step) / sqrt(2)))
        weight = 1 if i in {0, STEPS} else 4 if i % 2 else 2
        total += weight * (1 - (1 - below) ** count - below**count)
    return total * step / 3


@cache
def d3(count: int) -> float:
    """Return the standard deviation of the range of so many normal readings, in standard deviations, [-].

    Source:
        Mean square of the range, 2 ∬ 1 − Φ(y)ⁿ − (1 − Φ(x))ⁿ + (Φ(y) − Φ(x))ⁿ over x < y, less d2²; [constants].
    """
    steps = 600
    step = 2 * REACH / steps
    at = [-REACH + (i + 0.5) * step for i in range(steps)]
    below = [0.5 * (1 + erf(x / sqrt(2))) for x in at]
    total = 0.0
    for j, upper in enumerate(below):
        rest = 1 - upper**count
        total += sum(rest - (1 - lower) ** count + (upper - lower) ** count for lower in below[:j]) + 0.5 * (
            rest - (1 - upper) ** count
        )
    return sqrt(2 * total * step * step - d2(count) ** 2)


@cache
def c4(count: int) -> float:
    """Return the mean of the sample standard deviation of so many normal readings, in standard deviations, [-]."""
    return sqrt(2 / (count - 1)) * exp(lgamma(count / 2) - lgamma((count - 1) / 2))


def range_limits(count: int) -> tuple[float, float]:
    """Return D3 and D4: three-sigma limits of the range, as multiples of the mean range, [-]."""
    share = 3 * d3(count) / d2(count)
    return max(1 - share, 0.0), 1 + share
