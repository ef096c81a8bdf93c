"""What things cost at the machine, in minutes, and where each figure comes from: said here, said on Shop, plan or practice."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from ditto_run.core.money import money_text
from ditto_run.core.plan import Plan
from ditto_run.core.shop.costs import NO_COSTS, ShopCosts

ESCAPE_TIMES, CONSEQUENCE_TIMES = (
    3.0,
    5.0,
)  # a bad piece that leaves costs so many scrapped ones; own judgement
LEAST_SCRAP_MIN = 2.0
TURN_MIN, GAUGE_MIN, MASTER_MIN, STOP_MIN = 2.0, 0.5, 2.0, 10.0  # common practice, no source
COSTS_OF_PRACTICE = {"turn": TURN_MIN, "gauge": GAUGE_MIN, "check_gauge": MASTER_MIN, "stop": STOP_MIN}
"""Minutes of what the shop may say, where it does not."""


@dataclass(frozen=True, slots=True)
class CostsHere:
    """Minutes lost by each thing."""

    scrap: float
    escape: float
    turn: float = TURN_MIN
    gauge: float = GAUGE_MIN
    check_gauge: float = MASTER_MIN
    stop: float = STOP_MIN


@dataclass(frozen=True, slots=True)
class PieceLost:
    """What goes with a piece that is scrapped at a setup.

    Args:
        minutes: in it by the plan, up to and with the setup. [min]
        cents: price of its material; 0 while no way says it. [cents]
        worth_min: as long as that price takes to earn, by the way's rates; 0 while none is known. [min]
    """

    minutes: float
    cents: int = 0
    worth_min: float = 0.0

    @property
    def total_min(self) -> float:
        """All of it, at least what clearing up takes. [min]."""
        return max(self.minutes + self.worth_min, LEAST_SCRAP_MIN)


def piece_lost(plan: Plan, setup: int) -> PieceLost:
    """Return what is lost with a piece at a setup.

    Args:
        plan: the run's.
        setup: up to and with it.

    Source:
        Minutes as planned; the price of its material by the way that was chosen, over what an hour of that way's hands and
        machine costs; own derivation.
    """
    seconds = 0.0
    chain = plan.chain_of(plan.part_of(setup))
    for key in chain[: chain.index(setup) + 1] if setup in chain else (setup,):
        cycle = next(iter(plan.cycles_of(key)), None)
        if cycle is not None:
            pieces = sum(station.pieces for station in cycle.stations) or 1
            seconds += plan.times(cycle.key).cycle_s / pieces
    way = plan.chosen_way
    if way is None or not way.material_cents:
        return PieceLost(seconds / 60)
    hour = way.labour_cents + way.machine_cents
    worth = way.material_cents / hour * 60 if hour else 0.0
    return PieceLost(seconds / 60, way.material_cents, worth)


def costs_of(
    plan: Plan, setup: int, said: Mapping[str, float] | None = None, shop: ShopCosts = NO_COSTS
) -> CostsHere:
    """Return what things cost at a setup, [min]: said here before said on Shop, before the plan's and practice's figures.

    Args:
        plan: the run's.
        setup: up to and with it.
        said: what somebody said of the cycle, by name; it goes before all.
        shop: what things cost in the shop.

    Source:
        `piece_lost`; a bad piece that leaves, a turn, a reading, a stop: common practice, no source.
    """
    said, of_shop = said or {}, shop.said
    times = of_shop.pop("times", ESCAPE_TIMES) * (CONSEQUENCE_TIMES if plan.heading.has_consequence else 1.0)
    scrap = said.get("scrap", piece_lost(plan, setup).total_min)
    return replace(CostsHere(scrap, scrap * times), **{**of_shop, **said})


def cost_origin(plan: Plan, setup: int, name: str, shop: ShopCosts, money: str) -> str:
    """Return where a cost comes from that nobody said at the machine, in a few words.

    Args:
        plan: the run's.
        setup: up to and with it.
        name: of the cost.
        shop: what things cost in the shop.
        money: mark before a sum.
    """
    if name == "scrap":
        lost = piece_lost(plan, setup)
        if not lost.cents:
            return "the minutes in it by the plan; no way says what its material costs"
        price = money_text(lost.cents, money)
        if not lost.worth_min:
            return f"the minutes in it by the plan; its {price} of material not: no rate of an hour is known"
        return f"{lost.minutes:.3g} min in it by the plan, and {price} of material, {lost.worth_min:.3g} min to earn"
    if name == "escape":
        times = shop.times or ESCAPE_TIMES
        of = "the shop's" if shop.times else "practice's"
        more = (
            f", {CONSEQUENCE_TIMES:g} times that for its consequence" if plan.heading.has_consequence else ""
        )
        return f"{of} {times:g} scrapped pieces{more}"
    return "the shop's" if name in shop.said else "practice"
