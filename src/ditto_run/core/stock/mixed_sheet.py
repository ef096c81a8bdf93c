"""The sheet of mixed lengths."""

import re
from collections import Counter

from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, SheetKind
from ditto_run.core.stock.mixed import Nesting, Stock, WantedLength, nest
from ditto_run.core.units import length_text

LINE = re.compile(r"(\d*\.?\d+)\s*(?:mm|in)?\s*(?:[x×*]\s*(\d+))?\s*(.*)", re.IGNORECASE)
MOST_PIECES = 10_000
MOST_LENGTHS = 40


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    scale = 25.4 if known.unit == "in" else 1.0
    wanted = [
        WantedLength(name or f"{length:g}", length * scale, count or 1)
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
            re.sub(r"\boffcut\b", "", name).strip() or f"{length:g}",
            max(length * scale - keeps, 0.0),
            count,
            is_offcut="offcut" in name.lower(),
        )
        for length, count, name in _lines(entries, "stock")
    ]
    answer: Nesting = known.solve(nest, wanted, stock, float(entries.mm("kerf", "3", above=False)))
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
        picture_says=f"{len(answer.bars)} bars to scale with every cut.",
        result=answer,
        source="cutting-stock problem by patterns, OR-Tools CP-SAT",
    )


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
        match = LINE.fullmatch(line)
        length = float(match[1]) if match else 0.0
        count = int(match[2]) if match and match[2] else None
        if match is None or not 0 < length < 1e5 or count == 0 or (count or 0) > MOST_PIECES:  # noqa: PLR2004
            raise BadEntry(
                f"Line {row}, “{line[:30]}”, cannot be read.",
                "Type a length above zero, x, how many, and a name.",
                name,
            )
        found.append((length, count, match[3].strip()))
    return found


def _plan(answer: Nesting, wanted: list[WantedLength], stock: list[Stock], known: Known) -> Grid:
    """Return the bars, those cut alike in one row."""
    alike = Counter((bar.stock, bar.pieces, bar.left_mm) for bar in answer.bars)
    rows = []
    for (place, pieces, left), times in alike.items():
        cuts = ", ".join(f"{count} × {wanted[w].name}" for w, count in Counter(pieces).items())
        rows.append((f"{times} × {stock[place].name}", cuts, length_text(left, known.unit, 1)))
    return Grid("Cut list", ("Bar", "Pieces", "Left"), tuple(rows))


MIXED = SheetKind(
    "mixed",
    "stock",
    "Mixed lengths",
    "Several lengths from several bars and offcuts: fewest bars, then the longest offcut.",
    (
        Entry("rows", "Lengths wanted, one a line", "420 x 12 strut", kind="area"),
        Entry(
            "stock",
            "Bars there are, one a line",
            "3000 for as many as wanted; 1740 x 1 A7 offcut for a named one.",
            kind="area",
        ),
        Entry("kerf", "Kerf", pair=True),
        Entry("remnant", "The holder keeps"),
    ),
    compute,
)
