"""The program a cycle runs, chosen or given up."""

from dataclasses import dataclass, replace
from typing import Literal

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.plan import Changed, Plan
from ditto_run.core.program.choice import MOST_FAULTS, ProgramChoice, Trouble
from ditto_run.core.program.said import WORDS

MOST_TROUBLE = 200  # letters


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


@dataclass(frozen=True, slots=True)
class SetTrouble:
    """Write down what went wrong with a program at the machine, or say later what mended it.

    Args:
        cycle: whose program it was.
        what: went wrong.
        file: the program and its line.
        mended: what helped.
        key: of one that is there.
    """

    cycle: int
    what: str
    file: str = ""
    mended: str = ""
    key: int | None = None
    kind: Literal["set_trouble"] = "set_trouble"


@apply_edit.register
def _set_trouble(edit: SetTrouble, plan: Plan, _shop: PlanRegisters) -> Changed:
    cycle = next((one for one in plan.all_cycles if one.key == edit.cycle), None)
    if cycle is None:
        raise NotFound("cycle", edit.cycle, "Choose one of the cycles of this job.")
    what, file, mended = (
        " ".join(text.split())[:MOST_TROUBLE] for text in (edit.what, edit.file, edit.mended)
    )
    if not what:
        raise BadEntry(
            "Nothing says what went wrong.", "Type it in a few words, such as drill broke at 12 mm.", "what"
        )
    key = plan.number_for(Trouble, edit.key)
    said = f"{what} is mended by {mended}" if mended else f"{what} is written down"
    return Changed(plan.put(Trouble(key, cycle.key, what, file, mended)), f"trouble of {cycle.name}: {said}")


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
