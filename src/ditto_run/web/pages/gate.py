"""What is open: one page over all steps, heaviest first, each thing with its way out."""

from fastapi import APIRouter
from fastapi.responses import HTMLResponse

from ditto_run.core.steps import BY_NAME
from ditto_run.desk.gate import what_is_open
from ditto_run.web.dependencies import DeskDep, RenderDep, head_of

router = APIRouter(prefix="/jobs/{job_id}/open")
WORDS = (
    ("never", "Never yields: no note opens it"),
    ("initials", "Stop: yields to a note with initials"),
    ("note", "Ask: yields to a note"),
)


@router.get("", name="open_page")
def show_page(job_id: int, desk: DeskDep, render: RenderDep, thing: int = 0) -> HTMLResponse:
    """Show what is open in a job; `thing` chooses one of the list, from 1."""
    job = desk.jobs.load(job_id)
    run_id, found = desk.runs.of_job(job_id), what_is_open(desk, job)
    if run_id is None:
        head = head_of(desk, job, found)
    else:
        with desk.runs.folded(run_id) as state:
            head = head_of(desk, job, found, state)
    wanted = head.open.wanted
    chosen = wanted[min(max(thing, 1), len(wanted)) - 1] if wanted else None
    return render(
        "open/page.html",
        head=head,
        job=job,
        plan=job.plan,
        open=head.open,
        wanted=wanted,
        chosen=chosen,
        groups=[(words, [t for t in wanted if t.yields == yields]) for yields, words in WORDS],
        notes=[t for t in head.open.things if t.yields == "plain"],
        steps_by_name=BY_NAME,
        running=run_id is not None,
        who=render.who,
    )
