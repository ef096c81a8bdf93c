"""A whole plan taken: setups, stations, tools with their times, how often gauged, and the way that Method compares."""

from dataclasses import replace

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.edits.method import ChooseWay
from ditto_run.core.errors import NotNow
from ditto_run.core.method.way import Way
from ditto_run.core.plan import Changed, Plan
from ditto_run.core.propose.drafts import OWN, WholeGround
from ditto_run.core.propose.whole import WholePlan
from ditto_run.core.units import counted


def adds(plan: Plan, taken: Plan) -> bool:
    """Return True if a plan that would be taken has something that the job has not.

    Args:
        plan: the job.
        taken: the plan.
    """
    return (taken.setups, taken.stations, taken.tool_steps) != (plan.setups, plan.stations, plan.tool_steps)


def take_whole(plan: Plan, ground: WholeGround, one: WholePlan, reason: str) -> Changed:
    """Return the plan with a whole plan taken.

    Args:
        plan: the job.
        ground: what the whole plan was drafted from.
        one: the whole plan.
        reason: why it was taken, for Method.

    Raises:
        NotNow: if the job has setups, and the whole plan is for others; or if there is nothing to add.
    """
    if plan.setups and one.picks.chain != OWN:
        raise NotNow(
            "This job has setups by now.", "Take them out first on Hold, or complete those there are."
        )
    taken = ground.with_stations(one.picks, placed=True)
    if not adds(plan, taken):
        raise NotNow("This plan has all of that.", "Change what you know better on its step.")
    if taken.heading.gauge_every == 1 and one.gauged.loads > 1:
        taken = replace(taken, heading=replace(taken.heading, gauge_every=one.gauged.loads))
    if not taken.ways and one.way is not None:
        key = taken.number_for(Way, None)
        taken = taken.put(replace(one.way, key=key))
        shop = PlanRegisters(ground.shop.machines, taught=ground.shop.taught, rates=ground.shop.rates)
        taken = apply_edit(ChooseWay(key, reason), taken, shop).plan
    added = counted(len(taken.tool_steps) - len(plan.tool_steps), "tool step")
    if one.picks.chain == OWN:
        return Changed(taken, f"completed the plan as proposed: {added}")
    return Changed(taken, f"took the proposed plan: {counted(len(taken.setups), 'setup')}, {added}")
