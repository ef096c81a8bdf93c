"""Blanks, bars, starts, mixed lengths, mass and orders: worked by hand, against scipy, and by construction."""

from collections import Counter
from dataclasses import replace
from datetime import date
from decimal import Decimal
from itertools import pairwise
from random import Random

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from ditto_run.core.edits import KeepSheet, SetHeading, SetOrder, SetStockSize, apply_edit
from ditto_run.core.errors import BadEntry
from ditto_run.core.plan import known_of, plan_findings
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import Known
from ditto_run.core.stock.bars import bars_for, cut_bar, pieces_per_bar, pull_of, whip_rpm
from ditto_run.core.stock.blank import bar_blank, block_blank
from ditto_run.core.stock.mass import material_of
from ditto_run.core.stock.mixed import Stock, WantedLength, nest
from ditto_run.core.stock.starts import History, starts_for, starts_from_history
from tests.conftest import SHOP, planned
from tests.searches import searches

D = Decimal
SIZE = st.integers(1, 3000).map(lambda n: D(n) / 10)


def test_a_blank_worked_by_hand() -> None:
    pin = bar_blank(D(12), D(86), D("0.5"), D(1), D(0), D("0.4"))
    assert (pin.length_mm, pin.across_mm) == (88, D("12.5"))
    block = block_blank((D(60), D(40), D("31.5")), (D(2), D(1), D(1)), D(6), D(0))
    assert block.blank_mm == (64, 42, D("39.5"))
    gripped = bar_blank(D(12), D(86), D(0), D(1), D(10), D(0))
    assert (pin.facing_mm, gripped.facing_mm, block.facing_mm) == (1, 1, 2)
    with pytest.raises(BadEntry) as caught:
        bar_blank(D(12), D(86), D(0), D(1), D(0), D("1.5"))
    assert caught.value.field == "facing"


def test_pieces_of_a_bar_worked_by_hand() -> None:
    """3000 − 60 − 1 = 2939 over 89.5 + 3: 31 pieces; without a remnant one kerf comes back: 1000 + 3 over 100 is 10."""
    assert pieces_per_bar(D(3000), D("89.5"), D(3), D(60), D(1)) == 31
    assert pieces_per_bar(D(1000), D(97), D(3), D(0), D(0)) == 10
    assert pieces_per_bar(D(1000), D(97), D(3), D(1), D(0)) == 9
    assert pieces_per_bar(D(997), D(97), D(3), D(0), D(0)) == 10
    assert pieces_per_bar(D(996), D(97), D(3), D(0), D(0)) == 9
    for wrong in ((D(1000), D(2), D(3), D(0), D(0)), (D(50), D(60), D(3), D(0), D(0))):
        with pytest.raises(BadEntry):
            pieces_per_bar(*wrong)
    assert [bars_for(n, 31) for n in (1, 31, 32, 62, 63)] == [1, 1, 2, 2, 3]


@given(SIZE, SIZE, SIZE, st.integers(0, 50), st.integers(0, 20))
def test_every_piece_of_a_cut_bar_fits_and_one_more_would_not(bar, piece, kerf, remnant, facing) -> None:
    kerf = min(kerf / 50, piece)
    try:
        count = pieces_per_bar(bar, piece, kerf, D(remnant), D(facing))
    except BadEntry:
        return
    cut = cut_bar(bar, piece, kerf, D(facing), count)
    assert all(b - a == piece + kerf for a, b in pairwise(cut.starts_mm))
    last = cut.starts_mm[-1] + piece + (kerf if remnant else 0)
    assert last <= bar - remnant
    assert last + piece + kerf > bar - remnant


def test_a_pull_stays_within_three_diameters() -> None:
    """Common practice, no source."""
    pull = pull_of(D(10), D(2), D(25), D(5))
    assert (pull.pieces, pull.stick_out_mm) == (5, 65)
    long = pull_of(D(86), D(3), D(12), D(5))
    assert long.pieces == 1
    assert long.ratio > 3


def test_a_bar_whips_as_beam_theory_says() -> None:
    """Own derivation in metres: f = 1.8751²/2π √(E I/(ρ A L⁴)) with E 210 GPa, ρ 7850: 18.09 Hz for Ø25 at 1 m."""
    assert whip_rpm(25, 1000) / 60 == pytest.approx(18.09, abs=0.01)
    assert whip_rpm(25, 2000) == pytest.approx(whip_rpm(25, 1000) / 4)
    assert whip_rpm(50, 1000) == pytest.approx(2 * whip_rpm(25, 1000))


LOTS = {
    1: (2, 2, 1, 1, 1),
    2: (4, 3, 3, 2, 2),
    5: (9, 7, 6, 6, 5),
    10: (16, 13, 12, 11, 11),
    20: (29, 25, 23, 22, 21),
    25: (36, 31, 28, 27, 26),
    50: (69, 60, 56, 53, 52),
    100: (135, 117, 109, 105, 103),
}


@pytest.mark.parametrize("good", LOTS)
def test_starts_for_enough_good_pieces(good: int) -> None:
    """[lots]: the table of docs/sources.md, and scipy's negative binomial."""
    for yield_, printed in zip((0.80, 0.90, 0.95, 0.98, 0.99), LOTS[good], strict=True):
        assert starts_for(good, 1 - yield_, 0.95) == printed
        assert printed == good + int(stats.nbinom.ppf(0.95, good, yield_))


@pytest.mark.parametrize("confidence", [0.5, 0.9, 0.99])
@pytest.mark.parametrize(("good", "history"), [(10, (9, 10)), (48, (19, 20)), (100, (300, 310)), (5, (0, 0))])
def test_starts_from_few_pieces_known(good, history, confidence) -> None:
    """Held to scipy's beta-negative-binomial."""
    ok, made = history
    theirs = good + int(stats.betanbinom.ppf(confidence, good, ok + 0.5, made - ok + 0.5))
    assert starts_from_history(good, History(ok, made), confidence) == theirs


def test_large_orders_and_little_knowledge() -> None:
    assert starts_for(10_000, 0.1, 0.95) == 10_000 + int(stats.nbinom.ppf(0.95, 10_000, 0.9))
    assert starts_for(40, 0, 0.99) == 40
    assert starts_from_history(48, History(9, 10), 0.9) > starts_from_history(48, History(900, 1000), 0.9)
    with pytest.raises(BadEntry):
        starts_from_history(4, History(11, 10), 0.9)
    with pytest.raises(BadEntry):
        starts_for(4, 1.0, 0.9)


def total(answer, wanted) -> Counter:
    return Counter(wanted[w].name for bar in answer.bars for w in bar.pieces)


def test_a_published_instance_is_proven() -> None:
    """[chvatal]: rolls of 100 in, 97 × 45, 610 × 36, 395 × 31, 211 × 14 take 453 rolls."""
    wanted = [
        WantedLength("a", 45, 97),
        WantedLength("b", 36, 610),
        WantedLength("c", 31, 395),
        WantedLength("d", 14, 211),
    ]
    found = nest(wanted, [Stock("roll", 100)], 0)
    assert (found.new_bars, found.status) == (453, "proven")
    assert total(found, wanted) == {"a": 97, "b": 610, "c": 395, "d": 211}


@searches(12)
@given(st.integers(0, 10_000))
def test_bars_cut_up_at_random_go_together_again(seed: int) -> None:
    """Known optimum by construction: whole bars cut without waste are so many bars again."""
    chance, bars, kerf = Random(seed), 5, 3
    lengths: Counter = Counter()
    choice = [chance.randint(120, 600) for _ in range(3)]
    for _ in range(bars):
        left = 2000 + kerf
        while left > 0:
            piece = chance.choice(choice)
            if piece + kerf > left - 123:
                piece = left - kerf
            lengths[piece] += 1
            left -= piece + kerf
    wanted = [WantedLength(str(length), length, count) for length, count in lengths.items()]
    found = nest(wanted, [Stock("bar", 2000)], kerf, effort=4)
    assert found.new_bars == bars
    assert total(found, wanted) == {w.name: w.count for w in wanted}
    for bar in found.bars:
        assert sum(wanted[w].length_mm + kerf for w in bar.pieces) + bar.left_mm == pytest.approx(2000 + kerf)


def test_offcuts_are_used_before_bars_and_the_remnant_is_long() -> None:
    found = nest(
        [WantedLength("strut", 700, 5)], [Stock("new", 3000), Stock("A7", 1500, 1, is_offcut=True)], 3
    )
    assert found.new_bars == 1
    assert found.longest_left_mm == pytest.approx(3000 - 3 * 703)
    with pytest.raises(BadEntry, match="longer than every bar"):
        nest([WantedLength("x", 4000, 1)], [Stock("new", 3000)], 3)
    with pytest.raises(BadEntry, match="do not suffice"):
        nest([WantedLength("x", 2000, 3)], [Stock("new", 3000, 2)], 3)


def test_mass_money_and_chips_worked_by_hand() -> None:
    """100 × 100 × 100 mm of 2.70 is 2.7 kg; half of it as broken chips of 8 times the metal is 4 litres."""
    found = material_of(1e6, 5e5, 10, 8, D("2.70"), 750, "broken", 20, 1e7)
    assert found.blank_kg == pytest.approx(2.7)
    assert (found.cents, found.cents_each) == (20_250, 2531)
    assert (found.chips_litres, found.bins) == (40, 2)
    for wrong in ((1e6, 2e6, "broken"), (1e6, 5e5, "soup")):
        with pytest.raises(BadEntry):
            material_of(wrong[0], wrong[1], 1, 1, D(2), 1, wrong[2], 60, 1e6)


def pin_plan():
    plan = planned(60)
    for edit in (
        SetHeading("Oarlock pin", 60, spares=2),
        KeepSheet("blank", {"shape": "bar", "length": "86", "across": "12", "facing": "1"}),
        KeepSheet("starts", {"scrap": "5", "confidence": "95", "trials": "2"}),
        KeepSheet("cuts", {"bar": "3000", "kerf": "3", "remnant": "60"}),
    ):
        plan = apply_edit(edit, plan, SHOP).plan
    return plan


def test_each_sheet_takes_what_the_one_before_it_found() -> None:
    known = known_of(pin_plan())
    assert known.told["blank"].length_mm == 88
    assert known.start == 2 + starts_for(62, 0.05, 0.95)
    assert (known.told["cuts"].per_bar, known.told["cuts"].bars) == (32, 3)
    again = apply_edit(
        KeepSheet("blank", {"shape": "bar", "length": "186", "across": "12"}, keep="186"), pin_plan(), SHOP
    ).plan
    assert len(again.sheets) == 3
    assert known_of(again).told["cuts"].per_bar == 15


@pytest.mark.parametrize(
    ("kind", "texts", "field"),
    [
        ("blank", {"length": "0", "across": "5"}, "length"),
        ("blank", {"length": "9", "across": "-5"}, "across"),
        ("blank", {"length": "9"}, "across"),
        ("starts", {"confidence": "30"}, "confidence"),
        ("starts", {"scrap": "100"}, "scrap"),
        ("starts", {"own": "3"}, "own"),
        ("starts", {"history_made": "5", "history_good": "9"}, "history_good"),
        ("cuts", {"bar": "3000", "kerf": "3"}, "piece"),
        ("cuts", {"bar": "3000", "kerf": "300", "piece": "20"}, "kerf"),
        ("cuts", {"bar": "3000", "kerf": "x", "piece": "20"}, "kerf"),
        ("cuts", {"bar": "10", "kerf": "1", "piece": "20"}, "bar"),
        ("mixed", {}, "rows"),
        ("mixed", {"rows": "420 x 0", "stock": "3000"}, "rows"),
        ("mixed", {"rows": "420 x 20000", "stock": "3000"}, "rows"),
        ("mixed", {"rows": "420", "stock": "30", "kerf": "3"}, "stock"),
        ("mass", {}, "material"),
        ("incoming", {}, "across"),
    ],
)
def test_refusals_name_their_field(kind: str, texts: dict, field: str) -> None:
    with pytest.raises(BadEntry) as caught:
        sheet_of(kind).answer(texts, Known("mm", 48))
    assert caught.value.field == field


def codes(plan) -> set[str]:
    return {finding.code for finding in plan_findings(plan, SHOP.machines) if finding.step == "stock"}


def test_what_stock_finds_wrong() -> None:
    plan = pin_plan()
    assert "stick-out" in codes(plan)
    few = apply_edit(KeepSheet("starts", {"scrap": "5", "own": "63"}), plan, SHOP).plan
    assert "too-few-started" in codes(few)
    whip = apply_edit(
        KeepSheet("cuts", {"bar": "3000", "kerf": "3", "rear": "2000", "rpm": "2500"}), plan, SHOP
    ).plan
    found = [f for f in plan_findings(whip, SHOP.machines) if f.code == "bar-whip"]
    assert found[0].weight == "stop"
    thin = apply_edit(SetStockSize("bar", "12", "11.9"), plan, SHOP).plan
    assert "bar-under-blank" in codes(thin)
    short = apply_edit(KeepSheet("incoming", {"across": "11.9", "length": "87"}), plan, SHOP).plan
    assert {"short-section", "short-length"} <= codes(short)


def test_waiting_for_material_is_a_state_of_the_job() -> None:
    plan = apply_edit(SetOrder("12 mm bar", "Quay Metals", 3, "3 m", "64.50"), planned(), SHOP).plan
    assert plan.order is not None
    assert plan.order.cents == 6450
    assert codes(plan) == {"waits-for-material"}
    late = apply_edit(SetOrder("12 mm bar", expected=date(2026, 12, 13)), plan, SHOP).plan
    assert codes(late) == {"waits-for-material"}  # nobody has said when it is due
    for due, is_late in ((date(2026, 12, 13), True), (date(2026, 12, 12), True), (date(2026, 12, 14), False)):
        wanted = replace(late, heading=replace(late.heading, due=due))
        assert ("material-late" in codes(wanted)) == is_late
    came = apply_edit(SetOrder("12 mm bar", came=True, grade="316", grade_came="303"), plan, SHOP).plan
    assert codes(came) == {"wrong-grade"}
    harm = replace(came, heading=replace(came.heading, lifts=True))
    assert "no-certificate" in codes(harm)
    noted = apply_edit(SetOrder("12 mm bar", came=True, heat="H77"), harm, SHOP).plan
    assert noted.heading.heat == "H77"
    for wrong, field in (
        (SetOrder(""), "what"),
        (SetOrder("x", bars=-1), "bars"),
        (SetOrder("x", price="dear"), "price"),
    ):
        with pytest.raises(BadEntry) as caught:
            apply_edit(wrong, plan, SHOP)
        assert caught.value.field == field


@searches(40)
@given(st.integers(200, 4000), SIZE, st.integers(0, 6), st.integers(0, 60))
def test_bars_and_cuts_and_mixed_lengths_go_by_one_rule(bar: int, piece: D, kerf: int, keeps: int) -> None:
    """20 × 148.5 came out of 3,007.5 with 40 kept in the one and not in the other."""
    try:
        one = pieces_per_bar(D(bar), piece, D(kerf), D(keeps), D(0))
    except BadEntry:
        return
    if one > 60:
        return
    stock = [Stock("bar", float(bar), 1, keeps_mm=float(keeps))]
    wanted = WantedLength("piece", float(piece), one)
    found = nest([wanted], stock, float(kerf))
    assert (found.new_bars, len(found.bars[0].pieces)) == (1, one)
    assert found.longest_left_mm == pytest.approx(max(0, float(bar - one * (piece + kerf))), abs=0.002)
    with pytest.raises(BadEntry, match="do not suffice"):
        nest([replace(wanted, count=one + 1)], stock, float(kerf))


def test_a_length_in_inches_is_cut_as_inches_in_a_job_in_millimetres() -> None:
    found = sheet_of("mixed").answer({"rows": "20 in x 4", "stock": "3000", "kerf": "3"}, Known("mm"))
    assert found.result.drawn[0].pieces_mm[0] == 508


def test_chips_count_the_kerfs_where_the_cuts_are_known() -> None:
    """100 blanks of 1,000 mm³ finished to 400: 60 cm³ of metal; with 200 mm³ of kerf a piece 80. Chips 8 times that."""
    plain = material_of(1000, 400, 100, 95, D("7.85"), 300, "broken", 60, 100_000)
    cut = material_of(1000, 400, 100, 95, D("7.85"), 300, "broken", 60, 100_000, 20_000)
    assert (plain.chips_litres, cut.chips_litres) == pytest.approx((0.48, 0.64))
