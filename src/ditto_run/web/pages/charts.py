"""The usual charts of a dimension, to look at: readings, steps, sums, zones; with what they say of all pieces."""

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import HTMLResponse

from ditto_run.core.run.charted import charted
from ditto_run.core.steps import BY_NAME
from ditto_run.desk.gate import what_is_open
from ditto_run.web.cycle import looked_at
from ditto_run.web.dependencies import DeskDep, RenderDep, head_of
from ditto_run.web.drawings.readings_chart import Kind, draw_readings

router = APIRouter(prefix="/jobs/{job_id}/run")
KINDS: dict[Kind, str] = {"readings": "Readings", "steps": "Steps", "sums": "Sums", "zones": "Zones"}


@router.get("/charts", name="run_charts")
def show_page(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    of: Annotated[int, Query(ge=-1, le=2**31)] = -1,
    station: Annotated[str, Query(max_length=20)] = "",
    kind: Kind = "readings",
) -> HTMLResponse:
    """Show the readings of one dimension, or of all as deviations, in one of the usual ways."""
    job = desk.jobs.load(job_id)
    found_open = what_is_open(desk, job)
    with desk.runs.folded(desk.runs.require(job_id)) as lent:
        state = looked_at(lent, render.request)
        sizes = [c for c in state.gauged_here() if c.size.lower is not None and c.size.upper is not None]
        number = of if of >= 0 else next((c.number for c in sizes), 0)
        found = charted(state, number, station if station in state.here.composition else "")
        return render(
            "run/charts.html",
            head=head_of(desk, job, found_open, state),
            job=job,
            plan=state.plan,
            state=state,
            step=BY_NAME["run"],
            sizes=sizes,
            number=number,
            station=station,
            kind=kind,
            kinds=KINDS,
            found=found,
            picture=draw_readings(found, kind) if found is not None else "",
        )
