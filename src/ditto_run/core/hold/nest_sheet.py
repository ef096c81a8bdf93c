"""The sheet of nests, stepped jaws, jacks and arbors."""

from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.hold.grip_sheets import MATERIALS, MODULUS
from ditto_run.core.hold.nests import carried_runout_mm, fits_in, jack_lift_mm, nest_error_mm, nest_size_mm
from ditto_run.core.hold.stop_sheets import sizes_of
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.units import MM_PER_INCH, length_text, small_mm_text, small_text

CLEARANCE = Decimal("0.02")  # on each side, for a part that is put in by hand; common practice, no source


def nest(entries: Entries, known: Known) -> Answer:
    """Return the answer of the nest sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    largest, smallest = entries.mm("largest", "31.55"), entries.maybe_mm("smallest")
    clearance = entries.maybe_mm("clearance", above=False)
    clearance = CLEARANCE if clearance is None else clearance
    if smallest is not None and smallest > largest:
        raise BadEntry("The smallest part is above the largest.", "Swap them.", "smallest")
    size = nest_size_mm(largest, clearance)
    facts, findings = (
        [
            Fact(
                "Nest or step",
                length_text(size, known.unit),
                f"{length_text(clearance, known.unit)} on each side",
            )
        ],
        [],
    )
    if smallest is not None:
        error = nest_error_mm(size, smallest)
        facts.append(Fact("The smallest lies off by", small_mm_text(error, known.unit), "half the play"))
        findings += _too_loose(entries, error, known)
    if entries.has("others"):
        scale = MM_PER_INCH if known.unit == "in" else Decimal(1)
        others = [value * scale for value in sizes_of(entries, "others", known.unit)]
        fitting = fits_in(size, clearance, others, entries.maybe_mm("play") or 4 * clearance + Decimal("0.1"))
        facts.append(
            Fact(
                "Also fits", ", ".join(length_text(value, known.unit) for value in fitting) or "none of them"
            )
        )
    _jack(entries, known, facts, findings)
    if entries.has("arbor"):
        seats = [entries.maybe_mm(name, above=False) or Decimal(0) for name in ("seat_a", "seat_b")]
        facts.append(
            Fact(
                "Run-out once carried over",
                small_text(carried_runout_mm(entries.mm("arbor", "0.01", above=False), seats), "mm"),
                "arbor and both seats, at worst",
            )
        )
    return Answer(
        f"Make it {length_text(size, known.unit)}.",
        "A plain step and a pin beat a contour unless looks or shape need it; relieve the corners for burrs and chips.",
        tuple(facts),
        findings=tuple(findings),
        result={"nest_mm": size},
        source="own derivation; beam theory",
    )


def _too_loose(entries: Entries, error: Decimal, known: Known) -> list[Finding]:
    allowed = entries.maybe_mm("allowed")
    if allowed is None or error <= allowed:
        return []
    return [
        Finding(
            "hold",
            "ask",
            "nest-loose",
            f"In this nest the smallest part lies {small_mm_text(error, known.unit)} off, {small_mm_text(allowed, known.unit)} is allowed.",
            "Less clearance, narrower limits of the blank, or push it to one side.",
        )
    ]


def _jack(entries: Entries, known: Known, facts: list[Fact], findings: list[Finding]) -> None:
    if not entries.has("jack"):
        return
    modulus = MODULUS[entries.choice("material", tuple(MODULUS))]
    lift = jack_lift_mm(
        float(entries.quantity("jack", 0.1, 1e6)),
        float(entries.mm("span", "120")),
        float(entries.mm("width", "40")),
        float(entries.mm("thick", "10")),
        modulus,
    )
    facts.append(
        Fact("The jack lifts it", small_mm_text(lift, known.unit), "set it with an indicator on the work")
    )
    limit = entries.maybe_mm("indicator")
    if limit is not None and lift > float(limit):
        findings.append(
            Finding(
                "hold",
                "ask",
                "jack-lifts",
                f"The jack lifts the piece {small_mm_text(lift, known.unit)}, the indicator may show {small_mm_text(limit, known.unit)}.",
                "Turn it in until the hand just moves, then lock it.",
            )
        )


NEST = SheetKind(
    "nest",
    "hold",
    "Nest and jaws",
    (
        Entry("largest", "Largest part", length=True),
        Entry("smallest", "Smallest part", length=True),
        Entry("clearance", "Clearance, each side"),
        Entry("allowed", "May lie off by"),
        Entry("others", "Other sizes"),
        Entry("play", "Most play"),
        Entry("jack", "Jack pushes", quantity="force"),
        Entry("indicator", "Indicator may show"),
        Entry("span", "Between clamps"),
        Entry("width", "Plate, wide"),
        Entry("thick", "Plate, thick"),
        Entry("material", "Of", kind="choose", choices=tuple(value for value, _ in MATERIALS)),
        Entry("arbor", "Arbor runs out"),
        Entry("seat_a", "Seat on the first machine"),
        Entry("seat_b", "Seat on the second"),
    ),
    nest,
)
