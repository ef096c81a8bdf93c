"""Steps and nests that were cut into jaws for a part, and what else they take."""

import re
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.entry.rows import lengths_of
from ditto_run.core.errors import BadEntry
from ditto_run.core.units import LengthUnit

LOOSEST = Decimal("0.3")  # a step this much wider still takes a piece; common practice, no source. [mm]
MOST_STEPS = 20
TWO = 2


@dataclass(frozen=True, slots=True)
class JawStep:
    """One step or nest.

    Args:
        across_mm: what it takes, between its sides. [mm]
        deep_mm: how deep it is. [mm]
        is_round: True for a round nest.
    """

    across_mm: Decimal
    deep_mm: Decimal
    is_round: bool = False

    def takes(self, across_mm: Decimal) -> bool:
        """Return whether a piece goes in and lies snug: not larger, and no more than 0.3 mm smaller. [mm]."""
        return 0 <= self.across_mm - across_mm <= LOOSEST


def read_steps(text: str, unit: LengthUnit, field: str = "steps") -> tuple[JawStep, ...]:
    """Return the steps of jaws as they are typed: `40 x 6; Ø22 x 5`.

    Args:
        text: size and depth of each, parted by semicolons.
        unit: of figures typed alone.
        field: named by a refusal.

    Raises:
        BadEntry: if one is not a size and a depth, or there are too many.
    """
    rows = [row.strip() for row in text.split(";") if row.strip()]
    if len(rows) > MOST_STEPS:
        raise BadEntry(
            f"{len(rows)} steps are more than {MOST_STEPS}.", "Keep them as another holder.", field
        )
    return tuple(_step(row, unit, field) for row in rows)


def _step(row: str, unit: LengthUnit, field: str) -> JawStep:
    is_round = row[0] in "Øø⌀"
    bare = re.sub(r"[Øø⌀]|\b(?:deep|wide)\b", " ", row)
    sizes = lengths_of(re.sub(r"\s+x\s*|(?<=\d)x(?=[\d.])", " ", bare), unit, field)
    if len(sizes) != TWO or min(sizes) <= 0:
        raise BadEntry(f"“{row[:20]}” is no step.", "Type its size and how deep it is: 40 x 6.", field)
    return JawStep(sizes[0], sizes[1], is_round)
