"""Sheets of any step: shown, worked out while they are typed, kept with the job."""

from dataclasses import replace
from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse

from ditto_run.core.errors import DittoError, NotFound
from ditto_run.core.plan import Plan, known_of
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import Answer, Known
from ditto_run.core.shop.drawers import drawer_of
from ditto_run.web.dependencies import Desk, DeskDep, RenderDep
from ditto_run.web.pages.planning import step_page

router = APIRouter(prefix="/jobs/{job_id}")


def sheet_known(desk: Desk, plan: Plan) -> Known:
    """Return what the job and the shop know for a sheet; without a drawer of drills every standard one stands in."""
    known = known_of(plan, desk.shop.load().machines, {row.value.name: row.value for row in desk.drawers.rows("materials")})
    drills = [row.value for row in desk.drawers.rows("drills")]
    drawer = drawer_of("drills")
    standard = [] if drills else [drawer.value(texts, "mm") for texts in drawer.standard()]
    return replace(
        known, drills=tuple((drill.name, drill.diameter_mm) for drill in (*drills, *standard)), whole_drawer=not drills,
        reamers=tuple((row.value.name, row.value.cuts_mm) for row in desk.drawers.rows("reamers")),
        taps=tuple((row.value.thread, row.value.lead) for row in desk.drawers.rows("taps")),
    )  # fmt: skip


def show_sheet(step: str, kind: str, job_id: int, desk: Desk, render: RenderDep, key: int = 0) -> HTMLResponse:
    """Show a sheet with its entry form, and those of its kind that are kept; `key` opens one of them."""
    sheet = sheet_of(kind)
    if sheet.step != step:
        raise NotFound("sheet", kind, f"It belongs to {sheet.step}.")
    plan = desk.jobs.load(job_id).plan
    known = sheet_known(desk, plan)
    kept = [one for one in plan.sheets if one.kind == kind]
    opened = plan.sheet(key) if key else None
    answer, refusal = _try(sheet, opened.texts, known) if opened else (None, None)
    shown: dict[str, Any] = {
        "sheet": sheet, "kept": kept, "opened": opened, "answer": answer, "refusal": refusal, "known": known,
        "answers": {one.key: _try(sheet, one.texts, known)[0] for one in kept},
    }  # fmt: skip
    return step_page(step, job_id, desk, render, template="sheets/page.html", view=kind, **shown)


def _try(sheet: Any, texts: dict[str, str], known: Known) -> tuple[Answer | None, DittoError | None]:  # noqa: ANN401 - a SheetKind
    try:
        return sheet.answer(texts, known), None
    except DittoError as refusal:
        return None, refusal


@router.post("/sheets/{kind}/answer", name="sheet_answer")
async def work_out(request: Request, job_id: int, kind: str, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Work a sheet out while it is typed; nothing is kept."""
    texts = {name: str(value) for name, value in (await request.form()).items()}
    job = desk.jobs.load(job_id)
    answer = sheet_of(kind).answer(texts, sheet_known(desk, job.plan))
    return render("sheets/_answer.html", answer=answer, job=job)
