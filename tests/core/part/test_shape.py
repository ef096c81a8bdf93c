"""The part as a body: volumes, places and walls against closed forms, shapely and hand-worked figures."""

from itertools import pairwise
from math import pi, sqrt

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import Point, box, unary_union

from ditto_run.core.errors import BadEntry
from ditto_run.core.part.bend import Bend, developed_mm
from ditto_run.core.part.features import Named, read_feature
from ditto_run.core.part.shape.bent import bent
from ditto_run.core.part.shape.body import (
    Solid,
    higher_of,
    lower_of,
    material_along,
    radius_at,
    revolved,
    trimmed,
)
from ditto_run.core.part.shape.boxes import gaps_of, groups_of
from ditto_run.core.part.shape.fits import feature_findings
from ditto_run.core.part.shape.measures import measure, shape_part
from ditto_run.core.part.shape.plane import Contour, Disc, Oblong, joined, without
from ditto_run.core.part.shape.turned import tip_of
from ditto_run.core.part.shape.walls import thinnest_wall


def shaped(form: str, *lines: str):
    return shape_part(
        [Named(i, f"f{i}", read_feature(line, form, "mm")) for i, line in enumerate(lines)], form
    )


def volume(form: str, *lines: str) -> float:
    return shaped(form, *lines).body.volume()


CLAMP = (
    "block 60 x 40 x 31.5",
    "slot 20 ±0.03 x 18 deep x 28 long, R5, in the middle, open right, top",
    "bore 12 H7 through, 16 from left, in the middle, top",
    "4x M6 x 12 deep, on 20 x 28 centres, 6 from left, in the middle, top",
)


def test_the_clamp_block_by_hand() -> None:
    """Worked by hand: block, less bore, slot with two corners of R5, and four holes drilled 5.0."""
    slot = 28 * 20 - 2 * (25 - pi * 25 / 4)
    by_hand = 60 * 40 * 31.5 - pi * 36 * 31.5 - slot * 18 - 4 * pi * 2.5**2 * 12
    assert by_hand == pytest.approx(61208.098, abs=0.001)
    assert volume("block", *CLAMP) == pytest.approx(by_hand, rel=1e-9)
    found = measure(shaped("block", *CLAMP), "block")
    assert found.size == (60, 40, 31.5)
    assert found.wall.thick == pytest.approx(
        3.0
    )  # the thread's outside, 6 from the edge, drilled 5: 3.5 less half a pitch
    assert found.mass_g(2.7) == pytest.approx(165.26, abs=0.01)
    assert found.faces == ("bottom", "front", "back", "top", "left", "right")


@pytest.mark.parametrize(
    ("lines", "wanted"),
    [
        (("outline Ø60 x 10",), pi * 900 * 10),
        (("plate 80 x 20 x 6, round ends",), (60 * 20 + pi * 100) * 6),
        (("plate 80 x 40 x 6, R5",), (80 * 40 - 100 + 25 * pi) * 6),
        (("outline points 0 0; 60 0; 60 30; 30 40; 0 40, 10 high",), (60 * 40 - 0.5 * 30 * 10) * 10),
        (("block 50 x 40 x 30", "step 5 wide x 3 deep, along the left, top"), 60000 - 5 * 3 * 40),
        (("block 50 x 40 x 30", "step 5 wide x 3 deep, all round, top"), 60000 - (2000 - 40 * 30) * 3),
        (("block 50 x 40 x 30", "slot 8 x 4 deep, full length, top"), 60000 - 8 * 4 * 50),
        (("block 50 x 40 x 30", "slot 8 x 4 deep, full width, top"), 60000 - 8 * 4 * 40),
        (("block 50 x 40 x 30", "slot 8 x 4 deep x 20 long, top, in the middle"), 60000 - (12 * 8 + pi * 16) * 4),
        (("block 50 x 40 x 30", "pocket 20 x 10 x 5 deep, R3, top, 5 from left, 5 from front"), 60000 - (200 - 36 + 9 * pi) * 5),
        (("block 50 x 40 x 30", "pocket Ø20 x 5 deep, top, in the middle"), 60000 - pi * 100 * 5),
        (("block 50 x 40 x 30", "slit 2 x 10 deep, top, 20 from left"), 60000 - 2 * 10 * 40),
        (("block 50 x 40 x 30", "hole 6.6 through, counterbore 11 x 6 deep, top, in the middle"), 60000 - pi * (3.3**2 * 24 + 5.5**2 * 6)),
        (("block 50 x 40 x 30", "6 holes 5 x 10 deep, on a 25 circle, in the middle, top"), 60000 - 6 * pi * 6.25 * 10),
        (("block 50 x 40", "face 30 high, top"), 60000),
    ],
)  # fmt: skip
def test_volumes_of_blocks_by_closed_forms(lines, wanted) -> None:
    assert volume("block", *lines) == pytest.approx(wanted, rel=2e-5)


@pytest.mark.parametrize(
    ("lines", "wanted"),
    [
        (("body Ø20 x 50",), pi * 100 * 50),
        (("profile points 0 10; 20 10; 20 15; 86 15",), pi * 25 * 20 + pi * 56.25 * 66),
        (("body Ø20 x 50", "shoulder 12 x 20, chuck end"), pi * (100 * 30 + 36 * 20)),
        (("body Ø20 x 50", "groove 3 wide to Ø14 at 20"), pi * (100 * 47 + 49 * 3)),
        (("body Ø20 x 50", "bore 8 through, free end"), pi * (100 - 16) * 50),
        (("body Ø20 x 50", "bore 12 x 20 deep, free end", "hole 6 through, chuck end"), pi * (100 * 50 - 36 * 20 - 9 * 30)),
        (("body Ø20 x 50", "chamfer 2, free end"), pi * (100 * 48 + 2 / 3 * (64 + 80 + 100))),
        (("body Ø20 x 50", "taper 90° x Ø20 x 5 long, free end"), pi * (100 * 45 + 5 / 3 * (25 + 50 + 100))),
        (("body Ø20 x 50", "hexagon 15 across flats"), sqrt(3) / 2 * 225 * 50),
        (("body Ø20 x 50", "square 14 across flats x 50"), 196 * 50),
        (("body Ø20 x 50", "M6 x 12 deep, free end"), pi * (100 * 50 - 6.25 * 12)),
    ],
)  # fmt: skip
def test_volumes_of_turned_parts_by_closed_forms(lines, wanted) -> None:
    assert volume("turned", *lines) == pytest.approx(wanted, rel=1e-3)


def test_two_cylinders_that_cross_as_steinmetz_has_it() -> None:
    """A hole as large as the body it crosses takes 16 r³ / 3; from the textbook, own derivation."""
    r = 10.0
    assert volume("turned", "body Ø20 x 50", "cross hole 19.999 through at 25") == pytest.approx(
        pi * r * r * 50 - 16 * r**3 / 3, rel=2e-3
    )
    block = volume(
        "block",
        "block 40 x 40 x 40",
        "hole 20 through, top, in the middle",
        "hole 20 through, front, in the middle",
    )
    assert block == pytest.approx(64000 - 2 * pi * 100 * 40 + 16 * r**3 / 3, rel=1e-3)


WHERE = st.integers(0, 40)


@settings(deadline=None)
@given(st.lists(st.tuples(WHERE, WHERE, st.integers(1, 9), st.integers(1, 29)), min_size=1, max_size=6))
def test_holes_from_the_top_as_shapely_has_them(holes) -> None:
    """By layers between the depths: the area of the block less the union of the discs that reach there; circles by shapely."""
    lines = [f"hole {2 * r} x {d} deep, top, {x} from left, {y} from front" for x, y, r, d in holes]
    levels = sorted({0, 30, *(30 - d for *_, d in holes)})
    wanted = 0.0
    for low, high in pairwise(levels):
        gone = [Point(x, y).buffer(r, 64) for x, y, r, d in holes if 30 - d <= low]
        wanted += (box(0, 0, 40, 40) - unary_union(gone)).area * (high - low) if gone else 1600 * (high - low)
    assert volume("block", "block 40 x 40 x 30", *lines) == pytest.approx(wanted, rel=2e-3)


@settings(deadline=None)  # the first one loads shapely
@given(st.lists(st.sampled_from(CLAMP[1:]), min_size=1, unique=True), st.sampled_from(CLAMP[1:]))
def test_taking_more_away_never_adds(lines, more) -> None:
    assert volume("block", CLAMP[0], *lines, more) <= volume("block", CLAMP[0], *lines) + 1e-6


def test_a_mirrored_part_weighs_the_same_and_has_the_same_walls() -> None:
    lines = (
        "bore 9 through, top, 12 from left, 11 from front",
        "slot 6 x 4 deep x 20 long, open left, 30 from front, top",
    )
    swapped = [
        line.replace("left", "LEFT").replace("right", "left").replace("LEFT", "right") for line in lines
    ]
    one, other = (shaped("block", "block 60 x 50 x 20", *some) for some in (lines, swapped))
    assert one.body.volume() == pytest.approx(other.body.volume())
    assert thinnest_wall(one.body).thick == pytest.approx(thinnest_wall(other.body).thick)


@pytest.mark.parametrize(
    ("lines", "thick"),
    [
        (("hole 10 through, top, 8 from left, 20 from front",), 3.0),
        (("hole 10 x 28 deep, top, in the middle",), 2.0),
        (
            (
                "hole 10 through, top, 15 from left, 20 from front",
                "hole 6 through, top, 24 from left, 20 from front",
            ),
            1.0,
        ),
        (("hole 10 x 15 deep, top, in the middle", "hole 10 x 12 deep, bottom, in the middle"), 3.0),
        (("hole 10 through, top, in the middle", "hole 4 through, front, 34 from left, 10 from bottom"), 2.0),
        (
            ("hole 10 through, top, in the middle", "slot 6 x 5 deep, full length, 5 from front, top"),
            2.0,
        ),  # to the side
        (
            (
                "hole 20 x 10 deep, top, 25 from left, 22 from front",
                "slot 6 x 5 deep, full length, 8 from front, top",
            ),
            1.0,
        ),
        (
            (
                "hole 10 x 10 deep, top, 25 from left, 30 from front",
                "slot 10 x 5 deep x 20 long, R5, 15 from left, 14 from front, top",
            ),
            5.0,
        ),
        ((), None),
    ],
)
def test_the_thinnest_wall(lines, thick) -> None:
    found = thinnest_wall(shaped("block", "block 50 x 40 x 30", *lines).body)
    assert (found and found.thick) == (pytest.approx(thick) if thick else None)


def test_the_wall_of_a_tube_is_that_between_its_profiles() -> None:
    body = shaped("turned", "body Ø20 x 50", "bore 12 x 30 deep, free end", "groove 4 wide to Ø15 at 10").body
    assert thinnest_wall(body).thick == pytest.approx(1.5, abs=1e-6)


def test_what_is_not_said_is_asked_and_nothing_is_drawn_of_it() -> None:
    part = shaped("block", "block 50 x 40 x 30", "hole 6 through, top, 10 from left", "slot 6 x 3 deep, top, in the middle", "pocket 10 x 10, top, in the middle")  # fmt: skip
    assert [one.missing for one in part.features[1:]] == [
        ("where along the width",),
        ("length",),
        ("how deep, or through",),
    ]
    assert part.body.cuts == ()
    assert shaped("block", "hole 6 through, top, in the middle").missing == (
        "an outline: length x width x height",
    )
    assert shaped("block", "block 50 x 40").missing == ("height of the outline",)
    assert (
        "whole length"
        in shaped("turned", "groove 3 wide to Ø9 at 20", "shoulder 12 x 10, chuck end").missing[0]
    )


def test_a_turned_part_is_as_long_as_what_is_said() -> None:
    assert shaped("turned", "shoulder 12 x 20", "shoulder 20 x 66 at 20").body.size[0] == 86
    assert shaped("turned", "shoulder 12 x 20", "part off 86").body.size == (86, 12, 12)
    assert shaped("turned", "shoulder 12 x 20", "part off at 86").body.size[0] == 86
    profile = shaped("turned", "shoulder 12 x 20", "body Ø20 x 86").body.profile
    assert [radius_at(profile, z) for z in (10, 20, 50, 90)] == [6, 10, 10, 0]


@settings(deadline=None)
@given(st.floats(0.1, 30), st.floats(-40, 40), st.floats(-40, 40), st.floats(-40, 40))
def test_what_a_line_cuts_of_a_shape_as_shapely_has_it(r, x, y, at) -> None:
    for shape in (
        Disc(x, y, r),
        Oblong(x - 2 * r, y - r, x + 2 * r, y + r, r),
        Contour(((x, y), (x + r, y), (x + r / 2, y + r))),
    ):
        spans = shape.spans(at, upright=True)
        line = shape.polygon.intersection(box(at - 1e-7, -1e3, at + 1e-7, 1e3))
        assert sum(b - a for a, b in spans) == pytest.approx(line.area / 2e-7, abs=0.06 * r + 0.01)


def test_stretches() -> None:
    assert joined([(3, 5), (0, 1), (1, 2), (4, 9)]) == [(0, 2), (3, 9)]
    assert without([(0, 10)], [(2, 3), (9, 12), (-1, 0.5)]) == [(0.5, 2), (3, 9)]


def test_a_line_through_the_block_meets_what_is_left() -> None:
    body = shaped("block", *CLAMP).body
    assert material_along(body, "y", (50, 25)) == [(0, 10), (30, 40)]  # across the slot
    assert material_along(body, "y", (50, 5)) == [(0, 40)]
    assert material_along(body, "z", (16, 20)) == []
    assert material_along(body, "z", (50, 20)) == [(0, 13.5)]


def test_a_cone_and_a_cylinder() -> None:
    assert revolved(((0, 0), (9, 3))) == pytest.approx(pi * 9 * 9 / 3)
    assert Solid((0, 0, 0), (2, 3, 4)).volume() == 24


def test_a_bent_strip_as_the_bend_sheet_has_it() -> None:
    """Two straights of 30 and a right angle: the flat by `developed_mm`, then bent again: 30 + R + t each way."""
    flat = developed_mm([30, 30], [Bend(90, 3)], 2)
    part = shaped("block", f"plate {flat:.4f} x 20 x 2", "bend 90 x R3, in the middle")
    form = bent(part)
    assert form.size == pytest.approx((35, 35), abs=0.01)
    assert form.outline.area == pytest.approx(flat * 2, rel=0.02)
    assert form.short == ()
    assert bent(shaped("block", "plate 60 x 20 x 2")) is None


@pytest.mark.parametrize(
    ("line", "missing"),
    [("bend 90 x R3", ("where from left or right",)), ("bend R3, 20 from left", ("angle",)), ("bend 90°, 20 from left", ("radius",))],
)  # fmt: skip
def test_what_is_not_said_of_a_bend_is_asked(line, missing) -> None:
    assert shaped("block", "plate 60 x 20 x 2", line).features[1].missing == missing


def test_bends_too_close_to_each_other_are_asked_about() -> None:
    def said(*lines: str) -> list[str]:
        features = [
            Named(i, f"f{i}", read_feature(line, "block", "mm"))
            for i, line in enumerate(("plate 60 x 20 x 2", *lines))
        ]
        return [f.code for f in feature_findings(features, "block", "mm")]

    assert said("bend 90 x R3, 20 from left", "bend 90 x R3, 40 from left") == []
    assert said("bend 90 x R3, 20 from left", "bend 90 x R3, 25 from left") == ["bend-too-close"]
    assert said("bend 90 x R3, 2 from left") == ["bend-too-close"]


def test_too_many_holes_are_said_and_not_drawn() -> None:
    rows = [
        f"200x hole 3 through, on 8 centres, top, 100 from left, {20 + 20 * i} from front" for i in range(6)
    ]
    part = shaped("block", "plate 2000 x 200 x 40", *rows)
    assert len(part.body.cuts) == 1000
    assert part.features[-1].missing == ("fewer: 1,000 cuts are the most that are drawn",)
    assert part.body.volume() == pytest.approx(2000 * 200 * 40 - 1000 * pi * 2.25 * 40)
    with pytest.raises(BadEntry, match="201 alike"):
        read_feature("201x hole 3 through, top", "block", "mm")


BOX = st.tuples(
    *(
        st.tuples(st.integers(0, 30), st.integers(1, 9)).map(lambda p: (float(p[0]), float(p[0] + p[1])))
        for _ in range(3)
    )
)


@given(st.lists(BOX, max_size=12), st.integers(0, 20))
def test_boxes_against_each_other_as_one_by_one(boxes, most) -> None:
    def apart(one, other) -> float:
        return sqrt(sum(max(a[0] - b[1], b[0] - a[1], 0.0) ** 2 for a, b in zip(one, other, strict=True)))

    by_hand = {(i, j): apart(boxes[i], boxes[j]) for i in range(len(boxes)) for j in range(i + 1, len(boxes))}
    found = gaps_of(boxes, most)
    assert {(i, j): least for least, i, j in found} == pytest.approx(
        {p: d for p, d in by_hand.items() if d <= most}
    )
    assert [least for least, _, _ in found] == sorted(least for least, _, _ in found)
    groups = groups_of(boxes)
    assert sorted(i for group in groups for i in group) == list(range(len(boxes)))
    where = {i: n for n, group in enumerate(groups) for i in group}
    assert all(where[i] == where[j] for (i, j), d in by_hand.items() if d == 0)


def frustum(outer: float, inner: float, deep: float) -> float:
    return pi * deep / 3 * (outer**2 + outer * inner + inner**2)


BLOCK_60 = "block 60 x 40 x 30"


@pytest.mark.parametrize(
    ("form", "lines", "gone"),
    [
        ("block", (BLOCK_60, "hole 6 through, countersink 12, in the middle, top"), pi * 9 * 30 + frustum(6, 3, 3) - pi * 9 * 3),
        ("block", (BLOCK_60, "hole 6 through, countersunk 12 x 60°, in the middle, top"), pi * 9 * 30 + frustum(6, 3, 3 * sqrt(3)) - pi * 9 * 3 * sqrt(3)),
        ("block", (BLOCK_60, "hole 6 through, counterbore 5 x 6 deep, in the middle, top"), pi * 9 * 30),  # not larger: nothing
        ("block", (BLOCK_60, "M6 x 12 deep, drill 5.2, in the middle, top"), pi * 2.6**2 * 12),
        ("block", (BLOCK_60, "M6 through, in the middle, top"), pi * 2.5**2 * 30),
        ("block", (BLOCK_60, "hole 6 x 10 deep, spotted 10 x 1 deep, left, in the middle"), pi * (9 * 10 + (25 - 9) * 1)),
        ("block", (BLOCK_60, "hole 6 x 10 deep, bottom, in the middle"), pi * 90),
        ("block", (BLOCK_60, "hole 6 x 10 deep, back, in the middle"), pi * 90),
        ("turned", ("body Ø20 x 50", "hole 6 x 20 deep, counterbore 10 x 5 deep, free end"), pi * (9 * 20 + (25 - 9) * 5)),
        ("turned", ("body Ø20 x 50", "hole 6 x 20 deep, countersink 12, chuck end"), pi * 9 * 20 + frustum(6, 3, 3) - pi * 9 * 3),
        ("turned", ("body Ø40 x 50", "4 holes 5 x 10 deep, on a 28 circle, free end"), 4 * pi * 6.25 * 10),
        ("turned", ("body Ø40 x 50", "4 holes 5 x 10 deep, on a 28 circle, chuck end"), 4 * pi * 6.25 * 10),
        ("turned", ("body Ø40 x 50", "slot 4 x 6 deep, free end"), 6 * 4 * 40 * 0.9983),  # a little less: the ends are round
        ("turned", ("body Ø20 x 50", "flat 12 wide x 10 long, outside, at 20"), 10 * (100 * 0.6435011 - 48)),  # a segment, half angle asin 0.6
        ("turned", ("body Ø20 x 50", "flat 12 wide x 10 long, outside, at 20, both sides"), 20 * (100 * 0.6435011 - 48)),
        ("turned", ("body Ø20 x 50", "square 15 across flats x 10 long, chuck end"), 0.0),
        ("turned", ("body Ø20 x 50", "chamfer 2 x 30, chuck end"), None),
        ("turned", ("body Ø20 x 50", "groove 4 wide x 2 deep at 10, chuck end"), pi * (100 - 64) * 4),
        ("turned", ("body Ø20 x 50", "taper 10° x Ø20 x 20 long, chuck end"), None),
        ("turned", ("body Ø20 x 50", "chamfer 1"), 2 * (pi * 100 - frustum(10, 9, 1))),
    ],
)  # fmt: skip
def test_what_each_feature_takes_by_closed_forms(form, lines, gone) -> None:
    whole = shaped(form, lines[0]).body.volume()
    part = shaped(form, *lines)
    assert part.features[1].missing == ()
    took = whole - part.body.volume()
    if gone:
        assert took == pytest.approx(gone, rel=6e-3)
    else:
        assert took > 0


@pytest.mark.parametrize(
    ("line", "spots"),
    [
        ("4 holes 5 through, on 20 x 10 centres, in the middle, top", {(20, 15), (40, 15), (20, 25), (40, 25)}),
        ("6 holes 5 through, on 10 x 12 centres, in the middle, top", {(20, 14), (30, 14), (40, 14), (20, 26), (30, 26), (40, 26)}),
        ("6 holes 5 through, on 10 x 12 centres, along the width, in the middle, top", {(25, 8), (35, 8), (25, 20), (35, 20), (25, 32), (35, 32)}),
        ("3 holes 5 through, on 10 centres, 8 from right, 6 from back, top", {(52, 34), (42, 34), (32, 34)}),
        ("3 holes 5 through, on 10 centres, along the width, 8 from left, 6 from front, top", {(8, 6), (8, 16), (8, 26)}),
        ("4 holes 5 through, on a 20 circle, in the middle, top", {(40, 20), (30, 30), (20, 20), (30, 10)}),
        ("2 holes 5 through, on 20 centres, 10 from front, top", {(20, 10), (40, 10)}),  # in the middle of the length as usual
        ("2 holes 5 through, on 10 centres, front, 5 from top, 10 from left", {(10, 25), (20, 25)}),
    ],
)  # fmt: skip
def test_where_each_of_several_stands(line, spots) -> None:
    cuts = shaped("block", BLOCK_60, line).features[1].cuts
    assert {(round(c.shape.x, 6), round(c.shape.y, 6)) for c in cuts} == spots


@pytest.mark.parametrize(
    ("line", "reach"),
    [
        ("slot 8 x 4 deep x 20 long, open left, in the middle, top", (None, 20, 16, 24)),
        ("slot 8 x 4 deep x 20 long, open back, 10 from right, top", (46, 54, 20, None)),
        ("slot 8 x 4 deep x 20 long, 5 from left, 10 from front, top", (5, 25, 6, 14)),
        ("slot 8 x 4 deep x 20 long, along the width, 10 from left, 5 from back, top", (6, 14, 15, 35)),
        ("pocket 20 x 10 x 4 deep, R2, 5 from right, 6 from back, top", (35, 55, 24, 34)),
        ("pocket 20 x 10 x 4 deep, R2, along the width, in the middle, top", (25, 35, 10, 30)),
        ("step 5 wide x 3 deep, along the back, top", (None, None, 35, None)),
        ("step 5 wide x 3 deep, along the right, top", (55, None, None, None)),
        ("slit 2 x 10 deep, top, 8 from front", (None, None, 7, 9)),
        ("slit 2 x 10 deep, top, 8 from right", (51, 53, None, None)),
    ],
)
def test_where_a_milled_feature_lies(line, reach) -> None:
    (cut,) = shaped("block", BLOCK_60, line).features[1].cuts
    a, b, c, d = cut.shape.bounds
    for found, wanted in zip((a, c, b, d), reach, strict=True):
        assert abs(found) > 1e5 if wanted is None else found == pytest.approx(wanted)


def test_chamfers_of_a_block_are_counted_along_their_edges() -> None:
    plain = measure(shaped("block", BLOCK_60), "block")
    for line, gone in (
        ("chamfer 1, top", 0.5 * 200),
        ("chamfer 1, left", 0.5 * 140),
        ("chamfer 1, front", 0.5 * 180),
        ("broken edge 1", 0.5 * 4 * 130),
        ("chamfer 1 x 60, top", 0.5 * sqrt(3) * 200),
    ):
        found = measure(shaped("block", BLOCK_60, line), "block")
        assert plain.volume - found.volume == pytest.approx(gone, rel=1e-4)
        assert (plain.about, found.about) == (False, True)
    assert measure(shaped("block", "face, top"), "block") is None


def test_what_is_left_of_each_face_is_named_largest_first() -> None:
    found = measure(shaped("block", BLOCK_60, "step 58 wide x 5 deep, along the left, top", "pocket 59 x 39.5 x 3 deep, in the middle, bottom"), "block")  # fmt: skip
    assert found.faces[:2] == ("front", "back")
    assert found.faces[-1] == "bottom" or found.faces[-1] == "top"
    assert found.slenderness == 2.0
    assert measure(shaped("turned", "body Ø20 x 50"), "turned").faces == ("free end", "chuck end", "outside")


def test_walls_of_a_plate_with_round_ends_and_of_a_tapped_hole() -> None:
    plate = shaped(
        "block", "plate 80 x 20 x 6, round ends", "hole 6 through, 10 from left, in the middle, top"
    ).body
    assert thinnest_wall(plate).thick == pytest.approx(7.0, abs=0.01)
    tapped = shaped("block", BLOCK_60, "M6 through, 5 from left, in the middle, top").body
    assert thinnest_wall(tapped).thick == pytest.approx(2.0)
    deep = shaped("turned", "body Ø20 x 50", "hole 4 x 48 deep, free end").body
    assert thinnest_wall(deep).thick == pytest.approx(2.0, abs=1e-6)


@pytest.mark.parametrize(
    ("lines", "profile"),
    [
        (("body Ø20 x 50", "taper 90° x Ø20 x 5 long, free end"), ((0, 5), (5, 10), (50, 10))),
        (("body Ø20 x 50", "taper 90° x Ø20 x 5 long, chuck end"), ((0, 10), (45, 10), (50, 5))),
        (("body Ø20 x 50", "taper 1:10 x Ø20 to Ø16 x 40 long, free end"), ((0, 8), (40, 10), (50, 10))),
        (("body Ø20 x 50", "chamfer 2, free end"), ((0, 8), (2, 10), (50, 10))),
        (("body Ø20 x 50", "chamfer 2 x 60, chuck end"), ((0, 10), (50 - 2 * sqrt(3), 10), (50, 8))),
        (("body Ø20 x 50", "groove 4 wide to Ø15 at 10 from chuck end"), ((0, 10), (36, 10), (36, 7.5), (40, 7.5), (40, 10), (50, 10))),
        (("body Ø20 x 50", "shoulder 14 x 10 at 5, chuck end"), ((0, 10), (35, 10), (35, 7), (45, 7), (45, 10), (50, 10))),
        (("profile points 5 10; 25 10; 25 20; 55 20",), ((0, 5), (20, 5), (20, 10), (50, 10))),
    ],
)  # fmt: skip
def test_the_outside_of_a_turned_part_corner_by_corner(lines, profile) -> None:
    found = shaped("turned", *lines).body.profile
    assert len(found) == len(profile)
    assert [x for spot in found for x in spot] == pytest.approx(
        [x for spot in profile for x in spot], abs=2e-3
    )


def test_two_slopes_that_cross_have_a_corner_where_they_do() -> None:
    one, other = ((0.0, 0.0), (10.0, 10.0)), ((0.0, 6.0), (10.0, 4.0))
    assert lower_of(one, other) == ((0.0, 0.0), (5.0, 5.0), (10.0, 4.0))
    assert higher_of(one, other) == ((0.0, 6.0), (5.0, 5.0), (10.0, 10.0))
    assert radius_at(one, 2.5) == 2.5
    assert trimmed(one, 2.0, 4.0) == ((2.0, 2.0), (4.0, 4.0))


def test_holes_beside_the_axis_stand_on_their_circle_from_their_own_end() -> None:
    part = shaped("turned", "body Ø40 x 50", "4 holes 5 x 10 deep, on a 28 circle, chuck end", "4 holes 5 x 12 deep, on a 28 circle, free end")  # fmt: skip
    chuck, free = part.features[1].cuts, part.features[2].cuts
    assert {(round(c.shape.x, 6), round(c.shape.y, 6)) for c in chuck} == {
        (14, 0),
        (0, 14),
        (-14, 0),
        (0, -14),
    }
    assert (chuck[0].low, free[0].high) == (40, 12)
    assert chuck[0].high > 1e5 > -1e5 > free[0].low


def test_cross_holes_and_the_points_of_drills() -> None:
    (cut,) = shaped("block", BLOCK_60, "cross hole 6, 20 from left, 10 from bottom").features[1].cuts
    assert (cut.axis, cut.face, cut.shape) == ("y", "front", Disc(20, 10, 3))
    assert cut.high - cut.low > 1e5  # through, as nothing else is said
    (deep,) = (
        shaped("block", BLOCK_60, "cross hole 6 x 8 deep, 20 from left, 10 from bottom").features[1].cuts
    )
    assert deep.high == 8
    assert deep.tip == pytest.approx(1.8, abs=0.01)  # half the tangent of 31° of the diameter
    row = (
        shaped("turned", "body Ø20 x 50", "2 cross holes 4 through, on 10 centres, at 12 from chuck end")
        .features[1]
        .cuts
    )
    assert [c.shape.x for c in row] == [38, 28]
    drilled, bored = shaped(
        "turned", "body Ø20 x 50", "hole 6 x 20 deep, free end", "bore 6 x 20 deep, chuck end"
    ).features[1:]
    assert tip_of(drilled) == pytest.approx(1.8, abs=0.01)
    assert tip_of(bored) == 0


def test_twelve_in_a_grid_and_a_concave_outline() -> None:
    cuts = (
        shaped("block", BLOCK_60, "12 holes 2 through, on 10 x 8 centres, in the middle, top")
        .features[1]
        .cuts
    )
    xs, ys = ({round(getattr(c.shape, axis), 6) for c in cuts} for axis in "xy")
    assert (len(xs), len(ys)) == (4, 3)
    assert shaped("block", BLOCK_60, "7 holes 2 through, on 10 x 8 centres, in the middle, top").features[1].missing == ("how many rows the grid has",)  # fmt: skip
    horseshoe = Contour(((0, 0), (30, 0), (30, 20), (20, 20), (20, 10), (10, 10), (10, 20), (0, 20)))
    assert horseshoe.spans(15, upright=False) == [(0, 10), (20, 30)]
    assert Oblong(0, 1, 10, 5).moved(2, 3).bounds == (2, 4, 12, 8)


def test_a_chamfer_larger_than_its_end_is_asked_about_and_what_is_usual_is_said() -> None:
    part = shaped("turned", "body Ø4 x 20", "chamfer 2, free end")
    assert part.features[1].missing == ("a chamfer that leaves something of Ø4",)
    slot = shaped("block", BLOCK_60, "slot 8 x 4 deep x 20 long, top, in the middle").features[1]
    assert slot.usual == ("ends round, as an end mill of its width leaves them",)
    assert slot.cuts[0].shape == Oblong(20, 16, 40, 24, 4)
    upright = shaped("block", "block 30 x 60 x 20", "slot 8 x 4 deep x 20 long, top, in the middle").features[
        1
    ]
    assert upright.cuts[0].shape == Oblong(11, 20, 19, 40, 4)  # along the longer side


def test_a_strip_bent_twice_is_as_high_and_as_long_as_by_hand() -> None:
    """A channel: base 40, two walls of 20 outside, 2 thick, radius 3; flat by the bend sheet."""
    flat = developed_mm([15, 30, 15], [Bend(90, 3), Bend(90, 3)], 2)
    at = 15 + (flat - 60) / 4
    form = bent(shaped("block", f"plate {flat:.4f} x 20 x 2", f"bend 90 x R3, {at:.4f} from left", f"bend 90 x R3, {at:.4f} from right"))  # fmt: skip
    assert form.size == pytest.approx((20, 40), abs=0.02)  # the first leg lies along x


def test_a_size_said_twice_or_in_two_units_is_asked_about() -> None:
    def codes(*lines: str) -> list[str]:
        features = [Named(n, f"it {n}", read_feature(line, "block", "mm")) for n, line in enumerate(lines)]
        return [f.code for f in feature_findings(features, "block", "mm")]

    assert codes("block 60 x 40 x 12") == []
    assert codes("block 60 x 40 x 12 in") == ["size-mixed"]
    assert codes("block 3 in x 2 in x 1 in") == []
    assert codes("block 60 x 40 x 12", "block 60 x 40 x 14") == ["size-twice"]
