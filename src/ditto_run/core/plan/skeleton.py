"""A program's skeleton in the order of the plan: safe start and end, modes said, tools, speeds, offsets; proven by reading it back."""

import re
import unicodedata
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ditto_run.core.errors import NotNow
from ditto_run.core.place import Station
from ditto_run.core.place.offsets import Offset
from ditto_run.core.plan.cycles import Press
from ditto_run.core.plan.program_differs import speeds_of
from ditto_run.core.plan.program_room import ProgramZero
from ditto_run.core.plan.programmed import given_of, usual_dialect
from ditto_run.core.plan.worked import Worked
from ditto_run.core.program.given import Given
from ditto_run.core.program.reader import read_program
from ditto_run.core.program.tally import Tally
from ditto_run.core.tools import ToolStep

NO_COMMENT = re.compile(r"[^A-Z0-9 .,:;/+-]")
MOST_COMMENT = 60


@dataclass(frozen=True, slots=True)
class Skeleton:
    """A skeleton with what reading it back has shown.

    Args:
        text: of it.
        dialect: table of meanings by which it was read back.
        tools, offsets: it calls, in order.
        unknown_speeds: tools whose speed is not known, so that none is said.
        not_set: offsets it calls whose place is not in the register.
    """

    text: str
    dialect: str
    tools: tuple[int, ...]
    offsets: tuple[str, ...]
    unknown_speeds: tuple[str, ...]
    not_set: tuple[str, ...]


def write_skeleton(worked: Worked, cycle: Press, offsets: Mapping[str, Offset]) -> Skeleton:
    """Return the skeleton of a mill's program for a cycle: no cut is in it.

    Args:
        worked: the plan worked out.
        cycle: which.
        offsets: of the machine as they stand, by code.

    Raises:
        NotNow: if the machine is no mill with a control, nothing is planned, or reading it back shows a fault.

    Source:
        RS-274/NGC; up by G53 before each tool and offset is common practice, no source.
    """
    plan = worked.plan
    machine = worked.machines.get(cycle.machine_id or 0)
    if machine is None or machine.turns or machine.is_manual:
        raise NotNow("A skeleton is written for a mill with a control.", "Choose the machine on Hold.")
    visits = _visits(worked, cycle)
    bare = next((station for station, _ in visits if not station.offset), None)
    if not visits or bare is not None:
        missing = (
            f"Station {bare.label} has no work offset." if bare is not None else "No tool works at a station."
        )
        raise NotNow(missing, "Say stations on Place and tools on Tools first.")
    rpm = {tool: one.speed.rpm for tool, one in speeds_of(worked).items()}
    unit = "G20" if plan.heading.unit == "in" else "G21"
    lines = [
        "%",
        _comment(f"{plan.heading.part}, {cycle.name}"),
        "(SKELETON: NO CUT IS IN IT. PROVE IT DRY, IN SINGLE BLOCK)",
        f"{unit} G17 G40 G49 G80 G90 G94",
        "G53 G0 Z0.",
        *_body(visits, rpm),
        "G53 G0 Z0.",
        "M5",
        "M9",
        "M30",
        "%",
    ]
    lines = [
        line for line, after in zip(lines, [*lines[1:], ""], strict=True) if line != after
    ]  # up once is enough
    dialect = usual_dialect(machine)
    text = "\n".join(lines) + "\n"
    given = given_of(worked, cycle, dialect, offsets, ProgramZero())
    found = _proven(text, given)
    unknown = dict.fromkeys(step.name for _, step in visits if step.tool and step.tool not in rpm)
    tools = tuple(one.tool for one in found.tools)
    not_set = tuple(code for code in dict.fromkeys(found.offsets) if code not in given.offsets)
    return Skeleton(text, dialect, tools, tuple(found.offsets), tuple(unknown), not_set)


def _visits(worked: Worked, cycle: Press) -> list[tuple[Station, ToolStep]]:
    """Station and step of each visit: in the order taken, else each tool round all."""
    plan = worked.plan
    there = plan.cycle_tools(cycle)
    named, taken = there.visits(), plan.taken_order(cycle.key)
    if taken is not None and sorted(taken.order) == sorted(named):
        return [named[one] for one in taken.order]
    steps = [step for setup in cycle.setups for step in plan.tools_of(setup)]
    return [visit for step in steps for visit in named.values() if visit[1].key == step.key]


def _body(visits: Sequence[tuple[Station, ToolStep]], rpm: Mapping[int, float]) -> list[str]:
    lines: list[str] = []
    tool, offset = 0, ""
    for station, step in visits:
        if not step.tool:
            lines += ["G53 G0 Z0.", "M5", f"M0 {_comment(f'by hand at {station.label}: {step.does}')}"]
            tool, offset = 0, ""
            continue
        if step.tool != tool:
            lines += ["G53 G0 Z0.", f"T{step.tool} M6 {_comment(step.does)}"]
            lines += (
                [f"S{rpm[step.tool]:.0f} M3"] if step.tool in rpm else ["(SPEED NOT KNOWN: SAY S AND M3)"]
            )
            tool, offset = step.tool, ""
        code = station.offset or ""
        if code != offset:
            lines += ["G53 G0 Z0.", code]
            lines += [f"G43 H{step.tool}"] if not offset else []
            offset = code
        lines.append(_comment(f"cut here: {step.does} at {station.label}"))
    return lines


def _comment(text: str) -> str:
    """A comment of letters that every control takes."""
    plain = unicodedata.normalize("NFKD", text).encode("ascii", "ignore").decode().upper()
    return f"({' '.join(NO_COMMENT.sub(' ', plain).split())[:MOST_COMMENT].strip()})"


def _proven(text: str, given: Given) -> Tally:
    """Read it back: nothing unknown, no fault but that an offset is not set yet, all that is planned in it."""
    found = read_program(text, given).tally
    wrong = next((one for one in found.faults if one.kind != "offset_not_set"), None)
    if wrong is not None or found.unknown or found.limits:
        where = wrong.line if wrong is not None else 0
        raise NotNow(
            f"The skeleton does not read back as planned, at line {where}.",
            "Look at tools and stations of this cycle; it is not offered so.",
        )
    return found
