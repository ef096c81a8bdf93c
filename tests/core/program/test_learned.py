"""A machine's times from clocked programs: made with times that are known, and found again. By hand."""

from dataclasses import replace

import pytest

from ditto_run.core.program.choice import TimeParts
from ditto_run.core.program.dialect import DIALECTS
from ditto_run.core.program.given import Given, Slides
from ditto_run.core.program.learned import ClockedProgram, Learned, learn, parts_of
from ditto_run.core.program.reader import read_program

CHANGE_S, PACE, SLACK = 5.0, 60 / 20_000, 1 / 2000  # 20 m/min and 2 m/s²


def clocked(feed_s: float, changes: int, rapid_mm: float, gather: float) -> ClockedProgram:
    clock = feed_s + CHANGE_S * changes + PACE * rapid_mm + SLACK * gather
    return ClockedProgram("one", 5, clock, TimeParts(feed_s, changes, rapid_mm, gather))


THREE = [clocked(100, 4, 10_000, 20_000), clocked(100, 10, 4000, 60_000), clocked(50, 1, 50_000, 5000)]


def test_the_clock_of_one_program_by_hand() -> None:
    """100 at feed, 4 × 5 s of changes, 10 m at 20 m/min is 30 s, 20,000 mm/s at 2 m/s² is 10 s."""
    assert THREE[0].clock_s == pytest.approx(160)


def test_three_programs_say_all_three_and_two_say_change_and_rapid() -> None:
    found = learn(THREE, 15, 1)  # what the register has does not matter
    assert (found.change_s, found.rapid_m_min, found.accel_m_s2) == pytest.approx((5, 20, 2))
    assert found.off_s == pytest.approx(0, abs=1e-6)
    two = learn(THREE[::2], 15, 2)
    assert (two.change_s, two.rapid_m_min) == pytest.approx((5, 20))
    assert two.accel_m_s2 is None


def test_one_program_says_the_change_alone_and_only_where_the_rest_is_known() -> None:
    assert learn(THREE[:1], 20, 2) == Learned(pytest.approx(5), off_s=pytest.approx(0, abs=1e-6))
    assert not learn(THREE[:1], None, 2).says
    assert not learn(THREE[:1], 20, None).says
    bare = [clocked(60, 0, 12_000, 0)]
    assert learn(bare, None, None).rapid_m_min == pytest.approx(20)


def test_programs_that_are_alike_or_a_clock_that_says_too_little_teach_less() -> None:
    alike = [clocked(100, 4, 10_000, 20_000), clocked(200, 8, 20_000, 40_000), clocked(50, 2, 5000, 10_000)]
    assert learn(alike, 20, 2) == Learned(pytest.approx(5), off_s=pytest.approx(0, abs=1e-6))
    quick = [replace(one, clock_s=one.parts.feed_s) for one in THREE]
    assert not learn(quick, 20, 2).says


def test_parts_add_up_to_what_the_reader_says() -> None:
    """1 m of X at 10 m/min and one of 60 s at feed; one change of 4 s; from rest to rest each loses v/a."""
    given = Given(DIALECTS["mill-ngc"], Slides((10_000, 10_000, 10_000), 500, 4), {"G54": (0, 0, 0)})
    text = "G21 G90 G94\nT1 M6\nS500 M3\nG54 G0 X1000.\nG1 X1100. F100.\nM5\nM30\n"
    read = read_program(text, given)
    parts = parts_of(read)
    assert parts == TimeParts(60, 1, 1000, pytest.approx(10_000 / 60 + 100 / 60, abs=0.2))
    assert read.simple_s == pytest.approx(60 + 4 + 6)
