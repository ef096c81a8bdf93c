"""Measured sizes of the jobs of the shop, for what is fitted by selection."""

from dataclasses import dataclass

from ditto_run.core.close.fit import Measured, measured_of
from ditto_run.core.errors import NotFound
from ditto_run.desk.desk import Desk


@dataclass(frozen=True, slots=True)
class SizeOfJob:
    """A length of a job with the pieces it was measured on: what it is called, whose it is."""

    name: str
    job: str
    pieces: tuple[Measured, ...]


def measured_sizes(desk: Desk, job_id: int) -> dict[str, SizeOfJob]:
    """Return the lengths that were measured in the newest batch of each job, by job and number; the job's own first.

    Args:
        desk: the desk.
        job_id: the job that is looked at.
    """
    found: dict[str, SizeOfJob] = {}
    runs = desk.runs.of_jobs()
    for number in sorted(runs, key=lambda one: (one != int(job_id), one)):
        try:
            title = desk.jobs.load(number).plan.title
        except NotFound:
            continue
        with desk.runs.folded(runs[number]) as state:
            for c in state.plan.all_characteristics:
                if c.is_measured_length:
                    pieces = measured_of(state, c.number)
                    if pieces:
                        found[f"{number}:{c.number}"] = SizeOfJob(c.drawn, title, pieces)
    return found
