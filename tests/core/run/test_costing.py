"""What things cost at the machine: by plan and practice until somebody says another figure, and the judgement counts with it."""

from dataclasses import replace

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.method.starting import starting_way
from ditto_run.core.method.way import Choice
from ditto_run.core.run import events as do
from ditto_run.core.run.advised import Mind
from ditto_run.core.run.costs import CostsHere, cost_origin, costs_of, piece_lost
from ditto_run.core.run.judged import Keeper
from ditto_run.core.shop.costs import NO_COSTS, read_costs
from tests.conftest import MILL, CoreHand, planned


def costs(hand: CoreHand) -> CostsHere:
    setup = hand.state.plan.setups[0].key
    history = Keeper(setup).history(hand.state, MILL, {})
    assert history is not None
    assert history.job.costs == costs_of(hand.state.plan, setup, hand.state.here.costs)
    return history.job.costs


def test_what_is_said_goes_before_the_plan_and_is_given_back_by_an_empty_entry() -> None:
    hand = CoreHand(planned()).proven()
    plain = costs(hand)
    hand.do(do.SayCost("scrap", "40"))
    assert (costs(hand).scrap, costs(hand).escape) == (40, 40 * plain.escape / plain.scrap)
    hand.do(do.SayCost("escape", "5 h"), do.SayCost("turn", "90 s"))
    assert (costs(hand).escape, costs(hand).turn) == (300, 1.5)
    hand.do(do.SayCost("scrap"), do.SayCost("escape"), do.SayCost("turn"))
    assert costs(hand) == plain
    hand.do(do.SayCost("stop", "30"), do.Undo())
    assert costs(hand) == plain


@pytest.mark.parametrize("text", ["nothing", "0.001", "-3", "99999 h"])
def test_what_is_no_cost_is_said_at_its_field(text: str) -> None:
    with pytest.raises(BadEntry) as refused:
        CoreHand(planned()).do(do.SayCost("scrap", text))
    assert refused.value.field == "text"


def test_a_judgement_that_remembers_hears_of_a_new_cost_at_once() -> None:
    hand = CoreHand(planned(60, stations="A")).proven()
    setup = hand.state.plan.setups[0].key
    remembers = Mind(setup)
    for size in ("20.010", "20.012", "20.011"):
        hand.do(do.StartCycle(), do.EndCycle())
        piece = hand.state.here.loads[-1].pieces[0]
        hand.do(
            do.TakeReading(piece, 1, size, confirm=size), do.TakeReading(piece, 2, "31.5", confirm="31.5")
        )
        remembers.advise(hand.state, MILL, {})
    for name, text in (("turn", "600"), ("escape", "2000")):
        hand.do(do.SayCost(name, text))  # type: ignore[arg-type]
        mine, fresh = remembers.advise(hand.state, MILL, {}), Mind(setup).advise(hand.state, MILL, {})
        assert mine is not None
        assert fresh is not None
        assert (mine.kind, mine.say) == (fresh.kind, fresh.say)


def test_a_piece_scrapped_costs_its_minutes_and_what_its_material_takes_to_earn() -> None:
    """40.00 of material at 60.00 an hour is 40 min; by hand."""
    plan = planned()
    setup = plan.setups[0].key
    way = replace(starting_way("own", 1), material_cents=4000, labour_cents=4000, machine_cents=2000)
    chosen = replace(plan, ways=(way,), choice=Choice(1, way.name, "", 60, 0, 0, 0, 0))
    bare, dear = piece_lost(plan, setup), piece_lost(chosen, setup)
    assert (dear.worth_min, dear.cents) == (40.0, 4000)
    assert costs_of(chosen, setup).scrap == pytest.approx(bare.minutes + 40.0)
    assert "40.00 of material, 40 min to earn" in cost_origin(chosen, setup, "scrap", NO_COSTS, "€")
    no_rate = replace(chosen, ways=(replace(way, labour_cents=0, machine_cents=0),))
    assert piece_lost(no_rate, setup).worth_min == 0
    assert "no rate of an hour is known" in cost_origin(no_rate, setup, "scrap", NO_COSTS, "€")
    assert "no way says" in cost_origin(plan, setup, "scrap", NO_COSTS, "€")


def test_what_the_shop_says_goes_before_practice_and_behind_what_is_said_at_the_machine() -> None:
    shop = read_costs({"turn": "90 s", "stop": "20", "times": "7"})
    plan = planned()
    setup = plan.setups[0].key
    found = costs_of(plan, setup, None, shop)
    assert (found.turn, found.stop, found.gauge) == (1.5, 20.0, costs_of(plan, setup).gauge)
    assert found.escape == pytest.approx(7 * found.scrap)
    assert costs_of(plan, setup, {"turn": 3.0}, shop).turn == 3.0
    origin = [cost_origin(plan, setup, name, shop, "€") for name in ("turn", "gauge", "escape")]
    assert origin == ["the shop's", "practice", "the shop's 7 scrapped pieces"]


@pytest.mark.parametrize(
    ("field", "text"), [("turn", "soon"), ("stop", "0.001"), ("times", "0.5"), ("times", "x")]
)
def test_what_is_no_cost_of_the_shop_is_said_at_its_field(field: str, text: str) -> None:
    with pytest.raises(BadEntry) as refused:
        read_costs({field: text})
    assert refused.value.field == field


def test_a_judgement_that_remembers_hears_of_the_shops_new_cost() -> None:
    hand = CoreHand(planned()).proven()
    keeper, setup = Keeper(hand.state.plan.setups[0].key), hand.state.plan.setups[0].key
    before = keeper.history(hand.state, MILL, {})
    assert before is not None
    plain = before.job.costs
    after = keeper.history(hand.state, MILL, {}, read_costs({"gauge": "9"}))
    assert after is not None
    assert (plain.gauge, after.job.costs.gauge) == (costs_of(hand.state.plan, setup).gauge, 9.0)
