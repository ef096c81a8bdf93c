"""Pages of the Tools step: tool steps in order, with their times."""

from fastapi import APIRouter
from fastapi.responses import HTMLResponse

from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.pages.planning import step_page
from ditto_run.web.seen import SeenQuery, setup_chosen

router = APIRouter(prefix="/jobs/{job_id}/tools")


@router.get("", name="tools_page")
def show_page(
    job_id: int, desk: DeskDep, render: RenderDep, setup: SeenQuery = None, edit: int = 0
) -> HTMLResponse:
    """Show the Tools step of one setup; `edit` opens one tool step."""
    plan = desk.jobs.load(job_id).plan
    key = setup_chosen(plan, setup).key
    cycle = next((cycle.key for cycle in plan.all_cycles if key in cycle.setups), key)
    times = plan.times(cycle) if key else None
    return step_page("tools", job_id, desk, render, setup_key=key, editing=edit, times=times)
