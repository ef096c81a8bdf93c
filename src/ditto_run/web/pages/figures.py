"""What is done to a question: a figure said otherwise, tried while it is typed, an answer given back or kept."""

from typing import Annotated

from fastapi import APIRouter, Form, Query
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from markupsafe import escape

from ditto_run.core.edits import (
    AddToolLines,
    Edit,
    GiveBack,
    GiveBackSize,
    GiveBackTimes,
    KeepSheet,
    KeepSheets,
    SetFigure,
)
from ditto_run.core.errors import NotNow
from ditto_run.core.hold import Feature, Setup
from ditto_run.core.part import Characteristic
from ditto_run.core.plan.asked import asked_of, stock_asked, taken_over, thing_at, to_keep, tools_wanted
from ditto_run.core.plan.at_work import times_clocked, times_wanted
from ditto_run.core.plan.grounds import features_of, maker_of
from ditto_run.core.run.clocked import FEWEST_LOADS
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.times import read_seconds
from ditto_run.core.tools import ToolStep
from ditto_run.core.units import capital
from ditto_run.desk.values import Job
from ditto_run.web.clock import clock_of
from ditto_run.web.dependencies import DeskDep, WhoDep
from ditto_run.web.questions import address_of
from ditto_run.web.told import told

router = APIRouter(prefix="/jobs/{job_id}/ask")
Name = Annotated[str, Form(max_length=40)]
Asks = Annotated[str, Query(max_length=40)]
Version = Annotated[int, Form(ge=0)]
OF_SIZE = {"why", "every"}


@router.post("/figure", name="ask_figure")
def say_figure(
    job_id: int,
    desk: DeskDep,
    who: WhoDep,
    thing: Name,
    question: Name,
    name: Name,
    version: Version = 0,
    text: Annotated[str, Form(max_length=2000)] = "",
    why: Annotated[str, Form(max_length=300)] = "",
) -> Response:
    """Say a figure otherwise; one that cannot be read is answered at its field, an empty one takes what is worked out."""
    job = desk.jobs.load(job_id)
    found = asked_of(desk.worked_out(job), question, thing, {name: text} if text.strip() else None)
    if text.strip() and found.refusal is not None and getattr(found.refusal, "field", "") == name:
        found.refusal.field = "text"
        raise found.refusal
    one = found.figure(name)
    ground = one.found.text if one is not None and one.found is not None else ""
    job = desk.jobs.change(
        job_id, version, who, SetFigure(thing, question, name, text, why, ground, who), found.step
    )
    return _back(job, thing, question, found.step)


@router.post("/give", name="ask_give")
def give_back(
    job_id: int, desk: DeskDep, who: WhoDep, thing: Name, question: Name, version: Version = 0
) -> Response:
    """Put what a question answered into its setup: a stop or proof, or the tools of a size or feature."""
    job = desk.jobs.load(job_id)
    found, about = asked_of(desk.worked_out(job), question, thing), thing_at(job.plan, thing)
    if isinstance(about, Characteristic) and (said := [one for one in found.gives if one[0] in OF_SIZE]):
        for name, text in said:
            put = GiveBackSize(about.number, name, text)  # type: ignore[arg-type]
            job = desk.jobs.change(job_id, version, who, put, found.step)
        return _back(job, thing, question, found.step)
    if isinstance(about, Characteristic | Feature):
        maker, lines = maker_of(job.plan, about), tools_wanted(found, job.plan, about)
        if maker is not None and lines:
            makes = tuple(key for key in features_of(job.plan, about) if key in maker.cuts)
            job = desk.jobs.change(
                job_id, version, who, AddToolLines(maker.key, "\n".join(lines), makes), found.step
            )
        return _back(job, thing, question, found.step)
    if isinstance(about, ToolStep):
        times = tuple((about.key, name, read_seconds(text, name)) for name, text in found.gives)
        edit: Edit = GiveBackTimes(times)  # type: ignore[arg-type]
        job = desk.jobs.change(job_id, version, who, edit, found.step)
        return _back(job, thing, question, found.step)
    for name, text in found.gives if isinstance(about, Setup) else ():
        edit = GiveBack(int(thing.rpartition(" ")[2]), name, text)  # type: ignore[arg-type]
        job = desk.jobs.change(job_id, version, who, edit, found.step)
    return _back(job, thing, question, found.step)


@router.post("/times", name="ask_times")
def take_times(
    job_id: int, desk: DeskDep, who: WhoDep, setup: Annotated[int, Form(ge=1)], version: Version = 0
) -> Response:
    """Put the times that come out into every tool step of a setup that has none, in one change."""
    job = desk.jobs.load(job_id)
    times = times_wanted(desk.worked_out(job), job.plan.setup(setup).key)
    if times:
        job = desk.jobs.change(job_id, version, who, GiveBackTimes(times), "tools")
    said = f"{capital(job.what)}." if times else "No time comes out that is not there."
    return told(RedirectResponse(f"/jobs/{job.id}/tools?setup={setup}", 303), said)


@router.post("/clock", name="ask_clock")
def take_clock(
    job_id: int, desk: DeskDep, who: WhoDep, setup: Annotated[int, Form(ge=1)], version: Version = 0
) -> Response:
    """Put what the clock says of a setup's cycle into its tool steps, each in proportion."""
    job = desk.jobs.load(job_id)
    said = clock_of(desk, job_id, job.plan.setup(setup).key)
    if said is None:
        raise NotNow("The clock says nothing of this setup yet.", f"{FEWEST_LOADS} full loads are wanted.")
    ratio = said.cycle_s / job.plan.times(setup).cycle_s
    edit = GiveBackTimes(times_clocked(job.plan, setup, ratio), "clocked")
    job = desk.jobs.change(job_id, version, who, edit, "tools")
    return told(RedirectResponse(f"/jobs/{job.id}/tools?setup={setup}", 303), f"{capital(job.what)}.")


@router.post("/keep", name="ask_keep")
def keep_answers(job_id: int, desk: DeskDep, who: WhoDep, version: Version = 0) -> Response:
    """Keep every answered question of Stock that is not kept yet, in one change; what comes after rests on them."""
    job = desk.jobs.load(job_id)
    sheets = [
        KeepSheet(one.question, to_keep(one), sheet_of(one.question).word, taken=taken_over(one))
        for one in stock_asked(desk.worked_out(job))
        if one.answer is not None and not one.given
    ]
    job = desk.jobs.change(job_id, version, who, KeepSheets(tuple(sheets)), "stock")
    return told(RedirectResponse(f"/jobs/{job.id}/stock", 303), f"{capital(job.what)}.")


def _back(job: Job, thing: str, question: str, step: str) -> Response:
    page = f"/jobs/{job.id}/{step}?{address_of(thing)}ask={question}&figure=none"
    return told(RedirectResponse(page, 303), f"{capital(job.what)}.")


@router.get("/try", name="ask_try")
def try_figure(
    job_id: int,
    desk: DeskDep,
    thing: Asks,
    question: Asks,
    name: Asks,
    text: Annotated[str, Query(max_length=2000)] = "",
) -> HTMLResponse:
    """Say what would come out with a figure that is only typed yet; nothing is kept."""
    worked = desk.worked_out(desk.jobs.load(job_id))
    found = asked_of(worked, question, thing, {name: text} if text.strip() else None)
    if found.answer is not None:
        heavy = [f.problem for f in found.answer.findings if f.weight != "note"]
        return HTMLResponse(str(escape(" ".join([f"It would be: {found.answer.say}", *heavy[:1]]))))
    said = found.refusal.problem if found.refusal is not None else ""
    return HTMLResponse(str(escape(said)))
