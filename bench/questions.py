"""The steps' front pages and a changed figure, over every job of the demo: each page asks and answers all questions of its step."""

from collections.abc import Callable
from statistics import median

import httpx2

from ditto_run.core.plan.asked import hold_asked, method_asked, part_asked, stock_asked, tools_asked
from ditto_run.core.plan.held import contacts
from ditto_run.core.plan.worked import PART, Worked, thing_of
from ditto_run.desk import Desk

FRONTS = ("part", "method", "stock", "hold", "tools")
CHANGES = (("blank", PART, "facing", "stock"), ("grip", "", "friction", "hold"))
Timed = Callable[[Callable[[], object], int], list[float]]
Say = Callable[[str, float, float, str], None]


def asked_in_all(worked: Worked) -> int:
    """Return how many questions of a plan are asked."""
    held = contacts(worked)
    asked = (
        part_asked(worked),
        method_asked(worked),
        stock_asked(worked),
        hold_asked(worked, held),
        tools_asked(worked),
    )
    return sum(map(len, asked))


def bench_fronts(desk: Desk, client: httpx2.Client, timed: Timed, say: Say) -> None:
    """Say the slowest front page of each step, and the slowest changed figure with the page that follows it.

    Args:
        desk: of the demo.
        client: of its pages.
        timed: gives the milliseconds of each round.
        say: prints a figure beside its limit.
    """
    jobs = desk.jobs.find()
    most = max(asked_in_all(desk.worked_out(job)) for job in jobs)
    for step in FRONTS:
        slowest = 0.0
        for job in jobs:
            address = f"/jobs/{job.id}/{step}"
            client.get(address)
            slowest = max(slowest, median(timed(lambda a=address: client.get(a), 9)))  # type: ignore[misc]
        say(f"front page of {step}, slowest of {len(jobs)} jobs, up to {most} questions", slowest, 100, "ms")
    for question, thing, name, step in CHANGES:
        slowest = 0.0
        for job in jobs:
            about = thing or (thing_of(job.plan.setups[0]) if job.plan.setups else "")
            if not about:
                continue
            figures = iter(range(1, 1000))

            def change(job_id: int = job.id, about: str = about) -> None:
                sent = {
                    "thing": about,
                    "question": question,  # noqa: B023 - done before the next
                    "name": name,  # noqa: B023
                    "text": f"0.{100 + next(figures)}",  # noqa: B023
                    "version": str(desk.jobs.load(job_id).version),
                }
                assert client.post(f"/jobs/{job_id}/ask/figure", data=sent).status_code == 303
                assert client.get(f"/jobs/{job_id}/{step}").status_code == 200  # noqa: B023

            slowest = max(slowest, median(timed(change, 9)))
        say(f"a changed figure of {question} with the page of all that follows", slowest, 120, "ms")
