"""When a cycle will be done, by the judgement of the log: what was timed, the plan, the breaks of the shop's day."""

from bisect import bisect_left, bisect_right
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import lru_cache
from itertools import pairwise
from math import ceil
from statistics import median

from ditto_run.core.run.judge import finish
from ditto_run.core.run.judge.finish import gaps_of, practice_of, strays_of
from ditto_run.core.run.loads import loads_to_go
from ditto_run.core.run.state import Load, RunState
from ditto_run.core.shop.day import Pause, ShopDay

FEW = 3  # loads; of fewer the plan's cycle is the usual one
USUAL_LOADS = 20  # the middle cycle is that of so many
LONGEST_GAP_S = 4 * 3600.0  # beyond it the run was left, whatever the clock says; common practice, no source
ELSEWHERE = 3.0  # a gap so many middle ones long in which another cycle was cut was spent there
AHEAD = timedelta(days=120)  # that breaks are looked up
STEP_S = 15.0  # a wait is looked at in steps, so that pages drawn one after another ask the same
MOST_FIT = 2000  # loads


@dataclass(frozen=True, slots=True)
class TimedLoadDone:
    """A load that is done: start and end of its cycle since the first one began, [s]; whether readings were taken after it."""

    start: float
    end: float
    gauged: bool


@dataclass(frozen=True, slots=True)
class CycleSoFar:
    """What is known of a cycle when it is asked when it will be done; times since its first load began, [s].

    Args:
        now: from where the rest counts.
        loads: those that are done and were timed.
        loads_left: still to come, the short last one counted whole. [loads]
        planned_cycle, planned_load_to_load: of the plan; 0 while it has no times.
        gauge_every: after how many loads one is gauged. [loads]
        calendar: breaks and nights, past and to come: start and length.
        written: after which load an insert was changed, or something else.
    """

    now: float
    loads: tuple[TimedLoadDone, ...]
    loads_left: int
    planned_cycle: float
    planned_load_to_load: float
    gauge_every: int
    calendar: tuple[tuple[float, float], ...]
    written: tuple[tuple[int, str], ...]


@dataclass(frozen=True, slots=True)
class Ends:
    """When a cycle will be done: the likely moment, and the ends of the 80 % range."""

    likely: datetime
    low: datetime
    high: datetime


@dataclass(frozen=True, slots=True)
class TimeSpent:
    """Where the time of a cycle went since its first load, told apart by the clock alone, [s].

    Args:
        cut: cycles.
        hands: unloading, loading and gauging between them.
        breaks: of the shop's day, nights too, where the run was left, and proving the first piece.
        stood: beyond what the hands usually take.
        stops: how often it stood so.
    """

    cut: float
    hands: float
    breaks: float
    stood: float
    stops: int


def ends_of(state: RunState, now: datetime, day: ShopDay, share: float = 1.0) -> Ends | None:
    """Return when the cycle that is looked at will be done; None while neither plan nor clock says how long a load takes.

    Args:
        state: the run.
        now: the moment it is asked.
        day: the shop's.
        share: of the loads to go that it cuts, where another machine cuts the same meanwhile. [-]
    """
    left = loads_to_go(state) * share
    found = so_far(state, now, day)
    if found is None:
        return None
    origin, case = found
    low, likely, high = _finish(replace(case, loads_left=ceil(left - 1e-9)))
    at = [max(origin + timedelta(seconds=case.now + span), now) for span in (likely, low, high)]
    return Ends(*at)


@lru_cache(maxsize=256)
def _finish(case: CycleSoFar) -> tuple[float, float, float]:
    return finish(case)


def so_far(state: RunState, now: datetime, day: ShopDay) -> tuple[datetime, CycleSoFar] | None:
    """Return what is known of the cycle that is looked at, and when its first timed load began.

    A load that is cutting counts as done when it usually would be. A wait beyond what the hands usually take counts from
    now; a break that is on takes what is left of it.

    Args:
        state: the run.
        now: the moment it is asked.
        day: the shop's.
    """
    run = state.here
    planned = state.plan.times(state.cycle, max(sum(run.composition.values()), 1))
    done = [load for load in on_clock(state) if load is not state.running]
    if not done and planned.load_to_load_s <= 0:
        return None
    moments = [(load.started_at, load.ended_at, _was_gauged(state, load)) for load in done]
    origin = moments[0][0] if moments and moments[0][0] else now
    if state.running is not None and state.running.started_at and not moments:
        origin = state.running.started_at
    loads = [
        TimedLoadDone((start - origin).total_seconds(), (end - origin).total_seconds(), gauged)
        for start, end, gauged in moments
        if start is not None and end is not None
    ]
    clocked = [load.end - load.start for load in loads[-USUAL_LOADS:]]
    usual = median(clocked) if clocked and (len(clocked) >= FEW or not planned.cycle_s) else planned.cycle_s
    gaps = [b.start - a.end for a, b in pairwise(loads)]
    hand = median(gaps[-USUAL_LOADS:]) if gaps else max(planned.load_to_load_s - planned.cycle_s, 0.0)
    at = (now - origin).total_seconds()
    if state.running is not None and state.running.started_at is not None:
        start = (state.running.started_at - origin).total_seconds()
        at = max(start + usual, at)
        loads.append(TimedLoadDone(start, at, gauged=False))
    elif loads:
        at = max(loads[-1].end, (at - hand) // STEP_S * STEP_S)
    pauses = [
        ((pause.start - origin).total_seconds(), pause.seconds)
        for pause in _pauses(day, origin, (now + AHEAD).replace(hour=0, minute=0, second=0, microsecond=0))
    ]
    calendar = sorted([*_cut_short(pauses, loads, at), *_left(state, origin, loads, pauses, hand)])
    changes = tuple(
        (change.load - 1, "insert" if change.kind == "setting" else change.kind)
        for change in run.changes
        if change.kind in {"setting", "break"}
    )
    every = min((state.sampling(c.number) for c in state.gauged_here() if c.grade != "free"), default=1)
    return origin, CycleSoFar(
        at,
        tuple(loads),
        ceil(loads_to_go(state) - 1e-9),
        planned.cycle_s or usual,
        planned.load_to_load_s or usual + hand,
        every,
        tuple(calendar),
        changes,
    )


@lru_cache(maxsize=16)
def _pauses(day: ShopDay, since: datetime, until: datetime) -> tuple[Pause, ...]:
    return tuple(day.pauses(since, until))


def _was_gauged(state: RunState, load: Load) -> bool:
    return any(state.pieces[number].gaugings for number in load.pieces)


def _cut_short(
    pauses: list[tuple[float, float]], loads: list[TimedLoadDone], at: float
) -> list[tuple[float, float]]:
    """The pauses as they stand: one that is on since the last load takes only what is left of it."""
    begun = loads[-1].start if loads else at
    return [
        (at + 1, start + long - at) if begun < start <= at < start + long else (start, long)
        for start, long in pauses
        if not begun < start + long <= at or start <= begun
    ]


def _left(
    state: RunState,
    origin: datetime,
    loads: list[TimedLoadDone],
    pauses: list[tuple[float, float]],
    hand: float,
) -> list[tuple[float, float]]:
    """Gaps in which the run was left, another cycle was cut, or the first piece was proven: no pace, and no stop either."""
    starts = [start for start, _ in pauses]
    elsewhere = sorted(
        (load.started_at - origin).total_seconds()
        for run in state.cycles.values()
        if run.key != state.cycle
        for load in run.loads
        if load.started_at is not None
    )
    proven = [(at - origin).total_seconds() for at in state.here.proven.values()]
    found = []
    for a, b in pairwise(loads):
        known = sum(long for _, long in pauses[bisect_right(starts, a.start) : bisect_right(starts, b.start)])
        gap = b.start - a.end - known
        away = bisect_left(elsewhere, b.start) > bisect_left(elsewhere, a.end)
        proves = gap > 0 and any(a.end <= at <= b.start for at in proven)
        if gap > LONGEST_GAP_S or proves or (away and gap > ELSEWHERE * max(hand, 60.0)):
            found.append((a.end + 1, max(gap - hand, 0.0)))
    return found


def spent(case: CycleSoFar) -> TimeSpent:
    """Return where the time of a cycle went, from its first load to its last, by the clock alone."""
    gaps = gaps_of(case)
    strays = strays_of(gaps)
    cut = sum(load.end - load.start for load in case.loads)
    usual = median([float(h) for h, odd in zip(gaps.hand, strays, strict=True) if not odd] or [0.0])
    stood = sum(float(hand) - usual for hand, odd in zip(gaps.hand, strays, strict=True) if odd)
    whole = sum(b.start - a.end for a, b in pairwise(case.loads))
    hands = float(gaps.hand.sum()) - stood
    return TimeSpent(cut, hands, max(whole - hands - stood, 0.0), stood, int(strays.sum()))


def on_clock(state: RunState) -> list[Load]:
    """Return the loads of the cycle that is looked at which the clock knows, the one that is cutting with them."""
    found = [load for load in state.here.loads if load.cycle_s is not None]
    return [*found, state.running] if state.running is not None and state.running.started_at else found


def planned_spent(state: RunState) -> float | None:
    """Return what the plan gives for the loads that the clock knows, and the hands between them, [s].

    None while the plan has no time for the cycle, or nothing is timed. It is held against cutting, hands and standing of
    `spent`: the hands before the first load are in neither.

    Args:
        state: the run, looked at from the cycle.
    """
    sizes = [len(load.pieces) for load in on_clock(state)]
    times = {many: state.plan.times(state.cycle, many) for many in set(sizes)}  # each size of load once
    if not sizes or times[sizes[0]].cycle_s <= 0:
        return None
    first = times[sizes[0]]
    return sum(times[many].load_to_load_s for many in sizes) - (first.load_to_load_s - first.cycle_s)


def learning(case: CycleSoFar) -> float | None:
    """Return what each doubling of the loads leaves of the hands' time, [-]; None while the clock does not show it.

    Shown means: below 0.98 with nine chances in ten.

    Source:
        Wright's learning curve, as `judge/finish.py` fits it.
    """
    slope, doubt = practice_of(case)
    surely, shown = 2.0 ** (slope + 1.28 * doubt), 0.98
    return 2.0**slope if surely < shown else None


def fits(case: CycleSoFar, until_s: float) -> tuple[int, int]:
    """Return how many loads end before a time: surely, by the upper end of the 80 % range, and likely, [loads].

    Args:
        case: what is known.
        until_s: on the same clock. [s]
    """
    room = until_s - case.now

    def most(which: int) -> int:
        low, high = 0, MOST_FIT
        while low < high:
            middle = (low + high + 1) // 2
            if _finish(replace(case, loads_left=middle))[which] <= room:
                low = middle
            else:
                high = middle - 1
        return low

    if room <= 0:
        return 0, 0
    return most(2), most(1)


def late_words(day: ShopDay, now: datetime) -> str:
    """Return the caution of a late hour, once the shop's day is over; empty before, and while its hours are not known.

    Source:
        Common practice, no source.
    """
    ends = day.end_of(now)
    if ends is None or (
        now < ends and day.begins is not None and now.astimezone().hour * 60 >= day.begins - 60
    ):
        return ""
    return "The shop’s day is over. Tired hands make the dear mistakes: no new setup or tool now, and gauge the next load whole."
