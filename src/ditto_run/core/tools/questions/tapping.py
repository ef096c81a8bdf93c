"""Which way of tapping: by what the machine can do, and what the tap stands."""

from ditto_run.core.questions import Question, Sourced, practice
from ditto_run.core.shop import Ability
from ditto_run.core.tools.questions.at_work import StepGround, of_machine
from ditto_run.core.tools.questions.spindle import kc11
from ditto_run.core.tools.tapping_sheet import TAPPING


def _thread(ground: StepGround) -> Sourced | None:
    return Sourced(ground.thread.name, "drawing", ground.step.name) if ground.thread is not None else None


def _can(ground: StepGround) -> Sourced | None:
    """As its manual was looked up; a machine of which nobody typed anything says nothing."""
    if ground.machine is None or ground.machine.ability == Ability():
        return None
    return of_machine(ground, ground.machine.ability.taps)


def _control(ground: StepGround) -> Sourced | None:
    if ground.machine is None:
        return None
    return of_machine(ground, "dials" if ground.machine.is_manual else "control")


TAPPING_ASKED: Question[StepGround] = Question(
    "tapping",
    "tools",
    lambda ground: ground.work == "tap",
    {
        "thread": (_thread,),
        "percent": (practice("75"),),
        "kc11": (kc11,),
        "can": (_can,),
        "control": (_control,),
    },
    TAPPING,
    needs=("can", "control"),
)
