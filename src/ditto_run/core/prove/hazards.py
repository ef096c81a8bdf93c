"""What can hurt somebody in a setup, where it is said, and when: one table, and nothing is said where it does not hold.

Common practice, no source; the machine's own manual, local rules and licensed people go before it.
"""

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Literal

from ditto_run.core.hold import Setup
from ditto_run.core.plan.document import Plan
from ditto_run.core.shop import Machine
from ditto_run.core.shop.groups import group_of
from ditto_run.core.tools.order_rules import kinds_of

Where = Literal["setup sheet", "prove", "run"]
EVERYWHERE: frozenset[Where] = frozenset({"setup sheet", "prove", "run"})
ON_PAPER_AND_RUN: frozenset[Where] = frozenset({"setup sheet", "run"})
PART_OFF = re.compile(r"\b(?:part(?:s|ed|ing)?[ -]?off|cut(?:s|ting)?[ -]?off)\b", re.IGNORECASE)
SLIT = re.compile(r"\b(?:slit(?:s|ting)?|saw(?:s|n|ing)?)\b", re.IGNORECASE)
HEAT = re.compile(
    r"\b(?:torch|anneal|braz|solder|weld|harden|temper|heat[- ]?treat|blue(?:d|ing)? hot|flame)",
    re.IGNORECASE,
)
PLATE = re.compile(r"\bface ?plate\b", re.IGNORECASE)
VACUUM = re.compile(r"\bvacuum\b", re.IGNORECASE)
AIR = re.compile(r"\b(?:air|pneumatic)\b", re.IGNORECASE)
HEAVY = re.compile(r"\b(?:vises?|chucks?|face ?plate|pallets?|rotary|angle plate)\b", re.IGNORECASE)
HOT = frozenset({"cast iron", "stainless", "alloy steel", "titanium", "mild steel"})


@dataclass(frozen=True, slots=True)
class SetupFacts:
    """What a caution hangs on.

    Args:
        plan: of the job.
        setup: which.
        machine: it is cut on; None while nobody said it.
        does: what is done in it, all steps together.
    """

    plan: Plan
    setup: Setup
    machine: Machine | None
    does: str

    @property
    def turns(self) -> bool:
        """True where the work turns."""
        return self.machine.turns if self.machine is not None else self.plan.form == "turned"

    @property
    def manual(self) -> bool:
        """True on a machine without a control."""
        return self.machine is not None and self.machine.is_manual

    @property
    def holds(self) -> str:
        """What holds the piece, in words."""
        return self.setup.holds

    @property
    def pieces(self) -> int:
        """How many pieces a load has in this setup."""
        return sum(station.pieces for station in self.plan.stations_of(self.setup.key))

    @property
    def bar(self) -> bool:
        """True where a bar is pulled or cut into several pieces."""
        return any(sheet.kind in {"cuts", "segments", "mixed"} for sheet in self.plan.sheets)


@dataclass(frozen=True, slots=True)
class Hazard:
    """One thing that can hurt somebody.

    Args:
        key: its lasting name.
        words: the caution.
        where: places it is said.
        holds: whether it holds in a setup.
    """

    key: str
    words: str
    where: frozenset[Where]
    holds: Callable[[SetupFacts], bool]


def _material(facts: SetupFacts) -> str:
    group = group_of(facts.plan.heading.material)
    return group.name if group is not None else ""


HAZARDS: tuple[Hazard, ...] = (
    Hazard(
        "rotating",
        "No gloves, sleeves, rings or loose hair near what turns; guards closed, glasses on.",
        ON_PAPER_AND_RUN,
        lambda _facts: True,
    ),
    Hazard(
        "chuck key", "Chuck key out before the spindle turns.", ON_PAPER_AND_RUN, lambda facts: facts.turns
    ),
    Hazard(
        "drawbar",
        "Key out of the drawbar; hands clear of the cutter, chips away by brush.",
        ON_PAPER_AND_RUN,
        lambda facts: not facts.turns,
    ),
    Hazard(
        "face plate",
        "Face plate balanced with its clamps on, turned round by hand first, started slow.",
        EVERYWHERE,
        lambda facts: facts.turns and bool(PLATE.search(facts.holds)),
    ),
    Hazard(
        "long bar",
        "Bar that stands out behind the spindle guided and guarded, or cut shorter: it whips.",
        EVERYWHERE,
        lambda facts: facts.turns and facts.bar,
    ),
    Hazard(
        "part off",
        "Parting off: tool on centre, short overhang, nobody’s hand under the piece.",
        EVERYWHERE,
        lambda facts: facts.turns and bool(PART_OFF.search(facts.does)),
    ),
    Hazard(
        "slitting",
        "Slitting saw: work held on both sides of the cut, feed against the tooth, no hand near it while it runs down.",
        EVERYWHERE,
        lambda facts: bool(SLIT.search(facts.does)),
    ),
    Hazard(
        "powered tap",
        "Hand clear of the tap and chuck while it turns under power; a hand on the chuck only where the shop’s rules allow it.",
        EVERYWHERE,
        lambda facts: facts.manual and "tap" in kinds_of(facts.does),
    ),
    Hazard(
        "several pieces",
        "Each piece tight and tried by hand: a loose one beside the cutter is thrown.",
        EVERYWHERE,
        lambda facts: not facts.turns and facts.pieces > 1,
    ),
    Hazard(
        "vacuum",
        "Vacuum loss lets the pieces go: its reading in sight, the machine stopped when it falls.",
        ON_PAPER_AND_RUN,
        lambda facts: bool(VACUUM.search(facts.holds)),
    ),
    Hazard(
        "air",
        "Air loss lets the piece go: pressure in sight, the machine stopped when it falls.",
        EVERYWHERE,
        lambda facts: bool(AIR.search(facts.holds)),
    ),
    Hazard(
        "hot",
        "Chips and fresh pieces are hot: let them cool, take them with a hook or pliers.",
        ON_PAPER_AND_RUN,
        lambda facts: _material(facts) in HOT,
    ),
    Hazard(
        "swarf",
        "Swarf and fresh edges cut: brush and hook, never the hand; no air jet at people.",
        ON_PAPER_AND_RUN,
        lambda facts: bool(facts.does),
    ),
    Hazard(
        "heat",
        "Torch, welding or heat treatment: licensed practice and local rules first; nothing that burns near it, hot work marked.",
        EVERYWHERE,
        lambda facts: bool(HEAT.search(facts.does)),
    ),
    Hazard(
        "first moves",
        "Homed; first moves of every tool at low override, single block, a hand on the stop.",
        ON_PAPER_AND_RUN,
        lambda facts: facts.machine is not None and not facts.manual,
    ),
    Hazard(
        "lifting",
        "Vise, chuck or plate lifted by hoist or two pairs of hands, never over a hand on the table.",
        EVERYWHERE,
        lambda facts: bool(HEAVY.search(facts.holds)),
    ),
    Hazard(
        "consequence",
        "This part holds, lifts or protects: a competent person designs and approves it; this arithmetic does not.",
        EVERYWHERE,
        lambda facts: facts.plan.heading.has_consequence,
    ),
)
MANUAL = "The machine’s manual and local rules come first."


def hazards_of(plan: Plan, setup: Setup, machine: Machine | None, where: Where) -> Iterator[Hazard]:
    """Give what can hurt somebody in a setup, of what is said at a place.

    Args:
        plan: of the job.
        setup: which.
        machine: it is cut on; None while nobody said it.
        where: the place.
    """
    does = "; ".join(step.does for step in plan.tools_of(setup.key))
    facts = SetupFacts(plan, setup, machine, does)
    return (one for one in HAZARDS if where in one.where and one.holds(facts))
