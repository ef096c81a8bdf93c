"""What a plan tells beside a program of one of its cycles: machine, offsets, tools, stations; and what its times are by the program."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Literal

from ditto_run.core.place.offsets import Offset
from ditto_run.core.plan.at_work import step_ground
from ditto_run.core.plan.cycles import Press
from ditto_run.core.plan.document import Plan
from ditto_run.core.plan.program_room import ProgramZero, blanks_at, guards_at
from ditto_run.core.plan.programs_open import planned_of
from ditto_run.core.plan.worked import Worked
from ditto_run.core.program.dialect import DIALECTS, Meanings, with_keys
from ditto_run.core.program.given import Given, Planned, Slides, Three, ToolFigures
from ditto_run.core.shop import Machine
from ditto_run.core.tools import ToolStep
from ditto_run.core.tools.cutting.motion import MM_PER_M
from ditto_run.core.tools.cutting.work import Work

KINDS: dict[Work, str] = {"turn": "turn", "bore": "bore", "drill": "drill", "part": "part", "tap": "tap"}


def usual_dialect(machine: Machine | None) -> str:
    """Return the table of meanings of a machine: as Shop has it, else the plain one of its kind."""
    if machine is not None and machine.dialect.reads in DIALECTS:
        return machine.dialect.reads
    return "lathe-ngc" if machine is not None and machine.turns else "mill-ngc"


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
        meanings_of(machine, dialect),
        _slides(machine),
        {code: at for code, at in ((code, _place(one)) for code, one in offsets.items()) if at is not None},
        blanks_at(worked, cycle, zero),
        guards_at(worked, cycle, zero),
        Planned(
            tools,
            codes,
            _stops_after(plan, cycle),
            figures={step.tool: _figures(worked, step) for step in steps},
        ),
    )


def meanings_of(machine: Machine | None, dialect: str) -> Meanings:
    """Return a table of meanings as a machine has it: with its own keys, and with how its control reads G10.

    Args:
        machine: which; None for the ready-made table.
        dialect: name of the table.
    """
    if machine is None:
        return DIALECTS[dialect]
    own = dict(machine.dialect.keys) if dialect == usual_dialect(machine) else {}
    table = with_keys(dialect, own)
    g10 = machine.dialect
    return replace(table, l20="extended" if g10.l20 == "extended" else table.l20, p0=g10.p0, fine=g10.fine)


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
        travel_mm=_travel(machine),
    )


def _travel(machine: Machine) -> tuple[tuple[float, float], ...] | None:
    """From where to where a mill's X and Y go in machine coordinates; Z rests on how tools are measured, and is not told."""
    bed = machine.bed
    if bed is None or machine.turns:
        return None
    left, front, right, back = map(float, bed.reach_mm)
    home_x, home_y = map(float, bed.home_mm)
    return (left - home_x, right - home_x), (front - home_y, back - home_y)


def _stops_after(plan: Plan, cycle: Press) -> tuple[int, ...]:
    """Tools after which somebody gauges or works by hand before the next tool of the setup."""
    found: list[int] = []
    for setup in cycle.setups:
        steps = plan.tools_of(setup)
        for before, step, later in zip(steps, steps[1:], steps[2:], strict=False):
            if before.tool and not step.tool and later.tool:
                found.append(before.tool)
    return tuple(dict.fromkeys(found))


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
