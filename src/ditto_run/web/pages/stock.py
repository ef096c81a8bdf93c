"""Pages of the Stock step: what is cut, how many, what was ordered and what came."""

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.plan.asked import asked_of, stock_asked
from ditto_run.core.plan.worked import PART
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.desk.shelf import shelf_of, shelve_rest
from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.pages.planning import step_page
from ditto_run.web.pages.sheets import show_index, show_sheet
from ditto_run.web.questions import STOCK_WORDS, opened, rows_of
from ditto_run.web.told import told

router = APIRouter(prefix="/jobs/{job_id}/stock")


@router.get("", name="stock_page")
def show_page(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    ask: Annotated[str, Query(max_length=40)] = "",
    figure: Annotated[str, Query(max_length=40)] = "",
) -> HTMLResponse:
    """Show what material the part needs, question by question; `ask` opens one, `figure` a field of it."""
    job = desk.jobs.load(job_id)
    plan, worked = job.plan, desk.worked_out(job)
    asked = stock_asked(worked)
    answers = {one.question: one.answer.result for one in asked if one.answer is not None}
    others = [
        (sheet, worked.answers.get(sheet.key), worked.refusals.get(sheet.key))
        for sheet in plan.sheets
        if sheet_of(sheet.kind).step == "stock" and sheet.kind not in {one.question for one in asked}
    ]
    return step_page(
        "stock",
        job_id,
        desk,
        render,
        view="",
        alone=True,
        rows=rows_of(asked, plan),
        asked=opened(asked_of(worked, ask, PART), figure) if ask else None,
        here="",
        unit=plan.heading.unit,
        to_keep=[one for one in asked if one.answer is not None and not one.given],
        cuts=answers.get("cuts"),
        starts=answers.get("starts"),
        others=others,
        known=worked.known,
        shelf=shelf_of(desk, job_id),
    )


@router.get("/sheets", name="stock_sheets")
def show_sheets(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show every sheet of Stock: for who looks for a certain computation."""
    return show_index("stock", job_id, desk, render, STOCK_WORDS)


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
