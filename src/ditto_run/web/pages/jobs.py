"""The list of jobs, a new job, and the questions of the first start."""

from datetime import date
from decimal import Decimal
from typing import Annotated
from urllib.parse import quote

from fastapi import APIRouter, File, Form, Query, Request, UploadFile
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.entry.plain import read_count
from ditto_run.core.part import Heading, check_heading
from ditto_run.core.part.features import form_of_shop
from ditto_run.core.plan import Plan
from ditto_run.core.shop import MACHINE_KINDS, Machine, MachineKind, Wear, read_codes
from ditto_run.core.units import LengthUnit
from ditto_run.desk.overview import overview
from ditto_run.web.dependencies import DeskDep, RenderDep, WhoDep
from ditto_run.web.files import kept_file
from ditto_run.web.told import told

router = APIRouter()
A_YEAR_S = 365 * 24 * 3600
MOST_OFFERED = 60


@router.get("/", name="jobs_page")
def show_page(
    desk: DeskDep, render: RenderDep, q: Annotated[str, Query(max_length=100)] = "", archived: bool = False
) -> HTMLResponse:
    """Show the jobs; in an empty shop, the questions of the first start."""
    shop = desk.shop.load()
    if shop.is_new:
        return render("jobs/welcome.html", shop=shop, kinds=MACHINE_KINDS)
    return render(
        "jobs/page.html",
        shop=shop,
        jobs=overview(desk, q, archived=archived),
        called=[row.value.words for row in desk.drawers.rows("finished") if row.value.words],
        q=q,
        archived=archived,
        now=desk.now,
    )


@router.post("/welcome", name="welcome")
def welcome(
    desk: DeskDep,
    unit: Annotated[LengthUnit, Form()],
    machine: Annotated[str, Form()],
    kind: Annotated[MachineKind, Form()],
    initials: Annotated[str, Form()],
    codes: Annotated[str, Form()] = "",
) -> Response:
    """Keep the answers of the first start: unit, one machine, initials."""
    offset_codes = read_codes(codes)
    increment = Decimal("0.0001") if unit == "in" else Decimal("0.001")
    first = Machine(0, machine, kind, offset_codes, Wear(unit=unit, increment=increment))
    desk.shop.begin(unit, initials, first)
    return _known(RedirectResponse("/", 303), initials.strip().upper())


def _known(response: Response, initials: str) -> Response:
    response.set_cookie("who", quote(initials), max_age=A_YEAR_S, samesite="strict")
    return response


@router.post("/who", name="who")
def choose_person(
    initials: Annotated[str, Form(max_length=4)], back: Annotated[str, Form()] = "/"
) -> Response:
    """Say who works in this browser."""
    target = back if back.startswith("/") and not back.startswith("//") else "/"
    return told(_known(RedirectResponse(target, 303), initials), f"{initials.strip().upper()} works here.")


@router.post("/demo", name="demo_jobs")
def add_demo(request: Request, desk: DeskDep) -> Response:
    """Add the demo jobs to look at; they can be deleted one by one."""
    request.app.state.add_demo(desk)
    return RedirectResponse("/", 303)


@router.get("/jobs/new", name="new_job_page")
def new_job_page(desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show the form for a new job."""
    jobs = desk.jobs.find()
    heads = [part.plan.heading for job in jobs for part in job.plan.all_parts]
    materials = [row.value.name for row in desk.drawers.rows("materials")]
    return render(
        "jobs/new.html",
        shop=desk.shop.load(),
        others=[(job.id, job.plan.title) for job in jobs[:MOST_OFFERED]],
        customers=list(dict.fromkeys(head.customer for head in heads if head.customer))[:MOST_OFFERED],
        materials=list(dict.fromkeys([*(head.material for head in heads if head.material), *materials]))[
            :MOST_OFFERED
        ],
    )


@router.post("/jobs", name="new_job")
def new_job(
    desk: DeskDep,
    who: WhoDep,
    part: Annotated[str, Form()],
    quantity: Annotated[str, Form(max_length=40)],
    unit: Annotated[LengthUnit, Form()],
    customer: Annotated[str, Form()] = "",
    drawing: Annotated[str, Form()] = "",
    drawing_revision: Annotated[str, Form()] = "",
    material: Annotated[str, Form()] = "",
    due: Annotated[date | None, Form()] = None,
    drawing_file: Annotated[UploadFile | None, File()] = None,
    client_key: Annotated[str, Form(max_length=80)] = "",
    like: Annotated[str, Form(max_length=12)] = "",
) -> Response:
    """Keep a new job, with its drawing or photo if one came along; `like` begins with the plan of another one."""
    heading = check_heading(
        Heading(
            part.strip(),
            read_count(quantity, "quantity"),
            unit,
            customer.strip(),
            drawing.strip(),
            drawing_revision.strip(),
            material.strip(),
            due,
        )
    )
    if like.isdigit():
        job_id = desk.jobs.new_like(int(like), heading, who, client_key)
    else:
        form = form_of_shop(machine.turns for machine in desk.shop.load().machines.values())
        job_id = desk.jobs.new(Plan(heading, form=form), who, client_key=client_key)
    if drawing_file is not None and drawing_file.filename:
        desk.jobs.attach(job_id, drawing_file.filename, drawing_file.file.read())
    return told(RedirectResponse(f"/jobs/{job_id}/part", 303), f"Made the job {heading.part}.")


@router.get("/jobs/{job_id}", name="job_page")
def job_page(job_id: int, desk: DeskDep) -> Response:
    """Go to where the job is: its run if it has one, else its part."""
    desk.jobs.load(job_id)
    step = "part" if desk.runs.of_job(job_id) is None else "run"
    return RedirectResponse(f"/jobs/{job_id}/{step}", 303)


@router.post("/jobs/{job_id}/copy", name="copy_job")
def copy_job(job_id: int, desk: DeskDep, who: WhoDep) -> Response:
    """Make a new job with the plan of this one."""
    new_id = desk.jobs.copy(job_id, who)
    return told(RedirectResponse(f"/jobs/{new_id}/part?head=true", 303), "Made a job with the same plan.")


@router.post("/jobs/{job_id}/archive", name="archive_job")
def archive_job(job_id: int, desk: DeskDep, archived: Annotated[bool, Form()] = True) -> Response:
    """Put a job away, or bring it back."""
    desk.jobs.archive(job_id, archived=archived)
    return told(RedirectResponse("/", 303), "The job is put away." if archived else "The job is back.")


@router.post("/jobs/{job_id}/delete", name="delete_job")
def delete_job(job_id: int, desk: DeskDep) -> Response:
    """Delete a demo job for good."""
    desk.jobs.delete(job_id)
    desk.runs.forget()
    return told(RedirectResponse("/", 303), "The job is deleted.")


@router.post("/jobs/{job_id}/attachments", name="attach")
def attach(job_id: int, drawing_file: Annotated[UploadFile, File()], desk: DeskDep) -> Response:
    """Keep a drawing or photo beside a job."""
    content = drawing_file.file.read()
    desk.jobs.attach(job_id, drawing_file.filename or "", content)
    return told(
        RedirectResponse(f"/jobs/{job_id}/part", 303), f"{drawing_file.filename} is kept beside the job."
    )


@router.get("/jobs/{job_id}/attachments/{attachment_id}", name="attachment")
def attachment(job_id: int, attachment_id: int, desk: DeskDep) -> Response:
    """Return a drawing or photo."""
    found = desk.jobs.attachment(job_id, attachment_id)
    return kept_file(found)


@router.post("/jobs/{job_id}/attachments/{attachment_id}/remove", name="detach")
def detach(job_id: int, attachment_id: int, desk: DeskDep) -> Response:
    """Take a drawing or photo away."""
    desk.jobs.detach(job_id, attachment_id)
    return told(RedirectResponse(f"/jobs/{job_id}/part", 303), "The drawing is gone.")
