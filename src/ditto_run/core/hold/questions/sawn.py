"""First chucking on a sawn end: how far the far end leans, and whether facing takes that away."""

from ditto_run.core.findings import Finding
from ditto_run.core.hold.questions.ground import SetupGround, mm
from ditto_run.core.questions import Question, Source, Sourced
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.units import length_text, small_mm_text


def sawn(entries: Entries, known: Known) -> Answer:
    """Return how far a piece that sits on its sawn end leans, and what facing has to take away.

    Raises:
        BadEntry: at the field that cannot be used.

    Source:
        Similar triangles: it leans as its end is out of square; own derivation.
    """
    square = entries.mm("square", "0.3", above=False)
    across, length = entries.mm("across", "40"), entries.mm("length", "90")
    facing = entries.maybe_mm("facing", above=False)
    lean = square * length / across
    findings = []
    if facing is not None and facing < square:
        findings.append(
            Finding(
                "hold",
                "ask",
                "end-not-cleaned",
                f"The sawn end is {length_text(square, known.unit, 2)} out of square, and facing takes "
                f"{length_text(facing, known.unit, 2)}.",
                "Leave more on the ends, or square the blanks first.",
            )
        )
    return Answer(
        f"Its far end leans {small_mm_text(float(lean), known.unit)}.",
        "Push it against the jaws and not against a stop behind it, or face one end of every blank first; "
        "tap it true before the first cut.",
        (Fact("Facing wanted, at least", length_text(square, known.unit, 2), "to clean the end up"),),
        findings=tuple(findings),
        result={"lean_mm": lean},
        source="own derivation",
    )


SAWN = SheetKind(
    "sawn",
    "hold",
    "On a sawn end",
    (
        Entry("square", "Saw out of square"),
        Entry("across", "Over the section"),
        Entry("length", "Blank, long"),
        Entry("facing", "Facing of that end"),
    ),
    sawn,
)


def _of_blank(name: str) -> Source[SetupGround]:
    def find(ground: SetupGround) -> Sourced | None:
        blank = ground.stock.get("blank")
        return Sourced(mm(getattr(blank, f"{name}_mm")), "computed", "Blank") if blank is not None else None

    return find


SAWN_ASKED: Question[SetupGround] = Question(
    "sawn",
    "hold",
    lambda ground: (
        ground.is_first
        and (blank := ground.stock.get("blank")) is not None
        and blank.square_mm > 0
        and bool({"left", "right", "chuck end", "free end"} & set(ground.setup.locates_on))
    ),
    {name: (_of_blank(name),) for name in ("square", "across", "length", "facing")},
    SAWN,
)
