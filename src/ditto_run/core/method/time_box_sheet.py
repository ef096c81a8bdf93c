"""The time box: half an hour, get it done; which way comes farthest in it."""

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.method.guess import read_guess
from ditto_run.core.method.time_box import WayReach, reached
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, SheetKind
from ditto_run.core.units import capital, clock_text, counted, span_text

COLUMNS = 3


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the time box.

    Raises:
        BadEntry: at the field that cannot be used, or if there is no way.
    """
    entries.need("time", "half an hour")
    time_s = entries.seconds("time")
    if time_s <= 0:
        raise BadEntry("There is no time.", "Type how long there is, such as half an hour.", "time")
    pieces = entries.whole("pieces", 1, 20_000, known.quantity)
    ways = _ways(entries) or list(known.ways)
    if not ways:
        raise BadEntry("No way has its times.", "Add a way, or type lines here.", "rows")
    found = reached(ways, time_s, pieces)
    best, there = found[0], span_text(time_s)
    return Answer(
        _say(best, pieces, there),
        _why(found),
        (Fact("First piece", span_text(best.ready_s + best.each_s), best.name),),
        grids=(
            Grid(
                f"In {there}",
                ("Way", "Ready after", "Each", "Done", f"All {pieces} after"),
                tuple(
                    (
                        one.name,
                        span_text(one.ready_s),
                        clock_text(one.each_s),
                        str(one.pieces),
                        span_text(one.whole_s),
                    )
                    for one in found
                ),
            ),
        ),
        findings=()
        if best.pieces >= pieces
        else (
            Finding(
                "method",
                "note",
                "box-too-small",
                f"{counted(pieces - best.pieces, 'piece')} of {pieces} will not be done in {there} by any way here.",
                "Say so before, cut fewer first, or have setting up done by somebody else meanwhile.",
            ),
        ),
        result=tuple(found),
        source="own derivation",
    )


def _say(best: WayReach, pieces: int, there: str) -> str:
    if best.pieces >= pieces:
        return f"{capital(best.name)}: all {pieces} in {span_text(best.whole_s)}."
    if best.pieces:
        return f"{capital(best.name)}: {best.pieces} of {pieces} in {there}."
    return f"No piece is done in {there}."


def _why(found: list[WayReach]) -> str:
    best = found[0]
    if not best.pieces:
        return f"{capital(best.name)} shows the first one after {span_text(best.ready_s + best.each_s)}."
    others = [one for one in found[1:] if one.pieces < best.pieces]
    if not others:
        return "No other way does fewer." if len(found) > 1 else "There is no other way to hold it against."
    return f"{capital(others[0].name)} would have {others[0].pieces} by then."


def _ways(entries: Entries) -> list[tuple[str, float, float]]:
    found = []
    for row, line in enumerate(entries.lines("rows"), 1):
        parts = [part.strip() for part in line.split(";")]
        if len(parts) != COLUMNS or not parts[0]:
            raise BadEntry(
                f"Line {row}, “{line[:30]}”, is not a name and two times.",
                "Type name; getting ready; each piece.",
                "rows",
            )
        ready, each = read_guess(parts[1], "rows", "min").likely_s, read_guess(parts[2], "rows").likely_s
        found.append((parts[0][:40], ready, each))
    return found


TIME_BOX = SheetKind(
    "time_box",
    "method",
    "Time there is",
    (
        Entry("time", "Time there is"),
        Entry("pieces", "Pieces"),
        Entry("rows", "Ways, one a line", kind="area"),
    ),
    compute,
)
