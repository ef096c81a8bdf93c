"""The shop's own rules of order: which work comes before which, and why."""

import re
from dataclasses import dataclass

from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets.entries import Entries

BEFORE = re.compile(r"(.+?)\s+(?:comes\s+)?before\s+(.+)", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class OwnOrder:
    """One rule of the shop.

    Args:
        first: words of a step that comes first.
        then: words of one that comes after it.
        reason: why; empty where nobody said it.
    """

    first: str
    then: str
    reason: str = ""

    def is_first(self, does: str) -> bool:
        """Return whether a step's words say the work that comes first."""
        return _has(does, self.first)

    def is_then(self, does: str) -> bool:
        """Return whether a step's words say the work that comes after it, and not the first as well."""
        return _has(does, self.then) and not _has(does, self.first)


def _has(does: str, words: str) -> bool:
    """True if every word stands in what a step does, at its beginning: drill also for drilling."""
    return all(re.search(rf"\b{re.escape(word)}", does, re.IGNORECASE) for word in words.split())


def read_own_order(entries: Entries) -> OwnOrder:
    """Return the rule that a row of the register holds: deburr before ream.

    Raises:
        BadEntry: if it does not say what comes before what, or the same before itself.
    """
    said = entries.need("name", "deburr before ream")
    found = BEFORE.fullmatch(said)
    if found is None:
        raise BadEntry(
            f"“{said[:30]}” does not say what comes before what.", "Type it as deburr before ream.", "name"
        )
    first, then = found[1].strip(), found[2].strip()
    if first.lower() == then.lower():
        raise BadEntry(f"“{first[:30]}” cannot come before itself.", "Name two kinds of work.", "name")
    return OwnOrder(first, then, entries.text("reason"))
