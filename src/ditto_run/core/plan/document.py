"""The plan of a job: everything decided before the first cut, as one value."""

from dataclasses import dataclass, field, replace
from typing import Any, TypeVar

from ditto_run.core.errors import NotFound
from ditto_run.core.findings import Finding
from ditto_run.core.hold import (
    Centre,
    Chain,
    Feature,
    Form,
    Setup,
)
from ditto_run.core.method import Choice, Way
from ditto_run.core.part import (
    Characteristic,
    Finish,
    Heading,
    KitPart,
)
from ditto_run.core.part.features import Named, known_feature
from ditto_run.core.place import Layout, Placed, Station
from ditto_run.core.plan.cycles import CycleHead, Press, chosen_cycle
from ditto_run.core.plan.once import Once
from ditto_run.core.plan.woven import CycleTools, kept_cost
from ditto_run.core.program.choice import ProgramChoice, Trouble
from ditto_run.core.questions import Figure
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import KeptSheet, StockSize
from ditto_run.core.stock import Order
from ditto_run.core.tools import CycleTime, ToolStep, cycle_time
from ditto_run.core.tools.visits import Going, VisitRule, Visits
from ditto_run.core.tools.weave.cost import WeaveCost


@dataclass(frozen=True, slots=True)
class Override:
    """A finding that was let stand with a note.

    Args:
        problem: the sentence it was about.
        note: why it is right all the same.
        who: whose initials.
        code: the check; an older override has none and is known by its sentence.
        thing: what it is about.
        ground: what it rested on; when that changes it is asked again.
    """

    problem: str
    note: str
    who: str = ""
    code: str = ""
    thing: str = ""
    ground: str = ""

    def covers(self, finding: Finding) -> bool:
        """Return True if a finding is the one that was let stand, on the same ground."""
        if not self.code:
            return self.problem == finding.problem
        return (self.code, self.thing, self.ground) == finding.key


K = TypeVar(
    "K",
    Characteristic,
    Setup,
    ToolStep,
    Finish,
    StockSize,
    KeptSheet,
    KitPart,
    Way,
    Feature,
    Placed,
    CycleHead,
    Visits,
    VisitRule,
    Trouble,
)

LISTS: dict[type, tuple[str, str, str]] = {  # the list it stands in, what it is called, where it is chosen
    Characteristic: ("characteristics", "dimension", "Choose one of the dimensions on Part."),
    Setup: ("setups", "setup", "Choose one of the setups on Hold."),
    ToolStep: ("tool_steps", "tool step", "Choose one of the steps on Tools."),
    Finish: ("finishes", "finish", "Choose one of the finishes on Part."),
    StockSize: ("stock", "measured stock", "Choose one of those on Part."),
    KeptSheet: ("sheets", "sheet", "Choose one of the sheets kept with the job."),
    KitPart: ("kit", "part of the kit", "Choose one of the kit on Part."),
    Way: ("ways", "way", "Choose one of the ways on Method."),
    Feature: ("features", "feature", "Choose one of the features on Hold."),
    Placed: ("placed", "placed holder", "Choose one of those on the table."),
    CycleHead: ("cycles", "cycle", "Choose one of the cycles on Place."),
    Visits: ("visits", "order of visits", "Take one on Tools."),
    VisitRule: ("visit_rules", "rule of order", "Choose one at the order of visits."),
    Trouble: ("troubles", "trouble", "Choose one of the log on Tools, Program."),
}
FIRST_PART = 1


@dataclass(frozen=True, slots=True)
class PartPlan:
    """A part of the job with its own plan.

    Args:
        key: of the part; 1 for the one the job began with.
        plan: what is decided for it.
    """

    key: int
    plan: "Plan"


@dataclass(frozen=True, slots=True)
class Plan:
    """One plan. Changing it gives a new one.

    Args:
        heading: part, customer, quantity, unit.
        characteristics: what must come out the same, in strip order.
        setups: in the order they are run.
        stations: of all setups.
        tool_steps: of all setups, in order.
        next_number: next number for a characteristic, setup, tool step or anything else; none is used twice.
        finishes: finishes of the part.
        stock: sizes of what was bought, as sold and as measured.
        sheets: sheets kept with the job.
        kit: parts of one set, where the job is a kit.
        ways: ways of making it, side by side.
        choice: the way chosen, and why; None while open.
        form: block or turned.
        features: what the setups make.
        centres: whether each end wants, allows or forbids a centre hole.
        overrides: findings overridden with a note.
        order: material ordered for the job; None without one.
        placed: holders placed on the tables.
        layouts: what each setup's layout is checked with.
        cycles: cycles that were put together; setups are cut alone where nothing else is said.
        companions: the other parts that are made together with this one, each with its own plan.
        part: key of the part it is for; 1 where a job has one.
        figures: figures of questions that somebody said otherwise.
        visits: the order of visits of a cycle, where one was taken; else each tool goes round all.
        visit_rules: what an order of visits has to keep.
        goings: how the machine goes from station to station in a cycle, where somebody said it.
        programs: the program each cycle runs, where one was chosen.
        troubles: what went wrong with programs at the machine.
    """

    heading: Heading
    characteristics: tuple[Characteristic, ...] = ()
    setups: tuple[Setup, ...] = ()
    stations: tuple[Station, ...] = ()
    tool_steps: tuple[ToolStep, ...] = ()
    next_number: int = 1
    finishes: tuple[Finish, ...] = ()
    stock: tuple[StockSize, ...] = ()
    sheets: tuple[KeptSheet, ...] = ()
    kit: tuple[KitPart, ...] = ()
    ways: tuple[Way, ...] = ()
    choice: Choice | None = None
    order: Order | None = None
    form: Form = "block"
    features: tuple[Feature, ...] = ()
    centres: dict[str, Centre] = field(default_factory=dict)
    overrides: tuple[Override, ...] = ()
    placed: tuple[Placed, ...] = ()
    layouts: tuple[Layout, ...] = ()
    cycles: tuple[CycleHead, ...] = ()
    companions: tuple[PartPlan, ...] = ()
    part: int = FIRST_PART
    figures: tuple[Figure, ...] = ()
    visits: tuple[Visits, ...] = ()
    visit_rules: tuple[VisitRule, ...] = ()
    goings: tuple[Going, ...] = ()
    programs: tuple[ProgramChoice, ...] = ()
    troubles: tuple[Trouble, ...] = ()

    def find(self, kind: type[K], key: int) -> K:
        """Return the thing of that kind and number.

        Raises:
            NotFound: if there is none.
        """
        where, what, remedy = LISTS[kind]
        things: tuple[K, ...] = getattr(self, where)
        for thing in things:
            if thing.key == key:
                return thing
        raise NotFound(what, key, remedy)

    def number_for(self, kind: type[K], key: int | None) -> int:
        """Return the number of a thing that is there, or the next one for a new thing.

        Raises:
            NotFound: if a number is given that nothing of that kind has.
        """
        return self.next_number if key is None else self.find(kind, key).key

    def put(self, thing: K) -> "Plan":
        """Return the plan with a thing in the place of the one of its number, or added with the number it was given."""
        where = LISTS[type(thing)][0]
        there: tuple[K, ...] = getattr(self, where)
        changed: dict[str, Any] = {where: tuple(thing if old.key == thing.key else old for old in there)}
        if all(old.key != thing.key for old in there):
            changed = {where: (*there, thing), "next_number": max(self.next_number, thing.key + 1)}
        return replace(self, **changed)

    def without(self, thing: K) -> "Plan":
        """Return the plan without a thing."""
        where = LISTS[type(thing)][0]
        kept: dict[str, Any] = {where: tuple(old for old in getattr(self, where) if old.key != thing.key)}
        return replace(self, **kept)

    def without_order(self, cycle: int) -> "Plan":
        """Return the plan without what is said of the order of visits of a cycle, and its program."""
        return replace(
            self,
            visits=tuple(one for one in self.visits if one.key != cycle),
            visit_rules=tuple(one for one in self.visit_rules if one.cycle != cycle),
            goings=tuple(one for one in self.goings if one.key != cycle),
            programs=tuple(one for one in self.programs if one.key != cycle),
        )

    @property
    def front(self) -> "Plan":
        """The part in front without the others, and without what is decided for all of them together."""
        bare = replace(self, companions=(), cycles=(), visits=(), visit_rules=(), goings=())
        return replace(bare, programs=(), troubles=())

    @property
    def chosen_way(self) -> Way | None:
        """The way that was chosen on Method; None where none was."""
        return next(
            (way for way in self.ways if self.choice is not None and way.key == self.choice.way), None
        )

    def characteristic(self, number: int) -> Characteristic:
        """Return the characteristic of that number, of any part; NotFound if there is none."""
        found = next((c for c in self.all_characteristics if c.number == number), None)
        return found if found is not None else self.find(Characteristic, number)

    def drawn(self, characteristic: Characteristic) -> str:
        """Return number, name and size of a characteristic in one line; with its part where a job has several."""
        words = f"{characteristic.number} {characteristic.drawn}"
        if not self.companions:
            return words
        names = (
            self.part_names[one.key] for one in self.all_parts if characteristic in one.plan.characteristics
        )
        return f"{next(names, '')}: {words}"

    def setup(self, key: int) -> Setup:
        """Return the setup of that number, of any part; NotFound if there is none."""
        return self.owner_of(key).find(Setup, key)

    @property
    def all_parts(self) -> tuple[PartPlan, ...]:
        """Every part of the job with its plan, the one it began with first."""
        if not self.companions:
            return (PartPlan(self.part, self),)
        return tuple(sorted((PartPlan(self.part, self), *self.companions), key=lambda one: one.key))

    @property
    def all_characteristics(self) -> tuple[Characteristic, ...]:
        """The characteristics of every part."""
        return tuple(c for part in self.all_parts for c in part.plan.characteristics)

    def part_plan(self, part: int) -> "Plan":
        """Return the plan of a part; this one where it is gone."""
        return next((one.plan for one in self.companions if one.key == part), self)

    def owner_of(self, setup_key: int) -> "Plan":
        """Return the plan that has a setup; this one where none has it."""
        return self.part_plan(self.part_of(setup_key))

    def part_of(self, setup_key: int) -> int:
        """Return the part that a setup makes; the first where none has it."""
        return next(
            (one.key for one in self.companions if any(s.key == setup_key for s in one.plan.setups)),
            self.part,
        )

    def seen_from(self, part: int) -> "Plan":
        """Return the same job with another of its parts in front; what is decided for all of them goes along.

        Args:
            part: key of the part; the one in front stays where there is none of that key.
        """
        other = next((one for one in self.companions if one.key == part), None)
        if other is None:
            return self
        rest = (PartPlan(self.part, self.front), *(one for one in self.companions if one.key != part))
        return replace(
            other.plan,
            part=part,
            next_number=self.next_number,
            cycles=self.cycles,
            visits=self.visits,
            visit_rules=self.visit_rules,
            goings=self.goings,
            programs=self.programs,
            troubles=self.troubles,
            companions=tuple(sorted(rest, key=lambda one: one.key)),
        )

    @property
    def title(self) -> str:
        """What the job is called: its part, or its parts with what they share said once."""
        names = self.part_names
        whole = self.all_parts[0].plan.heading.part
        shared = whole.removesuffix(names[self.all_parts[0].key])
        return f"{shared}{' + '.join(names.values())}"

    @property
    def part_names(self) -> dict[int, str]:
        """What tells each part from the others, by its key: left and right; the whole name where they share no beginning."""
        names = {one.key: one.plan.heading.part for one in self.all_parts}
        words = [name.split(" ") for name in names.values()]
        alike = next((i for i, row in enumerate(zip(*words, strict=False)) if len(set(row)) > 1), 0)
        if len(names) == 1 or any(len(row) <= alike for row in words):
            return names
        return {key: " ".join(name.split(" ")[alike:]) for key, name in names.items()}

    def quantity_of(self, part: int) -> int:
        """Return how many of a part are wanted, [pieces]."""
        return self.part_plan(part).heading.quantity

    @property
    def wanted(self) -> int:
        """How many pieces are wanted, of all parts, [pieces]."""
        return sum(part.plan.heading.quantity for part in self.all_parts)

    def chain_of(self, part: int) -> tuple[int, ...]:
        """Return the keys of the setups a part goes through, in order."""
        return tuple(setup.key for setup in self.part_plan(part).setups)

    def setup_before(self, setup_key: int) -> int | None:
        """Return the setup a piece has been through before one; None for the first."""
        chain = [setup.key for setup in self.owner_of(setup_key).setups]
        at = chain.index(setup_key) if setup_key in chain else 0
        return chain[at - 1] if at else None

    @property
    def all_cycles(self) -> tuple[Press, ...]:
        """Every cycle of the job, in the order of the setups that are cut in it."""
        return _cycles_of(self)

    def cycle(self, key: int) -> Press:
        """Return the cycle of that key; a setup that is gone is a cycle without a station."""
        found = next((cycle for cycle in self.all_cycles if cycle.key == key), None)
        return found if found is not None else Press(key, "", None, (key,))

    def machine_of(self, station: Station) -> int | None:
        """Return the machine a station is on: that of its cycle, else that of its setup; None while open."""
        return self.cycle(station.cycle or station.setup).machine_id or self.setup(station.setup).machine_id

    def cycles_of(self, setup_key: int) -> tuple[Press, ...]:
        """Return the cycles a setup is cut in: first the one it has by itself, then those that were put together."""
        found = (cycle for cycle in self.all_cycles if setup_key in cycle.setups)
        return tuple(sorted(found, key=lambda cycle: cycle.key != setup_key))

    @property
    def cuts(self) -> tuple[tuple[Setup, Press], ...]:
        """Each setup of the part in front with each of the cycles it is cut in."""
        return tuple((setup, cycle) for setup in self.setups for cycle in self.cycles_of(setup.key))

    def cycle_of_placed(self, placed: Placed) -> int:
        """Return the key of the cycle a holder serves: that of its stations, else as it was placed; 0 for its setup's first."""
        mine = self.stations_in(placed.key)
        return mine[0].cycle if mine else placed.cycle

    def is_declared(self, key: int) -> bool:
        """Return True where a cycle was put together by somebody."""
        return any(head.key == key for head in self.cycles)

    def tool_step(self, key: int) -> ToolStep:
        """Return the tool step of that number; NotFound if there is none."""
        return self.find(ToolStep, key)

    def finish(self, key: int) -> Finish:
        """Return the finish of that number; NotFound if there is none."""
        return self.find(Finish, key)

    def stock_size(self, key: int) -> StockSize:
        """Return the measured stock of that number; NotFound if there is none."""
        return self.find(StockSize, key)

    def sheet(self, key: int) -> KeptSheet:
        """Return the kept sheet of that number; NotFound if there is none."""
        return self.find(KeptSheet, key)

    def kit_part(self, key: int) -> KitPart:
        """Return the part of the kit of that number; NotFound if there is none."""
        return self.find(KitPart, key)

    def way(self, key: int) -> Way:
        """Return the way of making of that number; NotFound if there is none."""
        return self.find(Way, key)

    @property
    def described(self) -> list[Named]:
        """The features that a line describes, with their names; those whose line cannot be read are known by name alone."""
        return [*_described(self)]

    def feature(self, key: int) -> Feature:
        """Return the feature of that number; NotFound if there is none."""
        return self.find(Feature, key)

    def holder(self, key: int) -> Placed:
        """Return the placed holder of that number; NotFound if there is none."""
        return self.find(Placed, key)

    @property
    def not_begun(self) -> frozenset[str]:
        """Steps nobody has looked at: Method without a way, Stock without a sheet, Place and Tools without a setup."""
        stock = self.order is not None or any(sheet_of(sheet.kind).step == "stock" for sheet in self.sheets)
        held = bool(self.setups)  # without a setup there is nothing to place, and no tool to choose
        begun = {"method": bool(self.ways or self.choice), "stock": stock, "place": held, "tools": held}
        return frozenset(step for step, looked_at in begun.items() if not looked_at)

    def same_work(self, other: "Plan") -> bool:
        """Return whether another plan asks the same of a run: all that is gauged, held, placed and cut."""
        mine, theirs = (
            (p.heading, p.characteristics, p.setups, p.stations, p.tool_steps, p.cycles, p.visits, p.goings)
            for p in (self, other)
        )
        if mine != theirs or len(self.companions) != len(other.companions):
            return False
        pairs = zip(self.companions, other.companions, strict=True)
        return all(a.key == b.key and a.plan.same_work(b.plan) for a, b in pairs)

    def layout(self, setup_key: int) -> Layout:
        """Return what a setup's layout is checked with; nothing known while nobody said."""
        layouts = self.owner_of(setup_key).layouts
        return next((layout for layout in layouts if layout.setup == setup_key), Layout(setup_key))

    def stations_in(self, placed_key: int) -> tuple[Station, ...]:
        """Return the stations of a placed holder."""
        stations = (station for one in self.all_parts for station in one.plan.stations)
        return tuple(station for station in stations if station.placed == placed_key)

    def on_table(self, setup_key: int, cycle_key: int = 0) -> tuple[Placed, ...]:
        """Return what stands on the table while a setup runs: its own holders, those cut with it, and those that stay.

        Args:
            setup_key: of the setup.
            cycle_key: the cycle that is looked at; the first one the setup is cut in where it is not cut in that.
        """
        looked_at = chosen_cycle(self.cycles_of(setup_key), cycle_key)
        if looked_at is None:
            return ()
        cycles = self.all_cycles
        seats = {s.placed: cycle for cycle in cycles for s in cycle.stations if s.placed}
        own = {
            setup.key: [cycle for cycle in cycles if setup.key in cycle.setups]
            for one in self.all_parts
            for setup in one.plan.setups
        }
        found = []
        for placed in (placed for one in self.all_parts for placed in one.plan.placed):
            serves = seats.get(placed.key) or chosen_cycle(own.get(placed.setup, ()), placed.cycle)
            same = serves is not None and serves.machine_id == looked_at.machine_id
            if same and (placed.setup in looked_at.setups or (placed.stays and looked_at.machine_id)):
                found.append(placed)
        return tuple(found)

    @property
    def chain(self) -> Chain:
        """The chain of setups as it is checked."""
        critical = {c.number for c in self.characteristics if c.grade == "critical"}
        carrying = frozenset(f.key for f in self.features if f.characteristic in critical)
        return Chain(self.form, self.features, self.setups, self.centres, carrying)

    def stock_users(self) -> dict[int, list[str]]:
        """Return the names of the sheets that use each measured stock, by its key."""
        users: dict[int, list[str]] = {}
        for sheet in self.sheets:
            for entry in sheet_of(sheet.kind).entries:
                text = sheet.texts.get(entry.name, "")
                if entry.kind == "stock" and text.isdigit():
                    users.setdefault(int(text), []).append(sheet.name)
        return users

    def position(self, setup_key: int) -> int:
        """Return the place of a setup in the chain, from 1; 0 if it is gone."""
        setups = self.owner_of(setup_key).setups
        return next((i for i, setup in enumerate(setups, 1) if setup.key == setup_key), 0)

    def stations_of(self, setup_key: int) -> tuple[Station, ...]:
        """Return the stations of one setup, in whatever cycle they are."""
        owner = self.owner_of(setup_key)
        return tuple(station for station in owner.stations if station.setup == setup_key)

    def stations_at(self, setup_key: int, cycle_key: int) -> tuple[Station, ...]:
        """Return the stations of a setup in one of its cycles; 0, or one it is not cut in, is the first."""
        cycle = chosen_cycle(self.cycles_of(setup_key), cycle_key)
        return cycle.stations_of(setup_key) if cycle else ()

    def tools_of(self, setup_key: int) -> tuple[ToolStep, ...]:
        """Return the tool steps of one setup, in order."""
        return tuple(step for step in self.owner_of(setup_key).tool_steps if step.setup == setup_key)

    def gauged_in(self, setup_key: int) -> tuple[Characteristic, ...]:
        """Return the characteristics gauged in one setup; free ones come last."""
        owner = self.owner_of(setup_key)
        if owner is not self:
            return owner.gauged_in(setup_key)
        mine = [c for c in self.characteristics if setup_key in {self.gauging_setup(c), c.also_in}]
        return tuple(sorted(mine, key=lambda c: c.grade == "free"))

    def gauging_setup(self, characteristic: Characteristic) -> int | None:
        """Return the setup a characteristic is gauged in: said, else where it is made, else the last one.

        It is made where its feature is cut last. None while there is no setup.
        """
        keys = [setup.key for setup in self.setups]
        for said in (characteristic.setup, characteristic.made_in):
            if said in keys:
                return said
        made = self.making_setup(characteristic)
        return made if made is not None else keys[-1] if keys else None

    def making_setup(self, characteristic: Characteristic) -> int | None:
        """Return the last setup that cuts a feature which carries a characteristic; None where no feature does."""
        carrying = {f.key for f in self.features if f.characteristic == characteristic.number}
        found = [setup.key for setup in self.setups if carrying & set(setup.cuts)]
        return found[-1] if found else None

    def times(self, key: int, pieces: int | None = None) -> CycleTime:
        """Return the planned times of one load of a cycle; a full load if not said.

        A tool that works in several of its setups is changed once: it goes round all stations.

        Args:
            key: of the cycle, or of a setup that is cut alone.
            pieces: in the load, of all its setups. [pieces]
        """
        cycle = self.cycle(key)
        room = {setup: sum(s.pieces for s in cycle.stations_of(setup)) for setup in cycle.setups}
        full = sum(room.values())
        steps: list[ToolStep] = []
        shares: dict[int, float] = {}
        handling_s, changed = 0.0, set()
        for setup, mine in room.items():
            owner = self.owner_of(setup)
            part = mine / full if full else 1.0
            handling_s += part * next((s.handling_s for s in owner.setups if s.key == setup), 0.0)
            for step in owner.tools_of(setup):
                share = self.share_of(step, cycle)
                if not share:
                    continue
                shares[step.key] = share * part
                again = step.tool and (step.tool in changed) and len(room) > 1
                steps.append(replace(step, change_s=0.0) if again else step)
            changed |= {step.tool for step in steps}
        found = cycle_time(steps, pieces or max(full, 1), handling_s, shares)
        taken = self.taken_costs.get(key)
        if taken is not None:
            whole_s = cycle_time(steps, max(full, 1), handling_s, shares).cycle_s
            ratio = taken.cycle_ms / 1000 / whole_s if whole_s else 1.0
            found = found.ordered(ratio, pieces or max(full, 1))
        if any(one.key == key and one.runs_on for one in self.goings):
            found = found.loaded_meanwhile(pieces or max(full, 1))
        return found

    @property
    def taken_costs(self) -> dict[int, WeaveCost | None]:
        """What the order taken for each cycle takes, by its key; None where it no longer fits what is there."""
        return _taken_costs(self)

    def cycle_tools(self, cycle: Press) -> CycleTools:
        """Return what of a cycle makes its weave."""
        chains = [self.chain_of(one.key) for one in self.all_parts]
        return CycleTools(
            cycle.stations,
            {setup: self.tools_of(setup) for setup in cycle.setups},
            {chain[-1] for chain in chains if chain},
            {setup: self.setup(setup).handling_s for setup in cycle.setups},
            next((one for one in self.goings if one.key == cycle.key), Going(cycle.key)),
            tuple(rule for rule in self.visit_rules if rule.cycle == cycle.key),
        )

    def taken_order(self, key: int) -> Visits | None:
        """Return the order of visits that was taken for a cycle; None where none was."""
        return next((one for one in self.visits if one.key == key), None)

    def share_of(self, step: ToolStep, cycle: Press | None = None) -> float:
        """Return the share of its setup's pieces in a load that a tool step cuts, [-]: those at its stations, or all.

        Args:
            step: the tool step.
            cycle: the load is one of it; None for one of all stations of the setup.
        """
        everywhere = self.stations_of(step.setup)
        here = everywhere if cycle is None else cycle.stations_of(step.setup)
        named = {station.label for station in everywhere} & set(step.stations)
        if not named or not here:
            return 1.0
        return sum(s.pieces for s in here if s.label in named) / sum(s.pieces for s in here)


@Once
def _described(plan: Plan) -> tuple[Named, ...]:
    """The features that a line describes."""
    read = [(f, known_feature(f.line, plan.form, plan.heading.unit)) for f in plan.features if f.line]
    return tuple(Named(f.key, f.name, feature) for f, feature in read if feature is not None)


@Once
def _taken_costs(plan: Plan) -> dict[int, WeaveCost | None]:
    """What the order taken for each cycle takes; None where it is for other stations or steps than there are now."""
    cycles = {one.key: one for one in plan.all_cycles}
    return {
        one.key: kept_cost(plan.cycle_tools(cycles[one.key]), one) for one in plan.visits if one.key in cycles
    }


@Once
def _cycles_of(plan: Plan) -> tuple[Press, ...]:
    """Every cycle of a job, in the order of the setups that are cut in it."""
    setups = [setup for part in plan.all_parts for setup in part.plan.setups]
    stations = [station for part in plan.all_parts for station in part.plan.stations]
    named = {head.key: head for head in plan.cycles}
    of_own: dict[int, list[Station]] = {}
    together: dict[int, list[Station]] = {}
    for station in stations:
        there = together if station.cycle in named else of_own
        there.setdefault(station.cycle if station.cycle in named else station.setup, []).append(station)
    order = [setup.key for setup in setups]
    found: dict[int, Press] = {}
    cut_together: set[int] = set()
    for setup in setups:
        for key, mine in together.items():
            if key not in found and any(station.setup == setup.key for station in mine):
                cut = sorted({station.setup for station in mine}, key=order.index)
                machine = named[key].machine_id or setup.machine_id
                found[key] = Press(key, named[key].name, machine, tuple(cut), tuple(mine), declared=True)
                cut_together |= set(cut)
        if setup.key in of_own or setup.key not in cut_together:
            own = tuple(of_own.get(setup.key, ()))
            found[setup.key] = Press(setup.key, setup.name, setup.machine_id, (setup.key,), own)
            cut_together.add(setup.key)
    return tuple(found.values())
