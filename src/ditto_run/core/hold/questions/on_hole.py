"""How far off a piece may sit that is located by a hole on a pin: play, and the error of the hole itself."""

from decimal import Decimal

from ditto_run.core.findings import Finding
from ditto_run.core.hold.questions.ground import SetupGround, tolerance
from ditto_run.core.part.features import Role
from ditto_run.core.questions import Question, Sourced
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.units import length_text, small_mm_text

HALF = Decimal("0.5")  # of a tolerance that locating may take; common practice, no source


def on_hole(entries: Entries, known: Known) -> Answer:
    """Return how far off a piece may sit on its pin, from the play and from where the hole itself is.

    Raises:
        BadEntry: at the field that cannot be used, or if the pin is larger than the hole.

    Source:
        Half the play on either side, and half the width of the zone the hole's middle lies in; own derivation.
    """
    largest, pin = entries.mm("largest", "12.018"), entries.mm("pin", "11.99")
    zone = entries.maybe_mm("zone", above=False) or Decimal(0)
    play = largest - pin
    findings = []
    if play < 0:
        findings.append(
            Finding(
                "hold",
                "stop",
                "pin-too-large",
                f"The pin is {small_mm_text(float(-play), known.unit)} larger than the largest hole.",
                "Take a smaller pin.",
            )
        )
    off = max(play, Decimal(0)) / 2 + zone / 2
    allowed = entries.maybe_mm("allowed")
    if allowed is not None and off > allowed * HALF:
        findings.append(
            Finding(
                "hold",
                "ask",
                "located-loosely",
                f"It may sit {small_mm_text(float(off), known.unit)} off, and the narrowest size made here "
                f"has {length_text(allowed, known.unit)} in all.",
                "Take a tighter or an expanding pin, push all pieces one way, or bore and cut it in one setup.",
            )
        )
    return Answer(
        f"It may sit {small_mm_text(float(off), known.unit)} off.",
        f"{small_mm_text(float(max(play, Decimal(0)) / 2), known.unit)} of it is play, "
        f"{small_mm_text(float(zone / 2), known.unit)} where the hole itself is.",
        (Fact("Play, in all", small_mm_text(float(play), known.unit)),),
        findings=tuple(findings),
        result={"off_mm": off},
        source="own derivation; half of a tolerance for locating is common practice",
    )


ON_HOLE = SheetKind(
    "on_hole",
    "hold",
    "On a hole",
    (
        Entry("largest", "Hole at most, Ø"),
        Entry("pin", "Pin, Ø"),
        Entry("zone", "Hole’s place within"),
        Entry("allowed", "Narrowest tolerance made here"),
    ),
    on_hole,
)


def _largest(ground: SetupGround) -> Sourced | None:
    if ground.on_hole is None:
        return None
    size = ground.on_hole.sizes.get(Role.DIAMETER)
    if size is None:
        return None
    most = size.upper if size.upper is not None else size.nominal
    return Sourced(f"{most:f} {size.unit}", "drawing", "features")


def _zone(ground: SetupGround) -> Sourced | None:
    """The position the drawing allows the hole, where it says one."""
    geometry = ground.on_hole.geometry if ground.on_hole is not None else ()
    found = next((one for one in geometry if "position" in one.name and one.upper is not None), None)
    return Sourced(f"{found.upper:f} {found.unit}", "drawing", "features") if found is not None else None


ON_HOLE_ASKED: Question[SetupGround] = Question(
    "on_hole",
    "hold",
    lambda ground: ground.on_hole is not None and ground.form == "block",
    {"largest": (_largest,), "zone": (_zone,), "allowed": (tolerance(),)},
    ON_HOLE,
)
