"""Where do the minutes go: cut, air, changes, hands and gauging of a load of one setup."""

from ditto_run.core.questions import Question, Sourced, practice
from ditto_run.core.tools.minutes_sheet import MINUTES
from ditto_run.core.tools.questions.lives import ToolsGround

GAUGE_S = 20  # a reading, taken and recorded; common practice, no source


def _seconds(value: float, of: str) -> Sourced | None:
    return Sourced(f"{round(value, 1):g} s", "computed", of) if value > 0 else None


def _pieces(ground: ToolsGround) -> int:
    return max(ground.load, 1)


def _cut(ground: ToolsGround) -> Sourced | None:
    return _seconds(ground.cut_s, "tool steps")


def _air(ground: ToolsGround) -> Sourced | None:
    return _seconds(min(ground.air_s, ground.cut_s), "ways of the tools")


def _change(ground: ToolsGround) -> Sourced | None:
    return _seconds(ground.change_s, "tool steps")


def _hands(ground: ToolsGround) -> Sourced | None:
    handling = ground.setup.handling_s
    return Sourced(f"{handling:g} s", "said", "setup") if handling else None


def _gauge(ground: ToolsGround) -> Sourced | None:
    return (
        Sourced(f"{ground.gauged * GAUGE_S} s", "practice", f"{ground.gauged} × {GAUGE_S} s")
        if ground.gauged
        else None
    )


def _every(ground: ToolsGround) -> Sourced | None:
    return Sourced(str(ground.every), "said", "head of the job") if ground.gauged else None


def _of_load(ground: ToolsGround) -> Sourced:
    return Sourced(str(_pieces(ground)), "computed", "stations")


def _start(ground: ToolsGround) -> Sourced:
    return Sourced(str(ground.pieces), "computed", "how many to start")


def _pace(ground: ToolsGround) -> Sourced | None:
    return None if ground.pace is None else Sourced(f"{ground.pace[0]:.3g}", "learned", ground.pace[1])


MINUTES_ASKED: Question[ToolsGround] = Question(
    "minutes",
    "tools",
    lambda ground: ground.cut_s > 0,
    {
        "cut": (_cut,),
        "air": (_air,),
        "change": (_change,),
        "hands": (_hands,),
        "gauge": (_gauge,),
        "every": (_every,),
        "beside": (practice("yes"),),
        "pieces": (_of_load,),
        "start": (_start,),
        "pace": (_pace,),
    },
    MINUTES,
)
