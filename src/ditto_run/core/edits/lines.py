"""Setups and tool steps typed as lines, one each: all of them or none."""

import re
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.edits.making import SetSetup, SetToolStep
from ditto_run.core.errors import BadEntry, DittoError
from ditto_run.core.plan import Changed, Plan
from ditto_run.core.times import read_seconds
from ditto_run.core.tools.tool_step import MOST_TOOLS
from ditto_run.core.units import counted

MOST_LINES = 200
TIME = r"\d+:\d\d(?::\d\d)?|\d+(?:[.,]\d+)?\s*(?:s|sec|min|h)"
TOOL = re.compile(
    rf"(?:T\s?(?P<number>\d{{1,3}})\s+)?(?P<does>.*?)(?:[\s,;]+(?P<cut>{TIME}))?(?:\s*\+\s*(?P<change>{TIME}))?",
    re.IGNORECASE,
)
ONE_TIME = re.compile(TIME, re.IGNORECASE)
NO_CHANGE = re.compile(rf".*?[\s,;](?:{TIME})\s*\+\s*(?P<said>.*)", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class AddSetupLines:
    """Add a setup for each line: its name, then machine, what holds it and handling, parted by semicolons or commas.

    Args:
        lines: such as `first side; Mill 2; Vise 1; 0:45`.
    """

    lines: str
    kind: Literal["add_setup_lines"] = "add_setup_lines"


@dataclass(frozen=True, slots=True)
class AddToolLines:
    """Add a tool step to a setup for each line: T number, what it does, its time, change and moves behind a plus.

    Args:
        setup: the setup.
        lines: such as `T3 rough the slot 1:30 + 0:10`.
        makes: keys of the features all of them make.
    """

    setup: int
    lines: str
    makes: tuple[int, ...] = ()
    kind: Literal["add_tool_lines"] = "add_tool_lines"


def _each(
    text: str, read: Callable[[str], SetSetup | SetToolStep], plan: Plan, shop: PlanRegisters
) -> tuple[Plan, int]:
    """The plan with what each line says in it, and how many there were; a refusal names its line."""
    lines = [(number, line.strip()) for number, line in enumerate(text.splitlines(), 1) if line.strip()]
    if not 0 < len(lines) <= MOST_LINES:
        raise BadEntry(
            f"{counted(len(lines), 'line')}; between 1 and {MOST_LINES} can be added at once.",
            "Type one a line.",
            "lines",
        )
    for number, line in lines:
        try:
            plan = apply_edit(read(line), plan, shop).plan
        except DittoError as refusal:
            refusal.problem = f"Line {number}, “{line[:40]}”: {refusal.problem}"
            refusal.field = "lines"
            raise
    return plan, len(lines)


@apply_edit.register
def _add_setup_lines(edit: AddSetupLines, plan: Plan, shop: PlanRegisters) -> Changed:
    plan, many = _each(edit.lines, lambda line: read_setup_line(line, shop), plan, shop)
    return Changed(plan, f"added {counted(many, 'setup')}")


def read_setup_line(line: str, shop: PlanRegisters) -> SetSetup:
    """Return the setup that a line says.

    Args:
        line: name; then in any order a machine of the shop, a time of handling, and what holds it.
        shop: with the machines.

    Raises:
        BadEntry: without a name, or where two of its parts say the same.
    """
    name, *rest = [part.strip() for part in re.split(r"[;,]", line)]
    found = SetSetup(name, next(iter(shop.machines)) if len(shop.machines) == 1 else None)
    by_name = {machine.name.lower(): key for key, machine in shop.machines.items()}
    said_machine = False
    for part in filter(None, rest):
        if part.lower() in by_name and not said_machine:
            found, said_machine = replace(found, machine_id=by_name[part.lower()]), True
        elif ONE_TIME.fullmatch(part) and not found.handling:
            found = replace(found, handling=part)
        elif not found.holds:
            found = replace(found, holds=part)
        else:
            raise BadEntry(
                f"“{part[:30]}” is one thing too many.",
                "Say name; machine; what holds it; handling, as in first side; Mill 2; Vise 1; 0:45.",
                "lines",
            )
    return found


@apply_edit.register
def _add_tool_lines(edit: AddToolLines, plan: Plan, shop: PlanRegisters) -> Changed:
    plan, many = _each(
        edit.lines, lambda line: replace(read_tool_line(edit.setup, line), makes=edit.makes), plan, shop
    )
    return Changed(plan, f"added {counted(many, 'tool step')}")


def read_tool_line(setup: int, line: str) -> SetToolStep:
    """Return the tool step that a line says; without a T number it is a hand tool.

    Args:
        setup: key of the setup.
        line: such as `T3 rough the slot 1:30 + 0:10`.

    Raises:
        BadEntry: if it does not say what is done, what stands behind the plus is no time, or a T number is out of range.
    """
    found = TOOL.fullmatch(line.strip())
    does = found["does"].strip(" ,;") if found else ""
    if found is None or not does or ONE_TIME.fullmatch(does):
        raise BadEntry(
            "It does not say what is done.", "Say it as in T3 rough the slot 1:30 + 0:10.", "lines"
        )
    strange = NO_CHANGE.fullmatch(does)
    if strange is not None:
        raise BadEntry(
            f"“{strange['said'][:20]}” behind the plus is no time.",
            "Change and moves stand there, as in T3 rough the slot 1:30 + 0:10.",
            "lines",
        )
    number = int(found["number"] or 0)
    if number > MOST_TOOLS:
        raise BadEntry(f"T{number} is out of range.", f"T numbers go to {MOST_TOOLS}.", "lines")
    for name in ("cut", "change"):
        if found[name]:
            read_seconds(found[name], "lines")
    return SetToolStep(setup, number, does, found["cut"] or "", found["change"] or "")
