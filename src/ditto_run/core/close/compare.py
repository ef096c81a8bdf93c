"""Batches of a job side by side: size by size, minutes by minutes; whether it got better, since when, with how sure."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from math import sqrt
from statistics import fmean, median, variance

from ditto_run.core.close.report import report
from ditto_run.core.run.pace import steady
from ditto_run.core.run.state import RunState
from ditto_run.core.statistics import Capability

FEW = 4  # loads or readings on each side, under which nothing is told apart; common practice, no source
SURE = 0.9  # from which a change is said
LEAST_SHARE = 0.02  # of a time; a smaller change is not worth a word


@dataclass(frozen=True, slots=True)
class BatchBeside:
    """One batch beside the others.

    Args:
        batch: its number.
        closed_at: when; None while it is open.
        begun, good, scrap: pieces.
        piece_s: a piece, load to load, middle of its loads by the clock, all cycles; None while one is not known. [s]
        turns, stops: knobs turned, and times it stopped.
        sizes: figures of each dimension by its number; None where too little was gauged.
        means: readings of each dimension as shares of half its limits from their middle.
        paces: cycle by its key to its loads: load to load a piece. [s]
    """

    batch: int
    closed_at: datetime | None
    begun: int
    good: int
    scrap: int
    piece_s: float | None
    turns: int
    stops: int
    sizes: Mapping[int, Capability | None]
    means: Mapping[int, tuple[float, ...]]
    paces: Mapping[int, tuple[float, ...]]


@dataclass(frozen=True, slots=True)
class GotBetter:
    """A change that is shown by the figures.

    Args:
        what: of it.
        since: first batch of the new kind.
        better: True for the better.
        sure: chance that it is no chance. [-]
        words: how much, in a few words.
    """

    what: str
    since: int
    better: bool
    sure: float
    words: str


def beside(state: RunState) -> BatchBeside:
    """Return the figures of a batch for a comparison.

    Args:
        state: its run.
    """
    found = report(state, ())
    paces = {
        key: tuple(gap / max(sum(run.composition.values()), 1) for gap in steady(run.gaps_s))
        for key, run in state.cycles.items()
    }
    each = [median(gaps) for gaps in paces.values() if gaps]
    return BatchBeside(
        state.batch,
        state.closed_at,
        found.started_pieces,
        found.good,
        found.counts.get("scrap", 0),
        sum(each) if each and len(each) == len(paces) else None,
        sum(len(run.dialled) for run in state.cycles.values()),
        sum(len(run.stopped) for run in state.cycles.values()),
        {row.characteristic.number: row.figures for row in found.dimensions},
        {row.characteristic.number: _shares(state, row.characteristic.number) for row in found.dimensions},
        paces,
    )


def _shares(state: RunState, number: int) -> tuple[float, ...]:
    """The readings that count of a dimension, in half tolerances from the middle of its limits."""
    size = state.plan.characteristic(number).size
    if size.lower is None or size.upper is None or size.upper <= size.lower:
        return ()
    half, middle = float(size.upper - size.lower) / 2, float(size.middle)
    last = (piece.left_with(number) for piece in state.pieces.values())
    return tuple(
        (float(one.value) - middle) / half for one in last if one is not None and one.value is not None
    )


def got_better(
    batches: Sequence[BatchBeside], names: Mapping[int, str], cycles: Mapping[int, str]
) -> tuple[GotBetter, ...]:
    """Return what changed from batch to batch, only what is sure enough to be said.

    Each possible batch of a change is tried, and the chance that it is none is made larger by how many were tried, over
    all figures.

    Args:
        batches: oldest first.
        names: of the dimensions by number.
        cycles: names of the cycles by key.

    Source:
        Welch's test of two means, by Bonferroni over the places of a change and the figures; spread by the mean distance
        from the batch's middle (Levene, Brown and Forsythe); held to scipy by tests.
    """
    kinds = [
        (
            f"A piece in {name} takes" if len(cycles) > 1 else "A piece takes",
            [one.paces.get(key, ()) for one in batches],
        )
        for key, name in cycles.items()
    ]
    kinds += [
        (f"{name} scatters", [_away(one.means.get(number, ())) for one in batches])
        for number, name in names.items()
    ]
    tried = max(sum(any(samples) for _, samples in kinds), 1)
    found = []
    for what, samples in kinds:
        change = _change(samples, tried)
        if change is None:
            continue
        at, before, after, sure = change
        share = abs(after - before) / before if before else 0.0
        if share >= LEAST_SHARE:
            less = after < before
            found.append(
                GotBetter(what, batches[at].batch, less, sure, f"{share:.0%} {'less' if less else 'more'}")
            )
    return tuple(found)


def _away(values: Sequence[float]) -> tuple[float, ...]:
    """How far each reading is from the middle one."""
    middle = median(values) if values else 0.0
    return tuple(abs(value - middle) for value in values)


def _change(samples: Sequence[Sequence[float]], tried: int) -> tuple[int, float, float, float] | None:
    """Where the means change most surely: place of the first new batch, means before and after, how sure; None where not sure.

    `tried` is how many figures are looked at beside each other.
    """
    best: tuple[int, float, float, float] | None = None
    places = [n for n in range(1, len(samples)) if samples[n]]
    for at in places:
        before = [value for one in samples[:at] for value in one]
        after = [value for one in samples[at:] for value in one]
        if min(len(before), len(after)) < FEW or len({*before, *after}) == 1:
            continue
        chance = welch(before, after) * len(places) * tried
        if best is None or 1 - chance > best[3]:
            best = (at, fmean(before), fmean(after), 1 - chance)
    return best if best is not None and best[3] >= SURE else None


def welch(one: Sequence[float], other: Sequence[float]) -> float:
    """Return the chance that two samples of one kind differ in their means as much as these, [-].

    Args:
        one: two values or more.
        other: two values or more, not all of both alike.

    Source:
        Welch's t and its degrees of freedom, textbook; held to scipy by a test.
    """
    from scipy.special import stdtr  # noqa: PLC0415

    parts = [variance(side) / len(side) for side in (one, other)]
    if not sum(parts):
        return 0.0
    t = (fmean(one) - fmean(other)) / sqrt(sum(parts))
    freedom = sum(parts) ** 2 / sum(
        part**2 / (len(side) - 1) for part, side in zip(parts, (one, other), strict=True)
    )
    return float(2 * stdtr(freedom, -abs(t)))
