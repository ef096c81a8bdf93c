"""Pages of the Close step: the report and its downloads."""

from typing import Annotated

from fastapi import APIRouter, Form
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.close import Report, actual_piece_s, report
from ditto_run.core.plan import Plan
from ditto_run.core.run.events import CloseRun
from ditto_run.core.run.strip import build
from ditto_run.core.steps import BY_NAME
from ditto_run.desk import Desk
from ditto_run.desk.gate import what_is_open
from ditto_run.formats.job_bundle import write_bundle
from ditto_run.formats.readings import log_lines, readings_csv, readings_xlsx, table
from ditto_run.web.dependencies import DeskDep, RenderDep, WhoDep, head_of
from ditto_run.web.files import download
from ditto_run.web.pages.run import request_key

router = APIRouter(prefix="/jobs/{job_id}/close")
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


@router.get("", name="close_page")
def show_page(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show the Close step: counts, figures, every piece."""
    job = desk.jobs.load(job_id)
    shop = desk.shop.load()
    run_id, now_open = desk.runs.of_job(job_id), what_is_open(desk, job)
    if run_id is None:
        return render("close/empty.html", head=head_of(desk, job, now_open), job=job, step=BY_NAME["close"])
    shop_changed = desk.shop_changed(job_id)
    with desk.runs.folded(run_id) as state:
        found = report(state)
        return render(
            "close/page.html",
            head=head_of(desk, job, now_open, state),
            job=job,
            plan=state.plan,
            state=state,
            shop=shop,
            step=BY_NAME["close"],
            report=found,
            strip=build(state),
            revisions=desk.runs.revisions(job_id),
            shop_changed=shop_changed,
            now=desk.now,
            choice=job.plan.choice,
            actual_piece_s=actual_piece_s(found),
        )


@router.post("", name="close_run")
def close_run(
    job_id: int, desk: DeskDep, render: RenderDep, who: WhoDep, short: Annotated[bool, Form()] = False
) -> Response:
    """Close the batch."""
    desk.runs.record(desk.runs.require(job_id), CloseRun(short), who, request_key(render))
    return RedirectResponse(f"/jobs/{job_id}/close", 303)


def reported(desk: Desk, job_id: int) -> tuple[Report, Plan]:
    """Return the report of a job and the plan it is read by."""
    with desk.runs.folded(desk.runs.require(job_id)) as state:
        return report(state), state.plan


@router.get("/readings.csv", name="close_csv")
def as_csv(job_id: int, desk: DeskDep) -> Response:
    """Download the readings as CSV."""
    return download(
        readings_csv(*reported(desk, job_id)), f"job-{job_id}-readings.csv", "text/csv; charset=utf-8"
    )


@router.get("/readings.xlsx", name="close_xlsx")
def as_xlsx(job_id: int, desk: DeskDep) -> Response:
    """Download the readings as a workbook."""
    header, rows = table(*reported(desk, job_id))
    book = desk.worker.run(readings_xlsx, header, [*rows])
    return download(book, f"job-{job_id}-readings.xlsx", XLSX)


@router.get("/log.jsonl", name="close_log")
def as_log(job_id: int, desk: DeskDep) -> Response:
    """Download the log as JSON Lines."""
    return download(
        log_lines(desk.runs.events(desk.runs.require(job_id))), f"job-{job_id}-log.jsonl", "application/jsonl"
    )


@router.get("/job.json", name="close_bundle")
def as_bundle(job_id: int, desk: DeskDep) -> Response:
    """Download the whole job as one bundle."""
    return download(
        write_bundle(desk.bundles.take_out(job_id)), f"job-{job_id}.ditto.json", "application/json"
    )
