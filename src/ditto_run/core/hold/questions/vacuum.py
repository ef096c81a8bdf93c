"""Vacuum: what a vacuum plate holds against the cut."""

from ditto_run.core.hold.questions.ground import SetupGround, cutting, mm
from ditto_run.core.hold.spoil_sheets import VACUUM
from ditto_run.core.questions import Question, Source, Sourced, practice


def _footprint(axis: int) -> Source[SetupGround]:
    """Inside the seal it is at most the footprint of the piece: how much less nobody has said."""

    def find(ground: SetupGround) -> Sourced | None:
        return (
            Sourced(mm(ground.contact.lying[axis]), "guess", "footprint")
            if ground.contact is not None
            else None
        )

    return find


VACUUM_ASKED: Question[SetupGround] = Question(
    "vacuum",
    "hold",
    lambda ground: ground.kind == "vacuum",
    {
        "x": (_footprint(0),),
        "y": (_footprint(1),),
        "vacuum": (practice("80 kPa"),),
        "cutting": (cutting,),
        "friction": (practice("0.2"),),
    },
    VACUUM,
)
