"""Closed outlines of a DXF drawing. Read by ezdxf, imported where it is used."""

import io
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from math import ceil, cos, hypot, pi, sin
from typing import Any, Literal

from ditto_run.core.errors import FileNotRead, NeedsAnswer
from ditto_run.core.place.placed import Ring, Spot

FROM_UNITS = {1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0}  # $INSUNITS: inch, foot, mm, cm, m
MOST_BYTES, MOST_SHAPES, MOST_CORNERS = 8_000_000, 400, 1500
LARGEST_MM = 20_000.0
CLOSES_MM, SAG_MM = 0.01, 0.02  # ends nearer than this meet; arcs are drawn as chords this close; [mm]


@dataclass(frozen=True, slots=True)
class Outline:
    """One closed outline of a drawing: its corners, its layer, and what it encloses.

    Args:
        points: corners, once round. [mm]
        layer: as the drawing names it.
        area_mm2: what it encloses. [mm²]
    """

    points: Ring
    layer: str
    area_mm2: float


def read_outlines(content: bytes, unit: Literal["mm", "in", ""] = "") -> list[Outline]:
    """Return the closed outlines of a DXF drawing, the largest first.

    Closed polylines and circles are taken as they are; loose lines and arcs are joined where their ends meet.

    Args:
        content: the file.
        unit: unit of the drawing, where the file does not say it.

    Raises:
        FileNotRead: if it is no DXF drawing, has no closed outline, or one crosses itself.
        NeedsAnswer: if neither the file nor `unit` says in what unit it is drawn.
    """
    document = _open(content)
    factor = FROM_UNITS.get(document.units)
    if factor is None:
        if not unit:
            raise NeedsAnswer(
                "The drawing does not say in what unit it is drawn.",
                "Choose it, then send the file again.",
                "unit",
                {"millimetres": "mm", "inches": "in"},
            )
        factor = 25.4 if unit == "in" else 1.0
    try:
        closed, loose = _shapes(document.modelspace(), factor)
    except FileNotRead:
        raise
    except Exception:  # noqa: BLE001 - whatever a damaged drawing makes the library do
        raise FileNotRead(
            "A shape of the drawing cannot be read.", "Keep only the outline, then choose it again."
        ) from None
    closed += [(points, layer) for layer, pieces in loose.items() for points in _joined(pieces)]
    found = [_outline(points, layer) for points, layer in closed]
    if not found:
        raise FileNotRead(
            "The drawing has no closed outline.", "Join the ends of its lines, or close the polyline."
        )
    return sorted(found, key=lambda outline: -outline.area_mm2)


def _open(content: bytes) -> Any:  # noqa: ANN401 - ezdxf's own document
    from ezdxf.filemanagement import read  # noqa: PLC0415 - takes 0.7 s, and only drawings need it
    from ezdxf.lldxf.const import DXFError  # noqa: PLC0415

    if not content or len(content) > MOST_BYTES:
        raise FileNotRead("That file is empty or over 8 MB.", "Choose a DXF drawing.")
    try:
        return read(io.StringIO(content.decode("utf-8", "surrogateescape").replace("\r\n", "\n")))
    except (DXFError, UnicodeError, ValueError, IndexError, KeyError, AttributeError):
        raise FileNotRead(
            "That file is no DXF drawing, or it is damaged.", "Save it again as an ASCII DXF, then choose it."
        ) from None


def _shapes(
    space: Iterable[Any], factor: float
) -> tuple[list[tuple[list[Spot], str]], dict[str, list[list[Spot]]]]:
    """Return closed outlines and loose lines, by layer; blocks are taken apart."""
    closed: list[tuple[list[Spot], str]] = []
    loose: dict[str, list[list[Spot]]] = {}
    for count, entity in enumerate(_flat(space)):
        if count >= MOST_SHAPES:
            raise FileNotRead(
                f"The drawing has over {MOST_SHAPES} shapes.", "Keep only the outline, then choose it again."
            )
        points = [(x * factor, y * factor) for x, y in _points(entity, factor)]
        if len(points) < 2:  # noqa: PLR2004 - a line has two ends
            continue
        layer = str(entity.dxf.layer)
        if hypot(points[0][0] - points[-1][0], points[0][1] - points[-1][1]) <= CLOSES_MM and len(points) > 3:  # noqa: PLR2004
            closed.append((points[:-1], layer))
        else:
            loose.setdefault(layer, []).append(points)
    return closed, loose


def _flat(space: Iterable[Any]) -> Iterable[Any]:
    for entity in space:
        if entity.dxftype() == "INSERT":
            yield from entity.virtual_entities()
        else:
            yield entity


def _points(entity: Any, factor: float) -> list[Spot]:  # noqa: ANN401 - one of ezdxf's entities
    kind, sag = entity.dxftype(), SAG_MM / factor
    if kind == "LINE":
        return [(entity.dxf.start.x, entity.dxf.start.y), (entity.dxf.end.x, entity.dxf.end.y)]
    if kind == "CIRCLE":
        radius = _size(entity.dxf.radius, factor)
        steps = max(12, min(MOST_CORNERS // 2, ceil(pi / max((2 * sag / radius) ** 0.5, 1e-3))))
        angles = [2 * pi * i / steps for i in range(steps)]
        ends = [
            (entity.dxf.center.x + radius * cos(a), entity.dxf.center.y + radius * sin(a)) for a in angles
        ]
        return [*ends, ends[0]]
    if kind == "ARC":
        _size(entity.dxf.radius, factor)
    if kind == "ELLIPSE":
        _size(entity.dxf.major_axis.magnitude, factor)
        _size(entity.dxf.ratio, 1.0)
    if kind in {"ARC", "ELLIPSE", "SPLINE"}:
        return [(point.x, point.y) for point in entity.flattening(sag)]
    if kind in {"LWPOLYLINE", "POLYLINE"}:
        if len(entity) > MOST_CORNERS:
            raise FileNotRead(f"An outline has over {MOST_CORNERS} corners.", "Draw it with fewer.")
        return _polyline(entity, sag)
    return []


def _size(value: float, factor: float) -> float:
    """Return a radius or axis of a shape if a workshop could hold it.

    Raises:
        FileNotRead: if it is nothing, below zero, no number, or larger than any machine.
    """
    if not 0 < value * factor <= LARGEST_MM:  # a value that is no number fails too
        raise FileNotRead(
            "A circle or an arc of the drawing has no size, or is larger than any machine.",
            "Mend it in the drawing, then choose it again.",
        )
    return value


def _polyline(entity: Any, sag: float) -> list[Spot]:  # noqa: ANN401
    found: list[Spot] = []
    for part in entity.virtual_entities():
        points = _points(part, SAG_MM / sag)
        if (
            found
            and points
            and hypot(points[-1][0] - found[-1][0], points[-1][1] - found[-1][1])
            < hypot(points[0][0] - found[-1][0], points[0][1] - found[-1][1])
        ):
            points = points[::-1]  # an arc runs left round whichever way the polyline goes
        elif not found and points and part.dxftype() == "ARC":
            start = _first_vertex(entity)
            if hypot(points[-1][0] - start[0], points[-1][1] - start[1]) < hypot(
                points[0][0] - start[0], points[0][1] - start[1]
            ):
                points = points[::-1]
        found += points[1:] if found else points
    return found


def _first_vertex(entity: Any) -> Spot:  # noqa: ANN401
    if entity.dxftype() == "LWPOLYLINE":
        x, y, *_ = entity[0]
        return x, y
    return entity.vertices[0].dxf.location.x, entity.vertices[0].dxf.location.y


def _joined(pieces: list[list[Spot]]) -> Iterable[list[Spot]]:
    """Yield closed outlines joined from loose pieces; what stays open is left."""
    left = [list(piece) for piece in pieces]
    while left:
        chain = left.pop()
        grown = True
        while grown and not _meet(chain[0], chain[-1]):
            grown = False
            for i, other in enumerate(left):
                if _meet(chain[-1], other[0]) or _meet(chain[-1], other[-1]):
                    chain += (other if _meet(chain[-1], other[0]) else other[::-1])[1:]
                    del left[i]
                    grown = True
                    break
        if len(chain) > 3 and _meet(chain[0], chain[-1]):  # noqa: PLR2004 - a triangle comes back to its start
            yield chain[:-1]


def _meet(one: Spot, other: Spot) -> bool:
    return hypot(one[0] - other[0], one[1] - other[1]) <= CLOSES_MM


def _outline(points: Sequence[Spot], layer: str) -> Outline:
    from shapely import Polygon  # noqa: PLC0415

    if len(points) > MOST_CORNERS:
        raise FileNotRead(f"An outline has over {MOST_CORNERS} corners.", "Draw it with fewer.")
    shape = Polygon(points)
    if not shape.is_valid:
        raise FileNotRead(
            f"An outline on layer {layer[:30]} crosses itself.",
            "Mend it in the drawing, then choose it again.",
        )
    return Outline(tuple(points), layer, shape.area)
