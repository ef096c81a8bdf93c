"""The cutters sheet: the same cut with other cutters at hand, their times side by side."""

from dataclasses import dataclass

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.sheets import Answer, Entries, Entry, Grid, Known, SheetKind
from ditto_run.core.times import read_seconds
from ditto_run.core.units import clock_text, span_text

SHARE = 0.3  # of the cut, from which a saving is worth a question; own judgement
WORTH_S = 300.0  # over the batch, from which it is; own judgement
MOST_PIECES = 1_000_000


@dataclass(frozen=True, slots=True)
class CutBy:
    """One cutter and how long it takes a piece, [s]."""

    name: str
    seconds: float


def compute(entries: Entries, _known: Known) -> Answer:
    """Return the answer of the cutters sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    pieces = entries.whole("pieces", 1, MOST_PIECES, 1)
    used = entries.need("used", "T03 end mill")
    rows = [_row(number, line) for number, line in enumerate(entries.lines("rows"), 1)]
    mine = next((row for row in rows if row.name.lower() == used.lower()), None)
    if mine is None:
        raise BadEntry(f"{used[:30]} is none of the cutters.", "Say its time among them: T03; 0:41.", "used")
    rows.sort(key=lambda row: row.seconds)
    best = rows[0]
    saved = (mine.seconds - best.seconds) * pieces
    grid = Grid(
        "Cutters at hand, the quickest first",
        ("Cutter", "A piece", "All pieces", "Saved"),
        tuple(
            (
                row.name,
                clock_text(row.seconds),
                span_text(row.seconds * pieces),
                "as planned"
                if row is mine
                else span_text(max(mine.seconds - row.seconds, 0) * pieces)
                if row.seconds < mine.seconds
                else "slower",
            )
            for row in rows
        ),
    )
    return Answer(
        _say(mine, best, saved),
        f"{clock_text(mine.seconds)} with {mine.name}, {clock_text(best.seconds)} with {best.name}."
        if best is not mine
        else "No other cutter at hand takes less.",
        grids=(grid,),
        findings=tuple(_findings(mine, best, saved)),
        result=tuple(rows),
        source="the way, speed and feed of each cutter as its own step would have them; changes are not counted",
    )


def _row(number: int, line: str) -> CutBy:
    cells = [cell.strip() for cell in line.split(";")]
    if len(cells) != 2 or not all(cells):  # noqa: PLR2004 - name and time
        raise BadEntry(
            f"Line {number} is not a cutter and its time.", "Type it as T03 end mill; 0:41.", "rows"
        )
    return CutBy(cells[0], read_seconds(cells[1], "rows"))


def _say(mine: CutBy, best: CutBy, saved: float) -> str:
    if best is mine:
        return f"{mine.name} is the quickest at hand."
    return f"{best.name}: {span_text(saved)} less."


def _findings(mine: CutBy, best: CutBy, saved: float) -> list[Finding]:
    if saved < WORTH_S or mine.seconds - best.seconds < SHARE * mine.seconds:
        return []
    return [
        Finding(
            "tools",
            "ask",
            "small-cutter",
            f"{best.name} takes {span_text(saved)} less over the batch than {mine.name}.",
            "Take it for this cut, or let it stand with a note.",
            ground=f"{best.name} {mine.name}",
        )
    ]


CUTTERS = SheetKind(
    "cutters",
    "tools",
    "Cutters side by side",
    (
        Entry("rows", "Cutters, one a line", kind="area"),
        Entry("used", "Cutter of this step"),
        Entry("pieces", "Pieces"),
    ),
    compute,
)
