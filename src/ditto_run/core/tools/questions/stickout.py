"""Does it reach: how far the tool has to stand out, against how far it does."""

from ditto_run.core.hold.questions.ground import mm, newtons
from ditto_run.core.questions import Question, Sourced, practice
from ditto_run.core.tools.cutting.work import IN_A_HOLE
from ditto_run.core.tools.questions.at_work import StepGround, computed, edge, of_machine
from ditto_run.core.tools.stickout_sheet import STICKOUT

SIDEWAYS = {"mill", "bore", "part", "turn"}  # what is pushed across itself; a drill is pushed along
REACHES = frozenset({"mill", "bore", "part"}) | IN_A_HOLE


def _tip(ground: StepGround) -> Sourced | None:
    if ground.over_mm is not None and ground.work == "spot" and ground.deep_mm is not None:
        return computed(ground.over_mm + ground.deep_mm, "heights of the setup")
    if ground.tip_mm is not None:
        return computed(ground.tip_mm, "heights of the setup")
    if ground.work == "part":
        return computed(ground.raw_mm / 2, "piece as it goes in") if ground.raw_mm is not None else None
    deep = ground.deep_mm
    return computed(deep + ground.point_mm, "features") if deep is not None else None


def _out(ground: StepGround) -> Sourced | None:
    if ground.step.reach_mm is not None:
        return Sourced(mm(ground.step.reach_mm), "said", ground.step.name)
    if ground.row is not None and ground.row.out_mm is not None:
        return Sourced(mm(ground.row.out_mm), "register", ground.row.name)
    return None


def _cuts(ground: StepGround) -> Sourced | None:
    if ground.work not in {"mill", *IN_A_HOLE} or ground.deep_mm is None:
        return None
    return computed(ground.deep_mm + ground.point_mm, "features")


def _flute(ground: StepGround) -> Sourced | None:
    row = ground.row
    return Sourced(mm(row.flute_mm), "register", row.name) if row is not None and row.flute_mm else None


def _nose(ground: StepGround) -> Sourced | None:
    row = ground.row
    return Sourced(mm(row.nose_mm), "register", row.name) if row is not None and row.nose_mm else None


def _across(ground: StepGround) -> Sourced | None:
    return ground.tool_across


def _work(ground: StepGround) -> Sourced | None:
    return Sourced(ground.work, "said", ground.step.name) if ground.work is not None else None


def _force(ground: StepGround) -> Sourced | None:
    if ground.spent is None or ground.work not in SIDEWAYS or not ground.spent.asked.force_n:
        return None
    return Sourced(newtons(ground.spent.asked.force_n), "computed", "power")


def _longest(ground: StepGround) -> Sourced | None:
    longest = ground.machine.ability.tool_mm if ground.machine is not None else None
    return of_machine(ground, mm(longest)) if longest is not None else None


STICKOUT_ASKED: Question[StepGround] = Question(
    "stickout",
    "tools",
    lambda ground: ground.work in REACHES,
    {
        "tip": (_tip,),
        "clear": (practice("2 mm"),),
        "out": (_out,),
        "cuts": (_cuts,),
        "flute": (_flute,),
        "across": (_across,),
        "nose": (_nose,),
        "work": (_work,),
        "edge": (edge,),
        "force": (_force,),
        "longest": (_longest,),
    },
    STICKOUT,
)
