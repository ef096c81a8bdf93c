"""Sheets of finding zero at edges: one edge, two edges and half, a corner with its skew, and Z."""

from decimal import Decimal
from math import copysign, cos, radians, sin
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.place.placed import Ring, Spot
from ditto_run.core.place.touch import FittedLine, fit_line, meet
from ditto_run.core.place.touched import (
    NOBODY_MOVES,
    PROBE,
    SHOWN,
    SIGN,
    TouchPicture,
    axis_words,
    exact,
    outliers,
    over,
    repeated,
    shown_unit,
    spots,
    spread_facts,
)
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind, Zero
from ditto_run.core.units import degrees_text, length_text, number_text, small_mm_text, small_text

SIDES = ("left", "right", "front", "back")
OWN = "own derivation"


def edge(entries: Entries, known: Known) -> Answer:
    """Return the zero from one edge: the reading and the probe's radius, on the right side.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    unit, side = shown_unit(entries, known), entries.choice("side", SIDES)
    found, radius = repeated(entries, "touches", unit), float(entries.mm("probe", "10", above=False)) / 2
    at_edge = found.mean + SIGN[side] * radius
    inward = float(entries.maybe_mm("inward", above=False) or 0)
    zero = at_edge + SIGN[side] * inward
    axis: Literal["X", "Y"] = "X" if side in {"left", "right"} else "Y"
    return Answer(
        f"{axis_words(axis, zero, unit)} is zero.",
        f"The {side} edge is at {length_text(at_edge, unit)}: the reading {'and' if SIGN[side] > 0 else 'less'} half the probe.",
        tuple(spread_facts("Sure within", found, unit)),
        findings=tuple(outliers(found, f"at the {side} edge", unit)),
        zeros=(Zero("x" if axis == "X" else "y", exact(zero), found.half),),
        picture=_edge_picture(axis, side, found.mean, radius, at_edge, zero),
        picture_says=f"The probe beside the {side} edge, the zero at {length_text(zero, unit)}.",
        result={"zero_mm": zero, "half_mm": found.half},
        source=OWN,
        how=f"{side} edge",
    )


def _edge_picture(
    axis: str, side: str, at: float, radius: float, at_edge: float, zero: float
) -> TouchPicture:
    size = max(30.0, 6 * radius, 2 * abs(zero - at_edge))

    def spot(along: float, across: float) -> Spot:
        return (along, across) if axis == "X" else (across, along)

    far = at_edge + SIGN[side] * size
    edges = ((spot(far, -size / 2), spot(at_edge, -size / 2), spot(at_edge, size / 2), spot(far, size / 2)),)
    return TouchPicture((spot(at, 0.0),), 2 * radius, spot(zero, 0.0), edges)


def halves(entries: Entries, known: Known) -> Answer:
    """Return the middle between two edges, and how wide it is.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    unit = shown_unit(entries, known)
    one, other = repeated(entries, "first", unit), repeated(entries, "second", unit)
    middle, apart = (one.mean + other.mean) / 2, abs(other.mean - one.mean)
    inside = entries.choice("kind_of", ("outside", "inside")) == "inside"
    probe = float(entries.mm("probe", "10", above=False))
    wide = apart + probe if inside else apart - probe
    if wide <= 0:
        raise BadEntry(
            "The two edges are closer than the probe is thick.", "Check the readings and the probe.", "second"
        )
    axis: Literal["X", "Y"] = "Y" if entries.choice("axis", ("X", "Y")) == "Y" else "X"
    half = (
        (one.half**2 + other.half**2) ** 0.5 / 2 if one.half is not None and other.half is not None else None
    )
    facts = [
        Fact(
            "Width",
            length_text(wide, unit),
            "between the probe's readings, its thickness taken off"
            if not inside
            else "the probe's thickness added",
        )
    ]
    facts += [*spread_facts("First edge within", one, unit), *spread_facts("Second edge within", other, unit)]
    findings = [*outliers(one, "at the first edge", unit), *outliers(other, "at the second edge", unit)]
    wanted = entries.maybe_mm("wanted")
    if wanted is not None:
        differs = wide - float(wanted)
        facts.append(
            Fact(
                "Differs from what it should be",
                small_mm_text(differs, unit),
                "wider" if differs > 0 else "narrower",
            )
        )
        if over(differs, entries.maybe_mm("allowed") or Decimal("0.1")):
            findings.append(
                Finding(
                    "place",
                    "ask",
                    "width-differs",
                    f"It measures {length_text(wide, unit)} and should be {length_text(wanted, unit)}.",
                    "Wrong probe size, a chip, or the wrong piece? Look before you set the zero.",
                )
            )
    picture = _halves_picture(axis, one.mean, other.mean, probe / 2, middle, inside=inside)
    return Answer(
        f"{axis_words(axis, middle, unit)} is the middle.",
        "Half way between the two readings; the probe's size drops out.",
        tuple(facts),
        findings=tuple(findings),
        zeros=(Zero("x" if axis == "X" else "y", exact(middle), half),),
        picture=picture,
        picture_says=f"The probe at both edges, the zero half way at {length_text(middle, unit)}.",
        result={"zero_mm": middle, "width_mm": wide, "half_mm": half},
        source=OWN,
        how="two edges and half",
    )


def _halves_picture(
    axis: str, one: float, other: float, radius: float, middle: float, *, inside: bool
) -> TouchPicture:
    low, high = min(one, other), max(one, other)
    by = radius if inside else -radius
    a, b, tall = low - by, high + by, (high - low) / 3

    def spot(along: float, across: float) -> Spot:
        return (along, across) if axis == "X" else (across, along)

    edges = ((spot(a, -tall), spot(a, tall), spot(b, tall), spot(b, -tall), spot(a, -tall)),)
    return TouchPicture((spot(one, 0.0), spot(other, 0.0)), 2 * radius, spot(middle, 0.0), edges)


def corner(entries: Entries, known: Known) -> Answer:
    """Return the corner of two edges and how far the jaw runs out of X.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    unit, radius = shown_unit(entries, known), float(entries.mm("probe", "10", above=False)) / 2
    along, side = (
        entries.choice("jaw_side", ("back", "front")),
        entries.choice("stop_side", ("left", "right")),
    )
    jaw_spots, stop_spots = spots(entries, "along", unit, 2), spots(entries, "stop", unit)
    jaw = _shifted(fit_line(jaw_spots, "along"), radius, towards=(0.0, 1.0 if along == "back" else -1.0))
    if abs(jaw.angle) > 45:  # noqa: PLR2004 - it runs along Y then
        raise BadEntry("The jaw's touches run along Y.", "Touch the jaw from left to right.", "along")
    way = (1.0 if side == "left" else -1.0, 0.0)
    stop = (
        fit_line(stop_spots, "stop")
        if len(stop_spots) > 1
        else FittedLine(stop_spots[0], jaw.angle + 90, 0.0)
    )
    at_stop = _shifted(stop, radius, towards=way)
    x, y = meet(jaw, at_stop)
    square = (at_stop.angle - jaw.angle) % 180 - 90
    facts = [
        Fact(
            "The jaw runs out of X by",
            degrees_text(jaw.angle),
            f"{small_text(Decimal(repr(100 * sin(radians(jaw.angle)))), 'mm')} in 100 mm",
        ),
        Fact("Touches leave the jaw's line by", small_mm_text(jaw.off, unit)),
    ]
    if jaw.half is not None:
        facts.append(Fact("Y sure within", f"±{small_mm_text(jaw.half, unit)}", "80 % range"))
    if len(stop_spots) > 1:
        facts.append(Fact("The stop's edge is out of square by", degrees_text(square)))
    limit = float(entries.turn("skew", 0, 10, 0.05))
    findings = []
    if over(jaw.angle, limit):
        findings.append(
            Finding(
                "place",
                "ask",
                "skew",
                f"The jaw runs {number_text(Decimal(repr(abs(jaw.angle))), 3)}° out of X, over {limit:g}°.",
                "Tap the vise true with an indicator, or let the control turn the coordinates.",
            )
        )
    return Answer(
        f"{axis_words('X', x, unit)}, {axis_words('Y', y, unit)} is the corner.",
        f"Where the {along} jaw's line meets the {side} edge. {NOBODY_MOVES}",
        tuple(facts),
        findings=tuple(findings),
        zeros=(Zero("x", exact(x), at_stop.half), Zero("y", exact(y), jaw.half)),
        picture=_corner_picture(jaw_spots, stop_spots, radius, (x, y), jaw, at_stop),
        picture_says="The touches along the jaw and the stop's edge, the zero in their corner.",
        result={"zero_mm": (x, y), "skew_deg": jaw.angle, "square_deg": square},
        source=OWN,
        how="corner",
    )


def _shifted(line: FittedLine, radius: float, towards: Spot) -> FittedLine:
    """Return a line moved by the probe's radius towards the work."""
    angle = radians(line.angle)
    normal = (-sin(angle), cos(angle))
    way = copysign(1.0, normal[0] * towards[0] + normal[1] * towards[1])
    return FittedLine(
        (line.at[0] + way * radius * normal[0], line.at[1] + way * radius * normal[1]),
        line.angle,
        line.off,
        line.half,
    )


def _corner_picture(
    jaw: list[Spot], stop: list[Spot], radius: float, zero: Spot, one: FittedLine, other: FittedLine
) -> TouchPicture:
    reach = max(abs(x - zero[0]) + abs(y - zero[1]) for x, y in (*jaw, *stop)) + 2 * radius
    ends = []
    for line, far in ((one, jaw), (other, stop)):
        angle = radians(line.angle)
        way = (cos(angle), sin(angle))
        sign = copysign(1.0, sum((x - zero[0]) * way[0] + (y - zero[1]) * way[1] for x, y in far))
        ends.append((zero[0] + sign * reach * way[0], zero[1] + sign * reach * way[1]))
    return TouchPicture((*jaw, *stop), 2 * radius, zero, ((ends[0], zero, ends[1]),))


WAYS_TO_Z = (
    ("direct", "the tip touches the face itself"),
    ("paper", "paper under the tip"),
    ("pad", "a Z pad or gauge block"),
    ("skim", "the face was skimmed"),
    ("half", "half the thickness"),
)


def height(entries: Entries, known: Known) -> Answer:
    """Return Z zero from the reading and what lies between tip and face.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    unit, how = shown_unit(entries, known), entries.choice("how", tuple(way for way, _ in WAYS_TO_Z))
    found = repeated(entries, "touches", unit)
    between = Decimal(0)
    if how != "direct":
        between = entries.mm("between", {"paper": "0.1", "pad": "50", "skim": "0.3", "half": "32"}[how])
    below = float(between) / 2 if how == "half" else float(between)
    lower = float(entries.maybe_mm("lower", above=False) or 0)
    zero = found.mean - below - lower
    why = {
        "direct": "The reading itself.",
        "paper": f"The reading less the paper, {length_text(between, unit)}.",
        "pad": f"The reading less the pad, {length_text(between, unit)}.",
        "skim": f"The skimmed face, and {length_text(between, unit)} still to come off.",
        "half": f"The top face less half of {length_text(between, unit)}.",
    }[how]
    findings = outliers(found, "of Z", unit)
    if how == "paper" and between > Decimal("0.3"):
        findings.append(
            Finding(
                "place",
                "ask",
                "thick-paper",
                f"Paper of {length_text(between, unit)} is thick.",
                "Measure it folded, and divide.",
            )
        )
    return Answer(
        f"{axis_words('Z', zero, unit)} is zero.",
        f"{why} {NOBODY_MOVES}",
        tuple(spread_facts("Sure within", found, unit)),
        findings=tuple(findings),
        zeros=(Zero("z", exact(zero), found.half),),
        picture=_height_picture(found.mean, found.mean - below, zero, how),
        picture_says=f"The tip over the face, zero at {length_text(zero, unit)}.",
        result={"zero_mm": zero, "half_mm": found.half},
        source=OWN,
        how=f"Z by {how}" if how != "direct" else "Z direct",
    )


def _height_picture(tip: float, face: float, zero: float, how: str) -> TouchPicture:
    wide = max(30.0, 3 * abs(tip - zero))
    top = tip if how == "half" else face
    low = min(zero, face) - wide / 4
    edges: tuple[Ring, ...] = (((-wide, low), (-wide, top), (wide, top), (wide, low)),)
    if how in {"paper", "pad"}:
        edges += (((-8.0, face), (-8.0, tip), (8.0, tip), (8.0, face)),)
    return TouchPicture(((0.0, tip),), 0.0, (0.0, zero), edges)


EDGE = SheetKind(
    "edge",
    "place",
    "One edge",
    (
        Entry("side", "Edge of the work", kind="choose", choices=tuple(SIDES)),
        SHOWN,
        Entry("touches", "Touches", kind="area"),
        PROBE,
        Entry("inward", "Zero lies in from the edge"),
    ),
    edge,
)
HALVES = SheetKind(
    "halves",
    "place",
    "Two edges and half",
    (
        Entry("axis", "Along", kind="choose", choices=("X", "Y")),
        Entry("kind_of", "Touched from", kind="choose", choices=("outside", "inside")),
        Entry("first", "First edge"),
        Entry("second", "Second edge"),
        PROBE,
        SHOWN,
        Entry("wanted", "It should be"),
        Entry("allowed", "May differ by"),
    ),
    halves,
)
CORNER = SheetKind(
    "corner",
    "place",
    "Corner and skew",
    (
        Entry("along", "Along the jaw", kind="area"),
        Entry("stop", "At the stop’s edge", kind="area"),
        PROBE,
        SHOWN,
        Entry("jaw_side", "The jaw is at the", kind="choose", choices=("back", "front")),
        Entry("stop_side", "Touched edge is the", kind="choose", choices=("left", "right")),
        Entry("skew", "Skew allowed, °"),
    ),
    corner,
)
HEIGHT = SheetKind(
    "height",
    "place",
    "Z zero",
    (
        Entry("how", "How", kind="choose", choices=tuple(value for value, _ in WAYS_TO_Z)),
        Entry("touches", "Touches", kind="area"),
        Entry("between", "Paper, pad, still to come off, or thickness"),
        Entry("lower", "Zero lies lower by"),
        SHOWN,
    ),
    height,
)
