"""Outlines from DXF drawings made by ezdxf itself, and layouts out and in again."""

import io
from math import pi

import ezdxf
import pytest

from ditto_run.core.errors import FileNotRead, NeedsAnswer
from ditto_run.core.place import clashes
from ditto_run.formats.dxf import read_outlines
from ditto_run.formats.layout_dxf import write_layout
from tests.core.place.layouts import BED, standing, vise


def drawing(draw, units: int = 4) -> bytes:
    document = ezdxf.new("R2010", units=units)
    draw(document.modelspace())
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()


def test_a_closed_polyline_is_its_corners() -> None:
    (found,) = read_outlines(
        drawing(
            lambda m: m.add_lwpolyline(
                [(0, 0), (100, 0), (100, 50), (0, 50)], close=True, dxfattribs={"layer": "JAW"}
            )
        )
    )
    assert sorted(found.points) == [(0, 0), (0, 50), (100, 0), (100, 50)]
    assert (found.layer, found.area_mm2) == ("JAW", 5000)


def test_loose_lines_and_an_arc_are_joined_whatever_their_order() -> None:
    def draw(m) -> None:
        m.add_line((100, 0), (0, 0))
        m.add_line((0, 50), (100, 50))
        m.add_arc((100, 25), 25, -90, 90)
        m.add_line((0, 0), (0, 50))

    (found,) = read_outlines(drawing(draw))
    assert found.area_mm2 == pytest.approx(5000 + pi * 25**2 / 2, abs=3)


def test_bulges_are_arcs_on_the_right_side() -> None:
    """Bulge 1 is a half circle, [dxf]: outward adds, inward takes away."""
    for bulge, area in ((1, 5000 + pi * 625 / 2), (-1, 5000 - pi * 625 / 2)):
        points = [(0, 0, 0), (100, 0, bulge), (100, 50, 0), (0, 50, 0)]
        (found,) = read_outlines(drawing(lambda m, p=points: m.add_lwpolyline(p, format="xyb", close=True)))
        assert found.area_mm2 == pytest.approx(area, abs=3)


def test_circles_blocks_and_inches() -> None:
    def draw(m) -> None:
        m.doc.blocks.new("B").add_circle((0, 0), 3)
        m.add_blockref("B", (10, 10), dxfattribs={"xscale": 2, "yscale": 2, "zscale": 2})

    (found,) = read_outlines(drawing(draw))
    assert found.area_mm2 == pytest.approx(pi * 36, rel=0.005)  # drawn as chords
    (inch,) = read_outlines(
        drawing(lambda m: m.add_lwpolyline([(0, 0), (1, 0), (1, 1)], close=True), units=1)
    )
    assert inch.area_mm2 == pytest.approx(25.4**2 / 2)


def test_the_unit_is_asked_where_the_file_does_not_say_it() -> None:
    content = drawing(lambda m: m.add_lwpolyline([(0, 0), (1, 0), (1, 1)], close=True), units=0)
    with pytest.raises(NeedsAnswer) as asked:
        read_outlines(content)
    assert asked.value.choices == {"millimetres": "mm", "inches": "in"}
    assert read_outlines(content, "in")[0].area_mm2 == pytest.approx(25.4**2 / 2)


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"", "empty"),
        (b"hello", "no DXF"),
        (b"0\nSECTION\n2\nENT", "no DXF|no closed"),
        (drawing(lambda m: m.add_line((0, 0), (1, 0))), "no closed outline"),
        (
            drawing(lambda m: m.add_lwpolyline([(0, 0), (10, 10), (10, 0), (0, 10)], close=True)),
            "crosses itself",
        ),
    ],
)
def test_what_is_no_outline_is_refused_with_a_sentence(content: bytes, words: str) -> None:
    with pytest.raises(FileNotRead, match=words):
        read_outlines(content)


def test_a_layout_goes_out_with_a_layer_for_each_kind_and_comes_in_to_scale() -> None:
    here = [standing(vise(1, 200, 100)), standing(vise(2, 286, 100), "B")]
    content = write_layout(BED, here, clashes(here, BED))
    back = read_outlines(content)
    by_layer = {}
    for outline in back:
        by_layer.setdefault(outline.layer, []).append(outline)
    assert [o.area_mm2 for o in by_layer["HOLDERS"]] == [20_000, 20_000]
    assert by_layer["TABLE"][0].area_mm2 == 320_000
    assert {"PIECES", "KEEP_OUT", "REACH", "CLASH", "ZERO"} <= set(by_layer)
    document = ezdxf.read(io.StringIO(content.decode()))
    assert document.units == 4
    assert not document.audit().errors
