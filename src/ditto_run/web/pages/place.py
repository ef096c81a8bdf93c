"""Pages of the Place step: stations and their work offsets."""

from fastapi import APIRouter
from fastapi.responses import HTMLResponse

from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.pages.planning import setup_chosen, step_page

router = APIRouter(prefix="/jobs/{job_id}/place")


@router.get("", name="place_page")
def show_page(
    job_id: int, desk: DeskDep, render: RenderDep, setup: int | None = None, edit: str = ""
) -> HTMLResponse:
    """Show the Place step of one setup; `edit` opens one station."""
    plan = desk.jobs.load(job_id).plan
    return step_page("place", job_id, desk, render, setup_key=setup_chosen(plan, setup), editing=edit)
