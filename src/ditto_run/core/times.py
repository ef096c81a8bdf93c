"""Times as typed at a machine."""

import re

from ditto_run.core.entry.numbers import NUMBER, number
from ditto_run.core.entry.signs import normalised
from ditto_run.core.entry.spoken import words_to_digits
from ditto_run.core.errors import BadEntry, DittoError

LONGEST_S = 7 * 24 * 3600
SCALE = {"s": 1, "m": 60, "h": 3600, "d": 86_400}
CLOCK = re.compile(r"(?:(\d{1,3}):)?(\d{1,4}):([0-5]\d(?:\.\d+)?)(?: ?(?:h|min|m:s))?")
UNITS = r"(?:seconds?|secs?|s|minutes?|mins?|m|hours?|hrs?|h|days?|d)(?![a-z])"
PART = re.compile(rf"({NUMBER}) ?({UNITS})?\.?(?:[ ,]+and)?[ ,]*", re.IGNORECASE)
SAID_OF = re.compile(
    r"(?: (?:each|per piece|a piece|apiece)| an? (?=(?:h|m|s))| of an? (?=(?:hour|minute)))", re.IGNORECASE
)


def read_seconds(text: str, field: str, bare: str = "s") -> float:
    """Return a typed time: 41, 41 s, 0:41, 1:05:00, 2 min, 2.5 min, 1 h 30, 1 min 20 s, half an hour.

    Args:
        text: as typed; empty means no time.
        field: entry field it came from, for the answer.
        bare: unit of a number typed alone: s, m or h.

    Returns:
        The time; 0 for an empty entry. [s]

    Raises:
        BadEntry: if it is not a time, or longer than a week.

    Example:
        >>> read_seconds("1:05", "time")
        65.0
    """
    if not text.strip():
        return 0.0
    refused = BadEntry(
        f"“{text.strip()[:40]}” is not a time.",
        "Type seconds as 41, minutes and seconds as 1:05, or 1 h 30 min.",
        field,
    )
    try:
        typed = SAID_OF.sub(" ", words_to_digits(_points(text))).strip()
    except DittoError:
        raise refused from None
    if match := CLOCK.fullmatch(typed):
        seconds = int(match[1] or 0) * 3600 + int(match[2]) * 60 + float(match[3])
    else:
        try:
            seconds = _parts(typed, bare)
        except (ValueError, DittoError):
            raise refused from None
    if seconds > LONGEST_S:
        raise BadEntry(f"“{text.strip()[:40]}” is longer than a week.", "Check the time.", field)
    return seconds


def _points(text: str) -> str:
    """Return a time with one way of writing each sign; a comma in it is a decimal point."""
    return normalised(re.sub(r"(?<=\d),(?=\d)", ".", text))


def _parts(typed: str, bare: str) -> float:
    """Return a time written in one or more parts, each of a smaller unit than the one before, [s].

    Raises:
        ValueError: if it is none.
    """
    at, total, last = 0, 0.0, None
    while at < len(typed):
        match = PART.match(typed, at)
        if match is None:
            raise ValueError(typed)
        if not match[2] and last == "s":
            raise ValueError(typed)
        unit = match[2][0].lower() if match[2] else {None: bare, "d": "h", "h": "m", "m": "s"}[last]
        if last is not None and SCALE[unit] >= SCALE[last]:
            raise ValueError(typed)
        total += float(number(match[1]).value) * SCALE[unit]
        at, last = match.end(), unit
    if last is None:
        raise ValueError(typed)
    return total
