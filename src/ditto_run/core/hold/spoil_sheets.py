"""Sheets that say whether holding spoils the piece: thin rings, vacuum, overhang."""

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.hold.grip_sheets import MATERIALS, MODULUS, force_text
from ditto_run.core.hold.strength import (
    FACTOR_WANTED,
    counterweight_kg,
    deflection_mm,
    squeezed_ring,
    vacuum,
    whirl_force_n,
)
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.units import length_text, number_text, small_mm_text


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
        float(entries.quantity("force", 0.1, 1e6)),
        float(outside + inside) / 4,
        wall,
        float(entries.mm("width", "20")),
        MODULUS[material],
        jaws,
    )
    findings = []
    allowed = entries.maybe_mm("allowed")
    if allowed is not None and ring.lobes_mm > float(allowed):
        safe = float(entries.quantity("force", 0.1, 1e6)) * float(allowed) / ring.lobes_mm
        findings.append(
            Finding(
                "hold",
                "ask",
                "ring-squashed",
                f"A bore turned so is {small_mm_text(ring.lobes_mm, known.unit)} out of round once it is let go.",
                f"Squeeze {force_text(known.unit, safe)} a jaw at most, hold it in a nest or with six soft jaws, or clamp it endways.",
            )
        )
    margin = entries.maybe_mm("margin")
    facts = [
        Fact("In under each jaw", small_mm_text(ring.in_mm, known.unit)),
        Fact("Out between", small_mm_text(ring.out_mm, known.unit)),
        Fact(
            "Bore out of round",
            small_mm_text(ring.lobes_mm, known.unit),
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
        f"Each jaw pushes it in {small_mm_text(ring.in_mm, known.unit)}.",
        "Elastic: it springs back when it is let go, and what was turned round becomes lobed.",
        tuple(facts),
        findings=tuple(findings),
        result=ring,
        source="ring under equal radial loads, handbooks of stress",
    )


THIN = SheetKind(
    "thin",
    "hold",
    "Thin ring",
    (
        Entry("outside", "Outside, Ø"),
        Entry("inside", "Inside, Ø"),
        Entry("width", "Width"),
        Entry("force", "Force of a jaw", quantity="force"),
        Entry("material", "Material", kind="choose", choices=tuple(value for value, _ in MATERIALS)),
        Entry("jaws", "Jaws"),
        Entry("allowed", "Out of round allowed"),
        Entry("margin", "Allowance a side"),
        Entry("hole_error", "Hole off by"),
    ),
    thin,
)


def vacuum_plate(entries: Entries, known: Known) -> Answer:
    """Return what a vacuum pallet holds.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    x, y = float(entries.mm("x", "100")), float(entries.mm("y", "150"))
    friction = float(entries.number("friction", 0.02, 1.5, 0.2))
    found = vacuum(
        x * y,
        2 * (x + y),
        float(entries.quantity("vacuum", 0.1, 101.325, 80)),
        float(entries.number("altitude", -400, 5000, 0)),
        friction,
        known.unit,
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
    cutting = float(entries.quantity("cutting", 0, 1e6, 0))
    if cutting and found.sideways_n < FACTOR_WANTED * cutting:
        findings.append(
            Finding(
                "hold",
                "stop" if found.sideways_n < cutting else "ask",
                "vacuum-weak",
                f"Friction holds {force_text(known.unit, found.sideways_n)} sideways, the cut pushes {force_text(known.unit, cutting)}.",
                "Stops round the part, a larger area, lighter cuts.",
            )
        )
    facts = [
        Fact("Holds down", force_text(known.unit, found.force_n)),
        Fact("For each mm of seal", f"{found.per_seal_n_mm:.2f} N/mm", "compare pallets by this"),
        Fact("Sideways by friction", force_text(known.unit, found.sideways_n), f"friction {friction:g}"),
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
        f"It holds {force_text(known.unit, found.force_n)} down.",
        "Pressure difference times the area inside the seal.",
        tuple(facts),
        findings=tuple(findings),
        result=found,
        source="F = Δp A; standard atmosphere",
    )


VACUUM = SheetKind(
    "vacuum",
    "hold",
    "Vacuum",
    (
        Entry("x", "Inside the seal, X"),
        Entry("y", "Y"),
        Entry("vacuum", "Gauge shows", quantity="pressure"),
        Entry("altitude", "Altitude, m"),
        Entry("cutting", "Cutting force", quantity="force"),
        Entry("friction", "Friction"),
        Entry("cord", "Cord, measured"),
        Entry("groove", "Groove depth"),
    ),
    vacuum_plate,
)


def overhang(entries: Entries, known: Known) -> Answer:
    """Return how far an overhang gives, what would support it, and how a face plate is balanced.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    force, length, across = (
        float(entries.quantity("force", 0, 1e6)),
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
            f"{'A centre' if better == 'centre' else 'A bushing or steady at the far end'} brings it to {small_mm_text(gives[better], known.unit)}."
            if better
            else "Lighter cuts, a shorter overhang, or a steady near the tool."
        )
        findings.append(
            Finding(
                "hold",
                "ask",
                "overhang",
                f"It gives {small_mm_text(gives[support], known.unit)} under the tool, {small_mm_text(allowed, known.unit)} is allowed.",
                way,
            )
        )
    facts = [
        Fact("Alone", small_mm_text(gives["none"], known.unit), f"{length / across:.1f} × diameter out"),
        Fact("With a centre", small_mm_text(gives["centre"], known.unit), "in the middle"),
        Fact("Held at both ends", small_mm_text(gives["both ends"], known.unit), "in the middle"),
    ]
    if entries.has("mass"):
        mass, off, rpm = (
            float(entries.quantity("mass", 0.001, 500)),
            float(entries.mm("off", "40")),
            float(entries.number("rpm", 1, 5000)),
        )
        pull = whirl_force_n(mass, off, rpm)
        facts.append(Fact("Face plate pulls", force_text(known.unit, pull), f"at {rpm:.0f} rev/min"))
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
        f"It gives {small_mm_text(gives[support], known.unit)} under the tool.",
        "Elastic; chatter comes sooner than the figure says.",
        tuple(facts),
        findings=tuple(findings),
        result=gives,
        source="beam theory",
    )


OVERHANG = SheetKind(
    "overhang",
    "hold",
    "Overhang",
    (
        Entry("length", "Out"),
        Entry("across", "Ø"),
        Entry("force", "Cutting force", quantity="force"),
        Entry("material", "Material", kind="choose", choices=tuple(value for value, _ in MATERIALS)),
        Entry("support", "Supported", kind="choose", choices=("none", "centre", "both ends")),
        Entry("allowed", "Allowed to give"),
        Entry("mass", "Face plate: mass off axis", quantity="mass"),
        Entry("off", "At a radius of"),
        Entry("rpm", "Speed, rev/min"),
        Entry("at", "Balance at a radius of"),
    ),
    overhang,
)
