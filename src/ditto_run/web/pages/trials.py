"""The trial pieces of a dimension, drawn, with what to set next."""

from typing import Annotated

from fastapi import APIRouter, Form
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.errors import NotFound
from ditto_run.core.run.events import Adjust
from ditto_run.core.steps import BY_NAME
from ditto_run.desk.gate import what_is_open
from ditto_run.web.cycle import cycle_meant, has_cycles, looked_at
from ditto_run.web.dependencies import DeskDep, RenderDep, WhoDep, head_of
from ditto_run.web.drawings.trial_line import draw_trials
from ditto_run.web.pages.run import request_key
from ditto_run.web.redraw import take_back
from ditto_run.web.trial_words import all_trials

router = APIRouter(prefix="/jobs/{job_id}/prove")


@router.get("/trials", name="prove_trials")
def show_page(job_id: int, desk: DeskDep, render: RenderDep, of: int = 0) -> HTMLResponse:
    """Show the trials of one dimension: setting, result, next setting."""
    job, run_id = desk.jobs.load(job_id), desk.runs.require(job_id)
    found = what_is_open(desk, job)
    with desk.runs.folded(run_id) as lent:
        state = looked_at(lent, render.request)
        all_of = all_trials(desk, state)
        one = next((t for t in all_of if t.found.of.number == of), None if of else next(iter(all_of), None))
        if one is None:
            raise NotFound(
                "trial of dimension", of, "Its first piece is accepted, or nothing was gauged yet. See Prove."
            )
        worked = desk.worked_out(job).known
        return render(
            "prove/trials.html",
            head=head_of(desk, job, found, state),
            job=job,
            plan=state.plan,
            step=BY_NAME["prove"],
            state=state,
            many=has_cycles(state),
            one=one,
            others=[t for t in all_of if t is not one],
            planned=worked.trials,
            picture=draw_trials(one.found, one.unit) if one.found.trials else "",
            **take_back(state, render.who),
        )


@router.post("/set", name="prove_set")
def set_knob(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    who: WhoDep,
    of: int,
    client_key: Annotated[str, Form(max_length=80)] = "",
) -> Response:
    """Write down that the knob was set as the trials say now."""
    run_id, meant = desk.runs.require(job_id), cycle_meant(render.request)
    with desk.runs.folded(run_id) as lent:
        if client_key and client_key in lent.client_keys:  # a second press of the same key
            return _back(job_id, of, cycle_meant(render.request))
        one = next(
            (
                t
                for t in all_trials(desk, looked_at(lent, render.request))
                if t.found.of.number == of and t.amount
            ),
            None,
        )
    if one is None:
        raise NotFound("setting", of, "The trials changed meanwhile. Look at them again.")
    command = Adjust(one.found.knob.what, one.amount, one.unit)
    desk.runs.record(run_id, command, who, client_key or request_key(render), meant)
    return _back(job_id, of, meant)


def _back(job_id: int, of: int, cycle: int) -> RedirectResponse:
    return RedirectResponse(f"/jobs/{job_id}/prove/trials?of={of}{f'&cycle={cycle}' if cycle else ''}", 303)
