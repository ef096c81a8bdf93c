"""What the list of jobs shows of each job."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from ditto_run.core.progress import step_states
from ditto_run.core.run.board import Board, board
from ditto_run.core.run.state import RunState
from ditto_run.core.steps import StepState
from ditto_run.desk.desk import Desk
from ditto_run.desk.gate import what_is_open
from ditto_run.desk.kits import MadeByJobs, kit_of, made_by_jobs
from ditto_run.desk.values import Job


@dataclass(frozen=True, slots=True)
class JobLine:
    """One job of the list.

    Args:
        job: the job.
        states: how far each step is.
        board: its run, or None before it has one.
        closed: True if its batch is closed.
        made: pieces made so far. [pieces]
        waits: what it waits for, in one sentence.
        short: what its kit is short of, each in one sentence.
        elsewhere: what its other cycles want that cut at the same time, each in one sentence.
    """

    job: Job
    states: tuple[StepState, ...]
    board: Board | None
    closed: bool
    made: int
    waits: str
    short: tuple[str, ...] = ()
    elsewhere: tuple[str, ...] = ()


def overview(desk: Desk, search: str = "", *, archived: bool = False) -> Sequence[JobLine]:
    """Return the lines of the list: running jobs first, then planned ones, closed ones last."""
    runs = desk.runs.of_jobs()
    lines = []
    made: MadeByJobs | None = None
    everyone: Sequence[Job] = ()
    for job in desk.jobs.find(search, archived=archived):
        found = what_is_open(desk, job)
        findings = [thing.finding for thing in found.things if thing.stands is None]
        if job.plan.kit and made is None:
            made, everyone = made_by_jobs(desk), desk.jobs.find()
        kit = kit_of(job.plan, job.id, made, everyone) if made is not None else []
        short = tuple(line.words for line in kit if line.short)
        run_id = runs.get(job.id)
        if run_id is None:
            states = step_states(findings, None, job.plan.not_begun)
            first = next((f.problem for f in findings if f.weight != "note"), "Ready to run.")
            wanted = job.plan.heading.waits_for or (job.plan.order.waits if job.plan.order else "")
            waits = f"Waits for {wanted}." if wanted else first
            lines.append(JobLine(job, states, None, closed=False, made=0, waits=waits, short=short))
            continue
        with desk.runs.folded(run_id) as state:
            picture = board(state, desk.now, day=desk.shop.load().day)
            lines.append(
                JobLine(
                    job,
                    step_states(findings, state, job.plan.not_begun),
                    picture,
                    state.closed_at is not None,
                    len(state.pieces),
                    picture.call.say,
                    short,
                    _elsewhere(state, desk.now) if len(state.cycles) > 1 else (),
                )
            )
    return sorted(lines, key=lambda line: (line.closed, line.board is None))


def _elsewhere(state: RunState, now: datetime) -> tuple[str, ...]:
    """Return what the cycles cut beside the one opened last want; nothing where none of them runs or can start."""
    found = []
    for key in state.cycles:
        if key != state.cycle:
            wanted = board(state.at(key), now, strip=False).call
            if wanted.next in {"gauge", "end", "start", "accept"}:
                found.append(f"{state.plan.cycle(key).name}: {wanted.say}")
    return tuple(found)
