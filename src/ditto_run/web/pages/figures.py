"""What is done to a question of Hold: a figure said otherwise, tried while it is typed, an answer put into the setup."""

from typing import Annotated

from fastapi import APIRouter, Form, Query
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from markupsafe import escape

from ditto_run.core.edits import GiveBack, SetFigure
from ditto_run.core.plan.asked import asked_of
from ditto_run.desk.values import Job
from ditto_run.web.dependencies import DeskDep, WhoDep
from ditto_run.web.pages.hold import KeyQuery
from ditto_run.web.told import told

router = APIRouter(prefix="/jobs/{job_id}/hold")


@router.post("/figure", name="hold_figure")
def say_figure(
    job_id: int,
    desk: DeskDep,
    who: WhoDep,
    setup: Annotated[int, Form(ge=1)],
    question: Annotated[str, Form(max_length=40)],
    name: Annotated[str, Form(max_length=40)],
    version: Annotated[int, Form(ge=0)] = 0,
    text: Annotated[str, Form(max_length=2000)] = "",
    why: Annotated[str, Form(max_length=300)] = "",
) -> Response:
    """Say a figure otherwise; one that cannot be read is answered at its field, an empty one takes what is worked out."""
    job = desk.jobs.load(job_id)
    found = asked_of(desk.worked_out(job), question, setup, {name: text} if text.strip() else None)
    if text.strip() and found.refusal is not None and getattr(found.refusal, "field", "") == name:
        found.refusal.field = "text"
        raise found.refusal
    one = found.figure(name)
    ground = one.found.text if one is not None and one.found is not None else ""
    job = desk.jobs.change(
        job_id, version, who, SetFigure(setup, question, name, text, why, ground, who), "hold"
    )
    return _back(job, setup, question)


@router.post("/give", name="hold_give")
def give_back(
    job_id: int,
    desk: DeskDep,
    who: WhoDep,
    setup: Annotated[int, Form(ge=1)],
    question: Annotated[str, Form(max_length=40)],
    version: Annotated[int, Form(ge=0)] = 0,
) -> Response:
    """Put what a question answered into its setup."""
    job = desk.jobs.load(job_id)
    for name, text in asked_of(desk.worked_out(job), question, setup).gives:
        job = desk.jobs.change(job_id, version, who, GiveBack(setup, name, text), "hold")  # type: ignore[arg-type]
        version = job.version
    return _back(job, setup, question)


def _back(job: Job, setup: int, question: str) -> Response:
    page = f"/jobs/{job.id}/hold?setup={setup}&ask={question}"
    return told(RedirectResponse(page, 303), f"{job.what[:1].upper()}{job.what[1:]}.")


@router.get("/try", name="hold_try")
def try_figure(
    job_id: int,
    desk: DeskDep,
    setup: KeyQuery,
    question: Annotated[str, Query(max_length=40)],
    name: Annotated[str, Query(max_length=40)],
    text: Annotated[str, Query(max_length=2000)] = "",
) -> HTMLResponse:
    """Say what would come out with a figure that is only typed yet; nothing is kept."""
    worked = desk.worked_out(desk.jobs.load(job_id))
    found = asked_of(worked, question, setup, {name: text} if text.strip() else None)
    if found.answer is not None:
        heavy = [f.problem for f in found.answer.findings if f.weight != "note"]
        return HTMLResponse(str(escape(" ".join([f"It would be: {found.answer.say}", *heavy[:1]]))))
    said = found.refusal.problem if found.refusal is not None else ""
    return HTMLResponse(str(escape(said)))
