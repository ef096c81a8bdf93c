"""The printed tool sheets: a page for each setup, with stick-outs, speeds and times; and the same as CSV."""

from fastapi import APIRouter
from fastapi.responses import HTMLResponse, Response

from ditto_run.core.hold import Setup
from ditto_run.core.plan.tool_sheet import ToolLine, to_load, tool_lines
from ditto_run.core.plan.visited import taken_says
from ditto_run.core.plan.worked import Worked
from ditto_run.formats.tool_table import tools_csv
from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.drawings.visits import taken_card
from ditto_run.web.files import download
from ditto_run.web.pages.planning import step_page
from ditto_run.web.pages.tools import coolants_of

router = APIRouter(prefix="/jobs/{job_id}/tools")


@router.get("/sheet", name="tool_sheets")
def show_tool_sheets(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show one printed page for each setup that has tool steps."""
    job = desk.jobs.load(job_id)
    worked = desk.worked_out(job)
    pages = [
        (
            number,
            setup,
            lines,
            to_load(lines),
            taken_says(job.plan, setup.key),
            taken_card(job.plan, setup.key),
            coolants_of(desk, job.plan, setup.key),
        )
        for number, (setup, lines) in enumerate(_setups(worked), 1)
        if lines
    ]
    return step_page(
        "tools",
        job_id,
        desk,
        render,
        template="tools/sheet.html",
        view="sheet",
        pages=pages,
        times={setup.key: job.plan.times(setup.key) for setup in job.plan.setups},
        unit=job.plan.heading.unit,
        now=desk.now,
    )


@router.get("/sheet.csv", name="tools_csv")
def as_table(job_id: int, desk: DeskDep) -> Response:
    """Download the tools of every setup as CSV."""
    job = desk.jobs.load(job_id)
    found = tools_csv(_setups(desk.worked_out(job)), job.plan.heading.unit)
    return download(found, "tools.csv", "text/csv; charset=utf-8")


def _setups(worked: Worked) -> list[tuple[Setup, tuple[ToolLine, ...]]]:
    return [(setup, tool_lines(worked, setup)) for setup in worked.plan.setups]
