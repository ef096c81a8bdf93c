"""Sheets that say whether it will hold, and whether it will spoil the piece."""

from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding, Weight
from ditto_run.core.hold.strength import (
    FACTOR_WANTED,
    counterweight_kg,
    deflection_mm,
    nut_shear_area,
    safety_factor,
    squeezed_ring,
    strap_clamp,
    stripping_force_n,
    vacuum,
    vise_force_n,
    whirl_force_n,
)
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.threads import read_thread, tensile_area
from ditto_run.core.units import length_text, number_text, small_text

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


def _force(newtons: float) -> str:
    return f"{newtons:,.0f} N ({newtons / NEWTONS_PER_LBF:,.0f} lbf)"


def grip(entries: Entries, known: Known) -> Answer:
    """Return whether a vise, chuck or clamps hold against the cut.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    cutting = float(entries.number("cutting", 0.1, 1e6))
    if entries.has("rated"):
        force, how = float(entries.number("rated", 1, 1e6)), "maker's rating"
    else:
        force = vise_force_n(
            float(entries.number("torque", 0.1, 1e4)),
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
        f"It holds {factor:.1f} times the cut.", f"{surfaces} faces, friction {friction:g}, {_force(force)} {how}; oil on the jaws halves it.",
        (Fact("Clamping force", _force(force), how), Fact("Holds by friction", _force(force * friction * surfaces)), Fact("Cutting force", _force(cutting), "from Can the machine do it")),
        findings=tuple(findings), result={"clamp_n": force, "factor": factor}, source="Coulomb friction; T = K d F",
    )  # fmt: skip


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
    "grip", "hold", "Will it hold", "Force of the vise, chuck or clamps against the cut, grip depth and place in the jaw.",
    (
        Entry("holder", "Holder", kind="choose", choices=(("vise", "vise"), ("chuck", "three-jaw chuck"), ("clamps", "clamps")), pair=True),
        Entry("cutting", "Cutting force, N", "From Method, Can the machine do it."),
        Entry("rated", "Rated force, N", "Of the maker; else torque.", pair=True), Entry("torque", "Torque, N·m"),
        Entry("screw", "Screw, Ø", pair=True), Entry("k", "K", "0.2 dry if empty; 0.15 oiled."),
        Entry("friction", "Friction", "0.15 if empty; 0.3 serrated."),
        Entry("depth", "Gripped", "Depth in the jaws.", pair=True), Entry("height", "Stands up"),
        Entry("offset", "Off the jaw's middle", pair=True), Entry("jaw", "Jaw width"),
    ),
    grip,
)  # fmt: skip


def clamps(entries: Entries, known: Known) -> Answer:
    """Return what strap clamps and fixture threads do.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    thread = read_thread(entries.text("thread"))
    material = entries.choice("material", tuple(MODULUS))
    engaged = float(entries.mm("engaged", "12"))
    size = float(thread.mm(thread.major))
    torque = float(entries.number("torque", 0.1, 5000))
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
                f"The thread strips at {_force(strips)}, the screw pulls {_force(pull)}.",
                "More engagement, less torque, or a steel insert.",
            )
        )
    facts = [
        Fact("Screw pulls", _force(pull), f"{torque:g} N·m"),
        Fact(
            "Thread strips at", _force(strips), f"{material}, {SHEAR[material]:g} N/mm² in shear, low value"
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
        f"{thread.name} pulls {_force(pull)}; its thread strips at {_force(strips)}.", "Short-form torque equation: friction makes it right within a third only; a torque wrench makes it the same each time.",
        tuple(facts), findings=tuple(findings), result={"pull_n": pull, "strips_n": strips}, source="T = K d F; FED-STD-H28 stripping",
    )  # fmt: skip


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
    return [Fact("Presses on the work", _force(strap.on_work_n), f"{strap.share:.0%} of the stud")]


CLAMPS = SheetKind(
    "clamps", "hold", "Clamps and bolts", "Pull of a screw, what reaches the work, and whether the fixture's thread strips.",
    (
        Entry("thread", "Screw", "M8, 1/4-20.", pair=True), Entry("torque", "Torque, N·m"),
        Entry("material", "Tapped in", kind="choose", choices=MATERIALS, pair=True), Entry("engaged", "Engaged"),
        Entry("k", "K", "0.2 dry if empty.", pair=True), Entry("every", "Re-torque every", "25 pieces if empty."),
        Entry("to_work", "Stud to work", "Strap clamp.", pair=True), Entry("to_heel", "Stud to heel"),
        Entry("heel", "Heel stands at", pair=True), Entry("toe", "Toe stands at"),
        Entry("gap", "Free gap under it", pair=True), Entry("slot", "Slot is wide"), Entry("washer", "Washer, Ø"),
    ),
    clamps,
)  # fmt: skip


def thin(entries: Entries, known: Known) -> Answer:
    """Return what the jaws do to a thin ring, and whether an existing hole leaves enough to clean up.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    outside, inside = entries.mm("outside", "60"), entries.mm("inside", "54")
    if inside >= outside:
        raise BadEntry("The ring has no wall.", "The outside is larger than the inside.", "inside")
    wall = float(outside - inside) / 2
    material = entries.choice("material", tuple(MODULUS))
    jaws = entries.whole("jaws", 2, 12, 3)
    ring = squeezed_ring(
        float(entries.number("force", 0.1, 1e6)),
        float(outside + inside) / 4,
        wall,
        float(entries.mm("width", "20")),
        MODULUS[material],
        jaws,
    )
    findings = []
    allowed = entries.maybe_mm("allowed")
    if allowed is not None and ring.lobes_mm > float(allowed):
        safe = float(entries.number("force", 0.1, 1e6)) * float(allowed) / ring.lobes_mm
        findings.append(
            Finding(
                "hold",
                "ask",
                "ring-squashed",
                f"A bore turned so is {small_text(Decimal(repr(ring.lobes_mm)), 'mm')} out of round once it is let go.",
                f"Squeeze {safe:.0f} N a jaw at most, hold it in a nest or with six soft jaws, or clamp it endways.",
            )
        )
    margin = entries.maybe_mm("margin")
    facts = [
        Fact("In under each jaw", small_text(Decimal(repr(ring.in_mm)), "mm")),
        Fact("Out between", small_text(Decimal(repr(ring.out_mm)), "mm")),
        Fact(
            "Bore out of round",
            small_text(Decimal(repr(ring.lobes_mm)), "mm"),
            f"{jaws} lobes, on the radius",
        ),
    ]
    if margin is not None:
        error = entries.mm("hole_error", "0.2", above=False)
        left = margin - error
        facts.append(
            Fact(
                "Clean-up left a side",
                length_text(left, known.unit),
                "allowance less the existing hole's error",
            )
        )
        if left <= 0:
            findings.append(
                Finding(
                    "hold",
                    "ask",
                    "no-clean-up",
                    "Located by its hole, a side does not clean up.",
                    "Leave more, or locate by a machined face; an existing hole copies its own error.",
                )
            )
    return Answer(
        f"Each jaw pushes it in {small_text(Decimal(repr(ring.in_mm)), 'mm')}.", "Elastic: it springs back when it is let go, and what was turned round becomes lobed.",
        tuple(facts), findings=tuple(findings), result=ring, source="ring under equal radial loads, handbooks of stress",
    )  # fmt: skip


THIN = SheetKind(
    "thin", "hold", "Thin ring", "How far jaws squeeze a ring, and what that does to its bore.",
    (
        Entry("outside", "Outside, Ø", pair=True), Entry("inside", "Inside, Ø"), Entry("width", "Width", pair=True), Entry("force", "Force of a jaw, N"),
        Entry("material", "Material", kind="choose", choices=MATERIALS, pair=True), Entry("jaws", "Jaws", "3 if empty."),
        Entry("allowed", "Out of round allowed", "On the radius."), Entry("margin", "Allowance a side", "Located by an existing hole.", pair=True), Entry("hole_error", "Hole off by"),
    ),
    thin,
)  # fmt: skip


def vacuum_plate(entries: Entries, known: Known) -> Answer:  # noqa: ARG001 - every sheet has the same two
    """Return what a vacuum pallet holds.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    x, y = float(entries.mm("x", "100")), float(entries.mm("y", "150"))
    friction = float(entries.number("friction", 0.02, 1.5, 0.2))
    found = vacuum(
        x * y,
        2 * (x + y),
        float(entries.number("vacuum", 0.1, 101.325, 80)),
        float(entries.number("altitude", -400, 5000, 0)),
        friction,
    )
    findings = [
        Finding(
            "hold",
            "note",
            "vacuum-loss",
            "A lost vacuum lets the part fly.",
            "Watch the gauge, stop the spindle first; keep a rim of stops round it and people clear.",
        )
    ]
    cutting = float(entries.number("cutting", 0, 1e6, 0))
    if cutting and found.sideways_n < FACTOR_WANTED * cutting:
        findings.append(
            Finding(
                "hold",
                "stop" if found.sideways_n < cutting else "ask",
                "vacuum-weak",
                f"Friction holds {_force(found.sideways_n)} sideways, the cut pushes {_force(cutting)}.",
                "Stops round the part, a larger area, lighter cuts.",
            )
        )
    facts = [
        Fact("Holds down", _force(found.force_n)),
        Fact("For each mm of seal", f"{found.per_seal_n_mm:.2f} N/mm", "compare pallets by this"),
        Fact("Sideways by friction", _force(found.sideways_n), f"friction {friction:g}"),
    ]
    cord, groove = entries.maybe_mm("cord"), entries.maybe_mm("groove")
    if cord is not None and groove is not None:
        squeeze = (cord - groove) / cord * 100
        facts.append(Fact("Cord is squeezed", f"{number_text(squeeze, 0)} %", "by its measured size"))
        if not 10 <= squeeze <= 35:  # noqa: PLR2004 - common practice
            findings.append(
                Finding(
                    "hold",
                    "ask",
                    "seal-squeeze",
                    f"The cord is squeezed {number_text(squeeze, 0)} %; 10 to 35 % seals.",
                    "Change the groove's depth; measure the cord, it is seldom what it is sold as.",
                )
            )
    return Answer(
        f"It holds {_force(found.force_n)} down.", "Pressure difference times the area inside the seal.", tuple(facts), findings=tuple(findings), result=found, source="F = Δp A; standard atmosphere",
    )  # fmt: skip


VACUUM = SheetKind(
    "vacuum", "hold", "Vacuum", "Force of a vacuum pallet, for each length of seal, against the cut; squeeze of the cord.",
    (
        Entry("x", "Inside the seal, X", pair=True), Entry("y", "Y"), Entry("vacuum", "Gauge shows, kPa", "80 if empty.", pair=True), Entry("altitude", "Altitude, m"),
        Entry("cutting", "Cutting force, N", pair=True), Entry("friction", "Friction", "0.2 if empty."), Entry("cord", "Cord, measured", pair=True), Entry("groove", "Groove depth"),
    ),
    vacuum_plate,
)  # fmt: skip


def overhang(entries: Entries, known: Known) -> Answer:  # noqa: ARG001 - every sheet has the same two
    """Return how far an overhang gives, what would support it, and how a face plate is balanced.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    force, length, across = (
        float(entries.number("force", 0, 1e6)),
        float(entries.mm("length", "100")),
        float(entries.mm("across", "25")),
    )
    modulus = MODULUS[entries.choice("material", tuple(MODULUS))]
    gives = {
        support: deflection_mm(force, length, across, modulus, support)
        for support in ("none", "centre", "both ends")
    }
    support = entries.choice("support", ("none", "centre", "both ends"))
    findings = []
    allowed = entries.maybe_mm("allowed")
    if allowed is not None and gives[support] > float(allowed):
        better = next((word for word in ("centre", "both ends") if gives[word] <= float(allowed)), "")
        way = (
            f"{'A centre' if better == 'centre' else 'A bushing or steady at the far end'} brings it to {small_text(Decimal(repr(gives[better])), 'mm')}."
            if better
            else "Lighter cuts, a shorter overhang, or a steady near the tool."
        )
        findings.append(
            Finding(
                "hold",
                "ask",
                "overhang",
                f"It gives {small_text(Decimal(repr(gives[support])), 'mm')} under the tool, {small_text(allowed, 'mm')} is allowed.",
                way,
            )
        )
    facts = [
        Fact(
            "Alone", small_text(Decimal(repr(gives["none"])), "mm"), f"{length / across:.1f} × diameter out"
        ),
        Fact("With a centre", small_text(Decimal(repr(gives["centre"])), "mm"), "in the middle"),
        Fact("Held at both ends", small_text(Decimal(repr(gives["both ends"])), "mm"), "in the middle"),
    ]
    if entries.has("mass"):
        mass, off, rpm = (
            float(entries.number("mass", 0.001, 500)),
            float(entries.mm("off", "40")),
            float(entries.number("rpm", 1, 5000)),
        )
        pull = whirl_force_n(mass, off, rpm)
        facts.append(Fact("Face plate pulls", _force(pull), f"at {rpm:.0f} rev/min"))
        facts.append(
            Fact(
                "Balance with",
                f"{counterweight_kg(mass, off, float(entries.mm('at', '80'))):.2f} kg",
                "opposite, bolted through",
            )
        )
        findings.append(
            Finding(
                "hold",
                "note",
                "face-plate",
                "An unbalanced face plate shakes loose and throws.",
                "Turn it by hand first, start slow, stay under the plate's and the machine's own limits.",
            )
        )
    return Answer(
        f"It gives {small_text(Decimal(repr(gives[support])), 'mm')} under the tool.", "Elastic; chatter comes sooner than the figure says.", tuple(facts), findings=tuple(findings), result=gives, source="beam theory",
    )  # fmt: skip


OVERHANG = SheetKind(
    "overhang", "hold", "Overhang", "How far it gives, what would support it; balance of a face plate.",
    (
        Entry("length", "Out", pair=True), Entry("across", "Ø"), Entry("force", "Cutting force, N", pair=True), Entry("material", "Material", kind="choose", choices=MATERIALS),
        Entry("support", "Supported", kind="choose", choices=(("none", "not at all"), ("centre", "by a centre"), ("both ends", "at both ends")), pair=True), Entry("allowed", "Allowed to give"),
        Entry("mass", "Face plate: mass off axis, kg", pair=True), Entry("off", "At a radius of"), Entry("rpm", "Speed, rev/min", pair=True), Entry("at", "Balance at a radius of"),
    ),
    overhang,
)  # fmt: skip
