"""A time as it is known before the work is done: one guess, or low, likely and high."""

import re
from dataclasses import dataclass
from math import log

from ditto_run.core.errors import BadEntry
from ditto_run.core.times import read_seconds

# One guess alone is taken to lie between these shares of it in 8 of 10 cases: work takes longer rather than
# shorter than was thought. Common practice, no source.
GUESS_LOW, GUESS_HIGH = 0.85, 1.30
Z_80 = 1.2815515655446004  # 90 % point of the standard normal distribution


@dataclass(frozen=True, slots=True)
class Guess:
    """A time and how sure it is: in 8 of 10 cases it lies between low and high.

    Args:
        text: as typed.
        low_s: one in ten is quicker. [s]
        likely_s: half are quicker. [s]
        high_s: one in ten is slower. [s]
    """

    text: str = ""
    low_s: float = 0.0
    likely_s: float = 0.0
    high_s: float = 0.0

    @property
    def slower(self) -> float:
        """Spread above the likely time, of its logarithm, [-]."""
        return log(self.high_s / self.likely_s) / Z_80 if self.likely_s else 0.0

    @property
    def quicker(self) -> float:
        """Spread below the likely time, of its logarithm, [-]."""
        return log(self.likely_s / self.low_s) / Z_80 if self.likely_s else 0.0


# Low, likely and high: 8/10/15 min, or 8 to 10 to 15 min.
THREE = re.compile(r"(.+?)\s*(?:/|\bto\b)\s*(.+?)\s*(?:/|\bto\b)\s*(.+)", re.IGNORECASE)
NOTHING = Guess()


def exactly(seconds: float) -> Guess:
    """Return a time that is known, [s]."""
    return Guess(f"{seconds:g} s", seconds, seconds, seconds)


def summed(one: Guess, other: Guess, times: float = 1.0) -> Guess:
    """Return a time and so many times another one after it, each as sure as it is alone.

    Args:
        one: the one.
        other: what comes after it.
        times: how often. [-]

    Example:
        >>> summed(read_guess("20/30/45 min", "ready"), read_guess("5/8/12 min", "ready"), 2).text
        '30/46/69 min'
    """
    if times == 0:
        return one
    low, likely, high = (
        a + b * times
        for a, b in zip(
            (one.low_s, one.likely_s, one.high_s), (other.low_s, other.likely_s, other.high_s), strict=True
        )
    )
    minutes = "/".join(f"{seconds / 60:.4g}" for seconds in (low, likely, high))
    return Guess(f"{minutes} min", low, likely, high)


def read_guess(text: str, field: str, bare: str = "s") -> Guess:
    """Return a typed time: `12 min`, or low, likely and high as `8/10/15 min`.

    Args:
        text: as typed; empty means no time.
        field: entry field it came from.
        bare: unit of a number typed without one, s or min.

    Raises:
        BadEntry: if it is no time, is negative, or the three are not in order.

    Source:
        The three are the 10, 50 and 90 % points of a two-piece lognormal distribution; own choice.
    """
    typed = text.strip()
    if not typed:
        return NOTHING
    if typed.startswith(("-", "−")):
        raise BadEntry(f"“{typed[:30]}” is below zero.", "A time is not negative.", field)
    three = THREE.fullmatch(typed)
    parts = [part.strip() for part in three.groups()] if three else [typed]
    if len(parts) == 1 and (" to " in typed.lower() or re.fullmatch(r"[\d.]+ ?/ ?[\d.]+", typed)):
        raise BadEntry(
            f"“{typed[:30]}” is neither one time nor three.",
            "Type 12 min, or low, likely and high as 8/10/15 min.",
            field,
        )
    unit = re.search(r"([smhd])[a-z]*\.?$", typed, re.IGNORECASE) if len(parts) > 1 else None
    found = [read_seconds(part, field, unit[1].lower() if unit else bare[0]) for part in parts]
    if len(found) == 1:
        time = found[0]
        return Guess(typed, time * GUESS_LOW, time, time * GUESS_HIGH) if time else NOTHING
    low, likely, high = found
    if not 0 < low <= likely <= high:
        raise BadEntry(
            f"“{typed[:30]}” does not rise from low to high.", "Type the low one first, above zero.", field
        )
    return Guess(typed, low, likely, high)
