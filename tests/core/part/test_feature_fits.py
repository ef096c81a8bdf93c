"""Features that leave the part or run into each other are asked about; those that fit raise nothing."""

from math import hypot

import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapely.geometry import Point, box

from ditto_run.core.part.features import Named, feature_findings, read_feature
from ditto_run.core.part.features.fits import block_size, disc, radius, wall_between

BLOCK = "outline 60 x 40 x 31.5"


def named(*lines: str) -> list[Named]:
    return [Named(i, f"f{i}", read_feature(line, "block", "mm")) for i, line in enumerate(lines)]


def codes(*lines: str) -> list[str]:
    return [finding.code for finding in feature_findings(named(BLOCK, *lines), "mm")]


@pytest.mark.parametrize(
    ("line", "code"),
    [
        ("bore 12 H7 through, top, 16 from left, 20 from front", None),
        ("bore 12 x 31.4 deep, top, centre", None),
        ("bore 12 x 31.5 deep, top, centre", "feature-too-deep"),
        ("hole 6 x 41 deep, front, 10 from left, 10 from bottom", "feature-too-deep"),
        ("hole 6 through, top, 61 from left, 10 from front", "feature-outside"),
        ("hole 6 through, top, 3 from left, 10 from front", None),
        ("hole 6 through, top, 2.9 from left, 10 from front", "feature-breaks-out"),
        ("hole 6 through, top, 2.9 from right, 10 from back", "feature-breaks-out"),
        ("hole 6.6 through, counterbore 11 x 6 deep, top, 5 from left, 20 from front", "feature-breaks-out"),
        ("hole 6 through, front, 10 from left, 29 from bottom", "feature-breaks-out"),
        ("4x hole 6 through, top, 1 from left, 10 from front, on 30 centres", None),
        ("pocket 40 x 60 x 5, top, centre", "feature-too-large"),
        ("pocket 20 x 59 x 5, top, centre", None),
        ("pocket 39 x 59 x 5, top, centre", None),
        ("hole 6 through, top", None),
        ("M6 x 12 deep, left, 20 from front, 2 from bottom", "feature-breaks-out"),
    ],
)
def test_what_does_not_fit_is_asked_about(line, code) -> None:
    assert codes(line) == ([code] if code else [])


def test_without_an_outline_nothing_is_judged_but_what_touches() -> None:
    lines = (
        "hole 6 x 500 deep, top, 900 from left, 5 from front",
        "hole 6 through, top, 904 from left, 5 from front",
    )
    found = feature_findings(named(*lines), "mm")
    assert [f.code for f in found] == ["features-touch"]
    assert "run into each other" in found[0].problem


def test_holes_side_by_side() -> None:
    def at(x: float) -> list[str]:
        return codes(
            "hole 6 through, top, 20 from left, 20 from front",
            f"hole 8 through, top, {x} from left, 20 from front",
        )

    assert at(27.1) == []
    assert at(27) == at(26) == ["features-touch"]
    assert (
        codes(
            "hole 6 through, top, 20 from left, 20 from front",
            "hole 8 through, bottom, 20 from left, 20 from front",
        )
        == []
    )


def test_the_ground_of_a_finding_is_what_it_rests_on() -> None:
    first = feature_findings(named(BLOCK, "hole 6 through, top, 2 from left, 9 from front"), "mm")[0]
    other = feature_findings(named(BLOCK, "hole 6 through, top, 1 from left, 9 from front"), "mm")[0]
    assert first.thing == other.thing == "feature 1"
    assert first.ground != other.ground


WHOLE = st.integers(0, 60)


@given(st.integers(2, 20), WHOLE, st.integers(0, 40), st.integers(2, 20), WHOLE, st.integers(0, 40))
def test_walls_and_edges_as_shapely_has_them(d, x, y, e, u, v) -> None:
    """Two holes in the top of a block of 60 by 40; discs and a rectangle in shapely, at 1/1000 of its circles' accuracy."""
    lines = [
        f"hole {d} through, top, {x} from left, {y} from front",
        f"hole {e} through, top, {u} from left, {v} from back",
    ]
    features = named(BLOCK, *lines)
    block = block_size(features)
    wall = wall_between(disc(features[1].feature, block), disc(features[2].feature, block))
    circles = [Point(x, y).buffer(d / 2, 256), Point(u, 40 - v).buffer(e / 2, 256)]
    assert wall == pytest.approx(hypot(x - u, y - 40 + v) - d / 2 - e / 2)
    if wall > 0:
        assert circles[0].distance(circles[1]) == pytest.approx(wall, abs=1e-2)
    else:
        assert circles[0].buffer(1e-3).intersects(circles[1])
    said = {
        f.thing
        for f in feature_findings(features, "mm")
        if f.code in {"feature-breaks-out", "feature-outside"}
    }
    for i, circle in enumerate(circles, 1):
        inside = box(0, 0, 60, 40).buffer(1e-6).contains(circle)
        assert (f"feature {i}" not in said) == inside
    assert radius(features[1].feature) == d / 2


def test_a_disc_is_known_only_where_all_of_it_was_said() -> None:
    block = block_size(named(BLOCK))

    def known(line: str) -> tuple | None:
        return disc(read_feature(line, "block", "mm"), block)

    assert known("hole 6 through, top, centre") == (30, 20, 3)
    assert known("hole 6 through, right, 10 from back, 5 from top") == (30, 26.5, 3)
    assert known("hole 6 through, top, 10 from left") is None
    assert known("slot 6 x 3, top, 10 from left, 5 from front") is None
    assert known("4x hole 6 through, top, 10 from left, 5 from front, on 8 centres") is None
