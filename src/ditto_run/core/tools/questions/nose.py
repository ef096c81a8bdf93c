"""Which edge, and which way a wall is milled."""

from ditto_run.core.hold.questions.ground import mm
from ditto_run.core.questions import Question, Sourced, practice
from ditto_run.core.tools.cutting.work import ON_AN_EDGE
from ditto_run.core.tools.direction_sheet import DIRECTION
from ditto_run.core.tools.nose_sheet import NOSE
from ditto_run.core.tools.questions.at_work import StepGround, of_machine, plain

SLENDER = 6  # lengths over diameters, from which turned work bends away; common practice, no source
THIN = 6  # lengths over heights, from which a block is thin; own judgement
WALLS = frozenset({"outline", "pocket", "slot", "step"})
BLACK = ("hot rolled", "black", "forged", "casting", "cast iron", "flame cut", "sawn")


def _group(ground: StepGround) -> Sourced | None:
    return Sourced(ground.group.name, "drawing", ground.material) if ground.group is not None else None


def _feed(ground: StepGround) -> Sourced | None:
    return None if ground.turning is None else Sourced(mm(ground.turning.feed_mm), "computed", "speed")


def _nose(ground: StepGround) -> Sourced | None:
    if ground.row is None or not ground.nose_mm:
        return None
    return Sourced(mm(ground.nose_mm), "register", ground.row.name)


def _flank(ground: StepGround) -> Sourced | None:
    insert = ground.row.insert if ground.row is not None else None
    if ground.row is None or insert is None or insert.clearance_deg is None:
        return None
    return Sourced(f"{plain(insert.clearance_deg)}°", "register", ground.row.name)


def _stiff(ground: StepGround) -> Sourced | None:
    if ground.work == "bore":
        return Sourced("bored", "said", ground.step.name)
    if ground.size_mm is None or not ground.size_mm[1]:
        return None
    slender = ground.size_mm[0] / ground.size_mm[1] > SLENDER
    return Sourced("slender" if slender else "stiff", "computed", "the part")


def _is_finish(ground: StepGround) -> bool:
    return ground.work in {"turn", "bore"} and not ground.rough_only


NOSE_ASKED: Question[StepGround] = Question(
    "nose",
    "tools",
    lambda ground: ground.work in ON_AN_EDGE and _is_finish(ground) and bool(ground.made),
    {
        "group": (_group,),
        "ra": (practice("3.2"),),
        "feed": (_feed,),
        "nose": (_nose,),
        "flank": (_flank,),
        "stiff": (_stiff,),
    },
    NOSE,
    needs=("group", "stiff"),
)


def _control(ground: StepGround) -> Sourced | None:
    if ground.machine is None:
        return None
    return of_machine(ground, "dials" if ground.machine.is_manual else "control")


def _skin(ground: StepGround) -> Sourced:
    black = any(word in ground.material.lower() for word in BLACK)
    return Sourced("scale", "drawing", ground.material) if black else Sourced("clean", "practice")


def _wall(ground: StepGround) -> Sourced | None:
    if ground.size_mm is None or not min(ground.size_mm):
        return None
    thin = max(ground.size_mm) / min(ground.size_mm) > THIN
    return Sourced("thin" if thin else "stiff", "computed", "the part")


DIRECTION_ASKED: Question[StepGround] = Question(
    "direction",
    "tools",
    lambda ground: ground.work == "mill" and any(one.kind in WALLS for one in ground.made),
    {"control": (_control,), "skin": (_skin,), "wall": (_wall,)},
    DIRECTION,
    needs=("control", "wall"),
)
