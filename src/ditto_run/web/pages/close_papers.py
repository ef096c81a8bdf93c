"""Papers of the Close step: what goes to the customer, tags, a piece's page, sheets to print, what goes with a trip."""

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import HTMLResponse

from ditto_run.core.close import report
from ditto_run.core.close.after_trip import lengths_of, sizes_after
from ditto_run.core.close.blanks import blank_rows
from ditto_run.core.close.counts import left_to_do
from ditto_run.core.close.customer import customer_report
from ditto_run.core.close.deburr import sharp_edges
from ditto_run.core.close.packing import packing_list
from ditto_run.core.close.report import piece_row
from ditto_run.core.close.tags import TAGGED, tagged
from ditto_run.core.errors import NotFound
from ditto_run.core.part import complete_sets, sets_wanted
from ditto_run.core.steps import BY_NAME
from ditto_run.desk.gate import what_is_open
from ditto_run.desk.kits import kit_of, made_by_jobs
from ditto_run.desk.teaching import holders_used
from ditto_run.web.cycle import looked_at
from ditto_run.web.dependencies import DeskDep, RenderDep, head_of
from ditto_run.web.drawings.qr import qr_svg
from ditto_run.web.pages.close import BatchDep, of_batch

MOST_TAGS = 60  # of a sheet at a time
router = APIRouter(prefix="/jobs/{job_id}/close")


def _base(render: RenderDep) -> str:
    """The address of the application, as whoever asks sees it."""
    return str(render.request.base_url).rstrip("/")


@router.get("/customer", name="close_customer")
def customer(job_id: int, desk: DeskDep, render: RenderDep, batch: BatchDep = 0) -> HTMLResponse:
    """Show what goes to the customer, to print."""
    job = desk.jobs.load(job_id)
    now_open = what_is_open(desk, job)
    with desk.runs.folded(desk.runs.of_batch(job_id, batch)) as state:
        return render(
            "close/customer.html",
            head=head_of(desk, job, now_open, state),
            job=job,
            plan=state.plan,
            state=state,
            shop=desk.shop.load(),
            step=BY_NAME["close"],
            paper=customer_report(state),
            now=desk.now,
        )


@router.get("/piece/{number}", name="close_piece")
def piece_page(job_id: int, number: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show one piece: where it was made, its sizes, its heat, what was said of it."""
    job = desk.jobs.load(job_id)
    now_open = what_is_open(desk, job)
    for run_id in reversed([*desk.runs.batches(job_id).values()]):
        with desk.runs.folded(run_id) as state:
            if number not in state.pieces:
                continue
            return render(
                "close/piece.html",
                head=head_of(desk, job, now_open),
                job=job,
                plan=state.plan,
                state=state,
                step=BY_NAME["close"],
                row=piece_row(state, state.pieces[number]),
                piece=state.pieces[number],
                notes=[one for one in state.notes if one[3] == number],
                now=desk.now,
            )
    raise NotFound("piece", number, "Choose one on Close.")


@router.get("/tags", name="close_tags")
def tags_page(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    batch: BatchDep = 0,
    of: Annotated[str, Query(max_length=20)] = "held",
    first: Annotated[int, Query(ge=0, le=2**31)] = 0,
) -> HTMLResponse:
    """Show tags to print and cut: of pieces held or scrapped, or of every piece, a sheet at a time."""
    job = desk.jobs.load(job_id)
    now_open = what_is_open(desk, job)
    with desk.runs.folded(desk.runs.of_batch(job_id, batch)) as state:
        wanted = tagged(state, of)
        shown = [number for number in wanted if number >= first][:MOST_TAGS]
        base = _base(render)
        tags = [
            (piece_row(state, state.pieces[n]), qr_svg(f"{base}/jobs/{job_id}/close/piece/{n}"))
            for n in shown
        ]
        after = [number for number in wanted if shown and number > shown[-1]]
        return render(
            "close/tags.html",
            head=head_of(desk, job, now_open, state),
            job=job,
            plan=state.plan,
            state=state,
            step=BY_NAME["close"],
            tags=tags,
            of=of,
            kinds=TAGGED,
            many=len(wanted),
            next_first=after[0] if after else 0,
            batch=batch,
            now=desk.now,
        )


@router.get("/gauging", name="close_gauging")
def gauging_sheet(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show a gauging sheet with blanks for the loads still to come, to print."""
    job = desk.jobs.load(job_id)
    now_open = what_is_open(desk, job)
    with desk.runs.folded(desk.runs.require(job_id)) as lent:
        state = looked_at(lent, render.request)
        return render(
            "close/gauging.html",
            head=head_of(desk, job, now_open, state),
            job=job,
            plan=state.plan,
            state=state,
            step=BY_NAME["close"],
            sizes=[c for c in state.gauged_here() if c.grade != "free"],
            rows=blank_rows(state) if state.closed_at is None else (),
            now=desk.now,
        )


@router.get("/sheet", name="close_sheet")
def closing_sheet(job_id: int, desk: DeskDep, render: RenderDep, batch: BatchDep = 0) -> HTMLResponse:
    """Show the closing sheet, to print and tick by hand: counts, what is left, kit, edges, what is put away."""
    job = desk.jobs.load(job_id)
    now_open = what_is_open(desk, job)
    kit = kit_of(job.plan, job_id, made_by_jobs(desk), desk.jobs.find()) if job.plan.kit else []
    run_id, fixtures = desk.runs.of_batch(job_id, batch), holders_used(desk, job_id)
    with desk.runs.folded(run_id) as state:
        return render(
            "close/sheet.html",
            head=head_of(desk, job, now_open, state),
            job=job,
            plan=state.plan,
            state=state,
            step=BY_NAME["close"],
            report=report(state, []),
            to_do=left_to_do(state, [line.words for line in kit if line.words], desk.now),
            kit=kit,
            sets=complete_sets(kit),
            wanted_sets=sets_wanted(job.plan.kit, job.plan.heading.quantity),
            edges=sharp_edges(state.plan),
            fixtures=fixtures,
            now=desk.now,
        )


@router.get("/trip/{number}", name="close_packing")
def packing(job_id: int, number: int, desk: DeskDep, render: RenderDep, batch: BatchDep = 0) -> HTMLResponse:
    """Show what goes with a trip, to print."""
    job = desk.jobs.load(job_id)
    found_open = what_is_open(desk, job)
    with desk.runs.folded(desk.runs.of_batch(job_id, batch)) as state:
        trip = next((one for one in state.trips if one.number == number), None)
        if trip is None:
            raise NotFound("trip", number, "Choose one on Close.")
        return render(
            "close/packing.html",
            head=head_of(desk, job, found_open, state),
            job=job,
            plan=state.plan,
            step=BY_NAME["close"],
            shop=desk.shop.load(),
            listed=packing_list(state, trip),
            after=sizes_after(state, trip),
            size_choices=[(c.number, c.drawn) for c in lengths_of(state.plan)],
            last_size=next((one.size for one in reversed(state.sizes_after) if one.trip == number), ""),
            of_batch=of_batch(batch),
            code=qr_svg(f"{_base(render)}/jobs/{job_id}/close"),
            now=desk.now,
        )
