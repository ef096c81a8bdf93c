"""Tools that are proposed for a setup: two ways side by side, each choice with its reason; taken with one key."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Annotated

from fastapi import APIRouter, Form
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.errors import NotFound
from ditto_run.core.propose.costed import Costed, costed
from ditto_run.core.propose.proposal import Proposal, ProposalName, ToolsThere, propose_tools
from ditto_run.core.propose.shown import ShownGrade, shown_by, together
from ditto_run.core.propose.taking import features_left, take_steps
from ditto_run.core.propose.usual import usual_tools
from ditto_run.core.propose.ways import said_by
from ditto_run.desk import Desk
from ditto_run.desk.values import Job
from ditto_run.web.dependencies import DeskDep, RenderDep, WhoDep
from ditto_run.web.pages.planning import step_page
from ditto_run.web.seen import SeenQuery, setup_chosen
from ditto_run.web.told import told

MOST_BATCHES = 60  # that are looked at for what they showed
router = APIRouter(prefix="/jobs/{job_id}/tools/proposed")


@dataclass(frozen=True, slots=True)
class ProposedFor:
    """What is proposed for a setup: the proposals, features that nothing describes, and whether usual tools stand in.

    `costs` says what each comes to once it is taken, by its name.
    """

    proposals: tuple[Proposal, ...]
    bare: tuple[str, ...]
    usual: bool
    costs: Mapping[str, Costed] = field(default_factory=dict)


@router.get("", name="tools_proposed")
def show_proposed(job_id: int, desk: DeskDep, render: RenderDep, setup: SeenQuery = None) -> HTMLResponse:
    """Show the tools that are proposed for what a setup cuts and no tool step makes yet."""
    job = desk.jobs.load(job_id)
    plan = job.plan
    seen = setup_chosen(plan, setup)
    found = proposed_for(desk, job, seen.key) if seen.key else ProposedFor((), (), usual=False)
    return step_page(
        "tools",
        job_id,
        desk,
        render,
        template="tools/proposed.html",
        view="proposed",
        seen=seen,
        setup_key=seen.key,
        proposals=found.proposals,
        bare=found.bare,
        usual=found.usual,
        costs=found.costs,
        cuts=len(plan.setup(seen.key).cuts) if seen.key else 0,
        unit=plan.heading.unit,
    )


@router.post("", name="tools_take_proposed")
def take_proposed(
    job_id: int,
    desk: DeskDep,
    who: WhoDep,
    setup: Annotated[int, Form(ge=1, le=2**31)],
    version: Annotated[int, Form(ge=0, le=2**31)],
    name: Annotated[ProposalName, Form()],
    only: Annotated[int, Form(ge=0, le=2**31)] = 0,
) -> Response:
    """Take a proposal, or what it has for one feature: its steps come at the end of the setup's own."""
    found = proposed_for(desk, desk.jobs.load(job_id), setup, only)
    chosen = next((one for one in found.proposals if one.name == name), None)
    if chosen is None:
        raise NotFound("proposal", name, "Look at what is proposed now.")
    job = desk.jobs.edit(job_id, version, who, lambda plan: take_steps(plan, setup, chosen.steps), "tools")
    later = [one.key for one in job.plan.setups if one.key != setup and features_left(job.plan, one.key)]
    page = f"tools/proposed?setup={later[0]}" if later and not only else f"tools?setup={setup}"
    return told(RedirectResponse(f"/jobs/{job_id}/{page}", 303), "The proposed tools are taken.")


def proposed_for(desk: Desk, job: Job, setup_key: int, only: int = 0) -> ProposedFor:
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
    taken = {step.tool: step.does for step in plan.tool_steps if step.tool}
    shown = together(_shown(desk), setup.machine_id)
    proposals = propose_tools(features, there, turned=turned, taken=taken, shown=shown) if features else ()
    costs: dict[str, Costed] = {}
    for one in proposals:
        if one.steps:
            taken_plan = take_steps(plan, setup_key, one.steps).plan
            costs[one.name] = costed(desk.worked_out(job), desk.worked.tried(taken_plan), setup_key)
    return ProposedFor(proposals, bare, not mine, costs)


def _shown(desk: Desk) -> list[ShownGrade]:
    """What the newest batches of the shop have shown of the ways their features were made, one of each job."""
    found: list[ShownGrade] = []
    for run_id in sorted(desk.runs.of_jobs().values())[-MOST_BATCHES:]:
        with desk.runs.folded(run_id) as state:
            found += shown_by(state)
    return found
