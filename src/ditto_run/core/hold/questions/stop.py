"""Where it stops: which stop, at which side, what its repeat takes of the tolerance."""

from collections.abc import Mapping

from ditto_run.core.hold.questions.ground import SetupGround, mm, of_register, tolerance
from ditto_run.core.hold.stop_sheets import STOP
from ditto_run.core.questions import Question, Sourced
from ditto_run.core.sheets import Answer, Entries

NO_STOP = {
    "nest",
    "pallet",
    "plate",
    "fixture plate",
    "arbor",
    "vacuum",
}  # the piece has a place of its own there
SIDES = {"left", "right"}


def _kind(ground: SetupGround) -> Sourced:
    """A chuck or collet is not asked: whether it draws the piece off its stop nobody has said."""
    return Sourced("vise", "said", ground.holder.name if ground.holder is not None else "setup")


def _side(ground: SetupGround) -> Sourced | None:
    if ground.setup.held.to_stop in SIDES:
        return Sourced(ground.setup.held.to_stop, "said", "setup")
    if len(set(ground.sides)) == 1:
        return Sourced(ground.sides[0], "said", "stations")
    habit = (
        ground.machine.bed.stop_side if ground.machine is not None and ground.machine.bed is not None else ""
    )
    return (
        Sourced(habit, "register", ground.machine.name)
        if habit in SIDES and ground.machine is not None
        else None
    )


def _push(ground: SetupGround) -> Sourced | None:
    side = _side(ground)
    return Sourced(side.text, "practice") if side is not None else None


def _repeat(ground: SetupGround) -> Sourced | None:
    repeat = ground.holder.repeat_mm if ground.holder is not None else None
    return of_register(ground, mm(repeat)) if repeat is not None else None


def _height(ground: SetupGround) -> Sourced | None:
    high = ground.setup.held.stop_high_mm
    return Sourced(mm(high), "said", "setup") if high is not None else None


def _gives(_ground: SetupGround, answer: Answer, _entries: Entries) -> Mapping[str, str]:
    return {"stop": f"{answer.say} {answer.why}".strip()}


STOP_ASKED: Question[SetupGround] = Question(
    "stop",
    "hold",
    lambda ground: bool(ground.setup.holds) and ground.kind not in NO_STOP and not ground.in_chuck,
    {
        "kind_of_stop": (_kind,),
        "side": (_side,),
        "push": (_push,),
        "height": (_height,),
        "repeat": (_repeat,),
        "tolerance": (tolerance(at_stop=True),),
    },
    STOP,
    _gives,
    needs=("side",),
)
