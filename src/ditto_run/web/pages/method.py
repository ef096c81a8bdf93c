"""Pages of the Method step: ways side by side, the chart, the verdict, the choice."""

from dataclasses import replace
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from fastapi.responses import HTMLResponse

from ditto_run.core.edits.method import read_way
from ditto_run.core.errors import NotFound
from ditto_run.core.method import STARTS, Way, check_way
from ditto_run.core.method.starting import SUITS
from ditto_run.core.plan.asked import asked_of, method_asked
from ditto_run.core.plan.ways import plan_says, planned_times
from ditto_run.core.plan.worked import PART, says_of
from ditto_run.core.sheets import Entries
from ditto_run.desk.ways import compare, happened
from ditto_run.web.dependencies import DeskDep, FormDep, RenderDep
from ditto_run.web.pages.planning import MANY, columns_of, read_edit, step_page
from ditto_run.web.pages.sheets import show_index, show_sheet
from ditto_run.web.questions import METHOD_WORDS, opened, rows_of

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
    ask: Annotated[str, Query(max_length=40)] = "",
    figure: Annotated[str, Query(max_length=40)] = "",
) -> HTMLResponse:
    """Show the Method step; `edit` opens one way, `ask` a question, `pieces` tries another quantity, `by` another measure."""
    job = desk.jobs.load(job_id)
    plan, worked = job.plan, desk.worked_out(job)
    tried = Entries({"pieces": pieces}, "mm", {"pieces": "Pieces"}).whole(
        "pieces", 1, MOST_TRIED, plan.heading.quantity
    )
    found = compare(worked, tried, by or None)
    if edit:
        plan.way(edit)
    return step_page(
        "method",
        job_id,
        desk,
        render,
        view="",
        alone=True,
        wanted=found.wanted,
        verdict=found.verdict,
        compared=found.ways,
        lacking=found.lacking,
        editing=edit,
        adding=new,
        starts=sorted(STARTS, key=lambda start: start.kind not in SUITS[plan.form]),
        suits=SUITS[plan.form],
        planned=planned_times(plan),
        says=plan_says(says_of(worked), Way(0, "")),
        rates=worked.shop.rates,
        by=by,
        rows=rows_of(method_asked(worked), plan),
        asked=opened(asked_of(worked, ask, PART), figure) if ask else None,
        here="",
        unit=plan.heading.unit,
        actual_piece_s=happened(desk, job_id),
    )


@router.get("/sheets", name="method_sheets")
def show_sheets(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show every sheet of Method: for who looks for a certain computation."""
    return show_index("method", job_id, desk, render, METHOD_WORDS)


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
    job = desk.jobs.load(job_id)
    plan, worked = job.plan, desk.worked_out(job)
    others = tuple(way for way in plan.ways if way.key != edit.key)
    tried = plan.put(check_way(read_way(edit, plan.number_for(Way, edit.key)), others))
    found = compare(replace(worked, plan=tried))
    return render(
        "method/_compared.html",
        compared=found.ways,
        lacking=found.lacking,
        wanted=found.wanted,
        verdict=found.verdict,
        job=job,
        trying=True,
    )


@router.get("/{kind}", name="method_sheet")
def show_method_sheet(
    job_id: int, kind: str, desk: DeskDep, render: RenderDep, sheet: int = 0
) -> HTMLResponse:
    """Show one sheet of the Method step, filled from the job where it is asked there; `sheet` opens a kept one."""
    job = desk.jobs.load(job_id)
    kept = sheet or any(one.kind == kind for one in job.plan.sheets)
    typed = asked_of(desk.worked_out(job), kind, PART).texts if kind in METHOD_WORDS and not kept else {}
    return show_sheet("method", kind, job_id, desk, render, sheet, typed=typed or None)
