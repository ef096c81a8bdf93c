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
from ditto_run.core.plan.program_room import ProgramZero, usual_zero
from ditto_run.core.plan.programmed import given_of, usual_dialect
from ditto_run.core.plan.worked import Worked
from ditto_run.core.program.dialect import Meanings
from ditto_run.core.program.given import BoxBlank, Given
from ditto_run.core.program.reader import ProgramRead, read_program
from ditto_run.core.tools import ToolStep
from ditto_run.core.units import MM_PER_INCH, LengthUnit

NO_COMMENT = re.compile(r"[^A-Z0-9 .,:;/+-]")
MOST_COMMENT = 60
CLEAR_MM = 25.0  # over all that stands there; own judgement


@dataclass(frozen=True, slots=True)
class Skeleton:
    """A skeleton with what reading it back has shown.

    Args:
        text: of it.
        dialect: table of meanings by which it was read back.
        tools, offsets: it calls, in order.
        unknown_speeds: tools whose speed is not known, so that none is said.
        not_set: offsets it calls whose place is not in the register.
        read: what reading it back has taken from it.
    """

    text: str
    dialect: str
    tools: tuple[int, ...]
    offsets: tuple[str, ...]
    unknown_speeds: tuple[str, ...]
    not_set: tuple[str, ...]
    read: ProgramRead


def write_skeleton(
    worked: Worked, cycle: Press, offsets: Mapping[str, Offset], zero: ProgramZero | None = None
) -> Skeleton:
    """Return the skeleton of a program for a cycle: no cut is in it.

    Args:
        worked: the plan worked out.
        cycle: which.
        offsets: of the machine as they stand, by code.
        zero: where the program's zero stands on the piece; None for as Place has it.

    Raises:
        NotNow: if the machine has no control, nothing is planned, or reading it back shows a fault.

    Source:
        RS-274/NGC; away by G53 before each tool and offset, of a lathe X before Z, is common practice, no source.
    """
    plan = worked.plan
    machine = worked.machines.get(cycle.machine_id or 0)
    if machine is None or machine.is_manual:
        raise NotNow("A skeleton is written for a machine with a control.", "Choose the machine on Hold.")
    visits = _visits(worked, cycle)
    bare = next((station for station, _ in visits if not station.offset), None)
    if not visits or bare is not None:
        missing = (
            f"Station {bare.label} has no work offset." if bare is not None else "No tool works at a station."
        )
        raise NotNow(missing, "Say stations on Place and tools on Tools first.")
    rpm = {tool: one.speed.rpm for tool, one in speeds_of(worked).items()}
    dialect = usual_dialect(machine)
    zero = zero or usual_zero(worked, cycle)
    given = given_of(worked, cycle, dialect, offsets, zero)
    words = TableWords(given.dialect)
    lines = [
        "%",
        comment_of(f"{plan.heading.part}, {cycle.name}"),
        "(SKELETON: NO CUT IS IN IT. PROVE IT DRY, IN SINGLE BLOCK)",
        words.start(plan.heading.unit),
        *words.away,
        *_body(visits, rpm, words, _over(given, plan.heading.unit)),
        *words.away,
        "M5",
        "M9",
        "M30",
        "%",
    ]
    away = len(words.away)
    lines = [
        line
        for n, line in enumerate(lines)
        if line not in words.away or lines[n + away : n + away + 1] != [line]
    ]  # away once is enough
    text = "\n".join(lines) + "\n"
    read = _proven(text, given)
    found = read.tally
    unknown = dict.fromkeys(step.name for _, step in visits if step.tool and step.tool not in rpm)
    tools = tuple(one.tool for one in found.tools)
    not_set = tuple(code for code in dict.fromkeys(found.offsets) if code not in given.offsets)
    return Skeleton(text, dialect, tools, tuple(found.offsets), tuple(unknown), not_set, read)


def _visits(worked: Worked, cycle: Press) -> list[tuple[Station, ToolStep]]:
    """Station and step of each visit: in the order taken, else each tool round all."""
    plan = worked.plan
    there = plan.cycle_tools(cycle)
    named, taken = there.visits(), plan.taken_order(cycle.key)
    if taken is not None and sorted(taken.order) == sorted(named):
        return [named[one] for one in taken.order]
    steps = [step for setup in cycle.setups for step in plan.tools_of(setup)]
    return [visit for step in steps for visit in named.values() if visit[1].key == step.key]


@dataclass(frozen=True, slots=True)
class TableWords:
    """How a table of meanings says what a program begins with, and changes a tool by.

    Args:
        table: of the machine.
    """

    table: Meanings

    @property
    def away(self) -> tuple[str, ...]:
        """To machine zero, where nothing is met: up, or of a lathe out and then back."""
        return ("G53 G0 X0.", "G53 G0 Z0.") if self.table.turns else ("G53 G0 Z0.",)

    def start(self, unit: LengthUnit) -> str:
        """Return the line that says every mode, in a unit."""
        inch, mm = self.table.units.split("/")
        said = inch if unit == "in" else mm
        if not self.table.turns:
            return f"{said} G17 G40 G49 G80 G90 G94"
        return f"{said} G18 G40 G80 G99" if self.table.codes == "A" else f"{said} G18 G40 G49 G80 G90 G95"

    def tool(self, number: int) -> str:
        """Return the words that put a tool in; with its own wear where the same word says it."""
        return f"T{number:02d}{number:02d}" if self.table.t_word == "change" else f"T{number} M6"

    def length(self, number: int) -> list[str]:
        """Return the words for its length, where they are of their own."""
        return [] if self.table.t_word == "change" else [f"G43 H{number}"]


def _over(given: Given, unit: LengthUnit) -> dict[str, tuple[str, str]]:
    """Words that go over the middle of the piece at each offset, and so far above it as nothing is met."""
    found: dict[str, tuple[str, str]] = {}
    by, digits = (float(MM_PER_INCH), 4) if unit == "in" else (1.0, 3)
    for code, blank in given.blanks.items():
        if isinstance(blank, BoxBlank):
            tops = [blank.high[2], *(one.high[2] for one in given.guards.get(code, ()))]
            x, y = ((blank.low[n] + blank.high[n]) / 2 / by for n in (0, 1))
            above = (max(tops) + CLEAR_MM) / by
            found[code] = (f"G0 X{x:.{digits}f} Y{y:.{digits}f}", f"Z{above:.{digits}f}")
    return found


def _body(
    visits: Sequence[tuple[Station, ToolStep]],
    rpm: Mapping[int, float],
    words: TableWords,
    over: Mapping[str, tuple[str, str]],
) -> list[str]:
    lines: list[str] = []
    held = "G97 " if words.table.turns else ""
    tool, offset = 0, ""
    for station, step in visits:
        if not step.tool:
            lines += [*words.away, "M5", f"M0 {comment_of(f'by hand at {station.label}: {step.does}')}"]
            tool, offset = 0, ""
            continue
        if step.tool != tool:
            lines += [*words.away, f"{words.tool(step.tool)} {comment_of(step.does)}"]
            lines += (
                [f"{held}S{rpm[step.tool]:.0f} M3"]
                if step.tool in rpm
                else ["(SPEED NOT KNOWN: SAY S AND M3)"]
            )
            tool, offset = step.tool, ""
        code = station.offset or ""
        if code != offset:
            there, above = over.get(code, ("", ""))
            lines += [*words.away, code, *([there] if there else [])]
            length = words.length(step.tool) if not offset else []
            lines += [f"{length[0]} {above}".strip()] if length else [f"G0 {above}"] if above else []
            offset = code
        lines.append(comment_of(f"cut here: {step.does} at {station.label}"))
    return lines


def comment_of(text: str) -> str:
    """Return a comment of letters that every control takes.

    Args:
        text: what it says.
    """
    plain = unicodedata.normalize("NFKD", text).encode("ascii", "ignore").decode().upper()
    return f"({' '.join(NO_COMMENT.sub(' ', plain).split())[:MOST_COMMENT].strip()})"


def _proven(text: str, given: Given) -> ProgramRead:
    """Read it back: nothing unknown, no fault but that an offset is not set yet, all that is planned in it."""
    read = read_program(text, given)
    found = read.tally
    wrong = next((one for one in found.faults if one.kind != "offset_not_set"), None)
    if wrong is not None or found.unknown or found.limits:
        where = wrong.line if wrong is not None else 0
        raise NotNow(
            f"The skeleton does not read back as planned, at line {where}.",
            "Look at tools and stations of this cycle; it is not offered so.",
        )
    return read
