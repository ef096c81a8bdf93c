"""One tool and what it does."""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from math import ceil
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.shop.recipes import WORDS
from ditto_run.core.units import LengthUnit, length_text

MOST_TOOLS = 999
MOST_AT_ONCE = 400


@dataclass(frozen=True, slots=True)
class ToolStep:
    """One tool at work in a setup.

    Args:
        key: its lasting number in the job.
        setup: key of the setup.
        tool: T number, 0 for a hand tool.
        does: what it does.
        cut_s: cutting one piece. [s]
        change_s: tool change and moves, once a load. [s]
        stations: labels of the stations it works at; empty for all of them.
        across_mm: its diameter; None while not said. [mm]
        reach_mm: how far it stands out of its holder; None while not said. [mm]
        at_once: how many pieces its time is for: 1 each piece, more a strip of so many, 0 the whole load. [pieces]
        makes: keys of the features it makes; empty while nobody said it.
        time_by: what found its times: computed, clocked or a program; empty where they were typed.
    """

    key: int
    setup: int
    tool: int
    does: str
    cut_s: float = 0.0
    change_s: float = 0.0
    stations: tuple[str, ...] = ()
    across_mm: Decimal | None = None
    reach_mm: Decimal | None = None
    at_once: int = 1
    makes: tuple[int, ...] = ()
    time_by: Literal["", "computed", "clocked", "program"] = ""

    def cut_for_s(self, pieces: float) -> float:
        """Return how long it cuts so many pieces, [s].

        Args:
            pieces: that it cuts in a load; a share of one counts as such. [pieces]
        """
        if self.at_once == 1:
            return self.cut_s * pieces
        if not pieces:
            return 0.0
        return self.cut_s * (ceil(pieces / self.at_once) if self.at_once else 1)

    @property
    def name(self) -> str:
        """T number as the control shows it: T03."""
        return f"T{self.tool:02d}" if self.tool else "hand"


def check_tool_step(step: ToolStep) -> ToolStep:
    """Return the step if it can be used.

    Raises:
        BadEntry: if the T number is out of range or nothing says what it does.
    """
    if not 0 <= step.tool <= MOST_TOOLS:
        raise BadEntry(
            f"T{step.tool} is outside T0 to T{MOST_TOOLS}.",
            "Type the number in the turret or carousel.",
            "tool",
        )
    if not 0 <= step.at_once <= MOST_AT_ONCE:
        raise BadEntry(
            f"A time for {step.at_once} pieces at once is not possible.",
            "Type 1 for each piece, the pieces of a strip, or 0 for the whole load.",
            "at_once",
        )
    if not step.does.strip():
        raise BadEntry(
            f"Nothing says what {step.name} does.", "Type it in a word or two, such as finish slot.", "does"
        )
    return step


def reach_findings(
    setup_name: str, steps: Sequence[ToolStep], deep_mm: float, name: str, unit: LengthUnit
) -> list[Finding]:
    """Return the question where no tool of a setup reaches its deepest cut; nothing while the reach of one is not said.

    Args:
        setup_name: of the setup.
        steps: its tool steps.
        deep_mm: from the top of the piece down to the deepest point. [mm]
        name: what is cut there.
        unit: in which lengths are said.
    """
    known = [float(step.reach_mm) for step in steps if step.reach_mm is not None]
    if not known or len(known) < len(steps) or max(known) >= deep_mm:
        return []
    return [
        Finding(
            "tools",
            "ask",
            "reach-short",
            f"{name} in {setup_name} goes {length_text(deep_mm, unit)} deep, and the longest tool stands out {length_text(max(known), unit)}.",
            "Let one stand out farther, or cut it from both sides.",
            f"setup {setup_name}",
            f"{name} {deep_mm:.3f} {max(known):.3f}",
        )
    ]


PARTS_OFF = re.compile(rf"\b(?:{dict(WORDS)['part off']})\b", re.IGNORECASE)


def _parted_early(setup_name: str, mine: Sequence[ToolStep]) -> list[Finding]:
    """Return the question about a tool that parts the piece off while others are still to cut it; hand work comes after."""
    for place, step in enumerate(mine):
        later = [other for other in mine[place + 1 :] if other.tool and not PARTS_OFF.search(other.does)]
        if step.tool and PARTS_OFF.search(step.does) and later:
            return [
                Finding(
                    "tools",
                    "ask",
                    "parted-early",
                    f"{setup_name}: {step.name} parts the piece off before {later[0].name} {later[0].does}.",
                    "Put parting off last, or move the later tools to the next setup.",
                )
            ]
    return []


def tool_findings(setup_key: int, setup_name: str, steps: Sequence[ToolStep]) -> list[Finding]:
    """Return what Tools still wants in one setup: a tool step, a time for each, and parting off last."""
    mine = [step for step in steps if step.setup == setup_key]
    if not mine:
        return [Finding("tools", "ask", "no-tool", f"{setup_name} has no tool step.", "Add the first tool.")]
    return _parted_early(setup_name, mine) + [
        Finding(
            "tools",
            "ask",
            "no-time",
            f"{step.name} {step.does} has no time.",
            "A guess will do; Run learns the real one.",
        )
        for step in mine
        if step.cut_s + step.change_s <= 0
    ]
