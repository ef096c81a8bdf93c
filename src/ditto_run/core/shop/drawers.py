"""Registers that are plain tables: drills, taps, reamers, materials, coatings, rates. Declared once, as a table.

A row is kept as it was typed; reading it gives the typed value, or says at which column it cannot be read.
"""

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from typing import Any, Literal

from ditto_run.core.entry.quantity import QUANTITIES, in_system
from ditto_run.core.errors import BadEntry, DittoError, NotFound
from ditto_run.core.sheets.entries import Entries
from ditto_run.core.sheets.reader import Measure, mark_for, read_as
from ditto_run.core.shop import standard_sets
from ditto_run.core.shop.body import Body, read_body
from ditto_run.core.shop.devices import DEVICE_KINDS, read_device
from ditto_run.core.shop.forgotten import FORGETS_AFTER, read_forgotten
from ditto_run.core.shop.own_orders import read_own_order
from ditto_run.core.shop.shop_lists import (
    CHECK_RESULTS,
    DONE,
    read_condition,
    read_fixture,
    read_gauge_check,
    read_maintenance,
    read_on_shelf,
    read_to_ask,
)
from ditto_run.core.shop.shop_tools import CONDITIONS as TOOL_CONDITIONS
from ditto_run.core.shop.shop_tools import EDGES as TOOL_EDGES
from ditto_run.core.shop.shop_tools import KINDS as TOOL_KINDS
from ditto_run.core.shop.shop_tools import read_shop_tool
from ditto_run.core.shop.steps_cut import JawStep, read_steps
from ditto_run.core.shop.taught import TEACHES, read_taught
from ditto_run.core.units import LengthUnit

DrawerName = Literal[
    "drills",
    "taps",
    "reamers",
    "materials",
    "coatings",
    "rates",
    "offcuts",
    "holders",
    "pallets",
    "coolants",
    "tools",
    "own_orders",
    "unknown",
    "taught",
    "forgotten",
    "devices",
    "maintenance",
    "gauge_checks",
    "condition",
    "fixtures",
    "to_ask",
    "finished",
]
Texts = Mapping[str, str]
BARE = re.compile(r"[-−+]?(?:\d[\d.,]*|[.,]\d+)")


@dataclass(frozen=True, slots=True)
class Drill:
    """One drill of the drawer. `diameter_mm` is exact, [mm]."""

    name: str
    diameter_mm: Decimal


@dataclass(frozen=True, slots=True)
class TapTool:
    """One tap: its thread and its lead (taper, plug, bottoming, forming)."""

    thread: str
    lead: str


@dataclass(frozen=True, slots=True)
class Reamer:
    """One reamer, with what it really cuts, [mm]."""

    name: str
    cuts_mm: Decimal


@dataclass(frozen=True, slots=True)
class Material:
    """One material.

    Args:
        name: as the shop calls it.
        density: mass of a cubic centimetre. [g/cm³]
        cents_per_kg: price; exact, so that one of a pound is kept. [cents/kg]
        kc11: cutting force of a chip of 1 mm by 1 mm. [N/mm²]
        mc: how that falls with thickness. [-]
        hss_m_min, carbide_m_min: cutting speed the shop takes; None for the handbook's. [m/min]
    """

    name: str
    density: Decimal
    cents_per_kg: Decimal
    kc11: Decimal
    mc: Decimal
    hss_m_min: Decimal | None = None
    carbide_m_min: Decimal | None = None


@dataclass(frozen=True, slots=True)
class Coating:
    """One finish as the shop knows it; see core.part.finish for the meaning of its figures."""

    name: str
    film_low_um: Decimal
    film_high_um: Decimal
    growth: Decimal
    bore_share: Decimal
    edge_share: Decimal


@dataclass(frozen=True, slots=True)
class Offcut:
    """One named remnant on a shelf, [mm]."""

    name: str
    material: str
    section: str
    length_mm: Decimal
    shelf: str


@dataclass(frozen=True, slots=True)
class Holder:
    """One holder the shop owns.

    Args:
        name: as the shop calls it.
        kind: vise, chuck, collet, soft jaws …
        shape: round, flat or any.
        low_mm, high_mm: what it spans. [mm]
        marks: none, light or deep.
        repeat_mm: how well it repeats; None if never tried. [mm]
        machine: where it stands; empty if it moves.
        shelf: where it lies.
        torque: how tight, by its maker.
        next_time: what to remember when a similar part comes.
        body: its footprint, jaws, handle, bolts and nests; None while they are not measured.
        jaw_high_mm: its jaws above what parallels stand on; None where its body says it or nobody did. [mm]
        steps: steps and nests that were cut into it.
        rated_n: force it clamps with, by its maker; None where nobody said it. [N]
        screw_mm: diameter of its screw; None where nobody said it. [mm]
    """

    name: str
    kind: str
    shape: str
    low_mm: Decimal
    high_mm: Decimal
    marks: str
    repeat_mm: Decimal | None
    machine: str
    shelf: str
    torque: str
    next_time: str
    body: Body | None = None
    jaw_high_mm: Decimal | None = None
    steps: tuple[JawStep, ...] = ()
    rated_n: Decimal | None = None
    screw_mm: Decimal | None = None


@dataclass(frozen=True, slots=True)
class Pallet:
    """One pallet of the exchange list.

    Args:
        name: as it is marked.
        holder: its row of the holders, for its nests.
        state: ready, on the machine, at the bench or away.
        base: where it sits, when it is on the machine.
        holds: what is on it.
        note: what to remember.
    """

    name: str
    holder: str
    state: str
    base: str
    holds: str
    note: str


@dataclass(frozen=True, slots=True)
class Coolant:
    """One recipe of coolant or cutting compound.

    Args:
        name: what it is called in the shop.
        material: it is for, as jobs name it; empty for any.
        operation: it is for: any of COOLED.
        what: what is used, how strong, and how it is put on.
        note: what to remember.
    """

    name: str
    material: str
    operation: str
    what: str
    note: str


@dataclass(frozen=True, slots=True)
class UnknownMaterial:
    """One piece of material that nobody could name.

    Args:
        name: as it is marked.
        looks: colour and what it was before.
        spark, filed, chip, magnet: what each try showed; empty where it was not done.
        guess: what it is taken for.
        cut_like: how it machined.
        shelf: where it lies.
    """

    name: str
    looks: str
    spark: str
    filed: str
    chip: str
    magnet: str
    guess: str
    cut_like: str
    shelf: str


@dataclass(frozen=True, slots=True)
class Rate:
    """What an hour costs: of a machine, or of a pair of hands, [cents/h]."""

    name: str
    cents_per_hour: int


@dataclass(frozen=True, slots=True)
class Column:
    """One column of a register; one of a group is shown in the entry form under the group's name, not in the table.

    Args:
        name: in files and documents.
        label: as shown.
        hint: a few words below it.
        choices: what it may be; empty for any text.
        group: name of the fold it stands in.
        measure: what is typed in it, if that has a unit.
    """

    name: str
    label: str
    hint: str = ""
    choices: tuple[str, ...] = ()
    group: str = ""
    measure: Measure | None = None

    def mark(self, unit: LengthUnit) -> str:
        """Return the unit of a figure typed alone; empty where none is due."""
        return mark_for(self.measure, unit)

    def label_in(self, unit: LengthUnit) -> str:
        """Return what it is called where it is typed, with the unit of a figure typed alone where that is no length."""
        if self.measure is None or self.measure == "length":
            return self.label
        return f"{self.label}, {self.mark(unit)}"

    def shown(self, text: str, unit: LengthUnit) -> str:
        """Return what was typed as it is listed: a film, a density or the like in the shop's unit."""
        if self.measure not in QUANTITIES or not text.strip():
            return text
        value = read_as(self.measure, text, unit, self.name)
        return f"{in_system(self.measure, value, unit)} {self.mark(unit)}"


@dataclass(frozen=True, slots=True)
class Drawer:
    """One register.

    Args:
        name: in addresses and files.
        word: as shown.
        one: one row of it.
        columns: in order; the first names the row.
        read: gives the typed value of a row; raises at a column.
        standard: usual rows to start from.
        photos: True if a row may have a photo.
        made_up: columns whose figures in the usual rows are made up, until somebody says the shop's own.
    """

    name: DrawerName
    word: str
    one: str
    columns: tuple[Column, ...]
    read: Callable[[Entries], Any]
    standard: Callable[[], list[dict[str, str]]]
    photos: bool = False
    made_up: tuple[str, ...] = ()

    def is_made_up(self, texts: Texts) -> bool:
        """Return whether a row still has made-up figures of the usual set.

        Args:
            texts: the row as it is kept.
        """
        if not self.made_up:
            return False
        first = self.columns[0].name
        usual = next((row for row in self.standard() if row.get(first) == texts.get(first)), None)
        if usual is None:
            return False
        kept = self.as_kept(usual, "mm")
        return any(kept.get(name) and kept.get(name) == texts.get(name) for name in self.made_up)

    def value(self, texts: Texts, unit: LengthUnit) -> Any:  # noqa: ANN401 - each register has its own type
        """Return the typed value of a row.

        Raises:
            BadEntry: at the column that cannot be read.
        """
        labels = {column.name: column.label for column in self.columns}
        unknown = set(texts) - set(labels)
        if unknown:
            raise BadEntry(
                f"{self.word} have no column {min(unknown)}.",
                f"Columns are {', '.join(labels)}.",
                "file",
            )
        quantities = {column.name: column.measure for column in self.columns if column.measure in QUANTITIES}
        return self.read(Entries(texts, unit, labels, quantities))

    def as_kept(self, texts: Texts, unit: LengthUnit) -> dict[str, str]:
        """Return what was typed with a unit behind each bare figure, so that it means the same in another shop."""
        marks = {column.name: column.mark(unit) for column in self.columns}
        return {
            name: f"{text.strip()} {marks[name]}"
            if marks.get(name) and BARE.fullmatch(text.strip())
            else text
            for name, text in texts.items()
        }


def _drill(entries: Entries) -> Drill:
    return Drill(entries.need("name", "#7 drill"), _sized(entries, "name"))


@lru_cache(maxsize=4096)
def _size_of(text: str, unit: LengthUnit) -> Decimal:
    return Entries({"size": text}, unit, {}).size_mm("size")


def _sized(entries: Entries, name: str) -> Decimal:
    text = entries.need(name, "6 mm")
    try:
        return _size_of(text, entries.unit)
    except DittoError:
        bare = text if text.startswith("#") or not text[0].isalpha() else f"letter {text}"
        try:
            return _size_of(bare, entries.unit)
        except DittoError as refusal:
            raise BadEntry(refusal.problem, "Type it as #7, F, 13/64 or 5.1 mm.", name) from None


def _tap(entries: Entries) -> TapTool:
    from ditto_run.core.threads import read_thread  # noqa: PLC0415 - threads need sizes, not the other way round

    try:
        thread = read_thread(entries.need("thread", "M6"))
    except BadEntry as refusal:
        raise BadEntry(refusal.problem, refusal.remedy, "thread") from None
    return TapTool(thread.name, entries.choice("lead", TAP_LEADS))


def _reamer(entries: Entries) -> Reamer:
    return Reamer(entries.need("name", "12 mm"), entries.maybe_mm("cuts") or _sized(entries, "name"))


def _material(entries: Entries) -> Material:
    return Material(
        entries.need("name", "6061-T6"),
        entries.quantity("density", 0.3, 25),
        read_as("price", entries.text("price"), entries.unit, "price"),
        entries.quantity("kc11", 0, 8000, 0),
        entries.number("mc", 0, 0.9, 0),
        *(entries.quantity(name, 0.1, 5000) if entries.has(name) else None for name in ("hss", "carbide")),
    )


def _coating(entries: Entries) -> Coating:
    low, high = entries.quantity("film_low", 0, 1000), entries.quantity("film_high", 0, 1000)
    if low > high:
        raise BadEntry("The least film is above the most.", "Swap them.", "film_low")
    return Coating(
        entries.need("name", "clear anodise"),
        low,
        high,
        entries.share("growth", -1, 1, 1),
        entries.share("bore_share", 0, 1, 1),
        entries.share("edge_share", 1, 3, 1),
    )


def _rate(entries: Entries) -> Rate:
    cents = int(read_as("money", entries.need("per_hour", "55.00"), entries.unit, "per_hour"))
    return Rate(entries.need("name", "labour"), cents)


def _coolant(entries: Entries) -> Coolant:
    return Coolant(
        entries.need("name", "tapping 316"),
        entries.text("material"),
        entries.choice("operation", COOLED),
        entries.need("what", "cutting oil, by brush"),
        entries.text("note"),
    )


def _unknown(entries: Entries) -> UnknownMaterial:
    looks, spark, filed, chip = (entries.text(name) for name in ("looks", "spark", "filed", "chip"))
    return UnknownMaterial(
        entries.need("name", "red paint, rack 3"),
        looks,
        spark,
        filed,
        chip,
        entries.choice("magnet", MAGNET),
        entries.text("guess"),
        entries.text("cut_like"),
        entries.text("shelf"),
    )


def _offcut(entries: Entries) -> Offcut:
    return Offcut(
        entries.need("name", "A7"),
        entries.text("material"),
        entries.need("section", "Ø12"),
        entries.mm("length", "740"),
        entries.text("shelf"),
    )


def _pallet(entries: Entries) -> Pallet:
    return Pallet(
        entries.need("name", "P1"),
        entries.text("holder"),
        entries.choice("state", PALLET_STATES),
        entries.text("base"),
        entries.text("holds"),
        entries.text("note"),
    )


def _holder(entries: Entries) -> Holder:
    low, high = entries.mm("low", "0", above=False), entries.mm("high", "150")
    if low > high:
        raise BadEntry("It spans from more than it spans to.", "Swap them.", "low")
    return Holder(
        entries.need("name", "Vise 1"),
        entries.choice("kind", HOLDER_KINDS),
        entries.choice("shape", ("any", "flat", "round")),
        low,
        high,
        entries.choice("marks", ("none", "light", "deep")),
        entries.maybe_mm("repeat"),
        entries.text("machine"),
        entries.text("shelf"),
        entries.text("torque"),
        entries.text("next_time"),
        read_body(entries, high),
        entries.maybe_mm("jaw_high"),
        read_steps(entries.text("steps"), entries.unit),
        entries.quantity("rated", 1, 1e6) if entries.has("rated") else None,
        entries.maybe_mm("screw"),
    )


HOLDER_KINDS = (
    "vise",
    "self-centring vise",
    "soft jaws",
    "biting jaws",
    "chuck",
    "collet",
    "collet block",
    "face plate",
    "fixture plate",
    "arbor",
    "nest",
    "angle plate",
    "V-block",
    "toe clamps",
    "side clamps",
    "vacuum",
    "magnet",
)
ON_TABLE = "On the table, fixed jaw at the back"
OWN_SPEEDS = "The shop’s own speeds"
BODY_COLUMNS = (
    Column("body_x", "Footprint, X", "Left to right.", group=ON_TABLE, measure="length"),
    Column("body_y", "Footprint, Y", "Front to back.", group=ON_TABLE, measure="length"),
    Column("tall", "Table to its top", group=ON_TABLE, measure="length"),
    Column("seat", "Table to the piece's seat", group=ON_TABLE, measure="length"),
    Column("jaw_width", "Jaws, wide", "Empty without jaws.", group=ON_TABLE, measure="length"),
    Column("jaw_at", "Fixed jaw's face, from the back edge", group=ON_TABLE, measure="length"),
    Column("chuck", "Chuck or collet on it, Ø", "Empty without one.", group=ON_TABLE, measure="length"),
    Column("handle_at", "Handle turns at", "X,Y from its left front corner: 52,-20.", group=ON_TABLE),
    Column("handle_swing", "Handle swings", "Its radius.", group=ON_TABLE, measure="length"),
    Column("bolts", "Bolted down at", "Points: 12,90 93,90.", group=ON_TABLE),
    Column("origin", "Nests are measured from", "X,Y of the bushing or pin.", group=ON_TABLE),
    Column(
        "nests",
        "Nests",
        "rows 2 x 3 at 60,45 from 30,30, circle 6 on 100 at 90,90, or points.",
        group=ON_TABLE,
    ),
    Column(
        "outline",
        "Outline, if no rectangle",
        "Points, once round: 0,0 120,0 120,80. From a DXF: Place, Files.",
        group=ON_TABLE,
    ),
)
PALLET_STATES = ("at the bench", "ready", "on the machine", "away")
COOLED = ("any", "turn", "mill", "drill", "ream", "tap", "saw", "part off")
MAGNET = ("not tried", "holds", "weakly", "does not hold")
TAP_LEADS = ("plug", "taper", "bottoming", "forming")
DRAWERS: tuple[Drawer, ...] = (
    Drawer(
        "drills",
        "Drills",
        "drill",
        (Column("name", "Drill", "As it is stamped: #7, F, 13/64, 5.1 mm."),),
        _drill,
        standard_sets.drills,
    ),
    Drawer(
        "taps",
        "Taps",
        "tap",
        (Column("thread", "Thread", "M6, 1/4-20, 1/8 NPT."), Column("lead", "Lead", choices=TAP_LEADS)),
        _tap,
        standard_sets.taps,
    ),
    Drawer(
        "reamers",
        "Reamers",
        "reamer",
        (
            Column("name", "Reamer", "12 mm, 1/2, .5005."),
            Column("cuts", "Cuts", "Measured in a test hole; empty if never tried.", measure="length"),
        ),
        _reamer,
        standard_sets.reamers,
    ),
    Drawer(
        "materials",
        "Materials",
        "material",
        (
            Column("name", "Material"),
            Column("density", "Density", measure="density"),
            Column("price", "Price", measure="price"),
            Column(
                "kc11", "kc1.1", "Cutting force of a 1 × 1 mm chip; empty if not known.", measure="stress"
            ),
            Column("mc", "mc"),
            Column(
                "hss",
                "Speed, HSS",
                "The shop’s own; empty: the handbook’s.",
                group=OWN_SPEEDS,
                measure="speed",
            ),
            Column("carbide", "Speed, carbide", "The same.", group=OWN_SPEEDS, measure="speed"),
        ),
        _material,
        standard_sets.materials,
        made_up=("price",),
    ),
    Drawer(
        "coatings",
        "Coatings",
        "coating",
        (
            Column("name", "Finish"),
            Column("film_low", "Film from", measure="film"),
            Column("film_high", "Film to", measure="film"),
            Column("growth", "Growth over film", "1 plating, 0.5 anodising, −1 blasting and polishing."),
            Column("bore_share", "Least share in a bore", "Such as 0.7."),
            Column("edge_share", "Most share on ends", "Such as 1.3."),
        ),
        _coating,
        standard_sets.coatings,
    ),
    Drawer(
        "rates",
        "Rates",
        "rate",
        (Column("name", "What", "labour, Mill 2."), Column("per_hour", "An hour", "55.00")),
        _rate,
        list,
    ),
    Drawer(
        "offcuts",
        "Offcuts",
        "offcut",
        (
            Column("name", "Name", "As it is marked: A7."),
            Column("material", "Material"),
            Column("section", "Section", "Ø12, 40 × 10."),
            Column("length", "Length", measure="length"),
            Column("shelf", "Shelf"),
        ),
        _offcut,
        list,
    ),
    Drawer(
        "holders",
        "Holders",
        "holder",
        (
            Column("name", "Holder"),
            Column("kind", "Kind", choices=HOLDER_KINDS),
            Column("shape", "Suits", choices=("any", "flat", "round")),
            Column("low", "Spans from", measure="length"),
            Column("high", "to", measure="length"),
            Column("marks", "Marks", choices=("none", "light", "deep")),
            Column("repeat", "Repeats within", "±, empty if never tried.", measure="length"),
            Column("machine", "Stands on", "Empty if it moves."),
            Column("shelf", "Shelf"),
            Column("torque", "Torque", "By its maker."),
            Column("rated", "Clamps with", "By its maker, at that torque; or its screw.", measure="force"),
            Column("screw", "Screw, Ø", measure="length"),
            Column("next_time", "Next time", "One sentence."),
            Column(
                "jaw_high",
                "Jaws above the bed",
                "Of a chuck: how deep it grips. Empty where the table's sizes say it.",
                measure="length",
            ),
            Column("steps", "Steps cut in it", "Size and depth of each: 40 x 6; Ø22 x 5."),
            *BODY_COLUMNS,
        ),
        _holder,
        standard_sets.holders,
        photos=True,
        made_up=("low", "high", "repeat", "body_x", "body_y", "tall", "seat"),
    ),
    Drawer(
        "pallets",
        "Pallets",
        "pallet",
        (
            Column("name", "Pallet", "As it is marked."),
            Column("holder", "Kind", "Its name among the holders."),
            Column("state", "Is", choices=PALLET_STATES),
            Column("base", "Where", "Base and machine."),
            Column("holds", "Holds", "What is on it."),
            Column("note", "Remember"),
        ),
        _pallet,
        list,
    ),
    Drawer(
        "coolants",
        "Coolants",
        "coolant",
        (
            Column("name", "Recipe", "Tapping 316."),
            Column("material", "For material", "As jobs name it; empty for any."),
            Column("operation", "For", choices=COOLED),
            Column("what", "What, how strong, how", "Cutting oil, by brush; emulsion 8 %, flood."),
            Column("note", "Remember"),
        ),
        _coolant,
        list,
    ),
    Drawer(
        "tools",
        "Tools",
        "tool",
        (
            Column("name", "Number and name", "T03 finish slot: as the control shows it, then what it is."),
            Column("machine", "In", "Machine it is in; empty for any."),
            Column("kind", "Kind", choices=TOOL_KINDS),
            Column("across", "Diameter", measure="length"),
            Column("out", "Stands out", "From its holder.", measure="length"),
            Column("life", "Lasts", "200 pieces; 45 min of cutting."),
            Column("left", "Left", "Of the one that is in; all of it if empty."),
            Column("sisters", "Spares", "Others like it that are ready."),
            Column("edge", "Cuts with", choices=TOOL_EDGES, group="More of it"),
            Column("flutes", "Flutes", group="More of it"),
            Column("flute", "Flute length", group="More of it", measure="length"),
            Column(
                "nose",
                "Holder’s nose, Ø",
                "Where it ends above the tool.",
                group="More of it",
                measure="length",
            ),
            Column(
                "lead", "Point or lead", "That does not cut full size.", group="More of it", measure="length"
            ),
            Column("radius", "Corner radius", group="More of it", measure="length"),
            Column(
                "runout", "Runout", "Dial at its edge, turned by hand.", group="More of it", measure="length"
            ),
            Column("insert", "Insert", "CNMG 120408, as ISO 1832 writes it.", group="More of it"),
            Column("condition", "Condition", choices=TOOL_CONDITIONS, group="More of it"),
            Column("note", "Remember", "Holder, coating, what was changed.", group="More of it"),
        ),
        read_shop_tool,
        list,
    ),
    Drawer(
        "own_orders",
        "Order rules",
        "order rule",
        (
            Column("name", "Rule", "Words of the steps: deburr before ream."),
            Column("reason", "Because"),
        ),
        read_own_order,
        list,
    ),
    Drawer(
        "unknown",
        "Unknown material",
        "unknown material",
        (
            Column("name", "Marked", "What is written on it, or where it lies."),
            Column("looks", "Looks", "Colour, scale, what it was before."),
            Column("spark", "Spark", "Long, bursting, red, none."),
            Column("filed", "File", "Bites, slides."),
            Column("chip", "Chip", "Long, short, powder."),
            Column("magnet", "Magnet", choices=MAGNET),
            Column("guess", "Taken for", "A guess; it stays one."),
            Column("cut_like", "Machined like", "What it did under the tool."),
            Column("shelf", "Shelf"),
        ),
        _unknown,
        list,
    ),
    Drawer(
        "taught",
        "Taught by batches",
        "figure",
        (
            Column("name", "What"),
            Column(
                "figure",
                "Figure",
                "Pace: the real cycle over the planned one. The others are of a piece, or of one setup.",
                choices=TEACHES,
            ),
            Column("value", "Value", "1.12; 41 s; 2 %."),
            Column("batches", "Batches"),
            Column("pieces", "Pieces"),
            Column("way", "Way"),
            Column("machine", "Machine"),
            Column("material", "Material"),
            Column("from", "From", "Job and batch; each counts once."),
        ),
        read_taught,
        list,
    ),
    Drawer(
        "forgotten",
        "Forgotten before",
        "thing forgotten",
        (
            Column("what", "What", "Both parallels tried by hand. Prove asks it first."),
            Column("machine", "Machine", "Empty: at any."),
            Column("day", "Missed last"),
            Column("times", "Times"),
            Column(
                "looked",
                "Looked at since",
                f"After {FORGETS_AFTER} times it is habit, and not asked any more.",
            ),
        ),
        read_forgotten,
        list,
    ),
    Drawer(
        "devices",
        "Devices",
        "device",
        (
            Column("name", "Name"),
            Column("kind", "Kind", choices=DEVICE_KINDS),
            Column("of", "Gauge or machine", "Its name as on Shop; empty for any gauge."),
            Column("key", "Key", "The device sends it as X-Device-Key with each line."),
        ),
        read_device,
        list,
    ),
    Drawer(
        "maintenance",
        "Maintenance",
        "thing to maintain",
        (
            Column("what", "What", "Way oil low after each batch."),
            Column("machine", "Machine", "Empty: any."),
            Column("noticed", "Noticed", "2026-11-28."),
            Column("state", "Is", choices=DONE),
            Column("again", "Again on", "Empty if once."),
            Column("note", "Remember"),
        ),
        read_maintenance,
        list,
    ),
    Drawer(
        "gauge_checks",
        "Gauge checks",
        "check",
        (
            Column("gauge", "Gauge", "Its name as on Shop."),
            Column("on", "Checked on", "2026-11-28."),
            Column("against", "Against", "Block 25.000, ring 12."),
            Column("result", "It is", choices=CHECK_RESULTS),
            Column("found", "Found", "+0.002 mm."),
            Column("due", "Due again", "Empty if nobody says."),
        ),
        read_gauge_check,
        list,
    ),
    Drawer(
        "condition",
        "Machine condition",
        "condition",
        (
            Column("machine", "Machine"),
            Column("what", "What", "Backlash, level by reversal, spindle."),
            Column("found", "Found", "0.12 mm."),
            Column("on", "On", "2026-11-28."),
            Column("note", "Remember"),
        ),
        read_condition,
        list,
    ),
    Drawer(
        "fixtures",
        "Fixtures and jaws",
        "fixture",
        (
            Column("name", "Mark", "Soft jaws 3."),
            Column("job", "For"),
            Column("shelf", "Shelf"),
            Column("note", "Remember"),
        ),
        read_fixture,
        list,
    ),
    Drawer(
        "to_ask",
        "Whom to ask",
        "one to ask",
        (
            Column("name", "Who or what", "The plater."),
            Column("what", "For what"),
            Column("reached", "Reached by", "Telephone, address of a page."),
            Column("note", "Remember", "How they deliver."),
        ),
        read_to_ask,
        list,
    ),
    Drawer(
        "finished",
        "Finished stock",
        "part on the shelf",
        (
            Column("part", "Part", "As the job names it."),
            Column("there", "On the shelf"),
            Column("least", "At least", "Under it the next batch is called for."),
            Column("batch", "Usual batch"),
            Column("shelf", "Shelf"),
        ),
        read_on_shelf,
        list,
    ),
)
BY_NAME = {drawer.name: drawer for drawer in DRAWERS}


def drawer_of(name: str) -> Drawer:
    """Return a register by its name.

    Raises:
        NotFound: if there is none.
    """
    for drawer in DRAWERS:
        if drawer.name == name:
            return drawer
    raise NotFound("register", name, f"Choose one of {', '.join(BY_NAME)}.")
