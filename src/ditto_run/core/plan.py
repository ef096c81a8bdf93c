"""The plan of a job: everything decided before the first cut, as one value."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any, TypeVar

from ditto_run.core.errors import DittoError, NotFound
from ditto_run.core.findings import Finding
from ditto_run.core.hold import (
    Centre,
    Chain,
    Feature,
    Form,
    Setup,
    centre_findings,
    check_chain,
    hold_findings,
)
from ditto_run.core.method import Choice, Way, method_findings
from ditto_run.core.method.order import Operation
from ditto_run.core.part import (
    Characteristic,
    Finish,
    Heading,
    KitPart,
    finish_findings,
    part_findings,
    stock_findings,
)
from ditto_run.core.place import Layout, Placed, Standing, Station, clashes, place_findings, stand
from ditto_run.core.place.offsets import Register
from ditto_run.core.place.predict import backup_findings, offset_findings
from ditto_run.core.place.worth import Cycle
from ditto_run.core.sheet_kinds import SHEETS, sheet_of
from ditto_run.core.sheets import KeptSheet, Known, StockSize
from ditto_run.core.shop import Bed, Machine
from ditto_run.core.stock import Order, order_findings
from ditto_run.core.tools import CycleTime, ToolStep, cycle_time, tool_findings


@dataclass(frozen=True, slots=True)
class Override:
    """A finding overridden with a note: the sentence it was about, why it is right all the same, and whose initials."""

    problem: str
    note: str
    who: str = ""


K = TypeVar("K", Finish, StockSize, KeptSheet, KitPart, Way, Feature, Placed)


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

    def characteristic(self, number: int) -> Characteristic:
        """Return the characteristic of that number.

        Raises:
            NotFound: if there is none.
        """
        for characteristic in self.characteristics:
            if characteristic.number == number:
                return characteristic
        raise NotFound("dimension", number, "Choose one of the dimensions on Part.")

    def setup(self, key: int) -> Setup:
        """Return the setup of that key.

        Raises:
            NotFound: if there is none.
        """
        for setup in self.setups:
            if setup.key == key:
                return setup
        raise NotFound("setup", key, "Choose one of the setups on Hold.")

    def tool_step(self, key: int) -> ToolStep:
        """Return the tool step of that key.

        Raises:
            NotFound: if there is none.
        """
        for step in self.tool_steps:
            if step.key == key:
                return step
        raise NotFound("tool step", key, "Choose one of the steps on Tools.")

    @property
    def not_begun(self) -> frozenset[str]:
        """Steps that may be left out and have not been looked at: Method without a way, Stock without a sheet."""
        stock = self.order is not None or any(sheet_of(sheet.kind).step == "stock" for sheet in self.sheets)
        begun = {"method": bool(self.ways or self.choice), "stock": stock}
        return frozenset(step for step, looked_at in begun.items() if not looked_at)

    def same_work(self, other: "Plan") -> bool:
        """Return whether another plan asks the same of a run: all that is gauged, held, placed and cut."""
        mine, theirs = (
            (p.heading, p.characteristics, p.setups, p.stations, p.tool_steps) for p in (self, other)
        )
        return mine == theirs

    def finish(self, key: int) -> Finish:
        """Return the finish of that key.

        Raises:
            NotFound: if there is none.
        """
        return _by_key(self.finishes, key, "finish", "Choose one of the finishes on Part.")

    def stock_size(self, key: int) -> StockSize:
        """Return the measured stock of that key.

        Raises:
            NotFound: if there is none.
        """
        return _by_key(self.stock, key, "measured stock", "Choose one of those on Part.")

    def sheet(self, key: int) -> KeptSheet:
        """Return the kept sheet of that key.

        Raises:
            NotFound: if there is none.
        """
        return _by_key(self.sheets, key, "sheet", "Choose one of the sheets kept with the job.")

    def kit_part(self, key: int) -> KitPart:
        """Return the part of the kit of that key.

        Raises:
            NotFound: if there is none.
        """
        return _by_key(self.kit, key, "part of the kit", "Choose one of the kit on Part.")

    def way(self, key: int) -> Way:
        """Return the way of making of that key.

        Raises:
            NotFound: if there is none.
        """
        return _by_key(self.ways, key, "way", "Choose one of the ways on Method.")

    def feature(self, key: int) -> Feature:
        """Return the feature of that key.

        Raises:
            NotFound: if there is none.
        """
        return _by_key(self.features, key, "feature", "Choose one of the features on Hold.")

    def holder(self, key: int) -> Placed:
        """Return the placed holder of that key.

        Raises:
            NotFound: if there is none.
        """
        return _by_key(self.placed, key, "placed holder", "Choose one of those on the table.")

    def layout(self, setup_key: int) -> Layout:
        """Return what a setup's layout is checked with; nothing known while nobody said."""
        return next((layout for layout in self.layouts if layout.setup == setup_key), Layout(setup_key))

    def stations_in(self, placed_key: int) -> tuple[Station, ...]:
        """Return the stations of a placed holder."""
        return tuple(station for station in self.stations if station.placed == placed_key)

    def on_table(self, setup_key: int) -> tuple[Placed, ...]:
        """Return what stands on the table while a setup runs: its own holders, and those that stay from others."""
        machines = {setup.key: setup.machine_id for setup in self.setups}
        here = machines.get(setup_key)
        return tuple(
            placed for placed in self.placed
            if placed.setup == setup_key or (placed.stays and here is not None and machines.get(placed.setup) == here)
        )  # fmt: skip

    def standings(self, setup_key: int, bed: Bed) -> tuple[Standing, ...]:
        """Return what stands on the table while a setup runs, each with its stations."""
        return tuple(
            stand(placed, self.stations_in(placed.key), self.layout(placed.setup), bed)
            for placed in self.on_table(setup_key)
        )

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
        return next((i for i, setup in enumerate(self.setups, 1) if setup.key == setup_key), 0)

    def stations_of(self, setup_key: int) -> tuple[Station, ...]:
        """Return the stations of one setup."""
        return tuple(station for station in self.stations if station.setup == setup_key)

    def tools_of(self, setup_key: int) -> tuple[ToolStep, ...]:
        """Return the tool steps of one setup, in order."""
        return tuple(step for step in self.tool_steps if step.setup == setup_key)

    def gauged_in(self, setup_key: int) -> tuple[Characteristic, ...]:
        """Return the characteristics gauged in one setup; free ones come last."""
        mine = [c for c in self.characteristics if c.setup in {None, setup_key}]
        return tuple(sorted(mine, key=lambda c: c.grade == "free"))

    def cycle(self, setup_key: int, pieces: int | None = None) -> CycleTime:
        """Return the planned times of one load of a setup; a full load if not said."""
        full = sum(station.pieces for station in self.stations_of(setup_key))
        return cycle_time(self.tools_of(setup_key), pieces or max(full, 1), self.setup(setup_key).handling_s)


def _by_key(things: tuple[K, ...], key: int, what: str, remedy: str) -> K:
    for thing in things:
        if thing.key == key:
            return thing
    raise NotFound(what, key, remedy)


def known_of(
    plan: Plan, machines: Mapping[int, Machine] | None = None, materials: Mapping[str, Any] | None = None
) -> Known:
    """Return what a plan knows for its sheets; the shop's drawers are added where a page asks for them.

    The sheets a job has one of are worked out in their order, each with the results of those before it.
    """
    way = next((way for way in plan.ways if plan.choice is not None and way.key == plan.choice.way), None)
    heading = plan.heading
    trials = way.trials if way else 0
    known = Known(
        heading.unit, heading.quantity, {size.key: size for size in plan.stock}, materials=dict(materials or {}),
        machines=dict(machines or {}), operations=_operations(plan), spares=heading.spares, trials=trials,
        scrap=float(way.scrap) if way else 0.0, start=heading.quantity + heading.spares + trials, cycles=_cycles(plan),
        layouts={layout.setup: layout for layout in plan.layouts}, placed={setup.key: plan.on_table(setup.key) for setup in plan.setups},
    )  # fmt: skip
    by_kind = {sheet.kind: sheet for sheet in plan.sheets}
    for kind in SHEETS:
        if kind.single and kind.kind in by_kind:
            try:
                result = kind.answer(by_kind[kind.kind].texts, known).result
            except DittoError:
                continue  # its own page says why; what depends on it goes on without it
            known = replace(
                known, kept={**known.kept, kind.kind: result}, start=getattr(result, "start", known.start)
            )
    return known


def _cycles(plan: Plan) -> tuple[Cycle, ...]:
    """Return the times of each setup whatever its number of stations: cutting a piece, changes a load, handling a piece."""
    return tuple(
        Cycle(
            setup.key, setup.name, setup.machine_id, sum(step.cut_s for step in plan.tools_of(setup.key)),
            sum(step.change_s for step in plan.tools_of(setup.key)), setup.handling_s,
        )
        for setup in plan.setups
    )  # fmt: skip


def _operations(plan: Plan) -> tuple[Operation, ...]:
    """Return the setups as operations: cutting and changing tools a piece, handling a piece, machine."""
    found = []
    for number, setup in enumerate(plan.setups, 1):
        times = plan.cycle(setup.key)
        cut_s = times.per_piece_s - setup.handling_s
        found.append(
            Operation(
                f"{number} {setup.name}",
                cut_s,
                setup.handling_s,
                0.0,
                str(setup.machine_id or f"own {number}"),
            )
        )
    return tuple(found)


def sheet_findings(plan: Plan, machines: Mapping[int, Machine]) -> list[Finding]:
    """Return what the kept sheets find wrong, each with the sheet's name; notes stay on the sheet itself."""
    found = []
    known = known_of(plan, machines)
    for sheet in plan.sheets:
        kind = sheet_of(sheet.kind)
        if any(
            entry.kind in {"material", "holder"} and sheet.texts.get(entry.name) for entry in kind.entries
        ):
            continue  # only the page knows the shop's materials and holders
        try:
            said = kind.answer(sheet.texts, known).findings
        except DittoError as refusal:
            said = (Finding(kind.step, "ask", "sheet-not-worked-out", refusal.problem, refusal.remedy),)
        found += [
            Finding(kind.step, f.weight, f.code, f"{sheet.name}: {f.problem}", f.remedy)
            for f in said
            if f.weight != "note" and f.code not in NEEDS_DRAWERS
        ]
    return found


NEEDS_DRAWERS = {"no-drill", "no-reamer-fits"}  # only the page knows the shop's drawers


def plan_findings(
    plan: Plan, machines: Mapping[int, Machine], register: Register | None = None
) -> list[Finding]:
    """Return everything the plan still wants, in the order of the steps; what was overridden is left out."""
    overridden = {override.problem for override in plan.overrides}
    return [f for f in _all_findings(plan, machines, register) if f.problem not in overridden]


def _all_findings(plan: Plan, machines: Mapping[int, Machine], register: Register | None) -> list[Finding]:
    found = part_findings(plan.heading, plan.characteristics)
    found += finish_findings(plan.characteristics, plan.finishes)
    found += stock_findings(plan.stock, plan.heading.unit, plan.stock_users())
    found += sheet_findings(plan, machines)
    found += method_findings(plan.ways, plan.choice, plan.heading.quantity)
    found += order_findings(plan.order, wants_trace=plan.heading.has_consequence)
    found += hold_findings(plan.setups, machines) + check_chain(plan.chain) + centre_findings(plan.chain)
    for setup in plan.setups:
        machine = machines.get(setup.machine_id or 0)
        found += place_findings(setup.key, setup.name, plan.stations, machine)
        found += [
            finding for finding in layout_findings(plan, setup.key, machine, register) if finding not in found
        ]
        found += tool_findings(setup.key, setup.name, plan.tool_steps)
    return found


def layout_findings(
    plan: Plan, setup_key: int, machine: Machine | None, register: Register | None = None
) -> list[Finding]:
    """Return what is wrong with the layout of a setup and its offsets; nothing where no table is known or nothing is placed."""
    if machine is None or machine.bed is None or not any(p.setup == setup_key for p in plan.placed):
        return []
    standings = plan.standings(setup_key, machine.bed)
    found = [clash.finding for clash in clashes(standings, machine.bed, plan.heading.unit)]
    if register is not None:
        found += offset_findings(standings, register.of(machine.id), machine.bed, plan.heading.unit)
        found += backup_findings(machine, register)
    return found
