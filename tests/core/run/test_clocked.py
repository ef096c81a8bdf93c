"""What the clock says of a cycle: full loads alone, their middle and deciles."""

from datetime import timedelta

import pytest

from ditto_run.core.run import events as do
from ditto_run.core.run.clocked import clocked
from tests.conftest import CoreHand, planned


def run(*seconds: float) -> CoreHand:
    """Loads of three that take so long each."""
    hand = CoreHand(planned(60)).proven()
    for took in seconds:
        hand.do(do.StartCycle())
        hand.at += timedelta(seconds=took) - timedelta(minutes=1)  # each command takes a minute
        hand.do(do.EndCycle(confirm=str(len(hand.state.cycles[hand.state.plan.all_cycles[0].key].loads))))
    return hand


def key(hand: CoreHand) -> int:
    return hand.state.plan.all_cycles[0].key


def test_three_full_loads_say_their_middle_and_what_eight_of_ten_are_within() -> None:
    hand = run(210, 190, 200, 220, 205)
    found = clocked(hand.state, key(hand))
    assert found is not None
    times = sorted(load.cycle_s for load in hand.state.cycles[key(hand)].loads if load.cycle_s is not None)
    assert found.loads == len(times)
    assert found.cycle_s == pytest.approx(
        times[len(times) // 2]
        if len(times) % 2
        else sum(times[len(times) // 2 - 1 : len(times) // 2 + 1]) / 2
    )
    assert times[0] <= found.low_s <= found.cycle_s <= found.high_s <= times[-1]
    assert found.planned_s == 200  # 3 × 60 + 20


def test_fewer_loads_and_short_ones_say_nothing() -> None:
    hand = run(200)
    assert clocked(hand.state, key(hand)) is None
    assert clocked(hand.state, 999) is None
