"""A whole plan drafted: setups of a chain, their machines, tools with times, and stations; each draft worked out once."""

from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass, field, replace
from typing import Any

from ditto_run.core.plan.at_work import times_wanted
from ditto_run.core.plan.document import Plan
from ditto_run.core.plan.held import as_it_comes
from ditto_run.core.plan.shop_known import ShopKnown
from ditto_run.core.plan.worked import Worked
from ditto_run.core.propose.judged import JudgedChain, judged
from ditto_run.core.propose.placing import put_stations, room_for
from ditto_run.core.propose.proposal import MeantTools, Proposal, ProposalName
from ditto_run.core.propose.setup_tools import Owned, SetupTools, tools_for
from ditto_run.core.propose.setups import HoldsThere, ProposedChain, propose_setups, what_stops
from ditto_run.core.propose.taking import take_setups, take_steps
from ditto_run.core.shop.shop_tools import ShopTool

OWN = -1  # the place of the setups that the plan has, among the chains
MOST_DRAFTS = 200  # that are kept of a job
WorkOut = Callable[[Plan], Worked]


@dataclass(frozen=True, slots=True)
class Picks:
    """What makes one whole plan of those that can be proposed.

    Args:
        chain: place of its chain; OWN for the setups that the plan has.
        mill, lathe: number of the machine of each kind; None where there is none.
        tools: the shortest ways that hold, or those that hold most.
        ways: feature and name of the way, where another one was picked.
        stations: of each setup, in the order of the chain; 1 where it says none.
    """

    chain: int = 0
    mill: int | None = None
    lathe: int | None = None
    tools: ProposalName = "quick"
    ways: tuple[tuple[int, str], ...] = ()
    stations: tuple[int, ...] = ()

    @property
    def of_draft(self) -> "Picks":
        """It without its stations, which change no time of a tool."""
        return replace(self, stations=())


@dataclass(frozen=True, slots=True)
class Drafted:
    """A plan with setups, tools and their times.

    Args:
        picks: what makes it, without stations.
        worked: it worked out.
        chain: its chain as the checks of Hold see it; None for setups that were there.
        tools: what is proposed for each of its setups; None where nothing is.
        bare: features that nothing describes.
        usual: True if usual tools stand in for a machine.
        untimed: new tool steps whose time does not come out.
    """

    picks: Picks
    worked: Worked
    chain: JudgedChain | None
    tools: tuple[Proposal | None, ...]
    bare: tuple[str, ...]
    usual: bool
    untimed: int

    @property
    def plan(self) -> Plan:
        """The plan."""
        return self.worked.plan

    @property
    def unmade(self) -> tuple[str, ...]:
        """Names of features which no way here makes within their limits."""
        names = [c.name for one in self.tools if one is not None for c in one.choices if not c.is_whole]
        return tuple(dict.fromkeys([*names, *self.bare]))

    @property
    def lacks(self) -> tuple[str, ...]:
        """What there is no tool for, a sentence each."""
        found = (words for one in self.tools if one is not None for c in one.choices for words in c.lacks)
        return tuple(dict.fromkeys(found))


@dataclass(frozen=True, slots=True)
class WholeGround:
    """What whole plans are drafted from.

    Args:
        plan: the job without a setup.
        own: the job as it is, where it has setups; else None.
        shop: what of the shop it is worked out with.
        owned: tools, and what batches showed.
        chains: that were proposed, the fewest setups first.
        mills, lathes: machines of each kind, those with a control first; one None where there is none.
        work_out: works a plan out.
        figured: what picks come to, as far as they were asked for.
    """

    plan: Plan
    own: Plan | None
    shop: ShopKnown
    owned: Owned
    chains: tuple[JudgedChain, ...]
    mills: tuple[int | None, ...]
    lathes: tuple[int | None, ...]
    work_out: WorkOut
    figured: dict[Picks, Any] = field(default_factory=dict, compare=False)
    _drafts: dict[Picks, Drafted] = field(default_factory=dict, compare=False)
    _rooms: dict[tuple[int | None, str], int] = field(default_factory=dict, compare=False)

    def draft(self, picks: Picks) -> Drafted:
        """Return a draft, worked out once."""
        key = picks.of_draft
        found = self._drafts.get(key)
        if found is None:
            found = self._drafts[key] = _draft(self, key)
            forget(self._drafts)
        return found

    def with_stations(self, picks: Picks, *, placed: bool) -> Plan:
        """Return a drafted plan with stations in each setup that has none; `placed` puts the holders on the table too."""
        plan = self.draft(picks).plan
        for place, setup in enumerate(plan.setups):
            if not plan.stations_of(setup.key):
                many = picks.stations[place] if place < len(picks.stations) else 1
                plan = put_stations(plan, self.shop, setup.key, many, placed=placed)
        return plan

    def room(self, drafted: Drafted, place: int) -> int:
        """Return how many stations a setup may have: holders that are alike, as far as the table takes them and codes last."""
        setup = drafted.plan.setups[place]
        if drafted.plan.stations_of(setup.key):
            return 1  # they are there already
        key = setup.machine_id, setup.holds
        if key not in self._rooms:
            self._rooms[key] = room_for(drafted.plan, self.shop, setup.key)
        return self._rooms[key]


def forget(kept: dict[Picks, Any]) -> None:
    """Forget what was worked out first, where more is kept than who looks at a job asks for.

    Args:
        kept: what was worked out, by its picks.
    """
    while len(kept) > MOST_DRAFTS:
        with suppress(KeyError, StopIteration, RuntimeError):  # another page may forget at the same time
            del kept[next(iter(kept))]


def bare_plan(plan: Plan) -> Plan:
    """Return a plan without its setups and all that hangs on them.

    Args:
        plan: the job.
    """
    of_setups = ("setup ", "tool ")
    return replace(
        plan,
        setups=(),
        stations=(),
        tool_steps=(),
        placed=(),
        layouts=(),
        cycles=(),
        visits=(),
        visit_rules=(),
        goings=(),
        programs=(),
        sheets=tuple(one for one in plan.sheets if not one.setup),
        figures=tuple(one for one in plan.figures if not one.thing.startswith(of_setups)),
    )


def machines_there(shop: ShopKnown) -> HoldsThere:
    """Return the machine of each kind that is proposed first, one with a control before one worked by hand, and the holders."""
    mills, lathes = (_machines(shop, turns=turns) for turns in (False, True))
    return HoldsThere(mills[0], lathes[0], tuple(shop.holders.values()))


def _machines(shop: ShopKnown, *, turns: bool) -> tuple[int | None, ...]:
    found = sorted((m.is_manual, m.id) for m in shop.machines.values() if m.turns is turns)
    return tuple(number for _, number in found) or (None,)


def chains_for(worked: Worked, work_out: WorkOut) -> tuple[JudgedChain, ...]:
    """Return the chains that are proposed for a job, held to every check of Hold as if they were taken.

    The fewest setups, then one that asks less, then one held by a hole, as far as these are others.

    Args:
        worked: the job worked out; setups that it has are not looked at.
        work_out: works a plan out.
    """
    bare = bare_plan(worked.plan)
    comes = as_it_comes(worked.plan, worked.result_of("blank"))
    chain = replace(worked.plan.chain, setups=(), as_it_comes=comes)
    tried = propose_setups(chain, worked.plan.described, machines_there(worked.shop))
    fewest = min((len(one.setups) for one in tried), default=0)
    found = [replace(judged(bare, one, work_out), is_fewest=len(one.setups) == fewest) for one in tried]
    if not found:
        return ()

    def few(one: JudgedChain) -> tuple[int, ...]:
        return len(one.stops), len(one.chain.setups), one.chain.on_pins, len(one.asks), found.index(one)

    def calm(one: JudgedChain) -> tuple[int, ...]:
        return len(one.stops), one.chain.on_pins, len(one.asks), len(one.chain.setups), found.index(one)

    first, other = min(found, key=few), min(found, key=calm)
    held = min((one for one in found if one.chain.on_pins and not one.stops), key=few, default=first)
    kept = [first]
    if (len(other.asks), len(other.stops)) < (len(first.asks), len(first.stops) + 1):
        kept.append(other)
    return tuple(dict.fromkeys([*kept, held]))


def none_for(worked: Worked) -> tuple[str, ...]:
    """Return what stops the chain that comes nearest, where none is proposed for a job, a sentence each.

    Args:
        worked: the job worked out.
    """
    comes = as_it_comes(worked.plan, worked.result_of("blank"))
    chain = replace(worked.plan.chain, setups=(), as_it_comes=comes)
    return what_stops(chain, worked.plan.described, machines_there(worked.shop))


def whole_ground(worked: Worked, owned: Owned, work_out: WorkOut) -> WholeGround:
    """Return what whole plans of a job are drafted from.

    Args:
        worked: the job worked out.
        owned: tools, and what batches showed.
        work_out: works a plan out.
    """
    shop, plan = worked.shop, worked.plan
    return WholeGround(
        bare_plan(plan),
        plan if plan.setups else None,
        shop,
        owned,
        chains_for(worked, work_out),
        _machines(shop, turns=False),
        _machines(shop, turns=True),
        work_out,
    )


def _draft(ground: WholeGround, picks: Picks) -> Drafted:
    if picks.chain == OWN and ground.own is not None:
        chain, plan = None, ground.own
    else:
        chain = ground.chains[picks.chain]
        meant = ProposedChain(
            tuple(replace(one, machine_id=_on(ground, one.machine_id, picks)) for one in chain.chain.setups),
            chain.chain.asks,
            chain.chain.left,
        )
        plan = take_setups(ground.plan, meant, chain.parallels_mm, chain.stop_at).plan
    return _with_tools(ground, plan, picks, chain)


def _with_tools(ground: WholeGround, plan: Plan, picks: Picks, chain: JudgedChain | None) -> Drafted:
    """A plan with setups, and the tools for what they cut, their times where those come out."""
    old = {step.key for step in plan.tool_steps}
    tools: list[Proposal | None] = []
    bare: list[str] = []
    usual = False
    numbered: dict[int | None, dict[ShopTool, int]] = {}
    for setup in plan.setups:
        known = numbered.setdefault(setup.machine_id, {})
        found = tools_for(plan, ground.shop, setup.key, ground.owned, 0, MeantTools(dict(picks.ways), known))
        mine = _named(found, picks.tools)
        tools.append(mine)
        bare += found.bare
        if mine is None or not mine.steps:
            continue
        usual = usual or found.usual
        known.update(_loose(mine))
        plan = take_steps(plan, setup.key, mine.steps).plan
    worked = ground.work_out(plan)
    untimed = {step.key for step in plan.tool_steps if step.key not in old}
    for setup in plan.setups:
        for key, name, seconds in times_wanted(worked, setup.key):
            step = plan.tool_step(key)
            plan = plan.put(replace(step, **{f"{name}_s": seconds}))  # type: ignore[arg-type] # cut or change
            untimed -= {key} if name == "cut" else set()
    return Drafted(
        picks, ground.work_out(plan), chain, tuple(tools), tuple(dict.fromkeys(bare)), usual, len(untimed)
    )


def _on(ground: WholeGround, machine: int | None, picks: Picks) -> int | None:
    """The machine that was picked in the place of the one of its kind that a chain was proposed for."""
    found = ground.shop.machines.get(machine or 0)
    if found is None:
        return machine
    return picks.lathe if found.turns else picks.mill


def _named(found: SetupTools, name: ProposalName) -> Proposal | None:
    """The proposal of a name; the only one where quick and thorough are the same."""
    return next((one for one in found.proposals if one.name == name), next(iter(found.proposals), None))


def _loose(proposal: Proposal) -> dict[ShopTool, int]:
    """The T numbers that tools without one of their own were given."""
    numbers = {step.called: step.tool for step in proposal.steps}
    tools = {tool for choice in proposal.choices for tool in choice.tools if tool is not None}
    return {tool: numbers[tool.name] for tool in tools if tool.number is None and tool.name in numbers}
