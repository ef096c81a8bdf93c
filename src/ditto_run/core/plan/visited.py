"""What is open about the orders of visits that were taken."""

from ditto_run.core.findings import Finding
from ditto_run.core.plan.document import Plan
from ditto_run.core.plan.woven import CycleTools
from ditto_run.core.tools.visits import visits_say
from ditto_run.core.tools.weave.cost import Broken

SEE = "Look at the order of visits on Tools again."


def taken_says(plan: Plan, setup_key: int) -> str:
    """Return the order of visits taken for the cycle of a setup in words; empty where none was, or it is for what was there before.

    Args:
        plan: the job.
        setup_key: of the setup; told with the first setup of its cycle.
    """
    cycle = next((one for one in plan.all_cycles if one.setups[0] == setup_key), None)
    visits = plan.taken_order(cycle.key) if cycle is not None else None
    if cycle is None or visits is None or plan.taken_costs[cycle.key] is None:
        return ""
    there = plan.cycle_tools(cycle).visits()
    return visits_say((there[one][1].name, there[one][0].label) for one in visits.order)


def broken_says(there: CycleTools, broken: Broken) -> str:
    """Return what of a rule is broken in a sentence.

    Args:
        there: what of the cycle makes its weave.
        broken: the rule with the two visits that break it; of a first or last one, what should be there and what is.
    """
    visits = there.visits()
    early, late = (
        f"{step.name} {step.does} at {station.label}"
        for station, step in (visits[broken.a], visits[broken.b])
    )
    own = next((rule for rule in there.rules if there.says(rule) == broken.rule), None)
    if own is None:
        return f"{late} comes before {early}."
    why = f", because {own.why.rstrip('.')}" if own.why else ""
    if own.kind in {"before", "rest"}:
        return f"{late} comes before {early}, against the rule “{broken.rule}”{why}."
    return f"{late} breaks the rule “{broken.rule}”{why}."


def visits_findings(plan: Plan) -> list[Finding]:
    """Return the questions about an order that is for other stations or tools than there are now, or breaks the order of the steps.

    Args:
        plan: the job, seen from any of its parts.
    """
    found, mine = [], {setup.key for setup in plan.setups}
    for key, cost in plan.taken_costs.items():
        cycle, visits = plan.cycle(key), plan.taken_order(key)
        if visits is None or cycle.setups[0] not in mine:  # told once, with the part of its first setup
            continue
        thing, ground = f"visits {key}", " ".join(visits.order)
        if cost is None:
            problem = f"{cycle.name}: the order of visits is for other stations or tools than there are now."
            found.append(Finding("tools", "ask", "visits-moved", problem, SEE, thing, ground))
        elif cost.broken:
            problem = f"{cycle.name}: {broken_says(plan.cycle_tools(cycle), cost.broken[0])}"
            found.append(Finding("tools", "ask", "visits-break", problem, SEE, thing, ground))
    return found + _rules_gone(plan, mine)


def _rules_gone(plan: Plan, mine: set[int]) -> list[Finding]:
    """The question about a rule that speaks of a station, tool or step that is gone."""
    found = []
    for cycle in plan.all_cycles:
        there = plan.cycle_tools(cycle)
        if cycle.setups[0] not in mine:
            continue
        for rule in there.rules:
            if not there.stands(rule):
                problem = f"{cycle.name}: the rule “{there.says(rule)}” speaks of what is gone."
                remedy = "Take the rule out at the order of visits, or say it anew."
                thing = f"visits {cycle.key}"
                found.append(
                    Finding("tools", "ask", "visit-rule-gone", problem, remedy, thing, str(rule.key))
                )
    return found
