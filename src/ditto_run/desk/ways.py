"""Ways of making a job, compared with what happened."""

from ditto_run.core.close import actual_piece_s, report
from ditto_run.core.method import MethodWanted
from ditto_run.core.plan import Plan
from ditto_run.desk.desk import Desk


def wanted_of(plan: Plan, money: str, quantity: int = 0) -> MethodWanted:
    """Return what a plan's comparison is for; another quantity may be tried."""
    return MethodWanted(quantity or plan.heading.quantity, plan.heading.batches, plan.heading.purpose, money)


def happened(desk: Desk, job_id: int) -> float | None:
    """Return the time a piece really took, over all setups run so far; None before there is one, [s]."""
    run_id = desk.runs.of_job(job_id)
    if run_id is None:
        return None
    with desk.runs.folded(run_id) as state:
        return actual_piece_s(report(state))
