"""Sheets of paths: dial and read-out, segments, gang strip."""

from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.hold.segments import segment
from ditto_run.core.hold.stop_sheets import NOTHING, own_text, sizes_of
from ditto_run.core.hold.stops import Dials, depth_steps, dial_of, rectangle_laps
from ditto_run.core.part.profile import read_profile
from ditto_run.core.part.shape.measures import MEASURES
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, SheetKind
from ditto_run.core.stock.bars import cut_bar
from ditto_run.core.units import MM_PER_INCH, counted, length_text, number_text

MOST_DIALS = 5  # hand-wheels in the picture


def dial(entries: Entries, known: Known) -> Answer:
    """Return the answer of the dial and read-out sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    per_turn, divisions = entries.mm("per_turn", "2"), entries.whole("divisions", 1, 2000, 100)
    r = (entries.maybe_mm("cutter") or NOTHING) / 2
    rows, result = [], []
    for value in sizes_of(entries, "places", known.unit):
        place = value if known.unit == "mm" else value * MM_PER_INCH
        found = dial_of(place, per_turn, divisions)
        result.append((place, found))
        rows.append(
            (
                own_text(place, known.unit),
                own_text(place - r, known.unit),
                own_text(place + r, known.unit),
                str(found.turns),
                f"{found.divisions} + {number_text(found.rest, 1)}",
                f"{number_text(found.clock_h, 1)} h",
            )
        )
    grids = [
        Grid(
            f"From zero, {known.unit}; always wound in from the same side",
            ("Place", "Less radius", "Plus radius", "Turns", "Divisions", "Clock"),
            tuple(rows),
        )
    ]
    if entries.has("width") and entries.has("height"):
        grids += _laps(entries, known, 2 * r)
    touched = (
        entries.maybe_mm("touch_a", least=Decimal(-100_000)),
        entries.maybe_mm("touch_b", least=Decimal(-100_000)),
    )
    facts = []
    if touched[0] is not None and touched[1] is not None:
        facts.append(
            Fact(
                "Centre by halves",
                length_text((touched[0] + touched[1]) / 2, known.unit),
                "touch both sides with the same finder",
            )
        )
    return Answer(
        f"{counted(len(rows), 'place')}, {rows[0][3]} turns and {rows[0][4]} divisions to the first.",
        "Wind in from the same side, past and back when over; lock the slide, then cut.",
        tuple(facts),
        tuple(grids),
        picture=Dials(tuple(result[:MOST_DIALS])),
        picture_says="Hand-wheel for each place, the zero mark as on a clock face.",
        result=tuple(result),
        source="own derivation",
    )


def _laps(entries: Entries, known: Known, cutter: Decimal) -> list[Grid]:
    width, height = entries.mm("width"), entries.mm("height")
    laps = rectangle_laps(
        width, height, cutter, climb=entries.choice("milling", ("conventional", "climb")) == "climb"
    )
    grids = [
        Grid(
            f"One lap round the outline, centre of the cutter, {known.unit}",
            ("Corner", "X", "Y"),
            tuple(
                (str(n), own_text(x, known.unit), own_text(y, known.unit)) for n, (x, y) in enumerate(laps, 1)
            ),
        )
    ]
    if entries.has("deep"):
        steps = depth_steps(
            entries.mm("deep"),
            entries.maybe_mm("lap") or entries.mm("deep"),
            entries.maybe_mm("finish", above=False) or NOTHING,
        )
        grids.append(
            Grid(
                f"Depth of each lap, {known.unit}",
                ("Lap", "Z"),
                tuple((str(n), own_text(-z, known.unit)) for n, z in enumerate(steps, 1)),
            )
        )
    return grids


DIAL = SheetKind(
    "dial",
    "hold",
    "Dial and read-out",
    (
        Entry("places", "Places from zero", kind="area"),
        Entry("per_turn", "One turn"),
        Entry("divisions", "Divisions"),
        Entry("cutter", "Cutter, Ø"),
        Entry("milling", "Milling", kind="choose", choices=("conventional", "climb")),
        Entry("width", "Outline along X"),
        Entry("height", "Along Y"),
        Entry("deep", "Depth"),
        Entry("lap", "Deepest lap"),
        Entry("finish", "Last lap"),
        Entry("touch_a", "Touched one side at"),
        Entry("touch_b", "Other side at"),
    ),
    dial,
)


def segments(entries: Entries, known: Known) -> Answer:
    """Return the answer of the segment sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    profile = read_profile(entries.lines("rows"), known.unit)
    bar = entries.mm("bar_across", "12")
    reach = entries.maybe_mm("reach") or 3 * bar
    clear = entries.maybe_mm("clear", above=False)
    found = segment(
        profile,
        bar,
        reach,
        entries.mm("pass", "0.5"),
        Decimal("0.01") if clear is None else clear,
        known.unit,
    )
    rows = tuple(
        (
            str(n),
            own_text(s.start_mm, known.unit),
            own_text(s.end_mm, known.unit),
            " ".join(own_text(p, known.unit) for p in s.passes_mm),
            "–"
            if s.ends_mm[0] == s.ends_mm[1]
            else " to ".join(own_text(end, known.unit) for end in s.ends_mm),
            own_text(s.overlap_mm, known.unit),
        )
        for n, s in enumerate(found.stretches, 1)
    )
    return Answer(
        f"{counted(len(found.stretches), 'segment')}, {counted(sum(len(s.passes_mm) for s in found.stretches), 'pass')}.",
        f"Each no longer than {length_text(reach, known.unit, 1)}; every join {length_text(Decimal('0.01') if clear is None else clear, known.unit)} clear. Retract past the bar's own diameter before each pull, and stop the spindle while it is pulled.",
        grids=(
            Grid(
                f"Segments, {known.unit}", ("Segment", "From", "To", "Diameters", "Taper last", "Clear"), rows
            ),
        ),
        findings=found.findings,
        picture=found,
        picture_says="Segments to scale, free end at the left.",
        result={"segments": found.stretches},
        source="rule of the Hold step",
    )


SEGMENTS = SheetKind(
    "segments",
    "hold",
    "Segments",
    (
        Entry("rows", "Profile from the free end", kind="area"),
        Entry("bar_across", "Bar, Ø"),
        Entry("reach", "Longest segment"),
        Entry("pass", "Deepest pass, a side"),
        Entry("clear", "Clear at joins"),
    ),
    segments,
)


def strip(entries: Entries, known: Known) -> Answer:
    """Return the answer of the gang strip.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    length, kerf = entries.mm("length", "20"), entries.mm("kerf", "2")
    bar, ends = entries.mm("strip", "300"), entries.maybe_mm("ends", above=False) or NOTHING
    cut_ends = 2 * kerf if ends else NOTHING  # what is kept at an end is slit off too
    fits = int((bar - 2 * ends - cut_ends + kerf) // (length + kerf))
    if fits < 1:
        raise BadEntry("The strip gives no piece.", "Take a longer strip, or a thinner saw.", "strip")
    count = min(fits, known.start)
    margin = (bar - count * length - (count - 1) * kerf) / 2
    first = 0 if margin else 1  # a margin is slit off before the first piece and behind the last
    last = count if margin else count - 1
    saws = tuple(margin + i * (length + kerf) - kerf for i in range(first, last + 1))
    strips = -(-known.start // count)
    rest = known.start - (strips - 1) * count
    return Answer(
        f"{counted(count, 'piece')} a strip, {counted(strips, 'strip')} for {known.start}.",
        "Mill the strip in one clamping, turn it over on the same stop, then slit it; pieces cut together are equal.",
        (
            Fact(
                "Left at each end",
                length_text(max(margin - kerf, NOTHING), known.unit, 2),
                "outside the first and the last cut" if margin else "the ends are the pieces' own",
            ),
            Fact("Pieces of the last strip", str(rest)),
        ),
        (
            Grid(
                f"Slitting positions, near side of the saw, {known.unit}",
                ("Cut", "At"),
                tuple((str(n), own_text(at, known.unit)) for n, at in enumerate(saws, 1)),
            ),
        ),
        (
            Finding(
                "hold",
                "note",
                "slitting",
                "A slitting saw throws a loose piece.",
                "Clamp every piece on its own before slitting; guard on, hands away.",
            ),
        ),
        picture=cut_bar(bar, length, kerf, margin, count),
        picture_says=f"Strip of {counted(count, 'piece')} to scale.",
        result={"pieces": count, "saws_mm": saws},
        source="own derivation",
    )


def _as_long_as_the_part(known: Known) -> dict[str, str]:
    """What lies along the strip is usually the part's length."""
    part = known.of(MEASURES)
    return {} if part is None else {"length": f"{round(part.size[0], 4):g} mm"}


STRIP = SheetKind(
    "strip",
    "hold",
    "Gang strip",
    (
        Entry("length", "Piece along the strip"),
        Entry("kerf", "Slitting saw"),
        Entry("strip", "Strip"),
        Entry("ends", "Kept at each end"),
    ),
    strip,
    begins=_as_long_as_the_part,
)
