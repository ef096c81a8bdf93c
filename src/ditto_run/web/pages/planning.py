"""Saves changes of a plan, from whichever planning page they come."""

from typing import Annotated, Any

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.edits import Edit, apply_edit
from ditto_run.core.errors import BadEntry
from ditto_run.core.plan import Plan, plan_findings
from ditto_run.core.sizes import read_size
from ditto_run.core.steps import BY_NAME
from ditto_run.core.units import LengthUnit
from ditto_run.formats.documents import EDIT
from ditto_run.web.dependencies import Desk, DeskDep, RenderDep, WhoDep, head_of, plan_registers

router = APIRouter(prefix="/jobs/{job_id}")
GROUPS = {"shift": ("shift_x", "shift_y", "shift_z"), "zero": ("zero_x", "zero_y", "zero_z")}
MAY_BE_EMPTY = {"number", "key", "gauge_id", "setup", "machine_id", "due"}


def read_edit(form: dict[str, str]) -> Edit:
    """Return the change a form asks for."""
    values: dict[str, object] = {
        name: text for name, text in form.items() if text or name not in MAY_BE_EMPTY
    }
    if form.get("kind") == "set_station":
        for name, parts in GROUPS.items():
            values[name] = tuple(str(values.pop(part, "")) for part in parts)
    return EDIT.validate_python(values)


def step_page(step: str, job_id: int, desk: Desk, render: RenderDep, **context: Any) -> HTMLResponse:  # noqa: ANN401 - whatever the template needs
    """Show one planning page of a job."""
    job = desk.jobs.load(job_id)
    run_id = desk.runs.of_job(job_id)
    if run_id is None:
        head = head_of(job, desk.shop.load(), None)
    else:
        with desk.runs.folded(run_id) as state:
            head = head_of(job, desk.shop.load(), state)
            context |= {"revision": state.revision, "ahead": state.plan != job.plan}
    findings = [finding for finding in plan_findings(job.plan, head.shop.machines) if finding.step == step]
    return render(
        f"{step}/page.html",
        head=head,
        job=job,
        plan=job.plan,
        step=BY_NAME[step],
        findings=findings,
        **context,
    )


def back_to(job_id: int, step: str, chosen: str = "") -> Response:
    """Send the browser back to the page it came from."""
    return RedirectResponse(f"/jobs/{job_id}/{step if step in BY_NAME else 'part'}{chosen}", 303)


@router.post("/plan", name="plan_edit")
async def change_plan(request: Request, job_id: int, desk: DeskDep, who: WhoDep) -> Response:
    """Make one change to the plan; an entry that cannot be used is answered at its field."""
    form = {name: str(value) for name, value in (await request.form()).items()}
    step, version = form.pop("step", "part"), int(form.pop("version", "0") or 0)
    edit = read_edit(form)
    registers = plan_registers(desk.shop.load())
    desk.jobs.edit(job_id, version, who, lambda plan: apply_edit(edit, plan, registers))
    setup = f"?setup={form['setup']}" if form.get("setup") and step in {"place", "tools"} else ""
    return back_to(job_id, step, setup)


@router.post("/plan/undo", name="plan_undo")
def undo(
    job_id: int,
    version: Annotated[int, Form()],
    desk: DeskDep,
    who: WhoDep,
    step: Annotated[str, Form()] = "part",
) -> Response:
    """Take back the last change of the plan."""
    desk.jobs.undo(job_id, version, who)
    return back_to(job_id, step)


@router.get("/size", name="size_read")
def size_read(
    job_id: int, desk: DeskDep, render: RenderDep, size: Annotated[str, Query(max_length=200)] = ""
) -> HTMLResponse:
    """Show how a size is understood while it is typed."""
    unit: LengthUnit = desk.jobs.load(job_id).plan.heading.unit
    if not size.strip():
        return render("part/_understood.html", size=None)
    return render("part/_understood.html", size=read_size(size, unit))


def setup_chosen(plan: Plan, setup: int | None) -> int:
    """Return the setup a page shows: the one asked for, else the first; 0 without any."""
    if setup is not None and plan.position(setup):
        return setup
    return plan.setups[0].key if plan.setups else 0


def require_rows(text: str) -> str:
    """Return pasted text if there is any.

    Raises:
        BadEntry: if it is empty.
    """
    if not text.strip():
        raise BadEntry("Nothing is pasted.", "Paste rows with a name and a size.", "rows")
    return text
