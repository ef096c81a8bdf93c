"""A holder's body: its footprint, jaws, handle, bolts and nests, as it stands with its fixed jaw at the back.

Body coordinates: its left front corner is 0,0; X to the right, Y away from you.
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal
from math import cos, radians, sin

from ditto_run.core.entry.rows import lengths_of
from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets.entries import Entries
from ditto_run.core.sheets.reader import read_as
from ditto_run.core.shop.outlines import Point, read_outline, read_points
from ditto_run.core.units import LengthUnit, length_text

MOST_NESTS = 400


@dataclass(frozen=True, slots=True)
class Body:
    """A holder's body.

    Args:
        size_mm: X and Y of the footprint. [mm]
        tall_mm: from the table to its highest point. [mm]
        seat_mm: from the table to what the piece sits on. [mm]
        outline: corners of the footprint; empty for a rectangle. [mm]
        jaw_mm: width of the jaws; None without jaws. [mm]
        jaw_at_mm: face of the fixed jaw, from the back edge. [mm]
        opens_mm: the widest piece between the jaws. [mm]
        handle: where the handle turns; None without one. [mm]
        swing_mm: how far it swings. [mm]
        bolts: where it is bolted down. [mm]
        origin: the bushing or corner its nests are measured from. [mm]
        nests: where each piece sits. [mm]
        chuck_mm: diameter of a chuck or collet on it; None without one. [mm]
    """

    size_mm: Point
    tall_mm: Decimal
    seat_mm: Decimal
    outline: tuple[Point, ...] = ()
    jaw_mm: Decimal | None = None
    jaw_at_mm: Decimal = Decimal(0)
    opens_mm: Decimal = Decimal(0)
    handle: Point | None = None
    swing_mm: Decimal = Decimal(0)
    bolts: tuple[Point, ...] = ()
    origin: Point = (Decimal(0), Decimal(0))
    nests: tuple[Point, ...] = ()
    chuck_mm: Decimal | None = None

    @property
    def corners(self) -> tuple[Point, ...]:
        """Corners of the footprint, [mm]."""
        x, y = self.size_mm
        zero = Decimal(0)
        return self.outline or ((zero, zero), (x, zero), (x, y), (zero, y))


BODY_FIELDS = (
    "body_x",
    "body_y",
    "tall",
    "seat",
    "outline",
    "jaw_width",
    "jaw_at",
    "handle_at",
    "handle_swing",
    "bolts",
    "origin",
    "nests",
    "chuck",
)


def read_body(entries: Entries, opens_mm: Decimal) -> Body | None:
    """Return a holder's body; None if none of its sizes is typed.

    Args:
        entries: the fields `BODY_FIELDS`.
        opens_mm: the widest piece it spans. [mm]

    Raises:
        BadEntry: at the field that cannot be used.
    """
    if not any(entries.has(name) for name in BODY_FIELDS):
        return None
    outline = read_outline(entries.text("outline"), entries.unit, "outline")
    if outline:
        low_x, low_y = min(x for x, _ in outline), min(y for _, y in outline)
        outline = tuple((x - low_x, y - low_y) for x, y in outline)
        size = max(x for x, _ in outline), max(y for _, y in outline)
    else:
        size = entries.mm("body_x", "105"), entries.mm("body_y", "205")
    seat = entries.maybe_mm("seat", above=False) or Decimal(0)
    jaw, jaw_at = entries.maybe_mm("jaw_width"), entries.maybe_mm("jaw_at", above=False) or Decimal(0)
    if jaw is not None and jaw_at >= size[1]:
        raise BadEntry(
            "The fixed jaw lies in front of the body.",
            "Type how far its face is from the back edge.",
            "jaw_at",
        )
    handle, swing = _points(entries, "handle_at", 1), entries.maybe_mm("handle_swing")
    if bool(handle) != (swing is not None):
        raise BadEntry(
            "A handle wants both: where it turns, and how far it swings.",
            "Type the other one too.",
            "handle_swing" if handle else "handle_at",
        )
    body = Body(
        size,
        entries.maybe_mm("tall") or max(seat, Decimal(1)),
        seat,
        outline,
        jaw,
        jaw_at,
        opens_mm,
        handle[0] if handle else None,
        swing or Decimal(0),
        _points(entries, "bolts"),
        (_points(entries, "origin", 1) or ((Decimal(0), Decimal(0)),))[0],
        tuple(read_nests(entries)),
        entries.maybe_mm("chuck"),
    )
    _inside(body, entries.unit)
    return body


def _points(entries: Entries, name: str, most: int = 60) -> tuple[Point, ...]:
    points = read_points(entries.text(name), entries.unit, name)
    if len(points) > most:
        raise BadEntry(f"{entries.label(name)} takes {most} at most.", "Type X, a comma and Y.", name)
    return points


ROWS = re.compile(r"rows\s+(\d+)\s*[x×*]\s*(\d+)\s+at\s+(.+?)\s+from\s+(.+)")
CIRCLE = re.compile(r"circle\s+(\d+)\s+on\s+[øØ]?\s*(.+?)\s+at\s+(.+?)(?:\s+from\s+(.+))?")


def read_nests(entries: Entries) -> Iterator[Point]:
    """Yield where the nests are: `rows 2 x 3 at 60,45 from 30,30`, `circle 6 on 100 at 90,90`, or points, [mm].

    Raises:
        BadEntry: if it is none of these, two nests coincide, or there are over 400.
    """
    text = entries.text("nests").lower()
    rows, circle = ROWS.fullmatch(text), CIRCLE.fullmatch(text)
    try:
        if rows:
            points = _in_rows(entries.unit, *rows.groups())
        elif circle:
            points = _in_circle(entries.unit, *circle.groups())
        else:
            points = list(read_points(text, entries.unit, "nests"))
    except (BadEntry, ArithmeticError, ValueError):
        raise BadEntry(
            f"“{text[:30]}” does not say where the nests are.",
            "Type rows 2 x 3 at 60,45 from 30,30, or circle 6 on 100 at 90,90, or points.",
            "nests",
        ) from None
    if len(points) > MOST_NESTS:
        raise BadEntry(
            f"{len(points):,} nests are over the {MOST_NESTS} a pallet can have.",
            "Check the numbers.",
            "nests",
        )
    if len(set(points)) != len(points):
        raise BadEntry("Two nests are in the same place.", "Check the spacing.", "nests")
    yield from points


def _in_rows(unit: LengthUnit, columns: str, rows: str, steps: str, start: str) -> list[Point]:
    across, deep = int(columns), int(rows)
    if across * deep > MOST_NESTS:
        raise BadEntry("Too many.", "Check the numbers.", "nests")
    ((step_x, step_y),) = read_points(steps, unit, "nests")
    ((from_x, from_y),) = read_points(start, unit, "nests")
    return [(from_x + i * step_x, from_y + j * step_y) for j in range(deep) for i in range(across)]


def _in_circle(unit: LengthUnit, count: str, across: str, middle: str, start: str | None) -> list[Point]:
    (across_mm,) = lengths_of(across, unit, "nests")
    ((x, y),) = read_points(middle, unit, "nests")
    first = float(read_as("angle", start, unit, "nests")) if start else 0.0
    number, radius = int(count), float(across_mm) / 2
    if not 1 <= number <= MOST_NESTS:
        raise BadEntry("Too many.", "Check the numbers.", "nests")
    angles = (radians(first + 360 * i / number) for i in range(number))
    return [(_near(x, radius * cos(a)), _near(y, radius * sin(a))) for a in angles]


def _near(start: Decimal, by: float) -> Decimal:
    return start + Decimal(f"{by:.4f}")


def _inside(body: Body, unit: LengthUnit) -> None:
    from shapely import Point as Dot  # noqa: PLC0415 - only where a body is read
    from shapely import Polygon  # noqa: PLC0415

    if not body.nests and not body.bolts:
        return
    shape = Polygon([(float(x), float(y)) for x, y in body.corners])
    for field, points in (("nests", body.nests), ("bolts", body.bolts)):
        for number, (x, y) in enumerate(points, 1):
            if not shape.covers(Dot(float(x), float(y))):
                word = "Nest" if field == "nests" else "Bolt"
                raise BadEntry(
                    f"{word} {number} at {length_text(x, unit, 1)}, {length_text(y, unit, 1)} lies outside the holder.",
                    "Check the body's size and where it is measured from.",
                    field,
                )
