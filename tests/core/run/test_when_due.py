"""When each dimension is worth a reading at each station: by hand where it can be counted, and by what has to hold."""

from dataclasses import replace

from ditto_run.core.run import events as do
from ditto_run.core.run.advised import Mind
from ditto_run.core.run.judged import Keeper
from ditto_run.core.run.when_due import GaugeWhen, difference, when_due
from ditto_run.core.shop.costs import NO_COSTS, ShopCosts
from tests.conftest import MILL, CoreHand, planned


def gauged(loads: int = 3, quantity: int = 60, slot: str = "20.001") -> CoreHand:
    hand = CoreHand(planned(quantity))
    for n in range(loads):
        hand.do(do.StartCycle(), do.EndCycle())
        for piece in hand.state.here.loads[-1].pieces:
            hand.do(
                do.TakeReading(piece, 1, slot, confirm=slot), do.TakeReading(piece, 2, "31.5", confirm="31.5")
            )
        if not n:
            hand.do(do.AcceptMaster(1))
    return hand


def asked(hand: CoreHand, shop: ShopCosts = NO_COSTS) -> tuple[GaugeWhen, ...]:
    return Mind(hand.state.plan.setups[0].key).gauging(hand.state, MILL, {}, shop)


def test_every_dimension_is_told_at_every_station() -> None:
    hand = gauged()
    found = asked(hand)
    assert {(one.name, one.station) for one in found} == {
        (name, label) for name in ("slot", "height") for label in "ABC"
    }
    assert all(one.last == 3 for one in found)
    assert all(not one.advised or one.advised > 3 for one in found)


def test_the_plans_loads_are_those_at_which_run_asks() -> None:
    """Every fifth load, from the first: 6, 11, 16; sixty pieces at three a load are twenty loads."""
    hand = gauged()
    hand.do(do.GaugeEvery(1, 5))
    slot = next(one for one in asked(hand) if one.name == "slot")
    assert (slot.planned, slot.times_planned) == (6, 3)
    while hand.state.here.loads[-1].number < 16:
        hand.do(do.StartCycle(), do.EndCycle())
    slot = next(one for one in asked(hand) if one.name == "slot")
    assert (slot.planned, slot.times_planned) == (0, 0)


def test_a_dearer_reading_is_never_asked_for_sooner_and_one_near_its_limit_never_later() -> None:
    middle = asked(gauged())
    dear = asked(gauged(), ShopCosts(gauge=60.0))
    near = asked(gauged(slot="20.026"))
    far = 99
    for plain, costly, close in zip(middle, dear, near, strict=True):
        assert (costly.advised or far) >= (plain.advised or far)
        if plain.name == "slot":
            assert (close.advised or far) <= (plain.advised or far)
    assert any((b.advised or far) > (a.advised or far) for a, b in zip(middle, dear, strict=True))


def test_nothing_is_told_before_a_piece_is_accepted() -> None:
    hand = CoreHand(planned(60))
    hand.do(do.StartCycle(), do.EndCycle(), do.TakeReading(1, 1, "20.001"))
    assert asked(hand) == ()


def test_asking_it_leaves_the_advice_as_it_is() -> None:
    hand = gauged(4)
    setup = hand.state.plan.setups[0].key
    mind = Mind(setup)
    for _ in range(4):
        mind.gauging(hand.state, MILL, {})
        fresh = Mind(setup).advise(hand.state, MILL, {})
        assert mind.advise(hand.state, MILL, {}) == fresh
        hand.do(do.StartCycle(), do.EndCycle())


def test_loads_are_counted_by_hand() -> None:
    """Three stations, 3 loads cut of 20: 9 pieces on from load 3 is load 6, then every 3 loads: 6, 9, 12, 15, 18."""
    hand = gauged()
    history = Keeper(hand.state.plan.setups[0].key).history(hand.state, MILL, {})
    assert history is not None
    every = {(n, c.name): 9 for n in (1, 2, 3) for c in history.job.dimensions}
    found = when_due(hand.state, history, every)
    assert {(one.advised, one.times) for one in found} == {(6, 5)}
    never = when_due(hand.state, history, dict.fromkeys(every, 600))
    assert {(one.advised, one.times) for one in never} == {(0, 0)}


def test_the_difference_is_said_in_readings() -> None:
    one = GaugeWhen("slot", "A", 3, 6, 4, 5, 17)
    assert (
        difference((one,))
        == "To the end 5 readings by the advice, 17 by the plan’s every so many loads: 12 fewer."
    )
    assert difference((replace(one, times=17),)).endswith(": as many.")
    assert difference((replace(one, times=20),)).endswith(": 3 more.")
    assert difference((replace(one, times=0, times_planned=0),)) == ""
