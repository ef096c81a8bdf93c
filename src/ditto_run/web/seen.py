"""Which setup a page of Place or Tools looks at, and in which of the cycles it is cut in."""

import re
from dataclasses import dataclass
from typing import Annotated

from fastapi import Path, Query

from ditto_run.core.plan import Plan

SEEN = re.compile(r"[0-9]{1,9}(\.[0-9]{1,9})?")
SeenQuery = Annotated[str | None, Query(pattern=f"^{SEEN.pattern}$")]
SeenPath = Annotated[str, Path(pattern=f"^{SEEN.pattern}$")]


@dataclass(frozen=True, slots=True)
class Seen:
    """What a page of Place or Tools looks at; in an address 3, or 3.12 for setup 3 in cycle 12.

    Args:
        key: of the setup; 0 without any.
        cycle: key of one of the cycles it is cut in; 0 for the first.
    """

    key: int
    cycle: int = 0

    def __str__(self) -> str:
        """Return it as it stands in an address."""
        return f"{self.key}.{self.cycle}" if self.cycle else f"{self.key}"


def setup_chosen(plan: Plan, setup: str | None) -> Seen:
    """Return the setup a page shows: the one asked for, else the first; and the cycle, where it is cut in several."""
    key, _, cycle = (setup or "").partition(".")
    if not key or not plan.position(int(key)):
        return Seen(plan.setups[0].key if plan.setups else 0)
    cycles = plan.cycles_of(int(key))
    found = int(cycle or 0)
    return Seen(int(key), found if len(cycles) > 1 and any(c.key == found for c in cycles) else 0)
