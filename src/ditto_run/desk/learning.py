"""What the clocked programs of a machine say of its rapid, acceleration and tool change."""

from dataclasses import replace
from decimal import Decimal

from ditto_run.core.errors import NotNow
from ditto_run.core.program.learned import ClockedProgram, Learned, learn
from ditto_run.core.run.clocked import clocked
from ditto_run.core.shop import Machine
from ditto_run.desk.desk import Desk

HUNDREDTH, TENTH = Decimal("0.01"), Decimal("0.1")


def clocked_programs(desk: Desk, machine_id: int) -> list[ClockedProgram]:
    """Return the programs of a machine whose cycles were clocked while they were chosen, of every job's newest batch.

    Args:
        desk: the desk.
        machine_id: of the machine.
    """
    found: list[ClockedProgram] = []
    for job in desk.jobs.find():
        batches = desk.runs.batches(job.id)
        if not job.plan.programs or not batches:
            continue
        with desk.runs.folded(batches[max(batches)]) as state:
            for choice in state.plan.programs:
                cycle = next((one for one in state.plan.all_cycles if one.key == choice.key), None)
                if (
                    cycle is None
                    or cycle.machine_id != machine_id
                    or choice.parts is None
                    or not choice.is_whole
                ):
                    continue
                said = clocked(state, choice.key)
                if said is not None:
                    name = f"{job.plan.title}, {choice.file}"
                    found.append(ClockedProgram(name, said.loads, said.cycle_s, choice.parts))
    return found


def learned_of(desk: Desk, machine: Machine) -> tuple[list[ClockedProgram], Learned]:
    """Return the clocked programs of a machine, and what they say of it.

    Args:
        desk: the desk.
        machine: which.
    """
    programs = clocked_programs(desk, machine.id)
    ability = machine.ability
    rapid = float(ability.rapid_m_min) if ability.rapid_m_min is not None else None
    accel = float(ability.accel_m_s2) if ability.accel_m_s2 is not None else None
    return programs, learn(programs, rapid, accel) if programs else Learned()


def take_learned(desk: Desk, machine: Machine) -> None:
    """Put what clocked programs say of a machine into the register.

    Raises:
        NotNow: if they say nothing.
    """
    _, found = learned_of(desk, machine)
    if not found.says:
        raise NotNow(
            "The clock says nothing of this machine yet.",
            "Choose programs on Tools and run three full loads.",
        )
    ability = machine.ability
    desk.shop.save_machine(
        replace(
            machine,
            ability=replace(
                ability,
                change_s=_as(found.change_s, TENTH, ability.change_s),
                rapid_m_min=_as(found.rapid_m_min, TENTH, ability.rapid_m_min),
                accel_m_s2=_as(found.accel_m_s2, HUNDREDTH, ability.accel_m_s2),
            ),
        )
    )


def _as(value: float | None, step: Decimal, now: Decimal | None) -> Decimal | None:
    return now if value is None else Decimal(repr(value)).quantize(step)
