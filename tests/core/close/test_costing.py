"""What a batch took and cost beside its plan; figures by hand."""

from dataclasses import replace
from datetime import timedelta

import pytest

from ditto_run.core.close.costing import BatchCost, batch_cost, payback_words
from ditto_run.core.errors import BadEntry
from ditto_run.core.method.guess import exactly
from ditto_run.core.method.starting import starting_way
from ditto_run.core.method.way import Choice, Ready
from ditto_run.core.plan import Plan
from ditto_run.core.run import events as do
from ditto_run.core.shop.day import ShopDay
from tests.conftest import CoreHand, planned

WAY = replace(
    starting_way("fixture", 1),
    name="fixture plate",
    ready=(Ready("fixture", exactly(3600), 2000, lasting=True), Ready("setting up, zeroing", exactly(1800))),
    labour_cents=4000,
    machine_cents=2000,
    material_cents=300,
    trials=0,
    cut=exactly(60),
)
CHOICE = Choice(1, WAY.name, "", 12, 0, 0, 0, 0)


def chosen(quantity: int = 12) -> Plan:
    return replace(planned(quantity), ways=(WAY,), choice=CHOICE)


def cut(plan: Plan, loads: int = 4, cycle_s: float = 300, hand_s: float = 100) -> CoreHand:
    hand = CoreHand(plan).proven()
    for _ in range(loads - 1):
        hand.at += timedelta(seconds=hand_s - 60)
        hand.do(do.StartCycle())
        hand.at += timedelta(seconds=cycle_s - 60)
        hand.do(do.EndCycle())
    return hand


def cost(hand: CoreHand) -> BatchCost:
    return batch_cost(hand.state, hand.at, ShopDay())


def test_lines_stand_beside_the_plan_with_what_is_not_known_said() -> None:
    found = cost(cut(chosen()))
    ready, cycle, material = found.lines
    assert (ready.name, ready.planned_s, ready.real_s) == ("Get ready", 5400, None)
    assert ready.why == "nobody said how long setting up took"
    assert cycle.name == "first side"
    times = planned().times(planned().setups[0].key)
    hands = times.load_to_load_s - times.cycle_s
    assert cycle.planned_s == pytest.approx(
        4 * times.load_to_load_s - hands
    )  # the clock begins with the first cycle
    assert (material.planned_cents, material.real_cents) == (3600, 3600)
    assert found.planned_s == cycle.planned_s  # only what is known on both sides is held against each other


def test_setting_up_that_was_said_counts_in_time_and_money() -> None:
    """Fixture 1 h of hands at 40.00 and 20.00 bought; setting up 0.5 h planned at 60.00 an hour, 0.75 h real."""
    hand = cut(chosen())
    hand.do(do.SayFact("setting_up", "45 min"))
    ready = cost(hand).lines[0]
    assert (ready.planned_s, ready.real_s) == (5400, 3600 + 2700)
    assert (ready.planned_cents, ready.real_cents) == (4000 + 2000 + 3000, 4000 + 2000 + 4500)
    assert ready.why == "setting up 15 min more"


def test_a_later_batch_does_not_pay_for_the_fixture_again() -> None:
    hand = cut(chosen())
    hand.state.batch = 2
    hand.do(do.SayFact("setting_up", "30 min"))
    ready = cost(hand).lines[0]
    assert (ready.planned_s, ready.planned_cents, ready.real_cents) == (1800, 3000, 3000)
    assert ready.why == ""


def test_what_is_left_of_the_price_and_what_one_more_would_have_cost() -> None:
    hand = cut(chosen())
    for piece in hand.state.pieces.values():
        if piece.number > 1:
            hand.do(
                do.TakeReading(piece.number, 1, "20.001", confirm="20.001"),
                do.TakeReading(piece.number, 2, "31.5"),
            )
    hand.do(do.SayFact("price", "25"), do.SayFact("setting_up", "30 min"))
    found = cost(hand)
    assert found.good == 12
    each = found.each_cents
    assert each is not None
    assert found.left_cents == pytest.approx((2500 - each[0], 2500 - each[1]))
    cycle = found.lines[1]
    assert found.more_cents == pytest.approx((cycle.real_s or 0) / 12 / 3600 * 6000 + 300)
    hand.do(do.SayFact("price"))
    assert cost(hand).left_cents is None


def test_a_batch_that_ran_just_as_planned_is_neither_over_nor_under() -> None:
    """Loads of 3 by the plan: 200 s of cutting, 135 s of hands between two of them; the first cycle is proven by the minute."""
    times = planned().times(planned().setups[0].key)
    hand = cut(chosen(30), 10, times.cycle_s, times.load_to_load_s - times.cycle_s)
    cycle = cost(hand).lines[1]
    first = hand.state.here.loads[0].cycle_s or 0.0
    assert cycle.real_s is not None
    assert cycle.planned_s == pytest.approx(cycle.real_s + times.cycle_s - first, abs=1)


def test_loads_that_were_not_timed_are_on_neither_side_and_said() -> None:
    hand = cut(chosen(24))
    before = cost(hand).lines[1]
    hand.do(do.EnterLoads(2))
    after = cost(hand).lines[1]
    assert (after.planned_s, after.real_s) == (before.planned_s, before.real_s)
    assert after.why == "2 loads not timed, on neither side"
    assert cost(hand).more_cents == cost(cut(chosen(24))).more_cents


def test_a_line_known_on_one_side_only_is_named_beside_the_cost_of_a_piece() -> None:
    hand = cut(chosen())
    assert cost(hand).without == ("Get ready",)
    hand.do(do.SayFact("setting_up", "30 min"))
    assert cost(hand).without == ()


def test_money_spent_elsewhere_is_shown_without_a_way_too() -> None:
    hand = cut(planned(12))
    hand.do(do.TakeReading(2, 1, "20.001", confirm="20.001"), do.TakeReading(2, 2, "31.5"))
    hand.do(do.SendOut("anodise", "the plater", "2", price="85"))
    assert [(one.name, one.real_cents) for one in cost(hand).lines] == [
        ("first side", None),
        ("Elsewhere", 8500),
    ]


def test_work_done_elsewhere_and_scrap_have_their_lines() -> None:
    hand = cut(chosen())
    for piece in list(hand.state.pieces):
        if piece > 1:
            hand.do(do.TakeReading(piece, 1, "20.001", confirm="20.001"), do.TakeReading(piece, 2, "31.5"))
    hand.do(do.Dispose(5, "scrap", "dented"), do.SendOut("anodise", "the plater", "11", price="85"))
    found = cost(hand)
    assert "1 scrapped" in found.lines[1].why
    assert (found.lines[-1].name, found.lines[-1].real_cents) == ("Elsewhere", 8500)


def test_without_a_way_there_is_time_and_no_money() -> None:
    found = cost(cut(planned(12)))
    assert [one.name for one in found.lines] == ["first side"]
    assert found.planned_cents is found.real_cents is found.more_cents is found.each_cents is None
    assert found.real_s > 0


def test_setting_up_that_was_said_is_shown_where_no_way_plans_it() -> None:
    hand = cut(planned(12))
    hand.do(do.SayFact("setting_up", "50 min"))
    ready = cost(hand).lines[0]
    assert (ready.name, ready.planned_s, ready.real_s) == ("Get ready", None, 3000)
    assert ready.why == "no way chosen on Method plans it"


@pytest.mark.parametrize(("name", "text"), [("price", "a lot"), ("setting_up", "long"), ("price", "-3")])
def test_what_is_no_fact_is_said_at_its_field(name: str, text: str) -> None:
    with pytest.raises(BadEntry) as refused:
        cut(chosen()).do(do.SayFact(name, text))  # type: ignore[arg-type]
    assert refused.value.field == "text"


def test_payback_is_where_the_lines_cross() -> None:
    """Fixture: 1 h + 0.5 h getting ready; one at a time nothing of it, but 240 s a piece more: pays from 23 pieces by time alone."""
    slow = replace(starting_way("own", 2), name="one at a time", ready=(), cut=exactly(300), trials=0)
    quick = replace(WAY, labour_cents=0, machine_cents=0, material_cents=0)
    plan = replace(planned(12), ways=(quick, slow), choice=CHOICE)
    both = [replace(way, load=exactly(0), locate=exactly(0), unload=exactly(0), deburr=exactly(0), gauge=exactly(0),
                    per_load=exactly(0), scrap=way.scrap * 0) for way in plan.ways]  # fmt: skip
    plan = replace(plan, ways=tuple(both))
    assert (
        payback_words(plan, 20)
        == "fixture plate pays from 23 pieces beside one at a time: 20 good pieces so far, 3 to go."
    )
    assert (
        payback_words(plan, 23)
        == "fixture plate pays from 23 pieces beside one at a time: paid for, 23 good pieces so far."
    )
    assert payback_words(replace(plan, choice=None), 23) == ""


def test_a_trip_without_a_price_costs_what_is_not_known_and_not_nothing() -> None:
    hand = cut(planned(12))
    hand.do(do.TakeReading(2, 1, "20.001", confirm="20.001"), do.TakeReading(2, 2, "31.5"))
    hand.do(do.SendOut("anodise", "the plater", "2"))
    found = cost(hand)
    assert (found.lines[-1].name, found.lines[-1].real_cents) == ("Elsewhere", None)
    assert found.lines[-1].why == "1 trip without a price"
    assert "Elsewhere" in found.without
