"""Sheets that say whether it will hold, and whether it will spoil the piece."""

from decimal import Decimal

from ditto_run.core.entry.quantity import quantity_text
from ditto_run.core.findings import Finding, Weight
from ditto_run.core.hold.strength import (
    FACTOR_WANTED,
    nut_shear_area,
    safety_factor,
    strap_clamp,
    stripping_force_n,
    vise_force_n,
)
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.threads import read_thread, tensile_area
from ditto_run.core.units import LengthUnit, length_text, small_text

NEWTONS_PER_LBF = 4.448222
MODULUS = {
    "steel": 210_000.0,
    "aluminium": 70_000.0,
    "brass": 100_000.0,
    "cast iron": 110_000.0,
    "plastic": 3_000.0,
}
SHEAR = {
    "steel": 250.0,
    "aluminium": 165.0,
    "brass": 160.0,
    "cast iron": 150.0,
    "plastic": 30.0,
}  # N/mm², low values; common practice
ENGAGED = {
    "steel": 1.0,
    "aluminium": 2.0,
    "brass": 1.5,
    "cast iron": 1.5,
    "plastic": 2.5,
}  # × D; common practice, no source
MATERIALS = tuple((name, name) for name in MODULUS)
SHALLOW = Decimal("0.25")  # of the height that stands up; common practice, no source
OFF_CENTRE = Decimal("0.25")  # of the jaw's width


def force_text(unit: LengthUnit, newtons: float) -> str:
    """Return a force in the job's unit, the other one in brackets, [N]."""
    return quantity_text("force", newtons, unit)


def grip(entries: Entries, known: Known) -> Answer:
    """Return whether a vise, chuck or clamps hold against the cut.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    cutting = float(entries.quantity("cutting", 0.1, 1e6))
    if entries.has("rated"):
        force, how = float(entries.quantity("rated", 1, 1e6)), "maker's rating"
    else:
        force = vise_force_n(
            float(entries.quantity("torque", 0.1, 1e4)),
            float(entries.mm("screw", "16")),
            float(entries.number("k", 0.05, 0.5, 0.2)),
        )
        how = "from torque and screw"
    surfaces = {"vise": 2, "chuck": 3, "clamps": 2}[entries.choice("holder", ("vise", "chuck", "clamps"))]
    friction = float(entries.number("friction", 0.02, 1.5, 0.15))
    factor = safety_factor(force, friction, surfaces, cutting)
    findings = []
    if factor < FACTOR_WANTED:
        weight: Weight = "stop" if factor < 1 else "ask"
        findings.append(
            Finding(
                "hold",
                weight,
                "grip-weak",
                f"It holds {factor:.1f} times the cutting force; {FACTOR_WANTED:g} is wanted.",
                "Lighter cuts, serrated or dovetail jaws, a stop that takes the force, or more torque within the rating.",
            )
        )
    findings += _depth(entries, known)
    return Answer(
        f"It holds {factor:.1f} times the cut.",
        f"{surfaces} faces, friction {friction:g}, {force_text(known.unit, force)} {how}; oil on the jaws halves it.",
        (
            Fact("Clamping force", force_text(known.unit, force), how),
            Fact("Holds by friction", force_text(known.unit, force * friction * surfaces)),
            Fact("Cutting force", force_text(known.unit, cutting), "from Can the machine do it"),
        ),
        findings=tuple(findings),
        result={"clamp_n": force, "factor": factor},
        source="Coulomb friction; T = K d F",
    )


def _depth(entries: Entries, known: Known) -> list[Finding]:
    found = []
    depth, height = entries.maybe_mm("depth"), entries.maybe_mm("height")
    if depth is not None and height is not None and depth < SHALLOW * height:
        found.append(
            Finding(
                "hold",
                "ask",
                "grip-shallow",
                f"{length_text(depth, known.unit, 1)} is gripped, {length_text(height, known.unit, 1)} stands up and is cut.",
                "Grip a quarter of it at least, use dovetail or biting jaws, or cut lighter; common practice.",
            )
        )
    offset, jaw = entries.maybe_mm("offset", above=False), entries.maybe_mm("jaw")
    if offset is not None and jaw is not None and offset > OFF_CENTRE * jaw:
        found.append(
            Finding(
                "hold",
                "ask",
                "grip-off-centre",
                f"The piece sits {length_text(offset, known.unit, 1)} off the middle of the jaw.",
                "Move it to the middle, or pack the far end with a piece of the same width.",
            )
        )
    return found


GRIP = SheetKind(
    "grip",
    "hold",
    "Will it hold",
    (
        Entry("holder", "Holder", kind="choose", choices=("vise", "chuck", "clamps")),
        Entry("cutting", "Cutting force", quantity="force"),
        Entry("rated", "Rated force", quantity="force"),
        Entry("torque", "Torque", quantity="torque"),
        Entry("screw", "Screw, Ø"),
        Entry("k", "K"),
        Entry("friction", "Friction"),
        Entry("depth", "Gripped"),
        Entry("height", "Stands up"),
        Entry("offset", "Off the jaw’s middle"),
        Entry("jaw", "Jaw width"),
    ),
    grip,
)


def clamps(entries: Entries, known: Known) -> Answer:
    """Return what strap clamps and fixture threads do.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    thread = read_thread(entries.text("thread"))
    material = entries.choice("material", tuple(MODULUS))
    engaged = float(entries.mm("engaged", "12"))
    size = float(thread.mm(thread.major))
    torque = float(entries.quantity("torque", 0.1, 5000))
    pull = vise_force_n(torque, size, float(entries.number("k", 0.05, 0.5, 0.2)))
    strips = stripping_force_n(thread, engaged, SHEAR[material])
    findings: list[Finding] = []
    if engaged < ENGAGED[material] * size:
        findings.append(
            Finding(
                "hold",
                "ask",
                "engagement",
                f"{engaged / size:.1f} × D of thread is engaged in {material}; {ENGAGED[material]:g} × D is usual.",
                "Tap deeper, use an insert, or a through bolt with a nut.",
            )
        )
    if strips < 2 * pull:
        findings.append(
            Finding(
                "hold",
                "stop" if strips < pull else "ask",
                "thread-strips",
                f"The thread strips at {force_text(known.unit, strips)}, the screw pulls {force_text(known.unit, pull)}.",
                "More engagement, less torque, or a steel insert.",
            )
        )
    facts = [
        Fact("Screw pulls", force_text(known.unit, pull), quantity_text("torque", torque, known.unit)),
        Fact(
            "Thread strips at",
            force_text(known.unit, strips),
            f"{material}, {SHEAR[material]:g} N/mm² in shear, low value",
        ),
        Fact(
            "Stressed in the screw",
            f"{pull / (tensile_area(thread) * (1 if thread.unit == 'mm' else 645.16)):.0f} N/mm²",
            "class 8.8 proves 580 to 600",
        ),
        Fact(
            "Shear area of the nut",
            f"{nut_shear_area(thread):.4f}",
            f"{thread.unit}² for each {thread.unit} engaged",
        ),
    ]
    if entries.has("to_work"):
        facts += _strap(entries, known, pull, findings)
    every = entries.whole("every", 1, 10_000, 25)
    facts.append(Fact("Re-torque", f"every {every} pieces", "soft fixtures sooner; common practice"))
    return Answer(
        f"{thread.name} pulls {force_text(known.unit, pull)}; its thread strips at {force_text(known.unit, strips)}.",
        "Short-form torque equation: friction makes it right within a third only; a torque wrench makes it the same each time.",
        tuple(facts),
        findings=tuple(findings),
        result={"pull_n": pull, "strips_n": strips},
        source="T = K d F; FED-STD-H28 stripping",
    )


def _strap(entries: Entries, known: Known, pull: float, findings: list[Finding]) -> list[Fact]:
    strap = strap_clamp(pull, float(entries.mm("to_work")), float(entries.mm("to_heel", "40")))
    heel, toe = entries.maybe_mm("heel"), entries.maybe_mm("toe")
    if heel is not None and toe is not None and heel < toe:
        findings.append(
            Finding(
                "hold",
                "ask",
                "heel-low",
                f"The heel is {small_text(toe - heel, 'mm')} lower than the toe.",
                "Pack the heel level or a hair high, so that the toe presses.",
            )
        )
    gap = entries.maybe_mm("gap", least=Decimal(-1000))
    if gap is not None and gap <= 0:
        findings.append(
            Finding(
                "hold",
                "stop",
                "clamp-bottoms",
                "The clamp bottoms before it holds.",
                "Relieve the fixture under it, or take a thinner clamp.",
            )
        )
    slot, washer = entries.maybe_mm("slot"), entries.maybe_mm("washer")
    if slot is not None and washer is not None and washer < slot * Decimal("1.5"):
        findings.append(
            Finding(
                "hold",
                "ask",
                "slot-span",
                f"The washer spans the slot by {length_text(washer - slot, known.unit, 1)} only.",
                "Take a thick, wide washer: it must not dish into the slot.",
            )
        )
    if strap.share < 0.5:  # noqa: PLR2004 - half of the force
        findings.append(
            Finding(
                "hold",
                "ask",
                "stud-far",
                f"Only {strap.share:.0%} of the stud's force reaches the work.",
                "Move the stud near the work, the heel far.",
            )
        )
    return [
        Fact("Presses on the work", force_text(known.unit, strap.on_work_n), f"{strap.share:.0%} of the stud")
    ]


CLAMPS = SheetKind(
    "clamps",
    "hold",
    "Clamps and bolts",
    (
        Entry("thread", "Screw"),
        Entry("torque", "Torque", quantity="torque"),
        Entry("material", "Tapped in", kind="choose", choices=tuple(value for value, _ in MATERIALS)),
        Entry("engaged", "Engaged"),
        Entry("k", "K"),
        Entry("every", "Re-torque every"),
        Entry("to_work", "Stud to work"),
        Entry("to_heel", "Stud to heel"),
        Entry("heel", "Heel stands at"),
        Entry("toe", "Toe stands at"),
        Entry("gap", "Free gap under it"),
        Entry("slot", "Slot is wide"),
        Entry("washer", "Washer, Ø"),
    ),
    clamps,
)
