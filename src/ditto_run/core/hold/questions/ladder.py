"""The part-off ladder: where the blade stands for each piece of one pull."""

from ditto_run.core.hold.questions.ground import SetupGround, mm, tolerance
from ditto_run.core.hold.stop_sheets import LADDER
from ditto_run.core.questions import Question, Sourced


def _applies(ground: SetupGround) -> bool:
    cuts = ground.stock.get("cuts")
    return ground.on_lathe and cuts is not None and cuts.pull is not None and _parts_off(ground)


def _parts_off(ground: SetupGround) -> bool:
    steps = ground.contact.piece.steps if ground.contact is not None else ()
    return any(step.feature.kind == "cut off" for step in steps) or (ground.is_first and not steps)


def _length(ground: SetupGround) -> Sourced:
    return Sourced(mm(ground.stock["cuts"].full.piece_mm), "computed", "Bars and cuts")


def _kerf(ground: SetupGround) -> Sourced:
    return Sourced(mm(ground.stock["cuts"].full.kerf_mm), "computed", "Bars and cuts")


def _count(ground: SetupGround) -> Sourced:
    return Sourced(str(ground.stock["cuts"].pull.pieces), "computed", "Bars and cuts")


def _across(ground: SetupGround) -> Sourced | None:
    blank = ground.stock.get("blank")
    return Sourced(mm(blank.across_mm), "computed", "Blank") if blank is not None else None


LADDER_ASKED: Question[SetupGround] = Question(
    "ladder",
    "hold",
    _applies,
    {
        "length": (_length,),
        "kerf": (_kerf,),
        "count": (_count,),
        "across": (_across,),
        "tolerance": (tolerance(across=False),),
    },
    LADDER,
)
