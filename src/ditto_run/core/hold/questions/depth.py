"""Deep enough in the jaws: how deep it is gripped against what stands up."""

from decimal import Decimal

from ditto_run.core.findings import Finding
from ditto_run.core.hold.grip_sheets import SHALLOW
from ditto_run.core.hold.heights import walls_of
from ditto_run.core.hold.jaws import PLATES
from ditto_run.core.hold.questions.ground import SetupGround, mm
from ditto_run.core.questions import Question, Sourced
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.units import length_text


def depth(entries: Entries, known: Known) -> Answer:
    """Return how deep a piece is gripped, and whether that is a quarter of what stands up.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    gripped, stands = entries.mm("gripped", "8", above=False), entries.mm("stands", "26.5", above=False)
    wanted = SHALLOW * stands
    findings = []
    if gripped < wanted:
        findings.append(
            Finding(
                "hold",
                "ask",
                "grip-shallow",
                f"{length_text(gripped, known.unit, 1)} is gripped, {length_text(stands, known.unit, 1)} stands up and is cut.",
                "Grip a quarter of it at least, use dovetail or biting jaws, or cut lighter; common practice.",
            )
        )
    return Answer(
        f"{length_text(gripped, known.unit, 1)}.",
        f"{length_text(stands, known.unit, 1)} stands up; a quarter of it is {length_text(wanted, known.unit, 1)}.",
        (Fact("Wanted", length_text(wanted, known.unit, 1), "a quarter of what stands up"),),
        findings=tuple(findings),
        result={"gripped_mm": gripped, "wanted_mm": wanted},
        source="common practice, no source",
    )


DEPTH = SheetKind(
    "depth",
    "hold",
    "Depth in the jaws",
    (Entry("gripped", "Gripped"), Entry("stands", "Stands up")),
    depth,
)


def _applies(ground: SetupGround) -> bool:
    if ground.contact is None:
        return ground.kind in {"", "vise", "soft jaws"} and bool(ground.setup.holds) and not ground.on_lathe
    kind = ground.contact.vise.kind
    heights = ground.contact.heights
    return heights is not None and kind not in PLATES and bool(walls_of(ground.setup, kind))


def _gripped(ground: SetupGround) -> Sourced | None:
    heights = ground.contact.heights if ground.contact is not None else None
    if heights is None or heights.grip is None:
        return None
    return Sourced(mm(Decimal(repr(round(heights.grip, 4)))), "computed", _of(ground))


def _stands(ground: SetupGround) -> Sourced | None:
    heights = ground.contact.heights if ground.contact is not None else None
    if heights is None or heights.stands is None:
        return None
    return Sourced(mm(max(heights.stands, 0.0)), "computed", "blank and jaws")


def _of(ground: SetupGround) -> str:
    parallels = ground.setup.held.parallels_mm
    return f"parallels {parallels.normalize():f}" if parallels else "jaws"


DEPTH_ASKED: Question[SetupGround] = Question(
    "depth",
    "hold",
    _applies,
    {"gripped": (_gripped,), "stands": (_stands,)},
    DEPTH,
)
