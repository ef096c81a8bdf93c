"""Where the process stands and how it goes on, over all models of the bank."""

from dataclasses import dataclass

import numpy as np
from scipy.special import ndtr

from ditto_run.core.run.judge.bank import WAYS, Array
from ditto_run.core.run.judge.belief import Belief, Frame

HORIZON = 9.0  # pieces over which what is not known grows before it is looked at again
NODES = np.array((0.0, 0.25, 0.5, 0.75, 1.0))
BOOLE = np.array((7.0, 32.0, 12.0, 32.0, 7.0)) / 90  # Boole's rule
LOOSE = 2.0  # how much more a loose place scatters
MOST_APART = 2.5  # standard deviations one reading counts at most


@dataclass(frozen=True, slots=True)
class Outlook:
    """Where the process stands for the next piece, and how it goes on.

    Args:
        off: deviation of each station and dimension with the knobs as they stand. [half tolerances]
        slope: its change a piece.
        var, cross, slope_var: how unsure that is: of the level, of level and slope, of the slope.
        step: variance added a piece.
        scatter, share: scatters of the pieces themselves and their weights; dimension, scatter.
        pieces: share of the pieces that each station makes.
    """

    off: Array
    slope: Array
    var: Array
    cross: Array
    slope_var: Array
    step: Array
    scatter: Array
    share: Array
    pieces: Array

    def out(self, frame: Frame, off: Array, var: Array) -> Array:
        """Chance of a piece outside its limits, deviations and variances with dimensions last."""
        spread = np.sqrt(self.scatter**2 + var[..., None])
        above = ndtr((off[..., None] - frame.high[:, None]) / spread)
        below = ndtr((frame.low[:, None] - off[..., None]) / spread)
        return np.asarray(((above + below) * self.share).sum(-1))

    def bad(self, frame: Frame, off: Array, var: Array) -> Array:
        """Expected dimensions out of limits a piece, over the stations; stations and dimensions last."""
        return np.asarray((self.out(frame, off, var).sum(-1) * self.pieces).sum(-1))

    def var_at(self, ahead: Array) -> Array:
        """Variance so many pieces ahead; ahead first."""
        t = np.minimum(ahead, HORIZON)[:, None, None]
        return np.asarray(self.var + 2 * t * self.cross + t * t * self.slope_var + t * self.step)

    def sd(self, gauge: Array) -> Array:
        """Scatter of a reading by dimension, the gauge's own with it, [half tolerances]."""
        return np.asarray(np.sqrt((self.share * self.scatter**2).sum(1) + gauge**2))


def outlook_of(belief: Belief, now: int) -> Outlook:
    """Return where it stands when so many pieces have been cut."""
    bank, frame = belief.bank, belief.frame
    w, x, p = bank.weight, bank.x, bank.p
    stations = frame.job.stations
    slope = (w * x[:, 1]).sum(1)
    off = np.empty((stations, len(frame.half)))
    var, cross = np.empty_like(off), np.empty_like(off)
    knobs = belief.knobs_at(now + 1)
    for one in range(stations):
        mean, own, both = x[:, 0], p[:, 0, 0], p[:, 0, 1]
        if x.shape[1] > 2:  # noqa: PLR2004
            column = 2 + one
            mean = mean + x[:, column]
            own = own + p[:, column, column] + 2 * p[:, 0, column]
            both = both + p[:, 1, column]
        middle = (w * mean).sum(1)
        off[one] = middle + knobs[one]
        var[one] = (w * (own + (mean - middle[:, None]) ** 2)).sum(1)
        cross[one] = (w * (both + (mean - middle[:, None]) * (x[:, 1] - slope[:, None]))).sum(1)
    slope_var = (w * (p[:, 1, 1] + (x[:, 1] - slope[:, None]) ** 2)).sum(1)
    ways = len(WAYS)
    share = w.reshape(len(w), -1, ways).sum(2)
    scatter = bank.scatter.reshape(len(w), -1, ways)[:, :, 0]
    own_scatter = np.sqrt(np.maximum(scatter**2 - frame.gauge[:, None] ** 2, 0.5 * scatter**2))
    step = (w * bank.way[:, 0] ** 2).sum(1)
    return Outlook(
        *(off, np.broadcast_to(slope, off.shape), var, cross, np.broadcast_to(slope_var, off.shape)),
        *(np.broadcast_to(step, off.shape), own_scatter, share, frame.places.shares(now)),
    )


def looseness(seen: Array) -> Array:
    """Return how much better a place that has become loose explains its last 1, 2, … steps from reading to reading, log likelihood ratio.

    Args:
        seen: standardised readings and the scatter that was believed when each was taken, oldest first: shape (n, 2).

    A jump is apart from its neighbour once, a loose place again and again. Each step is held to the scatter that was believed before the
    place became loose, as what is believed since has learnt from it.
    """
    z, scatter = seen.T
    apart = np.diff(z) / np.sqrt(2)
    wider = np.maximum(scatter[1:][None, :] / scatter[:-1][:, None], 1.0)  # since when, step
    apart = np.minimum(np.abs(apart)[None, :] * wider, MOST_APART)
    each = 0.5 * apart * apart * (1 - 1 / LOOSE**2) - np.log(LOOSE)
    return np.asarray(np.triu(each).sum(1)[::-1])
