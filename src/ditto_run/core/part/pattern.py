"""Holes or marks in equal spacing, along a line or round a circle."""

from dataclasses import dataclass
from math import cos, radians, sin

from ditto_run.core.errors import BadEntry
from ditto_run.core.units import length_text

FULL_DEG = 360.0
MOST = 500
Point = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Pattern:
    """Places of equal features.

    Args:
        points_mm: X and Y of each, in order. [mm]
        step_mm: straight distance of neighbours. [mm]
        wall_mm: material left between neighbours of the given diameter. [mm]
    """

    points_mm: tuple[Point, ...]
    step_mm: float
    wall_mm: float


def along_line(
    count: int, first_mm: float, last_mm: float, angle_deg: float = 0.0, hole_mm: float = 0.0
) -> Pattern:
    """Return places in equal steps along a line.

    Args:
        count: how many, 2 to 500.
        first_mm: distance of the first from the corner. [mm]
        last_mm: distance of the last from the corner. [mm]
        angle_deg: of the line against X. [°]
        hole_mm: diameter, for the wall between. [mm]

    Raises:
        BadEntry: if there are fewer than 2, or the last is not past the first.

    Source:
        Own derivation.
    """
    if last_mm <= first_mm:
        raise BadEntry(
            "The last place is not past the first.", "Type distances from the same corner.", "last"
        )
    step = (last_mm - first_mm) / (count - 1)
    c, s = cos(radians(angle_deg)), sin(radians(angle_deg))
    points = tuple(((first_mm + i * step) * c, (first_mm + i * step) * s) for i in range(count))
    return _checked(Pattern(points, step, step - hole_mm))


def round_circle(
    count: int,
    diameter_mm: float,
    start_deg: float = 0.0,
    sweep_deg: float = FULL_DEG,
    centre_mm: Point = (0.0, 0.0),
    hole_mm: float = 0.0,
) -> Pattern:
    """Return places in equal steps round a pitch circle, counted anticlockwise from +X.

    Args:
        count: how many, 2 to 500.
        diameter_mm: pitch circle. [mm]
        start_deg: angle of the first. [°]
        sweep_deg: 360 for the whole circle, else the angle from first to last. [°]
        centre_mm: centre of the circle. [mm]
        hole_mm: diameter, for the wall between. [mm]

    Raises:
        BadEntry: if the holes would touch.

    Source:
        Own derivation; six on Ø100 are (50, 0), (25, 43.3013) …

    Example:
        >>> [round(v, 4) for v in round_circle(6, 100).points_mm[1]]
        [25.0, 43.3013]
    """
    step_deg = sweep_deg / (count if sweep_deg == FULL_DEG else count - 1)
    radius = diameter_mm / 2
    angles = [radians(start_deg + i * step_deg) for i in range(count)]
    points = tuple((centre_mm[0] + radius * cos(a), centre_mm[1] + radius * sin(a)) for a in angles)
    chord = diameter_mm * sin(radians(min(step_deg, FULL_DEG - step_deg)) / 2)
    return _checked(Pattern(points, chord, chord - hole_mm))


def _checked(pattern: Pattern) -> Pattern:
    if pattern.wall_mm <= 0:
        raise BadEntry(
            f"The holes would touch: they stand {length_text(pattern.step_mm, 'mm')} apart.",
            "Take fewer, or smaller ones.",
            "count",
        )
    return pattern
