"""The stand-in of a run: a made-up machine, process and gauge beside the run, on one screen."""

from typing import Annotated

from fastapi import APIRouter, Form
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.errors import BadEntry, DittoError, NotNow
from ditto_run.core.rehearse.process import FAULTS, Fault
from ditto_run.desk import Desk
from ditto_run.devices.standin import SPEEDS, StandIn, StandIns, gauge, hear
from ditto_run.web.cycle import cycle_meant
from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.told import told

router = APIRouter(prefix="/jobs/{job_id}/run/stand-in")
EVERY_S = 1  # the page asks the machine so often


def _there(render: RenderDep, desk: Desk, job_id: int) -> tuple[StandIns, int, StandIn]:
    all_of = StandIns(render.request.app.state.stand_ins)
    run_id = desk.runs.require(job_id)
    found = all_of.of(run_id)
    if found is None:
        raise NotNow("The stand-in is switched off.", "Switch it on again; the log stays.")
    return all_of, run_id, found


@router.get("", name="stand_in_page")
def show_box(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show the stand-in, having asked its machine what it said since."""
    all_of = StandIns(render.request.app.state.stand_ins)
    run_id = desk.runs.require(job_id)
    one, cycle = all_of.of(run_id), cycle_meant(render.request)
    if one is not None:
        hear(desk, run_id, cycle, one)
    return _box(job_id, render, one)


def _box(job_id: int, render: RenderDep, one: StandIn | None, said: str = "") -> HTMLResponse:
    return render(
        "run/_stand_in.html",
        job_id=job_id,
        one=one,
        faults=FAULTS,
        speeds=SPEEDS,
        every=EVERY_S,
        cycle=cycle_meant(render.request),
        said_now=said,
    )


@router.post("", name="stand_in_on")
def switch(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    on: Annotated[bool, Form()] = True,
    fault: Annotated[Fault, Form()] = "none",
    speed: Annotated[int, Form(ge=1, le=60)] = 60,
) -> Response:
    """Switch the stand-in on, or off."""
    all_of = StandIns(render.request.app.state.stand_ins)
    cycle = cycle_meant(render.request)
    back = RedirectResponse(f"/jobs/{job_id}/run{f'?cycle={cycle}' if cycle else ''}", 303)
    if not on:
        all_of.switch_off(desk.runs.require(job_id))
        return told(back, "The stand-in is off.")
    if speed not in SPEEDS:
        raise BadEntry(f"{speed} times is no speed of it.", "Choose one of the list.", "speed")
    all_of.switch_on(desk, job_id, cycle, fault, speed)
    return told(back, "The stand-in is on: press its button.")


@router.post("/{what}", name="stand_in_do")
def do(job_id: int, what: str, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Press its button, let its gauge send, let it fail, or clear its alarm."""
    _, run_id, one = _there(render, desk, job_id)
    cycle, said = cycle_meant(render.request), ""
    try:
        if what == "press":
            one.machine.press()
        elif what == "gauge":
            said = gauge(desk, run_id, cycle, one)
        elif what == "fail":
            one.machine.fail("spindle overload")
        elif what == "clear":
            one.machine.clear()
    except DittoError as refused:
        said = f"{refused.problem} {refused.remedy}"
    hear(desk, run_id, cycle, one)
    return _box(job_id, render, one, said)
