"""The jobs of the shop as they stand, for the week: what is left of each on which machine, what it waits for, when it is due."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, time, timedelta
from math import ceil

from ditto_run.core.plan import Plan
from ditto_run.core.plan.cycles import Press
from ditto_run.core.run.forecast import ends_of, fits, so_far
from ditto_run.core.run.loads import loads_to_go
from ditto_run.core.run.state import RunState
from ditto_run.core.shop.day import ShopDay
from ditto_run.core.shop.shop_lists import GaugeCheck, overdue
from ditto_run.core.tools import CycleTime
from ditto_run.core.units import day_text
from ditto_run.core.week.laid_out import FULL, WeekTask
from ditto_run.desk.desk import Desk
from ditto_run.desk.values import Job, Registers

OPEN_MACHINE = "no machine yet"
MOST_JOBS = 60
PLAN_LOW, PLAN_HIGH = 0.9, 1.3  # of a plan's time, in 8 of 10; common practice, no source
DAY_END = 17 * 60  # minutes after midnight at which a day's work is taken to end where nobody said it


@dataclass(frozen=True, slots=True)
class WeekJob:
    """A task of the week: the job, the cycle, loads left, what it waits for, when it is due, loads that surely fit within the hour.

    `gauges` says which of its gauges are out of check, and since when; empty for none.
    """

    task: WeekTask
    job_id: int
    title: str
    cycle: str
    loads: int
    waits: str = ""
    due: date | None = None
    fits_soon: int = 0
    gauges: str = ""


@dataclass(frozen=True, slots=True)
class OutElsewhere:
    """Pieces of a job that are out: how many, where, for what, promised for which day, when the job is due. [pieces]."""

    job_id: int
    title: str
    pieces: int
    to: str
    what: str
    promised: date | None
    due: date | None

    def words(self, today: date) -> str:
        """How it stands with the day it was promised for, in a sentence; empty while nothing is wrong."""
        if self.promised is None:
            return "No day was promised: ask."
        if self.promised < today:
            return f"It was promised for {day_text(self.promised)}: ask where it is."
        if self.due is not None and self.promised > self.due:
            return f"It comes after the job is due, {day_text(self.due)}."
        return ""


@dataclass(frozen=True, slots=True)
class NotPlanned:
    """A job that cannot be laid out, and why."""

    job_id: int
    title: str
    why: str


def week_jobs(desk: Desk) -> tuple[tuple[WeekJob, ...], tuple[NotPlanned, ...]]:
    """Return what is left of every open job, and the jobs of which too little is known."""
    runs, shop, now = desk.runs.of_jobs(), desk.shop.load(), desk.now
    found: list[WeekJob] = []
    bare: list[NotPlanned] = []
    checks = tuple(row.value for row in desk.drawers.rows("gauge_checks"))
    names = {number: machine.name for number, machine in shop.machines.items()}
    manual = {number for number, machine in shop.machines.items() if machine.is_manual}
    for job in desk.jobs.find():
        run_id, why = runs.get(job.id), _why(job.plan)
        if run_id is None:
            mine = _of_plan(job, job.plan, names, manual, now, shop.day)
        else:
            with desk.runs.folded(run_id) as state:
                if state.closed_at is not None:
                    continue
                mine = _of_run(job, state, names, manual, now, shop.day)
                if not any(_all_loads(state)):
                    why = "all of it is cut; its batch is not closed"
        if mine and len({one.job_id for one in found}) >= MOST_JOBS:
            bare.append(NotPlanned(int(job.id), job.plan.title, f"{MOST_JOBS} newer open jobs are laid out"))
        elif mine:
            gauges = _out_of_check(job.plan, shop, checks, now.astimezone().date())
            found += [replace(one, gauges=gauges) for one in mine]
        else:
            bare.append(NotPlanned(int(job.id), job.plan.title, why))
    return tuple(found), tuple(bare)


def _out_of_check(plan: Plan, shop: Registers, checks: tuple[GaugeCheck, ...], today: date) -> str:
    """Which gauges of a job are out of check, and since when, in words; empty for none."""
    used = dict.fromkeys(c.gauge_id for c in plan.all_characteristics if c.gauge_id in shop.gauges)
    late = (
        (shop.gauges[number or 0].name, overdue(checks, shop.gauges[number or 0].name, today))
        for number in used
    )
    return ", ".join(f"{name} since {day_text(since)}" for name, since in late if since is not None)


def out_elsewhere(desk: Desk) -> tuple[OutElsewhere, ...]:
    """Return what is out of the newest batch of every job, closed ones too, the one promised first at the top."""
    runs, found = desk.runs.of_jobs(), []
    for job in desk.jobs.find():
        run_id = runs.get(job.id)
        if run_id is None:
            continue
        with desk.runs.folded(run_id) as state:
            due = state.plan.heading.due
            found += [
                OutElsewhere(
                    int(job.id),
                    job.plan.title,
                    trip.away,
                    trip.to,
                    trip.what,
                    date.fromisoformat(trip.promised) if trip.promised else None,
                    due,
                )
                for trip in state.trips
                if trip.away
            ]
    return tuple(sorted(found, key=lambda one: (one.promised or date.max, one.job_id)))


def _why(plan: Plan) -> str:
    if not plan.all_cycles:
        return "it has no setup yet"
    if not any(cycle.stations for cycle in plan.all_cycles):
        return "it has no station yet"
    return "its tools have no times yet"


def due_moment(due: date, day: ShopDay, now: datetime) -> datetime:
    """Return when a day's work ends at which something is due."""
    ends = day.ends if day.ends is not None else DAY_END
    return datetime.combine(due, time(), now.astimezone().tzinfo) + timedelta(minutes=ends)


def _minutes(day: ShopDay, now: datetime, until: datetime) -> int:
    return round(day.between(now, until) / 60)


def _release(job: Job, now: datetime, day: ShopDay) -> tuple[int, str]:
    """When a job may begin, in minutes of work from now, and what it waits for."""
    order, waits = job.plan.order, job.plan.heading.waits_for
    if order is not None and order.waits:
        waits = waits or order.waits
        if order.expected:
            begins = day.begins if day.begins is not None else 8 * 60
            came = datetime.combine(date.fromisoformat(order.expected), time(), now.astimezone().tzinfo)
            return _minutes(day, now, came + timedelta(minutes=begins)), waits
    return 0, waits


def _share(load_s: float, hands_s: float, *, attended: bool) -> int:
    if attended or load_s <= 0:
        return FULL
    return max(1, min(FULL, ceil(FULL * hands_s / load_s)))


def _of_plan(
    job: Job, plan: Plan, names: Mapping[int, str], manual: set[int], now: datetime, day: ShopDay
) -> list[WeekJob]:
    """All of a job that was not begun."""
    release, waits = _release(job, now, day)
    due = None if plan.heading.due is None else _minutes(day, now, due_moment(plan.heading.due, day, now))
    found: list[WeekJob] = []
    setting = _setting_up_min(plan)
    for cycle in plan.all_cycles:
        times = plan.times(cycle.key) if cycle.stations else None
        if times is None or times.cycle_s <= 0:
            return []
        room = max(sum(one.pieces for one in cycle.stations), 1)
        pieces = max(plan.quantity_of(plan.part_of(key)) for key in cycle.setups)
        loads = ceil(pieces / room)
        hands = max(times.load_to_load_s - times.cycle_s, 0.0)
        task = WeekTask(
            f"{int(job.id)}-{cycle.key}",
            names.get(cycle.machine_id or 0, OPEN_MACHINE),
            max(1, ceil(loads * times.load_to_load_s / 60) + setting),
            _share(times.load_to_load_s, hands, attended=cycle.machine_id in manual),
            release,
            due,
            found[-1].task.key if found else "",
            low=PLAN_LOW,
            high=PLAN_HIGH,
        )
        found.append(WeekJob(task, int(job.id), plan.title, cycle.name, loads, waits, plan.heading.due))
    return found


def _setting_up_min(plan: Plan) -> int:
    """Setting up a cycle by the way that was chosen, shared by its setups; nothing while no way says it. [min]."""
    way = plan.chosen_way
    if way is None:
        return 0
    seconds = sum(line.time.likely_s for line in way.ready if line.is_setting_up)
    return round(seconds / 60 / max(len(plan.all_cycles), 1))


def _of_run(
    job: Job, state: RunState, names: Mapping[int, str], manual: set[int], now: datetime, day: ShopDay
) -> list[WeekJob]:
    """What is left of a job that runs."""
    plan = state.plan
    due = None if plan.heading.due is None else _minutes(day, now, due_moment(plan.heading.due, day, now))
    found: list[WeekJob] = []
    for cycle, loads in zip(plan.all_cycles, _all_loads(state), strict=True):
        here = state.at(cycle.key) if cycle.key in state.cycles else None
        if not loads:
            continue
        times = plan.times(cycle.key) if cycle.stations else CycleTime(0.0, 0.0, 0.0)
        left = _left(here, times, loads, now, day)
        if left is None:
            return []
        active = here is not None and (here.running is not None or bool(here.here.loads))
        runs = active and cycle.key == state.cycle
        hands = max(times.load_to_load_s - times.cycle_s, 0.0)
        task = WeekTask(
            f"{int(job.id)}-{cycle.key}",
            names.get(cycle.machine_id or 0, OPEN_MACHINE),
            left[0],
            _share(times.load_to_load_s, hands, attended=cycle.machine_id in manual),
            due=due,
            after=found[-1].task.key if found and not active else "",
            runs=runs,
            low=min(left[1], 1.0),
            high=max(left[2], 1.0),
        )
        soon = min(_soon(here, now, day), loads) if here is not None and runs else 0
        found.append(WeekJob(task, int(job.id), plan.title, cycle.name, loads, "", plan.heading.due, soon))
    return found


def _all_loads(state: RunState) -> list[int]:
    """Loads that each cycle of a run has still to cut."""
    found = []
    for cycle in state.plan.all_cycles:
        here = state.at(cycle.key) if cycle.key in state.cycles else None
        room = max(sum(one.pieces for one in cycle.stations), 1)
        found.append(_loads_left(state.plan, cycle, here, room))
    return found


def _loads_left(plan: Plan, cycle: Press, here: RunState | None, room: int) -> int:
    """Loads that a cycle has still to cut, the one that is on counted."""
    if here is None:
        return ceil(max(plan.quantity_of(plan.part_of(key)) for key in cycle.setups) / room)
    return max(ceil(loads_to_go(here)), int(here.running is not None))


def _left(
    here: RunState | None, times: CycleTime, loads: int, now: datetime, day: ShopDay
) -> tuple[int, float, float] | None:
    """Minutes of work left, and the ends of their range as shares of it; None while nothing says how long a load takes."""
    ends = ends_of(here, now, day) if here is not None else None
    if ends is not None:
        minutes = max(1, round(day.between(now, ends.likely) / 60))
        low, high = (max(day.between(now, side) / 60, 1.0) / minutes for side in (ends.low, ends.high))
        return minutes, low, high
    if times.cycle_s <= 0:
        return None
    return max(1, ceil(loads * times.load_to_load_s / 60)), PLAN_LOW, PLAN_HIGH


def _soon(state: RunState, now: datetime, day: ShopDay) -> int:
    """Loads that surely fit within the hour."""
    case = so_far(state, now, day)
    if case is None:
        return 0
    origin, found = case
    return fits(found, (now + timedelta(hours=1) - origin).total_seconds())[0]


def read_order(text: str, keys: Sequence[str]) -> tuple[str, ...]:
    """Return an order as it stands in an address; keys that are not there any more are left out, new ones come last."""
    known = [key for key in text.split(",") if key in set(keys)]
    return tuple(dict.fromkeys([*known, *keys]))
