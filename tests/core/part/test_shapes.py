"""Taper, pattern, bend and fit: closed forms against independent derivations and handbook figures."""

from decimal import Decimal
from math import atan, cos, degrees, hypot, pi, radians, sin

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.errors import BadEntry
from ditto_run.core.part.bend import (
    Bend,
    developed_mm,
    neutral_factor,
    roller_depth_mm,
    set_angle_deg,
    set_radius_mm,
)
from ditto_run.core.part.fit import (
    PURPOSES,
    fit_of_classes,
    match_reamers,
    purpose_of_play,
    ream_allowance_mm,
    slip_hole_mm,
)
from ditto_run.core.part.pattern import along_line, round_circle
from ditto_run.core.part.taper import solve_taper

D = Decimal
length = st.floats(0.5, 500)


@given(length, length, st.floats(0.5, 300))
def test_any_three_of_a_taper_give_the_fourth(small, more, long) -> None:
    whole = solve_taper(large_mm=small + more, small_mm=small, length_mm=long)
    figures = {
        "large_mm": small + more,
        "small_mm": small,
        "length_mm": long,
        "included_deg": whole.included_deg,
    }
    for left_out, value in figures.items():
        found = solve_taper(**{name: other for name, other in figures.items() if name != left_out})
        assert getattr(found, left_out) == pytest.approx(value, rel=1e-6)


def test_pipe_taper_and_sine_bar() -> None:
    """1 in 16 is 1°47′24″ a side, as tables of taper pipe threads print; 5 in at 22.5° is 1.9134 in, from memory."""
    pipe = solve_taper(large_mm=20, small_mm=15, length_mm=80)
    assert pipe.slide_deg == pytest.approx(1 + 47 / 60 + 24 / 3600, abs=0.0005)
    assert pipe.growth == 0.0625
    assert pipe.tailstock_mm(160) == pytest.approx(5)
    cone = solve_taper(small_mm=0, length_mm=10, included_deg=22.5)
    assert cone.sine_stack_mm(5 * 25.4) / 25.4 == pytest.approx(1.9134, abs=0.00005)
    assert cone.large_mm == pytest.approx(20 * sin(radians(11.25)) / cos(radians(11.25)))


@pytest.mark.parametrize(
    ("given_", "field"),
    [
        ({"large_mm": 20, "small_mm": 15}, "length"),
        ({"large_mm": 15, "small_mm": 20, "length_mm": 5}, "large"),
        ({"large_mm": 10, "length_mm": 100, "included_deg": 30}, "length"),
        ({"large_mm": 20, "small_mm": 15, "length_mm": 80, "included_deg": 9}, "angle"),
    ],
)
def test_an_impossible_taper_is_said_at_its_field(given_, field) -> None:
    with pytest.raises(BadEntry) as caught:
        solve_taper(**given_)
    assert caught.value.field == field


def test_six_holes_round_100() -> None:
    """From memory: (50, 0), (25, 43.3013) …; the chord of a hexagon is its radius."""
    found = round_circle(6, 100)
    assert found.step_mm == pytest.approx(50)
    assert [(round(x, 4), round(y, 4)) for x, y in found.points_mm[:3]] == [
        (50, 0),
        (25, 43.3013),
        (-25, 43.3013),
    ]


@given(st.integers(2, 60), st.floats(20, 400), st.floats(-180, 180), st.sampled_from([360.0, 90.0, 200.0]))
def test_neighbours_stand_equally_far_apart(count, across, start, sweep) -> None:
    found = round_circle(count, across, start, sweep)
    steps = [
        hypot(b[0] - a[0], b[1] - a[1]) for a, b in zip(found.points_mm, found.points_mm[1:], strict=False)
    ]
    assert steps == pytest.approx([found.step_mm] * (count - 1))


def test_a_line_of_holes_and_holes_that_touch() -> None:
    found = along_line(5, 10, 90, hole_mm=8)
    assert (found.step_mm, found.wall_mm) == (20, 12)
    assert found.points_mm[-1] == (90, 0)
    with pytest.raises(BadEntry, match="touch"):
        round_circle(40, 100, hole_mm=8)
    with pytest.raises(BadEntry, match="not past"):
        along_line(3, 50, 50)


def test_a_ring_is_as_long_as_its_middle_line() -> None:
    """Own derivation: at factor 0.5 a full turn of inside radius 20 in 4 mm is 2π × 22."""
    assert developed_mm([0, 0], [Bend(360, 20)], 4, 0.5) == pytest.approx(2 * pi * 22)
    assert neutral_factor(1, 2) < neutral_factor(4, 2) < neutral_factor(40, 2) == 0.5
    with pytest.raises(BadEntry) as caught:
        developed_mm([10], [Bend(90, 3)], 2)
    assert caught.value.field == "straights"


@given(st.floats(10, 400), st.floats(0.5, 8), st.floats(10, 60))
def test_rollers_touch_the_strip_they_bend(radius, thick, roller) -> None:
    """Own derivation checked the other way: the circle through the three contacts has the outside radius."""
    spacing = min(1.2 * (radius + thick), 300.0)
    depth = roller_depth_mm(radius, thick, spacing, roller)
    reach = radius + thick + roller / 2
    centre_y = (
        -roller / 2 - depth + reach
    )  # of the strip's circle, the outer rollers' centres at y = −roller/2
    assert hypot(spacing / 2, centre_y - -roller / 2) == pytest.approx(reach, rel=1e-6)
    with pytest.raises(BadEntry):
        roller_depth_mm(radius, thick, 3 * reach, roller)


def test_spring_back_is_found_by_trials() -> None:
    assert set_angle_deg(90, [(90, 87)]) == pytest.approx(93.1, abs=0.01)
    assert set_angle_deg(90, [(90, 87), (94, 91)]) == pytest.approx(93)
    formed = set_radius_mm(50, [(40, 44)])
    assert 1 / formed - 1 / 50 == pytest.approx(1 / 40 - 1 / 44)
    for wrong in ([], [(40, 30)]):
        with pytest.raises(BadEntry):
            set_radius_mm(50, wrong)
    with pytest.raises(BadEntry):
        set_angle_deg(90, [(90, 88), (95, 80)])


def test_sliding_fit_at_25() -> None:
    """[iso286-values]: 25 H7/g6 has 7 to 41 µm of play."""
    fit = fit_of_classes(D(25), "H7", "g6")
    assert (fit.least_play_mm, fit.most_play_mm, fit.kind) == (D("0.007"), D("0.041"), "clearance")
    assert fit_of_classes(D(25), "H7", "p6").kind == "interference"
    assert fit_of_classes(D(25), "H7", "k6").kind == "transition"


@pytest.mark.parametrize(("hole", "shaft"), [(h, s) for _, h, s, _ in PURPOSES])
def test_both_bases_of_a_common_fit_give_the_same_kind(hole: str, shaft: str) -> None:
    """A fact of the system: the hole basis and the shaft basis of a purpose have the same least play but for rounding."""
    for nominal in (D(8), D(25), D(60)):
        one, other = fit_of_classes(nominal, *hole.split("/")), fit_of_classes(nominal, *shaft.split("/"))
        assert one.kind == other.kind
        assert abs(one.least_play_mm - other.least_play_mm) <= D("0.008")


def test_a_real_pair_is_called_by_the_tightest_fit_that_holds_it() -> None:
    assert purpose_of_play(D(12), D("0.004")) == "locating, goes in by hand"
    assert purpose_of_play(D(12), D("0.056")) == "close running"
    assert purpose_of_play(D(12), D("1")) == ""


def test_the_reamer_at_hand() -> None:
    owned = [("worn", D("11.997")), ("new", D("12.006")), ("big", D("12.020"))]
    assert [match.name for match in match_reamers((D("12.000"), D("12.018")), owned)] == [
        "new",
        "big",
        "worn",
    ]
    assert match_reamers((D("12.000"), D("12.018")), owned)[1].off_mm == D("0.002")
    allowances = [ream_allowance_mm(D(n)) for n in (2, 5, 10, 15, 30, 45, 80)]
    assert allowances == sorted(allowances)
    low, high = slip_hole_mm(D("6.35"))
    assert (low - D("6.35")) / D("25.4") == D("0.0005")
    assert high - D("6.35") == D("0.0254")


def test_the_angle_of_a_taper_is_twice_the_arctangent_of_half_its_growth() -> None:
    taper = solve_taper(large_mm=30, small_mm=10, length_mm=50)
    assert taper.included_deg == pytest.approx(2 * degrees(atan(0.2)))
    assert taper.infeed_per_diameter == pytest.approx(1 / (2 * sin(atan(0.2))))
