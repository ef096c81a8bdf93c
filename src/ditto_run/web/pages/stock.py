"""Pages of the Stock step: what is cut, how many, what was ordered and what came."""

from fastapi import APIRouter
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.stock.sheets import STOCK_SHEETS
from ditto_run.desk.shelf import shelf_of, shelve_rest
from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.pages.planning import step_page
from ditto_run.web.pages.sheets import show_sheet
from ditto_run.web.told import told

router = APIRouter(prefix="/jobs/{job_id}/stock")


@router.get("", name="stock_page")
def show_page(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show what every sheet of the step answers, in short."""
    job = desk.jobs.load(job_id)
    plan, worked = job.plan, desk.worked_out(job)
    known = worked.known
    lines = [
        (
            kind.kind,
            kind.word,
            "" if kind.single else sheet.name,
            worked.answers.get(sheet.key),
            worked.refusals.get(sheet.key),
        )
        for kind in STOCK_SHEETS
        for sheet in plan.sheets
        if sheet.kind == kind.kind
    ]
    return step_page(
        "stock", job_id, desk, render, view="", lines=lines, known=known, shelf=shelf_of(desk, job_id)
    )


@router.post("/shelve", name="stock_shelve")
def shelve(job_id: int, desk: DeskDep) -> Response:
    """Put what is left of the last bar on the list of offcuts."""
    name = shelve_rest(desk, job_id)
    return told(RedirectResponse(f"/jobs/{job_id}/stock", 303), f"On the shelf as {name}.")


@router.get("/order", name="stock_order")
def show_order(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show what was ordered for the job, and what came."""
    worked = desk.worked_out(desk.jobs.load(job_id))
    return step_page(
        "stock",
        job_id,
        desk,
        render,
        template="stock/order.html",
        view="order",
        known=worked.known,
        mass=worked.result_of("mass"),
    )


@router.get("/{kind}", name="stock_sheet")
def show_stock_sheet(
    job_id: int, kind: str, desk: DeskDep, render: RenderDep, sheet: int = 0
) -> HTMLResponse:
    """Show one sheet of the Stock step; `sheet` opens a kept one."""
    return show_sheet("stock", kind, job_id, desk, render, sheet)
