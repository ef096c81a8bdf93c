"""The week as warps: a thread for each machine, a stretch for each job, due days as nails, the 80 % range of each end as a caliper."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Protocol

from markupsafe import Markup, escape

from ditto_run.desk.week import WeekJob
from ditto_run.web.drawings.part_frame import text
from ditto_run.web.drawings.scale import svg

LEFT, RIGHT, TOP, LANE, BAR = 150.0, 20.0, 34, 62, 26
FEWEST_H, MOST_DAYS = 8.0, 28
LETTERS = 8.6  # px of one
LEAST = 44  # px, under which a stretch bears its number alone


class LineOfWeek(Protocol):
    """A task in its place."""

    @property
    def job(self) -> WeekJob: ...  # noqa: D102
    @property
    def start(self) -> datetime: ...  # noqa: D102
    @property
    def end(self) -> datetime: ...  # noqa: D102
    @property
    def earliest(self) -> datetime: ...  # noqa: D102
    @property
    def latest(self) -> datetime: ...  # noqa: D102
    @property
    def due_at(self) -> datetime | None: ...  # noqa: D102


def draw_week(lines: Sequence[LineOfWeek], width: int) -> Markup:
    """Return the picture of a week; empty where nothing is laid out.

    Args:
        lines: tasks in their places.
        width: of the picture. [px]
    """
    if not lines:
        return Markup("")
    begin = min(line.start for line in lines)
    last = min(max(line.latest for line in lines), begin + timedelta(days=MOST_DAYS))
    hours = max((last - begin).total_seconds() / 3600, FEWEST_H)
    scale = (width - LEFT - RIGHT) / hours

    def x(at: datetime) -> float:
        return LEFT + min(max((at - begin).total_seconds() / 3600, 0.0), hours) * scale

    machines = list(dict.fromkeys(line.job.task.machine for line in lines))
    high = TOP + LANE * len(machines)
    body = _days(begin, hours, x, high)
    for n, name in enumerate(machines):
        y = TOP + LANE * n + BAR / 2
        body += f'<path class="hair" d="M{LEFT},{y:.0f}H{width - RIGHT}"/>' + text(
            LEFT - 12, y + 6, name[:15], "b", anchor="end"
        )
    for number, line in enumerate(lines, 1):
        body += _stretch(
            number,
            line,
            TOP + LANE * machines.index(line.job.task.machine),
            x,
            begin + timedelta(hours=hours),
        )
    says = "; ".join(f"{line.job.title} on {line.job.task.machine} to {line.end:%a %H:%M}" for line in lines)
    return Markup(svg(width, high + 8, str(escape(says)), body))


def _days(begin: datetime, hours: float, x, high: int) -> str:  # type: ignore[no-untyped-def]
    """A mark at each midnight, with its day; every few where they stand close."""
    first = begin.astimezone().replace(hour=0, minute=0, second=0, microsecond=0)
    days = int(hours / 24) + 2
    every = max(1, round(days / 10))
    drawn = text(LEFT, TOP - 14, f"{begin.astimezone():%a %H:%M}", "mk", anchor="start")
    for n in range(1, days):
        at = first + timedelta(days=n)
        if (at - begin).total_seconds() / 3600 > hours:
            break
        drawn += f'<path class="hair" d="M{x(at):.1f},{TOP - 6}V{high - LANE + BAR + 14}"/>'
        if not n % every and x(at) - LEFT > LETTERS * 10:
            drawn += text(x(at) + 4, TOP - 14, f"{at:%a} {at.day}", "mk", anchor="start")
    return drawn


def _nail(at: float, y: float) -> str:
    """When it is due: a nail driven through its lane."""
    return f'<path class="fill" d="M{at - 7:.1f},{y - 12}h14l-7,10Z"/><path class="sc-h" d="M{at:.1f},{y - 4}V{y + BAR + 12}"/>'


def _stretch(number: int, line: LineOfWeek, y: float, x, until: datetime) -> str:  # type: ignore[no-untyped-def]
    """A job on its machine: full where it runs alone, hatched where hands stand at it; its nail and the caliper of its end."""
    task, left, right = line.job.task, x(line.start), x(line.end)
    wide = max(right - left, 3.0)
    by_hand = task.hands >= 90
    box = f"M{left:.1f},{y}h{wide:.1f}v{BAR}h-{wide:.1f}Z"
    drawn = f'<path class="{"hatched" if by_hand else "dye2"}" d="{box}"/><path class="sc-h" d="{box}"/>'
    words = f"{number} {line.job.title}" if wide > LEAST + LETTERS * len(line.job.title) else str(number)
    if wide > LETTERS * 2:
        drawn += text(left + 7, y + BAR - 7, words, "b", anchor="start")
    low, high = x(line.earliest), x(line.latest)
    foot = y + BAR + 8
    drawn += f'<path class="sc-h" d="M{low:.1f},{foot - 4}v8M{high:.1f},{foot - 4}v8M{low:.1f},{foot}H{high:.1f}"/>'
    if line.due_at is not None and line.due_at <= until:
        drawn += _nail(x(line.due_at), y)
    return drawn
