"""A proposal for the tools of a setup: for each feature a way that holds, tools the shop has, and steps in order."""

import re
from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.part.features import Named
from ditto_run.core.propose.shown import ShownGrade, as_shown
from ditto_run.core.propose.ways import (
    HAND_KINDS,
    MILL_KINDS,
    ORDER,
    TURNED_ORDER,
    Does,
    How,
    Wanted,
    WayToMake,
    Work,
    held_by,
    held_in_place,
    place_of,
    wanted_of,
    ways_of,
)
from ditto_run.core.shop.shop_tools import ShopTool
from ditto_run.core.threads import read_thread
from ditto_run.core.units import LengthUnit, convert

ProposalName = Literal["quick", "thorough"]
SAME_MM = Decimal("0.005")  # two diameters are one
FINE = frozenset({"finish", "ream", "bore", "tap", "thread"})  # not with a tool that is worn
WORN = frozenset({"worn", "ground down"})
NO_NOUNS = frozenset(
    {"turning", "grooving", "parting", "threading"}
)  # kinds that are said with tool behind them
WIDEST_MM = Decimal(25)  # end mill that is usual on a small part; own judgement
LONGEST_DOES = 60
FIRST_FREE = 1


@dataclass(frozen=True, slots=True)
class FeatureChoice:
    """How a feature would be made.

    Args:
        key, name: of the feature.
        way: chosen; None where it is left to the hand or another machine.
        tools: for each work of it the tool; None where none fits.
        wanted: its tightest size; None without one.
        lacks: what there is no tool for, a sentence each.
        turned_down: other ways and why not, a sentence each.
        held: False where no way here holds its tightest size.
        within_mm: how near its place it has to be, ±; None without limits. [mm]
        could: names of the other ways that hold it and have their tools.
    """

    key: int
    name: str
    way: WayToMake | None
    tools: tuple[ShopTool | None, ...] = ()
    wanted: Wanted | None = None
    lacks: tuple[str, ...] = ()
    turned_down: tuple[str, ...] = ()
    held: bool = True
    could: tuple[str, ...] = ()
    within_mm: Decimal | None = None

    @property
    def is_whole(self) -> bool:
        """True if a way that holds has all its tools."""
        return self.way is not None and self.held and not self.lacks


@dataclass(frozen=True, slots=True)
class ProposedStep:
    """A tool step: T number, what it does, the features it makes, its diameter [mm], what the tool is called."""

    tool: int
    does: str
    makes: tuple[int, ...]
    across_mm: Decimal | None
    called: str


@dataclass(frozen=True, slots=True)
class Proposal:
    """Tool steps for a setup.

    Args:
        name: quick takes the shortest way that holds, thorough the one that holds most.
        steps: in order.
        choices: a feature each.
    """

    name: ProposalName
    steps: tuple[ProposedStep, ...]
    choices: tuple[FeatureChoice, ...]

    @property
    def changes(self) -> int:
        """How often a tool is put in for one piece."""
        return changes_of([step.tool for step in self.steps])

    @property
    def whole(self) -> int:
        """How many features are made by a way that holds, with tools there are."""
        return sum(choice.is_whole for choice in self.choices)

    @property
    def left(self) -> int:
        """How many features are left to the hand or another machine."""
        return sum(choice.way is None for choice in self.choices)


def changes_of(tools: Sequence[int]) -> int:
    """Return how often a tool is put in, one step after the other.

    Args:
        tools: T number of each step.

    Example:
        >>> changes_of([1, 1, 2, 1])
        3
    """
    return sum(a != b for a, b in zip([None, *tools], tools, strict=False))


@dataclass(frozen=True, slots=True)
class ToolsThere:
    """What there is to work with.

    Args:
        tools: of the register, those in the machine or in none.
        drills, reamers: loose ones, name and diameter. [mm]
        taps: threads of loose taps.
        by_hand: True on a machine without a control.
        unit: of the job, in which sizes are said.
    """

    tools: tuple[ShopTool, ...] = ()
    drills: tuple[tuple[str, Decimal], ...] = ()
    reamers: tuple[tuple[str, Decimal], ...] = ()
    taps: tuple[str, ...] = ()
    by_hand: bool = False
    unit: LengthUnit = "mm"
    _of_kind: dict[str, tuple[ShopTool, ...]] = field(default_factory=dict, compare=False)

    def of(self, kind: str) -> tuple[ShopTool, ...]:
        """Return every tool of a kind: those of the register, then loose ones, which have no number."""
        if kind not in self._of_kind:
            loose = {"drill": self.drills, "reamer": self.reamers}.get(kind, ())
            found = [tool for tool in self.tools if tool.kind == kind]
            found += [ShopTool(name, None, "", kind, across) for name, across in loose]
            if kind == "tap":
                found += [ShopTool(name, None, "", kind) for name in self.taps]
            self._of_kind[kind] = tuple(found)
        return self._of_kind[kind]

    @property
    def all_drills(self) -> tuple[tuple[str, Decimal], ...]:
        """Name and diameter of every drill, [mm]."""
        return tuple((one.name, one.across_mm) for one in self.of("drill") if one.across_mm is not None)

    @property
    def all_reamers(self) -> tuple[tuple[str, Decimal], ...]:
        """Name and what it cuts of every reamer, [mm]."""
        return tuple((one.name, one.across_mm) for one in self.of("reamer") if one.across_mm is not None)


@dataclass(frozen=True, slots=True)
class MeantTools:
    """What was picked before the tools of a setup are proposed.

    Args:
        ways: name of the way, by key of its feature; it counts where it holds and has its tools.
        numbered: T numbers that loose tools have on this machine already.
    """

    ways: Mapping[int, str] = field(default_factory=dict)
    numbered: Mapping[ShopTool, int] = field(default_factory=dict)


NOTHING_MEANT = MeantTools()


def propose_tools(
    features: Sequence[Named],
    there: ToolsThere,
    *,
    turned: bool,
    taken: Collection[int] = (),
    shown: Mapping[tuple[str, How], ShownGrade] | None = None,
    meant: MeantTools = NOTHING_MEANT,
) -> tuple[Proposal, ...]:
    """Return the proposals for the tools of a setup, the quick one first; one alone where both are the same.

    Args:
        features: that the setup cuts and no tool step makes yet.
        there: tools there are.
        turned: True on a lathe.
        taken: T numbers that are in use.
        shown: what the shop's own batches showed on the machine.
        meant: ways that were picked, and numbers that tools have already.

    Source:
        Ways and grades: common practice, no source; the order is that of the rules of Tools.
    """
    found: list[Proposal] = []
    names: tuple[ProposalName, ...] = ("quick", "thorough")
    for name in names:
        choices = _choices(features, there, name, shown or {}, meant.ways, turned=turned)
        steps = _steps(choices, there, taken, TURNED_ORDER if turned else ORDER, meant.numbered)
        proposal = Proposal(name, steps, choices)
        if not found or (proposal.steps, proposal.choices) != (found[0].steps, found[0].choices):
            found.append(proposal)
    return tuple(found)


def _choices(
    features: Sequence[Named],
    there: ToolsThere,
    name: ProposalName,
    shown: Mapping[tuple[str, How], ShownGrade],
    picked: Mapping[int, str],
    *,
    turned: bool,
) -> tuple[FeatureChoice, ...]:
    every = [
        tuple(
            as_shown(way, feature.feature.kind, shown)
            for way in ways_of(
                feature,
                turned=turned,
                drills=there.all_drills,
                reamers=there.all_reamers,
                by_hand=there.by_hand,
            )
        )
        for feature in features
    ]
    hand = _Hand(there, _serving(every, there))
    found = []
    for feature, ways in zip(features, every, strict=True):
        if not ways:
            found.append(_left(feature, turned=turned, by_hand=there.by_hand))
            continue
        choice = _choice(feature, ways, hand, name, picked.get(feature.key, ""))
        hand.used += [tool for tool in choice.tools if tool is not None and tool not in hand.used]
        found.append(choice)
    return tuple(found)


@dataclass(slots=True)
class _Hand:
    """What tools are chosen from: those there are, how many features each serves, and those in use already."""

    there: ToolsThere
    serves: Mapping[ShopTool, int]
    used: list[ShopTool] = field(default_factory=list)


def _serving(every: Sequence[Sequence[WayToMake]], there: ToolsThere) -> Mapping[ShopTool, int]:
    """How many features a tool does something for."""
    fitting: dict[Work, tuple[ShopTool, ...]] = {}
    found: Counter[ShopTool] = Counter()
    for ways in every:
        works = {work for way in ways for work in way.works}
        for work in works - fitting.keys():
            fitting[work] = tuple(tool for kind in work.kinds for tool in there.of(kind) if _fits(tool, work))
        found.update({tool for work in works for tool in fitting[work]})
    return found


def _left(feature: Named, *, turned: bool, by_hand: bool) -> FeatureChoice:
    """A feature that no way of this machine makes."""
    other = "Not on a lathe: on a mill, or by hand." if turned else "Not on a mill: on a lathe, or by hand."
    if by_hand and not turned and feature.feature.kind == "pocket":
        other = "Round: on a mill with a control, or on a rotary table."
    hand = feature.feature.kind in {*HAND_KINDS, "outside thread"}
    return FeatureChoice(
        feature.key,
        feature.name,
        None,
        wanted=wanted_of(feature),
        lacks=("By hand." if hand else other,),
    )


def _choice(
    feature: Named,
    ways: Sequence[WayToMake],
    hand: _Hand,
    name: ProposalName,
    meant: str,
) -> FeatureChoice:
    wanted, within = wanted_of(feature), place_of(feature)
    tried = [(way, *_picked(way, hand)) for way in ways]
    holding = [one for one in tried if held_by(one[0], wanted) and held_in_place(one[0], within)]
    whole = [one for one in holding if not one[2]]
    some = whole or holding or tried[-1:]
    usual = some[0] if name == "quick" else some[-1]
    way, tools, lacks = next((one for one in whole if one[0].name == meant), usual)
    words = _Said(wanted, within, hand.there.unit)
    down = tuple(words.down(other, missing) for other, _, missing in tried if other is not way)
    return FeatureChoice(
        feature.key,
        feature.name,
        way,
        tools,
        wanted,
        tuple(lacks),
        tuple(filter(None, down)),
        held=held_by(way, wanted) and held_in_place(way, within),
        within_mm=within,
        could=tuple(one[0].name for one in whole if one[0] is not way),
    )


@dataclass(frozen=True, slots=True)
class _Said:
    """Why ways of a feature are turned down, in words."""

    wanted: Wanted | None
    within_mm: Decimal | None
    unit: LengthUnit

    def down(self, way: WayToMake, lacks: Sequence[str]) -> str:
        """Why a way was not taken."""
        wanted = self.wanted
        if wanted is not None and way.grade is None and not held_by(way, wanted):
            return f"{way.name}: nothing says that it holds the {wanted.role}."
        if wanted is not None and not held_by(way, wanted):
            return f"{way.name}: holds IT{way.grade}, the {wanted.role} wants IT{wanted.grade}."
        if way.place_mm is not None and self.within_mm is not None and not held_in_place(way, self.within_mm):
            left, asked = (size_said(one, self.unit) for one in (way.place_mm, self.within_mm))
            return f"{way.name}: leaves it within {left} of its place, {asked} is wanted."
        return f"{way.name}: {lacks[0][:1].lower()}{lacks[0][1:]}" if lacks else f"{way.name} would do too."


def _picked(way: WayToMake, hand: _Hand) -> tuple[tuple[ShopTool | None, ...], list[str]]:
    """The tool of each work of a way, and what there is none for."""
    tools: list[ShopTool | None] = []
    lacks = []
    for work in way.works:
        rougher = (
            tools[0] if way.apart and len(tools) == 1 else None
        )  # what finishes is another than what roughed
        barred = [rougher] if rougher is not None else []
        tool = _pick(work, hand, tools, barred)
        tools.append(tool)
        if tool is None:
            lacks.append(_lacking(work, hand.there, other=bool(barred)))
    return tuple(tools), lacks


def _pick(
    work: Work, hand: _Hand, beside: Sequence[ShopTool | None], barred: Collection[ShopTool]
) -> ShopTool | None:
    """The tool for a work: one in use already, then the usual kind, one with a number, what serves most features, the widest."""
    fits = [
        (
            tool in hand.used or tool in beside,
            -work.kinds.index(kind),
            tool.number is not None,
            hand.serves.get(tool, 0),
            _wide(tool, kind),
            -(tool.number or 0),
            tool.name,
            tool,
        )
        for kind in work.kinds
        for tool in hand.there.of(kind)
        if tool not in barred and _fits(tool, work)
    ]
    best = max(fits, key=lambda one: one[:7], default=None)
    return best[7] if best is not None else None


def _wide(tool: ShopTool, kind: str) -> Decimal:
    """The wider the better; an end mill beyond what is usual is the last."""
    across = tool.across_mm or Decimal(0)
    return -across if kind in MILL_KINDS and across > WIDEST_MM else across


def _fits(tool: ShopTool, work: Work) -> bool:
    if tool.condition in WORN and work.does in FINE:
        return False
    if work.thread:
        return _cuts_thread(tool, work.thread)
    bound = work.least_mm is not None or work.most_mm is not None
    if bound and tool.across_mm is None:
        return False
    across = tool.across_mm or Decimal(0)
    if work.least_mm is not None and across < work.least_mm - SAME_MM:
        return False
    if work.most_mm is not None and across > work.most_mm + SAME_MM:
        return False
    reach = tool.flute_mm if work.does in {"rough", "finish"} and tool.flute_mm else tool.out_mm
    return work.deep_mm is None or reach is None or reach >= work.deep_mm


def _cuts_thread(tool: ShopTool, thread: str) -> bool:
    """True if a tap's name holds that thread: the same diameter and the same pitch."""
    wanted = read_thread(thread)
    for word in re.sub(r"\s*[x×]\s*", "×", tool.name).split():
        try:
            found = read_thread(word)
        except BadEntry:
            continue
        if (found.unit, found.major, found.pitch) == (wanted.unit, wanted.major, wanted.pitch):
            return True
    return False


def _lacking(work: Work, there: ToolsThere, *, other: bool) -> str:
    """What there is no tool for, and the nearest there is."""
    kind = work.kinds[0]
    mine = [tool for one in work.kinds for tool in there.of(one)]
    wanted = work.thread
    if work.exact_mm is not None:
        wanted = size_said(work.exact_mm, there.unit)
    elif work.most_mm is not None and not wanted:
        wanted = f"up to {size_said(work.most_mm, there.unit)}"
    called = f"{kind} tool" if kind in NO_NOUNS else kind
    said = f"No {'other ' if other else ''}{called}{' ' + wanted if wanted else ''} to {work.does} with"
    sized = [tool for tool in mine if tool.across_mm is not None]
    target = work.exact_mm or work.most_mm
    if sized and target is not None:
        near = min(
            sized, key=lambda tool: (abs((tool.across_mm or target) - target), tool.number or 0, tool.name)
        )
        size = size_said(near.across_mm or target, there.unit)
        return f"{said}; the nearest is {near.name}{'' if size in near.name else f', {size}'}."
    return f"{said}." if mine else f"{said}: none is on Shop."


def to_buy(choices: Sequence[FeatureChoice], unit: LengthUnit) -> tuple[ShopTool, ...]:
    """Return the tools that features lack, each as it would have to be bought.

    Args:
        choices: how features would be made.
        unit: of the job.
    """
    found: dict[str, ShopTool] = {}
    for choice in choices:
        if choice.way is None or not choice.held:
            continue
        rougher = choice.tools[0] if choice.way.apart else None
        for work, tool in zip(choice.way.works, choice.tools, strict=True):
            if tool is None:
                new = _bought(work, rougher, unit)
                found.setdefault(new.name, new)
    return tuple(found.values())


def _bought(work: Work, rougher: ShopTool | None, unit: LengthUnit) -> ShopTool:
    """A tool that does a work, as it would be bought; another one than what roughs."""
    kind = work.kinds[0]
    if work.thread:
        return ShopTool(f"{work.thread} {kind}", None, "", kind)
    across = work.most_mm if work.most_mm is not None else work.least_mm
    called = f"{kind} tool" if kind in NO_NOUNS else kind
    name = called if across is None else f"{called} {size_said(across, unit)}"
    again = rougher is not None and (rougher.kind, rougher.across_mm) == (kind, across)
    return ShopTool(f"{name}, a second one" if again else name, None, "", kind, across)


def size_said(value_mm: Decimal, unit: LengthUnit) -> str:
    """Return a size in the job's unit, no more decimals than it has.

    Args:
        value_mm: the size. [mm]
        unit: of the job.

    Example:
        >>> size_said(Decimal("12.7"), "in"), size_said(Decimal("2.0"), "mm")
        ('0.5 in', '2 mm')
    """
    decimals = Decimal("0.0001") if unit == "in" else Decimal("0.001")
    return f"{convert(value_mm, 'mm', unit).quantize(decimals).normalize():f} {unit}"


def _steps(
    choices: Sequence[FeatureChoice],
    there: ToolsThere,
    taken: Collection[int],
    order: Sequence[Does],
    numbered: Mapping[ShopTool, int],
) -> tuple[ProposedStep, ...]:
    """Tool steps in the order of the work; what one tool does at once is one step."""
    names = {choice.key: choice.name for choice in choices}
    makes: dict[tuple[int, ShopTool], list[int]] = {}
    for choice in choices:
        if choice.way is None or not choice.is_whole:
            continue
        for work, tool in zip(choice.way.works, choice.tools, strict=True):
            if tool is not None:
                makes.setdefault((order.index(work.does), tool), []).append(choice.key)
    numbers = _numbers([tool for _, tool in makes], there, taken, numbered)
    ordered = sorted(makes.items(), key=lambda one: (one[0][0], numbers[one[0][1]], one[1][0]))
    return tuple(
        ProposedStep(
            numbers[tool],
            _does(order[at], [names[key] for key in keys]),
            tuple(keys),
            tool.across_mm,
            tool.name,
        )
        for (at, tool), keys in ordered
    )


def _does(does: Does, names: Sequence[str]) -> str:
    """What a step does, in words: a chamfer called chamfer is said once."""
    said = [name for name in names if name.lower() != does]
    return f"{does} {', '.join(said)}".strip()[:LONGEST_DOES]


def _numbers(
    tools: Sequence[ShopTool], there: ToolsThere, taken: Collection[int], numbered: Mapping[ShopTool, int]
) -> dict[ShopTool, int]:
    """The T number of each tool: its own, that which it was given before, else the next one that no tool has."""
    own = {tool.number for tool in there.tools if tool.number is not None} | set(taken)
    found: dict[ShopTool, int] = {}
    free = FIRST_FREE
    for tool in tools:
        if tool in found:
            continue
        known = tool.number if tool.number is not None else numbered.get(tool)
        if known is not None:
            found[tool] = known
            continue
        while free in own:
            free += 1
        found[tool] = free
        own.add(free)
    return found
