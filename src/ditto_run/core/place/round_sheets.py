"""Sheets of finding zero round a middle: bore or boss, a line of holes, reversal, test cut, features, a rotary."""

from decimal import ROUND_HALF_EVEN, Decimal
from math import degrees, hypot

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.place.touch import fit_circle, fit_line
from ditto_run.core.place.touched import (
    NOBODY_MOVES,
    PROBE,
    SHOWN,
    CutPicture,
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
from ditto_run.core.shop.looked_up import MACHINES
from ditto_run.core.units import (
    convert,
    counted,
    degrees_text,
    length_text,
    number_text,
    small_mm_text,
    small_text,
)

EXACT_THREE = 3
OWN = "own derivation"


def bore(entries: Entries, known: Known) -> Answer:
    """Return the middle of a bore or boss, its diameter and how round it is.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    unit = shown_unit(entries, known)
    points = spots(entries, "points", unit, EXACT_THREE)
    inside = entries.choice("kind_of", ("bore", "boss")) == "bore"
    radius = float(entries.mm("probe", "10", above=False)) / 2
    circle = fit_circle(points)
    across = 2 * (circle.r + radius if inside else circle.r - radius)
    if across <= 0:
        raise BadEntry(
            "The boss comes out smaller than nothing.", "Is it a bore? Or is the probe smaller?", "probe"
        )
    facts = [Fact("Diameter", length_text(across, unit), "of the bore" if inside else "of the boss")]
    findings = []
    if len(points) > EXACT_THREE:
        facts.append(
            Fact(
                "Out of round by",
                small_mm_text(circle.out_of_round, unit),
                "farthest outside and inside together",
            )
        )
        worst = max(range(len(points)), key=lambda i: abs(circle.off[i]))
        if over(circle.out_of_round, entries.maybe_mm("round_limit") or Decimal("0.02")):
            findings.append(
                Finding(
                    "place",
                    "ask",
                    "out-of-round",
                    f"Touch {worst + 1} is {small_mm_text(circle.off[worst], unit)} off the circle.",
                    "A chip or a burr there? Clean it and touch again.",
                )
            )
    else:
        facts.append(
            Fact("Out of round by", "not known", "three touches always fit a circle; a fourth tells")
        )
    wanted = entries.maybe_mm("wanted")
    if wanted is not None and over(across - float(wanted), entries.maybe_mm("allowed") or Decimal("0.1")):
        findings.append(
            Finding(
                "place",
                "ask",
                "diameter-differs",
                f"It measures {length_text(across, unit)} and should be {length_text(wanted, unit)}.",
                "Wrong probe size, wrong hole, or the wrong pallet? Look before you set the zero.",
            )
        )
    half = circle.half
    if half is not None:
        facts.append(Fact("Middle sure within", f"±{small_mm_text(half, unit)}", "80 % range"))
    picture = TouchPicture(
        tuple(points), 2 * radius, (circle.x, circle.y), (), (circle.x, circle.y, across / 2)
    )
    return Answer(
        f"{axis_words('X', circle.x, unit)}, {axis_words('Y', circle.y, unit)} is the middle.",
        f"Least squares through {counted(len(points), 'touch')}. {NOBODY_MOVES}",
        tuple(facts),
        findings=tuple(findings),
        zeros=(Zero("x", exact(circle.x), half), Zero("y", exact(circle.y), half)),
        picture=picture,
        picture_says=f"{counted(len(points), 'touch')} and the circle through them.",
        result={"zero_mm": (circle.x, circle.y), "across_mm": across, "off_mm": circle.off},
        source="geometric least squares, " + OWN,
        how=f"{'bore' if inside else 'boss'} by {counted(len(points), 'point')}",
    )


def line(entries: Entries, known: Known) -> Answer:
    """Return the line from one hole to another: its turn from X, its middle, and the distance.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    unit = shown_unit(entries, known)
    points = spots(entries, "points", unit, 2)
    if len(points) != 2:  # noqa: PLR2004 - from one hole to the other
        raise BadEntry(
            "A hole-to-hole line has two holes.", "Type the middle of each, a line each.", "points"
        )
    (x1, y1), (x2, y2) = points
    apart = hypot(x2 - x1, y2 - y1)
    turned = fit_line(points).angle
    drawn = entries.degrees("drawn", -181, 181) or 0.0
    turn = (turned - drawn + 90) % 180 - 90
    facts = [
        Fact(
            "Turned by",
            degrees_text(turn),
            f"{small_text(Decimal(repr(100 * turn / degrees(1))), 'mm')} in 100 mm; left is positive",
        ),
        Fact("Distance", length_text(apart, unit)),
        Fact("Middle", f"{axis_words('X', (x1 + x2) / 2, unit)}, {axis_words('Y', (y1 + y2) / 2, unit)}"),
    ]
    findings = []
    wanted = entries.maybe_mm("wanted")
    if wanted is not None:
        differs = apart - float(wanted)
        facts.append(Fact("Differs from the drawing by", small_mm_text(differs, unit)))
        if over(differs, entries.maybe_mm("allowed") or Decimal("0.1")):
            findings.append(
                Finding(
                    "place",
                    "ask",
                    "distance-differs",
                    f"The holes are {length_text(apart, unit)} apart and should be {length_text(wanted, unit)}.",
                    "Are these the two holes that are meant?",
                )
            )
    at = {"first hole": (x1, y1), "second hole": (x2, y2), "middle": ((x1 + x2) / 2, (y1 + y2) / 2)}[
        entries.choice("zero_at", ("first hole", "second hole", "middle"))
    ]
    return Answer(
        f"It is turned {degrees_text(turn)} from the drawing.",
        f"Turn the piece back by as much, or let the control turn the coordinates. {NOBODY_MOVES}",
        tuple(facts),
        findings=tuple(findings),
        zeros=(Zero("x", exact(at[0])), Zero("y", exact(at[1]))),
        picture=TouchPicture(tuple(points), 0.0, at, (tuple(points),)),
        picture_says="Both holes, the line between them, and the zero.",
        result={"zero_mm": at, "turn_deg": turn, "apart_mm": apart},
        source=OWN,
    )


def reversal(entries: Entries, known: Known) -> Answer:
    """Return what two readings half a turn apart say: the truth is their mean, the lean half their difference.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    unit, what = shown_unit(entries, known), entries.choice("what", ("centre", "square", "level"))
    one, other = repeated(entries, "at_0", unit), repeated(entries, "at_180", unit)
    mean, lean = (one.mean + other.mean) / 2, (one.mean - other.mean) / 2
    half = (
        (one.half**2 + other.half**2) ** 0.5 / 2 if one.half is not None and other.half is not None else None
    )
    findings = [*outliers(one, "at 0°", unit), *outliers(other, "at 180°", unit)]
    facts = [*spread_facts("At 0° within", one, unit), *spread_facts("At 180° within", other, unit)]
    if what == "centre":
        axis = "xyz"[("X", "Y", "Z").index(entries.choice("axis", ("X", "Y", "Z")))]
        facts.insert(
            0,
            Fact(
                "The feature is off centre by",
                small_mm_text(lean, unit),
                "half the difference: the lean at this height",
            ),
        )
        say, why = (
            f"{axis.upper()} {length_text(mean, unit)} is the centre of rotation.",
            "The mean of both readings; whatever is off centre turns round and drops out.",
        )
        zeros: tuple[Zero, ...] = (
            Zero("x" if axis == "x" else "y" if axis == "y" else "z", exact(mean), half),
        )
    else:
        over = float(entries.mm("over", "100"))
        angle = degrees(lean / over) if abs(lean) < over else 90.0
        facts.insert(
            0,
            Fact(
                "The instrument's own error",
                small_mm_text(mean, unit),
                "the mean: it turns round with the instrument",
            ),
        )
        facts.insert(
            0,
            Fact(
                "Out by",
                degrees_text(angle),
                f"{small_mm_text(lean, unit)} over {length_text(over, unit, 1)}",
            ),
        )
        word = "out of square" if what == "square" else "off level"
        say, why = (
            f"It is {small_mm_text(lean, unit)} {word} over {length_text(over, unit, 1)}.",
            "Half the difference is the work, the mean is the instrument.",
        )
        zeros = ()
    return Answer(
        say,
        why,
        tuple(facts),
        findings=tuple(findings),
        zeros=zeros,
        picture=TouchPicture(
            ((one.mean, 0.0), (other.mean, 0.0)), 0.0, (mean, 0.0), (((one.mean, 0.0), (other.mean, 0.0)),)
        ),
        picture_says="Both readings with their mean between them.",
        result={"mean_mm": mean, "lean_mm": lean, "half_mm": half},
        source="rule of the Place step; " + OWN,
        how="reversal",
    )


CUTS = (
    ("outside", "a turned diameter, by the tool tip"),
    ("inside", "a turned bore, by the tool tip"),
    ("face", "a face or length along Z"),
    ("slot", "a slot or pocket, by the cutter's diameter"),
    ("contour", "an outside contour, by the cutter's diameter"),
)


def trial_cut(entries: Entries, known: Known) -> Answer:
    """Return what to add to a tool offset after a test cut, the way this control holds it.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    unit = shown_unit(entries, known)
    machine = known.of(MACHINES).get(entries.whole("machine", 0, 10**9, 0))
    if machine is None:
        raise BadEntry("No machine says how its control or dial counts.", "Choose the machine.", "machine")
    wanted, measured = entries.mm("wanted", "12"), entries.mm("measured", "12.02")
    what = entries.choice("cut", tuple(cut for cut, _ in CUTS))
    too_big = measured - wanted
    # A tool tip moved out makes a turned outside and a bore bigger; a cutter called bigger makes a slot narrower.
    away = -too_big if what == "slot" else too_big
    change = -away if machine.wear.bigger_is == "plus" else away
    if what != "face" and machine.wear.by == "radius":
        change /= 2
    shown = convert(change, "mm", machine.wear.unit)
    step = machine.wear.increment
    rounded = (shown / step).quantize(Decimal(1), ROUND_HALF_EVEN) * step
    text = f"{'+' if rounded > 0 else ''}{number_text(rounded, max(0, -int(step.normalize().as_tuple().exponent)))} {machine.wear.unit}"
    facts = [
        Fact(
            "It came out",
            small_mm_text(too_big, unit),
            "too large" if too_big > 0 else "too small" if too_big < 0 else "as wanted",
        )
    ]
    facts.append(
        Fact(
            "Its dial counts" if machine.is_manual else "This control holds it as",
            machine.wear.by if what != "face" else "a length",
            f"{machine.wear.bigger_is} makes an outside size bigger",
        )
    )
    findings = []
    if abs(too_big) > wanted / 10:
        findings.append(
            Finding(
                "place",
                "ask",
                "test-cut-far",
                f"The cut is {small_mm_text(too_big, unit)} off, over a tenth of the size.",
                "Slipped digit, or radius taken for diameter?",
            )
        )
    what_turns = "dial" if machine.is_manual else "offset"
    add = f"Move the dial by {text}." if machine.is_manual else f"Add {text} to the tool's offset."
    return Answer(
        add if rounded else f"Leave the {what_turns}: the difference is under its least step.",
        f"Then cut again and measure. {machine.name}: what its manual says of signs goes first.",
        tuple(facts),
        findings=tuple(findings),
        picture=CutPicture(float(wanted), float(measured), what in {"inside", "slot"}),
        picture_says=f"Wanted {length_text(wanted, unit)}, measured {length_text(measured, unit)}; the difference is drawn larger.",
        result={"add": str(rounded), "unit": machine.wear.unit},
        source="how the machine counts, as kept on Shop",
    )


PLACES = "X and Y, a line each."
BORE = SheetKind(
    "bore",
    "place",
    "Bore or boss",
    (
        Entry("kind_of", "It is a", kind="choose", choices=("bore", "boss")),
        SHOWN,
        Entry("points", "Touches", kind="area"),
        PROBE,
        Entry("round_limit", "Out of round at most"),
        Entry("wanted", "Diameter should be"),
        Entry("allowed", "May differ by"),
    ),
    bore,
)
LINE = SheetKind(
    "line",
    "place",
    "Hole to hole",
    (
        Entry("points", "Middle of both holes", kind="area"),
        Entry("wanted", "Apart on the drawing"),
        Entry("allowed", "May differ by"),
        Entry("drawn", "Line’s angle on the drawing, °"),
        Entry("zero_at", "Zero at the", kind="choose", choices=("first hole", "second hole", "middle")),
        SHOWN,
    ),
    line,
)
REVERSAL = SheetKind(
    "reversal",
    "place",
    "Reversal",
    (
        Entry("what", "What for", kind="choose", choices=("centre", "square", "level")),
        Entry("at_0", "Reading at 0°"),
        Entry("at_180", "Reading at 180°"),
        Entry("axis", "Axis, for a centre", kind="choose", choices=("X", "Y", "Z")),
        Entry("over", "Over a length, for the others"),
        SHOWN,
    ),
    reversal,
)
TEST_CUT = SheetKind(
    "testcut",
    "place",
    "Test cut",
    (
        Entry("machine", "Machine", kind="machine"),
        Entry("cut", "It was", kind="choose", choices=tuple(value for value, _ in CUTS)),
        Entry("wanted", "Should be"),
        Entry("measured", "Measured"),
        SHOWN,
    ),
    trial_cut,
)
