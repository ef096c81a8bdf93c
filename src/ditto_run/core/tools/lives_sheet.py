"""The sheet of tool lives: which tools come up along the run, at which piece, and whether there are enough."""

import re

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, SheetKind
from ditto_run.core.shop.shop_tools import read_lasting
from ditto_run.core.times import read_seconds
from ditto_run.core.tools.lives import Lived, Lives, lives
from ditto_run.core.units import counted

FORM = "name; cuts a piece; lasts; left; spares, as in T03; 0:41; 45 min; 15 min; 1"
MOST_ROWS = 200
SHOWN = 40  # stops listed


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    lines = entries.lines("rows")
    if not 0 < len(lines) <= MOST_ROWS:
        raise BadEntry(
            f"{counted(len(lines), 'tool')}; between 1 and {MOST_ROWS} can be looked at.",
            f"One a line: {FORM}.",
            "rows",
        )
    tools = [_row(number, line) for number, line in enumerate(lines, 1)]
    pieces, load = entries.whole("pieces", 1, 1_000_000, known.start), entries.whole("load", 1, 10_000, 1)
    found = lives(tools, pieces, load)
    return Answer(
        _say(found, pieces),
        _why(found),
        tuple(
            Fact(tool.name, f"{counted(found.fresh[tool.name], 'fresh one')}", f"{tool.spares} there")
            for tool in tools
        ),
        (_stops(found),) if found.stops else (),
        tuple(_findings(tools, found)),
        result=found,
        source="own derivation",
    )


def _row(number: int, line: str) -> Lived:
    parts = [part.strip() for part in re.split(r";", line)]
    if not 3 <= len(parts) <= 5 or not parts[0]:  # noqa: PLR2004 - of the form
        raise BadEntry(f"Line {number}, “{line[:30]}”, cannot be read.", f"Type {FORM}.", "rows")
    name, cut, life_text, left_text, spares = (*parts, "", "")[:5]
    cut_s = read_seconds(cut, "rows") if cut else 0.0
    life = read_lasting(life_text, "rows")
    left = read_lasting(left_text, "rows") if left_text else life
    fresh, rest = (one.of(cut_s) if one is not None else None for one in (life, left))
    if fresh is None or rest is None or fresh < 1:
        raise BadEntry(
            f"Line {number}: how many pieces {name} lasts does not follow.",
            "Say its cutting time, and a life of a piece at least.",
            "rows",
        )
    if spares and not spares.isdigit():
        raise BadEntry(f"Line {number}: “{spares[:20]}” is no number of spares.", "Type 0, 1, 2.", "rows")
    return Lived(name, fresh, rest, int(spares or 0))


def _say(found: Lives, pieces: int) -> str:
    if not found.stops:
        return f"The tools whose lives are known last for all {counted(pieces, 'piece')}."
    first = found.stops[0]
    when = f"after piece {first.after}" if first.after else "before the first"
    return f"{counted(len(found.stops), 'stop')} for tools, the first {when}: {', '.join((*first.up, *first.along))}."


def _why(found: Lives) -> str:
    if not found.stops:
        return "What is left of each is more than it has to cut."
    return "Each is changed between two loads, with it what would come up before the next stop."


def _stops(found: Lives) -> Grid:
    rows = tuple(
        (str(stop.after), ", ".join(stop.up), ", ".join(stop.along) or "–") for stop in found.stops[:SHOWN]
    )
    return Grid("Stops", ("After piece", "Comes up", "Changed with it"), rows)


def _findings(tools: list[Lived], found: Lives) -> list[Finding]:
    said = []
    for tool in tools:
        lacks = found.fresh[tool.name] - tool.spares
        if lacks > 0:
            said.append(
                Finding(
                    "tools",
                    "ask",
                    "no-spare-tool",
                    f"{tool.name} wants {counted(found.fresh[tool.name], 'fresh one')}, and there "
                    + (
                        "is none."
                        if not tool.spares
                        else f"are {tool.spares}."
                        if tool.spares > 1
                        else "is 1."
                    ),
                    "Buy or grind them before the run, or measure a spare and list it.",
                    ground=f"{found.fresh[tool.name]} {tool.spares}",
                )
            )
        if tool.name in found.short:
            said.append(
                Finding(
                    "tools",
                    "ask",
                    "short-lived-tool",
                    f"{tool.name} lasts {counted(tool.life, 'piece')}, less than a load.",
                    "Cut fewer at once, slow it down, or take a harder one.",
                )
            )
    return said


LIVES = SheetKind(
    "lives",
    "tools",
    "Tool lives",
    (
        Entry("rows", "Tools, one a line", kind="area"),
        Entry("pieces", "Pieces to start"),
        Entry("load", "Pieces of a load"),
    ),
    compute,
)
