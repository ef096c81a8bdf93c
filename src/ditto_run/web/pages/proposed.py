"""Tools that are proposed for a setup: two ways side by side, each choice with its reason; taken with one key."""

from typing import Annotated

from fastapi import APIRouter, Form
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.errors import NotFound
from ditto_run.core.propose.proposal import ProposalName
from ditto_run.core.propose.taking import features_left, take_steps
from ditto_run.desk.proposing import ProposedFor, tools_proposed
from ditto_run.web.dependencies import DeskDep, RenderDep, WhoDep
from ditto_run.web.pages.planning import step_page
from ditto_run.web.seen import SeenQuery, setup_chosen
from ditto_run.web.told import told

router = APIRouter(prefix="/jobs/{job_id}/tools/proposed")


@router.get("", name="tools_proposed")
def show_proposed(job_id: int, desk: DeskDep, render: RenderDep, setup: SeenQuery = None) -> HTMLResponse:
    """Show the tools that are proposed for what a setup cuts and no tool step makes yet."""
    job = desk.jobs.load(job_id)
    plan = job.plan
    seen = setup_chosen(plan, setup)
    found = tools_proposed(desk, job, seen.key) if seen.key else ProposedFor((), (), usual=False)
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
        all_drills=found.all_drills,
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
    found = tools_proposed(desk, desk.jobs.load(job_id), setup, only)
    chosen = next((one for one in found.proposals if one.name == name), None)
    if chosen is None:
        raise NotFound("proposal", name, "Look at what is proposed now.")
    job = desk.jobs.edit(job_id, version, who, lambda plan: take_steps(plan, setup, chosen.steps), "tools")
    later = [one.key for one in job.plan.setups if one.key != setup and features_left(job.plan, one.key)]
    page = f"tools/proposed?setup={later[0]}" if later and not only else f"tools?setup={setup}"
    return told(RedirectResponse(f"/jobs/{job_id}/{page}", 303), "The proposed tools are taken.")
