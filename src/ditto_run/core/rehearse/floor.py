"""The whole batch on the shop's floor before the first cut: machines, pairs of hands, waits, tools that come up, when it is done."""

from collections.abc import Generator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from math import ceil, exp, log, sqrt
from typing import TYPE_CHECKING, Any, Literal

import simpy

from ditto_run.core.errors import NotNow
from ditto_run.core.plan import Plan
from ditto_run.core.plan.cycles import Press
from ditto_run.core.plan.shop_known import ShopKnown

if TYPE_CHECKING:
    from numpy.random import Generator as Chance

SPREAD = 0.25  # of the hands' times; as `judge.finish` has it before anything was timed
TIMES, FEWEST_TIMES, PLAYED = (
    41,
    11,
    20_000,
)  # played so often, less often where it is more than so many loads in all
READING_S, CHANGE_S = (
    20.0,
    180.0,
)  # a reading; a worn tool changed by hand and set; common practice, no source
MOST_LOADS = 4_000  # of all cycles together
MOST_HANDS = 20
FULL = 1 - 1e-9
Doing = Literal["cuts", "hands", "tool", "gauges", "waits for hands", "waits for pieces"]
Happens = Generator[simpy.Event, Any, None]


@dataclass(frozen=True, slots=True)
class FloorCycle:
    """One cycle as it is played.

    Args:
        name: of the cycle.
        loads: it takes. [loads]
        rooms: setup to how many of its pieces a load holds. [pieces]
        needs: setup to the pieces that have to go through it here. [pieces]
        lags: setup to the loads before its first piece is there.
        before: setup to the one its pieces come from, where that is cut in another cycle.
        every: loads between two gaugings; the first one is always gauged.
        sizes: readings of a piece.
        lane: number of the machine it is cut on.
        cut_s, hands_s: of one load. [s]
        attended: True where hands stand at it while it cuts.
        tools: tool to the share of its life that one load takes.
        worn: tool to the share of its life that is gone of the one that is in; a tool whose rest nobody said is new.
    """

    name: str
    loads: int
    rooms: Mapping[int, int]
    needs: Mapping[int, int]
    lags: Mapping[int | None, int]
    before: Mapping[int, int]
    every: int
    sizes: int
    lane: int = 0
    cut_s: float = 0.0
    hands_s: float = 0.0
    attended: bool = False
    tools: Mapping[str, float] = field(default_factory=dict)
    worn: Mapping[str, float] = field(default_factory=dict)

    @property
    def at_risk(self) -> int:
        """Pieces that are cut from one gauged load to the next. [pieces]."""
        return sum(self.rooms.values()) * min(self.every, self.loads)


@dataclass(frozen=True, slots=True)
class FloorSpan:
    """What a machine does from one moment to another: its lane, load; times of work since the start. [s]."""

    lane: int
    doing: Doing
    start: float
    end: float
    load: int = 0


@dataclass(frozen=True, slots=True)
class ToolUp:
    """A tool that comes up: on which lane, which, before which load of what, when. [s]."""

    lane: int
    tool: str
    cycle: str
    load: int
    at: float


@dataclass(frozen=True, slots=True)
class Floor:
    """A batch played on the floor.

    Args:
        lanes: machines by name.
        cycles: in the order of the chain.
        hands: pairs of hands.
        spans: of the middle one of all plays; what the hands do bears the lane of the machine they are at.
        tools: that come up in it.
        low_s, likely_s, high_s: work until all is cut; 80 % range. [s]
        unknown: tools whose life nobody said.
        whole: False where pieces never came, so that it could not be played to its end.
    """

    lanes: tuple[str, ...]
    cycles: tuple[FloorCycle, ...]
    hands: int
    spans: tuple[FloorSpan, ...]
    tools: tuple[ToolUp, ...]
    low_s: float
    likely_s: float
    high_s: float
    unknown: tuple[str, ...]
    whole: bool

    @property
    def ends_s(self) -> float:
        """When the play that is shown ends. [s]."""
        return max((span.end for span in self.spans), default=0.0)

    def spent_s(self, doing: Doing, lane: int | None = None) -> float:
        """Return how long something was done, at one machine or all. [s]."""
        return sum(
            span.end - span.start
            for span in self.spans
            if span.doing == doing and (lane is None or span.lane == lane)
        )

    @property
    def hands_busy(self) -> float:
        """Share of their time that the hands have something to do. [-]."""
        busy = sum(self.spent_s(doing) for doing in ("hands", "tool", "gauges"))
        busy += sum(self.spent_s("cuts", lane) for lane in {job.lane for job in self.cycles if job.attended})
        return min(busy / (self.ends_s * self.hands), 1.0) if self.ends_s else 0.0


def play_floor(plan: Plan, shop: ShopKnown, hands: int = 1, seed: int = 1) -> Floor:
    """Return the batch played on the floor, many times over; the one in the middle is shown.

    Nobody is called away and nothing breaks; machines on which nobody said a load's time are refused. Cycles that share a
    machine follow one another in the order of the chain, and setting up between them takes no time here.

    Args:
        plan: as it stands.
        shop: its machines and tools.
        hands: pairs of hands.
        seed: of chance.

    Raises:
        NotNow: if a cycle has no time, no station, or there are too many loads.

    Source:
        Times of the plan; hands log-normal round them, own judgement; held to `method.minding` and to arithmetic by tests.
    """
    from numpy.random import default_rng  # noqa: PLC0415

    lanes, jobs, unknown = _jobs(plan, shop)
    if sum(job.loads for job in jobs) > MOST_LOADS:
        raise NotNow(f"It is more than {MOST_LOADS:,} loads.", "Rehearse a smaller quantity.")
    times = max(min(TIMES, PLAYED // max(sum(job.loads for job in jobs), 1)), FEWEST_TIMES)
    hands = max(1, min(hands, MOST_HANDS))
    plays = [_Play(jobs, hands, default_rng([seed, n])).run() for n in range(times)]
    plays.sort(key=lambda play: play.ended)
    ends = [play.ended for play in plays]
    middle = plays[len(plays) // 2]
    return Floor(
        lanes,
        jobs,
        hands,
        tuple(middle.spans),
        tuple(middle.tools),
        ends[len(ends) // 10],
        ends[len(ends) // 2],
        ends[-1 - len(ends) // 10],
        unknown,
        all(play.loads == sum(job.loads for job in jobs) for play in plays),
    )


def _jobs(plan: Plan, shop: ShopKnown) -> tuple[tuple[str, ...], tuple[FloorCycle, ...], tuple[str, ...]]:
    """The lanes, the cycles as they are played, and the tools whose life nobody said."""
    lanes: dict[tuple[str, int], str] = {}
    found: list[FloorCycle] = []
    unknown: dict[str, None] = {}
    cycles = [cycle for cycle in plan.all_cycles if cycle.stations]
    if not cycles:
        raise NotNow("No station is there yet.", "Say on Place where the pieces sit.")
    share = {key: sum(key in cycle.setups for cycle in cycles) for one in cycles for key in one.setups}
    for cycle in cycles:
        machine = shop.machines.get(cycle.machine_id or 0)
        lane = ("machine", machine.id) if machine is not None else ("cycle", cycle.key)
        lanes.setdefault(lane, machine.name if machine is not None else f"{cycle.name}, machine open")
        times = plan.times(cycle.key)
        if times.cycle_s <= 0:
            raise NotNow(f"{cycle.name} has no time yet.", "Say on Tools how long its tools take.")
        job = _job(plan, cycle, share)
        tools, worn, bare = _lives(plan, cycle, shop, machine.name if machine is not None else "")
        unknown |= dict.fromkeys(bare)
        found.append(
            replace(
                job,
                lane=list(lanes).index(lane),
                cut_s=times.cycle_s,
                hands_s=max(times.load_to_load_s - times.cycle_s, 0.0),
                attended=machine is not None and machine.is_manual,
                tools=tools,
                worn=worn,
            )
        )
    return tuple(lanes.values()), tuple(found), tuple(unknown)


def _job(plan: Plan, cycle: Press, share: Mapping[int, int]) -> FloorCycle:
    """A cycle with its loads; times, lane and tools come after."""
    rooms = {key: sum(one.pieces for one in cycle.stations_of(key)) or 1 for key in cycle.setups}
    needs = {key: ceil(plan.quantity_of(plan.part_of(key)) / share[key]) for key in cycle.setups}
    lags: dict[int | None, int] = {}
    before: dict[int, int] = {}
    for key in cycle.setups:
        source = plan.setup_before(key)
        lags[key] = lags.get(source, 0) + 1 if source in cycle.setups else 0
        if source is not None and source not in cycle.setups:
            before[key] = source
    sizes = [c for key in cycle.setups for c in plan.gauged_in(key) if c.grade != "free"]
    every = min((c.every or plan.heading.gauged_every for c in sizes), default=1)
    loads = max(ceil(needs[key] / rooms[key]) + lags[key] for key in cycle.setups)
    every = 1 if plan.heading.has_consequence else max(every, 1)
    return FloorCycle(cycle.name, loads, rooms, needs, lags, before, every, len(sizes))


def _lives(
    plan: Plan, cycle: Press, shop: ShopKnown, machine: str
) -> tuple[dict[str, float], dict[str, float], tuple[str, ...]]:
    """The share of a life that a load takes of each tool, what of it is gone, and the tools whose life nobody said."""
    found: dict[str, float] = {}
    worn: dict[str, float] = {}
    bare: dict[str, None] = {}
    for key in cycle.setups:
        pieces = sum(one.pieces for one in cycle.stations_of(key)) or 1
        for step in plan.owner_of(key).tools_of(key):
            if not step.tool:
                continue
            known = shop.tool_of(step.tool, machine)
            each_s = step.cut_for_s(pieces) / pieces
            life = known.life.of(each_s) if known is not None and known.life is not None else None
            if life:
                found[step.name] = found.get(step.name, 0.0) + pieces / life
                left = known.left.of(each_s) if known is not None and known.left is not None else None
                if left is not None:
                    worn.setdefault(step.name, max(1 - left / life, 0.0))
            elif step.name not in found:
                bare[step.name] = None
    return found, worn, tuple(name for name in bare if name not in found)


@dataclass
class _Play:
    """One play."""

    jobs: Sequence[FloorCycle]
    hands: int
    chance: "Chance"
    spans: list[FloorSpan] = field(default_factory=list)
    tools: list[ToolUp] = field(default_factory=list)
    ended: float = 0.0
    loads: int = 0

    def run(self) -> "_Play":
        self.clock = simpy.Environment()
        self.pairs = simpy.Resource(self.clock, self.hands)
        self.there = {key: simpy.Container(self.clock) for job in self.jobs for key in job.rooms}
        self.worn: dict[tuple[int, str], float] = {}
        for lane in dict.fromkeys(job.lane for job in self.jobs):
            self.clock.process(self._machine([job for job in self.jobs if job.lane == lane]))
        self.clock.run()
        self.ended = max((span.end for span in self.spans), default=0.0)
        return self

    def _machine(self, jobs: Sequence[FloorCycle]) -> Happens:
        for job in jobs:
            for load in range(1, job.loads + 1):
                yield from self._pieces(job, load)
                yield from self._tools(job, load)
                yield from self._load(job, load)
                self._done(job, load)
                if load == 1 or not (load - 1) % job.every:
                    gauging = self.clock.process(self._gauge(job, load))
                    if load == 1:  # the first piece is judged before the next is cut
                        yield gauging

    def _pieces(self, job: FloorCycle, load: int) -> Happens:
        """Wait until the pieces of a load are there."""
        began = self.clock.now
        for key, source in job.before.items():
            left = job.needs[key] - (load - 1 - job.lags[key]) * job.rooms[key]
            many = min(job.rooms[key], left)
            if load > job.lags[key] and many > 0:
                yield self.there[source].get(many)
        self._span(job.lane, "waits for pieces", began, load)

    def _tools(self, job: FloorCycle, load: int) -> Happens:
        """Change what would not last this load."""
        for tool, share in job.tools.items():
            worn = self.worn.get((job.lane, tool), job.worn.get(tool, 0.0))
            if worn and worn + share > 1 / FULL:
                self.tools.append(ToolUp(job.lane, tool, job.name, load, self.clock.now))
                yield from self._by_hand(job.lane, "tool", CHANGE_S, load)
                worn = 0.0
            self.worn[job.lane, tool] = worn + share

    def _load(self, job: FloorCycle, load: int) -> Happens:
        if not job.attended:
            yield from self._by_hand(job.lane, "hands", job.hands_s, load)
            began = self.clock.now
            yield self.clock.timeout(job.cut_s)
            self._span(job.lane, "cuts", began, load)
            return
        began = self.clock.now
        with self.pairs.request() as pair:
            yield pair
            self._span(job.lane, "waits for hands", began, load)
            began = self.clock.now
            yield self.clock.timeout(self._takes(job.hands_s))
            self._span(job.lane, "hands", began, load)
            began = self.clock.now
            yield self.clock.timeout(job.cut_s)
            self._span(job.lane, "cuts", began, load)

    def _done(self, job: FloorCycle, load: int) -> None:
        self.loads += 1
        for key, room in job.rooms.items():
            left = job.needs[key] - (load - 1 - job.lags[key]) * room
            if load > job.lags[key] and left > 0:
                self.there[key].put(min(room, left))

    def _gauge(self, job: FloorCycle, load: int) -> Happens:
        readings = job.sizes * (1 if load == 1 else sum(job.rooms.values()))
        if readings:
            yield from self._by_hand(job.lane, "gauges", READING_S * readings, load, waits=load == 1)

    def _by_hand(self, lane: int, doing: Doing, seconds: float, load: int, *, waits: bool = True) -> Happens:
        if seconds <= 0:
            return
        began = self.clock.now
        with self.pairs.request() as pair:
            yield pair
            if waits:
                self._span(lane, "waits for hands", began, load)
            began = self.clock.now
            yield self.clock.timeout(self._takes(seconds))
            self._span(lane, doing, began, load)

    def _takes(self, seconds: float) -> float:
        """Draw how long the hands take."""
        sd = sqrt(log(1 + SPREAD**2))
        return seconds * exp(float(self.chance.normal(-sd * sd / 2, sd)))

    def _span(self, lane: int, doing: Doing, began: float, load: int) -> None:
        if self.clock.now > began:
            self.spans.append(FloorSpan(lane, doing, began, self.clock.now, load))
