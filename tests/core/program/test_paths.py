"""Paths of a tip and how long they take: crossings, quarter points, held surface speed, legs of a bent rapid; by hand or by sums."""

from math import hypot, pi, sqrt

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.program.clock import Clock, FeedRate
from ditto_run.core.program.given import BoxBlank, RoundBlank, Slides
from ditto_run.core.program.hits import legs
from ditto_run.core.program.paths import Arc, Line, parts_of
from ditto_run.core.program.said import ORDER, WORDS, said_of
from ditto_run.core.program.tally import ProgramFault

BOX = BoxBlank((0, 0, -10), (20, 10, 0))


def inside(path: Line | Arc, blank: BoxBlank | RoundBlank = BOX, grown: float = 0) -> float:
    return sum((b - a) * path.length for a, b, within in parts_of(path, blank, grown) if within)


def test_a_line_is_parted_exactly_where_it_enters_and_leaves() -> None:
    assert inside(Line((-5, 5, -1), (25, 5, -1))) == pytest.approx(20)
    assert inside(Line((-5, 5, -1), (25, 5, -1)), grown=3) == pytest.approx(26)
    assert inside(Line((5, 5, 5), (5, 5, -5))) == pytest.approx(5)
    assert inside(Line((0, 5, -5), (20, 5, -5))) == pytest.approx(20)
    assert inside(Line((0, 0, -5), (0, 10, -5))) == 0  # along its side: on the surface is outside
    assert inside(Line((0, 5, 0), (20, 5, 0))) == 0


@given(
    st.floats(-8, 8),
    st.floats(-8, 8),
    st.floats(1, 12),
    st.floats(0, 6),
    st.floats(0.1, 12),
    st.floats(-4, 4),
)
def test_an_arc_is_parted_as_a_sum_of_small_steps(
    x: float, y: float, radius: float, begin: float, sweep: float, climb: float
) -> None:
    """The same helix in 20,000 steps, each tested in its middle; own derivation."""
    start = (x + radius * np.cos(begin), y + radius * np.sin(begin), -2.0)
    end = (x + radius * np.cos(begin + sweep), y + radius * np.sin(begin + sweep), -2.0 + climb)
    arc = Arc(start, end, "17", (x, y), radius, begin, sweep)
    t = (np.arange(20_000) + 0.5) / 20_000
    px, py, pz = (
        x + radius * np.cos(begin + sweep * t),
        y + radius * np.sin(begin + sweep * t),
        -2 + climb * t,
    )
    within = (px > 0) & (px < 20) & (py > 0) & (py < 10) & (pz > -10) & (pz < 0)
    assert inside(arc) == pytest.approx(within.mean() * hypot(radius * sweep, climb), abs=0.02 * radius)


def test_an_arc_that_just_touches_a_side_is_inside_all_the_same() -> None:
    """Round (6, 5) with 6 it touches X0 half way between Y10 and Y0; found by the sums above."""
    arc = Arc((6, 11, -2), (6, -1, -2), "17", (6, 5), 6, pi / 2, pi)
    over = 6 * (pi / 2 - np.arcsin(5 / 6))  # from its top down to Y10
    assert inside(arc) == pytest.approx(6 * pi - 2 * over)


def test_an_arc_turns_round_at_its_quarter_points() -> None:
    half = Arc((5, 0, 0), (-5, 0, 0), "17", (0, 0), 5, 0, pi)
    assert [tuple(round(v, 6) for v in point) for point in half.turns()] == [(5, 0, 0), (0, 5, 0), (-5, 0, 0)]


def test_a_bar_is_a_ring_where_it_has_a_hole() -> None:
    bar = RoundBlank(40, (-50, 0), 20)
    assert inside(Line((25, 0, -10), (-25, 0, -10)), bar) == pytest.approx(20)  # ten on either side
    assert inside(Line((15, 0, 5), (15, 0, -60)), bar) == pytest.approx(50)
    assert inside(Line((5, 0, 5), (5, 0, -60)), bar) == 0
    assert inside(Line((25, 0, -10), (-25, 0, -10)), RoundBlank(40, (-50, 0))) == pytest.approx(40)


def test_a_held_surface_speed_takes_what_the_sum_of_its_turns_takes() -> None:
    """Facing 40 to 0 at 180 m/min, capped at 2,500: by hand ∫ dx / (f n) in two parts; own derivation."""
    rate = FeedRate(mm_rev=0.15, m_min=180, cap_rpm=2500)
    edge = 180_000 / (2 * pi * 2500)
    outer = pi * (20**2 - edge**2) / (180_000 * 0.15) * 60
    inner = edge / (0.15 * 2500) * 60
    assert rate.seconds(Line((20, 0, 0), (0, 0, 0))) == pytest.approx(outer + inner, rel=1e-6)
    assert FeedRate(mm_rev=0.2, rpm=500).seconds(Line((0, 0, 0), (0, 0, -50))) == pytest.approx(30)
    assert FeedRate().seconds(Line((0, 0, 0), (1, 0, 0))) is None


def test_a_bent_rapid_has_a_leg_for_each_axis_that_goes_on() -> None:
    """X 30 at 6000 is done in 0.3 s, Z 100 at 8000 in 0.75 s: after 40 of Z the rest goes alone."""
    first, second = legs((0, 0, 0), (30, 0, 100), (6000, 6000, 8000))
    assert first.end == pytest.approx((30, 0, 40))
    assert second.end == (30, 0, 100)
    assert legs((0, 0, 0), (30, 0, 100), None) == [Line((0, 0, 0), (30, 0, 100))]


def test_a_run_slows_for_a_corner_and_not_for_a_gentle_turn() -> None:
    """10 + 10 at 100 mm/s, 1000 mm/s²: straight on 20 from rest to rest, 0.3 s; round a corner twice 10, 2 × 2 √(10 / 1000)."""

    def took(turn: tuple[float, float, float]) -> float:
        clock = Clock(Slides((6000, 6000, 6000), 1000))
        for path in (Line((0, 0, 0), (10, 0, 0)), Line((10, 0, 0), turn)):
            clock.feed(path, path.length, path.length / 100)
        clock.stop()
        return clock.trapezoid_s

    assert took((20, 0, 0)) == pytest.approx(0.3)
    assert took((10 + 10 * 0.9877, 10 * 0.1564, 0)) == pytest.approx(0.3, rel=1e-3)  # nine degrees
    assert took((10, 10, 0)) == pytest.approx(4 * sqrt(10 / 1000))


def test_an_arc_is_not_driven_faster_than_its_radius_allows() -> None:
    clock = Clock(Slides((6000, 6000, 6000), 1000))
    circle = Arc((1, 0, 0), (1, 0, 0), "17", (0, 0), 1, 0, 2 * pi)
    clock.feed(circle, circle.length, circle.length / 1000)
    clock.stop()
    speed = sqrt(1000)  # √(a r)
    assert clock.trapezoid_s == pytest.approx(2 * pi / speed + speed / 1000)


def test_every_fault_has_a_weight_and_a_sentence() -> None:
    for kind in WORDS:
        said = said_of(ProgramFault(12, kind, "T5", {"seconds": 2.5}))
        assert said.problem.startswith("Line 12: ")
        assert said.problem.endswith(".")
        assert "{" not in said.problem
        assert said.weight in ORDER
        assert said.remedy.endswith(".")
