"""The blank: what the finished part is cut from, with its allowances and what is gripped."""

from dataclasses import dataclass
from decimal import Decimal
from math import pi
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets import Knows
from ditto_run.core.units import length_text

Shape = Literal["bar", "block"]


@dataclass(frozen=True, slots=True)
class Blank:
    """One blank, the record that cuts, setups and the incoming check use.

    Args:
        shape: bar (across and length) or block (X, Y and Z).
        finished_mm: finished sizes: across, length; or X, Y, Z. [mm]
        blank_mm: the same with allowances and grip. [mm]
        grip_mm: what is held and cut away, for each piece; 0 if the bar itself is held. [mm]
        square_mm: how far out of square the sawn end may be. [mm]
    """

    shape: Shape
    finished_mm: tuple[Decimal, ...]
    blank_mm: tuple[Decimal, ...]
    grip_mm: Decimal = Decimal(0)
    square_mm: Decimal = Decimal(0)

    @property
    def across_mm(self) -> Decimal:
        """Diameter of a bar, smaller of Y and Z of a block, [mm]."""
        return self.blank_mm[0] if self.shape == "bar" else min(self.blank_mm[1:])

    @property
    def length_mm(self) -> Decimal:
        """Length that is cut off, [mm]."""
        return self.blank_mm[1] if self.shape == "bar" else self.blank_mm[0]

    @property
    def facing_mm(self) -> Decimal:
        """What is faced off each sawn end, [mm]."""
        if self.shape == "bar":
            return (self.length_mm - self.finished_mm[1] - self.grip_mm) / 2
        return (self.length_mm - self.finished_mm[0]) / 2

    @property
    def volume_mm3(self) -> float:
        """Volume of the blank, [mm³]."""
        return _volume(self.shape, self.blank_mm)

    @property
    def finished_volume_mm3(self) -> float:
        """Volume of the envelope of the finished part, [mm³]."""
        return _volume(self.shape, self.finished_mm)


def _volume(shape: Shape, sizes: tuple[Decimal, ...]) -> float:
    if shape == "bar":
        return pi / 4 * float(sizes[0]) ** 2 * float(sizes[1])
    return float(sizes[0] * sizes[1] * sizes[2])


def bar_blank(
    across_mm: Decimal,
    length_mm: Decimal,
    skin_mm: Decimal,
    facing_mm: Decimal,
    grip_mm: Decimal,
    square_mm: Decimal,
) -> Blank:
    """Return the blank of a turned part: finished length, facing each end and grip.

    Args:
        across_mm: finished largest diameter. [mm]
        length_mm: finished length. [mm]
        skin_mm: allowance on the diameter. [mm]
        facing_mm: facing of each end. [mm]
        grip_mm: held and cut away, for each piece. [mm]
        square_mm: out of square of the sawn ends, added to the facing. [mm]

    Raises:
        BadEntry: if the facing does not clean up an end that is out of square.

    Source:
        Blank = finished length + facing each end + grip; rule of the Stock step.
    """
    _cleans_up(facing_mm, square_mm)
    return Blank(
        "bar",
        (across_mm, length_mm),
        (across_mm + skin_mm, length_mm + 2 * facing_mm + grip_mm),
        grip_mm,
        square_mm,
    )


def block_blank(
    sizes_mm: tuple[Decimal, Decimal, Decimal],
    allowances_mm: tuple[Decimal, Decimal, Decimal],
    grip_mm: Decimal,
    square_mm: Decimal,
) -> Blank:
    """Return the blank of a milled part.

    Args:
        sizes_mm: finished X, Y and Z. [mm]
        allowances_mm: stock on each of the two faces along X, Y and Z. [mm]
        grip_mm: held below the part along Z and cut away. [mm]
        square_mm: out of square of the sawn ends. [mm]

    Raises:
        BadEntry: if the allowance along X does not clean up an end that is out of square.

    Source:
        Rule of the Stock step.
    """
    _cleans_up(allowances_mm[0], square_mm)
    x, y, z = (size + 2 * allowance for size, allowance in zip(sizes_mm, allowances_mm, strict=True))
    return Blank("block", sizes_mm, (x, y, z + grip_mm), grip_mm, square_mm)


def _cleans_up(facing_mm: Decimal, square_mm: Decimal) -> None:
    if square_mm > facing_mm:
        raise BadEntry(
            f"The end is {length_text(square_mm, 'mm', 2)} out of square, the facing takes {length_text(facing_mm, 'mm', 2)}.",
            "Leave more, or true up the saw.",
            "facing",
        )


NO_BLANK: Blank | None = None
BLANK_FOUND = Knows("blank", NO_BLANK)
"""As Stock has it; None without one."""
