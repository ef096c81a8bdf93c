"""Pages of the Method step: ways side by side, the chart, the verdict, the choice."""

from typing import Literal

from fastapi import APIRouter
from fastapi.responses import HTMLResponse

from ditto_run.core.edits.method import read_way
from ditto_run.core.errors import NotFound
from ditto_run.core.method import STARTS, Measure, MethodVerdict, MethodWanted, Way, check_way, judge
from ditto_run.core.plan import Plan
from ditto_run.core.sheets import Entries
from ditto_run.desk.ways import happened, wanted_of
from ditto_run.web.dependencies import DeskDep, FormDep, RenderDep
from ditto_run.web.pages.planning import MANY, columns_of, read_edit, step_page
from ditto_run.web.pages.sheets import show_sheet

router = APIRouter(prefix="/jobs/{job_id}/method")
By = Literal["", "time", "cost", "days"]
MOST_TRIED = 20_000


def _judged(plan: Plan, money: str, quantity: int, by: By) -> tuple[MethodWanted, MethodVerdict | None]:
    wanted = wanted_of(plan, money, quantity)
    measure: Measure | None = by or None
    return wanted, judge(plan.ways, wanted, measure) if plan.ways else None


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
    plan = desk.jobs.load(job_id).plan
    tried = Entries({"pieces": pieces}, "mm", {"pieces": "Pieces"}).whole(
        "pieces", 1, MOST_TRIED, plan.heading.quantity
    )
    wanted, verdict = _judged(plan, desk.shop.load().money, tried, by)
    if edit:
        plan.way(edit)
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
        wanted=wanted,
        verdict=verdict,
        editing=edit,
        adding=new,
        starts=STARTS,
        rates=rates,
        by=by,
        actual_piece_s=happened(desk, job_id),
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
    wanted, verdict = _judged(tried, desk.shop.load().money, 0, "")
    return render(
        "method/_compared.html",
        plan=tried,
        wanted=wanted,
        verdict=verdict,
        job=desk.jobs.load(job_id),
        trying=True,
    )


@router.get("/{kind}", name="method_sheet")
def show_method_sheet(
    job_id: int, kind: str, desk: DeskDep, render: RenderDep, sheet: int = 0
) -> HTMLResponse:
    """Show one sheet of the Method step; `sheet` opens a kept one."""
    return show_sheet("method", kind, job_id, desk, render, sheet)
