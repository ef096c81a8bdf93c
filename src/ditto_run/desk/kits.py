"""What the jobs of the shop have made, for the kits that wait for it."""

from ditto_run.core.part import KitLine, kit_lines, sets_wanted
from ditto_run.core.part.kit import OWN
from ditto_run.core.plan import Plan
from ditto_run.core.run.loads import finished
from ditto_run.desk.desk import Desk


def made_by_jobs(desk: Desk) -> dict[int, int]:
    """Return the good pieces each job has made so far, by its number, [pieces]."""
    made = {}
    for job_id, run_id in desk.runs.of_jobs().items():
        with desk.runs.folded(run_id) as state:
            made[job_id] = finished(state)
    return made


def kit_of(plan: Plan, job_id: int, made: dict[int, int]) -> list[KitLine]:
    """Return the kit of a job with what there is of each part; its own good pieces count too."""
    sets = sets_wanted(plan.kit, plan.heading.quantity)
    return kit_lines(plan.kit, sets, made | {OWN: made.get(job_id, 0)})
