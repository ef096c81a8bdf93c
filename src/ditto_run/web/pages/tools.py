"""Pages of the Tools step: tool steps in order, with their times."""

from fastapi import APIRouter
from fastapi.responses import HTMLResponse

from ditto_run.core.plan import Plan
from ditto_run.core.shop.drawers import Coolant
from ditto_run.core.shop.recipes import operation_of, recipe_for
from ditto_run.desk import Desk
from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.pages.planning import step_page
from ditto_run.web.seen import SeenQuery, setup_chosen

router = APIRouter(prefix="/jobs/{job_id}/tools")


@router.get("", name="tools_page")
def show_page(
    job_id: int, desk: DeskDep, render: RenderDep, setup: SeenQuery = None, edit: int = 0
) -> HTMLResponse:
    """Show the Tools step of one setup; `edit` opens one tool step."""
    plan = desk.jobs.load(job_id).plan
    key = setup_chosen(plan, setup).key
    cycle = next((cycle.key for cycle in plan.all_cycles if key in cycle.setups), key)
    times = plan.times(cycle) if key else None
    return step_page(
        "tools",
        job_id,
        desk,
        render,
        setup_key=key,
        editing=edit,
        times=times,
        coolants=coolants_of(desk, plan, key),
    )


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
