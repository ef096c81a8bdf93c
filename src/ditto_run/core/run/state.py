"""The state of a run: what the log adds up to. Only `fold.py` changes it."""

from collections import Counter, defaultdict, deque
from collections.abc import Mapping
from copy import copy
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from decimal import Decimal
from typing import TYPE_CHECKING, Literal, NamedTuple

from ditto_run.core.errors import NotFound
from ditto_run.core.part import Characteristic
from ditto_run.core.plan import Plan
from ditto_run.core.run.line import Identity, Loaded
from ditto_run.core.units import LengthUnit, Unit, convert

if TYPE_CHECKING:  # events change the state; the state only keeps some of them
    from ditto_run.core.run.events import Event

Standing = Literal[
    "cutting", "not gauged", "good", "held", "scrap", "reworked", "rework", "trial", "spare", "lost"
]
ChangeKind = Literal["offset", "setting", "plan", "break", "stations"]


@dataclass(frozen=True, slots=True)
class RunChange:
    """Something that was changed before a load.

    Args:
        seq: line of the log.
        load: the load it comes before.
        kind: what kind of thing.
        words: what was changed, in words.
        station: the station it concerns; empty for all.
    """

    seq: int
    load: int
    kind: ChangeKind
    words: str
    station: str = ""


class Dialled(NamedTuple):
    """A knob that was moved, before a load: line of the log, load, what, by how much [mm], station; empty for every station."""

    seq: int
    load: int
    what: str
    amount_mm: float
    station: str


class ProofMark(NamedTuple):
    """What was gone through before the first load: line of the log, when, who, its ground, a note, whether it was waived."""

    seq: int
    at: datetime
    who: str
    ground: str
    note: str
    waived: bool


class Mastered(NamedTuple):
    """The gauge of a dimension tried on its master, before a load: line of the log, load, dimension, what it read too much. [mm]."""

    seq: int
    load: int
    characteristic: int
    error_mm: float


class StopLine(NamedTuple):
    """What stopped a cycle before a load: line of the log, when, who, what happened, where it goes on; whether something was hit."""

    seq: int
    at: datetime
    who: str
    load: int
    what: str
    recover: str
    hit: bool


@dataclass(frozen=True, slots=True)
class HandWork:
    """A step done by hand: line of the log, when, who, which, on which pieces, how long they cool or cure [s], with what."""

    number: int
    at: datetime
    who: str
    step: str
    pieces: tuple[int, ...]
    waits_s: int = 0
    note: str = ""

    @property
    def ready_at(self) -> datetime:
        """When they are cold or cured."""
        return self.at + timedelta(seconds=self.waits_s)


@dataclass(frozen=True, slots=True)
class SizeAfter:
    """A size after a trip: line of the log, when, who, trip, piece, dimension, what it reads. [unit]."""

    number: int
    at: datetime
    who: str
    trip: int
    piece: int
    size: int
    value: Decimal
    unit: LengthUnit


@dataclass(frozen=True, slots=True)
class FitTried:
    """Pieces tried with what they go with: line of the log, when, who, which, with what, how it went, and a note."""

    number: int
    at: datetime
    who: str
    pieces: tuple[int, ...]
    with_what: str
    how: str
    note: str = ""


@dataclass(frozen=True, slots=True)
class FunctionProved:
    """A function proved: line of the log, when, who, on which pieces, what, its limits, what it read [unit], whether it works."""

    number: int
    at: datetime
    who: str
    pieces: tuple[int, ...]
    what: str
    least: Decimal | None
    most: Decimal | None
    unit: str
    reading: Decimal | None
    works: bool


@dataclass(frozen=True, slots=True)
class LessonPut:
    """A lesson and where it was put: when, who, its words, the place, and of what there."""

    at: datetime
    who: str
    words: str
    place: str
    of: str = ""


@dataclass(frozen=True, slots=True)
class TrayCount:
    """The good pieces counted by hand: when, who, how many, and how many the log said. [pieces]."""

    at: datetime
    who: str
    pieces: int
    logged: int


@dataclass(frozen=True, slots=True)
class Trip:
    """Pieces that went out for work that is done elsewhere, [pieces].

    Args:
        number: line of the log it began with.
        at, who: when they went, and who said so.
        what, to: what is done to them, and where.
        pieces: that went.
        promised: day they were promised for, as YYYY-MM-DD; empty if not said.
        cents: price of it. [cents]
        mask: what is kept free of it, in words.
        back: that came back.
        rejects: of those, not good.
        back_at: when the last ones came; None before.
    """

    number: int
    at: datetime
    who: str
    what: str
    to: str
    pieces: int
    promised: str = ""
    cents: int = 0
    mask: str = ""
    back: int = 0
    rejects: int = 0
    back_at: datetime | None = None

    @property
    def away(self) -> int:
        """How many are still out."""
        return self.pieces - self.back


class HoldLook(NamedTuple):
    """Somebody looked at what holds, before a load: line of the log, load, station, empty for all; whether it was loose."""

    seq: int
    load: int
    station: str
    loose: bool


@dataclass(slots=True)
class Gauging:
    """One reading with what stands in its place since.

    Args:
        seq: line of the log it was taken in.
        characteristic: number of the dimension.
        setup: key of the setup it was taken in.
        value: in the drawing's unit; None for GO and NO-GO. [size's unit]
        inside: False if it is out of limits or NO-GO.
        text: as typed.
        corrected: lines that corrected it.
        judged: False for a free dimension, which raises nothing.
        rough: True for a reading in the middle of the cut, which judges nothing.
        made_held: True if its piece stood held because of it.
    """

    seq: int
    at: datetime
    who: str
    piece: int
    characteristic: int
    setup: int
    value: Decimal | None
    inside: bool
    text: str
    decimals: int
    go: bool | None = None
    corrected: list[int] = field(default_factory=list)
    judged: bool = True
    rough: bool = False
    made_held: bool = False


class WentThrough(NamedTuple):
    """Where a piece went through a setup.

    Args:
        load: number of the load.
        station: its label.
        revision: of the plan it was made to.
        cycle: key of the cycle.
    """

    load: int
    station: str
    revision: int
    cycle: int


@dataclass(slots=True)
class Load:
    """One press of start.

    Args:
        cycle: key of the cycle; that of the setup where it is cut alone.
        number: of the load in its cycle.
        stations: what sat where; each says its setup where several are cut together.
    """

    cycle: int
    number: int
    revision: int
    stations: tuple[Loaded, ...]
    started_at: datetime | None = None
    ended_at: datetime | None = None
    entered: bool = False
    joined: bool = False
    seq: int = 0

    @property
    def pieces(self) -> tuple[int, ...]:
        """All pieces of the load, in station order."""
        return tuple(piece for loaded in self.stations for piece in loaded.pieces)

    def setup_of(self, loaded: Loaded) -> int:
        """Return the setup that is cut at a station of it."""
        return loaded.setup if loaded.setup is not None else self.cycle

    @property
    def cycle_s(self) -> float | None:
        """Seconds from start to end; None while it runs, if it was written down later, or if the clock was set back."""
        if self.started_at is None or self.ended_at is None or self.entered:
            return None
        seconds = (self.ended_at - self.started_at).total_seconds()
        return seconds if seconds >= 0 else None


@dataclass(slots=True)
class Piece:
    """One piece.

    Args:
        number: its number from its first setup.
        part: key of the part it becomes; 1 where a job has one.
        made: setup to where it went through it, in the order it did.
        gaugings: dimension to its readings in that order; the last one counts.
        outcome: what was decided, empty while nothing was.
        hold_reason: why somebody held it; empty if nobody did.
        heat: heat of its material, where it was said on Run.
        decided_at: line of the log of the last decision.
        touched: line of the log that last changed its mark.
        unproven: (setup, dimension) that are neither gauged inside nor covered by checks beside it.
        excused: (setup, dimension) that do not apply to it, or were not asked for.
        counted_in: setups it is counted good for.
        out_keys: (setup, dimension) whose reading that counts is outside.
        waits_for: the setup it waits for; None while it waits for none.
    """

    number: int
    part: int = 1
    made: dict[int, WentThrough] = field(default_factory=dict)
    gaugings: dict[tuple[int, int], list[Gauging]] = field(default_factory=dict)
    outcome: str = ""
    reason: str = ""
    decided_at: int = 0
    was_reworked: bool = False
    hold_reason: str = ""
    standing: Standing = "cutting"
    suspect: frozenset[int] = frozenset()
    heat: str = ""
    notes: list[str] = field(default_factory=list)
    touched: int = 0
    unproven: set[tuple[int, int]] = field(default_factory=set)
    excused: set[tuple[int, int]] = field(default_factory=set)
    counted_in: frozenset[int] = frozenset()
    out_keys: set[tuple[int, int]] = field(default_factory=set)
    waits_for: int | None = None

    def last(self, setup: int, characteristic: int) -> Gauging | None:
        """Return the reading that counts for a dimension in a setup, or None; a rough one does not count."""
        found = self.gaugings.get((setup, characteristic))
        if not found:
            return None
        if not found[-1].rough:
            return found[-1]
        return next((gauging for gauging in reversed(found) if not gauging.rough), None)

    def left_with(self, characteristic: int) -> Gauging | None:
        """Return the reading of a dimension in the last setup it was gauged in: what the piece left with; None without one."""
        for setup in reversed(self.made):
            found = self.last(setup, characteristic)
            if found is not None:
                return found
        return None

    @property
    def out(self) -> list[Gauging]:
        """The readings that count and are outside."""
        if not self.out_keys:
            return []
        return [
            found for key in self.gaugings if key in self.out_keys and (found := self.last(*key)) is not None
        ]


@dataclass(slots=True)
class CycleRun:
    """What belongs to one cycle of the run.

    Args:
        key: of the cycle; that of the setup where it is cut alone.
        running: the load being cut, or None.
        places: how many pieces a station takes at most.
        setup_at: station to the key of the setup that is cut there.
        masters: setup to the first piece that was accepted in it.
        proven: setup to when that was.
        turns_advised: turns that were advised, made or left.
        costs: what somebody said a thing costs, by name. [min]
        warmth: of pieces and gauge, where somebody said it. [°C]
        causes: piece that is out to what somebody thinks it was.
        stopped: what stopped it, and where it went on.
        position: station and piece to its place in the order of that station.
    """

    key: int
    running: Load | None = None
    loads: list[Load] = field(default_factory=list)
    composition: dict[str, int] = field(default_factory=dict)
    places: dict[str, int] = field(default_factory=dict)
    setup_at: dict[str, int] = field(default_factory=dict)
    masters: dict[int, int] = field(default_factory=dict)
    proven: dict[int, datetime] = field(default_factory=dict)
    changes: list[RunChange] = field(default_factory=list)
    dialled: list[Dialled] = field(default_factory=list)
    mastered: list[Mastered] = field(default_factory=list)
    looked: list[HoldLook] = field(default_factory=list)
    turns_advised: list[Dialled] = field(default_factory=list)
    causes: dict[int, str] = field(default_factory=dict)
    costs: dict[str, float] = field(default_factory=dict)
    warmth: tuple[float, float] | None = None
    stopped: list[StopLine] = field(default_factory=list)
    proof: dict[str, ProofMark] = field(default_factory=dict)
    recent: dict[int, Gauging] = field(default_factory=dict)
    lanes: dict[tuple[str, int], dict[int, Gauging]] = field(default_factory=dict)
    outs: set[tuple[str, int]] = field(default_factory=set)
    at_station: dict[str, list[tuple[int, int]]] = field(default_factory=dict)
    full_entry_due: set[int] = field(default_factory=set)
    position: dict[tuple[str, int], int] = field(default_factory=dict)
    gaps_s: list[float] = field(default_factory=list)

    @property
    def setups(self) -> tuple[int, ...]:
        """The setups that are cut in it, in the order of its stations."""
        return tuple(dict.fromkeys(self.setup_at.values()))

    @property
    def master(self) -> int | None:
        """The first piece that was accepted in it; None before."""
        return next(iter(self.masters.values()), None)


@dataclass(slots=True)
class RunState:
    """Everything the log of one run adds up to.

    Args:
        plans: frozen plans by revision.
        seq: last line folded.
        cycle: key of the cycle that is looked at: the one opened last, or that of the device.
        cycles: the cycles that were opened, by key.
        heat: heat of the bar that is being cut, where it was said on Run.
        after: setup to the one a piece goes through next, by the plan as it stands.
        before: setup to the one a piece has been through before it; none for the first of a part.
        parts: setup to the part it makes.
        waits: setup to the pieces that wait for it.
        by_part: part to how many of its pieces stand how.
        batch: which time the job is run, from 1.
        numbered_after: highest number a piece of an earlier batch has.
        rules: which rules its first line was written under.
        grandfathered: True for a batch that was closed when pieces counted good without having been gauged.
        given_to: dimension to the setup it was given to on Run.
        every: dimension to how often it is gauged, where that was said on Run. [loads]
        through: setup to the pieces that went through it and are good.
        set_back_at: last line that is earlier than the one before it, because a clock was set back; 0 for none.
        newest: the newest line, an undo too.
        undone: what was undone last and nothing came after: line, whose, what it said.
        undone_bodies: lines that no longer count.
        trips: of pieces that went out for work that is done elsewhere.
        tray: the good pieces counted by hand last; None while nobody did.
        lessons: that were put somewhere, by their key.
        by_hand: steps that were done by hand.
        sizes_after: gauged after trips.
        fits: pieces tried with what they go with.
        functions: that were proved.
        facts: said of the batch: setting_up [s], price of a piece [cents].
    """

    plans: Mapping[int, Plan]
    seq: int = 0
    revision: int = 0
    cycle: int = 0
    identity: Identity = "unstated"
    identity_lost_before: int | None = None
    closed_at: datetime | None = None
    started_at: datetime | None = None
    last_at: datetime | None = None
    pieces: dict[int, Piece] = field(default_factory=dict)
    cycles: dict[int, CycleRun] = field(default_factory=dict)
    counts: Counter[str] = field(default_factory=Counter)
    after: dict[int, int] = field(default_factory=dict)
    before: dict[int, int] = field(default_factory=dict)
    parts: dict[int, int] = field(default_factory=dict)
    waits: defaultdict[int, set[int]] = field(default_factory=lambda: defaultdict(set))
    by_part: defaultdict[int, Counter[str]] = field(default_factory=lambda: defaultdict(Counter))
    gaugings: dict[int, Gauging] = field(default_factory=dict)
    client_keys: dict[str, int] = field(default_factory=dict)
    recent_events: "list[Event]" = field(default_factory=list)
    notes: list[tuple[datetime, str, str, int | None]] = field(default_factory=list)
    last_load_ended: datetime | None = None
    heat: str = ""
    last_touched: deque[int] = field(default_factory=lambda: deque(maxlen=400))
    batch: int = 1
    numbered_after: int = 0
    rules: int = 1
    grandfathered: bool = False
    given_to: dict[int, int] = field(default_factory=dict)
    every: dict[int, int] = field(default_factory=dict)
    through: Counter[int] = field(default_factory=Counter)
    set_back_at: int = 0
    newest: "Event | None" = None
    undone: list[tuple[int, str, str]] = field(default_factory=list)
    undone_bodies: dict[int, object] = field(default_factory=dict)
    trips: list[Trip] = field(default_factory=list)
    tray: TrayCount | None = None
    facts: dict[str, int] = field(default_factory=dict)
    lessons: dict[str, LessonPut] = field(default_factory=dict)
    by_hand: list[HandWork] = field(default_factory=list)
    sizes_after: list[SizeAfter] = field(default_factory=list)
    fits: list[FitTried] = field(default_factory=list)
    functions: list[FunctionProved] = field(default_factory=list)

    @property
    def plan(self) -> Plan:
        """The plan pieces are made to now."""
        return self.plans[self.revision]

    @property
    def here(self) -> CycleRun:
        """The cycle that is looked at."""
        return self.cycles[self.cycle]

    @property
    def running(self) -> Load | None:
        """The load being cut in the cycle that is looked at, or None."""
        return self.here.running

    def at(self, cycle: int) -> "RunState":
        """Return the same run looked at from another cycle; only to be read. NotFound if that was never opened.

        Args:
            cycle: key of the cycle; 0 for the one opened last.
        """
        if cycle in {0, self.cycle}:
            return self
        if cycle not in self.cycles:
            raise NotFound("cycle", cycle, "Open it on Run first.")
        found = copy(self)
        found.cycle = cycle
        return found

    def near(self, cycle: int) -> "RunState":
        """Return the same run looked at from a cycle where that is open; else as it is looked at already.

        Args:
            cycle: key of the cycle; 0 for none.
        """
        return self.at(cycle) if cycle in self.cycles else self

    def run_of(self, piece: Piece, setup: int) -> CycleRun:
        """Return the cycle in which a piece went through a setup."""
        return self.cycles[piece.made[setup].cycle]

    def setups_here(self, piece: Piece) -> list[int]:
        """Return the setups a piece went through in the cycle that is looked at, the last one first."""
        return [setup for setup, made in reversed(piece.made.items()) if made.cycle == self.cycle]

    def setup_of(self, piece: Piece) -> int:
        """Return the setup a piece is looked at in: the last one here, else the last one it went through."""
        return next(iter(self.setups_here(piece)), next(reversed(piece.made)))

    def gauged_in(self, setup: int, plan: Plan | None = None) -> tuple[Characteristic, ...]:
        """Return the dimensions gauged in a setup: as the plan says, unless one was given to another setup on Run."""
        found = plan or self.plan
        if not self.given_to:
            return found.gauged_in(setup)
        mine = [
            c
            for c in found.characteristics
            if self.given_to.get(c.number, setup if c in found.gauged_in(setup) else 0) == setup
        ]
        return tuple(sorted(mine, key=lambda c: c.grade == "free"))

    def gauged_here(self) -> tuple[Characteristic, ...]:
        """Return the dimensions gauged in the cycle that is looked at, each once, free ones last."""
        found = {c.number: c for setup in self.here.setups for c in self.gauged_in(setup)}
        return tuple(sorted(found.values(), key=lambda c: c.grade == "free"))

    def is_judged(self, dimension: int) -> bool:
        """Return True unless a dimension is free or gone."""
        return any(c.number == dimension and c.grade != "free" for c in self.plan.characteristics)

    def sampling(self, dimension: int) -> int:
        """Return every how many loads a dimension is gauged: said on Run, on Part, or for the whole job, [loads]."""
        plan = self.plans[self.revision]
        if plan.heading.has_consequence:
            return 1
        if dimension in self.every:
            return self.every[dimension]
        for characteristic in plan.characteristics:
            if characteristic.number == dimension:
                return characteristic.every or plan.heading.gauged_every
        return plan.heading.gauged_every

    def plan_of(self, piece: Piece, setup: int) -> Plan:
        """Return the plan a piece was made to in a setup."""
        made = piece.made.get(setup)
        return self.plans[made[2] if made else self.revision]

    def master_value(self, characteristic: Characteristic, setup: int, run: CycleRun) -> Decimal | None:
        """Return the reading of a dimension on the master of a cycle, or None before there is one, [size's unit]."""
        master = run.masters.get(setup)
        if master is None:
            return None
        gauging = self.pieces[master].last(setup, characteristic.number)
        return gauging.value if gauging else None

    def middle_line(self, characteristic: Characteristic, setup: int, run: CycleRun) -> Decimal:
        """Return the middle line of the strip: the master, else the middle of the limits, [size's unit]."""
        master = self.master_value(characteristic, setup, run)
        return characteristic.size.middle if master is None else master

    def missing(self, piece: Piece) -> list[Characteristic]:
        """Return the dimensions of a piece not gauged yet in the cycle that is looked at, free and excused ones left out."""
        return [
            c
            for setup in self.setups_here(piece)
            for c in self.gauged_in(setup)
            if c.grade != "free"
            and piece.last(setup, c.number) is None
            and (setup, c.number) not in piece.excused
        ]


def in_drawing_unit(value: Decimal, unit: Unit, characteristic: Characteristic) -> Decimal:
    """Return a reading in the unit of the drawing, for display and statistics, [size's unit]."""
    return convert(value, unit, characteristic.size.unit)
