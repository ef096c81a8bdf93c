"""The sheet of mixed lengths."""

import re
from collections import Counter
from decimal import Decimal

from ditto_run.core.entry.rows import length_times
from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, SheetKind
from ditto_run.core.stock.blank import BLANK_FOUND
from ditto_run.core.stock.mixed import EFFORT, Nesting, Stock, WantedLength, nest
from ditto_run.core.units import MM_PER_INCH, LengthUnit, counted, length_text

MOST_PIECES = 10_000
MOST_LENGTHS = 40


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    wanted = [
        WantedLength(name or _called(length, known.unit), length, count or 1)
        for length, count, name in _lines(entries, "rows")
    ]
    if sum(piece.count for piece in wanted) > MOST_PIECES:
        raise BadEntry(
            f"{sum(piece.count for piece in wanted):,} pieces are too many.",
            f"Type {MOST_PIECES:,} at most.",
            "rows",
        )
    keeps = float(entries.maybe_mm("remnant", above=False) or 0)
    stock = [
        Stock(
            re.sub(r"\boffcut\b", "", name).strip() or _called(length, known.unit),
            length,
            count,
            is_offcut="offcut" in name.lower(),
            keeps_mm=keeps,
        )
        for length, count, name in _lines(entries, "stock")
    ]
    answer: Nesting = known.solve(
        nest, wanted, stock, float(entries.mm("kerf", "3", above=False)), EFFORT, known.unit
    )
    proven = answer.status == "proven"
    return Answer(
        f"{answer.new_bars} new {'bar' if answer.new_bars == 1 else 'bars'}, longest offcut {length_text(answer.longest_left_mm, known.unit, 0)}.",
        "No plan takes fewer bars: proven."
        if proven
        else f"No plan takes fewer than {answer.bound}; the gap is not closed.",
        (
            Fact("New bars", str(answer.new_bars), "proven" if proven else f"at least {answer.bound}"),
            Fact("Offcuts used up", str(sum(1 for bar in answer.bars if stock[bar.stock].is_offcut))),
            Fact("Longest left", length_text(answer.longest_left_mm, known.unit, 1), "name it and shelve it"),
        ),
        (_plan(answer, wanted, stock, known),),
        picture=answer,
        picture_says=f"{counted(len(answer.bars), 'bar')} to scale with every cut.",
        result=answer,
        source="cutting-stock problem by patterns, OR-Tools CP-SAT",
    )


def _called(length_mm: float, unit: LengthUnit) -> str:
    """Return what a length without a name is called: itself, in the job's unit."""
    return f"{length_mm / float(MM_PER_INCH) if unit == 'in' else length_mm:g}"


def _lines(entries: Entries, name: str) -> list[tuple[float, int | None, str]]:
    lines = entries.lines(name)
    if not lines:
        raise BadEntry(
            f"{entries.label(name)} are missing.", "Type one a line, such as 420 x 12 strut.", name
        )
    if len(lines) > MOST_LENGTHS:
        raise BadEntry(f"{len(lines):,} lines are too many.", f"Type {MOST_LENGTHS} at most.", name)
    found = []
    for row, line in enumerate(lines, 1):
        read = length_times(line, entries.unit, name)
        length, count, called = read or (Decimal(0), None, "")
        if read is None or length <= 0 or count == 0 or (count or 0) > MOST_PIECES:
            raise BadEntry(
                f"Line {row}, “{line[:30]}”, cannot be read.",
                "Type a length above zero, x, how many, and a name.",
                name,
            )
        found.append((float(length), count, called))
    return found


def _plan(answer: Nesting, wanted: list[WantedLength], stock: list[Stock], known: Known) -> Grid:
    """Return the bars, those cut alike in one row."""
    alike = Counter((bar.stock, bar.pieces, bar.left_mm) for bar in answer.bars)
    rows = []
    for (place, pieces, left), times in alike.items():
        cuts = ", ".join(f"{count} × {wanted[w].name}" for w, count in Counter(pieces).items())
        rows.append((f"{times} × {stock[place].name}", cuts, length_text(left, known.unit, 1)))
    return Grid("Cut list", ("Bar", "Pieces", "Left"), tuple(rows))


def _begins(known: Known) -> dict[str, str]:
    """The blanks of this job, as many as are started; nothing while Stock has no blank."""
    blank = known.of(BLANK_FOUND)
    return {} if blank is None else {"rows": f"{blank.length_mm:f} mm x {known.start} blank"}


MIXED = SheetKind(
    "mixed",
    "stock",
    "Mixed lengths",
    (
        Entry("rows", "Lengths wanted, one a line", kind="area"),
        Entry("stock", "Bars there are, one a line", kind="area"),
        Entry("kerf", "Kerf"),
        Entry("remnant", "The holder keeps"),
    ),
    compute,
    begins=_begins,
)
