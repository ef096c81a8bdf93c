"""A proposal taken into the plan: its steps at the end of the setup's own."""

from collections.abc import Sequence
from dataclasses import replace
from decimal import Decimal

from ditto_run.core.errors import NotNow
from ditto_run.core.hold.setup import Setup
from ditto_run.core.plan import Changed, Plan
from ditto_run.core.plan.at_work import made_by
from ditto_run.core.propose.proposal import ProposedStep
from ditto_run.core.propose.setups import ProposedChain, setups_of
from ditto_run.core.tools.tool_step import ToolStep, check_tool_step
from ditto_run.core.units import counted

NONE_MM = Decimal(0)


def features_left(plan: Plan, setup_key: int) -> tuple[int, ...]:
    """Return the keys of the features that a setup cuts and no tool step of it makes yet, as it says or by its words.

    Args:
        plan: the job.
        setup_key: of the setup.
    """
    setup = plan.setup(setup_key)
    made = {one.key for step in plan.tools_of(setup_key) for one in made_by(plan, setup, step)}
    made |= {key for step in plan.tools_of(setup_key) for key in step.makes}
    supplied = {one.key for one in plan.features if one.supplied}
    return tuple(key for key in setup.cuts if key not in made | supplied)


def take_steps(plan: Plan, setup_key: int, steps: Sequence[ProposedStep]) -> Changed:
    """Return the plan with proposed steps at the end of a setup; all that is there stays.

    Args:
        plan: the job.
        setup_key: of the setup.
        steps: of a proposal for it.

    Raises:
        NotNow: if there is no step, or one of them makes what another step makes by now.
    """
    left = set(features_left(plan, setup_key))
    if not steps or not {key for step in steps for key in step.makes} <= left:
        raise NotNow("This proposal is for another plan by now.", "Look at what is proposed now.")
    for step in steps:
        new = ToolStep(
            plan.number_for(ToolStep, None),
            setup_key,
            step.tool,
            step.does,
            across_mm=step.across_mm,
            makes=step.makes,
        )
        plan = plan.put(check_tool_step(new))
    return Changed(plan, f"took {counted(len(steps), 'proposed tool step')}")


def take_setups(
    plan: Plan, chain: ProposedChain, parallels_mm: Decimal = NONE_MM, stop_at: Sequence[str] = ()
) -> Changed:
    """Return the plan with the setups of a proposal.

    Args:
        plan: the job, without a setup.
        chain: proposed for it.
        parallels_mm: height of what the piece lies on in each setup. [mm]
        stop_at: face that goes against the stop in each setup, in order; empty for none.

    Raises:
        NotNow: if there are setups by now.
    """
    if plan.setups:
        raise NotNow("This job has setups by now.", "Take them out first, or change them.")
    for place, setup in enumerate(setups_of(chain, plan.number_for(Setup, None))):
        face = stop_at[place] if place < len(stop_at) else ""
        held = replace(setup.held, parallels_mm=parallels_mm, to_stop=face)
        plan = plan.put(replace(setup, held=held))
    return Changed(plan, f"took {counted(len(chain.setups), 'proposed setup')}")
