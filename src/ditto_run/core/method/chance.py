"""How sure a comparison is: every guessed time is drawn many times, with a seed."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from ditto_run.core.method.guess import Guess
from ditto_run.core.method.totals import CostLine, Measure, Sample, line_of
from ditto_run.core.method.way import Way

DRAWS = 20_000
TENTH, HALF, NINE_TENTHS = 10, 50, 90


@dataclass(frozen=True, slots=True)
class Chances:
    """What the draws show.

    Args:
        lines: drawn lines of each way, arrays over the draws.
        wins: share of the draws each way wins at the wanted quantity. [-]
        totals: 80 % range of each way's total at the wanted quantity.
    """

    lines: tuple[CostLine, ...]
    wins: tuple[float, ...]
    totals: tuple[tuple[float, float], ...]


def sampler(seed: int, draws: int = DRAWS) -> Sample:
    """Return a function that draws the time of a guess, the same for the same seed and order, [s].

    A guess is a two-piece lognormal: median likely, one in ten below low, one in ten above high.

    Args:
        seed: any whole number.
        draws: how many.

    Source:
        Own choice of distribution; calibrated by tests/core/method/test_chance.py.
    """
    import numpy as np  # noqa: PLC0415 - start-up stays quick

    generator = np.random.Generator(np.random.SFC64(seed))

    def sample(guess: Guess) -> Any:  # noqa: ANN401 - an array, or the plain time where nothing is guessed
        if not guess.likely_s or guess.low_s == guess.high_s:
            return guess.likely_s
        z = generator.standard_normal(draws, dtype=np.float32)
        spread = np.where(z > 0, np.float32(guess.slower), np.float32(guess.quicker))
        return np.exp(z * spread, out=z) * np.float32(guess.likely_s)

    return sample


def draw(ways: Sequence[Way], measure: Measure, quantity: int, seed: int = 1, draws: int = DRAWS) -> Chances:
    """Return how often each way wins at a quantity, and the 80 % range of its total.

    Args:
        ways: one way or more.
        measure: time, cost or days.
        quantity: good pieces. [pieces]
        seed: any whole number; the same gives the same.
        draws: how many.

    Source:
        Monte Carlo over the guessed times, each independent of the others.
    """
    import numpy as np  # noqa: PLC0415 - start-up stays quick

    sample = sampler(seed, draws)
    lines = tuple(line_of(way, measure, sample) for way in ways)
    totals = np.stack(
        [np.broadcast_to(np.asarray(line.at(quantity), dtype=np.float32), (draws,)) for line in lines]
    )
    winners = np.bincount(totals.argmin(axis=0), minlength=len(ways)) / draws
    ranges = tuple(_range(row) for row in totals)
    return Chances(lines, tuple(float(share) for share in winners), ranges)


def _range(values: Any) -> tuple[float, float]:  # noqa: ANN401 - an array
    import numpy as np  # noqa: PLC0415 - start-up stays quick

    last = len(values) - 1
    ends = (last * TENTH // 100, last * NINE_TENTHS // 100)
    ordered = np.partition(values, ends)
    return float(ordered[ends[0]]), float(ordered[ends[1]])


@dataclass(frozen=True, slots=True)
class DrawnCrossing:
    """Where two drawn ways cross, from all draws alike.

    Args:
        at: the quantity half of the draws lie below; infinite if half of them never cross. [pieces]
        low: one draw in ten lies below. [pieces]
        high: nine in ten lie below; infinite if more than one in ten never cross. [pieces]
    """

    at: float
    low: float
    high: float


def crossing_range(one: CostLine, other: CostLine, *, pays_from: bool) -> DrawnCrossing:
    """Return where a way overtakes another over all draws.

    A draw in which the way is the better one from the first piece on crosses at 0, one in which it never becomes the
    better one (or never stops being it, where it pays up to a quantity) at infinity.

    Args:
        one: drawn line of the way.
        other: drawn line of the other.
        pays_from: True if the way pays from a quantity on, False if it pays up to one.

    Source:
        Break-even of each pair of draws; the estimate is their median, so that it lies in its own range.
    """
    import numpy as np  # noqa: PLC0415 - start-up stays quick

    dearer = np.asarray(one.each - other.each, dtype=np.float64)
    gap = np.asarray(other.fixed - one.fixed, dtype=np.float64)
    dearer, gap = np.broadcast_arrays(np.atleast_1d(dearer), np.atleast_1d(gap))
    crosses = dearer < 0 if pays_from else dearer > 0
    with np.errstate(divide="ignore", invalid="ignore"):
        at = np.where(crosses, np.maximum(gap / dearer, 0.0), np.inf)
    last = at.size - 1
    ends = tuple(last * share // 100 for share in (TENTH, HALF, NINE_TENTHS))
    ordered = np.partition(at, ends)
    low, middle, high = (float(ordered[end]) for end in ends)
    return DrawnCrossing(middle, low, high)


def words_of(share: float) -> str:
    """Return a share of draws as it is said: in 9 of 10.

    Example:
        >>> words_of(0.93)
        'in 9 of 10'
    """
    tenths = round(share * 10)
    if tenths == 10:  # noqa: PLR2004
        return "nearly always" if share < 1 else "always"
    return f"in {tenths} of 10" if tenths else "hardly ever"
