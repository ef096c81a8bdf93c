"""Days as typed."""

import re
from datetime import date

from ditto_run.core.errors import BadEntry

MONTHS = {
    name: n
    for n, name in enumerate(
        ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"], 1
    )
}
NAMED = re.compile(r"(\d{1,2})\.? ?([a-z]{3})[a-z]*\.?,? ?(\d{4})", re.IGNORECASE)


def read_day_of(text: str, field: str, after: date | None = None) -> date | None:
    """Return a typed day: 2026-12-04, 4 Dec 2026; None if empty. A day in figures alone any other way may be two days.

    Args:
        text: as typed.
        field: entry field it came from.
        after: a day it must not be before.

    Raises:
        BadEntry: if it is no day, or before the other.
    """
    bare = text.strip()
    if not bare:
        return None
    refused = BadEntry(f"“{bare[:20]}” is no day.", "Type it as 2026-12-04 or 4 Dec 2026.", field)
    named = NAMED.fullmatch(bare)
    try:
        if named and named[2].lower() in MONTHS:
            found = date(int(named[3]), MONTHS[named[2].lower()], int(named[1]))
        else:
            found = date.fromisoformat(bare)
    except ValueError:
        raise refused from None
    if after is not None and found < after:
        raise BadEntry(f"{bare[:20]} is before {after.isoformat()}.", "Check both days.", field)
    return found
