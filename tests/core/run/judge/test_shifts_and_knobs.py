"""Shifts told apart, knobs and their gains, drift, advice scored: each against another way to the same figures."""

from dataclasses import replace
from itertools import product
from time import process_time

import numpy as np
import pytest
from scipy import stats

from bench.judge import judge, processes
from bench.judge.view import Costs, Dimension, Event, History, Job, Knob, Reading
from bench.judge.view import Turned as Made
from ditto_run.core.run.judge import Decider
from ditto_run.core.run.judge.followed import Outcome, scored
from ditto_run.core.run.judge.history import TurnKnob
from ditto_run.core.run.judge.knob_map import Reach, Turned, gain, gain_seen, is_noise, together
from ditto_run.core.run.judge.reasons import Ground, Reason
from ditto_run.core.run.judge.shifts import told_apart
from ditto_run.core.statistics.drift import drift, pieces_left

# shifts


@pytest.mark.parametrize("counts", [(3, 3, 3), (1, 4, 0), (2,)])
def test_shifts_are_those_of_the_joint_distribution(counts) -> None:
    """Own derivation: the joint normal distribution of what is common, the places and the readings, conditioned by numpy."""
    rng, scatter, common, place = np.random.default_rng(1), 0.2, 0.4, 0.3
    readings = {s: list(0.3 + 0.2 * s + scatter * rng.standard_normal(n)) for s, n in enumerate(counts, 1)}
    found = told_apart(readings, scatter, common, place)
    rows = [(s, v) for s, values in readings.items() for v in values]
    cover = np.diag([common**2] + [place**2] * len(counts))
    h = np.zeros((len(rows), 1 + len(counts)))
    for i, (s, _) in enumerate(rows):
        h[i, 0] = h[i, s] = 1
    pull = cover @ h.T @ np.linalg.inv(h @ cover @ h.T + scatter**2 * np.eye(len(rows)))
    mean, rest = pull @ np.array([v for _, v in rows]), cover - pull @ h @ cover
    shifts = [found.common, *(found.stations[s] for s in readings)]
    assert [s.likely for s in shifts] == pytest.approx(list(mean))
    assert [s.error for s in shifts] == pytest.approx(list(np.sqrt(np.diag(rest))))
    assert found.common.chance == pytest.approx(stats.norm.cdf(abs(mean[0]) / np.sqrt(rest[0, 0])))


def test_what_all_stations_share_is_the_tools_and_what_one_has_is_its_own() -> None:
    all_moved = told_apart({1: [0.5, 0.52], 2: [0.48, 0.5], 3: [0.51, 0.49]}, 0.1)
    assert all_moved.common.likely > 0.35
    assert max(abs(s.likely) for s in all_moved.stations.values()) < 0.15
    one_moved = told_apart({1: [0.02, 0.0], 2: [0.6, 0.62], 3: [-0.01, 0.01]}, 0.1)
    assert one_moved.stations[2].likely > 0.35
    assert one_moved.stations[2].chance > 0.95
    assert one_moved.stations[1].likely == pytest.approx(one_moved.stations[3].likely, abs=0.02)


# knobs


@pytest.mark.parametrize(
    ("reach", "inside", "reversed_scale", "by"),
    [
        (Reach.RADIUS, False, False, 2.0),
        (Reach.RADIUS, True, False, -2.0),
        (Reach.DIAMETER, True, True, 1.0),
        (Reach.LENGTH, False, True, -1.0),
    ],
)
def test_gain_by_what_the_knob_sets(reach, inside, reversed_scale, by) -> None:
    assert gain(reach, inside=inside, reversed_scale=reversed_scale) == by


def knob(name: str, increment: float = 0.001, **gains: float) -> Knob:
    return Knob(name, "tool", None, gains, increment)


def test_two_dimensions_of_one_tool_are_weighed_by_their_tolerances() -> None:
    """A wants 10 steps, B none: the tight one has nearly its way; all settings tried one by one agree."""
    half = {"A": 0.01, "B": 0.05}
    found = together({"A": -0.010, "B": 0.0}, half, [knob("X", A=1.0, B=1.0)])
    best = min(range(-30, 31), key=lambda s: ((s * 0.001 - 0.010) / 0.01) ** 2 + (s * 0.001 / 0.05) ** 2)
    assert found.steps == {"X": best}
    assert found.left["B"] == pytest.approx(best * 0.001)
    assert found.after < found.before


def test_two_knobs_and_three_dimensions_as_all_settings_tried_one_by_one() -> None:
    rng, counted = np.random.default_rng(2), 0
    for _ in range(40):
        gains = rng.choice([-2.0, -1.0, 0.0, 0.5, 1.0, 2.0], (2, 3))
        knobs = [knob(n, 0.002, **dict(zip("ABC", g, strict=True))) for n, g in zip("XY", gains, strict=True)]
        half = dict(zip("ABC", rng.uniform(0.01, 0.05, 3), strict=True))
        off = dict(zip("ABC", rng.uniform(-0.02, 0.02, 3), strict=True))
        found = together(off, half, knobs)
        tried = [
            sum(
                ((off[m] + 0.002 * (a * gains[0][i] + b * gains[1][i])) / half[m]) ** 2
                for i, m in enumerate("ABC")
            )
            for a, b in product(range(-25, 26), repeat=2)
        ]
        if all(abs(s) < 25 for s in found.steps.values()):
            counted += 1
            assert found.after <= min(tried) * 1.03 + 1e-9
    assert counted >= 35


def test_many_knobs_are_set_in_a_moment() -> None:
    """Twelve knobs on six dimensions: nothing is tried one by one."""
    rng = np.random.default_rng(6)
    names = "ABCDEF"
    knobs = [knob(f"k{i}", 0.001, **dict(zip(names, rng.normal(size=6), strict=True))) for i in range(12)]
    began = process_time()
    found = together(dict.fromkeys(names, 0.013), dict.fromkeys(names, 0.02), knobs)
    assert process_time() - began < 2
    assert found.after < 0.05 * found.before


def test_nothing_to_turn_turns_nothing() -> None:
    assert together({"A": 0.0004}, {"A": 0.02}, [knob("X", A=1.0)]).steps == {}
    assert together({"A": 0.01}, {"A": 0.02}, [knob("X", B=1.0)]).steps == {}
    assert together({"A": 0.01}, {"A": 0.02}, []).left == {"A": 0.01}


def test_a_gain_that_turns_contradict() -> None:
    """Least squares with numpy; a radius knob taken as diameter shows after three turns."""
    turns = [Turned(0.01, 0.021, 0.003), Turned(-0.02, -0.038, 0.003), Turned(0.015, 0.031, 0.004)]
    found = gain_seen(turns)
    x = np.array([t.amount / t.error for t in turns])
    y = np.array([t.moved / t.error for t in turns])
    assert found.likely == pytest.approx(float(np.linalg.lstsq(x[:, None], y, rcond=None)[0][0]))
    assert found.error == pytest.approx(1 / np.sqrt((x * x).sum()))
    assert found.speaks_against(1.0)
    assert found.speaks_against(-2.0)
    assert not found.speaks_against(2.0)
    assert gain_seen([]) is None


@pytest.mark.parametrize(
    ("shift", "error", "least", "noise"),
    [
        (0.004, 0.004, 0.001, True),
        (0.0041, 0.004, 0.001, False),
        (-0.002, 0.001, 0.005, True),
        (0.0049, 0.001, 0.005, True),
        (0.005, 0.001, 0.005, False),
    ],
)
def test_chasing_noise(shift, error, least, noise) -> None:
    assert is_noise(shift, error, least) is noise


# drift


def test_a_line_as_scipy_draws_it() -> None:
    rng = np.random.default_rng(3)
    pieces = [1, 5, 9, 14, 20, 26, 31]
    sizes = [20 + 0.0005 * p + 0.002 * rng.standard_normal() for p in pieces]
    found, reference = drift(list(zip(pieces, sizes, strict=True))), stats.linregress(pieces, sizes)
    assert (found.slope, found.slope_error) == pytest.approx((reference.slope, reference.stderr))
    assert found.at(40) == pytest.approx(reference.intercept + 40 * reference.slope)
    assert drift([(1, 20.0), (2, 20.0)]) is None
    assert drift([(4, 20.0), (4, 20.1), (4, 20.2)]) is None


def test_the_range_of_pieces_left_holds_the_truth_as_often_as_it_says() -> None:
    """The line comes to its limit at piece 60 in truth; the reserve is given, so that only the line is unsure."""
    rng, held, pieces = np.random.default_rng(4), 0, np.arange(1, 31, 3)
    for _ in range(400):
        sizes = 0.001 * pieces + 0.004 * rng.standard_normal(len(pieces))
        found = pieces_left(drift(list(zip(pieces.tolist(), sizes, strict=True))), -0.2, 0.06, 28, reserve=0)
        held += (found.low or 0) <= 32 <= (np.inf if found.high is None else found.high)
    assert 0.75 <= held / 400 <= 0.86


def test_pieces_left_where_nothing_drifts_or_it_is_out_already() -> None:
    still = pieces_left(drift([(1, 20.0), (2, 20.0), (3, 20.0)]), 19.9, 20.1, 3)
    assert (still.likely, still.low, still.high) == (None, None, None)
    exact = pieces_left(drift([(1, 20.0), (2, 20.01), (3, 20.02)]), 19.9, 20.1, 3)
    assert (exact.likely, exact.low, exact.high) == pytest.approx((8, 8, 8))
    down = pieces_left(drift([(1, 20.0), (2, 19.99), (3, 19.98)]), 19.9, 20.1, 3)
    assert down.likely == pytest.approx(8)
    assert pieces_left(drift([(1, 20.0), (2, 20.1), (3, 20.2)]), 19.9, 20.1, 3).likely == 0.0
    noisy = pieces_left(drift([(1, 20.0), (2, 20.004), (3, 19.998), (4, 20.001)]), 19.9, 20.1, 4)
    assert noisy.high is None
    assert noisy.low > 0


# advice scored

COSTS = Costs(20.0, 60.0, 2.0, 0.5, 2.0, 10.0)
TURN = TurnKnob("tool", -0.010, Reason(Ground.OFF_TARGET))


def run(after: list[float], amount: float | None = -0.010) -> History:
    """Ten pieces, a turn after the tenth, and what was measured then, each of the next pieces."""
    dimension = Dimension("A", 19.98, 20.02, 20.0, 0.001, 0.001)
    past = History(Job(40, 1, (dimension,), (knob("tool", A=1.0),), COSTS), 10 + len(after), 0)
    past.readings += [
        Reading(p, p, 1, "A", 20.0 + x, p, recheck=False) for p, x in enumerate([0.010] * 3 + after, 8)
    ]
    if amount is not None:
        past.turns.append(Made(10, "tool", amount))
    return past


@pytest.mark.parametrize(
    ("after", "amount", "outcome"),
    [
        ([0.0, 0.001, -0.001, 0.0], -0.010, Outcome.HELPED),
        ([-0.012, -0.011, -0.013], -0.010, Outcome.HARMED),
        ([-0.005, -0.005], -0.010, Outcome.UNSURE),
        ([], -0.010, Outcome.UNSURE),
        ([0.010, 0.011], None, Outcome.NOT_FOLLOWED),
        ([0.0, 0.0], 0.010, Outcome.OTHERWISE),
    ],
)
def test_what_came_of_an_advice(after, amount, outcome) -> None:
    [found] = scored(run(after, amount), [(10, TURN)])
    assert found.outcome is outcome
    assert found.readings == (len(after) if amount == -0.010 else 0)


def test_readings_after_another_change_do_not_speak_of_it() -> None:
    past = run([0.0, 0.0, -0.02, -0.02])
    past.events.append(Event(12, "insert"))
    [found] = scored(past, [(10, TURN)])
    assert (found.outcome, found.readings) == (Outcome.HELPED, 2)
    doubtful = replace(past.readings[-3], value=19.98, recheck=True)
    past.readings[-3] = doubtful
    assert scored(past, [(10, TURN)])[0].readings == 1


def test_scores_agree_with_the_truth_of_simulated_runs() -> None:
    """Of the turns that are scored one way or the other nine in ten are what the simulated truth says of them, turn by turn."""

    class Recorder:
        def __init__(self, kind, seed) -> None:
            self.inner, self.turns, self.harmed, self.before = Decider(), [], [], 0
            self.play = judge.Play(kind(seed), self)

        def decide(self, history):
            if len(self.harmed) < len(self.turns):  # the turn of the last answer has been made
                self.harmed.append(self.play.c["harmful"] > self.before)
            answer = self.inner.decide(history)
            if answer.kind == "turn":
                self.before = self.play.c["harmful"]
                self.turns.append((history.pieces_done, answer))
            return answer

    right = wrong = 0
    for kind, seed in product(
        (processes.Wear, processes.Jump, processes.Stations, processes.Noise), range(20, 26)
    ):
        policy = Recorder(kind, seed)
        policy.play.run()
        for found, harmed in zip(scored(policy.play.h, policy.turns), policy.harmed, strict=False):
            if found.outcome in {Outcome.HELPED, Outcome.HARMED}:
                agrees = (found.outcome is Outcome.HARMED) == harmed
                right, wrong = right + agrees, wrong + (not agrees)
    assert right >= 30
    assert wrong <= 0.1 * (right + wrong)
