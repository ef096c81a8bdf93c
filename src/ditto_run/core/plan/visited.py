"""What is open about the orders of visits that were taken."""

from ditto_run.core.findings import Finding
from ditto_run.core.plan.document import Plan
from ditto_run.core.tools.visits import visits_say

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
            there = plan.cycle_tools(cycle).visits()
            late, early = (
                f"{step.name} {step.does} at {station.label}"
                for station, step in (there[cost.broken[0].b], there[cost.broken[0].a])
            )
            problem = f"{cycle.name}: {late} comes before {early}."
            found.append(Finding("tools", "ask", "visits-break", problem, SEE, thing, ground))
    return found
