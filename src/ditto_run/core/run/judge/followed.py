"""Advice scored afterwards: was it followed, and did it help.

A turn helped if the sizes after it lie nearer their targets than they would have without it, that is, without its effect. How sure that
is follows from the scatter of the readings. Source: own derivation; held to the truth of simulated processes.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from math import sqrt
from statistics import NormalDist

from ditto_run.core.run.judge.history import Past, TurnKnob
from ditto_run.core.run.judge.places import Places

COUNTED = 5  # readings of each dimension that are looked at
SURE = 0.9


class Outcome(StrEnum):
    """What came of an advice to turn."""

    HELPED = "helped"
    HARMED = "harmed"
    UNSURE = "too few readings to say"
    NOT_FOLLOWED = "not followed"
    OTHERWISE = "turned otherwise than advised"


@dataclass(frozen=True, slots=True)
class Scored:
    """An advice with what came of it.

    Args:
        after_piece: pieces cut when it was given.
        outcome: the verdict.
        chance: that it helped, None where it was not followed. [0 to 1]
        readings: that speak of it.
    """

    after_piece: int
    outcome: Outcome
    chance: float | None = None
    readings: int = 0


def scored(history: Past, advised: Sequence[tuple[int, TurnKnob]], scatter: float = 0.2) -> list[Scored]:
    """Return each advised turn with what came of it.

    Args:
        history: what has been written down since. Sizes in mm.
        advised: pieces cut when it was given, and the advice.
        scatter: standard deviation of a reading. [half tolerances]
    """
    return [_scored(history, after, turn, scatter) for after, turn in advised]


def _scored(history: Past, after: int, turn: TurnKnob, scatter: float) -> Scored:
    made = [t for t in history.turns if t.after_piece == after and t.knob == turn.knob]
    if not made:
        return Scored(after, Outcome.NOT_FOLLOWED)
    if abs(sum(t.amount for t in made) - turn.amount) > 1e-9:  # noqa: PLR2004 - rounding of the sum
        return Scored(after, Outcome.OTHERWISE)
    gain = next(k for k in history.job.knobs if k.name == turn.knob)
    places = Places(history.job.stations, getattr(history, "places", None))
    own = range(history.job.stations) if gain.station is None else (gain.station - 1,)
    weighed, information, count, until = 0.0, 0.0, 0, _until(history, after)
    for d in history.job.dimensions:
        half = (d.upper - d.lower) / 2
        effect = gain.gains.get(d.name, 0.0) * turn.amount / half
        if not effect:
            continue
        values = [
            (r.value - d.target) / half
            for r in history.readings
            if r.dimension == d.name
            and after < r.piece <= until
            and not r.recheck
            and places.station(r.piece) in own
        ][:COUNTED]
        # without the turn it would lie at x − effect; it is nearer the target while effect (effect − 2 x) > 0
        weighed += sum(effect * (effect - 2 * x) for x in values)
        information += len(values) * (2 * effect * scatter) ** 2
        count += len(values)
    if not count:
        return Scored(after, Outcome.UNSURE)
    chance = NormalDist().cdf(weighed / sqrt(information))
    verdict = Outcome.HELPED if chance > SURE else Outcome.HARMED if chance < 1 - SURE else Outcome.UNSURE
    return Scored(after, verdict, chance, count)


def _until(history: Past, after: int) -> int:
    """The last piece before something else was changed."""
    changed = [turn.after_piece for turn in history.turns]
    changed += [event.after_piece for event in history.events]
    changed += [stop.after_piece for stop in history.stops]
    return min((at for at in changed if at > after), default=history.job.pieces)
