"""What a plan still wants, in the order of the steps."""

from collections.abc import Mapping

from ditto_run.core.errors import DittoError
from ditto_run.core.findings import Finding
from ditto_run.core.hold import (
    centre_findings,
    check_chain,
    hold_findings,
)
from ditto_run.core.method import method_findings
from ditto_run.core.part import (
    finish_findings,
    part_findings,
    stock_findings,
)
from ditto_run.core.place import clashes, place_findings
from ditto_run.core.place.offsets import Register
from ditto_run.core.place.predict import backup_findings, offset_findings
from ditto_run.core.plan.document import Plan
from ditto_run.core.plan.worked import known_of
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.shop import Machine
from ditto_run.core.stock import order_findings
from ditto_run.core.tools import tool_findings


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
