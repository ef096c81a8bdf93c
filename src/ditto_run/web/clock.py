"""What the clock of a job's batch says of a setup that is cut alone."""

from dataclasses import replace

from ditto_run.core.plan import Plan
from ditto_run.core.run.clocked import Clocked, clocked
from ditto_run.desk import Desk

NEAR = 0.02  # of the planned time, within which the clock says the same


def clock_of(desk: Desk, job_id: int, setup_key: int) -> Clocked | None:
    """Return what the clock says of a setup's cycle.

    None without a batch, under three loads, where several setups share the cycle, or where something else is cut now.
    """
    run_id = desk.runs.of_job(job_id)
    plan = desk.jobs.load(job_id).plan
    cycles = plan.cycles_of(setup_key) if setup_key else ()
    if run_id is None or len(cycles) != 1 or cycles[0].setups != (setup_key,):
        return None
    if plan.times(setup_key).cycle_s <= 0:
        return None
    with desk.runs.folded(run_id) as state:
        ran = state.plan
        same = _work(ran, setup_key) == _work(plan, setup_key)  # what was clocked is what is planned
        return clocked(state, cycles[0].key) if same else None


def _work(plan: Plan, setup_key: int) -> tuple[object, ...]:
    """What is cut in a setup, whatever it takes: its tool steps, where, and how many pieces."""
    steps = tuple(replace(step, cut_s=0.0, change_s=0.0, time_by="") for step in plan.tools_of(setup_key))
    return (
        steps,
        tuple((one.label, one.pieces) for one in plan.stations_of(setup_key)),
        plan.taken_order(setup_key),
    )


def is_news(said: Clocked, planned_s: float) -> bool:
    """Return whether the clock says something else than is planned now."""
    return abs(said.cycle_s - planned_s) > NEAR * planned_s
