"""The minding sheet: several machines or spindles and one pair of hands."""

from ditto_run.core.errors import BadEntry
from ditto_run.core.method.minding import Minded, Minding, go_round
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, SheetKind
from ditto_run.core.times import read_seconds
from ditto_run.core.units import clock_text, counted

CELLS = 3  # of a line: name, runs, hands
MOST_MACHINES = 40
ALONE = "Nobody leaves a machine alone that its manual or the shop does not let run alone"


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the minding sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    entries.need("rows", "Mill 2; 9:24; 2:15")
    rows = [_row(number, line) for number, line in enumerate(entries.lines("rows"), 1)]
    if len(rows) > MOST_MACHINES:
        raise BadEntry(f"{len(rows)} machines are too many.", f"{MOST_MACHINES} are the most.", "rows")
    found = go_round(rows)
    fits = [name for name, seconds in known.hand_work if 0 < seconds <= found.hands_wait_s]
    return Answer(
        _say(found),
        _why(found, fits),
        (
            Fact("A round", clock_text(found.round_s), counted(len(rows), "machine")),
            Fact("Hands busy", clock_text(found.round_s - found.hands_wait_s)),
            Fact("Hands free", clock_text(found.hands_wait_s), "between two visits, in all"),
            Fact("Start first", found.order[0].name, "it runs longest"),
        ),
        (
            Grid(
                "In the order they are served",
                ("Machine", "Runs", "Hands", "Waits for the hands", "Like it, one pair serves"),
                tuple(
                    (
                        one.name,
                        clock_text(one.runs_s),
                        clock_text(one.hands_s),
                        clock_text(waits) if waits > 0 else "–",
                        str(serves) if serves else "any",
                    )
                    for one, waits, serves in zip(found.order, found.waits, found.serves, strict=True)
                ),
            ),
        ),
        result=found,
        source="own derivation; times that vary wait a little more. " + ALONE,
    )


def _row(number: int, line: str) -> Minded:
    cells = [cell.strip() for cell in line.split(";")]
    if len(cells) != CELLS or not all(cells):
        raise BadEntry(
            f"Line {number} is not a machine with two times.", "Type it as Mill 2; 9:24; 2:15.", "rows"
        )
    runs, hands = (read_seconds(text, "rows") for text in cells[1:])
    if runs + hands <= 0:
        raise BadEntry(f"Line {number}: {cells[0][:20]} takes no time.", "Type how long it runs.", "rows")
    return Minded(cells[0], runs, hands)


def _say(found: Minding) -> str:
    if found.hands_set_pace:
        return f"The hands set the pace: a round every {clock_text(found.round_s)}."
    return f"Free for {clock_text(found.hands_wait_s)} of each {clock_text(found.round_s)}."


def _why(found: Minding, fits: list[str]) -> str:
    waiting = [
        one.name
        for one, waits in zip(found.order, found.waits, strict=True)
        if waits > 0.5  # noqa: PLR2004 - half a second
    ]
    if found.hands_set_pace:
        return f"{' and '.join(waiting) or 'Nothing'} {'wait' if len(waiting) > 1 else 'waits'} for them."
    slow = max(found.order, key=lambda one: one.runs_s + one.hands_s).name
    more = f" There is room for {' or '.join(fits[:3])}." if fits else ""
    return (
        f"{slow} sets the pace; the others wait for their turn in it.{more}"
        if len(found.order) > 1
        else f"{slow} sets the pace.{more}"
    )


MINDING = SheetKind(
    "minding",
    "method",
    "One pair of hands",
    (Entry("rows", "Machines or spindles, one a line", kind="area"),),
    compute,
)
