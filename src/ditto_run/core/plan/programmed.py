"""What a plan tells beside a program of one of its cycles: machine, offsets, tools, stations; and what its times are by the program."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Literal, TypeVar

from ditto_run.core.hold.heights import Contact
from ditto_run.core.place.offsets import Offset
from ditto_run.core.plan.at_work import step_ground
from ditto_run.core.plan.cycles import Press
from ditto_run.core.plan.document import Plan
from ditto_run.core.plan.held import contacts
from ditto_run.core.plan.programs_open import planned_of
from ditto_run.core.plan.worked import Worked
from ditto_run.core.program.dialect import DIALECTS, Meanings
from ditto_run.core.program.given import BoxBlank, Given, Planned, RoundBlank, Slides, Three, ToolFigures
from ditto_run.core.shop import Machine
from ditto_run.core.tools import ToolStep
from ditto_run.core.tools.cutting.motion import MM_PER_M
from ditto_run.core.tools.cutting.work import Work

T = TypeVar("T")
JAW_MM = 40.0  # of a jaw behind its face that is looked at; own judgement
KINDS: dict[Work, str] = {"turn": "turn", "bore": "bore", "drill": "drill", "part": "part", "tap": "tap"}


def usual_dialect(machine: Machine | None) -> str:
    """Return the table of meanings of a machine: as Shop has it, else the plain one of its kind."""
    if machine is not None and machine.dialect.reads in DIALECTS:
        return machine.dialect.reads
    return "lathe-ngc" if machine is not None and machine.turns else "mill-ngc"


@dataclass(frozen=True, slots=True)
class ProgramZero:
    """Where the zero of a program stands on the piece.

    Args:
        across: left front, left back, right front, right back or middle; empty while nobody said it.
        top: finished or raw: which top, or end of turned work, is Z0.
    """

    across: str = ""
    top: Literal["finished", "raw"] = "finished"


ACROSS: dict[str, tuple[float, float]] = {  # share of the piece that lies left of it, and before it
    "left front": (0.0, 0.0),
    "left back": (0.0, 1.0),
    "right front": (1.0, 0.0),
    "right back": (1.0, 1.0),
    "middle": (0.5, 0.5),
}


def blank_of(contact: Contact, zero: ProgramZero) -> BoxBlank | RoundBlank | None:
    """Return the piece as it goes into a setup, in the coordinates of a program; None while nobody said where the zero stands.

    Args:
        contact: the setup as it is held.
        zero: of the program.

    Source:
        Own derivation from the sizes of the piece and the heights of the setup.
    """
    heights = contact.heights
    if heights is None:
        before, after = contact.piece.before, contact.piece.after
        if not before.profile or contact.up != "free end":
            return None
        face = after.low[0] if zero.top == "finished" else before.low[0]
        radius = max(radius for _, radius in before.profile)
        return RoundBlank(2 * radius, (face - before.high[0], face - before.low[0]))
    if zero.across not in ACROSS:
        return None
    left, front = ACROSS[zero.across]
    along, across, _ = contact.lying
    top = heights.finished if zero.top == "finished" else heights.raw
    return BoxBlank(
        (-left * along, -front * across, heights.seat - top),
        ((1 - left) * along, (1 - front) * across, heights.raw - top),
    )


def given_of(
    worked: Worked, cycle: Press, dialect: str, offsets: Mapping[str, Offset], zero: ProgramZero
) -> Given:
    """Return what is told beside a program of a cycle.

    Args:
        worked: the plan worked out.
        cycle: which.
        dialect: name of the table of meanings.
        offsets: of the machine as they stand, by code.
        zero: where the program's zero stands on the piece; while it is not said, cut and air are not told apart.
    """
    plan = worked.plan
    machine = worked.machines.get(cycle.machine_id or 0)
    steps = [step for setup in cycle.setups for step in plan.tools_of(setup) if step.tool]
    tools, codes = planned_of(plan, cycle)
    return Given(
        _meanings(machine, dialect),
        _slides(machine),
        {code: at for code, at in ((code, _place(one)) for code, one in offsets.items()) if at is not None},
        _at_offsets(worked, cycle, lambda one: blank_of(one, zero)),
        _at_offsets(worked, cycle, lambda one: jaws_of(one, zero)),
        Planned(
            tools,
            codes,
            figures={step.tool: _figures(worked, step) for step in steps},
        ),
    )


def _meanings(machine: Machine | None, dialect: str) -> Meanings:
    """A table of meanings, with what Shop knows of how the machine's control reads G10."""
    table = DIALECTS[dialect]
    if machine is None:
        return table
    g10 = machine.dialect
    return replace(table, l20="extended" if g10.l20 == "extended" else table.l20, p0=g10.p0, fine=g10.fine)


def _at_offsets(worked: Worked, cycle: Press, make: Callable[[Contact], T | None]) -> dict[str, T]:
    """What stands at each station's offset: the first one's where several share one."""
    held = {one.setup.key: one for one in contacts(worked)}
    found: dict[str, T] = {}
    for station in cycle.stations:
        there = make(held[station.setup]) if station.setup in held else None
        if there and station.offset:
            found.setdefault(station.offset, there)
    return found


def jaws_of(contact: Contact, zero: ProgramZero) -> tuple[BoxBlank, ...]:
    """Return the two jaws of a vise in the coordinates of a program; nothing where their height is not known.

    Args:
        contact: the setup as it is held.
        zero: of the program.

    Source:
        Own derivation from the heights of the setup; how thick a jaw is, is own judgement.
    """
    heights = contact.heights
    if heights is None or heights.jaw is None or zero.across not in ACROSS or heights.jaw <= heights.seat:
        return ()
    left, front = ACROSS[zero.across]
    along, across, _ = contact.lying
    top = heights.finished if zero.top == "finished" else heights.raw
    low, high = heights.seat - top, heights.jaw - top
    begin, end = -front * across, (1 - front) * across
    return (
        BoxBlank((-left * along, begin - JAW_MM, low), ((1 - left) * along, begin, high)),
        BoxBlank((-left * along, end, low), ((1 - left) * along, end + JAW_MM, high)),
    )


def _slides(machine: Machine | None) -> Slides:
    if machine is None:
        return Slides()
    ability = machine.ability
    rapid = float(ability.rapid_m_min) * MM_PER_M if ability.rapid_m_min is not None else None
    return Slides(
        (rapid, rapid, rapid) if rapid else None,
        float(ability.accel_m_s2) * MM_PER_M if ability.accel_m_s2 else None,
        float(ability.change_s) if ability.change_s is not None else 0.0,
        most_rpm=float(ability.max_rpm) if ability.max_rpm is not None else None,
    )


def _place(offset: Offset) -> Three | None:
    """Where an offset stands; None unless all of its axes are set."""
    x, y, z = offset.mm("x"), offset.mm("y"), offset.mm("z")
    return None if x is None or y is None or z is None else (float(x), float(y), float(z))


def _figures(worked: Worked, step: ToolStep) -> ToolFigures:
    ground = step_ground(worked, step)
    kind = KINDS.get(ground.work, "") if ground.work is not None else ""
    wide = ground.across_mm if kind == "part" else None
    return ToolFigures(None if wide else ground.across_mm, kind, wide or 0.0)  # type: ignore[arg-type] # one of the kinds


def times_read(
    plan: Plan, cycle: Press, tool_s: Mapping[int, float], change_s: float
) -> tuple[tuple[int, Literal["cut", "change"], float], ...]:
    """Return the times of a cycle's tool steps as its program has them: key, cut or change, how long, [s].

    Each tool's time, its moves between stations in it, is shared by the pieces it cuts in a load. What is for a strip or a
    whole load stays a person's.

    Args:
        plan: with the tool steps.
        cycle: that the program cuts.
        tool_s: time of each tool in the program. [s]
        change_s: of the machine; 0 while not known. [s]
    """
    pieces: dict[int, dict[int, float]] = {}
    for setup in cycle.setups:
        room = sum(station.pieces for station in cycle.stations_of(setup)) or 1
        for step in plan.tools_of(setup):
            if step.tool in tool_s and step.at_once == 1:
                pieces.setdefault(step.tool, {})[step.key] = room * plan.share_of(step, cycle)
    found: list[tuple[int, Literal["cut", "change"], float]] = []
    for tool, of_step in pieces.items():
        whole = sum(of_step.values())
        for key in of_step:
            if whole > 0 and tool_s[tool] > 0:
                found.append((key, "cut", round(tool_s[tool] / whole, 1)))
                found += [(key, "change", round(change_s, 1))] if change_s else []
    return tuple(found)
