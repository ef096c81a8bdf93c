"""A batch rehearsed in the process for long work: with the advice, as many do, or as a person decides."""

from collections.abc import Mapping
from dataclasses import replace
from datetime import datetime
from functools import partial

from ditto_run.core.plan import Plan
from ditto_run.core.rehearse.floor import Floor, play_floor
from ditto_run.core.rehearse.practice import Decision, Practised, practise
from ditto_run.core.rehearse.process import Fault
from ditto_run.core.rehearse.rehearsal import PlayedBatch, PlayedOn, rehearse
from ditto_run.core.shop import Gauge, Machine
from ditto_run.core.shop.costs import ShopCosts
from ditto_run.core.shop.day import ShopDay
from ditto_run.desk.desk import Desk
from ditto_run.devices.process import SimulatedProcess

ShopOf = tuple[Machine | None, Mapping[int, Gauge], ShopDay, ShopCosts]
"""What of the shop a batch is played with: machine, gauges, day, costs."""


def begin_of(desk: Desk) -> datetime:
    """Return when a rehearsal begins: the last full quarter of an hour."""
    now = desk.now
    return now.replace(minute=now.minute // 15 * 15, second=0, microsecond=0)


def played(
    plan: Plan,
    cycle: int,
    at: datetime,
    shop: ShopOf,
    how: tuple[Fault, int, bool],
) -> PlayedBatch:
    """Return a batch played: how is what goes wrong, the seed of chance, and whether the advice is followed."""
    machine, gauges, day, costs = shop
    fault, seed, follows = how
    make = partial(SimulatedProcess, fault=fault, seed=seed)
    return rehearse(plan, cycle, at, PlayedOn(make, machine, gauges, day, follows, costs))


def decided(
    plan: Plan,
    cycle: int,
    at: datetime,
    shop: ShopOf,
    how: tuple[Fault, int],
    decisions: tuple[Decision, ...],
) -> Practised:
    """Return a batch as far as a person decided on it: how is what goes wrong and the seed of chance."""
    machine, gauges, day, costs = shop
    make = partial(SimulatedProcess, fault=how[0], seed=how[1])
    return practise(plan, cycle, at, PlayedOn(make, machine, gauges, day, costs=costs), decisions)


def shop_of(desk: Desk, plan: Plan, cycle: int) -> ShopOf:
    """Return what of the shop a rehearsal is played with."""
    shop = desk.shop.load()
    return shop.machines.get(plan.cycle(cycle).machine_id or 0), dict(shop.gauges), shop.day, shop.costs


def rehearsed(desk: Desk, plan: Plan, cycle: int, how: tuple[Fault, int, bool]) -> PlayedBatch:
    """Return a batch rehearsed; it is kept, and asked again it is there at once."""
    return desk.worker.solve(played, plan, cycle, begin_of(desk), shop_of(desk, plan, cycle), how)


def practised(
    desk: Desk, plan: Plan, cycle: int, how: tuple[Fault, int], decisions: tuple[Decision, ...]
) -> Practised:
    """Return a practice as far as it was decided."""
    return desk.worker.solve(decided, plan, cycle, begin_of(desk), shop_of(desk, plan, cycle), how, decisions)


def on_the_floor(desk: Desk, plan: Plan, hands: int) -> Floor:
    """Return the whole batch on the floor; it is kept, and asked again it is there at once."""
    _, shop = desk.worked.shop()
    return desk.worker.solve(play_floor, plan, replace(shop, taught=(), rates={}), hands)
