"""The tables of `make judge`: the simulated processes and habits keep their numbers, and the judge itself judges right.

Source: the figures were taken from the first form of the harness, before it was tidied; the funnel is Deming's second rule.
"""

import numpy as np
import pytest

from bench.judge import contain, finish, habits, judge, processes
from bench.judge.view import Gauge, Leave, Turn


@pytest.mark.parametrize(
    ("kind", "habit", "minutes", "bad"),
    [
        (processes.Noise, habits.Never, [10.5, 20.5, 100.5], [0, 0, 0]),
        (processes.Wear, habits.Taguchi, [126.0, 131.0, 465.5], [0, 0, 0]),
        (processes.Stations, habits.PreControl, [104.0, 104.0], [1, 0]),
        (processes.Eased, habits.Chart, [92.5, 347.5], [3, 5]),
        (processes.Jump, habits.Oracle, [72.5, 149.5], None),
    ],
)
def test_a_few_runs_cost_what_they_did(kind, habit, minutes: list[float], bad: list[int] | None) -> None:
    found = judge.runs(kind, range(len(minutes)), habit)
    assert list(found["minutes"]) == pytest.approx(minutes)
    assert bad is None or list(found["bad"]) == bad


@pytest.mark.parametrize(
    ("kind", "minutes"),
    [
        (contain.Step, [27, 38, 26, 8]),
        (contain.Creep, [35, 77, 2, 74]),
        (contain.LooseStation, [3, 132, 3, 17]),
    ],
)
def test_a_few_containments_cost_what_they_did(kind, minutes: list[float]) -> None:
    assert [contain.play(kind, seed, contain.two_checks_back)[4] for seed in range(4)] == minutes


def test_a_few_finishes_are_what_they_were() -> None:
    rows = [
        (finish.Steady, (5220.707, 5983.185, 6745.663, 6196.224)),
        (finish.Interrupted, (21371.517, 25248.844, 28226.17, 23413.884)),
        (finish.Learning, (11553.501, 12957.06, 14360.619, 11967.371)),
    ]
    for kind, wanted in rows:
        _, case, left, *_ = next(iter(finish.cases(kind, 1)))
        assert (*finish.steady_calendar(case), left) == pytest.approx(wanted, abs=0.001)


def test_what_a_policy_does_never_changes_the_noise() -> None:
    for kind in processes.ALL:
        a, b = kind(3), kind(3)
        a.turn("tool", 0.01)
        for load in range(1, 12):
            x, y = a.load(load), b.load(load)
            assert np.allclose(x - y, (a.effect() - b.effect())[: len(x)]), kind.name


def test_taking_out_every_deviation_doubles_the_variance_of_noise() -> None:
    """Rule 2 of the funnel."""
    always = judge.runs(processes.Noise, range(6), lambda: habits.Always(every=1))
    never = judge.runs(processes.Noise, range(6), habits.Never)
    assert 1.8 < always["square"].sum() / never["square"].sum() < 2.2


def test_bad_advice_is_counted() -> None:
    silly = judge.Wrapped(lambda h: Turn("nothing", 1.0) if h.loads_done == 5 else Leave(h.pieces_done + 1))
    found = judge.play(processes.Noise, 0, lambda: silly)
    assert (found["bad_advice"], found["overruns"]) == (judge.MOST, 1)
    assert (
        judge.play(processes.Noise, 0, lambda: judge.Wrapped(lambda _: Gauge(((9999, "A"),))))["bad_advice"]
        > 0
    )


def test_the_oracles_finish_is_calibrated() -> None:
    rows = [row for kind in finish.FINISH for seed in range(12) for row in finish.cases(kind, seed)]
    inside = []
    for _, case, left, world, done, loads in rows:
        low, _, high = finish.oracle(world, done, loads, case, 5)
        inside.append(low <= left <= high)
    assert 0.68 < np.mean(inside) < 0.92
