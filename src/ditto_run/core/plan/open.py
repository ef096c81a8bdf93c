"""What is open in a plan: one list for pages, gate, prints and API, heaviest first, with what was let stand."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from ditto_run.core.errors import BeingWorkedOut
from ditto_run.core.findings import ORDER, Finding, Yields
from ditto_run.core.hold import Setup, centre_findings, check_chain, hold_findings
from ditto_run.core.hold.heights import Contact
from ditto_run.core.method import method_findings
from ditto_run.core.part import finish_findings, part_findings, stock_findings
from ditto_run.core.part.shape.fits import feature_findings
from ditto_run.core.place import clashes, place_findings, together_findings
from ditto_run.core.place.offsets import Register
from ditto_run.core.place.predict import backup_findings, offset_findings
from ditto_run.core.place.zeros import zero_findings
from ditto_run.core.plan.asked import (
    asked_findings,
    hold_asked,
    method_asked,
    part_asked,
    stock_asked,
    tools_asked,
)
from ditto_run.core.plan.cycles import Press
from ditto_run.core.plan.document import FIRST_PART, Override, Plan
from ditto_run.core.plan.held import (
    as_it_comes,
    blank_findings,
    contacts,
    room_findings,
    spin_findings,
    standings,
)
from ditto_run.core.plan.made import made_findings
from ditto_run.core.plan.on_the_piece import order_on_piece
from ditto_run.core.plan.programs_open import program_findings
from ditto_run.core.plan.shop_known import ShopKnown
from ditto_run.core.plan.tool_sheet import pocket_findings
from ditto_run.core.plan.visited import visits_findings
from ditto_run.core.plan.worked import Worked, work_out
from ditto_run.core.questions import Asked
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.shop import Machine
from ditto_run.core.stock import order_findings
from ditto_run.core.tools import reach_findings, tool_findings
from ditto_run.core.tools.order_rules import order_rule_findings, own_order_findings

NEEDS_DRAWERS = {"no-drill", "no-reamer-fits"}  # said only where the shop's drawers were looked at


@dataclass(frozen=True, slots=True)
class OpenThing:
    """One thing that is open.

    Args:
        finding: what a check says of it.
        stands: the note it was let stand with; None while nobody did.
        part: key of the part it is about.
        part_name: what that is called; empty where the job has one.
    """

    finding: Finding
    stands: Override | None = None
    part: int = FIRST_PART
    part_name: str = ""

    @property
    def yields(self) -> Yields:
        """To what it yields."""
        return self.finding.yields

    @property
    def is_open(self) -> bool:
        """True while it wants an answer: not a plain note, and not let stand."""
        return self.yields != "plain" and self.stands is None


def open_things(worked: Worked, register: Register | None = None) -> tuple[OpenThing, ...]:
    """Return everything that is open or was let stand, heaviest first, in the order of the steps.

    Args:
        worked: the plan worked out.
        register: the offsets as they stand; None looks at none.
    """
    plan = worked.plan
    name = plan.heading.part if plan.companions else ""
    found = [
        OpenThing(finding, _standing(finding, plan.overrides), plan.part, name)
        for finding in _findings(worked, register)
    ]
    return tuple(sorted(found, key=lambda thing: ORDER.index(thing.yields)))


def _standing(finding: Finding, overrides: Iterable[Override]) -> Override | None:
    if finding.yields == "never":
        return None
    return next((override for override in overrides if override.covers(finding)), None)


def plan_findings(
    plan: Plan, machines: Mapping[int, Machine], register: Register | None = None
) -> list[Finding]:
    """Return everything a plan still wants, in the order of the steps; what was let stand is left out."""
    found = []
    for one in plan.all_parts:
        view = plan.seen_from(one.key)
        worked = work_out(view, ShopKnown(machines, has_drawers=False))
        found += [f for f in _findings(worked, register) if _standing(f, view.overrides) is None]
    return found


def _findings(worked: Worked, register: Register | None) -> list[Finding]:
    plan, machines, held = worked.plan, worked.machines, contacts(worked)
    found = part_findings(plan.heading, plan.characteristics)
    found += finish_findings(plan.characteristics, plan.finishes)
    found += feature_findings(plan.described, plan.form, plan.heading.unit)
    found += stock_findings(plan.stock, plan.heading.unit, plan.stock_users())
    found += sheet_findings(worked) + supplied_findings(plan)
    found += blank_findings(plan, worked.result_of("blank"))
    found += method_findings(plan.ways, plan.choice, plan.heading.quantity)
    due = plan.heading.due.isoformat() if plan.heading.due else ""
    found += order_findings(plan.order, wants_trace=plan.heading.has_consequence, due=due)
    found += hold_findings(plan.setups, machines) + held_findings(worked, held) + centre_findings(plan.chain)
    found += asked_findings(
        worked, (*part_asked(worked), *_begun(worked), *hold_asked(worked, held), *tools_asked(worked))
    )
    found += gauging_findings(plan) + between_findings(plan) + visits_findings(plan)
    found += program_findings(plan)
    by_setup = {one.setup.key: one for one in held}
    for setup in plan.setups:
        machine = machines.get(setup.machine_id or 0)
        found += cycle_findings(plan, setup, machines, register)
        for cycle in plan.cycles_of(setup.key):
            table = machines.get(cycle.machine_id or 0)
            more = layout_findings(plan, setup.key, table, register, cycle.key)
            found += [finding for finding in more if finding not in found]
        found += _of_tools(worked, setup) + order_on_piece(worked, setup, by_setup.get(setup.key))
        found += too_short(plan, by_setup.get(setup.key))
        if setup.key in by_setup:
            found += room_findings(by_setup[setup.key], machine, plan.heading.unit)
            found += spin_findings(by_setup[setup.key], worked)
    return found


def holding_findings(worked: Worked) -> list[Finding]:
    """Return what is wrong with, or has to be asked of, how the piece is held in each setup; nothing else of the plan is looked at.

    Args:
        worked: the plan worked out.
    """
    plan, held = worked.plan, contacts(worked)
    found = held_findings(worked, held) + asked_findings(worked, hold_asked(worked, held))
    for one in held:
        machine = worked.machines.get(one.setup.machine_id or 0)
        found += room_findings(one, machine, plan.heading.unit) + spin_findings(one, worked)
    return found


def _of_tools(worked: Worked, setup: Setup) -> list[Finding]:
    """What the tool steps of a setup want: times, what they make, their order, a number for each tool."""
    plan = worked.plan
    return [
        *tool_findings(setup.key, setup.name, plan.tool_steps),
        *made_findings(plan, setup),
        *order_rule_findings(setup.key, setup.name, plan.tool_steps),
        *own_order_findings(setup.key, setup.name, plan.tool_steps, worked.shop.own_orders),
        *pocket_findings(worked, setup),
    ]


def _begun(worked: Worked) -> list[Asked]:
    """The questions of Method and Stock that count: a step nobody looked at asks nothing of the gate."""
    kept = {sheet.kind for sheet in worked.plan.sheets}
    weighed = [one for one in method_asked(worked) if worked.plan.ways or one.question in kept]
    return weighed + [one for one in stock_asked(worked) if one.question in kept]


def cycle_findings(
    plan: Plan, setup: Setup, machines: Mapping[int, Machine], register: Register | None
) -> list[Finding]:
    """Return what Place wants of a setup in every cycle it is cut in, and what is wrong with what is cut with it.

    A cycle is looked at with the first of its setups, so that nothing is said twice.

    Args:
        plan: the job, seen from the part of the setup.
        setup: the setup.
        machines: of the shop, by number.
        register: the offsets as they stand; None looks at none.
    """
    cycles = [cycle for cycle in plan.all_cycles if setup.key in cycle.setups]
    starts = setup.key == plan.all_cycles[0].setups[0]
    found = []
    for cycle in cycles:
        machine = machines.get(cycle.machine_id or 0)
        mine = cycle.stations_of(setup.key)
        if mine or not any(other.stations_of(setup.key) for other in cycles):
            found += place_findings(setup.key, setup.name, mine, machine, starts=starts)
        if setup.key != cycle.setups[0]:
            continue
        if len(cycle.setups) > 1:
            found += together_findings(cycle.name, cycle.stations) + balance_findings(plan, cycle)
        if machine is not None and register is not None:
            found += zero_findings(cycle.name, cycle.stations, register.of(machine.id), machine)
    return found


def balance_findings(plan: Plan, cycle: Press) -> list[Finding]:
    """Return where one side of a cycle takes another number of pieces a load than the side before it in the same cycle makes.

    Source:
        Own derivation: what comes out of one side and what goes into the next are equal only with as many pieces a load.
    """
    room = {setup: sum(s.pieces for s in cycle.stations_of(setup)) for setup in cycle.setups}
    found = []
    for setup, takes in room.items():
        before = plan.setup_before(setup)
        makes = room.get(before or 0, takes)
        if before is None or makes == takes:
            continue
        one, other = plan.setup(before).name, plan.setup(setup).name
        then = f"pieces pile up before {other}" if makes > takes else f"{other} is often not full"
        found.append(
            Finding(
                "place",
                "note",
                "cycle-unequal",
                f"{cycle.name}: {one} makes {makes} a load and {other} takes {takes}, so {then}.",
                "Give both sides room for as many pieces, or cut one of them alone.",
            )
        )
    return found


def held_findings(worked: Worked, held: Iterable[Contact]) -> list[Finding]:
    """Return what is wrong with the chain of setups: by size where sizes are known, by names where they are not."""
    held = tuple(held)
    chain = replace(
        worked.plan.chain,
        by_size=frozenset(one.setup.key for one in held if one.judged),
        as_it_comes=as_it_comes(worked.plan, worked.result_of("blank")),
    )
    return check_chain(chain) + [finding for one in held for finding in one.findings]


def sheet_findings(worked: Worked) -> list[Finding]:
    """Return what the kept sheets find wrong, each with the sheet's name; notes stay on the sheet itself."""
    found = []
    for sheet in worked.plan.sheets:
        kind = sheet_of(sheet.kind)
        asks = any(e.kind in {"material", "holder"} and sheet.texts.get(e.name) for e in kind.entries)
        if asks and not worked.shop.has_drawers:
            continue
        refusal, answer = worked.refusals.get(sheet.key), worked.answers.get(sheet.key)
        said = answer.findings if answer else ()
        if refusal is not None:
            code = "being-worked-out" if isinstance(refusal, BeingWorkedOut) else "sheet-not-worked-out"
            said = (Finding(kind.step, "ask", code, refusal.problem, refusal.remedy),)
        found += [
            Finding(kind.step, f.weight, f.code, f"{sheet.name}: {f.problem}", f.remedy)
            for f in said
            if f.weight != "note" and (worked.shop.has_drawers or f.code not in NEEDS_DRAWERS)
        ]
    return found


def too_short(plan: Plan, held: Contact | None) -> list[Finding]:
    """Return the question where no tool of a setup reaches down to its deepest cut."""
    heights = held.heights if held is not None else None
    if held is None or heights is None or heights.deepest is None:
        return []
    deep = heights.finished - heights.deepest
    steps = plan.tools_of(held.setup.key)
    if any(step.makes for step in steps):  # then each tool is asked how far it reaches
        return []
    return reach_findings(held.setup.name, steps, deep, heights.deepest_name, plan.heading.unit)


def supplied_findings(plan: Plan) -> list[Finding]:
    """Return what comes with the blank and was not measured when it came: nothing says so until an incoming check is kept."""
    names = [feature.name for feature in plan.features if feature.supplied]
    if not names or any(sheet.kind == "incoming" for sheet in plan.sheets):
        return []
    comes = "comes" if len(names) == 1 else "come"
    return [
        Finding(
            "stock",
            "ask",
            "supplied-not-measured",
            f"{' and '.join(names)} {comes} with the blank; nobody has measured {'it' if len(names) == 1 else 'them'} on arrival.",
            "Measure some under Incoming, and keep that sheet.",
            ground=" ".join(names),
        )
    ]


def gauging_findings(plan: Plan) -> list[Finding]:
    """Return the sizes of which nothing says where they are made; they are gauged in the last setup until it does."""
    if len(plan.setups) < 2:  # noqa: PLR2004 - with one setup there is nothing to choose
        return []
    keys = {setup.key for setup in plan.setups}
    last = plan.setups[-1].name
    unsaid = [
        c
        for c in plan.characteristics
        if c.grade != "free" and not {c.setup, c.made_in} & keys and plan.making_setup(c) is None
    ]
    if unsaid and not plan.features:  # no size can be carried by one: the same is asked once
        names = ", ".join(c.name for c in unsaid)
        return [
            Finding(
                "hold",
                "ask",
                "size-without-setup",
                f"Nobody has said where {names} {'is' if len(unsaid) == 1 else 'are'} gauged: in {last}, the last setup, until then.",
                "Choose its setup on Part, or describe the features.",
                ground=f"{names} {last}",
            )
        ]
    return [
        Finding(
            "hold",
            "ask",
            "size-without-feature",
            f"No feature makes {c.name}; it is gauged in {last}, the last setup.",
            "Say which feature carries it, or choose its setup on Part.",
            f"dimension {c.number}",
            last,
        )
        for c in unsaid
    ]


def between_findings(plan: Plan) -> list[Finding]:
    """Return the sizes that a setup locates on and that nobody gauges before it: they have to hold between the setups."""
    sizes = {c.number: c for c in plan.characteristics if c.grade != "free"}
    found = []
    for place, setup in enumerate(plan.setups, 1):
        seats = {surface.lower() for surface in setup.locates_on}
        for feature in plan.features:
            size = sizes.get(feature.characteristic or 0)
            if size is None or feature.name.lower() not in seats or feature.supplied:
                continue
            gauged = [plan.position(key) for key in (plan.gauging_setup(size), size.also_in) if key]
            if min(gauged, default=0) >= place > 1:
                where = plan.setups[min(gauged) - 1].name
                found.append(
                    Finding(
                        "hold",
                        "ask",
                        "located-ungauged",
                        f"{setup.name} locates on {feature.name}, and {size.name} is gauged only in {where}.",
                        "On Part, gauge it in the setup that makes it too: it has to hold between them.",
                        f"dimension {size.number}",
                        f"{setup.name} {where}",
                    )
                )
    return found


def layout_findings(
    plan: Plan, setup_key: int, machine: Machine | None, register: Register | None = None, cycle_key: int = 0
) -> list[Finding]:
    """Return what is wrong with the layout of a setup and its offsets; nothing where no table is known or nothing is placed.

    Args:
        plan: the job, seen from the part of the setup.
        setup_key: of the setup.
        machine: that of the cycle.
        register: the offsets as they stand; None looks at none.
        cycle_key: the cycle that is looked at, where the setup is cut in several; 0 for the first.
    """
    if machine is None or machine.bed is None or not any(p.setup == setup_key for p in plan.placed):
        return []
    there = standings(plan, setup_key, machine.bed, cycle_key)
    found = [clash.finding for clash in clashes(there, machine.bed, plan.heading.unit)]
    if register is not None:
        found += offset_findings(there, register.of(machine.id), machine.bed, plan.heading.unit)
        found += backup_findings(machine, register)
    return found
