"""What all stations share, apart from what one has for itself: a common shift is the tool's, one station's shift is its offset's.

Model: a reading of station s lies off by c + bₛ + scatter; c and the bₛ are normal about 0. Estimate: their joint posterior, in closed
form. Source: random effects, textbook; held to the joint normal distribution worked out with numpy.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import sqrt
from statistics import NormalDist, fmean


@dataclass(frozen=True, slots=True)
class ShiftSeen:
    """A shift.

    Args:
        likely: [the readings' unit]
        error: its standard error. [the readings' unit]
        chance: that it has this sign. [0.5 to 1]
    """

    likely: float
    error: float
    chance: float


@dataclass(frozen=True, slots=True)
class Apart:
    """Shifts told apart: what is common, and by station what it has beside that."""

    common: ShiftSeen
    stations: Mapping[int, ShiftSeen]


def told_apart(
    readings: Mapping[int, Sequence[float]], scatter: float, common: float = 0.3, place: float = 0.3
) -> Apart:
    """Return the common shift and each station's own, with how sure they are.

    Args:
        readings: deviations from where each should be, by station; stations without a reading may be given empty. [one unit]
        scatter: standard deviation from piece to piece, over 0. [the same unit]
        common: how far all may move together, standard deviation. [the same unit]
        place: how far one may move by itself, standard deviation. [the same unit]

    Source:
        See the module. With one station what is common cannot be told from its own; both are then as unsure as before, and it says so.
    """
    own = place**2
    seen = {one: (fmean(values), scatter**2 / len(values)) for one, values in readings.items() if values}
    precision = 1 / common**2 + sum(1 / (own + var) for _, var in seen.values())
    middle = sum(mean / (own + var) for mean, var in seen.values()) / precision
    stations = {}
    for one in readings:
        if one not in seen:
            stations[one] = _shift(0.0, own)
            continue
        mean, var = seen[one]
        pull = own / (own + var)
        stations[one] = _shift(pull * (mean - middle), pull * var + pull**2 / precision)
    return Apart(_shift(middle, 1 / precision), stations)


def _shift(likely: float, variance: float) -> ShiftSeen:
    error = sqrt(variance)
    return ShiftSeen(likely, error, NormalDist().cdf(abs(likely) / error))
