"""Whole plans searched: every chain, machine, set of ways and number of stations; the soonest first piece and the least in all."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from math import inf
from typing import get_args

from ditto_run.core.findings import Finding
from ditto_run.core.method.guess import read_guess, summed
from ditto_run.core.method.totals import CostLine, Measure, line_of
from ditto_run.core.method.way import SETTING_UP, Ready, Rest, Way
from ditto_run.core.part.gauging_sheet import every_loads
from ditto_run.core.plan.document import Plan
from ditto_run.core.plan.open import open_things
from ditto_run.core.plan.ways import WaySays, planned_way
from ditto_run.core.propose.drafts import OWN, Drafted, Picks, WholeGround, forget
from ditto_run.core.propose.proposal import ProposalName, changes_of, to_buy
from ditto_run.core.propose.setups import TO_MAKE
from ditto_run.core.shop.shop_tools import ShopTool
from ditto_run.core.shop.taught import taught_for
from ditto_run.core.units import to_base

CHANGE_BY_HAND = "20/40/90 s"  # a change of tool by hand; common practice, no source
CHANGE_BY_CONTROL = "6/10/20 s"  # one that the machine makes; common practice, no source
FIXTURE = "2/3/5 h"  # making a fixture plate for a small part; common practice, no source
MANY = 2  # steps from which tools are changed
SHOPS_OWN = frozenset({"learned", "register"})  # what a figure of a way may rest on, to be this shop's own


@dataclass(frozen=True, slots=True)
class GaugedEvery:
    """Every how many loads the proposal gauges, and the size and batches that say so; empty while nothing does."""

    loads: int
    size: str = ""
    rests_on: str = ""


@dataclass(frozen=True, slots=True)
class WholePlan:
    """One whole plan that can be proposed, with what it comes to.

    Args:
        picks: what makes it.
        drafted: its setups, tools and times.
        way: it as Method compares it; None while a setup has no time.
        time, cost: what it takes in time [s] and money [cents]; None without a way, or without a rate.
        first_s: until the first piece of the first setup can be gauged, getting ready included; None without a way. [s]
        changes: tools that are put in for one load of each setup. [1]
        load: pieces of its largest load.
        gauged: how often.
        at_risk: pieces that are made before a fault is seen.
        own: figures of the way that are this shop's own, and of how many.
    """

    picks: Picks
    drafted: Drafted
    way: Way | None
    time: CostLine | None
    cost: CostLine | None
    first_s: float | None
    changes: int
    load: int
    gauged: GaugedEvery
    at_risk: int
    own: tuple[int, int]

    def total(self, quantity: int, measure: Measure) -> float:
        """Return what it takes for so many good pieces, [s] or [cents]; infinite while that is not known."""
        line = self.cost if measure == "cost" else self.time
        return inf if line is None else float(line.at(quantity))

    @property
    def rank(self) -> tuple[int, int, int, int]:
        """What goes before minutes and money: features nothing makes, what Hold would stop, setups, those held by a hole."""
        chain = self.drafted.chain
        return (
            len(self.drafted.unmade),
            len(chain.stops) if chain is not None else 0,
            len(self.drafted.plan.setups),
            chain.chain.on_pins if chain is not None else 0,
        )

    @property
    def makes(self) -> tuple[object, ...]:
        """What it is, so that two that come to the same are known as one."""
        plan = self.drafted.plan
        steps = tuple((one.tool, one.does, one.across_mm) for one in plan.tool_steps)
        setups = tuple((one.machine_id, one.held.up, one.cuts, one.holds) for one in plan.setups)
        return setups, steps, self.picks.stations


def figured(ground: WholeGround, picks: Picks) -> WholePlan:
    """Return a whole plan with what it comes to.

    Args:
        ground: what it is drafted from.
        picks: what makes it.

    Source:
        Times and money as Method has them of a plan; own derivation of the others: first piece = getting ready but for
        later setups + a load of the first; at risk = loads between two gaugings × pieces of a load, and the load that a
        control cuts meanwhile.
    """
    drafted = ground.draft(picks)
    many = len(drafted.plan.setups)
    picks = replace(picks, stations=(*picks.stations, *[1] * many)[:many])
    known = ground.figured.get(picks)
    if known is None:
        known = ground.figured[picks] = _figured(ground, picks, drafted)
        forget(ground.figured)
    found: WholePlan = known
    return found


def _figured(ground: WholeGround, picks: Picks, drafted: Drafted) -> WholePlan:
    plan = ground.with_stations(picks, placed=False)
    way = _way(ground, plan, drafted)
    loads = [sum(one.pieces for one in plan.stations_of(setup.key)) or 1 for setup in plan.setups]
    gauged = gauged_every(plan, ground)
    machines = [ground.shop.machines.get(setup.machine_id or 0) for setup in plan.setups]
    at_risk = max(
        (
            gauged.loads * load + (load if machine is not None and not machine.is_manual else 0)
            for load, machine in zip(loads, machines, strict=True)
        ),
        default=0,
    )
    own = [rest for rest in way.rests if rest.origin in SHOPS_OWN] if way is not None else []
    return WholePlan(
        picks,
        drafted,
        way,
        line_of(way, "time") if way is not None else None,
        line_of(way, "cost") if way is not None and way.has_money else None,
        _first(plan, way) if way is not None else None,
        sum(changes_of([step.tool for step in plan.tools_of(setup.key)]) for setup in plan.setups),
        max(loads, default=1),
        gauged,
        min(at_risk, max(plan.heading.quantity, 1)),
        (len(own), len(way.rests) if way is not None else 0),
    )


def _way(ground: WholeGround, plan: Plan, drafted: Drafted) -> Way | None:
    """The plan as a way of Method: with what changing tools usually takes where nobody said it, and each machine's rate by its share."""
    way = planned_way(WaySays(plan, ground.shop, drafted.worked.result_of("mass")), 1)
    if way is None:
        return None
    for setup in plan.setups:
        machine = ground.shop.machines.get(setup.machine_id or 0)
        steps = plan.tools_of(setup.key)
        if len(steps) < MANY or any(step.change_s for step in steps):
            continue
        text = CHANGE_BY_HAND if machine is None or machine.is_manual else CHANGE_BY_CONTROL
        load = sum(one.pieces for one in plan.stations_of(setup.key)) or 1
        share = way.pieces_per_load / load  # a way has one load, a plan one for each setup
        usual = read_guess(text, "per_load")
        changes = changes_of([step.tool for step in plan.tools_of(setup.key)])
        way = replace(way, per_load=summed(way.per_load, usual, changes * share))
        rests = [rest for rest in way.rests if rest.field != "per_load"]
        way = replace(way, rests=(*rests, Rest("per_load", "practice")))
    if any(setup.holds == TO_MAKE for setup in plan.setups):
        way = replace(
            way, ready=(*way.ready, Ready("fixture", read_guess(FIXTURE, "ready"), 0, lasting=True))
        )
    return replace(way, machine_cents=_rate(ground, plan))


def _rate(ground: WholeGround, plan: Plan) -> int:
    """What an hour of the machines costs, each by its share of the time, [cents/h]."""
    rates = _rates(ground)
    spent = [(plan.times(setup.key).per_piece_s, setup.machine_id or 0) for setup in plan.setups]
    whole = sum(seconds for seconds, _ in spent)
    if not whole:
        return 0
    machines = ground.shop.machines
    return round(
        sum(
            seconds / whole * rates.get(machines[number].name.lower(), 0)
            for seconds, number in spent
            if number in machines
        )
    )


def _rates(ground: WholeGround) -> dict[str, int]:
    """What an hour costs, by name in small letters, [cents/h]."""
    return {name.strip().lower(): cents for name, cents in ground.shop.rates.items()}


def without_rate(
    ground: WholeGround, found: Iterable["WholePlan"], *, of_all: bool = False
) -> tuple[str, ...]:
    """Return the names of the machines that plans go over and no rate is known of; none where no machine of them has a rate.

    Args:
        ground: what they are drafted from.
        found: the plans.
        of_all: True to name them too where none has a rate.
    """
    machines = ground.shop.machines
    used = {setup.machine_id for one in found for setup in one.drafted.plan.setups}
    names = [machines[number].name for number in sorted(filter(None, used)) if number in machines]
    rates = _rates(ground)
    bare = tuple(name for name in names if not rates.get(name.lower()))
    return () if len(bare) == len(names) and not of_all else bare


def _first(plan: Plan, way: Way) -> float:
    """Until the first piece of the first setup can be gauged, [s]."""
    later = {f"{SETTING_UP} {number}" for number in range(2, len(plan.setups) + 1)}
    ready = sum(line.time.likely_s for line in way.ready if line.what not in later)
    return ready + (plan.times(plan.setups[0].key).cycle_s if plan.setups else 0.0)


def gauged_every(plan: Plan, ground: WholeGround) -> GaugedEvery:
    """Return every how many loads pieces are gauged: each where consequence wants it or nothing is known of drift.

    Args:
        plan: with setups.
        ground: what batches taught.

    Source:
        `every_loads`, for the size that asks for it soonest.
    """
    heading = plan.heading
    if heading.has_consequence:
        return GaugedEvery(1)
    found: list[GaugedEvery] = []
    for size in plan.characteristics:
        maker = plan.making_setup(size)
        setup = next((one for one in plan.setups if one.key == maker), None)
        machine = ground.shop.machines.get(setup.machine_id or 0) if setup is not None else None
        limits = size.size.lower, size.size.upper
        if machine is None or limits[0] is None or limits[1] is None or limits[0] >= limits[1]:
            continue
        if not size.is_measured_length or size.grade == "free":
            continue
        row = taught_for(ground.shop.taught, "drift", "", machine.name, heading.material)
        if row is None:
            return GaugedEvery(max(heading.gauge_every, 1))
        width = to_base(limits[1], size.size.unit) - to_base(limits[0], size.size.unit)
        loads = every_loads(width, Decimal(f"{row.value:.5f}"), 1).loads
        if loads is not None:
            found.append(GaugedEvery(loads, size.name, row.rests_on))
    return min(found, key=lambda one: one.loads, default=GaugedEvery(max(heading.gauge_every, 1)))


# the search


def searched(ground: WholeGround, measure: Measure) -> tuple[WholePlan, ...]:
    """Return every whole plan that can be drafted, each with one station a setup and with the stations that take least.

    Args:
        ground: what they are drafted from.
        measure: time or cost; days count as time.

    Source:
        Tried one by one. Stations of one setup change nothing in another, so each setup's are found alone; a test holds
        it against every combination.
    """
    found: list[WholePlan] = []
    seen: set[tuple[object, ...]] = set()
    for picks in _picks(ground):
        for counts in ((), _best_stations(ground, picks, measure)):
            one = figured(ground, replace(picks, stations=counts))
            if one.makes not in seen:
                seen.add(one.makes)
                found.append(one)
    return tuple(found)


def _picks(ground: WholeGround) -> Iterator[Picks]:
    """Every combination of chain, machines and tools; machines only of the kinds that a chain goes over."""
    for place, chain in enumerate(ground.chains):
        kinds = {
            machine.turns
            for one in chain.chain.setups
            if (machine := ground.shop.machines.get(one.machine_id or 0)) is not None
        }
        mills = ground.mills if False in kinds else ground.mills[:1]
        lathes = ground.lathes if True in kinds else ground.lathes[:1]
        for mill in mills:
            for lathe in lathes:
                for tools in get_args(ProposalName):
                    yield Picks(place, mill, lathe, tools)


def _best_stations(ground: WholeGround, picks: Picks, measure: Measure) -> tuple[int, ...]:
    """The stations of each setup with which the batch takes least; fewer where it is as good."""
    drafted = ground.draft(picks)
    quantity = max(drafted.plan.heading.quantity, 1)
    counts = [1] * len(drafted.plan.setups)
    for place in range(len(counts)):
        most = min(ground.room(drafted, place), quantity)
        if most == 1:
            continue
        tried = []
        for many in range(1, most + 1):
            counts[place] = many
            plan = figured(ground, replace(picks, stations=tuple(counts)))
            tried.append((plan.total(quantity, measure), many))
        counts[place] = min(tried)[1]
    return tuple(counts)


def two_of(found: Sequence[WholePlan], quantity: int, measure: Measure) -> tuple[WholePlan, ...]:
    """Return the two that are shown: the one with the soonest first piece, and the one that takes least; one where there is but one.

    Those that make most come first, then those with fewest setups. Where one of them is both, the next best beside it.

    Args:
        found: by the search.
        quantity: good pieces. [pieces]
        measure: time or cost.
    """
    if not found:
        return ()

    def least(one: WholePlan) -> tuple[object, ...]:
        return (*one.rank, one.total(quantity, measure), _known(one.first_s), _order(one.picks))

    def soonest(one: WholePlan) -> tuple[object, ...]:
        return (*one.rank, _known(one.first_s), one.total(quantity, measure), _order(one.picks))

    best, quick = min(found, key=least), min(found, key=soonest)
    if quick.makes == best.makes:
        others = [one for one in found if one.makes != best.makes]
        if not others:
            return (best,)
        other = min(others, key=least)
        pair = (best, other)
        return pair if _known(best.first_s) <= _known(other.first_s) else (other, best)
    return quick, best


def _known(seconds: float | None) -> float:
    return inf if seconds is None else seconds


def _order(picks: Picks) -> tuple[int, int, int, int, tuple[int, ...]]:
    """Where two are as good, the one that comes first in the registers."""
    return (
        picks.chain,
        picks.mill or 0,
        picks.lathe or 0,
        get_args(ProposalName).index(picks.tools),
        picks.stations,
    )


def with_bought(ground: WholeGround, one: WholePlan) -> tuple[tuple[ShopTool, ...], WholeGround] | None:
    """Return the tools a whole plan lacks, and what it can be drafted from once they are there; None where it lacks none.

    Args:
        ground: what it was drafted from.
        one: the plan.
    """
    choices = [choice for tools in one.drafted.tools if tools is not None for choice in tools.choices]
    lacking = to_buy(choices, one.drafted.plan.heading.unit)
    if not lacking:
        return None
    return lacking, replace(
        ground, owned=replace(ground.owned, bought=lacking), _drafts={}, _rooms={}, figured={}
    )


def left_open(ground: WholeGround, one: WholePlan) -> tuple[Finding, ...]:
    """Return what Hold, Place and Tools would still stop or ask once a whole plan is taken, what stops first.

    Args:
        ground: what it was drafted from.
        one: the plan.
    """
    start = ground.own if one.picks.chain == OWN and ground.own is not None else ground.plan
    was = {thing.finding.key for thing in open_things(ground.work_out(start))}
    after = ground.work_out(ground.with_stations(one.picks, placed=True))
    found = {
        thing.finding.problem: thing.finding
        for thing in open_things(after)
        if thing.finding.step in {"hold", "place", "tools"}
        and thing.finding.weight in {"stop", "ask"}
        and thing.finding.key not in was
    }
    return tuple(sorted(found.values(), key=lambda one: one.weight != "stop"))
