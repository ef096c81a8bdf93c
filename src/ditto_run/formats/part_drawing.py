"""A drawing or a table of a part as lines of features, to be read over and added."""

import csv
import io
from collections.abc import Sequence
from math import hypot
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.part.faces import Form
from ditto_run.core.units import LengthUnit
from ditto_run.formats.dxf import CLOSES_MM, SAG_MM, Outline, read_outlines

ROUND_FROM = 12  # corners from which an outline can be a circle
MOST_CORNERS = 1000
MOST_ROWS = 200
MM_PER_INCH = 25.4
HEADINGS = {"name", "feature", "line", "kind", "size", "sizes", "face", "where", "place", "depth", "what"}
Spot = tuple[float, float]


def lines_of_drawing(
    content: bytes, form: Form, drawn_in: Literal["mm", "in", ""], unit: LengthUnit
) -> list[str]:
    """Return the features of a DXF drawing as lines: its largest outline, and what lies in it; or the profile of a turned part.

    Args:
        content: the file.
        form: block or turned.
        drawn_in: unit of the drawing, where the file does not say it.
        unit: unit of the job, in which the lines are written.

    Raises:
        FileNotRead: if it cannot be read or has no closed outline.
        NeedsAnswer: if nothing says in what unit it is drawn.
    """
    outlines = read_outlines(content, drawn_in)
    if form == "turned":
        return [_profile(outlines[0].points, unit)]
    whole, *inside = outlines
    left, front = min(x for x, _ in whole.points), min(y for _, y in whole.points)
    return [_whole(whole, (left, front), unit), *(_feature(one, (left, front), unit) for one in inside)]


def lines_of_table(text: str) -> list[str]:
    """Return the rows of a pasted table or a CSV file as lines, each row's cells one after the other; headings are left out.

    Args:
        text: cells parted by tabs, semicolons or commas; a first column headed name gives the feature its name.

    Raises:
        BadEntry: if there are too many rows.
    """
    first = text.lstrip().split("\n", 1)[0]
    mark = "\t" if "\t" in first else ";" if ";" in first else ","
    rows = [[cell.strip() for cell in row] for row in csv.reader(io.StringIO(text), delimiter=mark)]
    rows = [row for row in rows if any(row)]
    if len(rows) > MOST_ROWS + 1:
        raise BadEntry(
            f"{len(rows):,} rows are more than {MOST_ROWS}.", "Paste fewer, one feature a row.", "lines"
        )
    heading = [cell.lower() for cell in rows[0]] if rows else []
    headed = bool(HEADINGS & set(heading)) and not any(any(c.isdigit() for c in cell) for cell in heading)
    if headed:
        rows = rows[1:]
    named = headed and heading[0] in {"name", "feature"} and len(heading) > 1
    return [_line(row, named=named) for row in rows]


def _line(cells: Sequence[str], *, named: bool) -> str:
    if named and cells[0]:
        return f"{cells[0]}: {', '.join(cell for cell in cells[1:] if cell)}"
    return ", ".join(cell for cell in cells if cell)


def _said(mm: float, unit: LengthUnit) -> str:
    value = round(mm / MM_PER_INCH, 4) if unit == "in" else round(mm, 3)
    return f"{value:f}".rstrip("0").rstrip(".") or "0"


def _circle(points: Sequence[Spot]) -> tuple[float, float, float] | None:
    """Middle and radius where all corners of an outline lie on one circle: that of three of them."""
    many = len(points)
    if many < ROUND_FROM:
        return None
    (ax, ay), (bx, by), (cx, cy) = (points[i * many // 3] for i in range(3))
    twice = 2 * (ax * (by - cy) + bx * (cy - ay) + cx * (ay - by))
    if not twice:
        return None
    a, b, c = ax * ax + ay * ay, bx * bx + by * by, cx * cx + cy * cy
    x = (a * (by - cy) + b * (cy - ay) + c * (ay - by)) / twice
    y = (a * (cx - bx) + b * (ax - cx) + c * (bx - ax)) / twice
    r = hypot(ax - x, ay - y)
    return (x, y, r) if all(abs(hypot(u - x, v - y) - r) <= SAG_MM for u, v in points) else None


def _box(one: Outline) -> tuple[float, float, float, float] | None:
    """Left, front, length and width where an outline is a rectangle along the axes."""
    xs, ys = zip(*one.points, strict=True)
    wide, deep = max(xs) - min(xs), max(ys) - min(ys)
    return (
        (min(xs), min(ys), wide, deep)
        if abs(wide * deep - one.area_mm2) <= CLOSES_MM * (wide + deep)
        else None
    )


def _whole(one: Outline, start: Spot, unit: LengthUnit) -> str:
    if (circle := _circle(one.points)) is not None:
        return f"outline Ø{_said(2 * circle[2], unit)}"
    if (box := _box(one)) is not None:
        return f"outline {_said(box[2], unit)} x {_said(box[3], unit)}"
    return f"outline points {_corners(one.points, start, unit)}"


def _corners(points: Sequence[Spot], start: Spot, unit: LengthUnit) -> str:
    from shapely import Polygon  # noqa: PLC0415 - shapely takes 0.2 s, and only drawings need it

    ring = Polygon(points).exterior.simplify(SAG_MM / 2)
    corners = list(ring.coords)[:-1]
    if len(corners) > MOST_CORNERS:
        raise BadEntry(
            f"An outline has {len(corners):,} corners; {MOST_CORNERS:,} are the most.",
            "Draw it with fewer.",
            "file",
        )
    return "; ".join(f"{_said(x - start[0], unit)} {_said(y - start[1], unit)}" for x, y in corners)


def _feature(one: Outline, start: Spot, unit: LengthUnit) -> str:
    """A hole where it is round, a pocket by its box where it is not; how deep has to be said."""
    left, front = start
    if (circle := _circle(one.points)) is not None:
        x, y, r = circle
        return f"hole Ø{_said(2 * r, unit)}, {_said(x - left, unit)} from left, {_said(y - front, unit)} from front, top"
    xs, ys = zip(*one.points, strict=True)
    wide, deep = max(xs) - min(xs), max(ys) - min(ys)
    place = f"{_said(min(xs) - left, unit)} from left, {_said(min(ys) - front, unit)} from front, top"
    return f"pocket {_said(wide, unit)} x {_said(deep, unit)}{_corner_radius(one, wide, deep, unit)}, {place}"


def _corner_radius(one: Outline, wide: float, deep: float, unit: LengthUnit) -> str:
    """The radius of a box's four corners, from what they take of its area; nothing where they are sharp."""
    lost = wide * deep - one.area_mm2
    r = (max(lost, 0.0) / (4 - 3.14159265)) ** 0.5
    return f", R{_said(round(r, 1), unit)}" if r > 5 * SAG_MM else ""


def _profile(points: Sequence[Spot], unit: LengthUnit) -> str:
    """The outer edge of a half or a whole profile, from its left end: distance and diameter."""
    xs, ys = zip(*points, strict=True)
    left, right = min(xs), max(xs)
    axis = 0.0 if min(ys) >= -CLOSES_MM or abs(max(ys) + min(ys)) <= CLOSES_MM else min(ys)
    start = max((i for i, x in enumerate(xs) if x - left <= CLOSES_MM), key=lambda i: ys[i])
    end = max((i for i, x in enumerate(xs) if right - x <= CLOSES_MM), key=lambda i: ys[i])
    many = len(points)
    forward = [points[(start + i) % many] for i in range((end - start) % many + 1)]
    backward = [points[(start - i) % many] for i in range((start - end) % many + 1)]
    upper = max(forward, backward, key=lambda way: sum(y for _, y in way) / len(way))
    spots = "; ".join(f"{_said(x - left, unit)} {_said(2 * (y - axis), unit)}" for x, y in upper)
    return f"body points {spots}"
