"""What is milled into a turned part at an angle round its axis: read, placed, taken away, drawn."""

from math import asin, pi, sqrt

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import Point, box
from shapely.affinity import rotate

from ditto_run.core.errors import BadEntry
from ditto_run.core.part.features import Named, feature_text, read_feature
from ditto_run.core.part.features.form import line_of_form
from ditto_run.core.part.shape.fits import feature_findings
from ditto_run.core.part.shape.measures import shape_part
from ditto_run.core.part.shape.turned import turned_by
from ditto_run.web.drawings.part_frame import PartPicture
from ditto_run.web.drawings.part_section import draw_section

BAR = "body Ø30 x 50"


def shaped(*lines: str):
    return shape_part(
        [Named(i, f"f{i}", read_feature(line, "turned", "mm")) for i, line in enumerate(lines)], "turned"
    )


def taken(*lines: str) -> float:
    return shaped(BAR).body.volume() - shaped(BAR, *lines).body.volume()


def segment(r: float, wide: float) -> float:
    """Area beyond a chord."""
    return r * r * asin(wide / 2 / r) - wide / 2 * sqrt(r * r - wide * wide / 4)


@pytest.mark.parametrize(
    ("lines", "wanted"),
    [
        (("flat 18 wide, outside, at 45°",), segment(15, 18) * 50),
        (("4x flat 18 wide, all round",), 4 * segment(15, 18) * 50),
        (("flat 18 wide x 10 long, at 5, outside, both sides, at 30°",), 2 * segment(15, 18) * 10),
        (("3x slot 6 x 3 deep x 20 long, 5 from free end, all round",), 3 * taken("slot 6 x 3 deep x 20 long, 5 from free end, outside")),
        (("3x M4 x 6 deep, all round, 10 from free end",), 3 * taken("M4 x 6 deep, 10 from free end, outside")),
        (("slot 4 x 3 deep, free end, at 90°",), taken("slot 4 x 3 deep, free end")),
        (("2x slot 4 x 3 deep, free end, all round",), 2 * taken("slot 4 x 3 deep, free end") - 4 * 4 * 3),
        (("cross hole 4 through at 10", "cross hole 4 through at 10, at 90°"), 2 * taken("cross hole 4 through at 10") - 16 * 8 / 3),
        (("hexagon 24 af x 10 long, free end, at 15°",), (pi * 225 - sqrt(3) / 2 * 24**2) * 10),
    ],
)  # fmt: skip
def test_what_stands_at_an_angle_takes_what_it_takes_at_the_top(lines, wanted) -> None:
    """Closed forms: circle segments; two crossing holes share 16 r³ / 3; two slots across an end their square."""
    assert taken(*lines) == pytest.approx(wanted, rel=2e-3)


def test_two_flats_that_meet_against_shapely() -> None:
    """A general library turns and cuts the disc once more."""
    disc = Point(0, 0).buffer(15, quad_segs=512)
    half = box(-99, 8, 99, 99)
    left = disc - half - rotate(half, 60, origin=(0, 0))
    wide = 2 * sqrt(225 - 64)
    body = shaped(BAR, f"flat {wide:.6f} wide, outside", f"flat {wide:.6f} wide, outside, at 60°").body
    assert body.volume() == pytest.approx(left.area * 50, rel=1e-3)


@given(
    st.integers(0, 359),
    st.sampled_from(
        [
            "slot 6 x 3 deep x 20 long, 5 from free end",
            "cross hole 5 x 9 deep, 20 from free end",
            "flat 20 wide x 8 long, at 4",
        ]
    ),
)
@settings(max_examples=25)
def test_any_angle_takes_the_same(angle, line) -> None:
    assert taken(f"{line}, outside, at {angle}°") == pytest.approx(taken(f"{line}, outside"), rel=2e-3)


def test_it_goes_round_clockwise_as_the_free_end_is_seen() -> None:
    """Right of the top: the axis runs away from you, y to the left."""
    assert turned_by(90, (0.0, 10.0)) == pytest.approx((-10, 0))
    section = shaped(BAR, "slot 6 x 3 deep x 20 long, 5 from free end, outside, at 90°").body.section(
        "x", 15.0
    )
    assert not section.contains(Point(-13, 0))
    assert section.contains(Point(13, 0))
    assert section.contains(Point(0, 13))


@pytest.mark.parametrize(
    "line",
    ["cross hole 4 through at 10, at 37°", "3x M4 x 6 deep, all round, 10 from free end", "flat 10 wide x 8 long, at 4, at 12.5°, outside"],
)  # fmt: skip
def test_it_reads_the_same_when_written_back(line) -> None:
    found = read_feature(line, "turned", "mm")
    again = read_feature(feature_text(found), "turned", "mm")
    assert again.turn is None or again.turn.nominal == found.turn.nominal
    assert (again.turn is None, again.extent, again.count, again.open) == (
        found.turn is None,
        found.extent,
        found.count,
        (),
    )
    assert feature_text(again) == feature_text(found)


@pytest.mark.parametrize(
    ("form", "line", "said"),
    [
        ("block", "hole 6 through, top, at 45°", "a block does not go round"),
        ("turned", "cross hole 4 through at 10, at 45°, at 90°", "twice how far round"),
    ],
)
def test_an_angle_that_cannot_be_is_refused(form, line, said) -> None:
    with pytest.raises(BadEntry, match=said):
        read_feature(line, form, "mm")


@pytest.mark.parametrize("line", ["2x cross hole 4 through, at 10", "3x slot 6 x 3 deep x 20 long, 5 from free end, outside", "2x flat 10 wide, outside"])  # fmt: skip
def test_several_are_asked_how_they_stand(line) -> None:
    assert "how they stand to each other" in shaped(BAR, line).features[1].missing[0]


def test_a_form_says_it_too() -> None:
    said = {"kind": "slot", "width": "4", "depth": "2", "length": "10", "from_free_end": "5"}
    assert line_of_form({**said, "turn": "90"}) == "slot 4 wide, 10 long, 2 deep, 5 from free end, at 90°"
    many = line_of_form({**said, "count": "3", "arranged": "all round", "by": "7"})
    assert read_feature(many, "turned", "mm").extent == "all round"
    assert "circle" not in many


def test_two_at_different_angles_do_not_run_into_each_other() -> None:
    def codes(*lines: str) -> list[str]:
        named = [Named(i, f"f{i}", read_feature(line, "turned", "mm")) for i, line in enumerate(lines)]
        return [finding.code for finding in feature_findings(named, "turned", "mm")]

    slot = "slot 6 x 3 deep x 20 long, 5 from free end, outside"
    assert codes(BAR, slot, f"{slot}, at 90°") == []
    assert codes(BAR, slot, slot.replace("5 from", "9 from")) == ["features-touch"]


def test_it_is_drawn_where_it_is_seen() -> None:
    """Towards you whole, behind dashed, at the top by its depth."""

    def drawn(angle: int) -> str:
        return str(
            draw_section(
                PartPicture(shaped(BAR, f"cross hole 6 x 5 deep, 20 from free end, at {angle}°"), "mm")
            )
        )

    towards, behind, top = drawn(90), drawn(270), drawn(0)
    assert '<ellipse class="sc-h dye"' in towards
    assert '<ellipse class="sc-d" stroke-dasharray' in behind
    assert "<ellipse" not in top
