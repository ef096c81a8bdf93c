"""Pages of the Hold step: setups in order."""

from fastapi import APIRouter
from fastapi.responses import HTMLResponse

from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.pages.planning import step_page

router = APIRouter(prefix="/jobs/{job_id}/hold")


@router.get("", name="hold_page")
def show_page(job_id: int, desk: DeskDep, render: RenderDep, edit: int = 0) -> HTMLResponse:
    """Show the Hold step; `edit` opens one setup."""
    return step_page("hold", job_id, desk, render, editing=edit)
