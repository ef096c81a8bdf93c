"""What the readings say of a process: a bank of small state-space models, weighed by how well each foretold them.

Model: the deviation of a dimension from its target, in half tolerances, without what the knobs did, is a level with a slope, a place
for each station, and scatter. Nobody knows how much it scatters or wanders, so some thirty models stand side by side for each dimension:
each with its own scatter and its own way of moving (still, wandering, drifting, bending). Between two looks the level, or one place, may
have jumped, or a turn may have gone the wrong way; a single reading may be a stray. Estimate: a Kalman filter each; what may have happened
is weighed and drawn together after each look (generalised pseudo-Bayes of first order).

Source: Kalman filter and multiple models are textbook state-space filtering; the grid and its priors are common practice, no source.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np

Array = np.ndarray[Any, Any]

SCATTERS = np.array((0.10, 0.14, 0.19, 0.25, 0.33, 0.45))  # half tolerances
USUAL_SCATTER, SCATTER_SPREAD = 0.22, 0.35  # middle of its prior, and its spread in logarithms
# still, wandering a little, wandering, drifting, bending: step of the level a piece, slope, step of the slope
WAYS = np.array(
    (
        (0.002, 0.0002, 0.0),
        (0.02, 0.0002, 0.0),
        (0.05, 0.0002, 0.0),
        (0.003, 0.02, 0.0),
        (0.006, 0.04, 0.0012),
    )
)
WAYS_PRIOR = np.array((0.30, 0.15, 0.08, 0.30, 0.17))
LEVEL_SD, PLACE_SD = 0.30, 0.30
PLACE_STEP = 0.003  # a place wanders a piece
JUMP_SD = 0.8
STRAY, STRAY_SD = 0.01, 1.5
STRAY_AGAIN = 0.001  # where the same piece read the same twice
WRONG_TURN = 0.02
PLAY = 0.3  # of an increment: the hand
SURPRISE = 1.7  # standard deviations of one reading, more of the worst of many, from which on it is asked whether something jumped
JUMPS_SHAPE, JUMPS_PIECES = 0.5, 150.0  # jumps before any was seen: half a one in so many pieces


@dataclass(frozen=True, slots=True)
class Look:
    """One piece as it was measured.

    Args:
        piece: its number.
        station: from 0.
        ago: how many pieces ago it was cut.
        value: deviations by dimension, NaN unknown. [half tolerances]
        stray: chance that such a reading means nothing, by dimension; None the usual one.
    """

    piece: int
    station: int
    ago: float
    value: Array
    stray: Array | None = None


@dataclass(frozen=True, slots=True)
class Happened:
    """Something that may have happened since the last look: what it does to the state, and how likely it is."""

    chance: float
    level: Array  # shift by dimension
    level_var: float = 0.0
    station: int | None = None  # None: common
    is_jump: bool = True


@dataclass(slots=True)
class Bank:
    """The models' state.

    Args:
        x: level, slope, places; by dimension, state, model.
        p: their covariance; by dimension, state, state, model.
        log_weight: log of each model's weight, by dimension and model.
        at: pieces cut when it was brought up to date.
        jumps: expected number of jumps so far.
        jumped: chance of a jump at the last look, by dimension.
        explained: chance that something happened before the last look, a jump or a turn the wrong way, by dimension.
    """

    x: Array
    p: Array
    log_weight: Array
    scatter: Array
    way: Array
    at: float = 0.0
    jumps: float = 0.0
    jumped: Array = field(default_factory=lambda: np.zeros(0))
    explained: Array = field(default_factory=lambda: np.zeros(0))

    @classmethod
    def fresh(cls, dimensions: int, stations: int, gauge: Array) -> "Bank":
        """Return the bank before anything was measured; `gauge` is the gauge's own scatter by dimension, [half tolerances]."""
        scatter = np.tile(np.repeat(SCATTERS, len(WAYS)), (dimensions, 1))
        scatter = np.maximum(scatter, 1.05 * gauge[:, None])
        way = np.tile(WAYS, (len(SCATTERS), 1))
        models, size = scatter.shape[1], 2 + (stations if stations > 1 else 0)
        x, p = np.zeros((dimensions, size, models)), np.zeros((dimensions, size, size, models))
        p[:, 0, 0], p[:, 1, 1] = LEVEL_SD**2, way[:, 1] ** 2
        for one in range(2, size):
            p[:, one, one] = PLACE_SD**2
        prior = -0.5 * (np.log(np.repeat(SCATTERS, len(WAYS)) / USUAL_SCATTER) / SCATTER_SPREAD) ** 2
        log_weight = np.tile(prior + np.log(np.tile(WAYS_PRIOR, len(SCATTERS))), (dimensions, 1))
        return cls(
            x, p, log_weight, scatter, way, jumped=np.zeros(dimensions), explained=np.zeros(dimensions)
        )

    def copy(self) -> "Bank":
        """Return one that can be changed apart."""
        return Bank(
            *(self.x.copy(), self.p.copy(), self.log_weight.copy(), self.scatter, self.way),
            *(self.at, self.jumps, self.jumped.copy(), self.explained.copy()),
        )

    @property
    def weight(self) -> Array:
        """Weights of the models, by dimension; each row adds up to 1."""
        w = np.exp(self.log_weight - self.log_weight.max(1, keepdims=True))
        return np.asarray(w / w.sum(1, keepdims=True))

    def forward(self, pieces: float) -> None:
        """Let so many pieces be cut."""
        if pieces <= 0:
            return
        self.at += pieces
        x, p = self.x, self.p
        x[:, 0] += x[:, 1] * pieces
        p[:, 0, :] += pieces * p[:, 1, :]
        p[:, :, 0] += pieces * p[:, :, 1]
        p[:, 0, 0] += self.way[:, 0] ** 2 * pieces + self.way[:, 2] ** 2 * pieces**3 / 3
        both = self.way[:, 2] ** 2 * pieces**2 / 2
        p[:, 0, 1] += both
        p[:, 1, 0] += both
        p[:, 1, 1] += self.way[:, 2] ** 2 * pieces
        for one in range(2, x.shape[1]):
            p[:, one, one] += PLACE_STEP**2 * pieces

    def hazard(self) -> float:
        """Chance of a jump a piece."""
        return (JUMPS_SHAPE + self.jumps) / (JUMPS_PIECES + self.at)

    def look(self, looks: Sequence[Look], shifts: Sequence[Happened]) -> None:
        """Take in what was measured at one moment."""
        before = self.copy()
        fits, surprised = self.take(looks)
        self.jumped, self.explained = np.zeros(len(self.x)), np.zeros(len(self.x))
        many = sum(int((~np.isnan(look.value)).sum()) for look in looks)
        if surprised < np.sqrt(SURPRISE**2 + 2 * np.log(max(many, 1))) or not shifts:
            self.log_weight += fits
            return
        tried = [(1.0 - sum(shift.chance for shift in shifts), fits, self.x, self.p, False)]
        until = [(before, np.zeros_like(fits))]  # before each of the pieces, without a jump
        for one in looks:
            so_far, known = until[-1]
            after = so_far.copy()
            until.append((after, known + after.take([one])[0]))
        for shift in shifts:
            column = 0 if shift.station is None else 2 + shift.station
            for first, share in _between(looks, shift):
                so_far, still = until[first]
                other = so_far.copy()
                other.x[:, column] += shift.level[:, None]
                other.p[:, column, column] += shift.level_var
                mine, _ = other.take(looks[first:])
                tried.append((shift.chance * share, still + mine, other.x, other.p, shift.is_jump))
        self._draw_together(tried)

    def _draw_together(self, tried: list[tuple[float, Array, Array, Array, bool]]) -> None:
        """Weigh what may have happened and draw it together into one state a model."""
        logs = np.array([np.log(max(chance, 1e-9)) + fits for chance, fits, *_ in tried])
        top = logs.max(0)
        share = np.exp(logs - top)
        total = share.sum(0)
        share /= total
        x = sum(w[:, None] * one[2] for w, one in zip(share, tried, strict=True))
        p = np.zeros_like(self.p)
        for w, (_, _, mine, cover, _) in zip(share, tried, strict=True):
            off = mine - x
            p += w[:, None, None] * (cover + off[:, :, None] * off[:, None])
        self.x, self.p = np.asarray(x), p
        self.log_weight += top + np.log(total)
        jumps = sum(w for w, one in zip(share, tried, strict=True) if one[4])
        self.jumped = (self.weight * jumps).sum(1)
        self.explained = (self.weight * (1 - share[0])).sum(1)
        self.jumps += float(self.jumped.max())

    def take(self, looks: Sequence[Look]) -> tuple[Array, float]:
        """Update by the measured pieces; the log fit by dimension and model, and how surprising the worst was."""
        fits = np.zeros(self.log_weight.shape)
        best = self.log_weight.argmax(1)
        rows = np.arange(len(best))
        worst = 0.0
        for look in looks:
            known = ~np.isnan(look.value)[:, None]
            if not known.any():
                continue
            guess, ph, spread = self.foretold(look)
            off = np.where(known, look.value[:, None] - guess, 0.0)
            square = off * off / spread
            stray = STRAY if look.stray is None else look.stray[:, None]
            plain = np.log(1 - stray) - 0.5 * (square + np.log(spread))
            wild = spread + STRAY_SD**2
            both = np.logaddexp(plain, np.log(stray) - 0.5 * (off * off / wild + np.log(wild)))
            trust = np.exp(plain - both) * known
            fits += np.where(known, both, 0.0)
            gain = ph / spread[:, None]
            self.x += (trust * off)[:, None] * gain
            surer = trust * (
                spread - (1 - trust) * off * off
            )  # the doubt whether it is a stray makes less sure
            self.p -= (surer[:, None] * gain)[:, :, None] * gain[:, None]
            worst = max(worst, float(np.sqrt(square[rows, best].max())))
        return fits, worst

    def foretold(self, look: Look) -> tuple[Array, Array, Array]:
        """What each model foretells of a piece: its value, the covariance of that with the state, its variance."""
        x, p = self.x, self.p
        guess, ph = x[:, 0], p[:, :, 0]
        if look.ago:
            guess, ph = guess - look.ago * x[:, 1], ph - look.ago * p[:, :, 1]
        place: Array | float = 0.0
        if x.shape[1] > 2:  # noqa: PLR2004 - level and slope alone
            one = 2 + look.station
            guess = guess + x[:, one]
            ph = ph + p[:, :, one]
            place = ph[:, one]
        spread = ph[:, 0] - look.ago * ph[:, 1] + place + self.scatter**2 + self.way[:, 0] ** 2 * look.ago
        return guess, ph, spread


def _between(looks: Sequence[Look], shift: Happened) -> Iterable[tuple[int, float]]:
    """Before which of the pieces it may have happened, and with what share; a place's own shift matters before its own pieces alone."""
    if not shift.is_jump:
        return {0: 1.0}.items()
    found: dict[int, float] = {}
    for first in range(len(looks)):
        own = (i for i in range(first, len(looks)) if shift.station in {None, looks[i].station})
        at = next(own, len(looks))
        found[at] = found.get(at, 0.0) + 1 / len(looks)
    return found.items()
