"""Pages of the Hold step: the chain of setups, holders, and the printed setup sheets."""

from dataclasses import dataclass
from typing import Annotated, Any

from fastapi import APIRouter, Query
from fastapi.responses import HTMLResponse

from ditto_run.core.hold import FACES, Setup, matrix
from ditto_run.core.hold.picker import Marks, holders_for_blank
from ditto_run.core.plan import Plan
from ditto_run.core.plan.asked import QUESTIONS, asked_of, hold_asked
from ditto_run.core.plan.held import as_it_comes, contacts
from ditto_run.core.plan.worked import Worked, thing_of
from ditto_run.desk import Desk
from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.drawings import HeldPicture
from ditto_run.web.pages.planning import step_page
from ditto_run.web.pages.sheets import show_index, show_sheet
from ditto_run.web.questions import HOLD_WORDS, Row, opened, rows_of
from ditto_run.web.seen import Seen

router = APIRouter(prefix="/jobs/{job_id}/hold")
KeyQuery = Annotated[int, Query(ge=0, le=2**31)]
FEW = 2


@dataclass(frozen=True, slots=True)
class CountedSetup:
    """How many questions of a setup are answered, of how many, and how many of those are open."""

    answered: int
    all: int
    open: int


@router.get("", name="hold_page")
def show_page(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    setup: KeyQuery = 0,
    edit: KeyQuery = 0,
    new: bool = False,
    ask: Annotated[str, Query(max_length=40)] = "",
    figure: Annotated[str, Query(max_length=40)] = "",
    marks: Marks = "light",
    thin: bool = False,
) -> HTMLResponse:
    """Show a setup of the chain with its questions; `edit` opens it, `ask` one of its questions, `figure` a field of that."""
    job = desk.jobs.load(job_id)
    plan, worked = job.plan, desk.worked_out(job)
    held = contacts(worked)
    key = next((k for k in (edit, setup) if plan.position(k)), plan.setups[0].key if plan.setups else 0)
    shown = plan.setup(key) if key else None
    asked = hold_asked(worked, held)
    rows = {s.key: rows_of((one for one in asked if one.thing == thing_of(s)), plan) for s in plan.setups}
    return step_page(
        "hold",
        job_id,
        desk,
        render,
        view="",
        alone=True,
        seen=Seen(key),
        setup=shown,
        editing=edit or (0 if plan.setups and not new else -1),
        asked=opened(asked_of(worked, ask, thing_of(shown)), figure) if ask and shown else None,
        here=f"setup={key}&" if key else "",
        rows=rows.get(key, []),
        counts={key: _counted(mine) for key, mine in rows.items()},
        takes=_takes(plan),
        unit=plan.heading.unit,
        once=_once(worked),
        matrix=matrix(plan.chain),
        chain=plan.chain,
        held={one.setup.key: HeldPicture(one, plan.heading.unit) for one in held},
        faces_here=FACES[plan.form],
        **_holders(desk, worked, shown, marks, thin=thin),
    )


def _holders(desk: Desk, worked: Worked, setup: Setup | None, marks: Marks, *, thin: bool) -> dict[str, Any]:
    """The holders of the register, ranked for the blank on a setup's machine."""
    machine = worked.machines.get(setup.machine_id or 0) if setup is not None else None
    rows = desk.drawers.rows("holders")
    ranked = holders_for_blank(
        worked.known, [row.value for row in rows], machine.name if machine else "", marks, thin=thin
    )
    return {
        "holders": ranked,
        "marks": marks,
        "thin": thin,
        "owned": {row.value.name for row in rows},
        "photos": {row.value.name: row.id for row in rows if row.photo},
    }


def _counted(rows: list[Row]) -> CountedSetup:
    weights = [row.weight for row in rows]
    answered = len(weights) - weights.count("unknown")
    return CountedSetup(answered, len(weights), weights.count("stop") + weights.count("ask"))


def _once(worked: Worked) -> bool:
    """True where every feature that wants a cut is made in exactly one setup."""
    plan, comes = worked.plan, as_it_comes(worked.plan, worked.result_of("blank"))
    return all(
        sum(f.key in s.cuts for s in plan.setups) == 1
        for f in plan.features
        if f.key not in comes and not f.supplied
    )


def _takes(plan: Plan) -> dict[int, str]:
    """What each setup sits on, in words."""
    return {
        one.key: " and ".join(one.locates_on[:2]) + (" …" if len(one.locates_on) > FEW else "")
        or one.locates
        or "not said"
        for one in plan.setups
    }


@router.get("/sheets", name="hold_sheets")
def show_sheets(job_id: int, desk: DeskDep, render: RenderDep, setup: KeyQuery = 0) -> HTMLResponse:
    """Show every sheet of Hold: for who looks for a certain computation."""
    plan = desk.jobs.load(job_id).plan
    key = setup if plan.position(setup) else plan.setups[0].key if plan.setups else 0
    return show_index("hold", job_id, desk, render, HOLD_WORDS, key)


@router.get("/{kind}", name="hold_sheet_kind")
def show_hold_sheet(
    job_id: int, kind: str, desk: DeskDep, render: RenderDep, sheet: int = 0, setup: KeyQuery = 0
) -> HTMLResponse:
    """Show one sheet of the Hold step; `sheet` opens a kept one, `setup` fills it from the job."""
    typed = None
    if setup and not sheet and kind in QUESTIONS:
        worked = desk.worked_out(desk.jobs.load(job_id))
        typed = asked_of(worked, kind, f"setup {setup}").texts
    return show_sheet("hold", kind, job_id, desk, render, sheet, typed=typed)
