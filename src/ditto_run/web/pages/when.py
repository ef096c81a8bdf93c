"""The page of a cycle's time: when it will be done, what fits before a time, where the time went, where to go on after a break."""

from datetime import datetime, timedelta
from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import HTMLResponse

from ditto_run.core.errors import BadEntry
from ditto_run.core.run.board import board
from ditto_run.core.run.costs import cost_origin, costs_of
from ditto_run.core.run.events import COSTS
from ditto_run.core.run.forecast import CycleSoFar, fits, late_words, learning, planned_spent, so_far, spent
from ditto_run.core.run.hands import hands_apart
from ditto_run.core.run.resumed import resumed
from ditto_run.core.run.scored import advice_score
from ditto_run.core.run.state import RunState
from ditto_run.core.run.when_due import difference
from ditto_run.core.shop.costs import ShopCosts
from ditto_run.core.shop.day import clock_time
from ditto_run.core.steps import BY_NAME
from ditto_run.desk.gate import what_is_open
from ditto_run.web.cycle import looked_at
from ditto_run.web.dependencies import DeskDep, RenderDep, head_of, still_to_prove

router = APIRouter(prefix="/jobs/{job_id}/run")
FEW = 2  # loads, under which the clock tells nothing apart


@router.get("/time", name="run_time")
def show_page(
    job_id: int, desk: DeskDep, render: RenderDep, until: Annotated[str, Query(max_length=40)] = ""
) -> HTMLResponse:
    """Show when a cycle will be done, what fits before a time, and where the time went."""
    job, now = desk.jobs.load(job_id), desk.now
    shop = desk.shop.load()
    day = shop.day
    run_id = desk.runs.require(job_id)
    with desk.runs.folded(run_id) as lent:
        state = looked_at(lent, render.request)
        machine = shop.machines.get(state.plan.cycle(state.cycle).machine_id or 0)
        found = so_far(state, now, day) if state.closed_at is None else None
        end, wrong = _until(until, now, day.end_of(now))
        fitting = None
        if found is not None and end is not None:
            origin, case = found
            fitting = fits(case, (end - origin).total_seconds())
        told = found[1] if found is not None and len(found[1].loads) >= FEW else None
        parts = spent(told) if told else None
        shown = board(state, now, strip=False, day=day)
        later = desk.advisers.is_long(run_id, state)  # nobody at the machine waits for a look at this page
        gauging = () if later else desk.advisers.gauging(run_id, state, shop)
        return render(
            "run/time.html",
            head=head_of(desk, job, what_is_open(desk, job), state),
            job=job,
            plan=state.plan,
            state=state,
            step=BY_NAME["run"],
            board=shown,
            now=now,
            day=day,
            until=until or (f"{end.astimezone():%H:%M}" if end else ""),
            wrong=wrong,
            end=end,
            fitting=fitting,
            room=max(sum(state.here.composition.values()), 1),
            left=found[1].loads_left if found else 0,
            spent=parts,
            hands=hands_apart(state, found[0], told, parts.hands) if found and told and parts else None,
            learned=learning(told) if told else None,
            late=late_words(day, now),
            is_demo=job.is_demo,
            to_prove=still_to_prove(desk, state),
            due=state.plan.heading.due,
            resumed=resumed(state, shown.due),
            stops=state.here.stopped[-8:],
            gauging=gauging,
            gauging_later=later,
            gauging_differs=difference(gauging),
            costs=_costs(state, shop.costs, shop.money),
            against=_against(state, told),
            score=advice_score(state, machine, shop.gauges).words,
        )


def _against(state: RunState, case: CycleSoFar | None) -> tuple[float, int | None] | None:
    """What was spent beyond the plan, [s], and in money by the way's rates, [cents]; None while not known."""
    planned = planned_spent(state)
    if case is None or planned is None:
        return None
    gone, way = spent(case), state.plan.chosen_way
    over = gone.cut + gone.hands + gone.stood - planned
    rate = way.labour_cents + way.machine_cents if way is not None else 0
    return over, round(over / 3600 * rate) if rate else None


def _costs(state: RunState, shop: ShopCosts, money: str) -> list[tuple[str, str, float, str, float]]:
    """Name, words, minutes, origin and the figure nobody said here of each cost."""
    setup, said = state.here.setups[-1], state.here.costs
    now, plain = costs_of(state.plan, setup, said, shop), costs_of(state.plan, setup, None, shop)
    return [
        (
            name,
            words,
            getattr(now, name),
            "yours" if name in said else cost_origin(state.plan, setup, name, shop, money),
            getattr(plain, name),
        )
        for name, words in COSTS.items()
    ]


def _until(text: str, now: datetime, end: datetime | None) -> tuple[datetime | None, BadEntry | None]:
    """Return the moment that is meant: a clock time of today, or of tomorrow where that is past; the end of the day without one."""
    if not text.strip():
        return (end if end is not None and end > now else None), None
    try:
        at = clock_time(text, now, "until")
    except BadEntry as refused:
        return None, refused
    return (at if at > now else at + timedelta(days=1)), None
