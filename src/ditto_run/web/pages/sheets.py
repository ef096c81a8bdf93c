"""Sheets of any step: shown, worked out while they are typed, kept with the job."""

from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse

from ditto_run.core.errors import DittoError, NotFound
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import Answer, Known, SheetKind
from ditto_run.web.dependencies import Desk, DeskDep, RenderDep
from ditto_run.web.known import sheet_known
from ditto_run.web.pages.planning import step_page

router = APIRouter(prefix="/jobs/{job_id}")


def show_sheet(
    step: str, kind: str, job_id: int, desk: Desk, render: RenderDep, key: int = 0
) -> HTMLResponse:
    """Show a sheet with its entry form, and those of its kind that are kept; `key` opens one of them."""
    sheet = sheet_of(kind)
    if sheet.step != step:
        raise NotFound("sheet", kind, f"It belongs to {sheet.step}.")
    plan = desk.jobs.load(job_id).plan
    known = sheet_known(desk, plan)
    kept = [one for one in plan.sheets if one.kind == kind]
    opened = plan.sheet(key) if key else kept[0] if sheet.single and kept else None
    if opened is not None and opened.kind != kind:
        raise NotFound(f"{sheet.word.lower()} sheet", key, "Choose one of the sheets kept with the job.")
    answer, refusal = try_sheet(sheet, opened.texts, known) if opened else (None, None)
    shown: dict[str, Any] = {
        "sheet": sheet, "kept": kept, "opened": opened, "answer": answer, "refusal": refusal, "known": known,
        "answers": {one.key: try_sheet(sheet, one.texts, known)[0] for one in kept},
    }  # fmt: skip
    return step_page(step, job_id, desk, render, template="sheets/page.html", view=kind, **shown)


def try_sheet(
    sheet: SheetKind, texts: dict[str, str], known: Known
) -> tuple[Answer | None, DittoError | None]:
    """Return the answer of a sheet, or why it has none."""
    try:
        return sheet.answer(texts, known), None
    except DittoError as refusal:
        return None, refusal


@router.post("/sheets/{kind}/answer", name="sheet_answer")
async def work_out(
    request: Request, job_id: int, kind: str, desk: DeskDep, render: RenderDep
) -> HTMLResponse:
    """Work a sheet out while it is typed; nothing is kept."""
    texts = {name: str(value) for name, value in (await request.form()).items()}
    job = desk.jobs.load(job_id)
    answer = sheet_of(kind).answer(texts, sheet_known(desk, job.plan))
    return render("sheets/_answer.html", answer=answer, job=job)
