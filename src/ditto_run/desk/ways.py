"""Ways of making a job, compared with each other and with what happened."""

from dataclasses import dataclass, replace

from ditto_run.core.close import actual_piece_s, report
from ditto_run.core.method import Measure, MethodVerdict, MethodWanted, Way, judge
from ditto_run.core.plan import Worked
from ditto_run.core.plan.ways import ways_now
from ditto_run.core.plan.worked import says_of
from ditto_run.desk.desk import Desk


@dataclass(frozen=True, slots=True)
class Compared:
    """A comparison: what it is for, the ways that take part, the verdict on them, and the ways that lack something.

    Args:
        wanted: what it is for.
        ways: the ways compared; the places of the verdict count them.
        verdict: None while no way can be compared.
        lacking: the ways left out; each says what it lacks.
    """

    wanted: MethodWanted
    ways: tuple[Way, ...]
    verdict: MethodVerdict | None
    lacking: tuple[Way, ...]


def compare(worked: Worked, quantity: int = 0, by: Measure | None = None) -> Compared:
    """Return a plan's ways compared as they count now; another quantity may be tried, and another measure than the purpose says."""
    money = worked.shop.money
    plan = replace(worked.plan, ways=ways_now(says_of(worked)))
    wanted = MethodWanted(
        quantity or plan.heading.quantity, plan.heading.batches, plan.heading.purpose, money
    )
    ways = tuple(way for way in plan.ways if not way.lacks)
    return Compared(
        wanted, ways, judge(ways, wanted, by) if ways else None, tuple(way for way in plan.ways if way.lacks)
    )


def happened(desk: Desk, job_id: int) -> float | None:
    """Return the time a piece really took, over all setups run so far; None before there is one, [s]."""
    run_id = desk.runs.of_job(job_id)
    if run_id is None:
        return None
    with desk.runs.folded(run_id) as state:
        return actual_piece_s(report(state, ()))
