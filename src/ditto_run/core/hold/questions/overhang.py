"""Overhang: how far work that stands out of a chuck gives under the tool."""

from decimal import Decimal

from ditto_run.core.hold.questions.ground import SetupGround, cutting, mm, stuff, tolerance
from ditto_run.core.hold.spoil_sheets import OVERHANG
from ditto_run.core.questions import Question, Sourced

SLENDER = 3.0  # times its diameter, from which work gives; common practice, no source
A_QUARTER = Decimal("0.25")  # of a tolerance that bending may take; common practice, no source


def _bar(ground: SetupGround) -> tuple[float, float] | None:
    """How far it stands out of the jaws, and its smallest outside there, [mm]; None while not known."""
    contact = ground.contact
    if contact is None or contact.zone is None:
        return None
    after, (start, end) = contact.piece.after, contact.zone
    out = max(start - after.low[0], after.high[0] - end)
    first = start - after.low[0] >= after.high[0] - end
    low, high = (after.low[0], start) if first else (end, after.high[0])
    radii = [radius for at, radius in after.profile if low <= at <= high and radius > 0]
    return (out, 2 * min(radii)) if out > 0 and radii else None


def _applies(ground: SetupGround) -> bool:
    bar = _bar(ground)
    return bar is not None and ground.in_chuck and bar[0] >= SLENDER * bar[1]


def _length(ground: SetupGround) -> Sourced | None:
    bar = _bar(ground)
    return Sourced(mm(bar[0]), "computed", "chuck") if bar is not None else None


def _across(ground: SetupGround) -> Sourced | None:
    bar = _bar(ground)
    return Sourced(mm(bar[1]), "computed", "features") if bar is not None else None


def _support(ground: SetupGround) -> Sourced:
    return Sourced("centre" if ground.setup.centres else "none", "said", "setup")


OVERHANG_ASKED: Question[SetupGround] = Question(
    "overhang",
    "hold",
    _applies,
    {
        "length": (_length,),
        "across": (_across,),
        "force": (cutting,),
        "material": (stuff,),
        "support": (_support,),
        "allowed": (tolerance(across=True, share=A_QUARTER),),
    },
    OVERHANG,
    needs=("material",),
)
