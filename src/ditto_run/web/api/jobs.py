"""Jobs and their plans as JSON."""

from typing import Annotated, Any

from fastapi import APIRouter, Body, Query
from pydantic import BaseModel, BeforeValidator, Field

from ditto_run.core.edits import Edit
from ditto_run.core.part import Heading, check_heading
from ditto_run.core.part.features import form_of_shop
from ditto_run.core.plan import Plan
from ditto_run.core.run.batches import MOST_BATCHES
from ditto_run.core.steps import STEPS
from ditto_run.desk.gate import start_run, what_is_open
from ditto_run.desk.values import Job
from ditto_run.formats.characteristic_table import rehearse
from ditto_run.formats.job_bundle import Bundle
from ditto_run.web.api.errors import ERRORS, Number
from ditto_run.web.api.shop import Made
from ditto_run.web.api.strict import Sent, only_known
from ditto_run.web.dependencies import BodyDep, DeskDep, WhoDep

router = APIRouter(prefix="/api/v1/jobs", tags=["jobs"], responses=ERRORS)


class FindingOut(BaseModel):
    """One thing the plan still wants."""

    step: str
    weight: str
    code: str
    problem: str
    remedy: str


class JobOut(BaseModel):
    """A job with the plan that counts; an edit names its version. `batches` gives the run of each batch, `run_id` the newest."""

    id: int
    version: int
    last_change: str
    changed_by: str
    archived: bool
    run_id: int | None
    batches: dict[int, int]
    plan: Plan
    findings: list[FindingOut]


class StartIn(Sent):
    """Which batch, from 1, and why what is asked may stand; wanted only where something is."""

    note: Annotated[str, Field(max_length=300)] = ""
    batch: Annotated[int, Field(ge=1, le=MOST_BATCHES)] = 1


class EditIn(Sent):
    """One change of a plan, made on that version of it."""

    version: int
    edit: Annotated[Edit, Field(discriminator="kind"), BeforeValidator(only_known(Edit))]


def _out(desk: DeskDep, job: Job) -> JobOut:
    found = what_is_open(desk, job)
    findings = [thing.finding for thing in found.things if thing.stands is None]
    return JobOut(
        id=job.id,
        version=job.version,
        last_change=job.what,
        changed_by=job.who,
        archived=job.archived,
        run_id=desk.runs.of_job(job.id),
        batches=dict(desk.runs.batches(job.id)),
        plan=job.plan,
        findings=[
            FindingOut(step=f.step, weight=f.weight, code=f.code, problem=f.problem, remedy=f.remedy)
            for f in findings
        ],
    )


@router.get("")
def jobs(
    desk: DeskDep, q: Annotated[str, Query(max_length=100)] = "", archived: bool = False
) -> list[JobOut]:
    """Return the jobs, newest first."""
    return [_out(desk, job) for job in desk.jobs.find(q, archived=archived)]


@router.post("", status_code=201)
def new_job(heading: Heading, desk: DeskDep, who: WhoDep) -> Made:
    """Make a job."""
    form = form_of_shop(machine.turns for machine in desk.shop.load().machines.values())
    return Made(id=desk.jobs.new(Plan(check_heading(heading), form=form), who))


@router.get("/steps")
def steps() -> list[dict[str, Any]]:
    """Return the nine steps."""
    return [{"number": s.number, "name": s.name, "word": s.word, "does": s.does} for s in STEPS]


@router.post(
    "/import",
    status_code=201,
    openapi_extra={"requestBody": {"content": {"application/json": {"schema": {"type": "object"}}}}},
)
def import_job(content: BodyDep, desk: DeskDep) -> Made:
    """Bring in a job from a bundle."""
    return Made(id=desk.bundles.read(content))


@router.get("/{job_id}")
def job(job_id: Number, desk: DeskDep) -> JobOut:
    """Return one job."""
    return _out(desk, desk.jobs.load(job_id))


@router.post("/{job_id}/edits")
def edit(job_id: Number, change: Annotated[EditIn, Body()], desk: DeskDep, who: WhoDep) -> JobOut:
    """Make one change of the plan."""
    return _out(desk, desk.jobs.change(job_id, change.version, who, change.edit))


class RowsIn(Sent):
    """A pasted table of characteristics."""

    rows: Annotated[str, Field(max_length=100_000)]


class RowOut(BaseModel):
    """One row as it would be taken in: how it was understood, or what is wrong with it."""

    row: int
    name: str
    size: str
    understood: str
    problem: str


@router.post("/{job_id}/rehearse")
def rehearse_rows(job_id: Number, sent: RowsIn, desk: DeskDep) -> list[RowOut]:
    """Return what a pasted table of characteristics would add; nothing is changed."""
    lines = rehearse(sent.rows, desk.jobs.load(job_id).plan).lines
    return [
        RowOut(row=x.row, name=x.name, size=x.size, understood=x.understood, problem=x.problem) for x in lines
    ]


@router.post("/{job_id}/undo")
def undo(job_id: Number, version: Annotated[int, Query()], desk: DeskDep, who: WhoDep) -> JobOut:
    """Take back the last change of the plan."""
    return _out(desk, desk.jobs.undo(job_id, version, who))


@router.post("/{job_id}/copy", status_code=201)
def copy(job_id: Number, desk: DeskDep, who: WhoDep) -> Made:
    """Make a new job with the plan of this one."""
    return Made(id=desk.jobs.copy(job_id, who))


@router.post("/{job_id}/archive")
def archive(job_id: Number, desk: DeskDep, archived: bool = True) -> JobOut:
    """Put a job away, or bring it back."""
    desk.jobs.archive(job_id, archived=archived)
    return _out(desk, desk.jobs.load(job_id))


@router.get("/{job_id}/bundle")
def bundle(job_id: Number, desk: DeskDep) -> Bundle:
    """Return the whole job as one bundle."""
    return desk.bundles.take_out(job_id)


@router.post("/{job_id}/run", status_code=201)
def start(job_id: Number, desk: DeskDep, who: WhoDep, sent: StartIn | None = None) -> Made:
    """Freeze the plan and start the run of a batch, if nothing keeps it; a second time gives the same run."""
    sent = sent or StartIn()
    return Made(id=start_run(desk, job_id, who, sent.note, batch=sent.batch))


class OpenOut(BaseModel):
    """One thing that is open, or was let stand."""

    step: str
    yields: str
    code: str
    thing: str
    problem: str
    remedy: str
    link: str
    is_open: bool
    note: str
    initials: str


class OpenListOut(BaseModel):
    """Everything that is open in a job, heaviest first."""

    wanted: int
    never: int
    initials: int
    note: int
    not_begun: list[str]
    things: list[OpenOut]


@router.get("/{job_id}/open")
def open_list(job_id: Number, desk: DeskDep) -> OpenListOut:
    """Return everything that is open on all steps, heaviest first, with what was let stand."""
    found = what_is_open(desk, desk.jobs.load(job_id))
    things = [
        OpenOut(
            step=thing.finding.step,
            yields=thing.yields,
            code=thing.finding.code,
            thing=thing.finding.thing,
            problem=thing.finding.problem,
            remedy=thing.finding.remedy,
            link=f"/jobs/{job_id}/{thing.finding.step}",
            is_open=thing.is_open,
            note=thing.stands.note if thing.stands else "",
            initials=thing.stands.who if thing.stands else "",
        )
        for thing in found.things
    ]
    return OpenListOut(
        wanted=len(found.wanted),
        not_begun=list(found.not_begun),
        never=found.counted("never"),
        initials=found.counted("initials"),
        note=found.counted("note"),
        things=things,
    )
