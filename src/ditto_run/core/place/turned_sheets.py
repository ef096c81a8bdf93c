"""Sheets of what lies turned: a pallet or casting by its features, and zeros round a rotary's centre."""

from decimal import Decimal
from math import hypot

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.place.offsets import AXES
from ditto_run.core.place.placed import Spot
from ditto_run.core.place.touch import about, fit_rigid
from ditto_run.core.place.touched import (
    SHOWN,
    TouchPicture,
    axis_words,
    exact,
    over,
    row_of,
    shown_unit,
    spots,
)
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, SheetKind, Zero
from ditto_run.core.sheets.reader import read_as
from ditto_run.core.units import (
    LengthUnit,
    convert,
    counted,
    degrees_text,
    length_text,
    number_text,
    small_mm_text,
)

OWN = "own derivation"


def features(entries: Entries, known: Known) -> Answer:
    """Return how a pallet or casting lies: shift and turn by least squares over its features, and what is left.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    unit = shown_unit(entries, known)
    drawn, found = [], []
    for row in entries.lines("features"):
        parts = row_of(row, unit, "features")
        if len(parts) != 4:  # noqa: PLR2004 - drawn X Y, measured X Y
            raise BadEntry(
                f"“{row[:30]}” is not one feature.", "Type drawn X and Y, then measured X and Y.", "features"
            )
        a, b, c, d = parts
        drawn.append((a, b))
        found.append((c, d))
    fit = fit_rigid(drawn, found)
    findings = []
    if over(fit.worst, entries.maybe_mm("limit") or Decimal("0.02")):
        worst = max(range(len(fit.off)), key=lambda i: hypot(*fit.off[i]))
        findings.append(
            Finding(
                "place",
                "ask",
                "feature-off",
                f"Feature {worst + 1} is {small_mm_text(fit.worst, unit)} from where the others put it.",
                "Measured the wrong hole, or a chip under the pallet?",
            )
        )
    grid = tuple(
        (
            str(n),
            *(small_mm_text(part, unit) for part in off),
            small_mm_text(hypot(*off), unit),
        )
        for n, off in enumerate(fit.off, 1)
    )
    facts = (
        Fact("Turned by", degrees_text(fit.angle), "left is positive"),
        Fact("Worst feature left", small_mm_text(fit.worst, unit), f"{counted(len(drawn), 'feature')}"),
    )
    return Answer(
        f"{axis_words('X', fit.x, unit)}, {axis_words('Y', fit.y, unit)}, turned {degrees_text(fit.angle)}.",
        "Where the drawing's 0,0 lies, by least squares over all features.",
        facts,
        (Grid("What is left at each feature", ("Feature", "X", "Y", "Together"), grid),),
        tuple(findings),
        zeros=(Zero("x", exact(fit.x)), Zero("y", exact(fit.y))),
        picture=TouchPicture(tuple(found), 0.0, (fit.x, fit.y)),
        picture_says="The measured features and the drawing's zero.",
        result={"zero_mm": (fit.x, fit.y), "turn_deg": fit.angle, "off_mm": fit.off},
        source="rigid least squares, " + OWN,
        how=f"{counted(len(drawn), 'feature')}",
    )


PLANES = {"A": ("Y", "Z"), "B": ("Z", "X"), "C": ("X", "Y")}
MOST_ANGLES = 400


def rotary(entries: Entries, known: Known) -> Answer:
    """Return the part's zero at every angle, turned about the stored centre of rotation.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    unit, axis = shown_unit(entries, known), entries.choice("axis", ("A", "B", "C"))
    names = PLANES[axis]
    centre, zero = _pair(entries, "centre", unit), _pair(entries, "zero", unit)
    way = 1 if entries.choice("positive", ("left", "right")) == "left" else -1
    angles = [_angle(text) for text in entries.need("angles", "0 90 180 270").replace(";", " ").split()]
    if len(angles) > MOST_ANGLES:
        raise BadEntry(f"{len(angles)} angles are over {MOST_ANGLES}.", "Type those you cut at.", "angles")
    places = [about(centre, zero, way * angle) for angle in angles]
    rows = tuple(
        (f"{number_text(Decimal(repr(angle)), 3)}°", *(_own(part, unit) for part in place))
        for angle, place in zip(angles, places, strict=True)
    )
    radius = hypot(zero[0] - centre[0], zero[1] - centre[1])
    first = places[0]
    return Answer(
        f"At {number_text(Decimal(repr(angles[0])), 3)}° zero is {names[0]} {length_text(first[0], unit)}, {names[1]} {length_text(first[1], unit)}.",
        f"The part's zero goes round the centre at {length_text(radius, unit)}.",
        (Fact("Radius", length_text(radius, unit), "an error of the centre comes back doubled at 180°"),),
        (Grid(f"Zero at each angle, {unit}", (axis, *names), rows),),
        zeros=tuple(
            Zero(AXES["XYZ".index(name)], exact(part)) for name, part in zip(names, first, strict=True)
        ),
        picture=TouchPicture(tuple(places[:60]), 0.0, centre, (), (*centre, radius)),
        picture_says="The part's zero at each angle, on its circle about the centre.",
        result={"zeros_mm": places},
        source="rotation about a point, " + OWN,
        how=f"about the centre at {angles[0]:g}°",
    )


def _pair(entries: Entries, name: str, unit: LengthUnit) -> Spot:
    found = spots(entries, name, unit)
    if len(found) != 1:
        raise BadEntry(
            f"{entries.label(name)} is one place.", "Type its two coordinates, parted by a space.", name
        )
    return found[0]


def _angle(text: str) -> float:
    value = float(read_as("angle", text, "mm", "angles"))
    if not abs(value) <= 36_000:  # noqa: PLR2004 - a hundred turns
        raise BadEntry(
            f"“{text[:20]}” is over a hundred turns.", "Type degrees, such as 90 or −45.", "angles"
        )
    return value


def _own(value: float, unit: LengthUnit) -> str:
    return number_text(convert(Decimal(repr(value)), "mm", unit), 4 if unit == "in" else 3)


FEATURES = SheetKind(
    "features",
    "place",
    "Fit features",
    (
        Entry("features", "Features", kind="area"),
        Entry("limit", "May be left"),
        SHOWN,
    ),
    features,
)
ROTARY = SheetKind(
    "rotary",
    "place",
    "Rotary zeros",
    (
        Entry("axis", "Turns about", kind="choose", choices=("A", "B", "C")),
        Entry(
            "positive",
            "Positive turns, seen along the axis from its plus end",
            kind="choose",
            choices=("left", "right"),
        ),
        Entry("centre", "Centre of rotation"),
        Entry("zero", "Part’s zero at 0°"),
        Entry("angles", "Angles"),
        SHOWN,
    ),
    rotary,
)
