"""All that is believed of a run after what has been written down, moment by moment.

The bank of models knows the process without the knobs; here the turns, changes that were written down, masters and stops are taken in.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from statistics import median

import numpy as np

from ditto_run.core.run.judge.bank import (
    JUMP_SD,
    PLAY,
    STRAY,
    STRAY_AGAIN,
    WRONG_TURN,
    Array,
    Bank,
    Happened,
    Look,
)
from ditto_run.core.run.judge.history import JudgedJob, PastEvent, PastMaster, PastReading, PastStop, PastTurn
from ditto_run.core.run.judge.places import Places

# what a change that is written down does: how much of what has built up it takes away, how unsure that is, and how far it sets it off
EFFECT = {"insert": (0.85, 0.35, 0.20), "bar": (0.0, 0.25, 0.15), "break": (0.5, 0.35, 0.20)}
OTHER_EFFECT = (0.3, 0.4, 0.25)
SEEN_SD = 0.2
EXPLAINED = 0.5  # from this chance on a reading says nothing of the scatter
SURE_JUMP = 0.5  # from this chance on an error of the gauge came at once
ALIKE = 0.5  # half tolerances within which two readings of one piece say the same
SETTLED = 3  # pieces measured since a change from which on it is learnt from
EVENT_JUMP = 0.1  # that a change did otherwise than was foretold
KEPT_Z = 24  # standardised readings kept for each place


@dataclass(frozen=True)
class Frame:
    """A job in numbers, deviations in half tolerances."""

    job: JudgedJob
    places: Places

    @cached_property
    def half(self) -> Array:
        """Half tolerance by dimension, [mm]."""
        return np.array([(d.upper - d.lower) / 2 for d in self.job.dimensions])

    @cached_property
    def target(self) -> Array:
        """Target by dimension, [mm]."""
        return np.array([d.target for d in self.job.dimensions])

    @cached_property
    def low(self) -> Array:
        """Lower limit from the target, [half tolerances]."""
        return np.array([d.lower for d in self.job.dimensions] - self.target) / self.half

    @cached_property
    def high(self) -> Array:
        """Upper limit from the target, [half tolerances]."""
        return np.array([d.upper for d in self.job.dimensions] - self.target) / self.half

    @cached_property
    def gauge(self) -> Array:
        """Scatter of one reading by the gauge alone, [half tolerances]."""
        own = [np.sqrt(d.repeatability**2 + d.resolution**2 / 12) for d in self.job.dimensions]
        return np.array(own) / self.half

    @cached_property
    def index(self) -> dict[str, int]:
        """Place of each dimension by its name."""
        return {d.name: i for i, d in enumerate(self.job.dimensions)}

    @cached_property
    def knobs(self) -> dict[str, int]:
        """Place of each knob by its name."""
        return {k.name: i for i, k in enumerate(self.job.knobs)}

    @cached_property
    def gain(self) -> Array:
        """Change of each dimension by one unit of each knob, [half tolerances]; knob, dimension."""
        return (
            np.array([[k.gains.get(d.name, 0.0) for d in self.job.dimensions] for k in self.job.knobs])
            / self.half
        )


@dataclass(slots=True)
class Moment:
    """What was written down when so many pieces had been cut."""

    readings: list[PastReading] = field(default_factory=list)
    turns: list[PastTurn] = field(default_factory=list)
    events: list[PastEvent] = field(default_factory=list)
    masters: list[PastMaster] = field(default_factory=list)
    stops: list[PastStop] = field(default_factory=list)


@dataclass(slots=True)
class Pending:
    """A change that was written down, until enough was measured since.

    Args:
        kind: of the event.
        built: what had built up before, by dimension. [half tolerances]
        level: before, by dimension. [half tolerances]
        at: pieces cut then.
        looks: pieces measured since.
    """

    kind: str
    built: Array
    level: Array
    at: int
    looks: int = 0


@dataclass(slots=True)
class Belief:
    """The bank and what is remembered beside it.

    Args:
        frame: the job.
        bank: the models.
        turned: turns: pieces cut before, knob, amount.
        z: standardised readings of each station and what scatter was believed then, newest last.
        anchor: level when the tool began, by dimension.
        pending: a change that was written down and not seen well enough yet.
        effects: what such changes did: kind, what had built up, how far it moved.
        tried: where the knobs stood when the gauge was last tried: station, dimension, [half tolerances].
        tried_at: pieces cut then.
        sudden: greatest chance of a jump since then.
        sudden_at: pieces cut when it was seen.
        clean: how often the gauge was tried and was right.
        odd: how often it was wrong.
        in_vain: stops that found nothing.
        measured: mean deviation of each piece measured, by (piece, dimension), at the knobs it was cut with.
        last_seen: when each station was last gauged.
    """

    frame: Frame
    bank: Bank
    turned: list[tuple[int, int, float]] = field(default_factory=list)
    z: list[list[tuple[float, float]]] = field(default_factory=list)
    anchor: Array = field(default_factory=lambda: np.zeros(0))
    pending: Pending | None = None
    effects: list[tuple[str, Array, Array]] = field(default_factory=list)
    tried: Array = field(default_factory=lambda: np.zeros((0, 0)))
    tried_at: int = 0
    sudden: float = 0.0
    sudden_at: int = 0
    clean: int = 0
    odd: int = 0
    in_vain: int = 0
    measured: dict[tuple[int, int], list[float]] = field(default_factory=dict)
    last_seen: list[int] = field(default_factory=list)
    checked: int = 0

    @classmethod
    def fresh(cls, frame: Frame) -> "Belief":
        """Return what is believed before anything was written down."""
        many = len(frame.job.dimensions)
        return cls(
            frame,
            Bank.fresh(many, frame.job.stations, frame.gauge),
            z=[[] for _ in range(frame.job.stations)],
            anchor=np.zeros(many),
            tried=np.zeros((frame.job.stations, many)),
            last_seen=[0] * frame.job.stations,
        )

    def copy(self) -> "Belief":
        """Return one that can be changed apart."""
        return Belief(
            self.frame,
            self.bank.copy(),
            [*self.turned],
            [[*mine] for mine in self.z],
            self.anchor.copy(),
            None if self.pending is None else replace(self.pending),
            [*self.effects],
            *(self.tried.copy(), self.tried_at, self.sudden, self.sudden_at),
            self.clean,
            self.odd,
            self.in_vain,
            dict(self.measured),
            [*self.last_seen],
            self.checked,
        )

    def knobs_at(self, piece: int) -> Array:
        """What the knobs did to a piece: station, dimension, [half tolerances]."""
        out = np.zeros((self.frame.job.stations, len(self.frame.half)))
        for after, knob, amount in self.turned:
            if after < piece:
                self._add(out, knob, amount)
        return out

    def _add(self, out: Array, knob: int, amount: float) -> None:
        station = self.frame.job.knobs[knob].station
        if station is None:
            out += self.frame.gain[knob] * amount
        else:
            out[station - 1] += self.frame.gain[knob] * amount

    def level(self) -> Array:
        """Level without the knobs by dimension, over all models."""
        return np.asarray((self.bank.weight * self.bank.x[:, 0]).sum(1))

    def scatter(self) -> float:
        """Scatter of a reading over all models and dimensions, [half tolerances]."""
        return float(np.sqrt((self.bank.weight * self.bank.scatter**2).sum(1).mean()))

    def take(self, at: int, moment: Moment) -> None:
        """Take in one moment."""
        self.bank.forward(at - self.bank.at)
        looks = self._looks(at, moment.readings)
        if looks:
            self._measured(at, looks)
        for master in moment.masters:
            self._tried(at, master)
        if moment.masters:
            self.tried, self.tried_at, self.sudden = self.knobs_at(at + 1), at, 0.0
        for stop in moment.stops:
            self._stopped(stop)
        for turn in moment.turns:
            self._turn(at, turn)
        for event in moment.events:
            self._event(at, event)

    def _measured(self, at: int, looks: Sequence[Look]) -> None:
        found, usual = self._far_off(looks), self.scatter()
        self.bank.look(looks, self._shifts(at))
        for station, z, i in found:
            if self.bank.explained[i] < EXPLAINED:
                self.z[station] = [*self.z[station], (z, usual)][-KEPT_Z:]
        self.checked = at
        if self.bank.jumped.max() > self.sudden:
            self.sudden, self.sudden_at = float(self.bank.jumped.max()), at
        for look in looks:
            self.last_seen[look.station] = max(self.last_seen[look.station], look.piece)
        self._learn_effect(at, len(looks))
        if not self.anchor.any():
            self.anchor = self.level()

    def _looks(self, at: int, readings: Sequence[PastReading]) -> list[Look]:
        """Readings of one moment, a piece each, without what the knobs did; those of long ago say nothing of now."""
        frame = self.frame
        found: dict[int, dict[int, list[float]]] = {}
        for reading in readings:
            i = frame.index[reading.dimension]
            value = (reading.value - frame.target[i]) / frame.half[i]
            self.measured[reading.piece, i] = [*self.measured.get((reading.piece, i), []), value]
            found.setdefault(reading.piece, {}).setdefault(i, []).append(value)
        looks, newest = [], frame.places.newest(at)
        for piece in sorted(found):
            ago = max(newest - piece, 0)
            if ago > 3 * max(frame.job.stations, 4) and piece <= self.last_seen[frame.places.station(piece)]:
                continue
            station = frame.places.station(piece)
            knobs = self.knobs_at(piece)[station]
            value, stray = np.full(len(frame.half), np.nan), np.full(len(frame.half), STRAY)
            for i, values in found[piece].items():
                if len(self.measured[piece, i]) == len(values):  # else it has been looked at before
                    value[i] = median(values) - knobs[i]
                    if len(values) > 1 and max(values) - min(values) < ALIKE:
                        stray[i] = STRAY_AGAIN
            looks.append(Look(piece, station, float(ago), value, stray if (stray < STRAY).any() else None))
        return looks

    def _far_off(self, looks: Sequence[Look]) -> list[tuple[int, float, int]]:
        """Return how far each look lies from what was foretold, in standard deviations: station, that, dimension."""
        found: list[tuple[int, float, int]] = []
        w = self.bank.weight
        for look in looks:
            guess, _, spread = self.bank.foretold(look)
            mean = (w * guess).sum(1)
            z = (look.value - mean) / np.sqrt((w * (spread + (guess - mean[:, None]) ** 2)).sum(1))
            found += [(look.station, float(one), i) for i, one in enumerate(z) if np.isfinite(one)]
        return found

    def _shifts(self, at: int) -> list[Happened]:
        """What may have happened since the last look."""
        frame, bank = self.frame, self.bank
        many = len(frame.half)
        since = max(at - self.checked, 1)
        jump = min(bank.hazard() * since, 0.3)
        if self.pending is not None:  # more than was foretold of it
            jump = max(jump, EVENT_JUMP)
        stations = frame.job.stations
        nothing = np.zeros(many)
        shifts = [Happened(jump * (0.6 if stations > 1 else 1.0), nothing, JUMP_SD**2)]
        if stations > 1:
            shifts += [Happened(0.4 * jump / stations, nothing, JUMP_SD**2, one) for one in range(stations)]
        for after, knob, amount in self.turned:
            if after >= self.checked:
                own = frame.job.knobs[knob].station
                wrong = -2 * frame.gain[knob] * amount
                shifts.append(
                    Happened(WRONG_TURN, wrong, 0.01, None if own is None else own - 1, is_jump=False)
                )
        return shifts[: stations + 4]

    def _learn_effect(self, at: int, looks: int) -> None:
        """Once enough was measured since it, what a change did is what the level moved beyond its slope."""
        if self.pending is None:
            return
        self.pending.looks += looks
        if self.pending.looks < SETTLED:
            return
        slope = (self.bank.weight * self.bank.x[:, 1]).sum(1)
        after = self.level() - slope * (at - self.pending.at)
        self.effects.append((self.pending.kind, self.pending.built, after - self.pending.level))
        self.anchor = after
        self.pending = None

    def _event(self, at: int, event: PastEvent) -> None:
        """A change that was written down: foretell what it does, from what earlier ones of its kind did."""
        share, unsure, off = EFFECT.get(event.kind, OTHER_EFFECT)
        level = self.level()
        built = self.anchor - level
        top, low = share / unsure**2, 1 / unsure**2
        rest = [off**2]
        for kind, was, moved in self.effects:
            if kind == event.kind:
                top += float((was * moved).sum()) / SEEN_SD**2
                low += float((was * was).sum()) / SEEN_SD**2
        found = top / low
        rest += [
            float(((moved - found * was) ** 2).mean())
            for kind, was, moved in self.effects
            if kind == event.kind
        ]
        bank = self.bank
        bank.x[:, 0] += (found * built)[:, None]
        bank.p[:, 0, 0] += float(np.mean(rest)) + (built**2)[:, None] / low
        if event.kind == "break":
            bank.p[:, 1, 1] += bank.way[:, 1] ** 2 * 0.5
        self.pending = Pending(event.kind, built, level, at)

    def _turn(self, at: int, turn: PastTurn) -> None:
        frame, bank = self.frame, self.bank
        knob = frame.knobs[turn.knob]
        self.turned.append((at, knob, turn.amount))
        play = (PLAY * frame.job.knobs[knob].increment * frame.gain[knob]) ** 2
        station = frame.job.knobs[knob].station
        column = 0 if station is None or bank.x.shape[1] == 2 else 1 + station  # noqa: PLR2004
        bank.p[:, column, column] += play[:, None]

    def _tried(self, at: int, master: PastMaster) -> None:
        """The gauge on its master: what it was wrong by is not the process, now or in what was measured since it was tried."""
        i = self.frame.index[master.dimension]
        error = master.error / self.frame.half[i]
        self.bank.x[i, 0] -= error
        self.bank.p[i, 0, 0] += (0.3 * error) ** 2
        self.anchor[i] -= error
        wrong = abs(error) > max(0.08, 2 * self.frame.gauge[i])
        self.odd += wrong
        self.clean += not wrong
        if wrong:
            at_once = self.sudden > SURE_JUMP
            for piece, dimension in self.measured:
                if dimension == i and piece > self.tried_at:
                    share = (
                        piece > self.sudden_at if at_once else (piece - self.tried_at) / (at - self.tried_at)
                    )
                    values = self.measured[piece, i]
                    self.measured[piece, i] = [value - error * share for value in values]

    def _stopped(self, stop: PastStop) -> None:
        stations = range(len(self.z)) if stop.station is None else [stop.station - 1]
        for one in stations:
            self.z[one].clear()
            if stop.found:
                column = 2 + one if self.bank.x.shape[1] > 2 else 0  # noqa: PLR2004
                self.bank.p[:, column, column] += 0.3**2
        self.in_vain += not stop.found
