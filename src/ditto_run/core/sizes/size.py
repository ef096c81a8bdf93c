"""One size on a drawing: what was typed, and what it means."""

from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.units import Unit, to_base

Kind = Literal["length", "diameter", "radius", "angle", "thread", "drill"]


@dataclass(frozen=True, slots=True)
class Size:
    """A size with its limits, in the unit it was typed in.

    Args:
        text: as typed.
        unit: mm, in, or arcsec for an angle.
        decimals: decimals typed, kept in every later display.
        nominal: the middle word of the drawing. [unit]
        lower: least accepted value, itself accepted; None if there is none. [unit]
        upper: largest accepted value, itself accepted; None if there is none. [unit]
        kind: length, diameter, radius, angle, thread or drill.
        name: standard name it was given by, such as H7, M6×1, 1:10 or perpendicular.
        as_limits: True if the drawing gives two limits and no nominal.
        note: what else the drawing says beside it, such as 4 ×, through, across flats.
    """

    text: str
    unit: Unit
    decimals: int
    nominal: Decimal
    lower: Decimal | None = None
    upper: Decimal | None = None
    kind: Kind = "length"
    name: str = ""
    note: str = ""
    as_limits: bool = False

    def __post_init__(self) -> None:
        if self.lower is not None and self.upper is not None and self.lower > self.upper:
            raise BadEntry(
                f"The lower limit {self.lower} is above the upper limit {self.upper}.",
                "Swap them, or check the signs.",
                "size",
            )

    @property
    def has_limits(self) -> bool:
        """True if at least one limit is given."""
        return self.lower is not None or self.upper is not None

    @property
    def middle(self) -> Decimal:
        """The value to aim at: half-way between the limits, else the nominal, [unit]."""
        if self.lower is None or self.upper is None:
            return self.nominal
        return (self.lower + self.upper) / 2

    @property
    def nominal_base(self) -> Decimal:
        """The nominal in mm, or in seconds of arc; exact."""
        return to_base(self.nominal, self.unit)

    def with_text(self, text: str) -> "Size":
        """Return the same size under other typed words."""
        return replace(self, text=text)
