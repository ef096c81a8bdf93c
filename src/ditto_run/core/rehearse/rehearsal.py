"""A planned batch played through by the log alone: cut, gauged, judged and followed as the run itself would be.

Every line is decided by the same core as at the machine, so what is played back is a run.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from decimal import Decimal

from ditto_run.core.errors import DittoError, NotNow
from ditto_run.core.plan import Plan
from ditto_run.core.rehearse.process import Happening, Process, effect_mm, size_text
from ditto_run.core.run import Command, Event, Now, decide, extend, fold, start_run
from ditto_run.core.run import events as do
from ditto_run.core.run.advised import Advised, Mind
from ditto_run.core.run.costs import costs_of
from ditto_run.core.run.due import due_pieces, due_sizes
from ditto_run.core.run.judged import DimensionJudged, Keeper, KnobHere, judged_in
from ditto_run.core.run.loads import loads_to_go, next_load
from ditto_run.core.run.state import RunState
from ditto_run.core.shop import Gauge, Machine
from ditto_run.core.shop.costs import NO_COSTS, ShopCosts
from ditto_run.core.shop.day import ShopDay
from ditto_run.core.units import to_base

MOST_LOADS = 150  # that are played
MOST_ANSWERS = 30  # advices followed between two loads
CYCLE_S, HANDS_S = 120.0, 60.0  # where the plan has no times; made up
READING_S, TURN_S, MASTER_S, LOOK_S = 20.0, 60.0, 120.0, 600.0  # common practice, no source
PRESSING = ("recheck", "hold", "stop", "check_gauge", "gauge", "turn", "leave")
WHO = "REH"


@dataclass(frozen=True, slots=True)
class SaidAt:
    """What was advised at a line of the log: the sentence, and why."""

    seq: int
    kind: str
    say: str
    why: str


@dataclass(frozen=True, slots=True)
class PlayedBatch:
    """A batch that was played.

    Args:
        log: its lines.
        said: what was advised, each once.
        happens: what really went wrong; None where nothing does.
        bad: pieces out of limits in truth.
        shipped: of those, not found.
        scrap: pieces marked scrap.
        readings, turns, looks: how many.
        cut: pieces cut.
        whole: False where it was played only in part.
        took_s: from the first line to the last. [s]
    """

    log: tuple[Event, ...]
    said: tuple[SaidAt, ...]
    happens: Happening | None
    bad: int
    shipped: int
    scrap: int
    readings: int
    turns: int
    looks: int
    cut: int
    whole: bool
    took_s: float


@dataclass(frozen=True, slots=True)
class PlayedOn:
    """What a rehearsal is played on.

    Args:
        make: gives the process, of the dimensions by number, the stations and the loads there will be.
        machine: it is cut on; None while nobody said it.
        gauges: of the register, by number.
        day: when the shop works.
        follows: False plays it as many do: by the plan's readings, dialled only when a piece is out, by all that it is off.
        costs: what things cost in the shop.
    """

    make: Callable[[Mapping[int, DimensionJudged], Sequence[str], int], Process]
    machine: Machine | None = None
    gauges: Mapping[int, Gauge] = field(default_factory=dict)
    day: ShopDay = field(default_factory=ShopDay)
    follows: bool = True
    costs: ShopCosts = NO_COSTS


def rehearse(plan: Plan, cycle: int, at: datetime, on: PlayedOn) -> PlayedBatch:
    """Return a batch played through in one cycle.

    Args:
        plan: as it stands.
        cycle: key of the cycle; one whose pieces need no other before it.
        at: when it begins.
        on: what it is played on.

    Raises:
        NotNow: if the plan lacks what a run cannot do without, or pieces come from another setup.
    """
    return PlayingHand(plan, cycle, at, on).play()


@dataclass(slots=True)
class PlayingHand:
    """The hand that cuts, gauges and does what it is told; see `rehearse`."""

    plan: Plan
    cycle: int
    at: datetime
    on: PlayedOn
    log: list[Event] = field(default_factory=list)
    said: list[SaidAt] = field(default_factory=list)
    times: dict[tuple[int, int], int] = field(default_factory=dict)
    truth: dict[tuple[int, int], float] = field(default_factory=dict)
    turns: list[tuple[str, str, float]] = field(default_factory=list)
    looks: int = 0
    outs: list[int] = field(default_factory=list)
    state: RunState = field(init=False)
    process: Process = field(init=False)
    knobs: dict[int, tuple[KnobHere, ...]] = field(init=False)
    names: dict[int, str] = field(init=False)

    def play(self) -> PlayedBatch:
        """Play it to its end, or as far as it is played."""
        began = self.at
        self.begin()
        minds = {setup: Mind(setup) for setup in self.state.here.setups}
        whole, loads = True, 0
        while next_load(self.state):
            if loads >= MOST_LOADS:
                whole = False
                break
            loads += 1
            self.cut_and_gauge()
            if self.on.follows:
                self._follow(minds)
            self._settle()
            if not self.on.follows:
                self._dial_back()
        return self.sum_up(whole=whole, began=began)

    def begin(self) -> None:
        """Write the first line, and make the process ready."""
        self.log = [Event(1, self.at, WHO, "r1", start_run(self.plan, 1))]
        self.state = fold(self.log, {1: self.plan})
        if self.state.cycle != self.cycle:
            self._do(do.OpenSetup(self.cycle), 0)
        if not next_load(self.state):
            name = self.plan.cycle(self.cycle).name
            raise NotNow(f"No piece is there for {name} yet.", "Rehearse the setup before it.")
        dims, self.knobs, self.names = {}, {}, {}
        for setup in self.state.here.setups:
            history = Keeper(setup).history(self.state, self.on.machine, self.on.gauges)
            if history is None:
                continue
            for one in history.job.dimensions:
                number = history.of[one.name].number
                dims[number], self.names[number], self.knobs[number] = one, one.name, history.job.knobs
        if not dims:
            raise NotNow(
                "No length with two limits is gauged here.",
                "Say one on Part, with its limits, and its setup.",
            )
        loads = max(int(loads_to_go(self.state)), 1)
        self.process = self.on.make(dims, tuple(self.state.here.composition), loads)

    def cut_and_gauge(self) -> None:
        """Cut a load, gauge what the plan asks for, and decide on what is out."""
        self._cut()
        for _ in range(MOST_ANSWERS):
            if not self._gauge_due() and not self._settle():
                break

    def _do(self, command: Command, seconds: float) -> None:
        self.at = self.on.day.after(self.at, seconds)
        body = decide(command, self.state, Now(self.at, WHO))
        self.log.append(Event(len(self.log) + 1, self.at, WHO, f"r{len(self.log) + 1}", body))
        self.state = extend(self.state, self.log[-1:], self.log)

    def _cut(self) -> None:
        times = self.plan.times(self.cycle, max(sum(self.state.here.composition.values()), 1))
        cycle_s = times.cycle_s or CYCLE_S
        self._do(do.StartCycle(), max(times.load_to_load_s - times.cycle_s, 0.0) or HANDS_S)
        load = self.state.running
        if load is None:  # it was just begun
            return
        for one in load.stations:
            for piece in one.pieces:
                for c in judged_in(self.state, load.setup_of(one)):
                    effect = effect_mm(self.knobs[c.number], self.names[c.number], self.turns, one.station)
                    self.truth[piece, c.number] = self.process.size_mm(
                        load.number, one.station, piece, c.number, effect
                    )
        self._do(do.EndCycle(confirm=str(load.number)), cycle_s)

    def _gauge_due(self) -> bool:
        """Gauge what is asked for; accept the first piece. Returns whether something was done."""
        did = False
        for number in due_pieces(self.state):
            for c in due_sizes(self.state, self.state.pieces[number]):
                self._read(number, c.number)
                did = True
        for setup in self.state.here.setups:
            if setup not in self.state.here.masters:
                did = self._accept(setup) or did
        return did

    def _accept(self, setup: int) -> bool:
        for number in self.state.here.loads[-1].pieces:
            piece = self.state.pieces[number]
            fit = setup in piece.made and piece.standing in {"good", "not gauged"} and not piece.out
            if fit and not any(c.grade == "critical" for c in self.state.missing(piece)):
                self._do(do.AcceptMaster(number), READING_S)
                return True
        return False

    def _read(self, piece: int, number: int) -> None:
        found = self.state.plan.characteristic(number)
        if (piece, number) not in self.truth:
            self._do(do.TakeGo(piece, number, go=True), READING_S)
            return
        time = self.times[piece, number] = self.times.get((piece, number), -1) + 1
        load = self.state.here.loads[-1].number
        value = self.process.read_mm(self.truth[piece, number], load, piece, number, time)
        text = size_text(value, found.size.unit, 4 if found.size.unit == "in" else 3)
        self._do(do.TakeReading(piece, number, text, confirm=text), READING_S)

    def _settle(self) -> bool:
        """Decide on what is out, so that the next load may be cut: measured once more, then scrapped or taken back."""
        for piece in list(self.state.pieces.values()):
            if piece.standing != "held" or not piece.out:
                continue
            out = piece.out[0]
            if self.times.get((piece.number, out.characteristic), 0) < 1:
                self._read(piece.number, out.characteristic)
            else:
                self._do(do.Dispose(piece.number, "scrap", "out of limits"), READING_S)
                self.outs.append(out.characteristic)
            return True
        return False

    def _follow(self, minds: Mapping[int, Mind]) -> None:
        for _ in range(MOST_ANSWERS):
            found = [
                one
                for mind in minds.values()
                if (one := mind.advise(self.state, self.on.machine, self.on.gauges, self.on.costs))
            ]
            if not found:
                return
            one = min(found, key=lambda said: PRESSING.index(said.kind))
            self.said.append(SaidAt(len(self.log), one.kind, one.say, one.why))
            if one.kind == "leave":
                return
            try:
                self.obey(one)
            except DittoError:  # what cannot be done now is passed by
                return
            self.settle_all()

    def settle_all(self) -> None:
        """Decide on all that is out."""
        while self._settle():
            pass

    def _dial_back(self) -> None:
        """What many do: dial only when a piece is out, and then by all that the last one was off."""
        for number in dict.fromkeys(self.outs):
            knob = next(
                (k for k in self.knobs[number] if k.station is None and k.gains.get(self.names[number])), None
            )
            read = (one for one in reversed(self.state.gaugings.values()) if one.characteristic == number)
            last = next((one.value for one in read if one.value is not None), None)
            if knob is None or last is None:
                continue
            low, high = self._limits(number)
            shows = float(to_base(last, self.plan.characteristic(number).size.unit))
            steps = round(((low + high) / 2 - shows) / knob.gains[self.names[number]] / knob.increment)
            if steps:
                amount = steps * knob.increment
                self._do(do.Adjust(knob.what, f"{amount:.6f}"), TURN_S)
                self.turns.append((knob.what, "", amount))
        self.outs.clear()

    def obey(self, one: Advised) -> None:
        """Do what is advised."""
        if one.kind == "turn":
            self._do(do.Adjust(one.what, one.amount, one.unit, one.station, advised=True), TURN_S)
            amount = float(to_base(Decimal(one.amount), one.unit))
            self.turns.append((one.what, one.station, amount))
        elif one.kind == "check_gauge":
            error = self.process.set_right(one.characteristic, self.state.here.loads[-1].number)
            self._do(do.TryMaster(one.characteristic, f"{error:.6f}" if error else ""), MASTER_S)
        elif one.kind == "stop":
            self.looks += 1
            loose = self.process.look(self.state.here.loads[-1].number + 1, one.station)
            self._do(do.LookAtHold(one.station, loose), LOOK_S)
        elif one.kind == "hold":
            pieces = ",".join(str(piece) for piece, _ in one.gauge)
            self._do(do.HoldPieces(pieces, one.say), READING_S)
        if one.kind != "hold":
            for piece, number in one.gauge:
                self._read(piece, number)

    def sum_up(self, *, whole: bool, began: datetime) -> PlayedBatch:
        """Return what it came to."""
        state = self.state
        bad = {
            piece
            for (piece, number), size in self.truth.items()
            if not self._limits(number)[0] <= size <= self._limits(number)[1]
        }
        gone = {piece.number for piece in state.pieces.values() if piece.standing in {"scrap", "held"}}
        bodies = [event.body for event in self.log]
        return PlayedBatch(
            tuple(self.log),
            tuple(self.said),
            None if self.process.happens.fault == "none" else self.process.happens,
            len(bad),
            len(bad - gone),
            len(gone),
            sum(isinstance(body, do.Reading) for body in bodies),
            sum(isinstance(body, do.Adjustment) for body in bodies),
            self.looks,
            len(state.pieces),
            whole,
            (self.at - began).total_seconds(),
        )

    def _limits(self, number: int) -> tuple[float, float]:
        size = self.plan.characteristic(number).size
        low, high = (float(to_base(side, size.unit)) for side in (size.lower, size.upper) if side is not None)
        return low, high


def costs_min(plan: Plan, cycle: int, one: PlayedBatch, shop: ShopCosts = NO_COSTS) -> float:
    """Return what scrap, bad pieces not found, readings, turns and looks of a batch cost together, [min].

    Args:
        plan: that was played.
        cycle: in which.
        one: how it came out.
        shop: what things cost in it.

    Source:
        `costs.costs_of`.
    """
    costs = costs_of(plan, plan.cycle(cycle).setups[-1], None, shop)
    return (
        costs.scrap * one.scrap
        + costs.escape * one.shipped
        + costs.gauge * one.readings
        + costs.turn * one.turns
        + costs.stop * one.looks
    )
