"""Taper pipe threads and tap drills against handbook values.

Source: [b1.20.1] E0, E1, L2 from memory, and its formulas: the table and the formula can disagree; [iso7] pitch and
minor diameters from memory; [iso2306] metric tap drills and [machinery] inch tap drills from memory.
"""

from decimal import Decimal

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.sizes.names import drill_in
from ditto_run.core.threads import (
    blind_hole,
    engagement_to_break_screw,
    hole_for_percent,
    percent_of_hole,
    pipe_thread,
    read_thread,
    relative_torque,
    thread_limits,
)

E1_IN = [
    ("1/16", ".28118"),
    ("1/8", ".37360"),
    ("1/4", ".49163"),
    ("3/8", ".62701"),
    ("1/2", ".77843"),
    ("3/4", ".98887"),
    ("1", "1.23863"),
    ("1-1/4", "1.58338"),
    ("1-1/2", "1.82234"),
    ("2", "2.29627"),
]


@pytest.mark.parametrize(("size", "printed"), E1_IN)
def test_npt_pitch_diameter_at_the_face(size: str, printed: str) -> None:
    assert abs(pipe_thread(read_thread(f"{size} NPT")).pitch_at_face - Decimal(printed)) <= Decimal("0.00006")


@pytest.mark.parametrize(
    ("size", "pitch", "minor"),
    [
        ("1/8", "9.147", "8.566"),
        ("1/4", "12.301", "11.445"),
        ("1/2", "19.793", "18.631"),
        ("1", "31.770", "30.291"),
    ],
)
def test_bspt_diameters(size: str, pitch: str, minor: str) -> None:
    found = pipe_thread(read_thread(f"Rc {size}"))
    assert abs(found.pitch_at_face - Decimal(pitch)) <= Decimal("0.001")
    assert abs(found.hole + found.engaged / 16 - Decimal(minor)) <= Decimal("0.0015")


def test_the_wrench_takes_three_threads() -> None:
    found = pipe_thread(read_thread("1/4 NPT"))
    assert found.engaged == pytest.approx(Decimal("0.2278") + 3 / Decimal(18), abs=Decimal("0.0001"))


@pytest.mark.parametrize(
    ("thread", "drill", "printed"),
    [
        ("1/4-20", "7", ".2013"),
        ("#10-32", "21", ".1596"),
        ("#10-24", "25", ".1494"),
        ("#8-32", "29", ".1336"),
        ("#6-32", "36", ".1076"),
        ("#4-40", "43", ".0876"),
    ],
)
def test_inch_tap_drills_at_75_per_cent(thread: str, drill: str, printed: str) -> None:
    found = read_thread(thread)
    assert round(hole_for_percent(found, Decimal(75)), 4) == Decimal(printed)
    assert 65 < percent_of_hole(found, drill_in(drill)) < 80


@pytest.mark.parametrize(
    ("thread", "drill"),
    [
        ("M3", "2.5"),
        ("M4", "3.3"),
        ("M5", "4.2"),
        ("M6", "5.0"),
        ("M8", "6.8"),
        ("M10", "8.5"),
        ("M12", "10.2"),
        ("M16", "14"),
        ("M20", "17.5"),
    ],
)
def test_metric_tap_drills_lie_in_the_minor_limits(thread: str, drill: str) -> None:
    band = thread_limits(read_thread(thread), "internal", "6H").minor
    assert band.low <= Decimal(drill) <= band.high
    assert 73 < percent_of_hole(read_thread(thread), Decimal(drill)) < 84


def test_a_larger_drill_never_leaves_more_thread() -> None:
    thread = read_thread("1/4-20")
    shares = [percent_of_hole(thread, Decimal(n) / 1000) for n in range(150, 260)]
    assert shares == sorted(shares, reverse=True)


def test_60_per_cent_is_easier_and_still_stronger_than_the_screw() -> None:
    """Common practice, no source: 60 % taps far easier, and one diameter of engagement still breaks the screw."""
    thread = read_thread("1/4-20")
    assert 1.3 < relative_torque(thread, Decimal(75), Decimal(60)) < 1.6
    least = thread_limits(thread, "external", "2A").pitch.low
    at_60 = engagement_to_break_screw(thread, hole_for_percent(thread, Decimal(60)), least)
    at_75 = engagement_to_break_screw(thread, hole_for_percent(thread, Decimal(75)), least)
    assert at_75 < at_60 < 0.25


def test_blind_depth_counts_lead_chips_and_point() -> None:
    """M6, 10 mm of full thread, plug tap: 4 × 1 + 1 more, and 0.3004 × 5 of point. Worked by hand."""
    found = blind_hole(read_thread("M6"), Decimal(10), "plug", Decimal(5))
    assert (found.drilled, found.with_point) == (15, Decimal("16.5020"))
    with pytest.raises(BadEntry):
        blind_hole(read_thread("M6"), Decimal(0), "plug", Decimal(5))


@pytest.mark.parametrize(
    "text", ["", "banana", "M", "1/4-200 UNC", "9/9 NPT", "Rc 7", "1 x 5 mm", "0.25 x 0 tpi", "M9.7"]
)
def test_an_unknown_thread_is_told_which_are_known(text: str) -> None:
    with pytest.raises(BadEntry) as caught:
        read_thread(text)
    assert caught.value.field == "thread"
    assert caught.value.remedy


@pytest.mark.parametrize(
    ("text", "name", "family"),
    [
        ("m10x1 6g", "M10×1", "metric"),
        ("M10x1 6g", "M10×1", "metric"),
        ("1/4 - 18 NPT", "1/4 NPT", "npt"),
        ("10-32", "#10-32 UNF", "unified"),
        ("1-1/8-7", "1-1/8-7 UNC", "unified"),
        ("1 1/8 - 12", "1-1/8-12 UNF", "unified"),
        (".250 x 22 tpi", "0.250 × 22 tpi", "custom"),
        ("1/4 BSPT", "Rc 1/4", "bspt"),
    ],
)
def test_the_ways_a_thread_is_written(text: str, name: str, family: str) -> None:
    found = read_thread(text)
    assert (found.name, found.family) == (name, family)


@pytest.mark.parametrize("wrong", ["2A", "6g", "9H", "6", "H6"])
def test_a_class_of_the_wrong_side_is_refused(wrong: str) -> None:
    for thread in ("M6", "1/4-20"):
        with pytest.raises(BadEntry) as caught:
            thread_limits(read_thread(thread), "internal", wrong)
        assert caught.value.field == "tolerance_class"
