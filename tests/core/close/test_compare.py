"""Batches beside each other: what changed is held to scipy, and to samples made to change or not."""

from dataclasses import replace
from datetime import timedelta
from random import Random

import pytest
from scipy.stats import ttest_ind

from ditto_run.core.close.compare import BatchBeside, beside, got_better, welch
from ditto_run.core.run import events as do
from tests.conftest import CoreHand, planned

BARE = BatchBeside(1, None, 0, 0, 0, None, 0, 0, {}, {}, {})
NAMES, CYCLES = {1: "slot"}, {7: "first side"}


def drawn(seed: int, middle: float, spread: float, many: int) -> tuple[float, ...]:
    chance = Random(seed)
    return tuple(chance.gauss(middle, spread) for _ in range(many))


def test_the_chance_is_scipys() -> None:
    for seed in range(5):
        one, other = drawn(seed, 10, 1, 7), drawn(seed + 50, 11, 3, 12)
        assert welch(one, other) == pytest.approx(ttest_ind(one, other, equal_var=False).pvalue, rel=1e-9)


def batches(*middles: float, many: int = 12, spread: float = 4.0) -> list[BatchBeside]:
    return [
        replace(BARE, batch=n, paces={7: drawn(n, middle, spread, many)})
        for n, middle in enumerate(middles, 1)
    ]


def test_a_time_that_fell_is_said_with_the_batch_since_which_it_fell() -> None:
    (one,) = got_better(batches(100, 101, 80, 81), NAMES, CYCLES)
    assert (one.what, one.since, one.better) == ("A piece takes", 3, True)
    assert one.sure > 0.99
    (worse,) = got_better(batches(80, 100), NAMES, CYCLES)
    assert (worse.since, worse.better) == (2, False)


def test_where_nothing_changed_nothing_is_said_nine_times_in_ten() -> None:
    said = 0
    for seed in range(200):
        same = [replace(BARE, batch=n, paces={7: drawn(1000 * seed + n, 100, 5, 10)}) for n in (1, 2, 3, 4)]
        said += bool(got_better(same, NAMES, CYCLES))
    assert said <= 24  # one in ten of 200, and what chance adds


def test_many_figures_looked_at_side_by_side_are_not_said_more_often_by_chance() -> None:
    names, said = {n: f"size {n}" for n in range(1, 9)}, 0
    for seed in range(200):
        same = [
            replace(BARE, batch=n, means={k: drawn(10_000 * seed + 100 * n + k, 0, 0.3, 10) for k in names})
            for n in (1, 2, 3)
        ]
        said += bool(got_better(same, names, CYCLES))
    assert said <= 24


def test_each_cycle_is_compared_with_itself_and_said_by_its_name() -> None:
    """The second side fell from 100 to 80 s and the first stands: only the second is said, and a cycle not cut is no zero."""
    before = replace(BARE, batch=1, paces={7: drawn(1, 50, 2, 12), 8: drawn(2, 100, 2, 12)})
    after = replace(BARE, batch=2, paces={7: drawn(3, 50, 2, 12), 8: drawn(4, 80, 2, 12)})
    (one,) = got_better([before, after], {}, {7: "first side", 8: "second side"})
    assert (one.what, one.since, one.better) == ("A piece in second side takes", 2, True)
    assert (
        got_better(
            [before, replace(after, paces={7: after.paces[7]})], {}, {7: "first side", 8: "second side"}
        )
        == ()
    )


def test_scatter_is_told_from_the_middle() -> None:
    wide, tight = drawn(1, 0.0, 0.5, 30), drawn(2, 0.8, 0.1, 30)
    found = got_better(
        [replace(BARE, batch=1, means={1: wide}), replace(BARE, batch=2, means={1: tight})], NAMES, CYCLES
    )
    assert [(one.what, one.since, one.better) for one in found] == [("slot scatters", 2, True)]


def test_few_loads_alike_readings_and_one_batch_tell_nothing() -> None:
    assert got_better(batches(100, 50, many=3), NAMES, CYCLES) == ()
    assert got_better(batches(100), NAMES, CYCLES) == ()
    same = [replace(BARE, batch=n, paces={7: (100.0,) * 9}) for n in (1, 2)]
    assert got_better(same, NAMES, CYCLES) == ()
    assert (
        got_better([replace(BARE, batch=n, paces={7: (100.0 - n,) * 9}) for n in (1, 2)], NAMES, CYCLES) == ()
    )  # a hundredth


def test_the_figures_of_a_batch_are_those_of_its_log() -> None:
    hand = CoreHand(planned(9)).proven()
    for _ in range(2):
        hand.at += timedelta(seconds=240)
        hand.do(do.StartCycle(), do.EndCycle())
    hand.do(do.Adjust("T03 diameter wear", "-0.004"), do.Dispose(4, "scrap", "dented"))
    found = beside(hand.state)
    assert (found.batch, found.begun, found.scrap, found.turns, found.stops) == (1, 9, 1, 1, 0)
    assert [len(paces) for paces in found.paces.values()] == [2]
    assert found.means[1] == pytest.approx((0.004 / 0.03,))
