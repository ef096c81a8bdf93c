"""Tapers: any of angle, length and diameters from the others; how to set the slide."""

from dataclasses import dataclass
from math import atan, degrees, radians, sin, tan

from ditto_run.core.errors import BadEntry
from ditto_run.core.units import LengthUnit, length_text

WANTED = 3  # of the four
SMALLEST_RISE = 1e-9


@dataclass(frozen=True, slots=True)
class Taper:
    """A cone.

    Args:
        large_mm: large diameter. [mm]
        small_mm: small diameter. [mm]
        length_mm: along the axis. [mm]
        included_deg: angle between the two sides. [°]
    """

    large_mm: float
    small_mm: float
    length_mm: float
    included_deg: float

    @property
    def slide_deg(self) -> float:
        """What the top slide is swivelled to: half the included angle, [°]."""
        return self.included_deg / 2

    @property
    def growth(self) -> float:
        """Change of diameter over length, such as 0.0625 for 1 in 16, [-]."""
        return (self.large_mm - self.small_mm) / self.length_mm

    @property
    def infeed_per_diameter(self) -> float:
        """Travel along the swivelled slide that changes the diameter by one, [-]."""
        return 1 / (2 * sin(radians(self.slide_deg)))

    def tailstock_mm(self, between_centres_mm: float) -> float:
        """Return how far the tailstock is set over for a work piece of that length, [mm]."""
        return between_centres_mm * self.growth / 2

    def sine_stack_mm(self, bar_mm: float) -> float:
        """Return the block stack under a sine bar set to the included angle, [mm].

        Source: own derivation, bar × sin(angle); 5 in at 22.5° gives 1.9134 in.
        """
        return bar_mm * sin(radians(self.included_deg))


def solve_taper(
    large_mm: float | None = None,
    small_mm: float | None = None,
    length_mm: float | None = None,
    included_deg: float | None = None,
    unit: LengthUnit = "mm",
) -> Taper:
    """Return the whole taper from any three of its four figures.

    large − small = 2 × length × tan(angle / 2)

    Args:
        large_mm: large diameter, above 0. [mm]
        small_mm: small diameter, from 0. [mm]
        length_mm: along the axis, above 0. [mm]
        included_deg: between 0 and 180. [°]
        unit: unit that a refusal is said in.

    Raises:
        BadEntry: if fewer or more than three are given and do not agree, or the cone is impossible.

    Source:
        Own derivation; 1 in 16 is 3.5798° included, as every handbook of pipe threads prints.

    Example:
        >>> round(solve_taper(large_mm=20, small_mm=15, length_mm=80).included_deg, 4)
        3.5798
    """
    given = {"large": large_mm, "small": small_mm, "length": length_mm, "angle": included_deg}
    missing = [name for name, value in given.items() if value is None]
    if len(given) - len(missing) < WANTED:
        raise BadEntry(
            "Three of large end, small end, length and angle make a taper.",
            f"Type one more of {' or '.join(missing)}.",
            missing[0],
        )
    if large_mm is not None and small_mm is not None and large_mm - small_mm <= SMALLEST_RISE:
        raise BadEntry(
            "The large end is not larger than the small end.", "Swap them, or check the sizes.", "large"
        )
    rise = None if included_deg is None else 2 * tan(radians(included_deg) / 2)
    if length_mm is None:
        length_mm = (large_mm - small_mm) / rise  # type: ignore[operator]
    elif rise is None:
        included_deg = 2 * degrees(atan((large_mm - small_mm) / (2 * length_mm)))  # type: ignore[operator]
    elif large_mm is None:
        large_mm = small_mm + rise * length_mm  # type: ignore[operator]
    elif small_mm is None:
        small_mm = large_mm - rise * length_mm
    else:
        _agree(large_mm - small_mm, rise * length_mm, unit)
    if small_mm < 0:  # type: ignore[operator]
        raise BadEntry(
            "The cone comes to a point before that length.",
            f"Its small end would be {length_text(small_mm, unit)}. Check length and angle.",  # type: ignore[arg-type]
            "length",
        )
    return Taper(large_mm, small_mm, length_mm, included_deg)  # type: ignore[arg-type]


def _agree(by_diameters_mm: float, by_angle_mm: float, unit: LengthUnit) -> None:
    if abs(by_diameters_mm - by_angle_mm) > 0.001 + 0.001 * by_diameters_mm:
        raise BadEntry(
            f"The diameters differ by {length_text(by_diameters_mm, unit)}, the angle and length would make it {length_text(by_angle_mm, unit)}.",
            "Clear the one that is not on the drawing.",
            "angle",
        )
