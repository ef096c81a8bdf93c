"""What is proposed for a job: setups for its features, tools for what a setup cuts."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from decimal import Decimal

from ditto_run.core.plan.held import as_it_comes
from ditto_run.core.propose.costed import Costed, costed
from ditto_run.core.propose.judged import JudgedChain, judged
from ditto_run.core.propose.proposal import Proposal, ToolsThere, propose_tools
from ditto_run.core.propose.setups import HoldsThere, propose_setups
from ditto_run.core.propose.shown import ShownGrade, shown_by, together
from ditto_run.core.propose.taking import features_left, take_steps
from ditto_run.core.propose.usual import usual_tools
from ditto_run.core.propose.ways import said_by
from ditto_run.desk.desk import Desk
from ditto_run.desk.values import Job

MOST_BATCHES = 60  # that are looked at for what they showed


@dataclass(frozen=True, slots=True)
class ProposedFor:
    """What is proposed for a setup: the proposals, features that nothing describes, and whether usual tools stand in.

    `all_drills` says that every standard drill stands in, `costs` what each comes to once it is taken, by its name.
    """

    proposals: tuple[Proposal, ...]
    bare: tuple[str, ...]
    usual: bool
    all_drills: bool = False
    costs: Mapping[str, Costed] = field(default_factory=dict)


def tools_proposed(desk: Desk, job: Job, setup_key: int, only: int = 0) -> ProposedFor:
    """Return what is proposed for a setup, from the tools of the shop.

    Args:
        desk: the desk.
        job: which, as it is looked at.
        setup_key: of the setup.
        only: key of the one feature that is looked at; 0 for all that no step makes.
    """
    plan = job.plan
    setup = plan.setup(setup_key)
    machine = desk.shop.load().machines.get(setup.machine_id or 0)
    turned = machine.turns if machine is not None else plan.form == "turned"
    left, described = features_left(plan, setup_key), {one.key: one for one in plan.described}
    gauged = {one.key: one.characteristic for one in plan.features}
    sizes = {c.number: c.size for c in plan.all_characteristics}
    features = [
        said_by(described[key], sizes[gauged[key] or 0]) if gauged[key] in sizes else described[key]
        for key in left
        if key in described and described[key].feature.kind and only in {0, key}
    ]
    names = {one.key: one.name for one in plan.features}
    told_of = {one.key for one in features}
    bare = tuple(names[key] for key in left if key not in told_of and key in names)
    name = machine.name.lower() if machine is not None else ""
    register = [row.value for row in desk.drawers.rows("tools")]
    mine = tuple(tool for tool in register if not tool.machine or tool.machine.lower() == name)
    known = desk.worked_out(job).shop
    there = ToolsThere(
        mine or usual_tools(turned=turned),
        known.drills,
        known.reamers,
        tuple(thread for thread, _ in known.taps),
    )
    taken = {step.tool for step in plan.tool_steps if step.tool}
    shown = together(_shown(desk), setup.machine_id)
    proposals = propose_tools(features, there, turned=turned, taken=taken, shown=shown) if features else ()
    costs: dict[str, Costed] = {}
    for one in proposals:
        if one.steps:
            taken_plan = take_steps(plan, setup_key, one.steps).plan
            costs[one.name] = costed(desk.worked_out(job), desk.worked.tried(taken_plan), setup_key)
    return ProposedFor(proposals, bare, not mine, known.whole_drawer, costs)


def _shown(desk: Desk) -> list[ShownGrade]:
    """What the newest batches of the shop have shown of the ways their features were made, one of each job."""
    found: list[ShownGrade] = []
    for run_id in sorted(desk.runs.of_jobs().values())[-MOST_BATCHES:]:
        with desk.runs.folded(run_id) as state:
            found += shown_by(state)
    return found


def setups_proposed(desk: Desk, job: Job) -> tuple[JudgedChain, ...]:
    """Return the chains that are proposed for a job, held to all checks of Hold where it has no setup yet.

    Args:
        desk: the desk.
        job: which, as it is looked at.
    """
    plan, worked = job.plan, desk.worked_out(job)
    machines = sorted(worked.machines.values(), key=lambda one: (one.is_manual, one.id))
    mill, lathe = (next((m.id for m in machines if m.turns is turns), None) for turns in (False, True))
    there = HoldsThere(mill, lathe, tuple(worked.shop.holders.values()))
    chain = plan.chain
    comes = as_it_comes(plan, worked.result_of("blank"))
    found = propose_setups(replace(chain, setups=(), as_it_comes=comes), plan.described, there)
    if plan.setups:  # beside setups that are there, by the checks of the chain alone
        return tuple(JudgedChain(one, Decimal(0), (), one.asks) for one in found)
    return tuple(judged(plan, one, desk.worked.tried) for one in found)
