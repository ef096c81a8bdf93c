"""Every thread of the series, every class: limits that make sense, names that read back, gauges that mate."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.errors import BadEntry
from ditto_run.core.sizes import read_size, size_text
from ditto_run.core.threads import (
    hole_for_percent,
    percent_of_hole,
    pipe_thread,
    read_thread,
    shear_area_per_length,
    tap_drills,
    tensile_area,
    thread_limits,
)
from ditto_run.core.threads.pipe import BSPT_LENGTHS_MM
from ditto_run.core.threads.series import COARSE_PITCH_MM, COARSE_UN, FINE_UN, NPT

D = Decimal
UNIFIED = [f"{size}-{per_inch}" for table in (COARSE_UN, FINE_UN) for size, per_inch in table.items()]
METRIC = [f"M{size}" for size in COARSE_PITCH_MM]
CLASSES = {
    "in": (("1A", "2A", "3A"), ("1B", "2B", "3B")),
    "mm": (("4h", "6g", "6h", "8g", "5g6g"), ("4H5H", "5H", "6H", "7H", "6G")),
}


@pytest.mark.parametrize("name", UNIFIED + METRIC)
def test_limits_of_every_class_are_in_order_and_mate(name: str) -> None:
    thread = read_thread(name)
    outside, inside = CLASSES[thread.unit]
    mated = []
    for external in outside:
        try:
            found = thread_limits(thread, "external", external)
        except BadEntry as refusal:
            assert refusal.field == "tolerance_class"
            continue
        assert found.major.low < found.major.high <= thread.major
        assert found.pitch.low < found.pitch.high < found.major.high
        assert found.minor.high < found.pitch.low
        mated.append(found)
    for internal in inside:
        try:
            found = thread_limits(thread, "internal", internal)
        except BadEntry as refusal:
            assert refusal.field == "tolerance_class"
            continue
        assert found.minor.low < found.minor.high < found.pitch.high
        assert found.pitch.low < found.pitch.high < found.major.low + (found.pitch.high - found.pitch.low)
        for external in mated:
            assert external.pitch.high <= found.pitch.low, "the largest screw goes into the tightest nut"
            assert external.major.high <= found.major.low


@pytest.mark.parametrize("name", UNIFIED)
def test_finer_classes_have_narrower_pitch_diameters(name: str) -> None:
    thread = read_thread(name)
    for side, classes in (("external", ("1A", "2A", "3A")), ("internal", ("1B", "2B", "3B"))):
        widths = [band.high - band.low for band in (thread_limits(thread, side, c).pitch for c in classes)]
        assert widths[0] > widths[1] > widths[2]


@pytest.mark.parametrize("name", UNIFIED)
def test_the_series_is_known_by_its_pitch(name: str) -> None:
    size, per_inch = name.rsplit("-", 1)
    assert read_thread(name).series in {"UNC", "UNF"}
    usual = {(s, D(str(p))) for t in (COARSE_UN, FINE_UN) for s, p in t.items()}
    other = D(per_inch) + 1
    assert (read_thread(f"{size}-{other}").series in {"UNC", "UNF"}) == ((size, other) in usual)


@pytest.mark.parametrize(
    "name", UNIFIED + METRIC + [f"{size} NPT" for size in NPT] + [f"Rc {size}" for size in BSPT_LENGTHS_MM]
)
def test_a_thread_name_reads_back_the_same(name: str) -> None:
    once = read_thread(name)
    assert read_thread(once.name) == once


@pytest.mark.parametrize(
    "name", ["1/8 NPT", "1/4-18 NPT", "Rc 1/4", "1-1/4 NPT", "M10x1 5g6g", "1/4-20 UNC 2B"]
)
def test_the_part_reads_threads_that_are_gauged(name: str) -> None:
    size = read_size(name, "mm")
    assert size.kind == "thread"
    assert read_size(size_text(size), "mm").name == size.name
    assert read_thread(size.name)


@given(st.sampled_from(UNIFIED + METRIC), st.integers(1, 100))
def test_percent_and_hole_are_each_others_inverse(name: str, percent: int) -> None:
    thread = read_thread(name)
    hole = hole_for_percent(thread, D(percent))
    assert abs(percent_of_hole(thread, hole) - percent) < D("1e-15")
    assert hole < thread.major


@given(st.sampled_from(UNIFIED + METRIC), st.integers(50, 79))
def test_a_smaller_hole_holds_more(name: str, percent: int) -> None:
    thread = read_thread(name)
    least = thread_limits(thread, "external").pitch.low
    loose, tight = (
        shear_area_per_length(thread, hole_for_percent(thread, D(p)), least) for p in (percent, percent + 1)
    )
    assert tight > loose > 0
    assert 0 < tensile_area(thread) < float(thread.major) ** 2


@pytest.mark.parametrize("name", [f"{size} NPT" for size in NPT] + [f"Rc {size}" for size in BSPT_LENGTHS_MM])
def test_pipe_threads_grow_with_their_size(name: str) -> None:
    found = pipe_thread(read_thread(name))
    assert found.hole < found.pitch_at_face
    assert 0 < found.make_up < found.engaged
    with pytest.raises(BadEntry):
        thread_limits(read_thread(name), "internal")


def test_the_nearest_drill_comes_first() -> None:
    drills = [("a", D("5.0")), ("b", D("5.2")), ("c", D("4.9")), ("huge", D("5.9")), ("tiny", D("3"))]
    found = tap_drills(read_thread("M6"), drills, (D("4.917"), D("5.153")), D(75))
    assert [drill.name for drill in found] == ["a", "c", "b"]
    assert [drill.within for drill in found] == [True, False, False]
