"""Stations of a proposed plan: holders that are alike side by side, as many as the machine has codes and the table has room for."""

from collections.abc import Iterable
from dataclasses import replace

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.edits.place import PlaceHolder
from ditto_run.core.errors import DittoError
from ditto_run.core.place import Station
from ditto_run.core.plan.document import Plan
from ditto_run.core.plan.shop_known import ShopKnown
from ditto_run.core.shop.drawers import Holder

MOST_STATIONS = 8  # that are tried in one setup
LABELS = "ABCDEFGH"


def alike(holders: Iterable[Holder], name: str, machine: str) -> tuple[str, ...]:
    """Return the names of the holders that are like one, it first, those that are fixed to another machine left out.

    Args:
        holders: of the register.
        name: of the one.
        machine: on which they are wanted.
    """
    rows = tuple(holders)
    like = next((one for one in rows if one.name == name), None)
    if like is None:
        return ()
    there = (
        one.name
        for one in rows
        if one.machine.lower() in {"", machine.lower()}
        and (one.kind, one.shape, one.low_mm, one.high_mm, one.body, one.steps)
        == (like.kind, like.shape, like.low_mm, like.high_mm, like.body, like.steps)
    )
    return (name, *(other for other in there if other != name))


def put_stations(plan: Plan, shop: ShopKnown, setup_key: int, many: int, *, placed: bool) -> Plan:
    """Return a plan with stations in a setup that has none: in holders that are alike, each with a code where the machine has any.

    Args:
        plan: the job.
        shop: machines and holders.
        setup_key: of the setup.
        many: stations. [1]
        placed: True to place the holders on the table too, where both are measured and it takes them.
    """
    setup = plan.setup(setup_key)
    machine = shop.machines.get(setup.machine_id or 0)
    names = alike(shop.holders.values(), setup.holds, machine.name if machine is not None else "") or (
        setup.holds,
    )
    if placed and machine is not None and machine.bed is not None:
        before = plan
        registers = PlanRegisters(shop.machines, holders=shop.holders)
        try:
            for name in names[:many]:
                plan = apply_edit(PlaceHolder(setup_key, name), plan, registers).plan
        except DittoError:  # its footprint is not measured, or the table is full: the stations alone
            plan = before
        else:
            return _coded(plan, setup_key, machine.offset_codes)
    body = shop.holders[setup.holds].body if setup.holds in shop.holders else None
    nests = len(body.nests) if body is not None else 0
    added = tuple(
        Station(setup_key, LABELS[n], names[min(n, len(names) - 1)][:40], pieces=max(nests, 1))
        for n in range(min(many, MOST_STATIONS))
    )
    codes = machine.offset_codes if machine is not None else ()
    return _coded(replace(plan, stations=(*plan.stations, *added)), setup_key, codes)


def _coded(plan: Plan, setup_key: int, codes: tuple[str, ...]) -> Plan:
    """A plan whose stations of a setup have codes: those that no other setup uses, then those of setups before it."""
    mine = plan.stations_of(setup_key)
    if any(one.nest for one in mine):  # nests share the code of their holder
        return plan
    taken = {one.offset for one in plan.stations if one.setup != setup_key}
    order = iter(sorted(codes, key=lambda code: code in taken))
    coded = {one.label: next(order, None) for one in mine}
    stations = tuple(
        replace(one, offset=coded[one.label]) if one.setup == setup_key else one for one in plan.stations
    )
    return replace(plan, stations=stations)


def room_for(plan: Plan, shop: ShopKnown, setup_key: int) -> int:
    """Return how many stations a setup may have: holders that are alike, as far as codes last and the table takes them.

    Args:
        plan: the job.
        shop: machines and holders.
        setup_key: of the setup.
    """
    setup = plan.setup(setup_key)
    machine = shop.machines.get(setup.machine_id or 0)
    if machine is None or machine.turns or not machine.offset_codes:
        return 1
    names = alike(shop.holders.values(), setup.holds, machine.name)
    most = max(min(len(names), len(machine.offset_codes), MOST_STATIONS), 1)
    measured = machine.bed is not None and all(shop.holders[name].body is not None for name in names)
    for many in range(most, 1, -1):
        if not measured or put_stations(plan, shop, setup_key, many, placed=True).placed:
            return many
    return 1
