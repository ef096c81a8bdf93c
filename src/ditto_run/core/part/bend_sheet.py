"""The bend sheet: flat length, die and rollers, spring-back from trials."""

from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.entry.rows import lengths_of
from ditto_run.core.errors import BadEntry
from ditto_run.core.part.bend import (
    Bend,
    developed_mm,
    neutral_factor,
    roller_depth_mm,
    set_angle_deg,
    set_radius_mm,
    v_die_mm,
)
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, Offer, SheetKind
from ditto_run.core.units import counted, length_text, number_text

MOST_BENDS = 60


@dataclass(frozen=True, slots=True)
class BendAnswer:
    """What the bend sheet works out, [mm, °]."""

    flat_mm: float
    thickness_mm: float
    factor: float
    set_radius_mm: float | None
    set_angle_deg: float | None


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the bend sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    thickness, from_stock = _thickness(entries, known)
    radius, angle = float(entries.mm("radius", "3", above=False)), float(entries.turn("angle", 1, 360, 90))
    straights = _figures(entries, "straights", known)
    bends = [Bend(angle, radius)] * (len(straights) - 1)
    typed = entries.has("factor")
    factor = float(entries.number("factor", 0, 0.5)) if typed else neutral_factor(radius, thickness)
    flat = developed_mm(straights, bends, thickness, factor)
    opening, by_radius = v_die_mm(thickness, radius)
    trials = _pairs(entries)
    by_angle = entries.choice("trials_in", ("angle", "radius")) == "angle"
    angle_set = set_angle_deg(angle, trials) if trials and by_angle else None
    radius_set = set_radius_mm(radius, trials, known.unit) if trials and not by_angle and radius else None
    facts = [
        Fact("Cut it", length_text(flat, known.unit, 2)),
        Fact("Thickness used", length_text(thickness, known.unit), from_stock),
        Fact(
            "Neutral-axis factor",
            number_text(Decimal(repr(factor)), 2),
            "as typed" if typed else "by radius over thickness; common practice",
        ),
        Fact(
            "Each arc",
            length_text((flat - sum(straights)) / max(len(bends), 1), known.unit, 2),
            f"{counted(len(bends), 'bend')} of {angle:g}°",
        ),
        Fact("V die, usual opening", length_text(opening, known.unit, 1), "8 × thickness; common practice"),
        Fact(
            "V die for this radius",
            length_text(by_radius, known.unit, 1),
            "6 × inside radius; common practice",
        ),
    ]
    if angle_set is not None:
        facts.append(
            Fact("Bend to", f"{number_text(Decimal(repr(angle_set)), 1)}°", f"springs back to {angle:g}°")
        )
    if radius_set is not None:
        facts.append(
            Fact("Form round", length_text(radius_set, known.unit, 2), "springs back to the radius wanted")
        )
    spacing, roller = entries.maybe_mm("spacing"), entries.maybe_mm("roller")
    if spacing is not None and roller is not None:
        depth = roller_depth_mm(radius_set or radius, thickness, float(spacing), float(roller), known.unit)
        facts.append(
            Fact("Middle roller in by", length_text(depth, known.unit, 2), "from touching the flat strip")
        )
    return Answer(
        f"Cut the flat {length_text(flat, known.unit, 2)} long.",
        f"{counted(len(straights), 'straight')} and {counted(len(bends), 'arc')} on the neutral line; prove the first blank before cutting them all.",
        tuple(facts),
        offers=(Offer("flat length", f"{flat:.2f} mm"),),
        result=BendAnswer(flat, thickness, factor, radius_set, angle_set),
        source="own derivation; factors are common practice",
    )


def _thickness(entries: Entries, known: Known) -> tuple[float, str]:
    key = entries.text("stock")
    if key.isdigit() and int(key) in known.stock:
        size = known.stock[int(key)]
        word = f"{size.name}, measured" if size.measured else f"{size.name}, as sold: measure it"
        return float(size.used_mm(known.unit)), word
    return float(entries.mm("thickness", "3")), "as typed"


def _figures(entries: Entries, name: str, known: Known) -> list[float]:
    values = [float(length) for length in lengths_of(entries.need(name, "20 30 20"), known.unit, name)]
    if not 2 <= len(values) <= MOST_BENDS:  # noqa: PLR2004 - one bend has two straights
        raise BadEntry(
            "A bent form has two straights or more.",
            "Type them in order, such as 20 30 20; 0 if there is none.",
            name,
        )
    if min(values) < 0 or not sum(values) < 1e6:  # noqa: PLR2004
        raise BadEntry("A straight is below zero.", "Type 0 where there is none.", name)
    return values


def _pairs(entries: Entries) -> list[tuple[float, float]]:
    found = []
    for line in entries.text("trials").replace(";", "\n").splitlines():
        if not line.strip():
            continue
        figures = [float(length) for length in lengths_of(line, "mm", "trials")]
        if len(figures) != 2:  # noqa: PLR2004 - set and left
            raise BadEntry(
                f"“{line.strip()[:30]}” is not a trial.",
                "Type what was set and what was left, such as 92 90.",
                "trials",
            )
        first, second = figures
        if first <= 0 or second <= 0:
            raise BadEntry(
                "A trial has a figure that is not above zero.",
                "Type what was set and what was left.",
                "trials",
            )
        found.append((first, second))
    return found


BEND = SheetKind(
    "bend",
    "part",
    "Bend",
    (
        Entry("stock", "Thickness of", kind="stock"),
        Entry("thickness", "Its thickness", length=True),
        Entry("radius", "Inside radius", length=True),
        Entry("angle", "Each bend, °"),
        Entry("straights", "Straights in order"),
        Entry("factor", "Neutral-axis factor"),
        Entry("trials", "Trials: set, left", kind="area"),
        Entry("trials_in", "Trials are", kind="choose", choices=("angle", "radius")),
        Entry("spacing", "Outer rollers apart"),
        Entry("roller", "Outer roller, Ø"),
    ),
    compute,
)
