"""Times as typed at a machine."""

import re

from ditto_run.core.errors import BadEntry

LONGEST_S = 7 * 24 * 3600


def read_seconds(text: str, field: str) -> float:
    """Return a typed time: 41, 41 s, 0:41, 1:05:00, 2 min or 2.5 min.

    Args:
        text: as typed; empty means no time.
        field: entry field it came from, for the answer.

    Returns:
        The time; 0 for an empty entry. [s]

    Raises:
        BadEntry: if it is not a time, or longer than a week.

    Example:
        >>> read_seconds("1:05", "time")
        65.0
    """
    typed = text.strip().replace(",", ".").lower()
    if not typed:
        return 0.0
    if match := re.fullmatch(r"(?:(\d{1,3}):)?(\d{1,4}):([0-5]\d(?:\.\d+)?)", typed):
        seconds = int(match[1] or 0) * 3600 + int(match[2]) * 60 + float(match[3])
    elif match := re.fullmatch(r"(\d{1,7}(?:\.\d{1,3})?)\s*(s|sec|seconds?|min|minutes?|m|h|hours?)?", typed):
        seconds = float(match[1]) * {"m": 60, "h": 3600}.get((match[2] or "s")[0], 1)
    else:
        raise BadEntry(
            f"“{text[:40]}” is not a time.", "Type seconds as 41, or minutes and seconds as 1:05.", field
        )
    if seconds > LONGEST_S:
        raise BadEntry(f"“{text[:40]}” is longer than a week.", "Check the time.", field)
    return seconds
