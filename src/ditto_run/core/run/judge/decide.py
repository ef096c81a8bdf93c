"""When to gauge next, what a reading means, what to dial now.

Decision: what would be lost by leaving it, by turning, by gauging more, by trying the gauge or looking at what holds is worked out in
minutes from what is believed of the process, and the cheapest is said. Bad pieces cost what they cost; how long a turn holds follows from
the drift, how long nothing has to be gauged from what can go wrong meanwhile.

Source: own derivation; the gauging interval under cost as in Taguchi's on-line control.
"""

from collections.abc import Collection, Iterator, Sequence
from typing import Any

import numpy as np

from ditto_run.core.run.judge.bank import JUMP_SD, WRONG_TURN, Array
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
from ditto_run.core.run.judge.outlook import BOOLE, LOOSE, NODES, looseness, outlook_of
from ditto_run.core.run.judge.places import Places
from ditto_run.core.run.judge.reasons import Ground, Reason
from ditto_run.core.run.judge.turning import WAITS, Turning

FOUND_LATER = 0.3  # share of the bad pieces that a later check finds
WRONG_GAUGE = 0.005  # chance that a change of size is the gauge's
WRONG_AT_ONCE = 0.1  # and more where it came at once
CLEAN = 2.0  # how much a gauge that was right speaks for it
RETRO = 1.5  # how many times its cost a reading of an older piece has to be worth
PULL_FAR, PULL_NEAR, FAR_Z = (
    0.5,
    0.1,
    1.5,
)  # how far an older reading speaks for its neighbours: far from what was believed, or near
NEAR = 0.3  # half tolerances from what was believed within which an older reading clears those behind it
MOST_OLDER, MOST_BACK = 4, 40  # pieces asked for at once in one place, and looked back
OLD_VAR = 0.02  # variance of what is believed of an older piece
UNSURE = 0.12  # chance that something happened from which on more is gauged
LOOSE_PRIOR = 0.012
SURE_LOOSE = 0.8
FEWEST_LOOSE = 4  # readings; two say nothing of scatter
MOST_SUSPECTS = 20


class Decider:
    """Remembers what it has worked out of a history; a fresh one, given the same history, says the same."""

    def __init__(self) -> None:
        self._belief: Belief | None = None
        self._upto = -1
        self._read = [0] * 5

    def decide(self, history: Past) -> Advice:
        """Return the one thing to do now.

        Args:
            history: what has been written down; it is read only. Sizes in mm, times in minutes. It may have `places`, piece → (load,
                station), where loads are short, stations are off, or one holds several pieces.
        """
        return self._question(history).answer()

    def intervals(self, history: Past) -> dict[tuple[int, str], int]:
        """Return for each station, from 1, and dimension how many pieces may be cut before it is worth a reading, each for itself.

        Args:
            history: what has been written down; it is read only.

        Source:
            The same weighing as of the next check, of one place and one dimension; own derivation.
        """
        return self._question(history).intervals()

    def _question(self, history: Past) -> "_Question":
        """Take in what is new, and return the moment that is asked about."""
        now = history.pieces_done
        if self._upto >= now:  # another run, or one taken back
            self._belief, self._upto, self._read = None, -1, [0] * 5
        frame = Frame(history.job, Places(history.job.stations, getattr(history, "places", None)))
        belief = self._belief or Belief.fresh(frame)
        belief.frame = frame
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
        return _Question(history, current, here)


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
        self.belief, self.here = belief, here
        self.frame, self.job, self.places = belief.frame, history.job, belief.frame.places
        self.now, self.left = history.pieces_done, history.job.pieces - history.pieces_done
        self.load = self.places.pieces(self.now)
        self.costs = history.job.costs
        self.bad = self.costs.escape - FOUND_LATER * (self.costs.escape - self.costs.scrap)
        self.names = [d.name for d in self.job.dimensions]
        self.view = outlook_of(belief, self.now)
        self.knobs = belief.knobs_at(self.now + 1)

    # what there is to say, the most pressing first

    def answer(self) -> Advice:
        """Return the advice."""
        for ask in (self._look_first, self._older, self._at_the_end, self._loose, self._unsure, self._dial):
            advice: Advice | None = ask()
            if advice is not None:
                return advice
        return self._leave()

    def _at_the_end(self) -> LeaveIt | None:
        return LeaveIt(self.now + 1, Reason(Ground.LAST_PIECE)) if self.left <= 0 else None

    def _unsure(self) -> GaugeThese | None:
        """Gauge more where something may have happened and few readings say so."""
        few = len(self.here.readings) < 3 * len(self.names)
        explained = self.belief.bank.explained
        if few and explained.max(initial=0.0) > UNSURE:
            stations = {self.places.station(reading.piece) for reading in self.here.readings}
            more = self._newest(3 * self.load + 2, stations)[:2]
            if more:
                name, chance = self.names[int(explained.argmax())], float(explained.max())
                return GaugeThese(self._with_names(more), Reason(Ground.MAY_HAVE_MOVED, name, chance=chance))
        return None

    def _dial(self) -> Advice | None:
        turn = Turning(self.job, self.frame, self.view, self.left, self.load, self.bad).best()
        if turn is None:
            return None
        knob, amount, worth = turn
        step = self._step(knob, amount)
        one, i = np.unravel_index(int(np.abs(step * self.view.off).argmax()), step.shape)
        name, half = self.names[i], self.frame.half[i]
        moved = self.knobs - self.belief.tried + step
        if not self.here.masters and self._gauge_in_doubt(step, moved):
            return TryGauge(Reason(Ground.GAUGE_IN_DOUBT, name, float(moved[one, i] * half)))
        more = self._more()
        if more:
            return GaugeThese(more, Reason(Ground.MOVED_OR_SCATTERED, name))
        off, slope = float(self.view.off[one, i] * half), float(self.view.slope[one, i] * half)
        moves = 10 * slope if abs(self.view.slope[one, i]) > self.view.slope_var[one, i] ** 0.5 else 0.0
        return TurnKnob(knob, amount, Reason(Ground.OFF_TARGET, name, off, moves, worth))

    def _step(self, knob: str, amount: float) -> Array:
        """Return what a turn does: station, dimension, [half tolerances]."""
        j = self.frame.knobs[knob]
        station = self.job.knobs[j].station
        step = np.zeros_like(self.view.off)
        step[slice(None) if station is None else station - 1] = self.frame.gain[j] * amount
        return step

    def _with_names(self, pieces: Sequence[int]) -> tuple[tuple[int, str], ...]:
        return tuple((q, name) for q in pieces for name in self.names)

    # gauging

    def _look_first(self) -> GaugeThese | None:
        """Gauge the newest load where it is asked after a load and nothing of it was measured."""
        if self.now == 0 or self.here.readings or self.here.events:
            return None
        pieces = range(self.places.newest(self.now), self.now + 1)
        piece = min(pieces, key=lambda one: (self.belief.last_seen[self.places.station(one)], one))
        return GaugeThese(self._with_names([piece]), Reason(Ground.DUE, piece=piece))

    def _older(self) -> GaugeThese | None:
        """Gauge pieces behind the newest measured ones that are likely enough to be bad."""
        wanted = [
            found
            for one in range(self.job.stations)
            for i in range(len(self.names))
            for found in self._behind(one, i)
        ]
        if not wanted:
            return None
        chance, piece, name = max(wanted)
        what = tuple((piece, name) for _, piece, name in wanted)
        return GaugeThese(what, Reason(Ground.CUT_WHILE_OFF, name, chance=chance, piece=piece))

    def _behind(self, one: int, i: int) -> list[tuple[float, int, str]]:
        """Return the pieces of a station worth measuring in one dimension, going back until one clears those behind it."""
        belief, view = self.belief, self.view
        worth = self.costs.gauge * RETRO / max(self.costs.escape - self.costs.scrap, 1e-9)
        near, knobs, far = view.off[one, i], self.knobs[one, i], FAR_Z * view.sd(self.frame.gauge)[i]
        found: list[tuple[float, int, str]] = []
        for count, piece in enumerate(self.places.back(one, self.now)):
            here = near - knobs + belief.knobs_at(piece)[one, i]
            seen = belief.measured.get((piece, i))
            if seen:
                value = float(np.mean(seen))
                apart = value - here
                near = near + (PULL_FAR if abs(apart) > far else PULL_NEAR) * apart
                if abs(apart) < NEAR or (count and self._out_one(i, value) < worth):
                    break
            else:
                chance = self._out_one(i, here)
                if chance <= worth:
                    break
                found.append((chance, piece, self.names[i]))
            if len(found) >= MOST_OLDER or count >= MOST_BACK:
                break
        return found

    def _out_one(self, i: int, off: float) -> float:
        all_off = np.zeros(len(self.names))
        all_off[i] = off
        return float(self.view.out(self.frame, all_off, np.full(len(self.names), OLD_VAR))[i])

    def _newest(self, back: int, stations: Collection[int]) -> list[int]:
        """The pieces nobody measured of the last so many, at some stations, newest first."""
        have = self.belief.measured
        pieces = range(self.now, max(self.now - back, 0), -1)
        return [q for q in pieces if (q, 0) not in have and self.places.station(q) in stations]

    def _more(self) -> tuple[tuple[int, str], ...]:
        """Readings of the newest pieces that are worth more than they cost before a turn."""
        view = self.view
        newest = self._newest(8, range(self.job.stations))
        if not newest:
            return ()
        scatter2 = view.sd(self.frame.gauge) ** 2
        horizon = float(min(self._interval(), self.left))
        centred = np.zeros_like(view.off)
        base = float(view.bad(self.frame, centred, view.var))
        best, count = 0.0, 0
        for k in range(1, min(3, len(newest)) + 1):
            less = 1 / (1 / np.maximum(view.var, 1e-9) + k / scatter2)
            gain = (base - float(view.bad(self.frame, centred, less))) * self.bad * horizon
            gain -= self.costs.gauge * k * len(self.names)
            if gain > best:
                best, count = gain, k
        return self._with_names(newest[:count])

    def _interval(self) -> int:
        """Pieces until the next check is due."""
        whole = np.ones(len(self.names))
        return self._waits(self.costs.gauge * len(self.names), self.view.pieces[:, None] * whole)

    def intervals(self) -> dict[tuple[int, str], int]:
        """Pieces until a check of each station and dimension is due, each for itself."""
        found = {}
        for one in range(self.job.stations):
            for i, name in enumerate(self.names):
                counts = np.zeros_like(self.view.off)
                counts[one, i] = self.view.pieces[one]
                found[one + 1, name] = self._waits(self.costs.gauge, counts)
        return found

    def _waits(self, check: float, counts: Array) -> int:
        """Pieces until a check that costs so many minutes is due, by what may be lost where it counts: station, dimension."""
        view, frame = self.view, self.frame

        def bad(off: Array, var: Array) -> Array:
            return np.asarray((view.out(frame, off, var) * counts).sum((-2, -1)))

        base = float(bad(view.off, view.var))
        jumped = float(bad(view.off, view.var + JUMP_SD**2))
        jump = self.belief.bank.hazard() * max(jumped - base, 0.0) * self.bad
        best, found = np.inf, self.load
        for loads in WAITS:
            n = loads * self.load
            if n > max(self.left, self.load):
                break
            t = n * NODES
            path = bad(view.off + view.slope * t[:, None, None], view.var_at(t))
            lost = float((BOOLE * path).sum()) * n - base * n
            cost = (check + max(lost, 0.0) * self.bad + jump * n * n / 2) / n
            if cost < best:
                best, found = cost, n
        return found

    # the gauge and what holds

    def _gauge_in_doubt(self, step: Array, moved: Array) -> bool:
        """Whether to try the gauge before this turn: what the knobs went since it was last tried may all be the gauge's error."""
        belief, view = self.belief, self.view
        after = view.off + step
        lost = view.bad(self.frame, after + moved, view.var) - view.bad(self.frame, after, view.var)
        chance = (WRONG_GAUGE + WRONG_AT_ONCE * belief.sudden) * (1 + 3 * belief.odd)
        chance = min(chance / (1 + CLEAN * belief.clean) ** 2, 1.0)
        return bool(chance * float(lost) * self.bad * self.left > self.costs.check_gauge)

    def _loose(self) -> StopAndLook | None:
        """Stop where one place scatters so much more that looking at it pays."""
        view, belief = self.view, self.belief
        if self.here.stops:
            return None
        more = (LOOSE**2 - 1) * (view.share * view.scatter**2).sum(1)
        wider = view.out(self.frame, view.off, view.var + more) - view.out(self.frame, view.off, view.var)
        for one in range(self.job.stations):
            if len(belief.z[one]) < FEWEST_LOOSE:
                continue
            gain = looseness(np.array(belief.z[one]))
            odds = LOOSE_PRIOR / (1 + 2 * belief.in_vain) * np.exp(min(gain.max(), 30.0))
            chance = float(odds / (1 + odds))
            saved = chance * float(wider[one].sum() * view.pieces[one]) * self.bad * self.left
            if chance > SURE_LOOSE and saved > 1.5 * self.costs.stop:
                back = min(3 * (int(np.argmax(gain)) + 1), MOST_SUSPECTS)
                suspects = tuple(
                    q for _, q in zip(range(back), self.places.back(one, self.now), strict=False)
                )
                return StopAndLook(
                    one + 1, suspects, Reason(Ground.MAY_BE_LOOSE, chance=chance, station=one + 1)
                )
        return None

    def _leave(self) -> LeaveIt:
        """Leave it, and say when to look again."""
        n, view = self._interval(), self.view
        base = float(view.bad(self.frame, view.off, view.var))
        recent = [turn for turn in self.belief.turned if turn[0] >= self.belief.checked]
        if recent:
            moved = self.knobs - self.belief.knobs_at(recent[0][0])
            wrong = float(view.bad(self.frame, view.off - 2 * moved, view.var))
            if WRONG_TURN * (wrong - base) * self.bad * (n - self.load) > self.costs.gauge * len(self.names):
                n = self.load
        return LeaveIt(self.now + n, Reason(Ground.NOTHING_PAYS, chance=min(base, 1.0)))
