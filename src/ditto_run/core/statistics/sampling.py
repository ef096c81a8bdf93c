"""How many pieces of a lot have to be gauged, by what a bad one would do."""

from enum import StrEnum
from math import floor


class Severity(StrEnum):
    """What a bad piece would do."""

    HURTS = "holds pressure, lifts, or spins near people"
    STOPS = "does not go together, or stops what it is in"
    SHOWS = "is seen or felt, and works"


PLANS: dict[Severity, tuple[float, float]] = {Severity.STOPS: (0.025, 0.95), Severity.SHOWS: (0.10, 0.90)}
"""Share of bad pieces that is to be found out, and how surely; common practice, no source. What can hurt is gauged piece by piece."""


def to_gauge(lot: int, severity: Severity) -> int:
    """Return how many pieces of a lot to gauge, drawn at random; the lot goes on only if all are good.

    Args:
        lot: pieces in it, 1 or more. [pieces]
        severity: what a bad one would do.

    Source:
        Hypergeometric distribution; a lot without end is held to [tolerance] (29 for 10 % at 95 %, 299 for 1 % at 95 %).
    """
    if severity is Severity.HURTS:
        return lot
    return sample(lot, *PLANS[severity])


def sample(lot: int, share: float, confidence: float) -> int:
    """Return the least sample without a bad piece that shows, with this confidence, that no more than this share of the lot is bad.

    Args:
        lot: pieces in it. [pieces]
        share: of the pieces. [0 to 1]
        confidence: that it is so. [0 to 1]
    """
    bad = floor(share * lot + 1e-9) + 1
    if bad > lot:
        return 0
    missed, gauged = 1.0, 0
    while missed > 1 - confidence:
        missed *= (lot - bad - gauged) / (lot - gauged)
        gauged += 1
    return gauged
