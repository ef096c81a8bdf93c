"""The program a cycle runs, chosen or given up."""

from dataclasses import dataclass, replace
from typing import Literal

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.plan import Changed, Plan
from ditto_run.core.program.choice import MOST_FAULTS, ProgramChoice
from ditto_run.core.program.said import WORDS


@dataclass(frozen=True, slots=True)
class SetProgram:
    """Choose the program of a cycle, with what was said of it.

    Args:
        choice: the program.
    """

    choice: ProgramChoice
    kind: Literal["set_program"] = "set_program"


@dataclass(frozen=True, slots=True)
class GiveUpProgram:
    """Have no program chosen for a cycle any more."""

    cycle: int
    kind: Literal["give_up_program"] = "give_up_program"


@apply_edit.register
def _set_program(edit: SetProgram, plan: Plan, _shop: PlanRegisters) -> Changed:
    choice = edit.choice
    cycle = next((one for one in plan.all_cycles if one.key == choice.key), None)
    if cycle is None:
        raise NotFound("cycle", choice.key, "Choose one of the cycles of this job.")
    strange = next((one.kind for one in choice.faults if one.kind not in WORDS), None)
    if strange is not None or len(choice.faults) > MOST_FAULTS or not choice.file.strip():
        raise BadEntry("That is no program that was read.", "Read it on Tools, then choose it.", "file")
    others = tuple(one for one in plan.programs if one.key != choice.key)
    return Changed(replace(plan, programs=(*others, choice)), f"{choice.file} is the program of {cycle.name}")


@apply_edit.register
def _give_up(edit: GiveUpProgram, plan: Plan, _shop: PlanRegisters) -> Changed:
    gone = next((one for one in plan.programs if one.key == edit.cycle), None)
    if gone is None:
        raise NotFound("program", edit.cycle, "Choose one of the cycles that has one.")
    kept = tuple(one for one in plan.programs if one.key != edit.cycle)
    return Changed(replace(plan, programs=kept), f"{gone.file} is no cycle’s program any more")
