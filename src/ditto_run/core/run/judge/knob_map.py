"""Which knob moves which dimension, how far and which way, and how much of each to turn.

Source: own derivation; least squares on a grid of whole increments, held to all settings tried one by one.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import combinations
from math import sqrt

from ditto_run.core.run.judge.history import Knob


class Reach(StrEnum):
    """What a knob's figure is on what it makes."""

    LENGTH = "length"
    DIAMETER = "diameter set as diameter"
    RADIUS = "diameter set as radius"


def gain(reach: Reach, *, inside: bool = False, reversed_scale: bool = False) -> float:
    """Return by how much a dimension grows when the knob goes up by one, [-].

    Args:
        reach: what the knob's figure is.
        inside: the tool goes the other way at this size: more of the knob makes it smaller.
        reversed_scale: the control counts this offset the other way.

    A radius counts twice on a diameter. Which way an offset counts differs between controls: see the machine's manual.
    """
    size = 2.0 if reach is Reach.RADIUS else 1.0
    return -size if inside != reversed_scale else size


@dataclass(frozen=True, slots=True)
class Setting:
    """What to turn.

    Args:
        steps: whole increments by knob; those of 0 are left out.
        left: deviation that stays, by dimension. [mm]
        before, after: sum of the squared deviations in half tolerances, as it stands and after. [-]
    """

    steps: Mapping[str, int]
    left: Mapping[str, float]
    before: float
    after: float


def together(off: Mapping[str, float], half: Mapping[str, float], knobs: Sequence[Knob]) -> Setting:
    """Return the turns, together, that bring the dimensions nearest to their targets, each weighed by its tolerance.

    Args:
        off: deviation from the target by dimension. [mm]
        half: half tolerance by dimension, over 0. [mm]
        knobs: those that may be turned; two dimensions of one tool have a gain each on the same knob.

    Two dimensions that one knob moves by different amounts cannot both be brought to their targets: `left` says what stays.
    """
    names = list(off)
    moves = [[k.gains.get(m, 0.0) * k.increment / half[m] for m in names] for k in knobs]
    wanted = [-off[m] / half[m] for m in names]
    best = _whole_steps(moves, wanted)
    left = {
        m: off[m] + sum(s * k.gains.get(m, 0.0) * k.increment for s, k in zip(best, knobs, strict=True))
        for m in names
    }
    return Setting(
        {k.name: s for s, k in zip(best, knobs, strict=True) if s},
        left,
        sum(w * w for w in wanted),
        _missed(moves, wanted, best)[0],
    )


def _whole_steps(moves: Sequence[Sequence[float]], wanted: Sequence[float]) -> tuple[int, ...]:
    """Whole steps of the knobs that miss least: rounded, then one or two knobs at a time by a step while that misses less."""
    best = tuple(round(x) for x in _least_squares(moves, wanted))
    one = [tuple(sign * (i == j) for j in range(len(moves))) for i in range(len(moves)) for sign in (1, -1)]
    tries = one + [tuple(a + b for a, b in zip(x, y, strict=True)) for x, y in combinations(one, 2)]
    while tries:
        near = [tuple(a + b for a, b in zip(best, step, strict=True)) for step in tries]
        near += [tuple(0 if i == j else a for j, a in enumerate(best)) for i in range(len(best))]
        found = min([best, *near], key=lambda steps: _missed(moves, wanted, steps))
        if found == best:
            break
        best = found
    return best


def _missed(
    moves: Sequence[Sequence[float]], wanted: Sequence[float], steps: Sequence[int]
) -> tuple[float, int]:
    """What stays, and where two settings are alike, how many knobs are turned."""
    stays = [
        want - sum(s * move[i] for s, move in zip(steps, moves, strict=True)) for i, want in enumerate(wanted)
    ]
    return round(sum(x * x for x in stays), 12), sum(1 for s in steps if s)


def _least_squares(moves: Sequence[Sequence[float]], wanted: Sequence[float]) -> list[float]:
    """Amounts of the knobs that miss least, in increments; a knob that moves nothing, or nothing new, stays."""
    import numpy as np  # noqa: PLC0415 - wanted by this one

    if not moves:
        return []
    found = np.linalg.lstsq(np.array(moves).T, np.array(wanted), rcond=1e-9)[0]
    return [float(x) for x in found]


@dataclass(frozen=True, slots=True)
class Turned:
    """A turn that was made, and what came of it.

    Args:
        amount: turned, not 0. [units of the knob]
        moved: the mean size after less before. [mm]
        error: standard error of that, over 0. [mm]
    """

    amount: float
    moved: float
    error: float


@dataclass(frozen=True, slots=True)
class Gain:
    """A gain as the turns show it.

    Args:
        likely: change of size per unit turned. [-]
        error: its standard error. [-]
    """

    likely: float
    error: float

    def speaks_against(self, believed: float, times: float = 3.0) -> bool:
        """Whether the turns contradict a gain: it may be the wrong knob, the wrong sign, or radius for diameter."""
        return abs(self.likely - believed) > times * self.error


def gain_seen(turns: Sequence[Turned]) -> Gain | None:
    """Return the gain that the turns show, weighed by how sure each is; None without turns.

    Args:
        turns: turns of one knob and what they did to one dimension.

    Source:
        Weighted least squares through the origin, textbook; held to numpy's.
    """
    weight = sum((t.amount / t.error) ** 2 for t in turns)
    if not weight:
        return None
    return Gain(sum(t.amount * t.moved / t.error**2 for t in turns) / weight, 1 / sqrt(weight))


def is_noise(shift: float, error: float, least: float) -> bool:
    """Return whether a shift is not to be dialled after: within its standard error, or under what the knob can set.

    Args:
        shift: estimated. [mm]
        error: its standard error. [mm]
        least: what the least increment does to the size. [mm]
    """
    return abs(shift) <= error or abs(shift) < least
