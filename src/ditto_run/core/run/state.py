"""The state of a run: what the log adds up to. Only `fold.py` changes it."""

from collections import Counter, deque
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from decimal import Decimal
from typing import TYPE_CHECKING, Literal

from ditto_run.core.part import Characteristic
from ditto_run.core.plan import Plan
from ditto_run.core.run.line import Identity, Loaded
from ditto_run.core.units import Unit, convert

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


@dataclass(slots=True)
class Load:
    """One load of one setup."""

    setup: int
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
        made: setup to (load, station, revision), in the order it went through them.
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
    """

    number: int
    made: dict[int, tuple[int, str, int]] = field(default_factory=dict)
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

    def last(self, setup: int, characteristic: int) -> Gauging | None:
        """Return the reading that counts for a dimension in a setup, or None; a rough one does not count."""
        found = self.gaugings.get((setup, characteristic))
        if not found:
            return None
        if not found[-1].rough:
            return found[-1]
        return next((gauging for gauging in reversed(found) if not gauging.rough), None)

    @property
    def out(self) -> list[Gauging]:
        """The readings that count and are outside."""
        if not self.out_keys:
            return []
        return [
            found for key in self.gaugings if key in self.out_keys and (found := self.last(*key)) is not None
        ]


@dataclass(slots=True)
class SetupRun:
    """What belongs to one setup of the run.

    Args:
        places: how many pieces a station takes at most.
        proven_at: when its first piece was accepted; None before.
        position: piece to its place in the order of its station.
    """

    key: int
    loads: list[Load] = field(default_factory=list)
    composition: dict[str, int] = field(default_factory=dict)
    places: dict[str, int] = field(default_factory=dict)
    master: int | None = None
    proven_at: datetime | None = None
    changes: list[RunChange] = field(default_factory=list)
    recent: dict[int, Gauging] = field(default_factory=dict)
    lanes: dict[tuple[str, int], dict[int, Gauging]] = field(default_factory=dict)
    outs: set[tuple[str, int]] = field(default_factory=set)
    at_station: dict[str, list[tuple[int, int]]] = field(default_factory=dict)
    full_entry_due: set[int] = field(default_factory=set)
    position: dict[int, int] = field(default_factory=dict)
    gaps_s: list[float] = field(default_factory=list)


@dataclass(slots=True)
class RunState:
    """Everything the log of one run adds up to.

    Args:
        plans: frozen plans by revision.
        seq: last line folded.
        setup: key of the setup being run.
        running: the load being cut, or None.
        heat: heat of the bar that is being cut, where it was said on Run.
        rules: which rules its first line was written under.
        grandfathered: True for a batch that was closed when pieces counted good without having been gauged.
        given_to: dimension to the setup it was given to on Run.
        every: dimension to how often it is gauged, where that was said on Run. [loads]
        through: setup to the pieces that went through it and are good.
        set_back_at: last line that is earlier than the one before it, because a clock was set back; 0 for none.
        newest: the newest line, an undo too.
        undone: what was undone last and nothing came after: line, whose, what it said.
        undone_bodies: lines that no longer count.
    """

    plans: Mapping[int, Plan]
    seq: int = 0
    revision: int = 0
    setup: int = 0
    identity: Identity = "unstated"
    identity_lost_before: int | None = None
    running: Load | None = None
    closed_at: datetime | None = None
    started_at: datetime | None = None
    last_at: datetime | None = None
    pieces: dict[int, Piece] = field(default_factory=dict)
    setups: dict[int, SetupRun] = field(default_factory=dict)
    counts: Counter[str] = field(default_factory=Counter)
    gaugings: dict[int, Gauging] = field(default_factory=dict)
    client_keys: dict[str, int] = field(default_factory=dict)
    recent_events: "list[Event]" = field(default_factory=list)
    notes: list[tuple[datetime, str, str, int | None]] = field(default_factory=list)
    last_load_ended: datetime | None = None
    heat: str = ""
    last_touched: deque[int] = field(default_factory=lambda: deque(maxlen=400))
    rules: int = 1
    grandfathered: bool = False
    given_to: dict[int, int] = field(default_factory=dict)
    every: dict[int, int] = field(default_factory=dict)
    through: Counter[int] = field(default_factory=Counter)
    set_back_at: int = 0
    newest: "Event | None" = None
    undone: list[tuple[int, str, str]] = field(default_factory=list)
    undone_bodies: dict[int, object] = field(default_factory=dict)

    @property
    def plan(self) -> Plan:
        """The plan pieces are made to now."""
        return self.plans[self.revision]

    @property
    def here(self) -> SetupRun:
        """The setup being run."""
        return self.setups[self.setup]

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
        """Return the dimensions gauged in the setup being run."""
        return self.gauged_in(self.setup)

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

    def master_value(self, characteristic: Characteristic, setup: int) -> Decimal | None:
        """Return the master's reading of a dimension, or None before there is one, [size's unit]."""
        run = self.setups.get(setup)
        if run is None or run.master is None:
            return None
        gauging = self.pieces[run.master].last(setup, characteristic.number)
        return gauging.value if gauging else None

    def middle_line(self, characteristic: Characteristic, setup: int) -> Decimal:
        """Return the middle line of the strip: the master, else the middle of the limits, [size's unit]."""
        master = self.master_value(characteristic, setup)
        return characteristic.size.middle if master is None else master

    def missing(self, piece: Piece) -> list[Characteristic]:
        """Return the dimensions of a piece not gauged yet in the setup being run, free and excused ones left out."""
        return [
            c
            for c in self.gauged_here()
            if c.grade != "free"
            and piece.last(self.setup, c.number) is None
            and (self.setup, c.number) not in piece.excused
        ]


def in_drawing_unit(value: Decimal, unit: Unit, characteristic: Characteristic) -> Decimal:
    """Return a reading in the unit of the drawing, for display and statistics, [size's unit]."""
    return convert(value, unit, characteristic.size.unit)
