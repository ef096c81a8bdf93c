"""Nest and jaws: the size of a nest or step, and how far the smallest piece lies off in it."""

from decimal import Decimal

from ditto_run.core.hold.nest_sheet import CLEARANCE, NEST
from ditto_run.core.hold.questions.ground import SetupGround, mm, stuff, tolerance
from ditto_run.core.part import Characteristic
from ditto_run.core.questions import Question, Sourced

NEARLY_MM = Decimal(
    "0.02"
)  # a size that is the piece's own across the nest; beyond it the two are not the same


def _size(ground: SetupGround) -> Characteristic | None:
    """The size with limits that lies across the nest: of the piece as it goes in."""
    if ground.contact is None:
        return None
    across = Decimal(repr(round(ground.contact.lying[1], 4)))
    return next(
        (
            c
            for _, c in ground.sizes
            if c.size.upper is not None and abs(c.size.nominal_base - across) <= NEARLY_MM
        ),
        None,
    )


def _largest(ground: SetupGround) -> Sourced | None:
    size = _size(ground)
    if size is not None and size.size.upper is not None:
        return Sourced(f"{size.size.upper:f} {size.size.unit}", "drawing", size.name)
    return (
        Sourced(mm(ground.contact.lying[1]), "computed", "piece as it goes in")
        if ground.contact is not None
        else None
    )


def _smallest(ground: SetupGround) -> Sourced | None:
    size = _size(ground)
    return (
        Sourced(f"{size.size.lower:f} {size.size.unit}", "drawing", size.name)
        if size is not None and size.size.lower is not None
        else None
    )


NEST_ASKED: Question[SetupGround] = Question(
    "nest",
    "hold",
    lambda ground: (
        ground.kind in {"nest", "pallet"} or bool(ground.setup.held.grip_mm and not ground.on_lathe)
    ),
    {
        "largest": (_largest,),
        "smallest": (_smallest,),
        "clearance": (lambda _ground: Sourced(mm(CLEARANCE), "practice"),),
        "allowed": (tolerance(),),
        "material": (stuff,),
    },
    NEST,
)
