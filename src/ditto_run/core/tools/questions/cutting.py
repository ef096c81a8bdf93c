"""How long does it cut: the way of the tool at its feed, and its moves at the machine's rapid."""

from collections.abc import Mapping

from ditto_run.core.hold.questions.ground import mm
from ditto_run.core.questions import Question, Sourced
from ditto_run.core.sheets import Answer, Entries
from ditto_run.core.tools.cutting.motion import faced_s
from ditto_run.core.tools.cutting_sheet import CUTTING, WHOLE_FROM_S
from ditto_run.core.tools.questions.at_work import StepGround, computed, of_machine, plain

TO_THE_CENTRE = {"face", "part off"}


def _way(ground: StepGround) -> Sourced | None:
    if ground.way is None:
        return None
    held = _held(ground)
    if held is not None:
        return computed(held, "its way, surface speed held")
    return computed(ground.way.feed_mm, "its way")


def _held(ground: StepGround) -> float | None:
    """The way to the centre of turning work as if it was cut at the outer speed all along, [mm]; None where that is not so."""
    machine, turning = ground.machine, ground.turning
    if machine is None or machine.is_manual or turning is None or ground.way is None or not ground.turns:
        return None
    if not ground.made or any(one.kind not in TO_THE_CENTRE for one in ground.made):
        return None
    seconds = faced_s(
        turning.across_mm / 2, 0.0, turning.feed_mm, turning.speed.speed_m_min, turning.speed.end_rpm
    )
    lead = max(ground.way.feed_mm - turning.across_mm / 2, 0.0)
    return lead + seconds / 60 * turning.feed_mm_min


def _feed(ground: StepGround) -> Sourced | None:
    return None if ground.turning is None else Sourced(mm(ground.turning.feed_mm_min), "computed", "speed")


def _moves(ground: StepGround) -> Sourced | None:
    return Sourced(str(ground.way.moves), "computed", "its way") if ground.way is not None else None


def _move(ground: StepGround) -> Sourced | None:
    return computed(ground.way.move_mm, "its way") if ground.way is not None else None


def _rapid(ground: StepGround) -> Sourced:
    own = (
        of_machine(ground, plain(ground.machine.ability.rapid_m_min)) if ground.machine is not None else None
    )
    by_hand = ground.machine is not None and ground.machine.is_manual
    return own or Sourced("2" if by_hand else "15", "practice")


def _accel(ground: StepGround) -> Sourced | None:
    return (
        of_machine(ground, plain(ground.machine.ability.accel_m_s2)) if ground.machine is not None else None
    )


def _turns(ground: StepGround) -> Sourced | None:
    if ground.way is None or not ground.way.turns_back:
        return None
    return Sourced(str(ground.way.turns_back), "computed", "its way")


def _has(ground: StepGround) -> Sourced | None:
    step = ground.step
    return Sourced(f"{step.cut_s:g} s", "said", step.name) if step.cut_s and step.at_once == 1 else None


def seconds_text(seconds: float) -> str:
    """Return a time as it is put into a step: whole seconds, tenths of a short one."""
    return f"{seconds:.0f} s" if seconds >= WHOLE_FROM_S else f"{max(seconds, 0.1):.1f} s"


def _gives(ground: StepGround, answer: Answer, _entries: Entries) -> Mapping[str, str]:
    """Its time; and the change of its machine where the step has none. A time for several pieces at once stays a person's."""
    if ground.step.at_once != 1:
        return {}
    given = {"cut": seconds_text(answer.result.seconds)}
    change = ground.machine.ability.change_s if ground.machine is not None else None
    if change is not None and not ground.step.change_s:
        given["change"] = f"{change:f} s"
    return given


CUTTING_ASKED: Question[StepGround] = Question(
    "cutting",
    "tools",
    lambda ground: ground.work is not None,
    {
        "way": (_way,),
        "feed": (_feed,),
        "moves": (_moves,),
        "move": (_move,),
        "rapid": (_rapid,),
        "accel": (_accel,),
        "turns": (_turns,),
        "has": (_has,),
    },
    CUTTING,
    _gives,
)
