"""What a batch took and cost, line by line beside its plan, with the reasons; what a piece more would have cost; payback."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from math import ceil

from ditto_run.core.method.crossings import break_even
from ditto_run.core.method.totals import HOUR_S, line_of
from ditto_run.core.method.way import Way
from ditto_run.core.plan import Plan
from ditto_run.core.run.costs import piece_lost
from ditto_run.core.run.forecast import on_clock, planned_spent, so_far, spent
from ditto_run.core.run.loads import finished
from ditto_run.core.run.state import RunState
from ditto_run.core.shop.day import ShopDay
from ditto_run.core.units import counted, span_text


@dataclass(frozen=True, slots=True)
class SpentLine:
    """One line: minutes and money, planned and real; None where it is not known.

    Args:
        name: what it is.
        planned_s, real_s: time. [s]
        planned_cents, real_cents: money. [cents]
        why: reason of the difference, or what is not known.
    """

    name: str
    planned_s: float | None
    real_s: float | None
    planned_cents: float | None
    real_cents: float | None
    why: str = ""


@dataclass(frozen=True, slots=True)
class BatchCost:
    """What a batch took and cost.

    Args:
        lines: in the order of the work.
        good: good pieces, through every setup. [pieces]
        planned: pieces that were planned. [pieces]
        planned_s, real_s: all that is known on both sides. [s]
        planned_cents, real_cents: the same; None while no rate is known. [cents]
        price_cents: what is paid for a piece; None while nobody said it. [cents]
        more_cents: what one good piece more would have cost; None while no rate is known or a cycle is not timed. [cents]
        without: lines that cost money on one side only, and so are not in a good piece's.
    """

    lines: tuple[SpentLine, ...]
    good: int
    planned: int
    planned_s: float
    real_s: float
    planned_cents: float | None
    real_cents: float | None
    price_cents: int | None
    more_cents: float | None
    without: tuple[str, ...] = ()

    @property
    def over_s(self) -> float:
        """Beyond the plan, of what is known on both sides. [s]."""
        return self.real_s - self.planned_s

    @property
    def each_cents(self) -> tuple[float, float] | None:
        """What a good piece was planned to cost, and what it really cost; None while one of them is not known. [cents]."""
        if self.planned_cents is None or self.real_cents is None or not self.good or not self.planned:
            return None
        return self.planned_cents / self.planned, self.real_cents / self.good

    @property
    def left_cents(self) -> tuple[float, float] | None:
        """What was planned to be left of the price of a piece, and what really is; None while not known. [cents]."""
        each = self.each_cents
        if each is None or self.price_cents is None:
            return None
        return self.price_cents - each[0], self.price_cents - each[1]


def batch_cost(state: RunState, now: datetime, day: ShopDay) -> BatchCost:
    """Return what a batch took and cost so far.

    Args:
        state: the run, closed or not.
        now: the moment it is asked.
        day: the shop's.

    Source:
        Times by the clock with breaks and nights left out; rates, material and getting ready by the way that was chosen; own
        derivation.
    """
    plan, way = state.plan, state.plan.chosen_way
    hour = 0 if way is None else way.labour_cents + way.machine_cents
    lines = [*_ready(state, way, hour)]
    lines += [_cycle(state, key, now, day, hour) for key in state.cycles]
    lines += [*_material(state, way), *_outside(state)]
    both = [one for one in lines if one.planned_s is not None and one.real_s is not None]
    paid = [one for one in lines if one.planned_cents is not None and one.real_cents is not None]
    money = bool(hour) and bool(paid)
    each_s = [_a_piece_s(state.at(key), now, day) for key in state.cycles]
    known = [seconds for seconds in each_s if seconds is not None]
    more = None
    if money and way is not None and len(known) == len(each_s):
        more = sum(known) / HOUR_S * hour + way.material_cents
    return BatchCost(
        tuple(lines),
        finished(state),
        plan.wanted,
        sum(one.planned_s or 0.0 for one in both),
        sum(one.real_s or 0.0 for one in both),
        sum(one.planned_cents or 0.0 for one in paid) if money else None,
        sum(one.real_cents or 0.0 for one in paid) if money else None,
        state.facts.get("price"),
        more,
        tuple(one.name for one in lines if (one.planned_cents is None) != (one.real_cents is None)),
    )


def _a_piece_s(state: RunState, now: datetime, day: ShopDay) -> float | None:
    """Return what a piece took in the cycle that is looked at, load to load by the clock; None while nothing is timed. [s]."""
    found, pieces = so_far(state, now, day), sum(len(load.pieces) for load in on_clock(state))
    if found is None or not pieces:
        return None
    clock = spent(found[1])
    return (clock.cut + clock.hands + clock.stood) / pieces


def _ready(state: RunState, way: Way | None, hour: int) -> Sequence[SpentLine]:
    """Getting ready: setting up by what was said, else not known; what lasts is paid once."""
    said = state.facts.get("setting_up")
    if way is None:
        bare = SpentLine("Get ready", None, said, None, None, "no way chosen on Method plans it")
        return () if said is None else (bare,)
    setting = sum(line.time.likely_s for line in way.ready if line.is_setting_up)
    once = sum(line.time.likely_s for line in way.ready if not line.is_setting_up)
    first = state.batch == 1
    rate = way.labour_cents + way.machine_cents
    planned = setting + (once if first else 0.0)
    bought = sum(line.cents for line in way.ready if first or not line.lasting)
    real = None if said is None else said + (once if first else 0.0)
    cents = setting / HOUR_S * rate + (once / HOUR_S * way.labour_cents if first else 0.0) + bought
    really = (
        None
        if real is None or said is None
        else (said / HOUR_S * rate + (once / HOUR_S * way.labour_cents if first else 0.0) + bought)
    )
    why = "nobody said how long setting up took" if said is None else ""
    if said is not None and setting:
        over = said - setting
        why = f"setting up {span_text(abs(over))} {'more' if over > 0 else 'less'}" if abs(over) >= 60 else ""  # noqa: PLR2004 - a minute
    return (SpentLine("Get ready", planned, real, cents if hour else None, really if hour else None, why),)


def _cycle(state: RunState, key: int, now: datetime, day: ShopDay, hour: int) -> SpentLine:
    """A cycle by the clock: cutting, hands and what stood; without breaks, nights, proving and loads that were not timed."""
    name, here = state.plan.cycle(key).name or "setup taken out", state.at(key)
    timed = on_clock(here)
    found = so_far(here, now, day) if timed else None
    planned, clock = planned_spent(here), spent(found[1]) if found is not None else None
    real = None if clock is None else clock.cut + clock.hands + clock.stood
    scrap = sum(
        p.standing == "scrap" and any(m.cycle == key for m in p.made.values()) for p in state.pieces.values()
    )
    why = []
    if clock is not None and clock.stops:
        why.append(f"stood {counted(clock.stops, 'time')}, {span_text(clock.stood)}")
    if scrap:
        lost = piece_lost(state.plan, state.cycles[key].setups[-1])
        why.append(f"{scrap} scrapped, {span_text(60 * scrap * lost.minutes)} in them")
    bare = sum(not load.joined for load in here.here.loads) - sum(load.cycle_s is not None for load in timed)
    if clock is None:
        why.append("not timed")
    elif bare > 0:
        why.append(f"{counted(bare, 'load')} not timed, on neither side")
    money = [None if seconds is None or not hour else seconds / HOUR_S * hour for seconds in (planned, real)]
    return SpentLine(name, planned, real, money[0], money[1], "; ".join(why))


def _material(state: RunState, way: Way | None) -> Sequence[SpentLine]:
    if way is None or not way.material_cents:
        return ()
    begun = len(state.pieces)
    planned, real = way.material_cents * (state.plan.wanted + way.trials), way.material_cents * begun
    more = begun - state.plan.wanted - way.trials
    why = f"{counted(more, 'piece')} more begun than planned" if more > 0 else ""
    return (SpentLine("Material", None, None, planned, real, why),)


def _outside(state: RunState) -> Sequence[SpentLine]:
    """Work done elsewhere, by the price of its trips, not known while none has one; nobody plans it in money."""
    trips = [trip for trip in state.trips if trip.cents]
    bare = sum(not trip.cents for trip in state.trips)
    if not state.trips:
        return ()
    cents = sum(trip.cents for trip in trips)
    why = f"{counted(bare, 'trip')} without a price" if bare else "not in the way's plan"
    return (SpentLine("Elsewhere", None, None, 0.0, float(cents) if trips else None, why),)


def payback_words(plan: Plan, good: int) -> str:
    """Return how far what was made once for the way that was chosen has paid for itself, over all batches; empty where nothing lasts.

    Args:
        plan: with its ways.
        good: good pieces of all batches. [pieces]

    Source:
        Where the lines of two ways cross, `method.crossings`.
    """
    way = plan.chosen_way
    if way is None or not any(line.lasting for line in way.ready):
        return ""
    others = [one for one in plan.ways if one.key != way.key and not any(line.lasting for line in one.ready)]
    measure = "cost" if way.has_money and all(one.has_money for one in others) else "time"
    found = []
    for other in others:
        mine, theirs = line_of(way, measure), line_of(other, measure)  # type: ignore[arg-type] # one of its words
        at = break_even(mine, theirs)
        if at is not None and mine.each < theirs.each:
            found.append((at, other.name))
    if not found:
        return ""
    at, name = min(found)
    pays = f"{way.name} pays from {ceil(at)} pieces beside {name}"
    if good >= at:
        return f"{pays}: paid for, {counted(good, 'good piece')} so far."
    return f"{pays}: {counted(good, 'good piece')} so far, {ceil(at) - good} to go."
