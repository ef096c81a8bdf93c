"""What is worth dialling: what is lost by leaving it against what is lost after a turn, in minutes.

Source: own derivation; bounded adjustment under the cost of a turn as in Taguchi's on-line control, the renewal argument for the length
between turns is textbook.
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from ditto_run.core.run.judge.bank import Array
from ditto_run.core.run.judge.belief import Frame
from ditto_run.core.run.judge.history import JudgedJob
from ditto_run.core.run.judge.outlook import BOOLE, NODES, Outlook

MARGIN = 0.6  # minutes a turn has to be worth beyond its cost where as much is doubt as is known
DOUBT = 3.0  # how quickly that margin falls with what is known
STEADY = 0.05  # half tolerances the drift moves to the end of the run: less is none
SEGMENTS = (1.0, 0.5, 0.333, 0.25, 0.167, 0.125, 0.083, 0.0625)  # of what is left, between turns
WAITS = (1, 2, 3, 5, 8, 13, 21, 34, 55, 89, 144)  # loads


@dataclass(frozen=True, slots=True)
class Turning:
    """Weighs turns.

    Args:
        job, frame, view: the job, in numbers, and where the process stands.
        left: pieces still to be cut.
        load: pieces in a load.
        bad: minutes a bad piece costs.
    """

    job: JudgedJob
    frame: Frame
    view: Outlook
    left: int
    load: int
    bad: float

    def best(self) -> tuple[str, float, float] | None:
        """Return the knob, the amount and the minutes it saves, if any saves enough."""
        best: tuple[str, float, float] | None = None
        for j, knob in enumerate(self.job.knobs):
            stations = [knob.station - 1] if knob.station is not None else list(range(self.job.stations))
            found = self._worth(j, stations, knob.increment)
            if found is not None and (best is None or found[1] > best[2]):
                best = (knob.name, found[0] * knob.increment, found[1])
        return best

    def _lost(self, off: Array, slope: Array, var: Array, length: float, stations: list[int]) -> float:
        """Minutes lost to bad pieces over a stretch, for some stations."""
        t = length * NODES
        path = (
            self.view.out(self.frame, off + slope * t[:, None, None], var).sum(2) @ self.view.pieces[stations]
        )
        return float((BOOLE * path).sum()) * length * self.bad

    def _worth(self, j: int, stations: list[int], increment: float) -> tuple[int, float] | None:
        """Steps of a knob that are best, and the minutes they save beyond the turn's own cost; None where it does not pay."""
        view, gain = self.view, self.frame.gain[j]
        if not gain.any() or not view.pieces[stations].any():
            return None
        off, slope, left = view.off[stations], view.slope[stations], float(self.left)
        steady = bool(np.abs(slope * left).max() < STEADY)  # then one turn holds to the end
        lengths = [left] if steady else sorted({max(left * share, float(self.load)) for share in SEGMENTS})
        options = [
            option
            for length in lengths
            for option in self._options(gain * increment, off, slope, length, stations)
        ]
        if not options:
            return None
        total, steps, length, lost = min(options)
        worth = self._waiting(off, slope, stations, length, lost) - total - self.job.costs.turn
        doubt = (view.var[stations] * gain**2).sum() / max(float((off * off * gain**2).sum()), 1e-9)
        return (steps, worth) if worth > MARGIN * min(1.0, DOUBT * doubt) else None

    def _options(
        self, step: Array, off: Array, slope: Array, length: float, stations: list[int]
    ) -> Iterator[tuple[float, int, float, float]]:
        """Give what a turn costs that is meant to hold so long: all that is left, steps, how long, until the next turn."""
        left, turn = float(self.left), self.job.costs.turn
        pieces = self.view.pieces[stations]
        wanted = -(step * (off + slope * length / 2)).sum(1) @ pieces / ((step * step).sum() * pieces.sum())
        var = self.view.var_at(length * NODES)[:, stations]
        for share in (1.0, 0.75):
            steps = round(wanted * share)
            if steps:
                lost = self._lost(off + step * steps, slope, var, length, stations)
                yield lost + (left / length - 1) * (lost + turn), steps, length, lost

    def _waiting(self, off: Array, slope: Array, stations: list[int], length: float, lost: float) -> float:
        """Return what is lost if it is turned later or never, at the best time for that."""
        left, turn = float(self.left), self.job.costs.turn
        rate = (lost + turn) / length
        best = self._lost(off, slope, self.view.var_at(left * NODES)[:, stations], left, stations)
        for loads in WAITS:
            t = float(loads * self.load)
            if t >= left:
                break
            after = lost * (left - t) / left if length >= left else rate * (left - t) - turn
            before = self._lost(off, slope, self.view.var_at(t * NODES)[:, stations], t, stations)
            best = min(best, before + turn + max(after, 0.0))
        return best
