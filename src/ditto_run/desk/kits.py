"""What the jobs of the shop have made, for the kits that wait for it."""

from ditto_run.core.part import KitPart, kit_lines
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


def shortages(plan: Plan, made: dict[int, int]) -> list[str]:
    """Return what a job's kit is short of, each in one sentence."""
    parts: tuple[KitPart, ...] = plan.kit
    return [line.words for line in kit_lines(parts, plan.heading.quantity, made) if line.short]
