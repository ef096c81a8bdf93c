"""Pages of the Method step: ways side by side, the chart, the verdict, the choice."""

from typing import Literal

from fastapi import APIRouter
from fastapi.responses import HTMLResponse

from ditto_run.core.edits.method import read_way
from ditto_run.core.errors import NotFound
from ditto_run.core.method import STARTS, Way, check_way
from ditto_run.core.sheets import Entries
from ditto_run.desk.ways import compare, happened
from ditto_run.web.dependencies import DeskDep, FormDep, RenderDep
from ditto_run.web.pages.planning import MANY, columns_of, read_edit, step_page
from ditto_run.web.pages.sheets import show_sheet

router = APIRouter(prefix="/jobs/{job_id}/method")
By = Literal["", "time", "cost", "days"]
MOST_TRIED = 20_000


@router.get("", name="method_page")
def show_page(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    edit: int = 0,
    new: bool = False,
    by: By = "",
    pieces: str = "",
) -> HTMLResponse:
    """Show the Method step; `edit` opens one way, `pieces` tries another quantity, `by` another measure."""
    job = desk.jobs.load(job_id)
    plan = job.plan
    tried = Entries({"pieces": pieces}, "mm", {"pieces": "Pieces"}).whole(
        "pieces", 1, MOST_TRIED, plan.heading.quantity
    )
    found = compare(plan, desk.shop.load().money, tried, by or None)
    if edit:
        plan.way(edit)
    mass = desk.worked_out(job).result_of("mass") if edit or new or not plan.ways else None
    rates = (
        {row.value.name: row.value.cents_per_hour for row in desk.drawers.rows("rates")}
        if edit or new or not plan.ways
        else {}
    )
    return step_page(
        "method",
        job_id,
        desk,
        render,
        view="",
        wanted=found.wanted,
        verdict=found.verdict,
        compared=found.ways,
        lacking=found.lacking,
        editing=edit,
        adding=new,
        starts=STARTS,
        rates=rates,
        by=by,
        actual_piece_s=happened(desk, job_id),
        material_cents=mass.cents_each if mass else 0,
    )


@router.post("/try", name="method_try")
def try_way(sent: FormDep, job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show the comparison as it would be with the way that is being typed; nothing is kept."""
    many = columns_of(sent)
    edit = read_edit(
        {name: str(value) for name, value in sent.items() if name not in {*MANY, "version", "step", "view"}},
        many,
    )
    if edit.kind != "set_way":
        raise NotFound("way", edit.kind)
    plan = desk.jobs.load(job_id).plan
    others = tuple(way for way in plan.ways if way.key != edit.key)
    tried = plan.put(check_way(read_way(edit, plan.number_for(Way, edit.key)), others))
    found = compare(tried, desk.shop.load().money)
    return render(
        "method/_compared.html",
        compared=found.ways,
        lacking=found.lacking,
        wanted=found.wanted,
        verdict=found.verdict,
        job=desk.jobs.load(job_id),
        trying=True,
    )


@router.get("/{kind}", name="method_sheet")
def show_method_sheet(
    job_id: int, kind: str, desk: DeskDep, render: RenderDep, sheet: int = 0
) -> HTMLResponse:
    """Show one sheet of the Method step; `sheet` opens a kept one."""
    return show_sheet("method", kind, job_id, desk, render, sheet)
