"""When the run will be done: seconds from now, with the range that holds the truth in eight of ten cases.

Model: a load takes its cycle, the hand (log-normal, quicker with practice), now and then gauging, an insert, an interruption nobody
wrote down, and the breaks of the calendar. Estimate: each part from what has been timed, shrunk to the plan or to common practice
while little is known. Answer: many ends are drawn from all that is not known, always with the same draws, and their tenth, middle
and ninth of ten given.

Source: own derivation; practice as a power of the count (Wright's learning curve), interruptions as a Poisson count with a
gamma-distributed rate and exponential lengths.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Protocol

import numpy as np

Array = np.ndarray[Any, Any]

DRAWS = 400
SEED = 20261128
LOW, MIDDLE, HIGH = 0.1, 0.5, 0.9
TAKEN_FROM = 0.5  # a gap longer by so much of a break than its neighbours had the break in it
STRAY_FROM = 2.2  # a hand time over so many medians, and over STRAY_S, is an interruption
STRAY_S = 60.0
USUAL_CV, CV_WEIGHT = 0.25, 4.0  # scatter of hand times, and how many loads that is worth
PLAN_LOG_SD = 0.35  # how far the plan's hand time may be off
PRACTICE_SD = 0.12  # of the learning exponent; 0.152 is a 90 % curve
RATE_SHAPE, RATE_LOADS = 0.4, 25.0  # interruptions before any was seen: 0.4 in 25 loads
STOP_MEAN_S, STOP_WEIGHT = 420.0, 1.5  # their usual length, and how many that is worth
GAUGE_S, GAUGE_WEIGHT = 50.0, 1.0  # gauging a load, before it was timed
BREAK_CV = 0.12  # a break of a quarter of an hour is not one to the second
OBEYED, OBEYED_OF = 6.5, 7.0  # breaks taken of those due, before any was due
WANDER_SD = 0.006  # how far the pace of the hand drifts from load to load, as a share


class TimedLoad(Protocol):
    """One load that is done; times in seconds since the run began."""

    @property
    def start(self) -> float: ...  # noqa: D102
    @property
    def end(self) -> float: ...  # noqa: D102
    @property
    def gauged(self) -> bool: ...  # noqa: D102


class RunSoFar(Protocol):
    """What is known at the end of a cycle; the fields are in docs/steps/run.md."""

    @property
    def now(self) -> float: ...  # noqa: D102
    @property
    def loads(self) -> Sequence[TimedLoad]: ...  # noqa: D102
    @property
    def loads_left(self) -> int: ...  # noqa: D102
    @property
    def planned_cycle(self) -> float: ...  # noqa: D102
    @property
    def planned_load_to_load(self) -> float: ...  # noqa: D102
    @property
    def gauge_every(self) -> int: ...  # noqa: D102
    @property
    def calendar(self) -> Sequence[tuple[float, float]]: ...  # noqa: D102
    @property
    def written(self) -> Sequence[tuple[int, str]]: ...  # noqa: D102


@dataclass(frozen=True, slots=True)
class Gaps:
    """What the gaps between loads say, [s].

    Args:
        hand: time of the hand in each, breaks that were taken not counted.
        gauged: whether the load before was gauged.
        insert: whether an insert was changed in it.
        taken, due: breaks of the calendar that were taken, and that were due.
    """

    hand: Array
    gauged: Array
    insert: Array
    taken: int
    due: int


def finish(case: RunSoFar) -> tuple[float, float, float]:
    """Return seconds from now to the end of the last cycle: low, likely, high; the 80 % range, [s].

    Args:
        case: the loads done, the plan, the breaks of the day, what was written down. It is read only.

    Source:
        Own derivation; see the module.
    """
    if case.loads_left <= 0:
        return 0.0, 0.0, 0.0
    rng = np.random.default_rng(SEED)
    gaps = gaps_of(case)
    work = _cycles(case, rng) + _hands(case, gaps, rng)
    ends = _with_breaks(case, gaps, work, rng)
    low, middle, high = (float(x) for x in np.quantile(ends, (LOW, MIDDLE, HIGH)))
    return low, middle, high


def gaps_of(case: RunSoFar) -> Gaps:
    """Return what the gaps between the loads say: which breaks were taken, and how long the hand took."""
    plan = max(case.planned_load_to_load - case.planned_cycle, 1.0)
    pairs = list(zip(case.loads, case.loads[1:], strict=False))
    met = [[c for c in case.calendar if a.start < c[0] <= b.start] for a, b in pairs]
    bare = [b.start - a.end for (a, b), breaks in zip(pairs, met, strict=True) if not breaks]
    usual = float(np.median(bare)) if len(bare) > 2 else plan  # noqa: PLR2004 - fewer say little
    hand, taken, due = [], 0, 0
    for (a, b), breaks in zip(pairs, met, strict=True):
        gap = b.start - a.end
        for _, length in breaks:
            due += 1
            if gap - usual > TAKEN_FROM * length:
                gap -= length
                taken += 1
        hand.append(max(gap, 0.1 * usual))
    changed = {after for after, kind in case.written if kind == "insert"}
    return Gaps(
        np.array(hand),
        np.array([a.gauged for a, _ in pairs], bool),
        np.array([number in changed for number in range(1, len(pairs) + 1)], bool),
        taken,
        due,
    )


def _cycles(case: RunSoFar, rng: np.random.Generator) -> Array:
    """Draw the cycles still to come together, [s]."""
    lasted = np.array([load.end - load.start for load in case.loads])
    recent = lasted[-20:]
    mean = float(np.median(recent)) if len(recent) else case.planned_cycle
    spread = float(np.median(np.abs(recent - mean))) * 1.4826 if len(recent) > 2 else 0.05 * mean  # noqa: PLR2004
    doubt = spread / np.sqrt(max(len(recent), 1))
    left = case.loads_left
    own = spread * np.sqrt(left) * rng.standard_normal(DRAWS)
    return np.asarray(left * (mean + doubt * rng.standard_normal(DRAWS)) + own)


def _hands(case: RunSoFar, gaps: Gaps, rng: np.random.Generator) -> Array:
    """Draw what the hand, gauging, inserts and interruptions still take together, [s]."""
    plan = max(case.planned_load_to_load - case.planned_cycle, 5.0)
    done, left = len(case.loads), case.loads_left
    number = np.arange(1, len(gaps.hand) + 1)  # a gap comes before the load of this number, from 0
    usual, stray = _usual(gaps, plan), strays_of(gaps)
    fit = ~gaps.gauged & ~gaps.insert & ~stray
    practice = _practice(number[fit], gaps.hand[fit], plan)
    rest = gaps.hand - np.exp(practice[0] + practice[1] * np.log(number + 1.0))
    gauging = _part(rest[gaps.gauged & ~gaps.insert & ~stray], GAUGE_S, GAUGE_WEIGHT)
    insert = _part(rest[gaps.insert], 4 * GAUGE_S, 0.5)
    hand = _pace(practice, np.arange(done, done + left), rng)
    hand += _gauged_to_come(case, done, left) * gauging[0] * (1 + gauging[1] * rng.standard_normal(DRAWS))
    inserts = rng.poisson(_inserts_to_come(case, done, left), DRAWS)
    hand += inserts * insert[0] * np.exp(0.25 * rng.standard_normal(DRAWS))
    hand += _interruptions(gaps.hand[stray & ~gaps.insert] - usual, len(gaps.hand), left, rng)
    return np.asarray(np.maximum(hand, 0.3 * usual * left))


def strays_of(gaps: Gaps) -> Array:
    """Return which gaps were interrupted: far beyond what the hands usually take."""
    usual = _usual(gaps, 0.0)
    room = np.where(gaps.gauged, 2 * GAUGE_S, 0)
    return np.asarray(gaps.hand > np.maximum(STRAY_FROM * usual, usual + STRAY_S) + room)


def practice_of(case: RunSoFar) -> tuple[float, float]:
    """Return the exponent with which the hands get quicker, and how unsure it is, [-]."""
    gaps = gaps_of(case)
    fit = ~gaps.gauged & ~gaps.insert & ~strays_of(gaps)
    number = np.arange(1, len(gaps.hand) + 1)
    plan = max(case.planned_load_to_load - case.planned_cycle, 5.0)
    _, slope, cover, _ = _practice(number[fit], gaps.hand[fit], plan)
    return slope, float(np.sqrt(cover[1, 1]))


def _usual(gaps: Gaps, plan: float) -> float:
    """What the hands usually take where nothing else was done, [s]."""
    plain = ~gaps.gauged & ~gaps.insert
    start = gaps.hand[plain] if plain.any() else gaps.hand
    return float(np.median(start)) if len(start) else plan


def _pace(practice: tuple[float, float, Array, float], to_come: Array, rng: np.random.Generator) -> Array:
    """Draw the hand times of the loads to come together, [s]."""
    level, slope, cover, scatter = practice
    root = np.linalg.cholesky(cover + 1e-12 * np.eye(2))
    drawn = np.array([level, slope])[:, None] + root @ rng.standard_normal((2, DRAWS))
    pace = np.exp(drawn[0] + drawn[1] * np.log(to_come[:, None] + 1.0) + scatter**2 / 2)
    wander = np.exp(WANDER_SD * np.cumsum(rng.standard_normal((len(to_come), DRAWS)), axis=0))
    own = scatter * np.sqrt((pace**2).sum(0)) * rng.standard_normal(DRAWS)
    return np.asarray((pace * wander).sum(0) + own)


def _interruptions(odd: Array, loads: int, left: int, rng: np.random.Generator) -> Array:
    """Draw what interruptions still take together, their rate and length not being known either, [s]."""
    rate = rng.gamma(RATE_SHAPE + len(odd), 1 / (RATE_LOADS + loads), DRAWS)
    mean = (STOP_MEAN_S * STOP_WEIGHT + odd.sum()) / (STOP_WEIGHT + len(odd))
    shape = STOP_WEIGHT + len(odd) + 1
    length = mean * (shape - 1) / rng.gamma(shape, 1.0, DRAWS)
    count = rng.poisson(rate * left)
    return np.where(count > 0, rng.gamma(np.maximum(count, 1), 1.0) * length, 0.0)


def _practice(number: Array, hand: Array, plan: float) -> tuple[float, float, Array, float]:
    """Return log level, exponent, their covariance and the scatter of hand times: a regression shrunk to the plan."""
    prior = np.diag([1 / PLAN_LOG_SD**2, 1 / PRACTICE_SD**2])
    middle = np.array([np.log(plan), -0.04])
    variance = USUAL_CV**2
    if not len(hand):
        return float(middle[0]), float(middle[1]), np.linalg.inv(prior), USUAL_CV
    x = np.column_stack([np.ones(len(number)), np.log(number + 1.0)])
    y = np.log(hand)
    for _ in range(3):
        weight = np.ones(len(y))
        if len(y) > 3:  # noqa: PLR2004 - an odd one counts less
            guess = np.linalg.solve(prior * variance + x.T @ x, prior @ middle * variance + x.T @ y)
            off = (y - x @ guess) / np.sqrt(variance)
            weight = 1 / (1 + (off / 2.5) ** 2)
        precision = prior + (x * weight[:, None]).T @ x / variance
        found = np.linalg.solve(precision, prior @ middle + (x * weight[:, None]).T @ y / variance)
        square = float((weight * (y - x @ found) ** 2).sum())
        variance = (square + CV_WEIGHT * USUAL_CV**2) / (weight.sum() + CV_WEIGHT)
    return float(found[0]), float(found[1]), np.linalg.inv(precision), float(np.sqrt(variance))


def _part(seen: Array, usual: float, weight: float) -> tuple[float, float]:
    """Return the mean of a part of the gap, shrunk to what is usual, [s], and how unsure it is as a share."""
    mean = (usual * weight + float(np.clip(seen, 0, 6 * usual).sum())) / (weight + len(seen))
    return max(mean, 0.0), 0.5 / float(np.sqrt(weight + len(seen)))


def _gauged_to_come(case: RunSoFar, done: int, left: int) -> int:
    """Return before how many of the loads to come the one before is gauged."""
    every = max(case.gauge_every, 1)
    return sum((number - 1) % every == 0 for number in range(done, done + left))


def _inserts_to_come(case: RunSoFar, done: int, left: int) -> float:
    """Return how many inserts are likely still to be changed: evenly, at the pace so far."""
    at = [after for after, kind in case.written if kind == "insert"]
    if not at:
        return 0.0
    life = max((at[-1] - 0) / len(at), 1.0)
    return max((done + left - 1 - at[-1]) / life - 0.5, 0.0)


def _with_breaks(case: RunSoFar, gaps: Gaps, work: Array, rng: np.random.Generator) -> Array:
    """Return seconds from now to the end: the work, and the breaks of the calendar that it meets."""
    obeyed = rng.beta(OBEYED + gaps.taken, OBEYED_OF - OBEYED + gaps.due - gaps.taken, DRAWS)
    end = case.now + work
    cycle = case.loads[-1].end - case.loads[-1].start if case.loads else case.planned_cycle
    since = case.loads[-1].start if case.loads else case.now
    for start, length in case.calendar:
        if start <= since:
            continue
        # one that falls due in the last cycle is not taken any more
        met = (start < end - cycle) & (rng.random(DRAWS) < obeyed)
        end = end + np.where(met, length * np.exp(BREAK_CV * rng.standard_normal(DRAWS)), 0.0)
        if start > end.max():
            break
    return end - case.now
