"""The printed setup sheets: a page for each setup, with its stops and grip and the cautions that apply."""

from dataclasses import dataclass

from fastapi import APIRouter
from fastapi.responses import HTMLResponse

from ditto_run.core.hold import Setup
from ditto_run.core.plan.asked import held_answers, hold_asked
from ditto_run.core.plan.held import contacts
from ditto_run.core.plan.visited import taken_says
from ditto_run.core.plan.worked import is_about
from ditto_run.core.prove import MANUAL, hazards_of
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import Answer
from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.drawings import HeldPicture
from ditto_run.web.pages.planning import step_page
from ditto_run.web.pages.tools import coolants_of

router = APIRouter(prefix="/jobs/{job_id}/hold")


@dataclass(frozen=True, slots=True)
class PrintedSetup:
    """One setup as it is printed: with the sheets of stops and grip, and the cautions that apply."""

    number: int
    setup: Setup
    machine: str
    cuts: tuple[str, ...]
    answers: tuple[tuple[str, Answer], ...]
    cautions: tuple[str, ...]
    coolants: tuple[str, ...] = ()
    order: str = ""


@router.get("/sheet", name="hold_sheet")
def show_setup_sheets(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show one printed page for each setup."""
    job = desk.jobs.load(job_id)
    plan, shop, worked = job.plan, desk.shop.load(), desk.worked_out(job)
    held, pages = contacts(worked), []
    asked = hold_asked(worked, held)
    for number, setup in enumerate(plan.setups, 1):
        machine = shop.machines.get(setup.machine_id or 0)
        cautions = [hazard.words for hazard in hazards_of(plan, setup, machine, "setup sheet")]
        cautions.append(MANUAL)
        if plan.heading.has_consequence:
            cautions.insert(0, f"This part {plan.heading.consequence_words}: gauge and record every piece.")
        cuts = tuple(feature.name for feature in plan.chain.cut_in(setup))
        where, answers = machine.name if machine else "not chosen", held_answers(worked, asked, setup)
        used = coolants_of(desk, plan, setup.key)
        wet = tuple(
            f"{step.name} {step.does}: {used[step.key].what}"
            for step in plan.tools_of(setup.key)
            if step.key in used
        )
        order = taken_says(plan, setup.key)
        pages.append(PrintedSetup(number, setup, where, cuts, answers, tuple(cautions), wet, order))
    loose = tuple(
        (sheet.name, worked.answers[sheet.key])
        for sheet in plan.sheets
        if sheet_of(sheet.kind).step == "hold"
        and sheet.key in worked.answers
        and not any(is_about(plan, sheet, setup) for setup in plan.setups)
    )
    return step_page(
        "hold",
        job_id,
        desk,
        render,
        template="hold/sheet.html",
        view="sheet",
        pages=pages,
        held={one.setup.key: HeldPicture(one, plan.heading.unit) for one in held},
        chain=plan.chain,
        loose=loose,
        now=desk.now,
    )
