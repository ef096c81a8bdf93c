"""When to gauge next, what a reading means, what to dial now.

Decision: what would be lost by leaving it, by turning, by gauging more, by trying the gauge or looking at what holds is worked out in
minutes from what is believed of the process, and the cheapest is said. Bad pieces cost what they cost; how long a turn holds follows from
the drift, how long nothing has to be gauged from what can go wrong meanwhile.

Source: own derivation; bounded adjustment and the gauging interval under cost as in Taguchi's on-line control, the renewal argument for
the length between turns is textbook.
"""

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from scipy.special import ndtr

from ditto_run.core.run.judge.bank import JUMP_SD, WAYS, WRONG_TURN, Array
from ditto_run.core.run.judge.belief import Belief, Frame, Moment
from ditto_run.core.run.judge.history import (
    Advice,
    GaugeThese,
    LeaveIt,
    Past,
    StopAndLook,
    TryGauge,
    TurnKnob,
)

FOUND_LATER = 0.3  # share of the bad pieces that a later check finds
MARGIN = 0.5  # minutes a turn has to be worth beyond its cost
NODES = np.array((0.0, 0.25, 0.5, 0.75, 1.0))
BOOLE = np.array((7.0, 32.0, 12.0, 32.0, 7.0)) / 90  # Boole's rule
STEADY = 0.05  # half tolerances the drift moves to the end of the run: less is none
SEGMENTS = (1.0, 0.5, 0.333, 0.25, 0.167, 0.125, 0.083, 0.0625)  # of what is left, between turns
WAITS = (1, 2, 3, 5, 8, 13, 21, 34, 55, 89, 144)  # loads
HORIZON = 9.0  # pieces over which what is not known grows before it is looked at again
TRY_MOVED = 0.9  # half tolerances the knobs may go before the gauge is tried
RETRO = 1.5  # how many times its cost a reading of an older piece has to be worth
UNSURE = 0.12  # chance that something happened from which on more is gauged
LOOSE = 2.0  # how much more a loose place scatters
LOOSE_PRIOR = 0.012
MOST_APART = 2.5  # standard deviations one reading counts at most
SURE_LOOSE = 0.6


@dataclass(frozen=True, slots=True)
class Outlook:
    """Where the process stands for the next piece, and how it goes on.

    Args:
        off: deviation of each station and dimension with the knobs as they stand. [half tolerances]
        slope: its change a piece.
        var, cross, slope_var: how unsure that is: of the level, of level and slope, of the slope.
        step: variance added a piece.
        scatter, share: scatters of the pieces themselves and their weights; dimension, scatter.
    """

    off: Array
    slope: Array
    var: Array
    cross: Array
    slope_var: Array
    step: Array
    scatter: Array
    share: Array

    def out(self, frame: Frame, off: Array, var: Array) -> Array:
        """Chance of a piece outside its limits, deviations and variances with dimensions last."""
        spread = np.sqrt(self.scatter**2 + var[..., None])
        above = ndtr((off[..., None] - frame.high[:, None]) / spread)
        below = ndtr((frame.low[:, None] - off[..., None]) / spread)
        return np.asarray(((above + below) * self.share).sum(-1))

    def var_at(self, ahead: Array) -> Array:
        """Variance so many pieces ahead; ahead first."""
        t = np.minimum(ahead, HORIZON)[:, None, None]
        return np.asarray(self.var + 2 * t * self.cross + t * t * self.slope_var + t * self.step)


class Decider:
    """Remembers what it has worked out of a history; a fresh one, given the same history, says the same."""

    def __init__(self) -> None:
        self._belief: Belief | None = None
        self._upto = -1
        self._read = [0] * 5

    def decide(self, history: Past) -> Advice:
        """Return the one thing to do now.

        Args:
            history: what has been written down; it is read only. Sizes in mm, times in minutes.
        """
        now = history.pieces_done
        if self._upto >= now:  # another run, or one taken back
            self._belief, self._upto, self._read = None, -1, [0] * 5
        belief = self._belief or Belief.fresh(Frame(history.job))
        here = Moment()
        for at, moment in _moments(history, self._read):
            if at < now:
                belief.take(at, moment)
                self._upto = at
                for i, part in enumerate(_parts(moment)):
                    self._read[i] += len(part)
            else:
                here = moment
        self._belief = belief
        current = belief.copy()
        current.take(now, here)
        return _Question(history, current, here).answer()


def decide(history: Past) -> Advice:
    """Return the one thing to do now; `Decider` is quicker where it is asked again and again.

    Args:
        history: what has been written down; it is read only. Sizes in mm, times in minutes.
    """
    return Decider().decide(history)


def _parts(moment: Moment) -> tuple[list[Any], ...]:
    return moment.readings, moment.turns, moment.events, moment.masters, moment.stops


def _moments(history: Past, read: list[int]) -> Iterator[tuple[int, Moment]]:
    """Give what was written down since it was last read, by the pieces cut when it was."""
    lists: tuple[Sequence[Any], ...] = (
        history.readings,
        history.turns,
        history.events,
        history.master_checks,
        history.stops,
    )
    found: dict[int, Moment] = {}
    for i, (everything, done) in enumerate(zip(lists, read, strict=True)):
        for one in everything[done:]:
            _parts(found.setdefault(one.after_piece, Moment()))[i].append(one)
    yield from sorted(found.items())


class _Question:
    """One moment at which it is asked."""

    def __init__(self, history: Past, belief: Belief, here: Moment) -> None:
        self.history, self.belief, self.here = history, belief, here
        self.frame, self.job = belief.frame, history.job
        self.now, self.left = history.pieces_done, history.job.pieces - history.pieces_done
        self.costs = history.job.costs
        self.bad = self.costs.escape - FOUND_LATER * (self.costs.escape - self.costs.scrap)
        self.names = [d.name for d in self.job.dimensions]
        self.view = self._outlook()
        self.newest = self.now - (self.now - 1) % self.job.stations if self.now else 0

    # what there is to say, the most pressing first

    def answer(self) -> Advice:
        """Return the advice."""
        for ask in (self._look_first, self._older, self._at_the_end, self._loose, self._unsure, self._dial):
            advice: Advice | None = ask()
            if advice is not None:
                return advice
        return self._leave()

    def _at_the_end(self) -> LeaveIt | None:
        return LeaveIt(self.now + 1, "The last piece is cut.") if self.left <= 0 else None

    def _unsure(self) -> GaugeThese | None:
        """Gauge more where something may have happened and few readings say so."""
        few = len(self.here.readings) < 3 * len(self.names)
        if few and self.belief.bank.explained.max(initial=0.0) > UNSURE:
            stations = {self.frame.station(reading.piece) for reading in self.here.readings}
            more = self._newest(3 * self.job.stations + 2, stations)[:2]
            if more:
                return GaugeThese(self._with_names(more), "It may have moved: one or two more say whether.")
        return None

    def _dial(self) -> Advice | None:
        turn = self._turn()
        if turn is None:
            return None
        knob, amount, worth = turn
        if self._gauge_in_doubt():
            return TryGauge(
                "The size moved: try the gauge on its master before the size is dialled after it."
            )
        more = self._more()
        if more:
            return GaugeThese(more, "One more piece says whether it moved or only scattered.")
        return TurnKnob(knob, amount, f"Turned now it saves about {worth:.0f} min.")

    def _outlook(self) -> Outlook:
        bank, frame = self.belief.bank, self.frame
        w, x, p = bank.weight, bank.x, bank.p
        stations = frame.job.stations
        slope = (w * x[..., 1]).sum(1)
        off = np.empty((stations, len(frame.half)))
        var, cross = np.empty_like(off), np.empty_like(off)
        knobs = self.belief.knobs_at(self.now + 1)
        for one in range(stations):
            mean, own, both = x[..., 0], p[..., 0, 0], p[..., 0, 1]
            if x.shape[-1] > 2:  # noqa: PLR2004
                column = 2 + one
                mean = mean + x[..., column]
                own = own + p[..., column, column] + 2 * p[..., 0, column]
                both = both + p[..., 1, column]
            middle = (w * mean).sum(1)
            off[one] = middle + knobs[one]
            var[one] = (w * (own + (mean - middle[:, None]) ** 2)).sum(1)
            cross[one] = (w * (both + (mean - middle[:, None]) * (x[..., 1] - slope[:, None]))).sum(1)
        slope_var = (w * (p[..., 1, 1] + (x[..., 1] - slope[:, None]) ** 2)).sum(1)
        ways = len(WAYS)
        share = w.reshape(len(w), -1, ways).sum(2)
        scatter = bank.scatter.reshape(len(w), -1, ways)[:, :, 0]
        own_scatter = np.sqrt(np.maximum(scatter**2 - frame.gauge[:, None] ** 2, 0.5 * scatter**2))
        step = (w * bank.way[:, 0] ** 2).sum(1)
        return Outlook(
            *(off, np.broadcast_to(slope, off.shape), var, cross, np.broadcast_to(slope_var, off.shape)),
            *(np.broadcast_to(step, off.shape), own_scatter, share),
        )

    # gauging

    def _look_first(self) -> GaugeThese | None:
        """Gauge the newest load where it is asked after a load and nothing of it was measured."""
        if self.now == 0 or self.here.readings or self.here.events:
            return None
        pieces = range(self.newest, self.now + 1)
        piece = min(pieces, key=lambda one: (self.belief.last_seen[self.frame.station(one)], one))
        return GaugeThese(self._with_names([piece]), "It is due.")

    def _older(self) -> GaugeThese | None:
        """Gauge pieces behind the newest measured ones that are likely enough to be bad."""
        worth = self.costs.gauge * RETRO / max(self.costs.escape - self.costs.scrap, 1e-9)
        belief, view = self.belief, self.view
        wanted = []
        for one in range(self.job.stations):
            for i, name in enumerate(self.names):
                near = view.off[one, i]
                piece = self.now - (self.now - 1 - one) % self.job.stations
                knobs = belief.knobs_at(self.now + 1)[one, i]
                count = 0
                while piece >= 1 and count < 40:  # noqa: PLR2004 - farther back others were looked at
                    count += 1
                    here = near - knobs + belief.knobs_at(piece)[one, i]
                    seen = belief.measured.get((piece, i))
                    if seen:
                        value = float(np.mean(seen))
                        near = near + 0.6 * (value - here)
                        if abs(value - here) < 0.3 or count > 1 and self._out_one(i, value) < worth:  # noqa: PLR2004, RUF021
                            break
                    elif self._out_one(i, here) > worth:
                        wanted.append((piece, name))
                        if len(wanted) >= 4:  # noqa: PLR2004
                            break
                    else:
                        break
                    piece -= self.job.stations
        return GaugeThese(tuple(wanted), "These were cut while it was off.") if wanted else None

    def _out_one(self, i: int, off: float) -> float:
        view = self.view
        var = np.full(len(self.names), 0.02)
        all_off = np.zeros(len(self.names))
        all_off[i] = off
        return float(view.out(self.frame, all_off, var)[i])

    def _newest(self, back: int, stations: Collection[int]) -> list[int]:
        """The pieces nobody measured of the last so many, at some stations, newest first."""
        have, frame = self.belief.measured, self.frame
        pieces = range(self.now, max(self.now - back, 0), -1)
        return [q for q in pieces if (q, 0) not in have and frame.station(q) in stations]

    def _with_names(self, pieces: Sequence[int]) -> tuple[tuple[int, str], ...]:
        return tuple((q, name) for q in pieces for name in self.names)

    def _more(self) -> tuple[tuple[int, str], ...]:
        """Readings of the newest pieces that are worth more than they cost before a turn."""
        view = self.view
        newest = self._newest(8, range(self.job.stations))
        if not newest:
            return ()
        scatter2 = (view.share * view.scatter**2).sum(1) + self.frame.gauge**2
        horizon = float(min(self._interval(), self.left))
        centred = np.zeros_like(view.off)
        base = view.out(self.frame, centred, view.var).sum() / self.job.stations
        best, count = 0.0, 0
        for k in range(1, min(3, len(newest)) + 1):
            less = 1 / (1 / np.maximum(view.var, 1e-9) + k / scatter2)
            gain = (base - view.out(self.frame, centred, less).sum() / self.job.stations) * self.bad * horizon
            gain -= self.costs.gauge * k * len(self.names)
            if gain > best:
                best, count = gain, k
        return self._with_names(newest[:count])

    def _interval(self) -> int:
        """Pieces until the next check is due."""
        view, stations = self.view, self.job.stations
        check = self.costs.gauge * len(self.names)
        base = view.out(self.frame, view.off, view.var).sum() / stations
        jumped = view.out(self.frame, view.off, view.var + JUMP_SD**2).sum() / stations
        jump = self.belief.bank.hazard() * max(jumped - base, 0.0) * self.bad
        best, found = np.inf, stations
        for loads in WAITS:
            n = loads * stations
            if n > max(self.left, stations):
                break
            t = n * NODES
            path = (
                view.out(self.frame, view.off + view.slope * t[:, None, None], self.view.var_at(t)).sum(
                    (1, 2)
                )
                / stations
            )
            lost = float((BOOLE * path).sum()) * n - base * n
            cost = (check + max(lost, 0.0) * self.bad + jump * n * n / 2) / n
            if cost < best:
                best, found = cost, n
        return found

    # turning

    def _turn(self) -> tuple[str, float, float] | None:
        """The knob and amount that save most, if any saves enough."""
        best: tuple[str, float, float] | None = None
        for j, knob in enumerate(self.job.knobs):
            stations = [knob.station - 1] if knob.station is not None else list(range(self.job.stations))
            found = self._worth(j, stations, knob.increment)
            if found is not None and (best is None or found[1] > best[2]):
                best = (knob.name, found[0] * knob.increment, found[1])
        return best

    def _lost(self, off: Array, slope: Array, var: Array, length: float) -> float:
        """Minutes lost to bad pieces over a stretch, for some stations."""
        t = length * NODES
        path = self.view.out(self.frame, off + slope * t[:, None, None], var).sum((1, 2))
        return float((BOOLE * path).sum()) * length * self.bad / self.job.stations

    def _worth(self, j: int, stations: list[int], increment: float) -> tuple[int, float] | None:
        """Steps of a knob that are best, and the minutes they save beyond the turn's own cost; None where it does not pay."""
        view, gain = self.view, self.frame.gain[j]
        if not gain.any():
            return None
        off, slope, left = view.off[stations], view.slope[stations], float(self.left)
        steady = bool(np.abs(slope * left).max() < STEADY)  # then one turn holds to the end
        lengths = (
            [left] if steady else sorted({max(left * share, float(self.job.stations)) for share in SEGMENTS})
        )
        options = [
            option
            for length in lengths
            for option in self._options(gain * increment, off, slope, length, stations)
        ]
        if not options:
            return None
        total, steps, length, lost = min(options)
        worth = self._waiting(off, slope, stations, length, lost) - total - self.costs.turn
        return (steps, worth) if worth > MARGIN else None

    def _options(
        self, step: Array, off: Array, slope: Array, length: float, stations: list[int]
    ) -> Iterator[tuple[float, int, float, float]]:
        """Give what a turn costs that is meant to hold so long: all that is left, steps, how long, until the next turn."""
        left, turn = float(self.left), self.costs.turn
        wanted = -(step * (off + slope * length / 2)).sum() / ((step * step).sum() * len(stations))
        var = self.view.var_at(length * NODES)[:, stations]
        for share in (1.0, 0.75):
            steps = round(wanted * share)
            if steps:
                lost = self._lost(off + step * steps, slope, var, length)
                yield lost + (left / length - 1) * (lost + turn), steps, length, lost

    def _waiting(self, off: Array, slope: Array, stations: list[int], length: float, lost: float) -> float:
        """Return what is lost if it is turned later or never, at the best time for that."""
        left, turn = float(self.left), self.costs.turn
        rate = (lost + turn) / length
        best = self._lost(off, slope, self.view.var_at(left * NODES)[:, stations], left)
        for loads in WAITS:
            t = float(loads * self.job.stations)
            if t >= left:
                break
            after = lost * (left - t) / left if length >= left else rate * (left - t) - turn
            before = self._lost(off, slope, self.view.var_at(t * NODES)[:, stations], t)
            best = min(best, before + turn + max(after, 0.0))
        return best

    # the gauge and what holds

    def _gauge_in_doubt(self) -> bool:
        """Whether to try the gauge before the size is dialled after it."""
        belief = self.belief
        if self.here.masters:
            return False
        jumped = belief.bank.jumped
        sudden = bool(jumped.size and jumped.max() > 0.6 and belief.clean < 1 + 2 * belief.odd)  # noqa: PLR2004
        far = bool(belief.moved.max() > TRY_MOVED * (1 + 1.5 * belief.clean) / (1 + 2 * belief.odd))
        return sudden or far

    def _loose(self) -> StopAndLook | None:
        """Stop where one place scatters so much more that looking at it pays."""
        view, belief = self.view, self.belief
        if self.here.stops:
            return None
        wide = view.out(
            self.frame, view.off, view.var + (LOOSE**2 - 1) * (view.share * view.scatter**2).sum(1)
        )
        calm = view.out(self.frame, view.off, view.var)
        for one in range(self.job.stations):
            z = np.array(belief.z[one])
            if len(z) < 4:  # noqa: PLR2004 - two say nothing of scatter
                continue
            # a jump is apart from its neighbour once, a loose place again and again
            apart = np.diff(z) / np.sqrt(2)
            apart = np.sign(apart) * np.minimum(np.abs(apart), MOST_APART)
            gain = np.cumsum((0.5 * apart * apart * (1 - 1 / LOOSE**2) - np.log(LOOSE))[::-1])
            odds = LOOSE_PRIOR / (1 + 2 * belief.in_vain) * np.exp(min(gain.max(), 30.0))
            chance = odds / (1 + odds)
            saved = chance * (wide[one] - calm[one]).sum() * self.bad * self.left / self.job.stations
            if chance > SURE_LOOSE and saved > 1.5 * self.costs.stop:
                back = int(np.argmax(gain)) + 1
                suspects = [q for q in range(self.now, 0, -1) if self.frame.station(q) == one][
                    : min(3 * back, 20)
                ]
                return StopAndLook(
                    one + 1, tuple(suspects), f"Station {one + 1} scatters more than the others do."
                )
        return None

    def _leave(self) -> LeaveIt:
        """Leave it, and say when to look again."""
        n = self._interval()
        stations = self.job.stations
        recent = [turn for turn in self.belief.turned if turn[0] >= self.belief.checked]
        if recent:
            moved = self.belief.knobs_at(self.now + 1) - self.belief.knobs_at(recent[0][0])
            wrong = self.view.out(self.frame, self.view.off - 2 * moved, self.view.var)
            extra = (
                (wrong - self.view.out(self.frame, self.view.off, self.view.var)).sum() / stations * self.bad
            )
            if WRONG_TURN * extra * (n - stations) > self.costs.gauge * len(self.names):
                n = stations
        return LeaveIt(self.now + n, "It holds.")
