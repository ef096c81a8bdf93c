"""How many to start, so that enough good pieces come out, at a stated confidence."""

from collections.abc import Callable
from dataclasses import dataclass
from math import exp, lgamma, log

from ditto_run.core.errors import BadEntry

MOST_STARTED = 100_000
PRIOR = 0.5  # Jeffreys: half a good and half a bad piece before anything is known


@dataclass(frozen=True, slots=True)
class History:
    """What the shop made of such parts before: good pieces and all pieces."""

    good: int
    made: int


def starts_for(good: int, scrap: float, confidence: float) -> int:
    """Return the least number to start so that `good` come out with at least that confidence.

    The bad pieces before the last good one follow a negative binomial distribution.

    Args:
        good: good pieces wanted, 1 or more. [pieces]
        scrap: share that comes out bad, from 0 to under 1. [-]
        confidence: 0.5 to 0.999. [-]

    Raises:
        BadEntry: if the share is out of range or the answer is over 100,000.

    Source:
        Negative binomial; the lots of docs/sources.md and scipy say the same.

    Example:
        >>> starts_for(10, 0.1, 0.95)
        13
    """
    if not 0 <= scrap < 1:
        raise BadEntry(f"A scrap share of {scrap:.0%} is not possible.", "Type 0 to 99 %.", "scrap")
    if not scrap:
        return good
    log_good, log_bad = good * log(1 - scrap), log(scrap)

    def term(bad: int) -> float:
        return lgamma(good + bad) - lgamma(bad + 1) - lgamma(good) + log_good + bad * log_bad

    return good + _least(term, confidence)


def starts_from_history(good: int, history: History, confidence: float) -> int:
    """Return the same where the share is only known from few pieces: beta-negative-binomial.

    With little history the answer is larger: what is not known counts as risk.

    Args:
        good: good pieces wanted. [pieces]
        history: what was made before.
        confidence: 0.5 to 0.999. [-]

    Raises:
        BadEntry: if the history has more good pieces than pieces, or the answer is over 100,000.

    Source:
        Posterior of Jeffreys' prior; scipy's betanbinom says the same.
    """
    if not 0 <= history.good <= history.made:
        raise BadEntry(
            f"{history.good} good of {history.made} made is not possible.",
            "Type good pieces, then all pieces.",
            "history_good",
        )
    a, b = history.good + PRIOR, history.made - history.good + PRIOR
    before = lgamma(a + b) - lgamma(a) - lgamma(b)

    def term(bad: int) -> float:
        ways = lgamma(good + bad) - lgamma(bad + 1) - lgamma(good)
        return ways + before + lgamma(a + good) + lgamma(b + bad) - lgamma(a + b + good + bad)

    return good + _least(term, confidence)


def _least(term: Callable[[int], float], confidence: float) -> int:
    """Return the least number of bad pieces whose cumulated chance reaches the confidence."""
    total = 0.0
    for bad in range(MOST_STARTED):
        total += exp(term(bad))
        if total >= confidence - 1e-12:
            return bad
    raise BadEntry(
        "More than 100,000 would have to be started.", "Lower the scrap first, or the confidence.", "scrap"
    )
