"""Tools of the shop: what each is, what it stands in, how long it lasts and what is left of it."""

import re
from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.entry.plain import read_count
from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets.entries import Entries
from ditto_run.core.shop.inserts import Insert, read_insert
from ditto_run.core.times import read_seconds

KINDS = (
    "",
    "face mill",
    "end mill",
    "ball mill",
    "chamfer",
    "spot drill",
    "drill",
    "reamer",
    "tap",
    "turning",
    "boring bar",
    "grooving",
    "parting",
    "threading",
    "knurl",
    "saw",
    "other",
)
EDGES = ("", "HSS", "carbide")
CONDITIONS = ("", "good", "worn", "ground down", "substituted")
MOST_NUMBER = 999
MOST_PIECES = 1_000_000
NUMBER = re.compile(r"T?\s?0*(\d{1,3})(?:\D.*)?", re.IGNORECASE)
PIECES = re.compile(r"([\d.,]+)\s*(?:pieces?|pcs|holes?)?", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Lasting:
    """How long a tool lasts: so many pieces, or so many seconds of cutting; one of them, [pieces or s]."""

    pieces: int | None = None
    cutting_s: float | None = None

    def of(self, cut_s: float) -> int | None:
        """Return for how many pieces it lasts; None where a piece takes no known time.

        Args:
            cut_s: it cuts for one piece. [s]
        """
        if self.pieces is not None:
            return self.pieces
        return int(self.cutting_s / cut_s + 1e-9) if self.cutting_s is not None and cut_s > 0 else None


@dataclass(frozen=True, slots=True)
class ShopTool:
    """One tool.

    Args:
        name: its number in turret or carousel, and what it is called: T03 finish slot.
        number: of it; None for one without.
        machine: that it is in; empty for any.
        kind: any of KINDS.
        across_mm, radius_mm, flute_mm, out_mm: diameter, corner, flute length, how far it stands out. [mm]
        flutes: how many.
        insert: where it bears inserts.
        life, left: how long it lasts, and what is left of the one that is in; None while not known.
        sisters: others like it that are ready.
        condition: any of CONDITIONS.
        note: coating, what was changed.
        edge: what cuts, one of EDGES; empty while not said.
        nose_mm: diameter of its holder where that ends above the tool; None while not known. [mm]
        lead_mm: point of a drill, lead of a tap or reamer: what does not cut full size; None while not known. [mm]
        runout_mm: its edge runs out by, in its holder and spindle; None while not measured. [mm]
    """

    name: str
    number: int | None
    machine: str = ""
    kind: str = ""
    across_mm: Decimal | None = None
    radius_mm: Decimal | None = None
    flute_mm: Decimal | None = None
    out_mm: Decimal | None = None
    flutes: int = 0
    insert: Insert | None = None
    life: Lasting | None = None
    left: Lasting | None = None
    sisters: int = 0
    condition: str = ""
    note: str = ""
    edge: str = ""
    nose_mm: Decimal | None = None
    lead_mm: Decimal | None = None
    runout_mm: Decimal | None = None


def read_lasting(text: str, field: str) -> Lasting | None:
    """Return how long a tool lasts: 200 pieces, 45 min, 2 h; a bare number is pieces; None if empty.

    Raises:
        BadEntry: at the field.
    """
    if not text.strip():
        return None
    pieces = PIECES.fullmatch(text.strip())
    if pieces is None:
        return Lasting(cutting_s=read_seconds(text, field))
    count = read_count(pieces[1], field)
    if not 0 < count <= MOST_PIECES:
        raise BadEntry(
            f"“{text[:20]}” is no number of pieces.",
            "Type whole pieces such as 200, or a time such as 45 min.",
            field,
        )
    return Lasting(pieces=count)


def read_shop_tool(entries: Entries) -> ShopTool:
    """Return the tool that a row of the register holds.

    Raises:
        BadEntry: at the column that cannot be read.
    """
    name = entries.need("name", "T03 finish slot")
    number = NUMBER.fullmatch(name)
    return ShopTool(
        name,
        int(number[1]) if number else None,
        entries.text("machine"),
        entries.choice("kind", KINDS),
        entries.maybe_mm("across"),
        entries.maybe_mm("radius", above=False),
        entries.maybe_mm("flute"),
        entries.maybe_mm("out"),
        entries.whole("flutes", 1, 100, 1) if entries.has("flutes") else 0,
        read_insert(entries.text("insert")) if entries.has("insert") else None,
        read_lasting(entries.text("life"), "life"),
        read_lasting(entries.text("left"), "left"),
        entries.whole("sisters", 0, 10_000, 0),
        entries.choice("condition", CONDITIONS),
        entries.text("note"),
        entries.choice("edge", EDGES),
        entries.maybe_mm("nose"),
        entries.maybe_mm("lead"),
        entries.maybe_mm("runout", above=False),
    )


def by_number(tools: Iterable[ShopTool]) -> dict[int, tuple[ShopTool, ...]]:
    """Return the tools that have a number, by it."""
    found: dict[int, tuple[ShopTool, ...]] = {}
    for tool in tools:
        if tool.number is not None:
            found[tool.number] = (*found.get(tool.number, ()), tool)
    return found
