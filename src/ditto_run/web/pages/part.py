"""Pages of the Part step: characteristics, and many of them at once."""

from typing import Annotated

from fastapi import APIRouter, File, Form, UploadFile
from fastapi.responses import HTMLResponse, Response

from ditto_run.core.edits import AddCharacteristics, apply_edit
from ditto_run.core.errors import BadEntry
from ditto_run.formats.characteristic_table import rehearse
from ditto_run.formats.csv_tables import decode
from ditto_run.web.dependencies import DeskDep, RenderDep, WhoDep, plan_registers
from ditto_run.web.pages.planning import back_to, require_rows, step_page

router = APIRouter(prefix="/jobs/{job_id}/part")


@router.get("", name="part_page")
def show_page(
    job_id: int, desk: DeskDep, render: RenderDep, edit: int = 0, head: bool = False
) -> HTMLResponse:
    """Show the Part step; `edit` opens one characteristic, `head` the job's head."""
    return step_page(
        "part", job_id, desk, render, editing=edit, edit_head=head, attachments=desk.jobs.attachments(job_id)
    )


@router.post("/rehearse", name="part_rehearse")
async def rehearse_table(
    job_id: int, desk: DeskDep, render: RenderDep,
    rows: Annotated[str, Form()] = "", file: Annotated[UploadFile | None, File()] = None,
) -> HTMLResponse:  # fmt: skip
    """Show what a pasted table would add, before anything is changed."""
    text = decode(await file.read()) if file is not None and file.filename else require_rows(rows)
    job = desk.jobs.load(job_id)
    found = rehearse(text, job.plan)
    return step_page(
        "part", job_id, desk, render, editing=0, edit_head=False, rehearsal=found, pasted=text, attachments=[]
    )


@router.post("/rows", name="part_add_rows")
def add_rows(
    job_id: int, version: Annotated[int, Form()], rows: Annotated[str, Form()], desk: DeskDep, who: WhoDep
) -> Response:
    """Add the rows that were rehearsed; rows with a fault stay out only if the person said so by removing them."""
    job = desk.jobs.load(job_id)
    found = rehearse(rows, job.plan)
    if found.faults or not found.rows:
        raise BadEntry("Some rows cannot be read yet.", "Mend or remove them, then rehearse again.", "rows")
    registers = plan_registers(desk.shop.load())
    edit = AddCharacteristics(found.rows)
    desk.jobs.edit(job_id, version, who, lambda plan: apply_edit(edit, plan, registers))
    return back_to(job_id, "part")
