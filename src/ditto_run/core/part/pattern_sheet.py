"""The pattern sheet: equal spacing along a line or round a circle."""

from decimal import Decimal

from ditto_run.core.part.pattern import FULL_DEG, MOST, Pattern, along_line, round_circle
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, Offer, SheetKind
from ditto_run.core.units import counted, length_text, number_text


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the pattern sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    count = entries.whole("count", 2, MOST)
    hole = float(entries.maybe_mm("hole") or 0)
    if entries.choice("shape", ("circle", "line")) == "line":
        first, last = entries.mm("first", "10", above=False), entries.mm("last", "90", above=False)
        pattern = along_line(
            count, float(first), float(last), float(entries.turn("angle", -360, 360, 0)), hole
        )
        offers: tuple[Offer, ...] = (Offer("spacing", _mm(pattern.step_mm)),)
        why = f"From {length_text(first, known.unit)} to {length_text(last, known.unit)} in {counted(count - 1, 'equal step')}."
    else:
        across = entries.mm("diameter", "100")
        sweep = float(entries.turn("sweep", 1, 360, FULL_DEG))
        centre = (
            float(entries.maybe_mm("centre_x", least=Decimal(-100_000)) or 0),
            float(entries.maybe_mm("centre_y", least=Decimal(-100_000)) or 0),
        )
        pattern = round_circle(
            count, float(across), float(entries.turn("angle", -360, 360, 0)), sweep, centre, hole
        )
        offers = (
            Offer("pitch circle", f"Ø{_mm(float(across))}"),
            Offer("hole to hole", _mm(pattern.step_mm)),
        )
        why = f"Round a circle of {length_text(across, known.unit)}, anticlockwise from +X."
    return Answer(
        f"Step {length_text(pattern.step_mm, known.unit)} from hole to hole.",
        why,
        (
            Fact(
                "Straight from one to the next",
                length_text(pattern.step_mm, known.unit),
                "set dividers to it, or check with two pins",
            ),
            Fact(
                "Wall between", length_text(pattern.wall_mm, known.unit), "" if hole else "no hole size typed"
            ),
        ),
        (_grid(pattern, known),),
        (),
        offers,
        picture=pattern,
        picture_says=f"{counted(count, 'place')} in equal spacing, numbered in order.",
        result=pattern,
        source="own derivation",
    )


def _mm(value: float) -> str:
    return f"{value:.4f} mm".replace(".0000", "")


def _grid(pattern: Pattern, known: Known) -> Grid:
    scale, places = (1.0, 3) if known.unit == "mm" else (25.4, 4)
    rows = tuple(
        (str(i), number_text(Decimal(repr(x / scale)), places), number_text(Decimal(repr(y / scale)), places))
        for i, (x, y) in enumerate(pattern.points_mm, 1)
    )
    return Grid(f"Read-out presets, {known.unit}", ("Place", "X", "Y"), rows)


PATTERN = SheetKind(
    "pattern",
    "part",
    "Pattern",
    (
        Entry("shape", "Along", kind="choose", choices=("circle", "line")),
        Entry("count", "How many"),
        Entry("diameter", "Pitch circle, Ø", length=True),
        Entry("angle", "First at, °"),
        Entry("sweep", "First to last, °"),
        Entry("hole", "Hole, Ø", length=True),
        Entry("centre_x", "Centre X"),
        Entry("centre_y", "Centre Y"),
        Entry("first", "First from the corner"),
        Entry("last", "Last from the corner"),
    ),
    compute,
)
