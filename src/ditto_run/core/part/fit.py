"""Fits of a hole and a shaft: classes both ways, two real sizes, reamers, pin holes."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.sizes.iso286 import deviations_um

UM = Decimal("0.001")
FitKind = Literal["clearance", "transition", "interference"]
PURPOSES: tuple[tuple[str, str, str, str], ...] = (  # purpose, hole basis, shaft basis, example
    ("loose running", "H11/c11", "C11/h11", "dirt, heat, wide play"),
    ("free running", "H9/d9", "D9/h9", "large play, quick turning"),
    ("close running", "H8/f7", "F8/h7", "a shaft that turns true"),
    ("sliding", "H7/g6", "G7/h6", "slides and turns by hand, locates"),
    ("locating, goes in by hand", "H7/h6", "H7/h6", "snug, taken apart again"),
    ("locating, light tap", "H7/k6", "K7/h6", "between play and press"),
    ("locating, firm tap", "H7/n6", "N7/h6", "accurate place, seldom taken apart"),
    ("light press", "H7/p6", "P7/h6", "stays in place, no torque"),
    ("drive", "H7/s6", "S7/h6", "stays for good, thin walls shrink fitted"),
    ("force", "H7/u6", "U7/h6", "carries load; heat the hub"),
)


@dataclass(frozen=True, slots=True)
class Fit:
    """A fit between limits.

    Args:
        hole_mm: least and largest hole. [mm]
        shaft_mm: least and largest shaft. [mm]
    """

    hole_mm: tuple[Decimal, Decimal]
    shaft_mm: tuple[Decimal, Decimal]

    @property
    def least_play_mm(self) -> Decimal:
        """Smallest hole on the largest shaft; below 0 is interference, [mm]."""
        return self.hole_mm[0] - self.shaft_mm[1]

    @property
    def most_play_mm(self) -> Decimal:
        """Largest hole on the smallest shaft, [mm]."""
        return self.hole_mm[1] - self.shaft_mm[0]

    @property
    def kind(self) -> FitKind:
        """Clearance, transition or interference."""
        if self.least_play_mm >= 0:
            return "clearance"
        return "interference" if self.most_play_mm <= 0 else "transition"


def fit_of_classes(nominal_mm: Decimal, hole_class: str, shaft_class: str) -> Fit:
    """Return the fit of two tolerance classes.

    Args:
        nominal_mm: common nominal size, over 0 up to 500. [mm]
        hole_class: such as H7.
        shaft_class: such as g6.

    Raises:
        BadEntry: if a class is outside the tables.

    Source:
        [iso286-1].

    Example:
        >>> fit_of_classes(Decimal(25), "H7", "g6").most_play_mm
        Decimal('0.041')
    """
    limits = []
    for name in (hole_class, shaft_class):
        low, high = deviations_um(
            nominal_mm,
            name.rstrip("0123456789"),
            int(name.lstrip("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ")),
        )
        limits.append((nominal_mm + low * UM, nominal_mm + high * UM))
    return Fit(limits[0], limits[1])


def purpose_of_play(nominal_mm: Decimal, play_mm: Decimal) -> str:
    """Return the common fit whose range holds the play of two real sizes, the tightest range first.

    Args:
        nominal_mm: nominal size. [mm]
        play_mm: hole less shaft. [mm]

    Returns:
        The purpose, or an empty text if none of the common fits holds it.

    Source:
        [iso286-1]; purposes are common practice, no source.
    """
    best, width = "", None
    for purpose, hole_basis, _, _ in PURPOSES:
        fit = fit_of_classes(nominal_mm, *hole_basis.split("/"))
        span = fit.most_play_mm - fit.least_play_mm
        if fit.least_play_mm <= play_mm <= fit.most_play_mm and (width is None or span < width):
            best, width = purpose, span
    return best


@dataclass(frozen=True, slots=True)
class ReamerMatch:
    """One reamer against a wanted hole.

    Args:
        name: as the shop calls it.
        cuts_mm: what it cuts. [mm]
        off_mm: how far outside the limits; 0 if inside. [mm]
    """

    name: str
    cuts_mm: Decimal
    off_mm: Decimal


def match_reamers(
    hole_mm: tuple[Decimal, Decimal], reamers: Sequence[tuple[str, Decimal]]
) -> list[ReamerMatch]:
    """Return the reamers owned, best first: inside the limits nearest their middle, then the least outside.

    Args:
        hole_mm: least and largest hole wanted. [mm]
        reamers: name and the diameter each cuts. [mm]

    Source:
        Own derivation.
    """
    low, high = hole_mm
    middle = (low + high) / 2
    found = [ReamerMatch(name, cuts, max(low - cuts, cuts - high, Decimal(0))) for name, cuts in reamers]
    return sorted(found, key=lambda match: (match.off_mm, abs(match.cuts_mm - middle)))


# Stock left for a machine reamer, on the diameter, up to and including each size. Common practice, no source.
ALLOWANCE_MM = (
    (Decimal(3), Decimal("0.10")),
    (Decimal(6), Decimal("0.15")),
    (Decimal(12), Decimal("0.20")),
    (Decimal(20), Decimal("0.25")),
    (Decimal(32), Decimal("0.30")),
    (Decimal(50), Decimal("0.40")),
)
MOST_ALLOWANCE_MM = Decimal("0.50")


def ream_allowance_mm(hole_mm: Decimal) -> Decimal:
    """Return the stock to leave for a reamer, on the diameter, [mm].

    Source:
        Common practice, no source; handbooks give 0.1 to 0.5 mm by size.
    """
    return next((left for size, left in ALLOWANCE_MM if hole_mm <= size), MOST_ALLOWANCE_MM)


def drill_before(
    hole_mm: Decimal, leave_mm: Decimal, drills: Sequence[tuple[str, Decimal]]
) -> tuple[str, Decimal] | None:
    """Return the largest drill that leaves a reamer its stock, and no more than twice that; None without one.

    Args:
        hole_mm: what is reamed to. [mm]
        leave_mm: the reamer's stock, on the diameter. [mm]
        drills: name and diameter of each drill of the drawer. [mm]

    Source:
        Common practice, no source.
    """
    fits = [drill for drill in drills if hole_mm - 2 * leave_mm <= drill[1] <= hole_mm - leave_mm]
    return max(fits, key=lambda drill: drill[1], default=None)


SLIP_LEAST_MM, SLIP_MOST_MM = Decimal("0.0127"), Decimal("0.0254")  # half a thou to a thou over the pin


def slip_hole_mm(pin_mm: Decimal) -> tuple[Decimal, Decimal]:
    """Return the hole in which a pin slips by hand and still locates: half a thou to a thou over it, [mm].

    Source:
        Common practice, no source.
    """
    return pin_mm + SLIP_LEAST_MM, pin_mm + SLIP_MOST_MM
