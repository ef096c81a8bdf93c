"""The taper sheet."""

from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.part.taper import Taper, solve_taper
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, Offer, SheetKind
from ditto_run.core.units import degrees_text, length_text, number_text


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the taper sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    large, small = entries.maybe_mm("large"), entries.maybe_mm("small", above=False)
    length, angle = entries.maybe_mm("length"), entries.degrees("angle", 0, 180)
    half = entries.degrees("slide", 0, 90)
    if angle is not None and half is not None:
        raise BadEntry(
            "Included angle and slide angle are both typed.",
            "Clear one; the slide is half the included angle.",
            "slide",
        )
    large_mm, small_mm, length_mm = (
        None if value is None else float(value) for value in (large, small, length)
    )
    taper = solve_taper(large_mm, small_mm, length_mm, angle if half is None else 2 * half, known.unit)
    facts = [
        Fact("Swivel the slide", degrees_text(taper.slide_deg), "half the included angle"),
        Fact("Included angle", degrees_text(taper.included_deg)),
        Fact("Large end", length_text(taper.large_mm, known.unit)),
        Fact("Small end", length_text(taper.small_mm, known.unit)),
        Fact("Length", length_text(taper.length_mm, known.unit)),
        Fact(
            "Taper",
            f"1 in {number_text(Decimal(repr(1 / taper.growth)), 2)}",
            f"{number_text(Decimal(repr(taper.growth * 12)), 4)} in a foot",
        ),
        Fact("Diameter grows by", length_text(taper.growth, known.unit, 4), "for each mm along the axis"),
        Fact(
            "Feed of the swivelled slide",
            f"{number_text(Decimal(repr(taper.infeed_per_diameter)), 3)} ×",
            "for one of diameter: how far to feed to take the cone down",
        ),
    ]
    facts += _settings(entries, taper, known)
    return Answer(
        f"Swivel the slide {degrees_text(taper.slide_deg)}.",
        "The slide takes half the included angle; try it with the mating part and marking blue before the last cut.",
        tuple(facts),
        offers=(
            Offer("large end", f"Ø{_mm(taper.large_mm)}"),
            Offer("small end", f"Ø{_mm(taper.small_mm)}"),
            Offer("taper length", _mm(taper.length_mm)),
        ),
        picture=taper,
        picture_says=f"Cone from {length_text(taper.small_mm, known.unit)} to {length_text(taper.large_mm, known.unit)} over {length_text(taper.length_mm, known.unit)}.",
        result=taper,
        source="own derivation",
    )


def _mm(value: float) -> str:
    return f"{value:.3f} mm"


def _settings(entries: Entries, taper: Taper, known: Known) -> list[Fact]:
    facts = []
    if (between := entries.maybe_mm("between")) is not None:
        facts.append(
            Fact(
                "Set the tailstock over by",
                length_text(taper.tailstock_mm(float(between)), known.unit),
                "for that length between centres",
            )
        )
    if (bar := entries.maybe_mm("sine_bar")) is not None:
        facts.append(
            Fact(
                "Blocks under the sine bar",
                length_text(taper.sine_stack_mm(float(bar)), known.unit),
                "for the included angle",
            )
        )
    return facts


TAPER = SheetKind(
    "taper",
    "part",
    "Taper",
    (
        Entry("large", "Large end, Ø", length=True),
        Entry("small", "Small end, Ø", length=True),
        Entry("length", "Length", length=True),
        Entry("angle", "Included angle"),
        Entry("slide", "Slide’s angle"),
        Entry("between", "Length between centres"),
        Entry("sine_bar", "Sine bar"),
    ),
    compute,
)
