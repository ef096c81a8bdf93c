"""A proposed plan beside the one there is: in how many setups, what is cut with what, how often tools are changed."""

from ditto_run.core.plan.document import Plan
from ditto_run.core.propose.whole import WholePlan
from ditto_run.core.units import counted


def beside_own(own: Plan, one: WholePlan, own_changes: int) -> tuple[str, ...]:
    """Return where a proposed plan differs from the one there is, a sentence each; none where it does not.

    Args:
        own: the job as it is, with setups.
        one: the whole plan that is proposed.
        own_changes: tools that are put in for one load of each setup of the job as it is.
    """
    plan = one.drafted.plan
    found = []
    mine, theirs = len(own.setups), len(plan.setups)
    if theirs < mine:
        found.append(f"{counted(theirs, 'setup')} instead of {mine}{_together(own, plan)}.")
    elif theirs > mine:
        found.append(f"{counted(theirs, 'setup')}, {mine} here{_apart(own, plan)}.")
    cut = {key for setup in own.setups for key in setup.cuts}
    names = {feature.key: feature.name for feature in plan.features}
    more = [names[key] for setup in plan.setups for key in setup.cuts if key not in cut and key in names]
    if more:
        found.append(f"No setup here cuts {', '.join(more)}.")
    if one.changes != own_changes and own_changes:
        found.append(f"{counted(one.changes, 'change')} of tool a load instead of {own_changes}.")
    return tuple(found)


def _together(own: Plan, plan: Plan) -> str:
    """What is cut in one setup that is cut in several here, in words."""
    names = {feature.key: feature.name for feature in plan.features}
    for setup in plan.setups:
        groups = [
            [names[key] for key in old.cuts if key in setup.cuts and key in names] for old in own.setups
        ]
        groups = [group for group in groups if group]
        if len(groups) > 1:
            smallest = min(groups, key=len)
            rest = next(group for group in groups if group is not smallest)
            up = f", {setup.held.up} up" if setup.held.up else ""
            return f": {', '.join(smallest)} {'is' if len(smallest) == 1 else 'are'} cut with {rest[0]} in the {setup.name}{up}"
    return ""


def _apart(own: Plan, plan: Plan) -> str:
    """What is cut in several setups that is cut in one here, in words."""
    names = {feature.key: feature.name for feature in plan.features}
    for old in own.setups:
        groups = [[names[key] for key in new.cuts if key in old.cuts and key in names] for new in plan.setups]
        groups = [group for group in groups if group]
        if len(groups) > 1:
            return f": {', '.join(groups[1])} cannot be cut with {groups[0][0]} by the rules of Hold"
    return ""
