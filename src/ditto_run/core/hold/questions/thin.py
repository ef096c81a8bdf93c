"""Thin ring: how far jaws squeeze a thin wall, and what that does to its bore."""

from decimal import Decimal

from ditto_run.core.hold.questions.ground import SetupGround, mm, newtons, of_register, stuff, tolerance
from ditto_run.core.hold.spoil_sheets import THIN
from ditto_run.core.part.shape.body import radius_at
from ditto_run.core.questions import Question, Source, Sourced, practice

THIN_SHARE = 0.1  # of the outside, from which a wall gives under jaws; common practice, no source


def _ring(ground: SetupGround) -> tuple[float, float, float] | None:
    """Outside and inside diameter in the jaws once it is bored, and how long it is gripped, [mm]; None without a bore there."""
    contact = ground.contact
    if contact is None or contact.zone is None or not contact.piece.after.inner:
        return None
    start, end = contact.zone
    outside = 2 * radius_at(contact.piece.before.profile, (start + end) / 2)
    inside = 2 * radius_at(contact.piece.after.inner, (start + end) / 2)
    return (outside, inside, end - start) if 0 < inside < outside else None


def _applies(ground: SetupGround) -> bool:
    ring = _ring(ground)
    return ring is not None and ground.in_chuck and (ring[0] - ring[1]) / 2 <= THIN_SHARE * ring[0]


def _of_ring(which: int) -> Source[SetupGround]:
    def find(ground: SetupGround) -> Sourced | None:
        ring = _ring(ground)
        return Sourced(mm(ring[which]), "computed", "features") if ring is not None else None

    return find


def _force(ground: SetupGround) -> Sourced | None:
    rated = ground.holder.rated_n if ground.holder is not None else None
    return of_register(ground, newtons(float(rated) / 3)) if rated is not None else None


THIN_ASKED: Question[SetupGround] = Question(
    "thin",
    "hold",
    _applies,
    {
        "outside": (_of_ring(0),),
        "inside": (_of_ring(1),),
        "width": (_of_ring(2),),
        "force": (_force,),
        "material": (stuff,),
        "jaws": (practice("3"),),
        "allowed": (tolerance(across=True, share=Decimal("0.5")),),
    },
    THIN,
    needs=("material",),
)
