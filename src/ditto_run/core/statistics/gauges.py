"""Whether a gauge is good enough for a size, and what a reading proves.

Resolution and repeatability against the limits; guard bands where a reading has to prove that a piece keeps its limits; sizes at 20 °C.
"""

from dataclasses import dataclass
from enum import StrEnum
from statistics import NormalDist

TENTH = 0.1
FAIR, POOR = 0.1, 0.3  # shares of the width of the limits, common practice
SIX = 6.0
REFERENCE_C = 20.0


class Fitness(StrEnum):
    """How a gauge suits a size."""

    GOOD = "good enough"
    FAIR = "good enough for most"
    POOR = "too coarse"


@dataclass(frozen=True, slots=True)
class Adequacy:
    """A gauge against a size.

    Args:
        fitness: the verdict.
        resolution: step of its scale over the width of the limits. [-]
        spread: six repeatabilities over that width. [-]
    """

    fitness: Fitness
    resolution: float
    spread: float


def adequacy(resolution: float, repeatability: float, width: float) -> Adequacy:
    """Return whether a gauge suits limits so far apart.

    Args:
        resolution: step of its scale. [mm or inch]
        repeatability: standard deviation of readings of one piece. [mm or inch]
        width: upper less lower limit, over 0. [mm or inch]

    Source:
        Resolution over a tenth of the width is too coarse, six repeatabilities under a tenth good and over three tenths too much: common
        practice, no source.
    """
    step, spread = resolution / width, SIX * repeatability / width
    if step > TENTH or spread > POOR:
        return Adequacy(Fitness.POOR, step, spread)
    return Adequacy(Fitness.FAIR if spread > FAIR else Fitness.GOOD, step, spread)


class Proof(StrEnum):
    """What a reading proves of a piece."""

    INSIDE = "keeps its limits"
    OUTSIDE = "does not keep its limits"
    NEITHER = "not proved either way"


def guard_band(uncertainty: float, chance: float = 0.05) -> float:
    """Return how far inside a limit a reading has to lie to prove that it is kept.

    Args:
        uncertainty: standard uncertainty of a reading. [mm or inch]
        chance: of accepting a piece that just does not keep it. [0 to 0.5]

    Source:
        [14253]; 1.645 standard uncertainties at 5 %.
    """
    return NormalDist().inv_cdf(1 - chance) * uncertainty


def proved(
    value: float, lower: float | None, upper: float | None, uncertainty: float, chance: float = 0.05
) -> Proof:
    """Return whether a reading proves that a piece keeps its limits, or that it does not.

    Args:
        value: the reading. [one unit]
        lower: lower limit, None where there is none. [one unit]
        upper: upper limit, likewise. [one unit]
        uncertainty: standard uncertainty of the reading. [one unit]
        chance: of being wrong at the limit itself. [0 to 0.5]

    Source:
        [14253]: between acceptance and rejection lies what is proved neither way.
    """
    guard = guard_band(uncertainty, chance)
    if (lower is not None and value < lower - guard) or (upper is not None and value > upper + guard):
        return Proof.OUTSIDE
    if (lower is None or value >= lower + guard) and (upper is None or value <= upper - guard):
        return Proof.INSIDE
    return Proof.NEITHER


def at_20(value: float, piece_c: float, gauge_c: float, piece_k: float, gauge_k: float) -> float:
    """Return the size at 20 °C of a piece measured warm with a gauge that may be warm too.

    Args:
        value: the reading. [mm or inch]
        piece_c: temperature of the piece. [°C]
        gauge_c: temperature of the gauge. [°C]
        piece_k: expansion of the piece's material. [1/K]
        gauge_k: expansion of the gauge's. [1/K]

    Source:
        [iso1], linear expansion.
    """
    return value * (1 + gauge_k * (gauge_c - REFERENCE_C)) / (1 + piece_k * (piece_c - REFERENCE_C))


def is_warm(value: float, cold: float, width: float) -> bool:
    """Return whether warmth moves a reading by more than a tenth of the width of the limits.

    Args:
        value: the reading. [mm or inch]
        cold: what `at_20` makes of it. [mm or inch]
        width: upper less lower limit. [mm or inch]
    """
    return abs(value - cold) > TENTH * width
