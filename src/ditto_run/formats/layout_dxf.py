"""A layout as a DXF drawing, a layer for each kind of thing. Written by ezdxf, imported where it is used."""

import io
from collections.abc import Iterable, Sequence
from typing import Any

from ditto_run.core.place import Clash, Standing, ring, swing_ring
from ditto_run.core.place.placed import Spot
from ditto_run.core.shop import Bed

MM = 4  # $INSUNITS
LAYERS = ("TABLE", "SLOTS", "REACH", "KEEP_OUT", "HOLDERS", "PIECES", "SWING", "ZERO", "CLASH")


def write_layout(bed: Bed, standings: Sequence[Standing], clashes: Sequence[Clash] = ()) -> bytes:
    """Return a layout as DXF in millimetres.

    Args:
        bed: the table.
        standings: what stands on it.
        clashes: what is wrong, on a layer of its own.
    """
    from ezdxf.filemanagement import new  # noqa: PLC0415 - takes 0.7 s, and only drawings need it

    document = new("R2010", units=MM)
    space: Any = document.modelspace()
    for layer in LAYERS:
        document.layers.add(layer)
    _table(space, bed)
    for standing in standings:
        _standing(space, standing)
    for clash in clashes:
        if clash.outline:
            _closed(space, clash.outline, "CLASH")
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()


def _closed(space: Any, points: Iterable[Spot], layer: str) -> None:  # noqa: ANN401 - ezdxf's layout
    space.add_lwpolyline(list(points), close=True, dxfattribs={"layer": layer})


def _table(space: Any, bed: Bed) -> None:  # noqa: ANN401 - ezdxf's layout
    wide, deep = (float(part) for part in bed.size_mm)
    _closed(space, [(0, 0), (wide, 0), (wide, deep), (0, deep)], "TABLE")
    for slot in bed.slots_mm:
        at = float(slot)
        start, end = ((0.0, at), (wide, at)) if bed.slots_run == "X" else ((at, 0.0), (at, deep))
        space.add_line(start, end, dxfattribs={"layer": "SLOTS"})
    x1, y1, x2, y2 = (float(part) for part in bed.reach_mm)
    _closed(space, [(x1, y1), (x2, y1), (x2, y2), (x1, y2)], "REACH")
    for place in bed.keep_outs:
        _closed(space, ring(place.points), "KEEP_OUT")


def _standing(space: Any, standing: Standing) -> None:  # noqa: ANN401 - ezdxf's layout
    _closed(space, ring(standing.placed.corners), "HOLDERS")
    swing = swing_ring(standing)
    if swing:
        _closed(space, swing, "SWING")
    for seat in standing.seats:
        if seat.piece:
            _closed(space, ring(seat.piece), "PIECES")
        x, y = float(seat.zero_mm[0]), float(seat.zero_mm[1])
        space.add_circle((x, y), 2.0, dxfattribs={"layer": "ZERO"})
        text = f"{seat.label} {seat.station.offset or ''}".strip()
        space.add_text(text, height=5, dxfattribs={"layer": "ZERO", "insert": (x + 4, y + 4)})
