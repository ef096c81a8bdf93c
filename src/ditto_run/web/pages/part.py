"""Pages of the Part step: characteristics, what to ask, finishes, measured stock, families and kits."""

from typing import Annotated

from fastapi import APIRouter, File, Form, Query, UploadFile
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.edits import sibling_sizes
from ditto_run.core.errors import NotFound
from ditto_run.core.part import Finish, complete_sets, missing, questions_text, sets_wanted
from ditto_run.core.part.coated import before_and_after, finishes_weighed, window_of
from ditto_run.core.plan.asked import asked_of, feature_thing, part_asked
from ditto_run.core.shop.drawers import Coating
from ditto_run.core.units import counted
from ditto_run.desk.kits import kit_of, made_by_jobs, siblings_of
from ditto_run.formats.characteristic_table import rehearse
from ditto_run.formats.csv_tables import decode
from ditto_run.web.dependencies import DeskDep, RenderDep, WhoDep
from ditto_run.web.pages.features import drawn_part
from ditto_run.web.pages.planning import back_to, require_rows, step_page
from ditto_run.web.pages.sheets import show_index, show_sheet
from ditto_run.web.questions import PART_WORDS, opened, rows_of
from ditto_run.web.told import told

router = APIRouter(prefix="/jobs/{job_id}/part")


@router.get("", name="part_page")
def show_page(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    edit: int = 0,
    head: bool = False,
    size: Annotated[int, Query(ge=0, le=2**31)] = 0,
    feature: Annotated[int, Query(ge=0, le=2**31)] = 0,
    ask: Annotated[str, Query(max_length=40)] = "",
    figure: Annotated[str, Query(max_length=40)] = "",
) -> HTMLResponse:
    """Show the part; `edit` opens a size, `head` the job's head, `ask` a question of a `size` or `feature`, `figure` a field of it."""
    job = desk.jobs.load(job_id)
    plan, worked = job.plan, desk.worked_out(job)
    thing = feature_thing(feature) if feature else f"size {size}"
    carried = {
        f.key for f in plan.features if any(c.number == f.characteristic for c in plan.characteristics)
    }
    return step_page(
        "part",
        job_id,
        desk,
        render,
        alone=True,
        editing=edit,
        edit_head=head,
        rows=rows_of(part_asked(worked), plan),
        asked=opened(asked_of(worked, ask, thing), figure) if ask else None,
        here=f"feature={feature}&" if feature else f"size={size}&",
        unit=plan.heading.unit,
        attachments=desk.jobs.attachments(job_id),
        others=[f for f in plan.features if f.key not in carried],
        view="",
        **drawn_part(desk, plan, feature),
    )


@router.get("/sizes", name="part_sizes")
def show_sizes(
    job_id: int, desk: DeskDep, render: RenderDep, edit: int = 0, assign: bool = False
) -> HTMLResponse:
    """Show every size in a table; `edit` opens one, `assign` says class, gauge, setup and finish of all at once."""
    return step_page(
        "part",
        job_id,
        desk,
        render,
        template="part/sizes.html",
        editing=edit,
        assigning=assign,
        view="sizes",
    )


@router.get("/sheets", name="part_sheets")
def show_sheets(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show every sheet of Part: for who looks for a certain computation."""
    return show_index("part", job_id, desk, render, PART_WORDS)


@router.get("/missing", name="part_missing")
def show_missing(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show what to ask before starting, as text to copy."""
    plan = desk.jobs.load(job_id).plan
    questions = missing(plan.heading, plan.characteristics, plan.finishes)
    text = questions_text(plan.heading.part, questions)
    return step_page(
        "part",
        job_id,
        desk,
        render,
        template="part/missing.html",
        view="missing",
        questions=questions,
        text=text,
    )


@router.get("/finish", name="part_finish")
def show_finish(job_id: int, desk: DeskDep, render: RenderDep, edit: int = 0) -> HTMLResponse:
    """Show the finishes and what they do to each size; `edit` opens one."""
    plan = desk.jobs.load(job_id).plan
    windows = {c.number: window_of(c, plan.finishes) for c in plan.characteristics}
    changed = zip(plan.characteristics, windows.values(), strict=True)
    shown = {c.number: before_and_after(c, window) for c, window in changed if window is not None}
    coatings = [row.value for row in desk.drawers.rows("coatings")]
    return step_page(
        "part",
        job_id,
        desk,
        render,
        template="part/finish.html",
        view="finish",
        editing=edit,
        windows=windows,
        shown=shown,
        coatings=coatings,
        weighed=finishes_weighed(plan.characteristics, [_as_finish(one) for one in coatings]),
    )


def _as_finish(coating: Coating) -> Finish:
    """A finish as it would be chosen."""
    return Finish(
        1,
        coating.name,
        coating.film_low_um,
        coating.film_high_um,
        coating.growth,
        coating.bore_share,
        coating.edge_share,
    )


@router.get("/stock-sizes", name="part_stock")
def show_stock(job_id: int, desk: DeskDep, render: RenderDep, edit: int = 0) -> HTMLResponse:
    """Show measured stock; `edit` opens one."""
    return step_page(
        "part", job_id, desk, render, template="part/stock.html", view="stock-sizes", editing=edit
    )


@router.get("/kit", name="part_kit")
def show_kit(job_id: int, desk: DeskDep, render: RenderDep, edit: int = 0) -> HTMLResponse:
    """Show the kit and what is short; `edit` opens one part."""
    plan = desk.jobs.load(job_id).plan
    jobs = desk.jobs.find()
    lines = kit_of(plan, job_id, made_by_jobs(desk), jobs)
    others = [(-one.key, f"{one.plan.heading.part}, in this job") for one in plan.companions]
    others += [(job.id, job.plan.title) for job in jobs if job.id != job_id]
    return step_page(
        "part",
        job_id,
        desk,
        render,
        template="part/kit.html",
        view="kit",
        editing=edit,
        lines=lines,
        sets=complete_sets(lines),
        wanted=sets_wanted(plan.kit, plan.heading.quantity),
        others=others,
    )


@router.get("/family", name="part_family")
def show_family(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show the siblings of a job, and a form for more."""
    plan = desk.jobs.load(job_id).plan
    siblings = siblings_of(desk.jobs.find(), job_id, plan)
    return step_page(
        "part",
        job_id,
        desk,
        render,
        template="part/family.html",
        view="family",
        siblings=siblings,
        sizes=sibling_sizes(plan),
    )


@router.post("/family", name="part_siblings")
def make_siblings(
    job_id: int, desk: DeskDep, who: WhoDep, siblings: Annotated[str, Form(max_length=200_000)] = ""
) -> Response:
    """Make a job for each sibling typed; all of them or none."""
    made = desk.jobs.make_siblings(job_id, who, siblings)
    return told(
        RedirectResponse(f"/jobs/{job_id}/part/family", 303), f"Made {counted(len(made), 'sibling job')}."
    )


@router.post("/rehearse", name="part_rehearse")
def rehearse_table(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    rows: Annotated[str, Form()] = "",
    file: Annotated[UploadFile | None, File()] = None,
) -> HTMLResponse:
    """Show what a pasted table would add, before anything is changed."""
    text = decode(file.file.read()) if file is not None and file.filename else require_rows(rows)
    job = desk.jobs.load(job_id)
    found = rehearse(text, job.plan)
    return step_page(
        "part",
        job_id,
        desk,
        render,
        template="part/sizes.html",
        editing=0,
        rehearsal=found,
        pasted=text,
        view="sizes",
    )


@router.post("/rows", name="part_add_rows")
def add_rows(
    job_id: int, version: Annotated[int, Form()], rows: Annotated[str, Form()], desk: DeskDep, who: WhoDep
) -> Response:
    """Add the rows that were rehearsed; rows with a fault stay out only if the person said so by removing them."""
    return back_to(desk.jobs.add_rows(job_id, version, who, rows), "part", "/sizes")


@router.get("/{kind}", name="part_sheet")
def show_part_sheet(job_id: int, kind: str, desk: DeskDep, render: RenderDep, sheet: int = 0) -> HTMLResponse:
    """Show one sheet of the Part step; `sheet` opens a kept one."""
    if not kind.isalpha():
        raise NotFound("sheet", kind[:20])
    return show_sheet("part", kind, job_id, desk, render, sheet)
