"""Will it hold: the force of vise, chuck or clamps against the cut."""

from collections.abc import Mapping

from ditto_run.core.errors import DittoError
from ditto_run.core.hold.grip_sheets import GRIP
from ditto_run.core.hold.questions.ground import (
    SetupGround,
    cutting,
    mm,
    newtons,
    of_register,
    said,
)
from ditto_run.core.questions import Question, Sourced, practice
from ditto_run.core.sheets import Answer, Entries
from ditto_run.core.sheets.reader import read_as

OTHERS = {
    "vacuum",
    "magnet",
    "nest",
    "fixture plate",
    "pallet",
    "plate",
    "arbor",
    "angle plate",
    "face plate",
}


def _holder(ground: SetupGround) -> Sourced:
    kind = (
        "chuck"
        if ground.in_chuck
        else "clamps"
        if ground.kind == "clamps" or ground.setup.held.straps
        else "vise"
    )
    return of_register(ground, kind) or Sourced(kind, "said", "setup")


def _rated(ground: SetupGround) -> Sourced | None:
    force = ground.holder.rated_n if ground.holder is not None else None
    return of_register(ground, newtons(float(force))) if force is not None else None


def _torque(ground: SetupGround) -> Sourced | None:
    own = said(_torque_in(ground.setup.torque))
    return own or of_register(ground, _torque_in(ground.holder.torque if ground.holder is not None else ""))


def _torque_in(text: str) -> str:
    """Return the text where it is a torque: what else was noted there is no figure."""
    try:
        read_as("torque", text, "mm", "torque")
    except DittoError:
        return ""
    return text


def _screw(ground: SetupGround) -> Sourced | None:
    across = ground.holder.screw_mm if ground.holder is not None else None
    return of_register(ground, mm(across)) if across is not None else None


def _jaw(ground: SetupGround) -> Sourced | None:
    wide = ground.contact.vise.wide if ground.contact is not None else None
    return of_register(ground, mm(wide)) if wide is not None else None


def _gives(ground: SetupGround, _answer: Answer, entries: Entries) -> Mapping[str, str]:
    """The torque it was answered with, where the setup says none yet."""
    torque = entries.text("torque")
    return {"torque": torque} if torque and not ground.setup.torque else {}


GRIP_ASKED: Question[SetupGround] = Question(
    "grip",
    "hold",
    lambda ground: bool(ground.setup.holds) and ground.kind not in OTHERS,
    {
        "holder": (_holder,),
        "cutting": (cutting,),
        "rated": (_rated,),
        "torque": (_torque,),
        "screw": (_screw,),
        "k": (practice("0.2"),),
        "friction": (practice("0.15"),),
        "jaw": (_jaw,),
    },
    GRIP,
    _gives,
)
