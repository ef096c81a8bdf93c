"""How is it cut, pass by pass: diameters, infeeds, layers or pecks, as they are dialled or read off."""

from collections.abc import Mapping
from decimal import Decimal

from ditto_run.core.hold.questions.ground import mm
from ditto_run.core.part.features import Role
from ditto_run.core.questions import Question, Sourced
from ditto_run.core.tools.cutting.paths import BORE_OFF_MM, TURN_DEPTH
from ditto_run.core.tools.hole import pecks_of
from ditto_run.core.tools.passes_sheet import PASSES
from ditto_run.core.tools.questions.at_work import (
    FIRST_INFEED,
    LEAST_INFEED,
    THREAD_DEEP,
    StepGround,
    computed,
)

COMPOUND_DEG = "29.5"  # for a thread of 60°, so that mostly one flank cuts; common practice, no source


def _applies(ground: StepGround) -> bool:
    if ground.work in {"turn", "bore"}:
        end = _finished(ground)
        return (
            end is not None
            and ground.way is not None
            and (ground.work == "bore" or end < (ground.raw_mm or 0))
        )
    if ground.work == "thread":
        return ground.thread is not None
    if ground.work == "mill":
        return ground.deep_mm is not None and ground.way is not None and not ground.finish_only
    return ground.work == "drill" and _pecks(ground) is not None


def _cut(ground: StepGround) -> Sourced | None:
    return Sourced(ground.work, "said", ground.step.name) if ground.work is not None else None


def _finished(ground: StepGround) -> float | None:
    """The smallest diameter it turns, or the largest it bores, [mm]; None where it makes none."""
    found = [
        float(one.sizes[Role.DIAMETER].nominal_base) for one in ground.made if Role.DIAMETER in one.sizes
    ]
    return (max if ground.work == "bore" else min)(found) if found else None


def _left(ground: StepGround) -> float:
    """What roughing leaves on the diameter, [mm]."""
    return 2 * ground.last_mm * (-1 if ground.work == "bore" else 1)


def _start(ground: StepGround) -> Sourced | None:
    end = _finished(ground)
    if ground.work not in {"turn", "bore"} or end is None:
        return None
    if ground.finish_only:
        return Sourced(mm(end + _left(ground)), "practice")
    if ground.work == "bore":
        return Sourced(mm(end - BORE_OFF_MM), "practice")
    return computed(ground.raw_mm, "piece as it goes in")


def _end(ground: StepGround) -> Sourced | None:
    end = _finished(ground)
    if ground.work not in {"turn", "bore"} or end is None:
        return None
    return Sourced(mm(end + _left(ground) if ground.rough_only else end), "drawing", "features")


def _deep(ground: StepGround) -> Sourced | None:
    if ground.work == "thread" and ground.thread is not None:
        return computed(THREAD_DEEP * float(ground.thread.mm(ground.thread.pitch)), ground.thread.name)
    return computed(ground.deep_mm, "features") if ground.work in {"mill", "drill"} else None


def _pecks(ground: StepGround) -> tuple[float, float] | None:
    """The first peck and those after it, [mm]; None where the drill goes down at once."""
    if not ground.across_mm or ground.deep_mm is None:
        return None
    found = pecks_of(Decimal(repr(ground.deep_mm / ground.across_mm)))
    if found.how != "out of the hole":
        return None
    return float(found.first) * ground.across_mm, float(found.then) * ground.across_mm


def _first(ground: StepGround) -> Sourced | None:
    if ground.work == "thread":
        return Sourced(mm(FIRST_INFEED), "practice")
    pecks = _pecks(ground) if ground.work == "drill" else None
    return Sourced(mm(round(pecks[0], 3)), "practice") if pecks is not None else None


def _deepest(ground: StepGround) -> Sourced | None:
    if ground.work == "drill":
        pecks = _pecks(ground)
        return Sourced(mm(round(pecks[1], 3)), "practice") if pecks is not None else None
    if ground.work == "mill" and ground.way is not None:
        return computed(ground.way.deep_mm, "its way")
    if ground.work in {"turn", "bore"}:
        soft = ground.group.soft if ground.group is not None else False
        if ground.deepest_mm is not None and ground.deepest_mm < TURN_DEPTH[soft]:
            return computed(ground.deepest_mm, "its way, as the power allows")
        return Sourced(mm(TURN_DEPTH[soft]), "practice")
    return None


def _least(ground: StepGround) -> Sourced | None:
    return Sourced(mm(LEAST_INFEED), "practice") if ground.work == "thread" else None


def _last(ground: StepGround) -> Sourced | None:
    if ground.work not in {"turn", "bore"} or ground.rough_only:
        return None
    return Sourced(mm(round(ground.last_mm, 3)), "practice")


def _nose(ground: StepGround) -> Sourced | None:
    if ground.work not in {"turn", "bore"} or ground.row is None or not ground.nose_mm:
        return None
    return Sourced(mm(ground.nose_mm), "register", ground.row.name)


def _spring(ground: StepGround) -> Sourced | None:
    return Sourced("1", "practice") if ground.work == "thread" else None


def _compound(ground: StepGround) -> Sourced | None:
    by_dials = ground.machine is not None and ground.machine.is_manual
    return Sourced(f"{COMPOUND_DEG}°", "practice") if ground.work == "thread" and by_dials else None


OF_CUT = {
    "turn": {"start", "end", "deepest", "last", "nose"},
    "bore": {"start", "end", "deepest", "last", "nose"},
    "thread": {"deep", "first", "least", "spring", "compound"},
    "mill": {"deep", "deepest"},
    "drill": {"deep", "first", "deepest"},
}


def _leaves_out(texts: Mapping[str, str]) -> frozenset[str]:
    names = {entry.name for entry in PASSES.entries}
    return frozenset(names - OF_CUT.get(texts["cut"], names) - {"cut"})


PASSES_ASKED: Question[StepGround] = Question(
    "passes",
    "tools",
    _applies,
    {
        "cut": (_cut,),
        "start": (_start,),
        "end": (_end,),
        "deep": (_deep,),
        "first": (_first,),
        "deepest": (_deepest,),
        "least": (_least,),
        "last": (_last,),
        "nose": (_nose,),
        "spring": (_spring,),
        "compound": (_compound,),
    },
    PASSES,
    leaves_out=_leaves_out,
)
