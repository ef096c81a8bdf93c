"""Cumulative sums: small shifts that last, and where they began."""

from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Sums:
    """Cumulative sums of what goes beyond the slack.

    Args:
        up, down: after each reading. [sigma]
        signal: the reading at which one first exceeded the limit, counted from 0; None where none did.
        since: the first reading of that rise, counted from 0: where the change is likely to lie.
        shift: how far the mean is likely to have moved since. [sigma]
    """

    up: tuple[float, ...]
    down: tuple[float, ...]
    signal: int | None = None
    since: int | None = None
    shift: float = 0.0


def cumulative_sum(
    values: Sequence[float], centre: float, sigma: float, slack: float = 0.5, limit: float = 5.0
) -> Sums:
    """Return the two-sided cumulative sum, and where it says that the mean moved.

    Args:
        values: readings in order. [any unit]
        centre: where they should lie. [their unit]
        sigma: their usual spread, over 0. [their unit]
        slack: half the shift one wants to see. [sigma]
        limit: sum from which on it speaks. [sigma]

    Source:
        Tabular form; run lengths are held to [cusum].
    """
    z = [(value - centre) / sigma for value in values]
    up, down = _sums(z, slack), _sums([-x for x in z], slack)
    for at, (high, low) in enumerate(zip(up, down, strict=True)):
        if max(high, low) > limit:
            sums, sign = (up, 1.0) if high > low else (down, -1.0)
            since = at
            while since > 0 and sums[since - 1] > 0:
                since -= 1
            shift = sign * (slack + sums[at] / (at - since + 1))
            return Sums(tuple(up), tuple(down), at, since, shift)
    return Sums(tuple(up), tuple(down))


def _sums(z: Sequence[float], slack: float) -> list[float]:
    found, now = [], 0.0
    for x in z:
        now = max(0.0, now + x - slack)
        found.append(now)
    return found
