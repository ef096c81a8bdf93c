"""What things cost at the machine: by plan and practice until somebody says another figure, and the judgement counts with it."""

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.run import events as do
from ditto_run.core.run.advised import Mind
from ditto_run.core.run.judged import CostsHere, Keeper, costs_of
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
