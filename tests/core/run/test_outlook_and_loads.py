"""When the batch may be done, what goes into the next load, and what is asked of a part that must not fail."""

from datetime import timedelta
from decimal import Decimal

import pytest

from ditto_run.core.edits import SetHeading, SetSetup, SetStation, apply_edit
from ditto_run.core.errors import NeedsAnswer
from ditto_run.core.run import events as do
from ditto_run.core.run.loads import next_load, to_go, waiting
from ditto_run.core.run.outlook import pace
from tests.conftest import SHOP, CoreHand, planned


def test_the_finish_counts_the_load_that_runs() -> None:
    """Own derivation: a load just begun takes all of its cycle yet; one that ran half of it, half; an overdue one, none."""
    hand = CoreHand(planned(3)).proven()  # one load of three, and no more to go
    hand.do(do.Dispose(2, "scrap", "dropped"), do.Dispose(3, "scrap", "dropped"))
    before = pace(hand.state, hand.at).finish - hand.at
    hand.do(do.StartCycle())
    cycle = timedelta(seconds=pace(hand.state, hand.at).planned_cycle_s)
    begun = pace(hand.state, hand.at).finish - hand.at
    half = pace(hand.state, hand.at + cycle / 2).finish - hand.at - cycle / 2
    over = pace(hand.state, hand.at + 2 * cycle).finish - hand.at - 2 * cycle
    assert (begun, half, over) == (cycle, cycle / 2, timedelta(0))
    assert before > timedelta(0)


def two_setups() -> CoreHand:
    plan = planned(6)
    plan = apply_edit(SetSetup("second side", 1, "vises", "stop", "45"), plan, SHOP).plan
    plan = apply_edit(SetStation(plan.setups[1].key, "A", "vise", "G58", pieces=6), plan, SHOP).plan
    return CoreHand(plan)


def test_what_waits_for_rework_or_a_decision_goes_into_no_further_setup() -> None:
    hand = two_setups().proven()
    for piece in (2, 3):
        hand.do(do.TakeReading(piece, 1, "20.0"), do.TakeReading(piece, 2, "31.5"))
    hand.load("20.0", "20.05", "20.0")
    hand.do(do.Dispose(5, "rework", "one more pass"))
    for piece in (4, 6):
        hand.do(do.TakeReading(piece, 2, "31.5"))
    hand.do(do.HoldPieces("6", "a burr"))
    hand.do(do.OpenSetup(hand.state.plan.setups[1].key, "marked"))
    assert waiting(hand.state, hand.state.cycle) == [1, 2, 3, 4]
    assert [loaded.pieces for loaded in next_load(hand.state)] == [(1, 2, 3, 4)]
    assert to_go(hand.state) == 4


@pytest.mark.parametrize("lifts", [False, True])
def test_last_digits_are_not_completed_where_a_part_must_not_fail(lifts: bool) -> None:
    hand = CoreHand(apply_edit(SetHeading("Hook", 6, lifts=lifts), planned(6), SHOP).plan).proven()
    if lifts:
        with pytest.raises(NeedsAnswer, match="about a tenth"):
            hand.do(do.TakeReading(2, 1, "002"))
    hand.do(do.TakeReading(2, 1, "20.002" if lifts else "002"))
    reading = hand.state.pieces[2].last(hand.state.cycle, 1)
    assert reading is not None
    assert reading.value == Decimal("20.002")
