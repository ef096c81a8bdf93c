"""Drawings and tables of a part as lines; each line reads back as what was drawn."""

import io
from math import pi

import ezdxf
import pytest

from ditto_run.core.errors import BadEntry, FileNotRead, NeedsAnswer
from ditto_run.core.part.features import Named, read_feature
from ditto_run.core.part.shape.measures import shape_part
from ditto_run.formats.part_drawing import lines_of_drawing, lines_of_table

MM, INCH, NOT_SAID = 4, 1, 0


def drawing(draw, units: int = MM) -> bytes:
    document = ezdxf.new()
    document.units = units
    draw(document.modelspace())
    text = io.StringIO()
    document.write(text)
    return text.getvalue().encode()


def plate(space) -> None:
    space.add_lwpolyline([(10, 10), (90, 10), (90, 60), (10, 60)], close=True)
    space.add_circle((20, 20), 3.4)
    space.add_circle((80, 20), 3.4)
    quarter = 0.41421356
    corners = [(40, 25), (60, 25), (63, 28), (63, 40), (60, 43), (40, 43), (37, 40), (37, 28)]
    space.add_lwpolyline([(x, y, 0, 0, quarter * (i % 2)) for i, (x, y) in enumerate(corners)], close=True)


def test_the_largest_outline_is_the_part_and_circles_are_holes() -> None:
    assert sorted(lines_of_drawing(drawing(plate), "block", "", "mm")) == [
        "hole Ø6.8, 10 from left, 10 from front, top",
        "hole Ø6.8, 70 from left, 10 from front, top",
        "outline 80 x 50",
        "pocket 26 x 18, R3, 27 from left, 15 from front, top",
    ]


def test_the_unit_is_asked_where_the_file_does_not_say_it_and_the_job_writes_its_own() -> None:
    with pytest.raises(NeedsAnswer):
        lines_of_drawing(drawing(plate, NOT_SAID), "block", "", "mm")
    assert "outline 2032 x 1270" in lines_of_drawing(drawing(plate, NOT_SAID), "block", "in", "mm")
    assert "outline 3.1496 x 1.9685" in lines_of_drawing(drawing(plate), "block", "", "in")


def test_an_odd_outline_keeps_its_area() -> None:
    def draw(space) -> None:
        space.add_lwpolyline([(0, 0), (60, 0), (60, 30, 0, 0, 1), (40, 30), (0, 40)], close=True)

    (line,) = lines_of_drawing(drawing(draw), "block", "", "mm")
    part = shape_part([Named(1, "outline", read_feature(f"{line}, 10 high", "block", "mm"))], "block")
    bulge = pi * 100 / 2  # the half circle between the two corners bulges out
    straight = 0.5 * abs(sum(a * d - b * c for (a, b), (c, d) in [((0, 0), (60, 0)), ((60, 0), (60, 30)), ((60, 30), (40, 30)), ((40, 30), (0, 40)), ((0, 40), (0, 0))]))  # fmt: skip
    assert part.body.volume() == pytest.approx((straight + bulge) * 10, rel=1e-3)


@pytest.mark.parametrize("mirrored", [False, True])
def test_a_turned_profile_from_half_or_the_whole_of_it(mirrored: bool) -> None:
    half = [(5, 0), (5, 5), (25, 5), (25, 7.5), (91, 7.5), (91, 0)]
    whole = [*half[1:5], *[(x, -y) for x, y in reversed(half[1:5])]] if mirrored else half

    def draw(space) -> None:
        space.add_lwpolyline(whole, close=True)

    assert lines_of_drawing(drawing(draw), "turned", "", "mm") == ["body points 0 10; 20 10; 20 15; 86 15"]


def test_loose_lines_with_tiny_gaps_join_and_blocks_are_taken_apart() -> None:
    def draw(space) -> None:
        block = space.doc.blocks.new("PLATE")
        for start, end in (
            ((0, 0), (50, 0.004)),
            ((50, 0), (50, 20)),
            ((50, 20.003), (0, 20)),
            ((0, 20), (0.002, 0)),
        ):
            block.add_line(start, end)
        space.add_blockref("PLATE", (100, 100))

    assert lines_of_drawing(drawing(draw), "block", "", "mm") in (
        ["outline 50 x 20"],
        ["outline 50 x 20.003"],
    )


def test_a_spline_becomes_corners_close_to_it() -> None:
    def draw(space) -> None:
        spline = space.add_spline(fit_points=[(0, 0), (30, 5), (60, 0), (60, 40), (30, 45), (0, 40), (0, 0)])
        spline.closed = False

    (line,) = lines_of_drawing(drawing(draw), "block", "", "mm")
    assert line.startswith("outline points ")
    assert read_feature(f"{line}, 5 high", "block", "mm").corners is not None


def test_what_is_no_drawing_is_refused() -> None:
    with pytest.raises(FileNotRead):
        lines_of_drawing(b"no drawing", "block", "", "mm")

    def open_lines(space) -> None:
        space.add_line((0, 0), (10, 0))

    with pytest.raises(FileNotRead, match="no closed outline"):
        lines_of_drawing(drawing(open_lines), "block", "", "mm")


@pytest.mark.parametrize(
    ("text", "lines"),
    [
        ("name\tkind\tsize\tface\nbig bore\tbore\t12 H7 through\ttop, in the middle", ["big bore: bore, 12 H7 through, top, in the middle"]),
        ("hole 6 through;top;10 from left;10 from front", ["hole 6 through, top, 10 from left, 10 from front"]),
        ("kind,size\nslot,20 wide\n\n", ["slot, 20 wide"]),
        ("block 60 x 40 x 31.5", ["block 60 x 40 x 31.5"]),
        ("", []),
    ],
)  # fmt: skip
def test_rows_become_lines(text, lines) -> None:
    assert lines_of_table(text) == lines


def test_too_many_rows_are_refused() -> None:
    assert len(lines_of_table("hole 6 through\n" * 200)) == 200
    with pytest.raises(BadEntry, match="2,000 rows"):
        lines_of_table("hole 6 through\n" * 2000)
