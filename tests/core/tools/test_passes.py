"""A cut pass by pass, the edge that leaves a finish, and which way a wall is milled."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets import Known
from ditto_run.core.tools.centre_sheet import CENTRE
from ditto_run.core.tools.cutting.passes import (
    layer_passes,
    on_the_compound_mm,
    peck_passes,
    thread_passes,
    turned_passes,
)
from ditto_run.core.tools.cutting.spent import motor_amps
from ditto_run.core.tools.cutting.surface import feed_for_ra_mm, turned_ra_um
from ditto_run.core.tools.direction_sheet import DIRECTION
from ditto_run.core.tools.nose_sheet import NOSE
from ditto_run.core.tools.passes_sheet import PASSES
from ditto_run.core.tools.speed_sheet import SPEED
from ditto_run.core.tools.spindle_sheet import SPINDLE

SIZES = st.floats(0.5, 200)


def test_a_shaft_is_turned_in_even_passes_and_a_last_one() -> None:
    """50 to 40: 5 on the radius, 0.25 left, so 4.75 in three of 1.583, then 0.25; by hand."""
    found = turned_passes(50, 40, 2, 0.25)
    assert [round(one.at_mm, 3) for one in found] == [46.833, 43.667, 40.5, 40]
    assert [one.last for one in found] == [False, False, False, True]
    assert turned_passes(40.3, 40, 2, 0.25)[0].takes_mm == pytest.approx(0.15)  # there is no more than that
    bored = turned_passes(19, 20, 2, 0.25)
    assert [round(one.at_mm, 3) for one in bored] == [19.5, 20]


@given(SIZES, SIZES, st.floats(0.1, 5), st.floats(0, 1))
def test_passes_add_up_and_none_is_deeper_than_said(
    start: float, end: float, deepest: float, last: float
) -> None:
    found = turned_passes(start, end, deepest, last)
    assert sum(one.takes_mm for one in found) == pytest.approx(abs(start - end) / 2, abs=1e-6)
    assert all(one.takes_mm <= deepest + 1e-6 for one in found if not one.last)
    if found:
        assert found[-1].at_mm == pytest.approx(end, abs=1e-6)


def test_every_infeed_of_a_thread_takes_the_same_area() -> None:
    """The area of a V grows with the square of its depth; own derivation."""
    found = thread_passes(0.92, 0.3, 0.01, 2)
    areas = np.diff([0.0, *(one.at_mm**2 for one in found if one.takes_mm)])
    assert np.allclose(areas, areas[0])
    assert [one.takes_mm for one in found[-2:]] == [0, 0]
    assert found[0].takes_mm <= 0.3


def test_layers_and_pecks_reach_the_bottom() -> None:
    assert [one.at_mm for one in layer_passes(12, 5)] == [4, 8, 12]
    assert [one.at_mm for one in layer_passes(10, 5)] == [5, 10]  # exactly two, not three
    assert [one.at_mm for one in peck_passes(40, 15, 10)] == [15, 25, 35, 40]
    assert [one.at_mm for one in peck_passes(10, 15, 10)] == [10]


def test_a_compound_turned_off_goes_farther() -> None:
    assert on_the_compound_mm(0.92, 29.5) == pytest.approx(0.92 / np.cos(np.radians(29.5)))


def test_the_finish_of_arcs_is_that_of_the_profile_itself() -> None:
    """Mean distance from the mean line of a row of arcs, summed up point by point; own derivation."""
    feed, nose = 0.2, 0.8
    x = np.linspace(-feed / 2, feed / 2, 200_001)
    y = nose - np.sqrt(nose**2 - x**2)
    assert turned_ra_um(feed, nose) == pytest.approx(1000 * np.mean(np.abs(y - y.mean())), rel=0.01)
    assert turned_ra_um(feed_for_ra_mm(1.6, nose), nose) == pytest.approx(1.6)


def passes(**texts: str) -> tuple[str, list[str]]:
    found = PASSES.answer(texts, Known())
    return found.say, [one.code for one in found.findings]


def test_a_last_pass_below_two_thirds_of_the_nose_is_asked_about() -> None:
    """0.4 × 2 / 3 = 0.267; common practice, no source."""
    turn = {"cut": "turn", "start": "50", "end": "40", "deepest": "2"}
    assert passes(**turn, last="0.25", nose="0.4") == ("4 passes.", ["last-pass-rubs"])
    assert passes(**turn, last="0.27", nose="0.4") == ("4 passes.", [])
    assert passes(**turn, nose="0.4") == ("3 passes.", [])  # roughing alone leaves nothing to rub


@pytest.mark.parametrize(
    ("texts", "field"),
    [
        ({"cut": "turn", "start": "40", "end": "40", "deepest": "2"}, "end"),
        ({"cut": "bore", "start": "40", "end": "30", "deepest": "2"}, "end"),
        ({"cut": "turn", "start": "50", "end": "40", "deepest": "0"}, "deepest"),
        ({"cut": "turn", "start": "50 m", "end": "40", "deepest": "0.001"}, "deepest"),
        ({"cut": "mill", "deep": "12"}, "deepest"),
        ({"cut": "thread", "deep": "0.92", "first": "0.001"}, "first"),
        ({"cut": "drill", "deep": "40", "first": "15", "deepest": "0.001"}, "deepest"),
        ({"cut": "thread", "deep": "0.92", "first": "0.3", "compound": "80"}, "compound"),
        ({}, "cut"),
    ],
)
def test_what_cannot_be_is_refused_at_its_field(texts: dict[str, str], field: str) -> None:
    with pytest.raises(BadEntry) as refused:
        PASSES.answer(texts, Known())
    assert refused.value.field == field


def test_a_thread_shows_the_compound_beside_the_depth() -> None:
    found = PASSES.answer(
        {"cut": "thread", "deep": "0.92", "first": "0.92", "spring": "0", "compound": "60"}, Known()
    )
    assert found.grids[0].rows == (("1", "0.920", "0.920", "1.840"),)


def nose(**texts: str) -> tuple[str, list[str]]:
    found = NOSE.answer({"feed": "0.2"} | texts, Known())
    return found.say, [one.code for one in found.findings]


def test_the_smallest_nose_that_leaves_the_finish_is_taken() -> None:
    """0.2² / 8 r × 0.2566 is 6.4, 3.2 and 1.6 µm at 0.2, 0.4 and 0.8."""
    assert nose(group="alloy steel") == ("Coated, negative, nose 0.80 mm (0.031 in).", [])
    assert nose(group="alloy steel", ra="3.21") == ("Coated, negative, nose 0.40 mm (0.016 in).", [])
    assert nose(group="brass", ra="10")[0].startswith("Sharp, without rake, nose 0.20 mm")
    assert nose(group="aluminium", nose="0.8")[0].startswith("Sharp and polished, positive; nose 0.80 mm")
    assert (
        nose(group="alloy steel", ra="0.1")[0] == "Coated, negative; no nose leaves that finish at this feed."
    )
    assert nose(group="alloy steel", stiff="bored")[0].startswith("Coated, positive")


def test_a_feed_the_finish_or_the_nose_forbids_is_asked_about() -> None:
    assert nose(group="alloy steel", nose="0.4", ra="1.6")[1] == ["finish-rough"]
    assert nose(group="alloy steel", nose="0.2", ra="10")[1] == ["feed-over-nose"]  # 0.2 over 0.16
    assert nose(group="stainless", nose="0.4", ra="4", stiff="slender", flank="0")[1] == ["edge-negative"]
    assert nose(group="stainless", nose="0.4", ra="4", stiff="slender", flank="7")[1] == []


@pytest.mark.parametrize(
    ("control", "skin", "wall", "say", "codes"),
    [
        ("control", "clean", "thin", "Climb.", []),
        ("control", "scale", "stiff", "Climb; the first pass conventional.", []),
        ("dials", "clean", "stiff", "Conventional.", []),
        ("dials", "scale", "thin", "Conventional.", ["lifts-thin"]),
    ],
)
def test_screws_skin_and_piece_say_which_way(
    control: str, skin: str, wall: str, say: str, codes: list[str]
) -> None:
    found = DIRECTION.answer({"control": control, "skin": skin, "wall": wall}, Known())
    assert (found.say, [one.code for one in found.findings]) == (say, codes)


def test_an_edge_off_the_centre_turns_larger_the_smaller_the_work() -> None:
    """Ø10, 0.5 below: 2 (√25.25 − 5) = 0.0499 larger, a pip of 1, and asin 0.1 = 5.7° less rake; own derivation."""
    found = CENTRE.answer({"across": "10", "off": "0.5", "side": "below"}, Known())
    assert found.say == "0.050 mm (0.0020 in) larger."
    assert [(one.label, one.value) for one in found.facts] == [
        ("Pip on a face", "1.00 mm (0.039 in)"),
        ("Less rake", "5.7°"),
    ]
    assert [one.code for one in found.findings] == ["off-centre", "off-centre-angle"]
    assert CENTRE.answer({"across": "100", "off": "0.2", "side": "above"}, Known()).findings == ()
    with pytest.raises(BadEntry) as refused:
        CENTRE.answer({"across": "1", "off": "0.5"}, Known())
    assert refused.value.field == "off"


MILLING = {
    "work": "mill",
    "across": "12",
    "group": "aluminium",
    "edge": "carbide",
    "feed": "0.04",
    "teeth": "3",
}


def test_runout_over_half_the_feed_of_a_tooth_is_asked_about() -> None:
    def codes(**more: str) -> list[str]:
        return [one.code for one in SPEED.answer(MILLING | more, Known()).findings]

    assert codes(runout="0.02") == []
    assert codes(runout="0.021") == ["runs-out"]
    assert codes(runout="0.021", teeth="1") == []  # one tooth cuts evenly
    drilled = SPEED.answer(MILLING | {"work": "drill", "runout": "0.03"}, Known())
    assert ("Hole larger by", "0.030 mm (0.0012 in)") in [(one.label, one.value) for one in drilled.facts]


def test_an_idle_motor_draws_its_share_and_a_full_one_what_its_plate_says() -> None:
    assert motor_amps(10, 0) == pytest.approx(4)
    assert motor_amps(10, 1) == pytest.approx(10)
    cut = {
        "work": "turn",
        "across": "50",
        "rpm": "500",
        "feed": "0.2",
        "depth": "2",
        "kc11": "1990",
        "power": "3 kW",
    }
    shown = [
        one.value for one in SPINDLE.answer(cut | {"amps": "7"}, Known()).facts if one.label == "Ammeter"
    ]
    power = SPINDLE.answer(cut, Known()).result.asked.power_kw
    assert shown == [f"about {motor_amps(7, power / 3):.1f} A"]
    assert "Ammeter" not in [one.label for one in SPINDLE.answer(cut, Known()).facts]
