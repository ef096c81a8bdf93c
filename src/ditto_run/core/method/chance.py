"""How sure a comparison is: every guessed time is drawn many times, with a seed."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from ditto_run.core.method.guess import Guess
from ditto_run.core.method.totals import CostLine, Measure, Sample, line_of
from ditto_run.core.method.way import Way

DRAWS = 20_000
TENTH, NINE_TENTHS = 10, 90
FEWEST_CROSSINGS = 0.1  # share of the draws in which two ways must cross for a range to mean anything


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


def crossing_range(one: CostLine, other: CostLine) -> tuple[float, float] | None:
    """Return the 80 % range of the quantity where two drawn ways cross; None if they seldom do, [pieces].

    Args:
        one: drawn line of the one way.
        other: drawn line of the other.

    Source:
        Break-even of each pair of draws; draws that never cross at a positive quantity are left out.
    """
    import numpy as np  # noqa: PLC0415 - start-up stays quick

    slope = np.asarray(one.each - other.each, dtype=np.float64)
    gap = np.asarray(other.fixed - one.fixed, dtype=np.float64)
    slope, gap = np.broadcast_arrays(slope, gap)
    with np.errstate(divide="ignore", invalid="ignore"):
        at = gap / slope
    crossed = at[np.isfinite(at) & (at > 0)]
    if crossed.size == 0 or (at.size > 1 and crossed.size < FEWEST_CROSSINGS * at.size):
        return None
    return _range(np.ravel(crossed))


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
