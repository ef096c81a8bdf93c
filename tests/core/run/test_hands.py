"""Unloading, gauging and loading told apart by the clock alone; figures by hand."""

from datetime import timedelta

import pytest

from ditto_run.core.run import events as do
from ditto_run.core.run.forecast import so_far, spent
from ditto_run.core.run.hands import HandsApart, hands_apart
from ditto_run.core.shop.day import ShopDay
from tests.conftest import CoreHand, planned
from tests.core.run.test_forecast import WALL, at_wall


def wait(hand: CoreHand, seconds: float) -> None:
    """Let the next line come so many seconds after the last one; by itself it comes after a minute."""
    hand.at += timedelta(seconds=seconds - 60)


def cut(hand: CoreHand, *, gauged: bool, unload: float = 100, reading: float = 20, load: float = 50) -> None:
    wait(hand, load)
    hand.do(do.StartCycle())
    wait(hand, 300)
    hand.do(do.EndCycle())
    if gauged:
        for n, piece in enumerate(hand.state.here.loads[-1].pieces):
            wait(hand, unload + reading if not n else reading)
            hand.do(do.TakeReading(piece, 1, "20.001", confirm="20.001"))


def told(hand: CoreHand) -> HandsApart | None:
    found = so_far(hand.state, hand.at, ShopDay())
    assert found is not None
    return hands_apart(hand.state, *found, spent(found[1]).hands)


def worked(loads: int = 6, *, gauged: bool = True) -> CoreHand:
    hand = at_wall(CoreHand(planned(60)), WALL).proven()
    for _ in range(loads):
        cut(hand, gauged=gauged)
    return hand


def test_each_gap_is_unloading_then_readings_then_loading() -> None:
    """Six loads of three pieces, five gaps between them of 100 s, 3 readings of 20 s, 50 s; the gap of the proof is left out."""
    found = told(worked())
    assert found is not None
    assert found.reading == pytest.approx(20)
    assert (found.unload, found.gauge, found.load) == pytest.approx((500, 300, 250))


def test_what_was_not_gauged_is_not_told_apart() -> None:
    hand = worked(4)
    for _ in range(3):
        cut(hand, gauged=False, load=150)
    found = told(hand)
    assert found is not None
    assert (found.unload, found.gauge) == pytest.approx((400, 240))
    assert found.mixed >= 2 * 150 - 1


def test_readings_while_the_machine_cuts_cost_the_hands_between_loads_nothing() -> None:
    hand = worked(4)
    before = told(hand)
    wait(hand, 50)
    hand.do(do.StartCycle())
    for piece in hand.state.here.loads[-2].pieces:
        wait(hand, 20)
        hand.do(do.TakeReading(piece, 2, "31.5", confirm="31.5"))
    wait(hand, 200)
    hand.do(do.EndCycle())
    after = told(hand)
    assert before is not None
    assert after is not None
    assert after.gauge == pytest.approx(before.gauge + 60)  # the last gap is over now
    assert after.reading == before.reading


def test_too_few_readings_tell_nothing() -> None:
    assert told(worked(3, gauged=False)) is None


def test_a_gap_in_which_somebody_was_called_away_is_left_out() -> None:
    hand = worked(5)
    plain = told(hand)
    cut(hand, gauged=True, load=3000)
    cut(hand, gauged=True)
    found = told(hand)
    assert plain is not None
    assert found is not None
    assert found.load == pytest.approx(plain.load + 50)
