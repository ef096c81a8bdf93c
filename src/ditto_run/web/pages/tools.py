"""Pages of the Tools step: tool steps in order, with their times, and how each hole is made."""

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import HTMLResponse

from ditto_run.core.errors import NotFound
from ditto_run.core.plan import Plan
from ditto_run.core.plan.asked import asked_of, feature_thing, tools_asked
from ditto_run.core.plan.grounds import maker_of, tools_ground
from ditto_run.core.plan.worked import Worked
from ditto_run.core.shop.drawers import Coolant
from ditto_run.core.shop.recipes import operation_of, recipe_for
from ditto_run.core.shop.shop_tools import ShopTool
from ditto_run.desk import Desk
from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.pages.planning import step_page
from ditto_run.web.pages.sheets import show_index, show_sheet
from ditto_run.web.questions import TOOL_WORDS, opened, rows_of
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
    ask: Annotated[str, Query(max_length=40)] = "",
    figure: Annotated[str, Query(max_length=40)] = "",
) -> HTMLResponse:
    """Show the Tools step of one setup; `edit` opens one tool step, `ask` a question of a `feature`, `figure` a field of it."""
    job = desk.jobs.load(job_id)
    plan, worked = job.plan, desk.worked_out(job)
    one = next((f for f in plan.features if f.key == feature), None)
    maker = maker_of(plan, one) if one is not None else None
    seen = setup_chosen(plan, str(maker.key) if maker is not None else setup)
    key = seen.key
    cycle = next((cycle.key for cycle in plan.all_cycles if key in cycle.setups), key)
    times = plan.times(cycle) if key else None
    thing = feature_thing(feature) if feature else f"setup {key}"
    asked = opened(asked_of(worked, ask, thing), figure) if ask else None
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
        rows=rows_of(tools_asked(worked, plan.setup(key)), plan) if key else [],
        asked=asked,
        here=f"feature={feature}&" if feature else f"setup={key}&",
        register=register_of(worked, key),
        unit=plan.heading.unit,
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
