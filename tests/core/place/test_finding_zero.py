"""The sheets of finding zero: right side, right sign, spread and outliers, and what they ask about."""

from dataclasses import replace
from decimal import Decimal as D
from itertools import pairwise
from math import atan2, degrees

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.errors import BadEntry
from ditto_run.core.place.touch import repeats
from ditto_run.core.place.worth import Cycle, knee, worth
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import Answer, Known
from ditto_run.core.shop import Wear
from tests.core.place.layouts import BED, HOLDERS, MILL, PIECE

KNOWN = Known(
    "mm",
    48,
    told={
        "machines": {1: MILL},
        "cycles": (Cycle(1, "first side", 1, 60, 120, 30),),
        "holders": HOLDERS,
        "layouts": {1: PIECE},
    },
)


def answer(kind: str, known: Known = KNOWN, **texts: str) -> Answer:
    return sheet_of(kind).answer(texts, known)


def zero(found: Answer, axis: str) -> float:
    return float(next(z.value for z in found.zeros if z.axis == axis))


@pytest.mark.parametrize(
    ("side", "axis", "zero_at"),
    [("left", "x", -600), ("right", "x", -610), ("front", "y", -600), ("back", "y", -610)],
)
def test_half_the_probe_is_added_towards_the_work(side, axis, zero_at) -> None:
    assert zero(answer("edge", side=side, touches="-605", probe="10"), axis) == zero_at
    assert zero(answer("edge", side=side, touches="-605", probe="10", inward="2"), axis) == zero_at + (
        2 if zero_at == -600 else -2
    )


def test_repeat_touches_give_a_range_and_an_outlier_is_named() -> None:
    found = answer("edge", side="left", touches="-605 -605.002 -605.001 -604.8 -605.001", probe="0")
    assert [f.code for f in found.findings] == ["touch-outlier"]
    assert "Touch 4" in found.findings[0].problem
    assert zero(found, "x") == pytest.approx(-605.001)
    assert found.zeros[0].half == pytest.approx(1.6377 * 0.000816 / 2, rel=0.01)
    assert answer("edge", side="left", touches="-605", probe="0").facts[0].value == "touched once"


@given(st.floats(-900, 900), st.floats(1, 300), st.floats(0, 20))
def test_the_probe_drops_out_of_the_middle(middle, wide, probe) -> None:
    """Property: whatever the probe, the middle of a width is the same, and the width comes back."""
    low, high = middle - wide / 2 - probe / 2, middle + wide / 2 + probe / 2
    found = answer("halves", first=f"{low:.6f}", second=f"{high:.6f}", probe=f"{probe:.6f}")
    assert zero(found, "x") == pytest.approx(middle, abs=1e-3)
    assert found.result["width_mm"] == pytest.approx(wide, abs=1e-5)


def test_a_width_that_differs_is_asked_about() -> None:
    texts = {"first": "-605", "second": "-535.2", "probe": "10", "wanted": "60"}
    assert [f.code for f in answer("halves", **texts).findings] == ["width-differs"]
    assert answer("halves", **texts | {"allowed": "0.2"}).findings == ()
    assert answer("halves", first="0", second="30", probe="10", kind_of="inside").result["width_mm"] == 40
    with pytest.raises(BadEntry, match="thick"):
        answer("halves", first="0", second="5", probe="10")


def test_a_bore_and_a_boss_take_the_probe_the_other_way() -> None:
    points = "57 0\n0 57\n-57 0\n0 -57"
    bore, boss = (
        answer("bore", points=points, probe="6"),
        answer("bore", points=points, probe="6", kind_of="boss"),
    )
    assert (bore.result["across_mm"], boss.result["across_mm"]) == pytest.approx((120, 108))
    off = answer("bore", points="57 0\n0 57\n-57 0\n0 -57.1", probe="6", wanted="118")
    assert {f.code for f in off.findings} == {"out-of-round", "diameter-differs"}
    assert "not known" in answer("bore", points="57 0\n0 57\n-57 0", probe="6").facts[1].value
    with pytest.raises(BadEntry) as refused:
        answer("bore", points="0 0\n1 1\n2 2", probe="6")
    assert refused.value.problem == "The touches lie on one line."


def test_a_corner_with_its_skew() -> None:
    """Jaw along y = −130 turned by 0.1°, left edge x = −600, ball 10: worked by hand from the two lines."""
    slope = 0.0017453292519943296
    found = answer(
        "corner",
        along=f"-580 {-135 + slope * 20:.5f}\n-480 {-135 + slope * 120:.5f}",
        stop="-605 -150",
        probe="10",
        skew="0.05",
    )
    assert found.result["skew_deg"] == pytest.approx(0.1, abs=1e-5)
    x, y = found.result["zero_mm"]
    assert (x, y) == pytest.approx(
        (
            -600 - 20 * slope,
            -130,
        ),
        abs=2e-3,
    )
    assert [f.code for f in found.findings] == ["skew"]
    with pytest.raises(BadEntry, match="along Y"):
        answer("corner", along="-580 -135\n-580 -35", stop="-605 -150", probe="10")


@pytest.mark.parametrize(
    ("how", "between", "zero_at"),
    [
        ("direct", "", -312),
        ("paper", "0.1", -312.1),
        ("pad", "50", -362),
        ("skim", "0.3", -312.3),
        ("half", "32", -328),
    ],
)
def test_z_takes_off_what_lies_between(how, between, zero_at) -> None:
    assert zero(answer("height", how=how, touches="-312", between=between), "z") == zero_at
    assert zero(answer("height", how=how, touches="-312", between=between, lower="1"), "z") == zero_at - 1


def test_thick_paper_is_asked_about() -> None:
    assert answer("height", how="paper", touches="0", between="0.5").findings[0].code == "thick-paper"
    with pytest.raises(BadEntry) as refused:
        answer("height", how="pad", touches="0")
    assert refused.value.field == "between"


@given(st.floats(-500, 500), st.floats(-5, 5))
def test_reversal_finds_the_truth_and_the_lean(truth, lean) -> None:
    """Property: whatever is off centre turns round and drops out."""
    found = answer(
        "reversal", what="centre", at_0=f"{truth + lean:.6f}", at_180=f"{truth - lean:.6f}", axis="Y"
    )
    assert found.result["mean_mm"] == pytest.approx(truth, abs=1e-5)
    assert found.result["lean_mm"] == pytest.approx(lean, abs=1e-5)


def test_reversal_of_a_level_parts_work_from_instrument() -> None:
    found = answer("reversal", what="level", at_0="0.05", at_180="-0.01", over="200")
    assert found.say == "It is 30 µm (1.2 thou) off level over 200.0 mm (7.87 in)."
    assert found.facts[1].value.startswith("20 µm")
    assert found.zeros == ()


@pytest.mark.parametrize(
    ("wear", "cut", "add"),
    [
        (Wear("diameter", "plus"), "outside", "-0.020"),
        (Wear("radius", "plus"), "outside", "-0.010"),
        (Wear("diameter", "minus"), "outside", "0.020"),
        (Wear("diameter", "plus"), "inside", "-0.020"),
        (Wear("diameter", "plus"), "slot", "0.020"),
        (Wear("radius", "plus"), "contour", "-0.010"),
        (Wear("radius", "plus"), "face", "-0.020"),
        (Wear("diameter", "plus", D("0.05")), "outside", "0.00"),
    ],
)
def test_a_test_cut_is_put_right_the_way_the_control_holds_it(wear, cut, add) -> None:
    known = KNOWN.with_result("machines", {1: replace(MILL, wear=wear)})
    found = answer("testcut", known, machine="1", cut=cut, wanted="12", measured="12.02")
    assert D(found.result["add"]) == D(add)
    assert ("Leave the offset" in found.say) == (D(add) == 0)


def test_features_that_do_not_fit_are_named() -> None:
    found = answer("features", features="0 0 10 20\n100 0 110 20\n0 50 10 70.3\n100 50 110 70")
    assert found.findings[0].problem.startswith("Feature 3 is")
    # Worked by hand from the middles: cross −15, dot 12,507.5.
    assert found.result["turn_deg"] == pytest.approx(degrees(atan2(-15, 12507.5)))
    good = answer("features", features="0 0 10 20\n100 0 110 20\n0 50 10 70")
    assert (good.findings, good.result["zero_mm"]) == ((), pytest.approx((10, 20)))
    with pytest.raises(BadEntry, match="not one feature"):
        answer("features", features="0 0 10")


def test_a_rotary_carries_the_zero_round_the_centre() -> None:
    found = answer("rotary", axis="A", centre="-100 -200", zero="-80 -200", angles="0 90 180 270")
    assert [tuple(round(p, 6) for p in spot) for spot in found.result["zeros_mm"]] == [
        (-80, -200),
        (-100, -180),
        (-120, -200),
        (-100, -220),
    ]
    right = answer("rotary", axis="A", positive="right", centre="-100 -200", zero="-80 -200", angles="90")
    assert right.result["zeros_mm"][0] == pytest.approx((-100, -220))
    assert {z.axis for z in right.zeros} == {"y", "z"}


def test_a_line_of_holes() -> None:
    found = answer("line", points="-600 -130\n-500 -129", wanted="100", allowed="0.001")
    assert found.result["turn_deg"] == pytest.approx(0.572939, abs=1e-6)
    assert found.findings[0].code == "distance-differs"
    turned = answer("line", points="-600 -130\n-600 -30", drawn="90", zero_at="second hole")
    assert turned.result["turn_deg"] == pytest.approx(0)
    assert zero(turned, "y") == -30


def test_inches_on_the_read_out() -> None:
    found = answer("edge", side="left", touches="-23.6220", probe="0.2 in", shown="in")
    assert zero(found, "x") == pytest.approx((-23.6220 + 0.1) * 25.4)
    assert found.say.startswith("X −23.5220 in")


def test_three_touches_that_do_not_agree_are_asked_about() -> None:
    """One of three 0.42 mm off moved the zero by 0.14 without a word."""
    assert repeats([10.0, 10.01, 10.42]).differ
    assert not repeats([10.0, 10.01, 10.02]).differ
    assert repeats([10.0, 10.01, 10.0, 10.42]).left_out == (3,)
    found = sheet_of("edge").answer({"side": "left", "touches": "10 10.01 10.42", "probe": "6"}, Known("mm"))
    assert [f.code for f in found.findings] == ["touches-differ"]


def test_more_stations_share_changes_and_put_more_at_risk() -> None:
    """Worked by hand: 60 cut, 30 handling, 120 changes a load."""
    rows = worth(Cycle(1, "", None, 60, 120, 30), 4, 8, 0.03, 0.04)
    assert [row.piece_s for row in rows] == [210, 150, 130, 120]
    assert [row.first_s for row in rows] == [180, 240, 300, 360]
    last_of_two = 2 * 90 + 120  # the third load of three holds two
    assert [row.batch_s for row in rows] == [8 * 210, 4 * 300, 2 * 390 + last_of_two, 2 * 480]
    assert (rows[0].spread_mm, rows[1].spread_mm) == pytest.approx((0.03, 0.05))


@given(st.floats(1, 600), st.floats(0, 600), st.integers(3, 40))
def test_time_per_piece_never_rises_and_the_knee_is_a_number_of_stations(cut, change, most) -> None:
    rows = worth(Cycle(1, "", None, cut, change, 0), most, 48, 0, 0)
    assert all(b.piece_s <= a.piece_s + 1e-9 for a, b in pairwise(rows))
    assert 1 <= knee(rows) <= most


def test_a_short_batch_wants_fewer_stations_than_the_knee() -> None:
    found = answer("stations", setup="1", ready="30:00", quantity="6", most="12")
    assert found.result["best"] < found.result["knee"]
    assert "short-batch" in {f.code for f in found.findings}
    assert "stations-spread" in {
        f.code for f in answer("stations", setup="1", repeat="0.02", tolerance="0.05").findings
    }
    with pytest.raises(BadEntry) as refused:
        answer("stations", KNOWN.with_result("cycles", ()), quantity="6")
    assert refused.value.field == "cut"


def test_filling_counts_holders_and_pieces() -> None:
    found = answer("fill", setup="1", holder="Pallet")
    assert found.result["count"] * 4 == int(found.facts[1].value)
    assert found.picture is not None
    beside = answer("fill", KNOWN.with_result("placed", {1: ()}), setup="1", holder="Vise", beside="there")
    assert beside.result["count"] == answer("fill", setup="1", holder="Vise").result["count"]
    for texts, field in (({"holder": "Unmeasured"}, "holder"), ({"holder": "Vise", "setup": "9"}, "setup")):
        with pytest.raises(BadEntry) as refused:
            answer("fill", **{"setup": "1"} | texts)
        assert refused.value.field == field
    assert BED.size_mm[0] == 800
