"""Has the spindle the power: what the cut takes of its machine."""

from ditto_run.core.hold.questions.ground import mm
from ditto_run.core.method.ability import Cut
from ditto_run.core.questions import Question, Sourced
from ditto_run.core.tools.cutting.spent import Limits
from ditto_run.core.tools.questions.at_work import StepGround, computed, of_machine
from ditto_run.core.tools.spindle_sheet import HEAVY, SPINDLE


def _work(ground: StepGround) -> Sourced | None:
    return Sourced(ground.work, "said", ground.step.name) if ground.work in HEAVY else None


def _across(ground: StepGround) -> Sourced | None:
    return None if ground.turning is None else Sourced(mm(ground.turning.across_mm), "computed", "speed")


def _rpm(ground: StepGround) -> Sourced | None:
    if ground.turning is None:
        return None
    return Sourced(f"{ground.turning.speed.rpm:.6g}", "computed", "speed")


def _feed(ground: StepGround) -> Sourced | None:
    return None if ground.turning is None else Sourced(mm(ground.turning.feed_mm), "computed", "speed")


def _depth(ground: StepGround) -> Sourced | None:
    of = "its way" if ground.deepest_mm is None else "its way, as the power allows"
    return computed(ground.way.deep_mm, of) if ground.way is not None else None


def _width(ground: StepGround) -> Sourced | None:
    return computed(ground.way.wide_mm, "its way") if ground.way is not None else None


def _teeth(ground: StepGround) -> Sourced | None:
    if ground.turning is None or ground.work != "mill":
        return None
    return Sourced(str(ground.turning.teeth), "computed", "speed")


def kc11(ground: StepGround) -> Sourced | None:
    """Return the specific cutting force of the material, by the register; None where it has none, [N/mm²]."""
    metal = ground.metal
    return (
        Sourced(f"{metal.kc11:f} N/mm²", "register", metal.name) if metal is not None and metal.kc11 else None
    )


def _mc(ground: StepGround) -> Sourced | None:
    metal = ground.metal
    return Sourced(f"{metal.mc:f}", "register", metal.name) if metal is not None and metal.kc11 else None


def _machine(ground: StepGround) -> Sourced | None:
    return of_machine(ground, ground.machine.name) if ground.machine is not None else None


def _power(ground: StepGround) -> Sourced | None:
    power = ground.machine.ability.power_kw if ground.machine is not None else None
    return of_machine(ground, f"{power:f} kW") if power else None


def _torque(ground: StepGround) -> Sourced | None:
    torque = ground.machine.ability.torque_nm if ground.machine is not None else None
    return of_machine(ground, f"{torque:f} N·m") if torque else None


def _amps(ground: StepGround) -> Sourced | None:
    amps = ground.machine.ability.amps if ground.machine is not None else None
    return of_machine(ground, f"{amps:f}") if amps else None


def _taps(ground: StepGround) -> Sourced | None:
    if ground.machine is None or ground.work != "tap":
        return None
    return of_machine(ground, ground.machine.ability.taps)


def _takes(ground: StepGround) -> Sourced | None:
    step = ground.step
    return Sourced(f"{step.cut_s:g} s", "said", step.name) if step.cut_s and step.at_once == 1 else None


def deepest_mm(ground: StepGround) -> float | None:
    """Return how deep a pass may be where the usual one asks more than the machine has, [mm]; None where it does not.

    Force, torque and power of turning and milling grow as the depth does.
    """
    metal, ability = ground.metal, ground.machine.ability if ground.machine is not None else None
    if ground.turning is None or ground.way is None or metal is None or ability is None or not metal.kc11:
        return None
    if ground.work not in {"turn", "bore", "mill"} or ground.way.deep_mm <= 0:
        return None
    turning, way = ground.turning, ground.way
    cut = Cut(
        HEAVY[ground.work],
        turning.across_mm,
        turning.speed.speed_m_min,
        turning.feed_mm,
        way.deep_mm,
        min(way.wide_mm, turning.across_mm),
        turning.teeth,
    )
    power, torque = (None if has is None else float(has) for has in (ability.power_kw, ability.torque_nm))
    limits = Limits(float(metal.kc11), float(metal.mc), power or None, torque or None)
    share = limits.spent(cut, turning.speed.rpm).share
    return way.deep_mm / share if share is not None and share > 1 else None


SPINDLE_ASKED: Question[StepGround] = Question(
    "spindle",
    "tools",
    lambda ground: ground.work in HEAVY,
    {
        "work": (_work,),
        "across": (_across,),
        "rpm": (_rpm,),
        "feed": (_feed,),
        "depth": (_depth,),
        "width": (_width,),
        "teeth": (_teeth,),
        "kc11": (kc11,),
        "mc": (_mc,),
        "machine": (_machine,),
        "power": (_power,),
        "torque": (_torque,),
        "amps": (_amps,),
        "taps": (_taps,),
        "takes": (_takes,),
    },
    SPINDLE,
)
