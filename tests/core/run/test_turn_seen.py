"""A turn that had another effect than it should is noticed: not taken, the wrong way, radius for diameter."""

from random import Random

import pytest

from ditto_run.core.run import events as do
from ditto_run.core.run.judged import Keeper
from ditto_run.core.run.turn_seen import turn_seen
from tests.conftest import MILL, CoreHand, planned


def seen(share: float, drift: float = 0.0, turn: str = "0.020", after: int = 5, seed: int = 3) -> str:
    """Return what is said where a turn of the slot's wear did so much of what it should."""
    draw, hand = Random(seed), CoreHand(planned(60, stations="A")).proven()
    off = 0.004

    def cut(count: int) -> None:
        nonlocal off
        for _ in range(count):
            hand.do(do.StartCycle(), do.EndCycle())
            off += drift
            size = f"{20 + off + draw.gauss(0, 0.0015):.4f}"
            hand.do(do.TakeReading(hand.state.here.loads[-1].pieces[0], 1, size, confirm=size))

    hand.do(do.GaugeEvery(2, 50))
    cut(5)
    hand.do(do.Adjust("T03 diameter wear", turn))
    off -= float(turn) * share
    cut(after)
    history = Keeper(hand.state.plan.setups[0].key).history(hand.state, MILL, {})
    assert history is not None
    return turn_seen(history)


@pytest.mark.parametrize(
    ("share", "said"),
    [
        (1.0, ""),
        (0.9, ""),
        (0.0, "did nothing to the slot: was it taken?"),
        (-1.0, "moved the slot the other way: look at its sign."),
        (2.0, "moved the slot twice of what it should: radius for diameter?"),
        (0.5, "moved the slot half of what it should: radius for diameter?"),
    ],
)
def test_what_a_turn_did_is_held_against_what_it_should(share: float, said: str) -> None:
    found = seen(share, turn="0.030", after=6)
    assert found.endswith(said)
    assert bool(found) is bool(said)
    assert not found or found.startswith("The last turn of T03 diameter wear ")


def test_a_drift_is_not_taken_for_the_turn() -> None:
    for drift in (0.002, -0.002):
        assert seen(1.0, drift) == ""


def test_small_turns_and_few_readings_say_nothing() -> None:
    assert seen(-1.0, turn="0.002") == ""
    assert seen(-1.0, after=1) == ""
    history = Keeper(CoreHand(planned()).state.plan.setups[0].key).history(
        CoreHand(planned()).proven().state, MILL, {}
    )
    assert history is not None
    assert turn_seen(history) == ""


def test_a_sound_process_is_hardly_ever_accused() -> None:
    assert sum(bool(seen(1.0, seed=seed)) for seed in range(60)) <= 1


def test_a_turn_of_long_ago_is_not_looked_at_any_more() -> None:
    assert seen(-1.0, turn="0.030", after=39)
    assert seen(-1.0, turn="0.030", after=41) == ""
