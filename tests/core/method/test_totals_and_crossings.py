"""Times of a way, its line over the quantity, break-even and ladder: closed forms, worked by hand."""

from dataclasses import replace
from decimal import Decimal
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.edits import apply_edit
from ditto_run.core.edits.method import AddWays, ChooseWay, RemoveWay, SetWay
from ditto_run.core.errors import BadEntry
from ditto_run.core.method import Ready, Way, break_even, ladder, line_of, piece_times, read_guess
from ditto_run.core.method.crossings import best_at, payback_batches
from ditto_run.core.method.guess import exactly
from ditto_run.core.method.totals import CostLine
from ditto_run.core.plan import plan_findings
from tests.conftest import SHOP, planned

S = exactly


def way(**more) -> Way:
    return Way(
        1, "vise", load=S(20), locate=S(5), cut=S(120), unload=S(15), deburr=S(40), gauge=S(20), **more
    )


@pytest.mark.parametrize(
    ("text", "bare", "seconds"),
    [
        ("12 min", "s", (612, 720, 936)),
        ("8/10/15 min", "s", (480, 600, 900)),
        ("0:40/0:45/1:10", "s", (40, 45, 70)),
        ("90", "min", (4590, 5400, 7020)),
        ("41", "s", (34.85, 41, 53.3)),
        ("2 to 3 to 5 h", "s", (7200, 10800, 18000)),
        ("", "s", (0, 0, 0)),
        ("0", "s", (0, 0, 0)),
    ],
)
def test_times_as_they_are_guessed(text, bare, seconds) -> None:
    found = read_guess(text, "cut", bare)
    assert (found.low_s, found.likely_s, found.high_s) == pytest.approx(seconds)


@pytest.mark.parametrize("text", ["-3", "−3 min", "1/2", "3/2/1", "0/1/2", "banana", "1/2/3/4", "9999999 h"])
def test_a_time_that_cannot_be_is_refused(text: str) -> None:
    with pytest.raises(BadEntry) as caught:
        read_guess(text, "cut")
    assert caught.value.field == "cut"


def test_what_the_hands_do_meanwhile_worked_by_hand() -> None:
    """Load 20 + locate 5 + unload 15 + cut 120 = 160 on the machine; deburr 40 + gauge 20 = 60 beside it."""
    assert piece_times(way()).elapsed_s == 220
    overlapped = piece_times(way(attended="start and stop"))
    assert (overlapped.elapsed_s, overlapped.hands_s) == (160, 160)
    alone = piece_times(way(attended="runs alone"))
    assert (alone.elapsed_s, alone.hands_s, alone.machine_s, alone.handling_s) == (160, 100, 160, 40)
    slow_bench = piece_times(replace(way(attended="runs alone"), deburr=S(150)))
    assert slow_bench.elapsed_s == 160 + 50


def test_the_longer_spindle_sets_the_pace() -> None:
    assert piece_times(way(second_cut=S(80), second_runs="at the same time")).machine_s == 160
    assert piece_times(way(second_cut=S(200), second_runs="at the same time")).machine_s == 240
    assert piece_times(way(second_cut=S(80))).machine_s == 240


def test_a_load_shares_its_changes() -> None:
    assert piece_times(way(per_load=S(120), pieces_per_load=3)).machine_s == 200


def test_money_worked_by_hand() -> None:
    """36.00 an hour of hands is 1 cent a second, 18.00 of the machine half a cent."""
    one = way(
        labour_cents=3600,
        machine_cents=1800,
        material_cents=50,
        ready=(Ready("setting up", S(600)), Ready("fixture", S(1000), 250, lasting=True)),
    )
    line = line_of(one, "cost")
    assert line.each == pytest.approx(220 + 80 + 50)
    assert line.fixed == pytest.approx(600 * 1.5 + 1000 + 250)
    assert line.lasting == pytest.approx(1250)
    scrapped = line_of(replace(one, scrap=Decimal(20), trials=2), "cost")
    assert scrapped.each == pytest.approx(350 / 0.8)
    assert scrapped.fixed == pytest.approx(line.fixed + 700)


def test_buying_costs_its_price_and_its_wait() -> None:
    bought = Way(1, "buy it", "buy", bought_cents=1250, order_cents=2000, wait_days=Decimal(15))
    assert line_of(bought, "cost").at(10) == 14_500
    assert line_of(bought, "days").at(10) == 15
    assert line_of(bought, "time").at(10) == 0


lines = st.builds(CostLine, st.floats(0, 1e5), st.floats(1, 1e3))


@given(lines, lines)
def test_both_ways_cost_the_same_at_the_break_even(one: CostLine, other: CostLine) -> None:
    at = break_even(one, other)
    if at is not None and at < 1e9:
        assert one.at(at) == pytest.approx(other.at(at), rel=1e-6)


@given(st.floats(10, 1e4), st.floats(0, 1e4), st.floats(1, 100), st.floats(1, 200), st.floats(0, 1e4))
def test_more_fixture_time_never_lowers_the_break_even(ready, plain_ready, each, saved, more) -> None:
    plain = CostLine(plain_ready, each + saved)
    before, after = (
        break_even(plain, CostLine(plain_ready + ready, each)),
        break_even(plain, CostLine(plain_ready + ready + more, each)),
    )
    assert before is not None
    assert after is not None
    assert after >= before - 1e-9


@given(st.lists(lines, min_size=1, max_size=6))
def test_the_ladder_names_the_least_at_every_quantity(ways: list[CostLine]) -> None:
    rungs = ladder(ways)
    assert rungs[0].low == 4
    assert rungs[-1].high == 1000
    assert all(b.low == a.high + 1 for a, b in pairwise(rungs))
    for rung in rungs:
        for quantity in {rung.low, (rung.low + rung.high) // 2, rung.high}:
            assert ways[rung.way].at(quantity) == pytest.approx(min(line.at(quantity) for line in ways))


def test_a_break_even_worked_by_hand() -> None:
    """50 min ready and 8 min each against 125 min and 5 min: (125 − 50)/(8 − 5) = 25 pieces."""
    assert break_even(CostLine(50, 8), CostLine(125, 5)) == 25
    assert break_even(CostLine(50, 8), CostLine(60, 8)) is None
    assert break_even(CostLine(50, 8), CostLine(40, 7)) is None
    assert best_at([CostLine(50, 8), CostLine(125, 5)], 24) == 0
    assert payback_batches(300, 120) == 2.5
    assert payback_batches(300, 0) is None


def test_ways_are_added_changed_chosen_and_removed() -> None:
    plan = apply_edit(
        AddWays(("dial-in", "fixture", "fixture"), "42", "38.00", "3 min"), planned(), SHOP
    ).plan
    assert [w.name for w in plan.ways] == ["dial in each piece", "fixture", "fixture 2"]
    assert plan.ways[1].cut.likely_s == 180
    assert plan.ways[0].labour_cents == 4200
    assert [f.code for f in plan_findings(plan, SHOP.machines) if f.step == "method"] == ["no-choice"]
    key = plan.ways[1].key
    edit = SetWay(
        "plate", "fixture", ("fixture", ""), ("90", ""), ("12.50", ""), ("yes", "no"), cut="2:00", key=key
    )
    plan = apply_edit(edit, plan, SHOP).plan
    assert plan.way(key).ready[0].time.likely_s == 5400
    assert plan.way(key).ready[0].lasting
    with pytest.raises(BadEntry) as caught:
        apply_edit(ChooseWay(key), plan, SHOP)
    assert caught.value.field == "reason"
    plan = apply_edit(ChooseWay(key, "It comes back."), plan, SHOP).plan
    assert plan.choice is not None
    assert plan.choice.piece_low_s < plan.choice.piece_s == 120 < plan.choice.piece_high_s
    far = replace(plan, heading=replace(plan.heading, quantity=200))
    assert [f.code for f in plan_findings(far, SHOP.machines) if f.step == "method"] == ["quantity-moved"]
    assert apply_edit(RemoveWay(key), plan, SHOP).plan.choice is None


@pytest.mark.parametrize(
    ("edit", "field"),
    [
        (SetWay(""), "name"),
        (SetWay("x"), "cut"),
        (SetWay("x", cut="-3"), "cut"),
        (SetWay("x", cut="1", scrap="100"), "scrap"),
        (SetWay("x", cut="1", pieces_per_load="0"), "pieces_per_load"),
        (SetWay("x", cut="1", labour="free"), "labour"),
        (SetWay("x", "buy"), "bought"),
        (SetWay("x", cut="1", ready_what=("",), ready_time=("5",)), "ready_what"),
        (SetWay("x", cut="1", ready_what=("jaws",), ready_time=("5/4/3",)), "ready_time"),
        (AddWays(()), "kinds"),
        (AddWays(("banana",)), "kinds"),
        (AddWays(("own",) * 7), "kinds"),
    ],
)
def test_a_way_that_cannot_be_is_refused_at_its_field(edit, field: str) -> None:
    with pytest.raises(BadEntry) as caught:
        apply_edit(edit, planned(), SHOP)
    assert caught.value.field == field
