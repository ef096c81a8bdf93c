"""Sizes through a finish: every film in the range must end inside the finished limits."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from ditto_run.core.edits import RemoveFinish, SetCharacteristic, SetFinish, apply_edit
from ditto_run.core.errors import BadEntry
from ditto_run.core.part.finish import FACTOR, read_pairs, shift_of_pairs, t_80, window_before
from ditto_run.core.plan import plan_findings
from tests.conftest import SHOP, planned

D = Decimal
um = st.integers(-100, 200)


@given(
    st.integers(1000, 90000),
    st.integers(1, 400),
    st.sampled_from(sorted(set(FACTOR.values()))),
    um,
    um,
    st.sampled_from(["mm", "in"]),
    st.floats(0, 1),
)
def test_computed_forward_from_anywhere_in_the_window_it_lies_inside(
    low, width, factor, one, other, unit, share
) -> None:
    scale = D("0.001") if unit == "mm" else D("0.0001")
    limits = low * scale, (low + width) * scale
    least, most = sorted((D(one), D(other)))
    window = window_before(limits, unit, factor, (least, most), 3 if unit == "mm" else 4)
    if not window.possible:
        return
    per_um = D("0.001") if unit == "mm" else D("0.001") / D("25.4")
    assert window.aim is not None
    for before in (window.low, window.aim, window.high):
        for film in (least, most, least + (most - least) * D(repr(share))):
            after = before + factor * film * per_um
            assert limits[0] - D("1e-20") <= after <= limits[1] + D("1e-20")


def test_an_anodised_bore_worked_by_hand() -> None:
    """A bore 12 H7, 8 to 15 µm of film growing by half: 4 to 7.5 µm a face, the bore closes by 8 to 15 µm.

    12.000 + 15 µm to 12.018 + 8 µm. Own derivation; a bore closes by two build-ups, [b1.1] for threads by four.
    """
    window = window_before((D("12.000"), D("12.018")), "mm", FACTOR["bore"], (D(4), D("7.5")))
    assert (window.low, window.high) == (D("12.015"), D("12.026"))
    assert window.eaten == D("0.007")
    assert FACTOR["outside thread"] == 4


def test_a_finish_wider_than_the_tolerance_is_said() -> None:
    window = window_before((D("11.99"), D("12.00")), "mm", 2, (D(10), D(25)))
    assert not window.possible
    plan = apply_edit(SetFinish("hard chrome", "10", "25"), planned(4), SHOP).plan
    key = plan.finishes[0].key
    edit = SetCharacteristic("shank", "12 -0.01/0", "critical", finish=key, face="outside diameter")
    plan = apply_edit(edit, plan, SHOP).plan
    found = [f for f in plan_findings(plan, SHOP.machines) if f.code == "finish-eats-tolerance"]
    assert "30 µm" in found[0].problem
    assert plan.characteristics[-1].finished is None


def test_the_run_judges_what_is_machined_and_the_drawing_is_kept() -> None:
    plan = apply_edit(SetFinish("zinc", "5", "12", bore_share="0.5"), planned(4), SHOP).plan
    key = plan.finishes[0].key
    edit = SetCharacteristic("shank", "11.95 ±0.03", "critical", finish=key, face="outside diameter")
    plan = apply_edit(edit, plan, SHOP).plan
    c = plan.characteristics[-1]
    assert (c.size.lower, c.size.upper) == (D("11.910"), D("11.956"))
    assert c.drawing.text == "11.95 ±0.03"
    assert c.drawn == "shank 11.95 ±0.03 mm"
    thicker = apply_edit(SetFinish("zinc", "8", "12", key=key), plan, SHOP).plan
    assert thicker.characteristics[-1].size.lower == D("11.904")
    gone = apply_edit(RemoveFinish(key), plan, SHOP).plan
    assert gone.characteristics[-1].size.text == "11.95 ±0.03"
    assert gone.characteristics[-1].finish is None


def test_bores_get_thinner_films_and_ends_thicker_ones() -> None:
    plan = apply_edit(SetFinish("anodise", "8", "16", "0.5", "0.5", "1.25"), planned(4), SHOP).plan
    finish = plan.finishes[0]
    assert finish.build_up_um("outside diameter") == (4, 8)
    assert finish.build_up_um("bore") == (2, 8)
    assert finish.build_up_um("length over two faces") == (4, 10)
    blast = apply_edit(SetFinish("blast", "0", "3", "-1"), planned(4), SHOP).plan.finishes[0]
    assert blast.build_up_um("outside diameter") == (-3, 0)


@pytest.mark.parametrize("freedom", [1, 2, 3, 4, 5, 9, 30])
def test_students_t_of_the_middle_80_per_cent(freedom: int) -> None:
    """Held to scipy, an independent implementation."""
    assert t_80(freedom) == pytest.approx(stats.t.ppf(0.9, freedom), rel=0.003)


def test_before_and_after() -> None:
    still = [(D("12.000"), D("12.000")), (D("12.001"), D("12.001")), (D("11.999"), D("12.000"))]
    assert not shift_of_pairs(still, D("0.05")).moves
    grown = read_pairs("12.000 12.010; 12.001 12.012\n11.999 12.009", "mm")
    shift = shift_of_pairs(grown, D("0.02"))
    assert shift.moves
    assert shift.low_um < shift.mean_um == pytest.approx(10.33, abs=0.01)
    plan = apply_edit(
        SetFinish("paint", pairs="12.000 12.010; 12.001 12.012; 11.999 12.009"), planned(4), SHOP
    ).plan
    low, high = plan.finishes[0].build_up_um("outside diameter")
    assert low < D("5.17") < high


@pytest.mark.parametrize(
    ("edit", "field"),
    [
        (SetFinish("", "1", "2"), "name"),
        (SetFinish("x", "5", "2"), "film_low"),
        (SetFinish("x", "-1", "2"), "film_low"),
        (SetFinish("x", "1", "2", "7"), "growth"),
        (SetFinish("x", pairs="12.0 12.1"), "pairs"),
        (SetFinish("x", pairs="12.0 banana"), "pairs"),
        (SetFinish("x", pairs="NaN 12.1"), "pairs"),
        (SetFinish("x", pairs="12.0 -12.1"), "pairs"),
        (SetFinish("x", pairs="12.0 1e99"), "pairs"),
    ],
)
def test_a_finish_that_cannot_be_is_refused_at_its_field(edit, field) -> None:
    with pytest.raises(BadEntry) as caught:
        apply_edit(edit, planned(4), SHOP)
    assert caught.value.field == field
