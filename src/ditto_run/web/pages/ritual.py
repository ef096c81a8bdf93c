"""Loading step by step: one thing in large, one key for the next."""

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import HTMLResponse

from ditto_run.core.run.ritual import ritual
from ditto_run.web.cycle import looked_at
from ditto_run.web.dependencies import DeskDep, RenderDep

router = APIRouter(prefix="/jobs/{job_id}/run")


@router.get("/ritual", name="run_ritual")
def show_step(
    job_id: int, desk: DeskDep, render: RenderDep, step: Annotated[int, Query(ge=0, le=1000)] = 0
) -> HTMLResponse:
    """Show one thing of loading, and the key to the next; after the last one that it is loaded."""
    with desk.runs.folded(desk.runs.require(job_id)) as lent:
        state = looked_at(lent, render.request)
        machine = desk.shop.load().machines.get(state.plan.cycle(state.cycle).machine_id or 0)
        found = ritual(state, machine)
        return render(
            "run/_ritual.html",
            job_id=job_id,
            steps=found,
            at=step,
            cycle=state.cycle if state.plan.cycles else 0,
        )
