"""The week: jobs on shared machines and hands, as they stand and in a better order."""

from dataclasses import dataclass
from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Form, Query
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.entry.plain import read_count
from ditto_run.core.errors import BadEntry, DittoError
from ditto_run.core.week.laid_out import LaidOut, lay_out, worth
from ditto_run.core.week.proposed import moved, propose
from ditto_run.desk.week import WeekJob, due_moment, out_elsewhere, read_order, week_jobs
from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.drawings.week_lanes import draw_week
from ditto_run.web.told import told

router = APIRouter()
LONGEST, MOST_PAIRS = 4_000, 20
QUARTER = 15  # minutes, under which a gain is not worth a word
OrderText = Annotated[str, Form(max_length=LONGEST)]


@dataclass(frozen=True, slots=True)
class WeekLine:
    """A task in its place: from when to when, its 80 % end, how late it is likely to be at least and at most. [min]."""

    job: WeekJob
    placed: LaidOut
    start: datetime
    end: datetime
    earliest: datetime
    latest: datetime
    late_low: int
    late_high: int
    due_at: datetime | None = None


@router.get("/week", name="week_page")
def show_page(
    desk: DeskDep,
    render: RenderDep,
    order: Annotated[str, Query(max_length=LONGEST)] = "",
    hands: Annotated[str, Query(max_length=20)] = "",
    chosen: Annotated[str, Query(max_length=40)] = "",
) -> HTMLResponse:
    """Show what is next on which machine, what is late, and the proposed order; nothing is changed by looking."""
    jobs, bare = week_jobs(desk)
    keys = [one.task.key for one in jobs]
    wrong: BadEntry | None = None
    try:
        pairs = _pairs(hands or desk.shop.setting("week_hands") or "1")
    except BadEntry as refused:
        wrong, pairs = refused, 1
    kept = read_order(desk.shop.setting("week_order") or ",".join(_usual(jobs)), keys)
    tried = read_order(order, keys) if order else kept
    tasks = [one.task for one in jobs]
    proposed, refusal = kept, ""
    try:
        proposed = desk.worker.solve(propose, tasks, kept, pairs)
    except DittoError as problem:
        refusal = f"{problem.problem} {problem.remedy}"
    lines = _lines(desk, jobs, tried, pairs)
    better = _lines(desk, jobs, proposed, pairs)
    return render(
        "week/page.html",
        lines=lines,
        bare=bare,
        away=out_elsewhere(desk),
        today=desk.now.astimezone().date(),
        picture=draw_week(lines, 1240),
        tall=draw_week(lines, 764),
        proposed=proposed
        if worth([one.placed for one in better]) < worth([one.placed for one in lines])
        else (),
        better=better,
        gains=_gains(lines, better),
        order=",".join(tried),
        is_kept=tried == kept,
        hands=hands or desk.shop.setting("week_hands") or "1",
        pairs=pairs,
        chosen=chosen if chosen in keys else next(iter(keys), ""),
        wrong=wrong,
        refusal=refusal,
        now=desk.now,
        day=desk.shop.load().day,
    )


def _pairs(text: str) -> int:
    pairs = read_count(text, "hands")
    if not 1 <= pairs <= MOST_PAIRS:
        raise BadEntry(f"{pairs} pairs of hands cannot be.", f"Type 1 to {MOST_PAIRS}.", "hands")
    return pairs


def _usual(jobs: tuple[WeekJob, ...]) -> list[str]:
    """The order nobody chose: what runs, then as the jobs were made."""
    return [one.task.key for one in sorted(jobs, key=lambda one: (not one.task.runs, one.job_id))]


def _lines(desk: DeskDep, jobs: tuple[WeekJob, ...], order: tuple[str, ...], pairs: int) -> list[WeekLine]:
    tasks = [one.task for one in jobs]
    of = {one.task.key: one for one in jobs}
    placed = lay_out(tasks, order, pairs)
    sides = []
    for side in ("low", "high"):
        takes = {task.key: max(1, round(task.minutes * getattr(task, side))) for task in tasks}
        sides.append({one.key: one for one in lay_out(tasks, order, pairs, takes)})
    day, now = desk.shop.load().day, desk.now

    def at(minutes: int) -> datetime:
        return day.after(now, 60 * minutes)

    found = [
        WeekLine(
            of[one.key],
            one,
            at(one.start),
            at(one.end),
            at(sides[0][one.key].end),
            at(sides[1][one.key].end),
            sides[0][one.key].late,
            sides[1][one.key].late,
            due_moment(due, day, now) if (due := of[one.key].due) is not None else None,
        )
        for one in placed
    ]
    return sorted(found, key=lambda line: (line.placed.machine, line.placed.start))


def _gains(lines: list[WeekLine], better: list[WeekLine]) -> tuple[str, ...]:
    """What the proposed order changes, job by job, where it is a quarter of an hour or more."""
    before = {line.placed.key: line for line in lines}
    found = []
    for line in better:
        old = before[line.placed.key]
        if line.placed.late != old.placed.late and abs(line.placed.late - old.placed.late) >= QUARTER:
            how = (
                "late no more"
                if not line.placed.late
                else f"{'less' if line.placed.late < old.placed.late else 'more'} late"
            )
            found.append(f"{line.job.title}, {line.job.cycle}: {how}")
    return tuple(found)


@router.post("/week", name="week_keep")
def keep(
    desk: DeskDep,
    order: OrderText = "",
    hands: Annotated[str, Form(max_length=20)] = "1",
    key: Annotated[str, Form(max_length=40)] = "",
    move: Annotated[str, Form(max_length=8)] = "",
) -> Response:
    """Keep an order, or one in which a job was moved before or behind its neighbour; and how many hands there are."""
    pairs = _pairs(hands)
    jobs, _ = week_jobs(desk)
    keys = [one.task.key for one in jobs]
    wanted = read_order(order, keys)
    if move in {"earlier", "later"}:
        machine_of = {one.task.key: one.task.machine for one in jobs}
        wanted = moved(wanted, key, -1 if move == "earlier" else 1, machine_of)
    desk.shop.save_setting("week_order", ",".join(wanted))
    desk.shop.save_setting("week_hands", str(pairs))
    return told(
        RedirectResponse(f"/week?chosen={key}" if key else "/week", 303), "The order of the week is kept."
    )
