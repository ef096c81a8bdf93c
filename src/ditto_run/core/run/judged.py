"""The log of a run as the judgement reads it: one part in one setup on one machine; and the knobs that move its sizes."""

from bisect import bisect_left, bisect_right
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from decimal import Decimal

from ditto_run.core.part import Characteristic
from ditto_run.core.plan import Plan
from ditto_run.core.run import events as ev
from ditto_run.core.run.costs import CostsHere, costs_of
from ditto_run.core.run.judge.knob_map import Reach, gain
from ditto_run.core.run.loads import still_to_pass
from ditto_run.core.run.state import Gauging, Load, RunState
from ditto_run.core.shop import Gauge, Machine
from ditto_run.core.shop.costs import NO_COSTS, ShopCosts
from ditto_run.core.tools import ToolStep
from ditto_run.core.units import LengthUnit, to_base

STEPS: Mapping[LengthUnit, Decimal] = {"mm": Decimal("0.01"), "in": Decimal("0.0005")}
"""Of a dial or a read-out where nobody said it; common practice, no source."""
STEPS_OF_ZONE = (
    20.0  # a gauge that nobody described shows so fine a part of the limits; common practice, no source
)
REPEATS = 0.5  # of its step a gauge repeats to, where no study says it; common practice, no source
INSIDE = frozenset(("slot", "bore", "hole", "pocket", "groove", "inside", "counterbore", "window", "keyway"))
ACROSS = INSIDE | {"width", "diameter", "dia", "thread", "outside", "shoulder", "across"}
DEEP = frozenset(("depth", "deep"))


@dataclass(frozen=True, slots=True)
class DimensionJudged:
    """A dimension with its limits, target, and the gauge's step and repeatability. [mm]."""

    name: str
    lower: float
    upper: float
    target: float
    resolution: float
    repeatability: float


@dataclass(frozen=True, slots=True)
class KnobHere:
    """A knob: of a tool, at every station, or of one station.

    Args:
        name: its own, with its station.
        what: as the control calls it, such as T03 diameter wear.
        kind: tool or station.
        station: from 1; None for every station.
        gains: by how much each dimension grows when it goes up by one. [-]
        increment: least step. [mm]
        label: of the station; empty for every one.
    """

    name: str
    what: str
    kind: str
    station: int | None
    gains: Mapping[str, float]
    increment: float
    label: str = ""


@dataclass(frozen=True, slots=True)
class JobHere:
    """What is the same during a run."""

    pieces: int
    stations: int
    dimensions: tuple[DimensionJudged, ...]
    knobs: tuple[KnobHere, ...]
    costs: CostsHere


@dataclass(frozen=True, slots=True)
class ReadingPast:
    """A reading, of a piece by its place in the order of cutting."""

    piece: int
    dimension: str
    value: float
    after_piece: int
    recheck: bool


@dataclass(frozen=True, slots=True)
class TurnPast:
    """A knob that was turned."""

    after_piece: int
    knob: str
    amount: float


@dataclass(frozen=True, slots=True)
class EventPast:
    """Something that may have moved a size: insert, bar or break."""

    after_piece: int
    kind: str


@dataclass(frozen=True, slots=True)
class MasterPast:
    """A gauge that was tried on its master."""

    after_piece: int
    dimension: str
    error: float


@dataclass(frozen=True, slots=True)
class StopPast:
    """Somebody looked at what holds."""

    after_piece: int
    station: int | None
    found: bool


@dataclass(slots=True)
class HistoryHere:
    """What has been written down of one setup, as the judgement reads it.

    Args:
        job: what is the same.
        pieces_done: cut so far, the load being cut left out.
        places: piece to load and station, from 1.
        numbers: the number of each piece in the order of cutting.
        of: dimensions by name.
        labels: of the stations, in order.
    """

    job: JobHere
    pieces_done: int = 0
    readings: list[ReadingPast] = field(default_factory=list)
    turns: list[TurnPast] = field(default_factory=list)
    events: list[EventPast] = field(default_factory=list)
    master_checks: list[MasterPast] = field(default_factory=list)
    stops: list[StopPast] = field(default_factory=list)
    places: dict[int, tuple[int, int]] = field(default_factory=dict)
    numbers: list[int] = field(default_factory=list)
    of: dict[str, Characteristic] = field(default_factory=dict)
    labels: tuple[str, ...] = ()

    @property
    def spoken(self) -> int:
        """How many pieces were cut when something was written down last."""
        parts = (self.readings, self.turns, self.events, self.master_checks, self.stops)
        return max((part[-1].after_piece for part in parts if part), default=0)

    @property
    def written(self) -> tuple[int, ...]:
        """How much was written down of each kind, and how many pieces there will be."""
        return (
            self.job.pieces,
            len(self.readings),
            len(self.turns),
            len(self.events),
            len(self.master_checks),
            len(self.stops),
        )

    def until(self, piece: int) -> "HistoryHere":
        """Return the history as it stood when so many pieces were cut."""
        return HistoryHere(
            self.job,
            piece,
            [one for one in self.readings if one.after_piece <= piece],
            [one for one in self.turns if one.after_piece <= piece],
            [one for one in self.events if one.after_piece <= piece],
            [one for one in self.master_checks if one.after_piece <= piece],
            [one for one in self.stops if one.after_piece <= piece],
            self.places,
            self.numbers,
            self.of,
            self.labels,
        )


def judged_in(state: RunState, setup: int) -> tuple[Characteristic, ...]:
    """Return the dimensions of a setup that the judgement looks at: lengths with both limits that are not free.

    Args:
        state: the run, looked at from the cycle of the setup.
        setup: its key.
    """
    return tuple(
        c
        for c in state.gauged_in(setup)
        if c.grade != "free"
        and not c.by_gauge_only
        and c.size.unit in {"mm", "in"}
        and c.size.lower is not None
        and c.size.upper is not None
        and c.size.upper > c.size.lower
    )


APPENDS = (ev.CycleStarted, ev.CycleEnded, ev.Reading, ev.Note, ev.Adjustment, ev.MasterTried, ev.HoldLookedAt, ev.Break,
           ev.SettingChanged, ev.ProofTicked, ev.MasterAccepted, ev.Disposition, ev.Hold, ev.SamplingSet,
           ev.CauseSaid, ev.CostSaid, ev.WarmthSaid, ev.StopWritten)  # fmt: skip
"""Lines that only add to what was written down before; after any other the history is read anew."""


class Keeper:
    """Keeps the history of a setup while its run goes on: only what is new is read.

    Args:
        setup: its key.
    """

    def __init__(self, setup: int) -> None:
        self.setup = setup
        self.begun = 0  # how often it was read anew
        self._upto = -1
        self._rests_on: tuple[object, ...] = ()
        self._kept: HistoryHere | None = None
        self._ends = _Ends()
        self._names: dict[int, str] = {}
        self._at: dict[str, int] = {}
        self._seen: set[tuple[int, int]] = set()
        self._read = [0, 0, 0, 0, 0]  # last line of a reading; knobs, changes, masters, looks so far

    def history(
        self,
        state: RunState,
        machine: Machine | None,
        gauges: Mapping[int, Gauge],
        shop: ShopCosts = NO_COSTS,
    ) -> HistoryHere | None:
        """Return the history as it stands; it is kept, and changed by the next call.

        Args:
            state: the run, looked at from the cycle of the setup.
            machine: it is cut on; None while nobody said it.
            gauges: of the register, by number.
            shop: what things cost in it.
        """
        rests_on = (
            state.revision,
            state.cycle,
            machine,
            tuple(gauges.items()),
            tuple(state.given_to.items()),
            tuple(sorted(state.here.costs.items())),
            shop,
        )
        if not self._goes_on(state) or rests_on != self._rests_on:
            self._begin(state, machine, gauges, shop)
            self._rests_on = rests_on
        self._upto = state.seq
        found = self._kept
        if found is None:
            return None
        self._take_loads(found, state)
        self._take_readings(found, state)
        self._take_changes(found, state)
        left = still_to_pass(state, self.setup) + _cutting(state, self.setup)
        found.job = replace(found.job, pieces=found.pieces_done + left)
        return found

    def _goes_on(self, state: RunState) -> bool:
        """True if only lines were added since that add to what was read."""
        new = [one for one in state.recent_events if one.seq > self._upto]
        whole = self._upto >= 0 and len(new) == state.seq - self._upto  # an undo takes lines out
        return whole and all(isinstance(one.body, APPENDS) for one in new)

    def _begin(
        self, state: RunState, machine: Machine | None, gauges: Mapping[int, Gauge], shop: ShopCosts
    ) -> None:
        self.begun += 1
        run, dims, setup = state.here, judged_in(state, self.setup), self.setup
        labels = [label for label, at in run.setup_at.items() if at == setup]
        self._kept, self._ends, self._seen, self._read = None, _Ends(), set(), [0, 0, 0, 0, 0]
        if not dims or not labels:
            return
        names = self._names = _names(dims)
        self._at = {label: n for n, label in enumerate(labels, 1)}
        job = JobHere(
            0,
            len(labels),
            tuple(_dimension(c, names[c.number], gauges.get(c.gauge_id or 0)) for c in dims),
            tuple(knobs_of(state.plan, setup, machine, dims, names, labels)),
            costs_of(state.plan, setup, run.costs, shop),
        )
        self._kept = HistoryHere(job, of={names[c.number]: c for c in dims}, labels=tuple(labels))

    def _take_loads(self, found: HistoryHere, state: RunState) -> None:
        """Number the pieces of the loads that are done, in the order of cutting."""
        ends = self._ends
        for load in state.here.loads[len(ends.loads) :]:
            if load is state.running:
                break
            for one in load.stations:
                here = load.setup_of(one) == self.setup and one.station in self._at
                for piece in one.pieces if here else ():
                    found.numbers.append(piece)
                    ends.index[piece] = len(found.numbers)
                    found.places[len(found.numbers)] = (len(ends.loads) + 1, self._at[one.station])
            ends.loads.append(load)
            ends.numbers.append(load.number)
            ends.done.append(len(found.numbers))
        found.pieces_done = len(found.numbers)

    def _take_readings(self, found: HistoryHere, state: RunState) -> None:
        new: list[Gauging] = []
        for seq in reversed(state.gaugings):
            if seq <= self._read[0]:
                break
            new.append(state.gaugings[seq])
        cutting = state.running.pieces if state.running is not None else ()
        for gauging in reversed(new):
            if gauging.piece in cutting:
                break  # once its load is over
            self._read[0] = gauging.seq
            self._take_reading(found, gauging)

    def _take_reading(self, found: HistoryHere, gauging: Gauging) -> None:
        place, name = self._ends.index.get(gauging.piece), self._names.get(gauging.characteristic)
        if (
            gauging.setup != self.setup
            or gauging.value is None
            or gauging.rough
            or place is None
            or name is None
        ):
            return
        after = self._ends.by(gauging)
        again = (gauging.piece, gauging.characteristic) in self._seen
        self._seen.add((gauging.piece, gauging.characteristic))
        older = found.places[place][0] < found.places[after][0] if after in found.places else False
        value = float(to_base(gauging.value, found.of[name].size.unit))
        found.readings.append(ReadingPast(place, name, value, after, again or older))

    def _take_changes(self, found: HistoryHere, state: RunState) -> None:
        run, ends = state.here, self._ends
        knobs = {(one.what.lower(), one.label): one for one in found.job.knobs}
        _, dialled, changes, mastered, looked = self._read
        most = (
            ends.numbers[-1] if ends.numbers else 0
        ) + 1  # what was done while a load is cut comes after it
        to = [
            sum(one.load <= most for one in part)
            for part in (run.dialled, run.changes, run.mastered, run.looked)
        ]
        new: list[tuple[int, EventPast]] = []
        for one in run.dialled[dialled : to[0]]:
            knob, after = knobs.get((one.what.strip().lower(), one.station)), ends.before(one.load)
            if knob is not None:
                found.turns.append(TurnPast(after, knob.name, one.amount_mm))
            else:  # a knob that is not known here may have moved anything
                new.append((one.seq, EventPast(after, "insert")))
        for change in run.changes[changes : to[1]]:
            if change.kind in {"setting", "plan", "break"}:
                kind = "bar" if change.kind == "break" else "insert"
                new.append((change.seq, EventPast(ends.before(change.load), kind)))
        found.events += [one for _, one in sorted(new, key=lambda pair: pair[0])]
        for tried in run.mastered[mastered : to[2]]:
            if tried.characteristic in self._names:
                name = self._names[tried.characteristic]
                found.master_checks.append(MasterPast(ends.before(tried.load), name, tried.error_mm))
        for look in run.looked[looked : to[3]]:
            found.stops.append(StopPast(ends.before(look.load), self._at.get(look.station), look.loose))
        self._read[1:] = to


def _names(dims: Sequence[Characteristic]) -> dict[int, str]:
    """A name of its own for each dimension."""
    taken: dict[str, int] = {}
    for c in dims:
        taken[c.name] = taken.get(c.name, 0) + 1
    return {c.number: c.name if taken[c.name] == 1 else f"{c.number} {c.name}" for c in dims}


def _cutting(state: RunState, setup: int) -> int:
    load = state.running
    return 0 if load is None else sum(len(one.pieces) for one in load.stations if load.setup_of(one) == setup)


@dataclass(slots=True)
class _Ends:
    """How many pieces were cut when each load was over."""

    loads: list[Load] = field(default_factory=list)
    numbers: list[int] = field(default_factory=list)
    done: list[int] = field(default_factory=list)
    index: dict[int, int] = field(default_factory=dict)

    def by(self, gauging: Gauging) -> int:
        """Pieces cut when a reading was taken."""
        n = len(self.loads)
        while n and (ended := self.loads[n - 1].ended_at) is not None and ended > gauging.at:
            n -= 1
        of_piece = self.done[
            bisect_left(self.done, self.index.get(gauging.piece, 0))
        ]  # not before its load was over
        return max(self.done[n - 1] if n else 0, of_piece)

    def before(self, load: int) -> int:
        """Pieces cut before a load began."""
        n = bisect_right(self.numbers, load - 1)
        return self.done[n - 1] if n else 0


def _dimension(c: Characteristic, name: str, gauge: Gauge | None) -> DimensionJudged:
    lower, upper = (
        float(to_base(side, c.size.unit)) for side in (c.size.lower, c.size.upper) if side is not None
    )
    middle = float(to_base(c.size.middle, c.size.unit))
    step = (upper - lower) / STEPS_OF_ZONE
    if gauge is not None and gauge.resolution > 0:
        step = float(to_base(gauge.resolution, gauge.unit))
    repeats = step * REPEATS
    if gauge is not None and gauge.repeats is not None:
        repeats = float(to_base(gauge.repeats, gauge.unit))
    return DimensionJudged(name, lower, upper, middle, step, repeats)


def terms_of(plan: Plan, machine: Machine | None) -> tuple[LengthUnit, Decimal]:
    """Return the unit and the least step in which a size is moved: the control's, or by hand those of the job.

    Args:
        plan: the run's.
        machine: it is cut on; None while nobody said it.
    """
    if machine is not None and not machine.is_manual:
        return machine.wear.unit, machine.wear.increment
    return plan.heading.unit, STEPS[plan.heading.unit]


def knobs_of(
    plan: Plan,
    setup: int,
    machine: Machine | None,
    dims: Sequence[Characteristic],
    names: Mapping[int, str],
    labels: Sequence[str],
) -> list[KnobHere]:
    """Return the knobs that move the sizes of a setup: the wear of the tool that makes each, and each station's offset.

    Args:
        plan: the run's.
        setup: its key.
        machine: it is cut on.
        dims: that are judged.
        names: of each, by number.
        labels: of the stations.

    Source:
        Whether a size is across or along, inside or outside, is read from its name and kind: own judgement. Which way an
        offset counts is the machine's, on Shop.
    """
    by_name: dict[str, dict[str, float]] = {}
    unit, least = terms_of(plan, machine)
    step = float(to_base(least, unit))
    for c in dims:
        name, factor = _tool_knob(plan, setup, machine, c)
        by_name.setdefault(name, {})[names[c.number]] = factor
    found = [KnobHere(name, name, "tool", None, gains, step) for name, gains in by_name.items()]
    along = [c for c in dims if not _is_across(c)]
    if len(labels) > 1 and along:
        offsets = {station.label: station.offset for station in plan.owner_of(setup).stations}
        for n, label in enumerate(labels, 1):
            name = (
                f"{offsets[label]} Z"
                if offsets.get(label) and machine is not None and not machine.is_manual
                else "stop"
            )
            gains = {names[c.number]: -1.0 if _words(c) & DEEP else 1.0 for c in along}
            found.append(KnobHere(f"{name} at {label}", name, "station", n, gains, step, label))
    return found


def _tool_knob(plan: Plan, setup: int, machine: Machine | None, c: Characteristic) -> tuple[str, float]:
    """What the knob of a dimension is called, and by how much the dimension grows with it."""
    across, inside = _is_across(c), bool(_words(c) & INSIDE)
    if machine is None or machine.is_manual:
        return f"dial of the {c.name}", 1.0
    step = _finisher(plan, setup, c)
    tool = step.name if step is not None else "tool"
    wear = machine.wear
    turned = machine.turns
    if across:
        reach = Reach.RADIUS if wear.by == "radius" else Reach.DIAMETER
        word = "X wear" if turned else f"{wear.by} wear"
        name = f"{tool} {word}" if step is not None else f"{word} of the {c.name}"
        return name, gain(reach, inside=inside, reversed_scale=wear.bigger_is == "minus")
    word = "Z wear" if turned else "length wear"
    name = f"{tool} {word}" if step is not None else f"{word} of the {c.name}"
    return name, gain(Reach.LENGTH, inside=bool(_words(c) & DEEP))


def _finisher(plan: Plan, setup: int, c: Characteristic) -> ToolStep | None:
    """The last tool of a setup that makes the feature which carries a dimension; None where the plan does not say it."""
    owner = plan.owner_of(setup)
    carries = {feature.key for feature in owner.features if feature.characteristic == c.number}
    steps = [step for step in plan.tools_of(setup) if step.tool and carries & set(step.makes)]
    named = [step for step in plan.tools_of(setup) if step.tool and c.name.lower() in step.does.lower()]
    return next(reversed(steps or named), None)


def grows_by_cutting(c: Characteristic) -> bool:
    """Return whether cutting more off makes a dimension larger: a slot, a bore, a depth."""
    return bool(_words(c) & (INSIDE | DEEP))


def _words(c: Characteristic) -> set[str]:
    return set(c.name.lower().replace("-", " ").split())


def _is_across(c: Characteristic) -> bool:
    words = _words(c)
    return not words & DEEP and (c.size.kind in {"diameter", "thread", "drill"} or bool(words & ACROSS))


def to_mm(amount: float) -> Decimal:
    """Return an amount of the judgement as it is written down, [mm]."""
    return Decimal(repr(round(amount, 6))).normalize()
