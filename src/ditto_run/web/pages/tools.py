"""Pages of the Tools step: tool steps in order, with their times, and how each hole is made."""

from collections.abc import Sequence
from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import HTMLResponse

from ditto_run.core.errors import NotFound
from ditto_run.core.part.features import Named
from ditto_run.core.plan import Plan
from ditto_run.core.plan.asked import asked_of, feature_thing, tools_asked
from ditto_run.core.plan.at_work import all_steps_asked, made_by, step_asked, times_wanted, tool_thing
from ditto_run.core.plan.grounds import maker_of, tools_ground
from ditto_run.core.plan.held import contacts
from ditto_run.core.plan.worked import Worked
from ditto_run.core.sheets import Answer
from ditto_run.core.shop.drawers import Coolant
from ditto_run.core.shop.recipes import operation_of, recipe_for
from ditto_run.core.shop.shop_tools import ShopTool
from ditto_run.core.tools import ToolStep
from ditto_run.desk import Desk
from ditto_run.web.clock import clock_of, is_news
from ditto_run.web.dependencies import DeskDep, Render, RenderDep
from ditto_run.web.drawings import HeldPicture, ToolPicture
from ditto_run.web.pages.planning import step_page
from ditto_run.web.pages.sheets import show_index, show_sheet
from ditto_run.web.questions import TOOL_WORDS, Row, opened, rows_of
from ditto_run.web.seen import SeenQuery, setup_chosen

router = APIRouter(prefix="/jobs/{job_id}/tools")


@router.get("", name="tools_page")
def show_page(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    setup: SeenQuery = None,
    edit: int = 0,
    feature: Annotated[int, Query(ge=0, le=2**31)] = 0,
    tool: Annotated[int, Query(ge=0, le=2**31)] = 0,
    ask: Annotated[str, Query(max_length=40)] = "",
    figure: Annotated[str, Query(max_length=40)] = "",
) -> HTMLResponse:
    """Show the Tools step of one setup; `edit` opens one tool step, `tool` its questions.

    `ask` opens one of them, or of a `feature`; `figure` a field of it.
    """
    job = desk.jobs.load(job_id)
    plan, worked = job.plan, desk.worked_out(job)
    step = next((one for one in plan.tool_steps if one.key == tool), None)
    if step is not None:
        return _show_tool(job_id, desk, render, worked, step, ask, figure)
    one = next((f for f in plan.features if f.key == feature), None)
    maker = maker_of(plan, one) if one is not None else None
    seen = setup_chosen(plan, str(maker.key) if maker is not None else setup)
    key = seen.key
    cycle = next((cycle.key for cycle in plan.all_cycles if key in cycle.setups), key)
    times = plan.times(cycle) if key else None
    thing = feature_thing(feature) if feature else f"setup {key}"
    asked = opened(asked_of(worked, ask, thing), figure) if ask else None
    clock = clock_of(desk, job_id, key)
    return step_page(
        "tools",
        job_id,
        desk,
        render,
        view="",
        alone=asked is not None,
        seen=seen,
        setup_key=key,
        editing=edit,
        times=times,
        coolants=coolants_of(desk, plan, key),
        rows=_open_rows(worked, key) if key else [],
        at_work={key: rows_of(asked, plan) for key, asked in all_steps_asked(worked).items()},
        waiting=len(times_wanted(worked, key)),
        clock=clock,
        clock_differs=clock is not None and times is not None and is_news(clock, times.cycle_s),
        asked=asked,
        here=f"feature={feature}&" if feature else f"setup={key}&",
        register=register_of(worked, key),
        unit=plan.heading.unit,
    )


def _open_rows(worked: Worked, setup_key: int) -> list[Row]:
    """Questions of a setup and its holes; of its tools at work those alone that say something is wrong, the others stand at each tool."""
    rows = rows_of(tools_asked(worked, worked.plan.setup(setup_key)), worked.plan)
    return [row for row in rows if not row.asked.thing.startswith("tool ") or row.weight in {"stop", "ask"}]


def _show_tool(
    job_id: int, desk: Desk, render: Render, worked: Worked, step: ToolStep, ask: str, figure: str
) -> HTMLResponse:
    """Show one tool at work: in its setup, its speed on one scale, its questions."""
    plan, thing = worked.plan, tool_thing(step)
    seen = setup_chosen(plan, str(step.setup))
    mine = plan.tools_of(step.setup)
    at = [one.key for one in mine].index(step.key)
    found = step_asked(worked, step)
    features = made_by(plan, plan.setup(step.setup), step)
    holes = [
        one
        for one in tools_asked(worked, plan.setup(step.setup))
        if one.thing in {feature_thing(f.key) for f in features}
    ]
    asked = opened(asked_of(worked, ask, thing), figure) if ask else None
    answers = {one.question: one.answer for one in found}
    return step_page(
        "tools",
        job_id,
        desk,
        render,
        "tools/tool.html",
        view=f"tool-{step.key}",
        alone=True,
        seen=seen,
        setup_key=step.setup,
        tool=step,
        made=[one.name for one in features],
        before=mine[at - 1] if at else None,
        after=mine[at + 1] if at + 1 < len(mine) else None,
        rows=rows_of([*found, *holes], plan),
        asked=asked,
        here=f"tool={step.key}&",
        picture=_picture(worked, step, answers.get("stickout"), features),
        speed=answers.get("speed"),
        unit=plan.heading.unit,
    )


def _picture(
    worked: Worked, step: ToolStep, answer: Answer | None, made: Sequence[Named]
) -> ToolPicture | None:
    """The tool over its cut; None where how far it reaches is not asked or not known."""
    if answer is None:
        return None
    contact = next((one for one in contacts(worked) if one.setup.key == step.setup), None)
    heights, names = contact.heights if contact is not None else None, {one.name for one in made}
    tips = {name: at for name, at in heights.floors if name in names} if heights is not None else {}
    lowest = min(tips, key=lambda name: tips[name], default="")
    if heights is not None and not tips and any(one.feature.kind == "face" for one in made):
        tips[lowest] = heights.finished
    held = HeldPicture(contact, worked.plan.heading.unit) if contact is not None and tips else None
    return ToolPicture(
        answer.result,
        held,
        lowest,
        f"{step.name} {step.does}",
        tips.get(lowest, 0.0),
        worked.plan.heading.unit,
    )


@router.get("/sheets", name="tools_sheets")
def show_sheets(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show every sheet of Tools: for who looks for a certain computation."""
    return show_index("tools", job_id, desk, render, TOOL_WORDS)


@router.get("/{kind}", name="tools_sheet")
def show_tools_sheet(
    job_id: int, kind: str, desk: DeskDep, render: RenderDep, sheet: int = 0
) -> HTMLResponse:
    """Show one sheet of the Tools step; `sheet` opens a kept one."""
    if not kind.isalpha():
        raise NotFound("sheet", kind[:20])
    return show_sheet("tools", kind, job_id, desk, render, sheet)


def register_of(worked: Worked, setup_key: int) -> dict[int, ShopTool]:
    """Return the register's row of each tool step of a setup, by the key of the step."""
    if not setup_key or not worked.shop.tools:
        return {}
    ground = tools_ground(worked, worked.plan.setup(setup_key))
    return {step.key: row for step, row in ground.steps if row is not None}


def coolants_of(desk: Desk, plan: Plan, setup_key: int) -> dict[int, Coolant]:
    """Return the shop's recipe for each tool step of a setup, by the key of the step."""
    recipes = [row.value for row in desk.drawers.rows("coolants")]
    if not recipes or not setup_key:
        return {}
    machine = desk.shop.load().machines.get(plan.setup(setup_key).machine_id or 0)
    turns = machine.turns if machine is not None else plan.form == "turned"
    found = {
        step.key: recipe_for(recipes, plan.heading.material, operation_of(step.does, turns=turns))
        for step in plan.tools_of(setup_key)
        if step.tool
    }
    return {key: recipe for key, recipe in found.items() if recipe is not None}
