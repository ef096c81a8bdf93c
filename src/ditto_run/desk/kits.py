"""What the jobs of the shop have made, for the kits that wait for it."""

from ditto_run.core.part import KitLine, kit_lines, sets_wanted
from ditto_run.core.part.kit import OWN
from ditto_run.core.plan import Plan
from ditto_run.core.run.loads import finished_of
from ditto_run.desk.desk import Desk

Good = dict[int, dict[int, int]]


def made_by_jobs(desk: Desk) -> Good:
    """Return the good pieces of each part each job has made so far, by number of the job and key of the part, [pieces]."""
    made = {}
    for job_id, run_id in desk.runs.of_jobs().items():
        with desk.runs.folded(run_id) as state:
            made[job_id] = {part.key: finished_of(state, part.key) for part in state.plan.all_parts}
    return made


def kit_of(plan: Plan, job_id: int, made: Good) -> list[KitLine]:
    """Return the kit of a job with what there is of each member; its own good pieces count too, part by part.

    Args:
        plan: the job, seen from the part whose kit it is.
        job_id: which job.
        made: good pieces by job and part.
    """
    sets = sets_wanted(plan.kit, plan.heading.quantity)
    own = made.get(job_id, {})
    counts = {job: sum(parts.values()) for job, parts in made.items()}
    counts |= {-part: good for part, good in own.items()} | {OWN: own.get(plan.part, 0)}
    return kit_lines(plan.kit, sets, counts)
