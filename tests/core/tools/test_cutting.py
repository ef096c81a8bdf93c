"""A tool at work: speeds, ways, times, reach and power, each against what is worked out by hand or in closed form."""

from dataclasses import replace
from decimal import Decimal as D
from itertools import pairwise
from math import pi

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

from ditto_run.core.method.ability import Cut, spindle_rpm
from ditto_run.core.part.features import known_feature
from ditto_run.core.sheets import Known
from ditto_run.core.shop.groups import GROUPS, group_named, group_of
from ditto_run.core.tools.cutting.motion import faced_s, infeeds_mm, move_s
from ditto_run.core.tools.cutting.paths import Cutter, CutWay, way_of
from ditto_run.core.tools.cutting.reach import Stands, reach_of
from ditto_run.core.tools.cutting.speed import Spindle, band_of, take_speed, thinned, usual_feed_mm
from ditto_run.core.tools.cutting.spent import Limits, lighter_cuts
from ditto_run.core.tools.cutting.work import ON_AN_EDGE, work_of
from ditto_run.core.tools.spindle_sheet import SPINDLE


@pytest.mark.parametrize(
    ("material", "group"),
    [
        ("6061-T6", "aluminium"),
        ("316 stainless, 12 mm bar", "stainless"),
        ("42CrMo4", "alloy steel"),
        ("free-cutting brass", "brass"),
        ("grey iron", "cast iron"),
        ("mild steel", "mild steel"),
        ("Ti 6Al-4V", "titanium"),
    ],
)
def test_a_material_is_known_by_its_name(material: str, group: str) -> None:
    found = group_of(material)
    assert found is not None
    assert found.name == group


def test_a_name_that_does_not_tell_has_no_group_and_makers_speeds_rise_with_carbide() -> None:
    assert group_of("what lay in rack 3") is None
    assert all(group.carbide_m_min[0] > group.hss_m_min[0] for group in GROUPS)


def test_speeds_of_the_handbook_are_those_of_the_reference() -> None:
    """Mild steel 90 to 110 ft/min with high-speed steel, carbide three to five times: from memory, orders only."""
    low, high = band_of(group_named("mild steel"), "turn", carbide=False)
    assert (round(low / 0.3048), round(high / 0.3048)) == (90, 110)
    low, high = band_of(group_named("mild steel"), "mill", carbide=True)
    assert (round(low / 0.3048), round(high / 0.3048)) == (270, 550)


@pytest.mark.parametrize(
    ("does", "kind", "turns", "work"),
    [
        ("drill 5.0", "", False, "drill"),
        ("spot drill", "", False, "spot"),
        ("tap M6", "", False, "tap"),
        ("drill and tap M6", "", False, "drill"),  # what it says first
        ("spot tapped holes", "", False, "spot"),
        ("chamfer tapped holes", "", False, "mill"),
        ("slot for the drilled plate", "", False, "mill"),
        ("mill the profile", "", True, "turn"),
        ("finish slot", "", False, "mill"),
        ("finish", "", True, "turn"),
        ("bore 20 H7", "", True, "bore"),
        ("groove", "", True, "part"),
        ("part off", "", True, "part"),
        ("thread M10", "", True, "thread"),
        ("finish slot", "drill", False, "drill"),  # the register knows what stands in the machine
        ("knurl", "", True, "knurl"),
        ("deburr", "", False, None),
        ("saw the slit", "", False, None),
        ("measure", "", True, None),
    ],
)
def test_what_a_step_cuts_is_known_by_its_words_or_its_tool(
    does: str, kind: str, turns: bool, work: str | None
) -> None:
    assert work_of(does, kind, turns=turns) == work


def test_speed_is_3_82_sfm_over_the_diameter() -> None:
    """Rpm = 12 v / (π D): 100 ft/min at ½ in is 763.94 rev/min, [reference j]."""
    found = take_speed((30.48, 30.48), 12.7, Spindle())
    assert found.rpm == pytest.approx(763.94, abs=0.01)


@pytest.mark.parametrize(
    ("spindle", "own", "rpm"),
    [
        (Spindle(), None, 1000 * 40 / (pi * 10)),  # 20 to 80: the geometric mean is 40
        (Spindle(1000), None, 1000),
        (Spindle(None, (80.0, 500.0, 1200.0, 1300.0)), None, 1200),
        (Spindle(600, (80.0, 500.0, 1200.0)), None, 500),  # a speed above its end is not taken
        (Spindle(None, (2000.0, 3000.0)), None, 2000),  # none is slow enough: the slowest
        (Spindle(1000), 4500.0, 4500),  # what somebody says is kept; that it cannot be is said elsewhere
    ],
)
def test_the_machine_decides_the_speed_that_is_set(spindle: Spindle, own: float | None, rpm: float) -> None:
    assert take_speed((20.0, 80.0), 10.0, spindle, own_rpm=own).rpm == pytest.approx(rpm)


def test_the_shops_own_cutting_speed_goes_before_the_handbooks() -> None:
    assert take_speed((20.0, 80.0), 10.0, Spindle(), own_m_min=31.4159265).rpm == pytest.approx(1000)


def test_feeds_follow_the_tool_and_end_where_practice_ends() -> None:
    assert usual_feed_mm("drill", 10, soft=False) == pytest.approx(0.125)
    assert usual_feed_mm("drill", 80, soft=True) == 0.4
    assert usual_feed_mm("ream", 10, soft=False) == pytest.approx(0.25)
    assert usual_feed_mm("mill", 0.5, soft=False) == 0.005
    assert usual_feed_mm("turn", 0, soft=False, finish=True) == 0.08
    assert usual_feed_mm("tap", 6, soft=False) == 0


@pytest.mark.parametrize(("share", "factor"), [(0.05, 2.294), (0.1, 1.667), (0.2, 1.25), (0.5, 1), (1, 1)])
def test_a_narrow_cut_thins_the_chip(share: float, factor: float) -> None:
    """Factors of [reference j], computed there from first principles."""
    assert 0.1 / thinned(0.1, share * 10, 10) == pytest.approx(factor, abs=0.001)


def test_a_move_takes_its_length_over_its_speed_and_the_speed_over_the_acceleration() -> None:
    assert move_s(100, 6000) == pytest.approx(1)
    assert move_s(100, 6000, 1) == pytest.approx(1.1)  # 0.1 s to gather, the same to lose, half its way each
    assert move_s(10, 6000, 1) == pytest.approx(0.2)  # just reaches its speed
    assert move_s(2.5, 6000, 1) == pytest.approx(0.1)  # never does: 2 √(l / a)
    assert move_s(0, 6000, 1) == 0


@given(st.floats(0, 2000), st.floats(100, 60000), st.floats(0.1, 20))
def test_a_move_is_never_quicker_than_its_speed_nor_than_its_acceleration(
    length: float, speed: float, accel: float
) -> None:
    took = move_s(length, speed, accel)
    assert took >= length / speed * 60 - 1e-9
    assert took >= 2 * (length / (accel * 1000)) ** 0.5 - 1e-9


@pytest.mark.parametrize("most", [None, 3000.0, 400.0])
def test_facing_with_the_surface_speed_held_is_the_integral_of_its_turns(most: float | None) -> None:
    def turns_a_second(r: float) -> float:
        free = 1000 * 150 / (2 * pi * r) / 60
        return free if most is None else min(free, most / 60)

    whole, _ = quad(lambda r: 1 / (0.1 * turns_a_second(r)), 1e-9, 30, limit=400)
    assert faced_s(30, 0, 0.1, 150, most) == pytest.approx(whole, rel=1e-4)


def test_a_thread_is_cut_in_passes_of_equal_area() -> None:
    depths = infeeds_mm(0.92, 0.25, 0.03)
    areas = [deep * deep - before * before for before, deep in zip((0.0, *depths), depths, strict=False)]
    assert depths[-1] == pytest.approx(0.92)
    assert depths[0] <= 0.25
    assert max(areas) == pytest.approx(min(areas))
    assert infeeds_mm(0.1, 0.25, 0.03) == (0.1,)


def test_no_pass_of_a_thread_rubs() -> None:
    depths = infeeds_mm(0.92, 0.1, 0.03)
    assert all(b - a >= 0.03 - 1e-9 for a, b in pairwise(depths))


def test_an_overhanging_bar_bends_as_a_cantilever() -> None:
    """Ø25, 100 mm, 500 N: 0.041390 mm of steel, 0.014019 of carbide; L/D 3 to 4 is 2.370 times, [reference k]."""

    def bends(tip: float, edge: str) -> float:
        found = reach_of(Stands(tip, 0, across_mm=25, force_n=500, edge=edge, fluted=False)).bends_mm
        assert found is not None
        return found[1]

    assert bends(100, "HSS") == pytest.approx(0.041390, abs=1e-6)
    assert bends(100, "carbide") == pytest.approx(0.014019, abs=1e-6)
    assert bends(100, "HSS") / bends(75, "HSS") == pytest.approx(2.370, abs=0.001)


def test_what_is_needed_is_the_depth_to_the_tip_and_room_for_the_holder() -> None:
    found = reach_of(Stands(24, 2, there_mm=26, flute_mm=24, cut_mm=24, across_mm=12))
    assert (found.needed_mm, found.spare_mm, found.top_mm, found.flute_mm) == (26, 0, 2, 0)
    short = reach_of(Stands(24, 2, there_mm=25.999))
    assert short.spare_mm is not None
    assert short.spare_mm < 0
    assert reach_of(Stands(24, 2)).spare_mm is None  # nobody said how far it stands out


@given(st.floats(1, 200), st.floats(0, 20), st.floats(0, 50))
def test_a_longer_stick_out_never_reaches_less_and_bends_more(tip: float, more: float, out: float) -> None:
    one = Stands(tip, 2, there_mm=tip + out, across_mm=10, force_n=100)
    far = replace(one, there_mm=tip + out + more)
    near_reach, far_reach = reach_of(one), reach_of(far)
    assert (far_reach.spare_mm or 0) >= (near_reach.spare_mm or 0) - 1e-9
    assert near_reach.bends_mm is not None
    assert far_reach.bends_mm is not None
    assert far_reach.bends_mm[1] >= near_reach.bends_mm[1]


C45 = Limits(2220, 0.14, 5.0, None)


def test_what_a_cut_takes_is_that_of_kienzle() -> None:
    """C45, b 3, h 0.3 at 150 m/min: 2364.8 N and 5.912 kW at the tool, [reference j]; the motor gives a quarter more."""
    cut = Cut("turn", 50, 150, 0.3, 3)
    found = C45.spent(cut, spindle_rpm(150, 50))
    assert found.asked.force_n == pytest.approx(2364.8, abs=0.1)
    assert found.asked.power_kw * 0.8 == pytest.approx(5.912, abs=0.001)
    assert found.share == pytest.approx(5.912 / 0.8 / 5.0, abs=0.001)


@pytest.mark.parametrize(
    ("cut", "by"),
    [
        (Cut("turn", 50, 150, 0.3, 3), ["passes", "feed", "speed"]),
        (Cut("mill", 20, 150, 0.15, 20, 20, 4), ["passes", "feed", "speed"]),
        (Cut("drill", 30, 25, 0.4), ["pilot", "feed", "speed"]),
        (Cut("tap", 20, 15, 2.5), ["speed"]),
    ],
)
def test_every_way_out_is_one_that_the_machine_does(cut: Cut, by: list[str]) -> None:
    rpm = spindle_rpm(cut.speed_m_min, cut.diameter_mm)
    whole = C45.spent(cut, rpm).asked
    limits = replace(C45, power_kw=whole.power_kw * 0.95)
    ways = list(lighter_cuts(cut, rpm, limits))
    assert [way.by for way in ways] == by
    assert all((way.spent.share or 9) <= 1 + 1e-9 for way in ways)
    assert all(way.times >= 1 for way in ways)


def test_a_cut_that_is_far_too_heavy_has_no_way_out_by_feed_or_speed_alone() -> None:
    limits = replace(C45, power_kw=0.01)
    assert [way.by for way in lighter_cuts(Cut("drill", 30, 25, 0.4), 265, limits)] == []


ROUND = (80.0, 20.0, 20.0)
BLOCK = (60.0, 40.0, 30.0)


def way(line: str, cutter: Cutter, size: tuple[float, float, float] | None = BLOCK) -> CutWay | None:
    turned = cutter.work in ON_AN_EDGE
    feature = known_feature(line, "turned" if turned else "block", "mm")
    assert feature is not None
    return way_of(feature, size, cutter)


@pytest.mark.parametrize(
    ("line", "cutter", "feed", "passes"),
    [
        ("hole 6 x 10 deep, top", Cutter("drill", 6, point_mm=1.8), 10 + 1.8 + 2, 1),
        ("hole 6 through, top", Cutter("drill", 6, point_mm=2.8, times=3), 30 + 2.8 + 2, 4),
        ("hole 6 through, left", Cutter("drill", 6), 60 + 2, 1),
        ("hole 6 H7 x 10 deep, top", Cutter("ream", 6, point_mm=2), 2 * (10 + 2 + 2), 1),
        ("tapped hole M6 x 10 deep, top", Cutter("tap", 6, point_mm=4), 2 * (10 + 4 + 2), 1),
        ("hole 6 x 10 deep, top", Cutter("spot", 10), 2.5 + 2, 1),
        ("face, top", Cutter("mill", 50), 60 + 50 + 4, 1),  # wider than the block: one stroke
        ("face, top", Cutter("mill", 20), 3 * (60 + 20 + 4), 3),  # 1 + ⌈(40 − 20) / 14⌉
        ("slot 12 x 6 deep x 40 long, top", Cutter("mill", 12, soft=True), 40 + 12 + 4, 1),
        ("slot 12 x 6 deep x 40 long, top", Cutter("mill", 12), 40 + 12 + 4, 1),  # half its diameter, just
        ("slot 12 x 6.1 deep x 40 long, top", Cutter("mill", 12), 2 * (40 + 12 + 4), 2),
        ("slot 12 x 6 deep x 40 long, top", Cutter("mill", 12, deepest_mm=2), 3 * (40 + 12 + 4), 3),
        ("slot 12 x 6 deep, full length, top", Cutter("mill", 12), 60 + 12 + 4, 1),
        ("shoulder Ø20 x 30", Cutter("turn", 0, raw_mm=26), 3 * 32, 3),  # 2.75 in two, then a quarter
        ("shoulder Ø20 x 30", Cutter("turn", 0, raw_mm=26, finish=False), 2 * 32, 2),
        ("shoulder Ø20 x 30", Cutter("turn", 0, raw_mm=26, rough=False), 1 * 32, 1),
        ("face, free end", Cutter("turn", 0, raw_mm=26), 13 + 2, 1),
        ("part off", Cutter("part", 3, raw_mm=26), 13 + 2, 1),
        ("groove 2 wide to Ø16 at 10", Cutter("part", 2, raw_mm=20), 2 + 2, 1),
        ("outside thread M10 x 18 long, free end", Cutter("thread", 0, times=8, pitch_mm=1.5), 8 * 23, 8),
    ],
)
def test_the_way_of_a_tool_follows_from_its_feature(
    line: str, cutter: Cutter, feed: float, passes: int
) -> None:
    found = way(line, cutter)
    assert found is not None
    assert (found.feed_mm, found.passes) == (pytest.approx(feed), passes)


@pytest.mark.parametrize(
    ("line", "cutter", "size"),
    [
        ("hole 6 through, top", Cutter("drill", 6), None),  # through what nobody said
        ("slot 10 x 6 deep x 40 long, top", Cutter("mill", 12), BLOCK),  # the cutter does not go in
        ("slot 12 x 6 deep, top", Cutter("mill", 12), BLOCK),
        ("pocket 10 x 30 x 5 deep, top", Cutter("mill", 12), BLOCK),
        ("shoulder Ø20 x 30", Cutter("turn", 0), BLOCK),  # from what nobody said
        ("knurl 12 long", Cutter("turn", 0), BLOCK),
        ("shoulder Ø20 x 30", Cutter("knurl", 0, raw_mm=26), BLOCK),
        ("hexagon 17 across flats", Cutter("mill", 10), ROUND),  # how long, nobody said
        ("flat 60 wide x 15 long", Cutter("mill", 10), ROUND),  # wider than the round
        ("hexagon 21 across flats x 10 long", Cutter("mill", 10), ROUND),
        ("square 16 x 10 long", Cutter("mill", 10), None),
    ],
)
def test_a_way_that_does_not_follow_is_none(
    line: str, cutter: Cutter, size: tuple[float, float, float] | None
) -> None:
    assert way(line, cutter, size) is None


@pytest.mark.parametrize(
    ("line", "cutter", "feed", "passes"),
    [
        ("flat 12 wide x 15 long", Cutter("mill", 10), 2 * (15 + 10 + 4), 2),  # 2 deep, two strokes
        ("hexagon 17 across flats x 10 long", Cutter("mill", 10), 6 * (10 + 10 + 4), 6),  # sides of 9.81
        (
            "square 16 across flats x 10 long",
            Cutter("mill", 10),
            8 * (10 + 10 + 4),
            8,
        ),  # 12 wide: its corners are round
        ("knurl 12 long", Cutter("knurl", 0), 2 * (12 + 2), 2),
    ],
)
def test_flats_and_knurls_on_a_round_follow_from_its_diameter(
    line: str, cutter: Cutter, feed: float, passes: int
) -> None:
    """A round of 20: a chord of 12 lies 2 under it, and one at 8 from the middle is 12 wide; by hand."""
    found = way(line, cutter, ROUND)
    assert found is not None
    assert (found.feed_mm, found.passes) == (pytest.approx(feed), passes)


def test_ways_add_up_and_the_heavier_cut_counts() -> None:
    one = CutWay(100, 2, 10, 4, 12, 2)
    both = one.and_then(CutWay(50, 4, 40, 10, 0.25, 1))
    assert (both.feed_mm, both.moves, both.moves * both.move_mm) == (150, 6, pytest.approx(180))
    assert (both.deep_mm, both.wide_mm, both.passes) == (4, 12, 3)


def test_a_pocket_is_milled_in_layers_and_its_wall_once_round() -> None:
    found = way("pocket 40 x 30 x 8 deep, top", Cutter("mill", 12))
    assert found is not None
    strokes = 1 + 3  # ⌈(30 − 12) / 8.4⌉ beside the first
    layers = 2  # 8 deep at 6
    assert found.feed_mm == pytest.approx(layers * strokes * (28 + 12 + 4) + 2 * (28 + 18) + 12 + 4)
    assert D(repr(found.deep_mm)) == 4


def test_a_bar_takes_what_a_drill_leaves_and_not_all_of_the_bar_stock() -> None:
    found = way("bore 30 x 20 deep, free end", Cutter("bore", 0, raw_mm=60))
    assert found is not None
    assert (found.passes, found.deep_mm) == (
        2,
        pytest.approx(0.25),
    )  # half a millimetre on the radius, a quarter last


def test_a_narrow_cut_is_said_to_thin_its_chip_and_a_wide_one_is_not() -> None:
    cut = {
        "work": "mill",
        "across": "10",
        "rpm": "3000",
        "feed": "0.1",
        "depth": "5",
        "kc11": "700",
        "mc": "0.25",
    }
    narrow = SPINDLE.answer(cut | {"width": "1"}, Known())
    (fact,) = [one for one in narrow.facts if one.label == "Thickest chip"]
    assert fact.value.startswith("0.060 mm")
    assert "1.7 times" in fact.note
    assert not [
        one for one in SPINDLE.answer(cut | {"width": "5"}, Known()).facts if one.label == "Thickest chip"
    ]
