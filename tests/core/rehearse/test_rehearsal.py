"""A rehearsal is a run: every line decided by the core, the advice what the pure functions say, the same for the same seed."""

from functools import partial

import pytest

from ditto_run.core.edits import SetSetup, SetStation, apply_edit
from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.plan import Plan
from ditto_run.core.rehearse.practice import Decision, practise, read_choices
from ditto_run.core.rehearse.process import FAULTS, Fault
from ditto_run.core.rehearse.rehearsal import PlayedBatch, PlayedOn, costs_min, rehearse
from ditto_run.core.run import events as do
from ditto_run.core.run import fold
from ditto_run.core.run.advised import Mind
from ditto_run.core.shop.day import ShopDay, read_day
from ditto_run.devices.process import SimulatedProcess
from tests.conftest import MILL, MORNING, SHOP, planned

PLAN = planned(45)
KEY = PLAN.all_cycles[0].key


def on(fault: Fault = "none", seed: int = 1, *, follows: bool = True, day: ShopDay | None = None) -> PlayedOn:
    return PlayedOn(partial(SimulatedProcess, fault=fault, seed=seed), MILL, {}, day or ShopDay(), follows)


def played(fault: Fault = "none", seed: int = 1, *, follows: bool = True, plan: Plan = PLAN) -> PlayedBatch:
    return rehearse(plan, plan.all_cycles[0].key, MORNING, on(fault, seed, follows=follows))


@pytest.mark.parametrize("fault", FAULTS)
def test_the_same_seed_plays_the_same_batch(fault: Fault) -> None:
    assert played(fault, 3) == played(fault, 3)
    assert played(fault, 3).log != played(fault, 4).log


@pytest.mark.parametrize("fault", ["none", "wear", "bump", "gauge"])
def test_what_is_played_is_a_run_that_ends_with_every_good_piece(fault: Fault) -> None:
    found = played(fault, 2)
    state = fold(found.log, {1: PLAN})
    assert found.whole
    assert state.counts["good"] >= 45
    assert state.counts["cutting"] == 0
    assert [event.seq for event in found.log] == list(range(1, len(found.log) + 1))
    assert all(a.at <= b.at for a, b in zip(found.log, found.log[1:], strict=False))


@pytest.mark.parametrize("fault", ["wear", "broken", "loose"])
def test_every_advice_is_what_a_fresh_judgement_says_of_the_log_so_far(fault: Fault) -> None:
    """The desk's way and the pure functions agree: the log cut off where it was said gives the same sentence."""
    found = played(fault, 5)
    setup = PLAN.setups[0].key
    for one in found.said[:: max(len(found.said) // 8, 1)]:
        fresh = Mind(setup).advise(fold(found.log[: one.seq], {1: PLAN}), MILL, {})
        assert fresh is not None
        assert (fresh.kind, fresh.say, fresh.why) == (one.kind, one.say, one.why)


def test_over_many_batches_the_advice_loses_less_than_dialling_what_is_out() -> None:
    """Twelve batches that wear, were bumped or chipped: minutes lost by scrap, escapes, readings and turns."""
    lost = {True: 0.0, False: 0.0}
    for fault in ("wear", "bump", "broken"):
        for seed in range(1, 5):
            for follows in lost:
                lost[follows] += costs_min(PLAN, KEY, played(fault, seed, follows=follows))  # type: ignore[arg-type]
    assert lost[True] < lost[False]


def test_where_nothing_goes_wrong_hardly_anything_is_dialled() -> None:
    found = [played("none", seed) for seed in range(1, 6)]
    assert sum(one.turns for one in found) <= 3
    assert all(one.happens is None for one in found)


def test_breaks_of_the_day_are_taken() -> None:
    plain = rehearse(PLAN, KEY, MORNING, on())
    first = (MORNING.astimezone()).strftime("%H:%M")
    after = f"{int(first[:2]) + 1:02}:00"
    day = read_day("", f"{after} 45", "7")
    with_break = rehearse(PLAN, KEY, MORNING, on(day=day))
    assert with_break.took_s - plain.took_s == pytest.approx(45 * 60)


def test_a_long_batch_is_played_in_part_and_says_so() -> None:
    plan = planned(600, stations="A")
    found = played(plan=plan)
    assert not found.whole
    assert found.cut == 150


def test_what_cannot_be_played_is_said() -> None:
    later = apply_edit(SetSetup("second side", 1, "vise", "stop", "45"), planned(6), SHOP).plan
    later = apply_edit(SetStation(later.setups[1].key, "A", "vise", "G58"), later, SHOP).plan
    with pytest.raises(NotNow, match="Rehearse the setup before it"):
        rehearse(later, later.setups[1].key, MORNING, on())


def test_what_is_dialled_does_not_change_what_chance_brings() -> None:
    """Own derivation: two hands, one of them turned by 10 µm; every piece differs by that and by nothing else."""
    from ditto_run.core.run.judged import DimensionJudged

    dims = {1: DimensionJudged("slot", 19.97, 20.03, 20.0, 0.001, 0.0005)}
    one, two = (SimulatedProcess(dims, "AB", 20, "bump", 7) for _ in range(2))
    for load in range(1, 21):
        for label in "AB":
            sizes = one.size_mm(load, label, load, 1, 0.0), two.size_mm(load, label, load, 1, 0.01)
            assert sizes[1] - sizes[0] == pytest.approx(0.01)


# practice


def test_decisions_are_read_from_their_short_text() -> None:
    assert read_choices("gt0+3t1-12m1l0a") == (
        Decision("go"),
        Decision("turn", 0, 3),
        Decision("turn", 1, -12),
        Decision("master", 1),
        Decision("look"),
        Decision("gauge"),
    )


@pytest.mark.parametrize("text", ["x", "g1x", "t0+3q", "g" * 601, "t+-"])
def test_what_is_no_decision_is_refused(text: str) -> None:
    with pytest.raises(BadEntry):
        read_choices(text)


def test_a_practice_goes_on_load_by_load_and_ends() -> None:
    begun = practise(PLAN, KEY, MORNING, on("bump", 2), ())
    assert (begun.so_far.cut, begun.done) == (3, False)
    on_it = practise(PLAN, KEY, MORNING, on("bump", 2), read_choices("gg"))
    assert on_it.so_far.cut == 9
    ended = practise(PLAN, KEY, MORNING, on("bump", 2), read_choices("g" * 60))
    assert ended.done
    assert ended.so_far.whole


def test_a_turn_a_look_a_master_and_a_whole_load_do_what_they_say() -> None:
    def after(text: str, fault: Fault = "none"):  # type: ignore[no-untyped-def]
        return practise(PLAN, KEY, MORNING, on(fault, 2), read_choices(text))

    turned = after("gt0+5")
    assert turned.so_far.turns == 1
    bodies = [event.body for event in turned.so_far.log if isinstance(event.body, do.Adjustment)]
    assert float(bodies[0].amount) == pytest.approx(5 * turned.knobs[0].increment)
    assert after("gl1").told == "It holds."
    assert after("gm0").told == "The gauge reads true."
    before, whole = after("g").so_far.readings, after("ga").so_far.readings
    assert whole > before
    loose = practise(PLAN, KEY, MORNING, on("loose", 2), read_choices("g" * 13 + "l0"))
    assert loose.told == "It was loose, and is tight again."
    knocked = practise(PLAN, KEY, MORNING, on("gauge", 2), read_choices("g" * 13 + "m0"))
    assert knocked.told == "The gauge was off; it is right now."
    tried = next(e.body for e in knocked.so_far.log if isinstance(e.body, do.MasterTried))
    assert float(tried.error) == pytest.approx(
        0.55 * 0.03
    )  # 0.55 of half the slot's limits, said to the judgement
    again = practise(PLAN, KEY, MORNING, on("gauge", 2), read_choices("m0" + "g" * 13 + "m0"))
    assert again.told == "The gauge was off; it is right now."  # tried before it was knocked as well
