"""Pages of the Stock step: what is cut, how many, what was ordered and what came."""

from itertools import count

from fastapi import APIRouter
from fastapi.responses import HTMLResponse, RedirectResponse

from ditto_run.core.errors import NotNow
from ditto_run.core.stock.offcuts import shelf_for
from ditto_run.core.stock.sheets import STOCK_SHEETS
from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.pages.planning import step_page
from ditto_run.web.pages.sheets import show_sheet

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
    offcuts = [row.value for row in desk.drawers.rows("offcuts")]
    blank, cuts = known.kept.get("blank"), known.kept.get("cuts")
    shelf = shelf_for(offcuts, plan.heading.material, blank, cuts, known.unit) if blank and cuts else None
    return step_page(
        "stock", job_id, desk, render, view="", lines=lines, known=known, offcuts=offcuts, shelf=shelf
    )


@router.post("/shelve", name="stock_shelve")
def shelve(job_id: int, desk: DeskDep) -> RedirectResponse:
    """Name what is left of the last bar, and put it on the list of offcuts."""
    job = desk.jobs.load(job_id)
    known = desk.worked_out(job).known
    blank, cuts = known.kept.get("blank"), known.kept.get("cuts")
    if blank is None or cuts is None or not cuts.last.left_mm:
        raise NotNow("Nothing is left of the last bar.", "Plan Bars and cuts first.")
    rows = [row.value for row in desk.drawers.rows("offcuts")]
    own = [row for row in rows if row.name.startswith(f"Job {job_id}, rest")]
    if any(row.length_mm == cuts.last.left_mm for row in own):
        raise NotNow(f"It lies on the shelf already, as {own[-1].name}.", "Change it on Shop, Offcuts.")
    there = {row.name for row in rows}
    name = next(
        name for n in count(1) if (name := f"Job {job_id}, rest{f' {n}' if n > 1 else ''}") not in there
    )
    across = (
        f"Ø{blank.across_mm.normalize():f}"
        if blank.shape == "bar"
        else " x ".join(f"{side.normalize():f}" for side in blank.blank_mm[1:])
    )
    texts = {
        "name": name,
        "material": job.plan.heading.material,
        "section": f"{across} mm",
        "length": f"{cuts.last.left_mm.normalize():f} mm",
        "shelf": "",
    }
    desk.drawers.save("offcuts", 0, texts)
    return RedirectResponse(f"/jobs/{job_id}/stock", 303)


@router.get("/order", name="stock_order")
def show_order(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show what was ordered for the job, and what came."""
    return step_page(
        "stock",
        job_id,
        desk,
        render,
        template="stock/order.html",
        view="order",
        known=desk.worked_out(desk.jobs.load(job_id)).known,
    )


@router.get("/{kind}", name="stock_sheet")
def show_stock_sheet(
    job_id: int, kind: str, desk: DeskDep, render: RenderDep, sheet: int = 0
) -> HTMLResponse:
    """Show one sheet of the Stock step; `sheet` opens a kept one."""
    return show_sheet("stock", kind, job_id, desk, render, sheet)
