"""What the jobs of the shop have made and the shelf holds, for the kits that wait for it, and what siblings want of the same."""

from collections.abc import Sequence
from dataclasses import dataclass, field

from ditto_run.core.part import KitBeside, KitLine, kit_lines, sets_wanted
from ditto_run.core.part.kit import OWN
from ditto_run.core.plan import Plan
from ditto_run.core.run.loads import finished_of
from ditto_run.desk.desk import Desk
from ditto_run.desk.values import Job


@dataclass(frozen=True, slots=True)
class MadeByJobs:
    """What the newest batch of each job has made.

    Args:
        good: good pieces of each part, by number of the job and key of the part. [pieces]
        closed: the jobs whose newest batch is closed; their sets are packed.
        shelf: finished stock by the part's name in small letters. [pieces]
    """

    good: dict[int, dict[int, int]] = field(default_factory=dict)
    closed: set[int] = field(default_factory=set)
    shelf: dict[str, int] = field(default_factory=dict)


def made_by_jobs(desk: Desk) -> MadeByJobs:
    """Return what the jobs of the shop have made so far."""
    shelf = {row.value.part.strip().lower(): row.value.there for row in desk.drawers.rows("finished")}
    made = MadeByJobs(shelf=shelf)
    for job_id, run_id in desk.runs.of_jobs().items():
        with desk.runs.folded(run_id) as state:
            made.good[job_id] = {part.key: finished_of(state, part.key) for part in state.plan.all_parts}
            if state.closed_at is not None:
                made.closed.add(job_id)
    return made


def siblings_of(jobs: Sequence[Job], job_id: int, plan: Plan) -> list[Job]:
    """Return the other jobs of a job's family, among those given."""
    name = plan.heading.family or plan.heading.part
    return [job for job in jobs if job.id != job_id and name in _families(job.plan)]


def _families(plan: Plan) -> set[str]:
    return {plan.heading.family, plan.heading.part}


def kit_of(plan: Plan, job_id: int, made: MadeByJobs, jobs: Sequence[Job]) -> list[KitLine]:
    """Return the kit of a job with what there is of each member; its own good pieces count too, part by part.

    Args:
        plan: the job, seen from the part whose kit it is.
        job_id: which job.
        made: what the jobs have made.
        jobs: the jobs of the shop; open ones of its family share bought parts with it, as the parts of one job do.
    """
    sets = sets_wanted(plan.kit, plan.heading.quantity)
    own = made.good.get(job_id, {})
    counts = {job: sum(parts.values()) for job, parts in made.good.items()}
    counts |= {-part: good for part, good in own.items()} | {OWN: own.get(plan.part, 0)}
    for part in plan.kit:  # what a closed batch put on the shelf is counted there
        maker = part.job_id if part.job_id is not None and part.job_id > OWN else job_id
        if part.job_id is not None and maker in made.closed and part.name.strip().lower() in made.shelf:
            counts[part.job_id] = 0
    beside = [one.plan for one in plan.companions]
    for job in siblings_of(jobs, job_id, plan):
        if job.id not in made.closed:
            beside += [one.plan for one in job.plan.all_parts]
    kits = [KitBeside(one.kit, sets_wanted(one.kit, one.heading.quantity)) for one in beside if one.kit]
    return kit_lines(plan.kit, sets, counts, kits, made.shelf)
