"""Points and closed outlines as typed: `0,0 120,0 120,80`; two points are the corners of a rectangle."""

import re
from collections.abc import Sequence
from decimal import Decimal

from ditto_run.core.entry.numbers import NUMBER, UNIT
from ditto_run.core.entry.rows import length_mm
from ditto_run.core.errors import BadEntry
from ditto_run.core.units import LengthUnit

Point = tuple[Decimal, Decimal]
MOST_POINTS, FARTHEST_MM, CORNERS = 2000, Decimal(100_000), 3
PAIR = re.compile(rf"([+-]?{NUMBER}) ?({UNIT})?\s*[,;]\s*([+-]?{NUMBER}) ?({UNIT})?(?=[\s;]|$)")
BETWEEN = " \t\r\n;"


def read_points(text: str, unit: LengthUnit, field: str) -> tuple[Point, ...]:
    """Return the points of a text, exact, [mm].

    Args:
        text: pairs `x,y` parted by spaces.
        unit: unit they are typed in.
        field: named by a refusal.

    Raises:
        BadEntry: if a part is no pair of plain numbers, or there are over 2,000.

    Example:
        >>> read_points("0,0 10.5,-2", "mm", "outline")
        ((Decimal('0'), Decimal('0')), (Decimal('10.5'), Decimal('-2')))
    """
    clean = text.replace("−", "-").strip()
    points: list[Point] = []
    at = 0
    while at < len(clean):
        found = PAIR.match(clean, at)
        if found is None or len(points) >= MOST_POINTS:
            raise BadEntry(
                f"“{clean[at : at + 20]}” is not a point.",
                "Type points as 0,0 120,0 120,80: X, a comma, Y.",
                field,
            )
        x, y = (length_mm(found[at], found[at + 1], unit, field) for at in (1, 3))
        points.append((x, y))
        at = len(clean) - len(clean[found.end() :].lstrip(BETWEEN))
    return tuple(points)


def read_outline(text: str, unit: LengthUnit, field: str) -> tuple[Point, ...]:
    """Return a closed outline; two points are the corners of a rectangle, [mm].

    Raises:
        BadEntry: if it has one point, crosses itself, or encloses nothing.
    """
    points = read_points(text, unit, field)
    if not points:
        return ()
    if len(points) == 2:  # noqa: PLR2004 - two corners
        (x1, y1), (x2, y2) = points
        points = ((x1, y1), (x2, y1), (x2, y2), (x1, y2))
    check_outline(points, field)
    return points


def check_outline(points: Sequence[Point], field: str) -> None:
    """Refuse an outline that encloses nothing or crosses itself.

    Raises:
        BadEntry: at the field.
    """
    from shapely import Polygon  # noqa: PLC0415 - shapely takes 0.2 s, and only outlines need it
    from shapely.validation import explain_validity  # noqa: PLC0415

    if len(points) < CORNERS:
        raise BadEntry("An outline wants three points or more.", "Type two corners for a rectangle.", field)
    shape = Polygon([(float(x), float(y)) for x, y in points])
    if not shape.is_valid:
        near = re.search(r"\[([^\]]+)\]", explain_validity(shape))
        where = f" near {near[1].replace(' ', ', ')}" if near else ""
        raise BadEntry(f"The outline crosses itself{where}.", "Type its corners in order, once round.", field)
    if shape.area <= 0:
        raise BadEntry("The outline encloses nothing.", "Type its corners in order, once round.", field)


def points_text(points: Sequence[Point]) -> str:
    """Return points as they are typed; reads back the same in millimetres."""
    return " ".join(f"{x.normalize():f},{y.normalize():f}" for x, y in points)
