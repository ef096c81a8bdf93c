"""What the plan and the shop say of a way of making the part, each figure with where it comes from."""

from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Any

from ditto_run.core.method import Guess, Ready, Way, line_of, read_guess, starting_way
from ditto_run.core.method.guess import NOTHING, exactly, summed
from ditto_run.core.method.starting import FIELDS as TIMES
from ditto_run.core.method.way import SETTING_UP, Rest
from ditto_run.core.plan.document import Plan
from ditto_run.core.plan.shop_known import ShopKnown
from ditto_run.core.shop.taught import taught_for
from ditto_run.core.stock.mass import MaterialMass
from ditto_run.core.units import clock_text

PLANNED = "planned"
"""The kind of way that follows the plan."""
SETTING_EACH = "20/30/45 min"  # setting up one setup of a small part; common practice, no source
STATION_EACH = "5/8/12 min"  # placing and zeroing each further station of it; common practice, no source
HANDLING_EACH = "0:30/0:45/1:10"  # unload and load a small part in one setup; common practice, no source
CONTROL_READY = (("programming", "40/60/100 min", True), ("tooling", "15/25/40 min", False))
FOLLOWS = (
    "cut",
    "per_load",
    "load",
    "pieces_per_load",
    "material_cents",
)  # figures of it that follow the plan


@dataclass(frozen=True, slots=True)
class WaySays:
    """What speaks about the ways of a plan.

    Args:
        plan: the plan of the part in front.
        shop: machines, what closed batches taught, what an hour costs.
        mass: what Stock's material costs; None while it does not say.
    """

    plan: Plan
    shop: ShopKnown
    mass: MaterialMass | None = None


@dataclass(frozen=True, slots=True)
class SetupTimes:
    """What a piece takes in one setup by its tool steps, [s].

    Args:
        name: of the setup.
        cut_s: cutting a piece. [s]
        change_s: tool changes, shared by the pieces of a load. [s]
        handling_s: unload and load a piece. [s]
        pieces: to a load.
    """

    name: str
    cut_s: float
    change_s: float
    handling_s: float
    pieces: int


def planned_times(plan: Plan) -> tuple[SetupTimes, ...]:
    """Return what a piece takes in each setup by the tool steps; nothing while a setup lacks its times.

    Args:
        plan: the plan of the part in front.

    Source:
        Own derivation: what the cycles take a piece.
    """
    found = []
    for setup in plan.setups:
        steps = plan.tools_of(setup.key)
        if not any(step.cut_s > 0 for step in steps):
            return ()
        cycle = plan.cycles_of(setup.key)[0]
        here = sum(station.pieces for station in cycle.stations_of(setup.key)) or 1
        cutting = sum(step.cut_for_s(here * plan.share_of(step)) for step in steps) / here
        change_s = max(0.0, plan.times(cycle.key).per_piece_s - cutting - setup.handling_s)
        found.append(SetupTimes(setup.name, cutting, change_s, setup.handling_s, here))
    return tuple(found)


def planned_way(says: WaySays, key: int) -> Way | None:
    """Return the way that the plan describes; None while it does not say what a piece takes.

    Args:
        says: the plan, and what the shop says.
        key: number it gets in the job.
    """
    plan = says.plan
    times = planned_times(plan)
    if not times:
        return None
    machines = [says.shop.machines.get(setup.machine_id or 0) for setup in plan.setups]
    by_control = any(machine is not None and not machine.is_manual for machine in machines)
    name = machines[0].name if machines[0] is not None else ""
    handled = all(one.handling_s for one in times)
    setting, more = read_guess(SETTING_EACH, "ready"), read_guess(STATION_EACH, "ready")
    ready = [
        Ready(f"{SETTING_UP} {number}", summed(setting, more, _zeros(plan, setup.key) - 1))
        for number, setup in enumerate(plan.setups, 1)
    ]
    if by_control:
        ready += [Ready(what, read_guess(time, "ready"), 0, lasting) for what, time, lasting in CONTROL_READY]
    way = Way(
        key,
        "as planned",
        PLANNED,
        tuple(ready),
        2 if by_control else 0,
        load=summed(NOTHING, read_guess(HANDLING_EACH, "load"), len(plan.setups)),
        deburr=read_guess("0:30", "deburr"),
        gauge=read_guess("0:20", "gauge"),
        attended="start and stop" if by_control else "all the time",
        machine_id=plan.setups[0].machine_id,
        rests=(
            *(Rest(field, "practice") for field in ("ready", "trials", "deburr", "gauge")),
            *(Rest(field, "computed" if field != "load" or handled else "practice") for field in FOLLOWS),
        ),
    )
    return with_shop(followed(way, says), says, name)


def started_way(kind: str, key: int, says: WaySays, rates: tuple[int, int], cut: str = "") -> Way:
    """Return a way from a starting point, filled with the shop's own figures, its material that of Stock.

    Args:
        kind: one of the starting points.
        key: number it gets in the job.
        says: the plan, and what the shop says.
        rates: an hour of hands and of the machine, as typed; 0 takes the shop's. [cents/h]
        cut: time of the cut, as typed.
    """
    way = starting_way(kind, key, rates, cut)
    if way.is_bought:
        return way
    machines = [says.shop.machines.get(setup.machine_id or 0) for setup in says.plan.setups]
    found = next((machine for machine in machines if machine is not None), None)
    usual = {*TIMES, "ready", "trials", "pieces_per_load"} - ({"cut"} if cut else set())
    rests = (*(Rest(field, "practice") for field in sorted(usual)), Rest("material_cents", "computed"))
    way = replace(way, rests=rests, machine_id=found.id if found is not None else None)
    return with_shop(followed(way, says), says, found.name if found is not None else "")


def followed(way: Way, says: WaySays) -> Way:
    """Return a way as it counts now: figures that follow the plan are what the plan says today, times the shop's pace.

    Args:
        way: the way.
        says: the plan, and what the shop says.
    """
    follows = {rest.field for rest in way.rests if rest.origin == "computed"}
    if not follows:
        return way
    told = plan_says(says, way)
    changed: dict[str, Any] = {field: told[field][0] for field in follows & told.keys()}
    rests = tuple(told[rest.field][1] if rest.field in changed else rest for rest in way.rests)
    return replace(way, **changed, rests=rests)


def _zeros(plan: Plan, setup_key: int) -> int:
    """How many zeros are found to set up a setup, 1 or more: nests of one holder share theirs."""
    stations = plan.stations_of(setup_key)
    return len({(one.offset or one.label, one.placed) for one in stations}) or 1


def plan_says(says: WaySays, way: Way) -> dict[str, tuple[Any, Rest]]:
    """Return what the plan says of the fields of a way: the figure, and where it comes from.

    Args:
        says: the plan, and what the shop says.
        way: the way, for its machine and kind.
    """
    found: dict[str, tuple[Any, Rest]] = {}
    mass = says.mass
    if mass is not None and mass.cents_each:
        found["material_cents"] = (mass.cents_each, Rest("material_cents", "computed", "Stock"))
    times = planned_times(says.plan) if way.kind == PLANNED else ()
    if not times:
        return found
    pieces = max(one.pieces for one in times)
    machine = says.shop.machines.get(way.machine_id or 0)
    pace = taught_for(
        says.shop.taught, "pace", way.kind, machine.name if machine else "", says.plan.heading.material
    )
    share = pace.value if pace is not None else 1.0
    of = f"Tools, {share:.2f} times by {pace.rests_on}" if pace is not None else "Tools"
    if all(one.handling_s for one in times):  # else it stays what it was: of one setup nobody said it
        found["load"] = (_about(sum(one.handling_s for one in times)), Rest("load", "computed", "Hold"))
    return found | {
        "cut": (_about(sum(one.cut_s for one in times) * share), Rest("cut", "computed", of)),
        "per_load": (
            _about(sum(one.change_s for one in times) * pieces * share),
            Rest("per_load", "computed", of),
        ),
        "pieces_per_load": (pieces, Rest("pieces_per_load", "computed", "Place")),
    }


def _about(seconds: float) -> Guess:
    """A time that was worked out or measured: as sure as one guess, for the plan is not the machine."""
    return read_guess(clock_text(seconds), "cut") if round(seconds) else exactly(0.0)


def with_shop(way: Way, says: WaySays, machine: str) -> Way:
    """Return a way filled with the shop's own figures where nobody typed one.

    Args:
        way: the way.
        says: the plan, and what the shop says.
        machine: name of its machine; empty while open.
    """
    taught, material = says.shop.taught, says.plan.heading.material
    changed: dict[str, Any] = {}
    rests = {rest.field: rest for rest in way.rests}
    handling = taught_for(taught, "handling", way.kind, machine)
    if handling is not None and not way.is_bought:
        changed |= {"load": _about(handling.value), "locate": Guess(), "unload": Guess()}
        for field in ("load", "locate", "unload"):
            rests[field] = Rest(field, "learned", handling.rests_on)
    setting = taught_for(taught, "setting up", way.kind, machine)
    if setting is not None:
        time = _about(setting.value)
        lines = tuple(replace(line, time=time) if line.is_setting_up else line for line in way.ready)
        changed["ready"] = lines
        rests["ready"] = Rest("ready", "learned", setting.rests_on)
    scrap = taught_for(taught, "scrap", way.kind, machine, material)
    if scrap is not None:
        changed["scrap"] = Decimal(f"{scrap.value:.1f}").normalize()
        rests["scrap"] = Rest("scrap", "learned", scrap.rests_on)
    costs = {name.strip().lower(): cents for name, cents in says.shop.rates.items()}
    for field, name in (("labour_cents", "labour"), ("machine_cents", machine.lower())):
        if not getattr(way, field) and costs.get(name):
            changed[field] = costs[name]
            rests[field] = Rest(field, "register", "Rates")
    return replace(way, **changed, rests=tuple(rests.values()))


def ways_now(says: WaySays) -> tuple[Way, ...]:
    """Return the ways of a plan as they count now.

    Args:
        says: the plan, and what the shop says.
    """
    return tuple(followed(way, says) for way in says.plan.ways)


def compared_lines(says: WaySays) -> tuple[tuple[str, float, float], ...]:
    """Return the ways that can be compared: name, getting ready, time of a good piece, [s, s]; nothing of one that is bought.

    Args:
        says: the plan, and what the shop says.
    """
    ways = [way for way in ways_now(says) if not way.is_bought and not way.lacks]
    lines = [(way.name, line_of(way, "time")) for way in ways]
    return tuple((name, float(line.fixed), float(line.each)) for name, line in lines)
