"""The tools that are proposed for one setup of a plan, from what the shop owns."""

from dataclasses import dataclass

from ditto_run.core.plan.document import Plan
from ditto_run.core.plan.shop_known import ShopKnown
from ditto_run.core.propose.proposal import NOTHING_MEANT, MeantTools, Proposal, ToolsThere, propose_tools
from ditto_run.core.propose.shown import ShownGrade, together
from ditto_run.core.propose.taking import features_left
from ditto_run.core.propose.usual import usual_tools
from ditto_run.core.propose.ways import beside, said_by
from ditto_run.core.shop.shop_tools import ShopTool


@dataclass(frozen=True, slots=True)
class Owned:
    """What a proposal rests on besides the plan and what it is worked out with.

    Args:
        tools: all of the register, with a number or without.
        shown: what the shop's own batches showed.
        bought: tools that could be bought, for any machine.
    """

    tools: tuple[ShopTool, ...] = ()
    shown: tuple[ShownGrade, ...] = ()
    bought: tuple[ShopTool, ...] = ()


@dataclass(frozen=True, slots=True)
class SetupTools:
    """What is proposed for a setup.

    Args:
        proposals: the quick one first.
        bare: names of features that nothing describes.
        usual: True if usual tools stand in, for the shop lists none for its machine.
    """

    proposals: tuple[Proposal, ...]
    bare: tuple[str, ...]
    usual: bool


def tools_for(
    plan: Plan,
    shop: ShopKnown,
    setup_key: int,
    owned: Owned,
    only: int = 0,
    meant: MeantTools = NOTHING_MEANT,
) -> SetupTools:
    """Return what is proposed for what a setup cuts and no tool step makes yet.

    Args:
        plan: the job.
        shop: what of the shop it is worked out with.
        setup_key: of the setup.
        owned: tools, and what batches showed.
        only: key of the one feature that is looked at; 0 for all.
        meant: ways that were picked, and numbers that tools have already.
    """
    setup = plan.setup(setup_key)
    machine = shop.machines.get(setup.machine_id or 0)
    turned = machine.turns if machine is not None else plan.form == "turned"
    left, described = features_left(plan, setup_key), {one.key: one for one in plan.described}
    gauged = {one.key: one.characteristic for one in plan.features}
    sizes = {c.number: c.size for c in plan.all_characteristics}
    features = [
        said_by(described[key], sizes[gauged[key] or 0]) if gauged[key] in sizes else described[key]
        for key in left
        if key in described and described[key].feature.kind and only in {0, key}
    ]
    if not turned:
        features = [beside(one, setup.held.up, plan.described) for one in features]
    names = {one.key: one.name for one in plan.features}
    told_of = {one.key for one in features}
    bare = tuple(names[key] for key in left if key not in told_of and key in names)
    name = machine.name.lower() if machine is not None else ""
    mine = tuple(tool for tool in owned.tools if not tool.machine or tool.machine.lower() == name)
    there = ToolsThere(
        (*(mine or usual_tools(turned=turned, unit=plan.heading.unit)), *owned.bought),
        shop.drills,
        shop.reamers,
        tuple(thread for thread, _ in shop.taps),
        by_hand=machine is not None and machine.is_manual,
        unit=plan.heading.unit,
    )
    taken = {step.tool for step in plan.tool_steps if step.tool}
    shown = together(owned.shown, setup.machine_id)
    if not features:
        return SetupTools((), bare, not mine)
    proposals = propose_tools(features, there, turned=turned, taken=taken, shown=shown, meant=meant)
    return SetupTools(proposals, bare, not mine)
