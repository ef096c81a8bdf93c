"""Pages of the Hold step: the chain of setups, holders, and the printed setup sheets."""

from dataclasses import dataclass

from fastapi import APIRouter
from fastapi.responses import HTMLResponse

from ditto_run.core.hold import FACES, Setup, matrix
from ditto_run.core.hold.picker import Marks, holders_for_blank
from ditto_run.core.plan.held import as_it_comes, contacts
from ditto_run.core.plan.worked import Worked
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import Answer
from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.drawings import HeldPicture
from ditto_run.web.pages.planning import step_page
from ditto_run.web.pages.sheets import show_sheet

router = APIRouter(prefix="/jobs/{job_id}/hold")


@router.get("", name="hold_page")
def show_page(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    edit: int = 0,
    marks: Marks = "light",
    thin: bool = False,
) -> HTMLResponse:
    """Show the chain of setups; `edit` opens one; `marks` and `thin` say what the held face may bear."""
    job = desk.jobs.load(job_id)
    plan, worked = job.plan, desk.worked_out(job)
    known, comes = worked.known, as_it_comes(plan, worked.result_of("blank"))
    opened = next((setup for setup in plan.setups if setup.key == edit), None)
    machine = desk.shop.load().machines.get(opened.machine_id or 0) if opened else None
    rows = desk.drawers.rows("holders")
    ranked = holders_for_blank(
        known, [row.value for row in rows], machine.name if machine else "", marks, thin=thin
    )
    return step_page(
        "hold",
        job_id,
        desk,
        render,
        view="",
        editing=edit,
        matrix=matrix(plan.chain),
        once=all(
            sum(f.key in s.cuts for s in plan.setups) == 1
            for f in plan.features
            if f.key not in comes and not f.supplied
        ),
        chain=plan.chain,
        held=_drawn(worked),
        faces_here=FACES[plan.form],
        holders=ranked,
        marks=marks,
        thin=thin,
        owned={row.value.name for row in rows},
        photos={row.value.name: row.id for row in rows if row.photo},
    )


def _drawn(worked: Worked) -> dict[int, HeldPicture]:
    """The drawing of each setup whose piece is known by size, by its key."""
    return {one.setup.key: HeldPicture(one, worked.plan.heading.unit) for one in contacts(worked)}


@dataclass(frozen=True, slots=True)
class PrintedSetup:
    """One setup as it is printed: with the sheets of stops and grip, and the cautions that apply."""

    number: int
    setup: Setup
    machine: str
    cuts: tuple[str, ...]
    answers: tuple[tuple[str, Answer], ...]
    cautions: tuple[str, ...]


CAUTIONS = {
    "lathe": "Chuck key out, no gloves, sleeves and rings off, bar guarded behind the spindle; part off at low overhang.",
    "mill": "Clamp checked by hand, key out of the drawbar, chips away by brush; single-step the first approach.",
    "manual lathe": "Chuck key out, no gloves, sleeves and rings off, guard down; hands and rag clear of the work while it turns.",
    "manual mill": "Gibs and locks set, key out of the drawbar, guards on, hands clear of a powered cutter.",
    "manual": "Locks set, guards on, hands clear of what turns or cuts.",
}


@router.get("/sheet", name="hold_sheet")
def show_setup_sheets(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show one printed page for each setup."""
    job = desk.jobs.load(job_id)
    plan, shop, worked = job.plan, desk.shop.load(), desk.worked_out(job)
    answers = [
        (sheet.name, worked.answers[sheet.key])
        for sheet in plan.sheets
        if sheet_of(sheet.kind).step == "hold" and sheet.key in worked.answers
    ]
    pages = []
    for number, setup in enumerate(plan.setups, 1):
        machine = shop.machines.get(setup.machine_id or 0)
        cautions = [CAUTIONS[machine.kind]] if machine else []
        cautions.append("The machine's manual and local rules come first.")
        if plan.heading.has_consequence:
            cautions.insert(0, f"This part {plan.heading.consequence_words}: gauge and record every piece.")
        cuts = tuple(feature.name for feature in plan.chain.cut_in(setup))
        where, held = machine.name if machine else "not chosen", worked.held_by(setup)
        pages.append(PrintedSetup(number, setup, where, cuts, held, tuple(cautions)))
    loose = tuple(
        (name, answer)
        for name, answer in answers
        if all((name, answer) not in page.answers for page in pages)
    )
    return step_page(
        "hold",
        job_id,
        desk,
        render,
        template="hold/sheet.html",
        view="sheet",
        pages=pages,
        held=_drawn(worked),
        chain=plan.chain,
        loose=loose,
        now=desk.now,
    )


@router.get("/{kind}", name="hold_sheet_kind")
def show_hold_sheet(job_id: int, kind: str, desk: DeskDep, render: RenderDep, sheet: int = 0) -> HTMLResponse:
    """Show one sheet of the Hold step; `sheet` opens a kept one."""
    return show_sheet("hold", kind, job_id, desk, render, sheet)
