"""How fast does it turn: handbook, the shop's own, what batches proved, where the machine ends."""

from ditto_run.core.hold.questions.ground import mm
from ditto_run.core.questions import Question, Sourced
from ditto_run.core.tools.cutting.speed import usual_feed_mm
from ditto_run.core.tools.questions.at_work import StepGround, edge, of_machine, plain
from ditto_run.core.tools.speed_sheet import SPEED

TEETH = {"face mill": "4", "end mill": "3", "ball mill": "2"}  # common practice, no source


def _work(ground: StepGround) -> Sourced | None:
    of = ground.row.name if ground.row is not None and ground.row.kind else ground.step.name
    return Sourced(ground.work, "said", of) if ground.work is not None else None


def _across(ground: StepGround) -> Sourced | None:
    return ground.across


def _group(ground: StepGround) -> Sourced | None:
    return Sourced(ground.group.name, "drawing", ground.material) if ground.group is not None else None


def _own(ground: StepGround) -> Sourced | None:
    if ground.metal is None:
        return None
    cuts = edge(ground)
    own = (
        ground.metal.carbide_m_min if cuts is not None and cuts.text == "carbide" else ground.metal.hss_m_min
    )
    is_plain = ground.work in {"turn", "mill"}  # it is kept for them
    return Sourced(f"{own:f} m/min", "register", ground.metal.name) if own is not None and is_plain else None


def _learned(ground: StepGround) -> Sourced | None:
    return (
        None if ground.learned is None else Sourced(f"{ground.learned[0]:.0f}", "learned", ground.learned[1])
    )


def _most(ground: StepGround) -> Sourced | None:
    return of_machine(ground, plain(ground.machine.ability.max_rpm)) if ground.machine is not None else None


def _speeds(ground: StepGround) -> Sourced | None:
    speeds = ground.machine.ability.speeds_rpm if ground.machine is not None else ()
    return of_machine(ground, " ".join(plain(one) for one in speeds))


def _feed(ground: StepGround) -> Sourced | None:
    if ground.group is None or ground.across is None or ground.work is None:
        return None
    across = ground.across_mm or 0.0
    feed = usual_feed_mm(ground.work, across, soft=ground.group.soft, finish=ground.finish_only)
    return Sourced(mm(feed), "practice") if feed else None


def _teeth(ground: StepGround) -> Sourced | None:
    if ground.work != "mill":
        return None
    if ground.row is not None and ground.row.flutes:
        return Sourced(str(ground.row.flutes), "register", ground.row.name)
    kind = ground.row.kind if ground.row is not None else ""
    return Sourced(TEETH.get(kind, TEETH["end mill"]), "practice")


def _pitch(ground: StepGround) -> Sourced | None:
    if ground.work not in {"tap", "thread"} or ground.thread is None:
        return None
    return Sourced(mm(ground.thread.mm(ground.thread.pitch)), "drawing", ground.thread.name)


def _runout(ground: StepGround) -> Sourced | None:
    if ground.row is None or ground.row.runout_mm is None or ground.turns:
        return None
    return Sourced(mm(ground.row.runout_mm), "register", ground.row.name)


SPEED_ASKED: Question[StepGround] = Question(
    "speed",
    "tools",
    lambda ground: ground.work is not None,
    {
        "work": (_work,),
        "across": (_across,),
        "group": (_group,),
        "edge": (edge,),
        "rpm": (_learned,),
        "own": (_own,),
        "most": (_most,),
        "speeds": (_speeds,),
        "feed": (_feed,),
        "teeth": (_teeth,),
        "pitch": (_pitch,),
        "runout": (_runout,),
    },
    SPEED,
)
