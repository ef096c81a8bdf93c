"""Whether the knob that was turned last did what it should: not taken, the wrong way, radius for diameter."""

import itertools
from collections.abc import Sequence
from itertools import takewhile
from math import sqrt
from statistics import fmean

from ditto_run.core.run.judge.knob_map import Turned, gain_seen
from ditto_run.core.run.judged import DimensionJudged, HistoryHere, KnobHere, ReadingPast

LOOKED = 6  # readings before and after a turn
RECENT = 40  # loads, after which a turn is not looked at any more
FEWEST = 2  # on each side
SCATTER_OF_ZONE = 24.0  # of a piece, as a part of the limits, where readings do not show more; own judgement
NOT_TAKEN, HALF, TWICE = 0.3, (0.35, 0.65), (1.6, 2.4)  # of what it should do


def turn_seen(history: HistoryHere) -> str:
    """Return what the turn made last did otherwise than it should, in a sentence; empty where it did, or where it cannot be said yet.

    Args:
        history: what was written down.

    Source:
        Means before and after; own derivation. Its weights are those of `gain_seen`.
    """
    if not history.turns:
        return ""
    last = history.turns[-1]
    knob = next((one for one in history.job.knobs if one.name == last.knob), None)
    if knob is None or knob.station is not None or not last.amount:
        return ""
    since = max(
        (one.after_piece for one in history.turns[:-1] if one.after_piece < last.after_piece), default=0
    )
    span = RECENT * max(history.job.stations, 1)
    if history.pieces_done - last.after_piece > span:
        return ""  # what was done since speaks for itself
    since = max(since, last.after_piece - span)
    edges = [*(one.after_piece for one in history.events), *(one.after_piece for one in history.stops)]
    begin = max([since, *(at for at in edges if at < last.after_piece)])
    ends = min((at for at in edges if at > last.after_piece), default=history.pieces_done)
    amount = sum(
        one.amount for one in history.turns if one.knob == knob.name and one.after_piece == last.after_piece
    )
    for dimension in history.job.dimensions:
        should = knob.gains.get(dimension.name, 0.0)
        if should and amount:
            said = _otherwise(history, dimension, knob, (begin, last.after_piece, ends), amount)
            if said:
                return said
    return ""


def _otherwise(
    history: HistoryHere,
    dimension: DimensionJudged,
    knob: KnobHere,
    edges: tuple[int, int, int],
    amount: float,
) -> str:
    begin, at, ends = edges
    recent = takewhile(lambda one: one.after_piece > begin, reversed(history.readings))
    mine = [one for one in recent if one.dimension == dimension.name and not one.recheck][::-1]
    before = _values([one for one in mine if begin < one.piece <= at][-LOOKED:])
    after = _values([one for one in mine if at < one.piece <= ends][:LOOKED])
    if min(len(before), len(after)) < FEWEST:
        return ""
    scatter = max(_scatter(before), _scatter(after), (dimension.upper - dimension.lower) / SCATTER_OF_ZONE)
    steps = len(before) + len(after) - 2
    drift = ((before[-1] - before[0]) + (after[-1] - after[0])) / steps
    between = (len(before) + len(after)) / 2  # readings from the middle of the one to that of the other
    error = scatter * sqrt(1 / len(before) + 1 / len(after) + (2 * between / steps) ** 2)
    gain = gain_seen([Turned(amount, fmean(after) - fmean(before) - drift * between, error)])
    should = knob.gains[dimension.name]
    if gain is None or not gain.speaks_against(should):
        return ""
    share = gain.likely / should
    name = history.of[dimension.name].name
    if abs(share) < NOT_TAKEN:
        return f"The last turn of {knob.what} did nothing to the {name}: was it taken?"
    if share < 0:
        return f"The last turn of {knob.what} moved the {name} the other way: look at its sign."
    if HALF[0] < share < HALF[1] or TWICE[0] < share < TWICE[1]:
        word = "half" if share < 1 else "twice"
        return f"The last turn of {knob.what} moved the {name} {word} of what it should: radius for diameter?"
    return ""


def _values(readings: Sequence[ReadingPast]) -> list[float]:
    return [one.value for one in readings]


def _scatter(values: Sequence[float]) -> float:
    """Scatter from reading to reading, so that a drift is no part of it."""
    steps = [b - a for a, b in itertools.pairwise(values)]
    return sqrt(sum(step * step for step in steps) / (2 * len(steps))) if steps else 0.0
