"""How far down the deepest tool goes: against the seat and the bed below it."""

from ditto_run.core.hold.questions.ground import SetupGround, mm
from ditto_run.core.questions import Question, Source, Sourced
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.units import length_text


def reach(entries: Entries, known: Known) -> Answer:
    """Return what is left between the deepest tool and what lies below the piece.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    seat, deepest = entries.mm("seat", "17", above=False), entries.mm("deepest", "12.4", above=False)
    below = seat - deepest
    unit = known.unit
    if below <= 0:
        say, why = f"By {length_text(-below, unit, 1)}.", "It ends in the piece, above the seat."
    else:
        say = f"By {length_text(deepest, unit, 1)}."
        why = f"It goes {length_text(below, unit, 1)} below the seat; so much is left to the bed."
    return Answer(
        say,
        why,
        (
            Fact("Seat above the bed", length_text(seat, unit, 1)),
            Fact("Deepest above the bed", length_text(deepest, unit, 1)),
        ),
        result={"below_mm": below},
        source="own derivation",
    )


REACH = SheetKind(
    "reach",
    "hold",
    "Room below",
    (Entry("seat", "Seat above the bed"), Entry("deepest", "Deepest tool above the bed")),
    reach,
)


def _height(which: str) -> Source[SetupGround]:
    def find(ground: SetupGround) -> Sourced | None:
        heights = ground.contact.heights if ground.contact is not None else None
        at = getattr(heights, which) if heights is not None else None
        name = heights.deepest_name if heights is not None and which == "deepest" else "parallels"
        return Sourced(mm(at), "computed", name) if at is not None and at >= 0 else None

    return find


def _applies(ground: SetupGround) -> bool:
    heights = ground.contact.heights if ground.contact is not None else None
    return heights is not None and heights.deepest is not None and heights.deepest >= 0


REACH_ASKED: Question[SetupGround] = Question(
    "reach",
    "hold",
    _applies,
    {"seat": (_height("seat"),), "deepest": (_height("deepest"),)},
    REACH,
)
