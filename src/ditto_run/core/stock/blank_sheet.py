"""The blank sheet."""

from decimal import Decimal

from ditto_run.core.findings import Finding
from ditto_run.core.part.shape.measures import MEASURES
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.stock.blank import Blank, bar_blank, block_blank
from ditto_run.core.units import length_text, number_text

NOTHING = Decimal(0)
SIZES = ("length", "across", "width", "height")


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the blank sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    shape = entries.choice("shape", ("bar", "block"))
    part = known.of(MEASURES) if known.part_form == {"bar": "turned", "block": "block"}[shape] else None

    def size(name: str, index: int, example: str) -> Decimal:
        """As typed, else the part's own."""
        if part is None or entries.has(name):
            return entries.mm(name, example)
        return Decimal(repr(round(part.size[index], 5)))

    grip, square = (entries.maybe_mm(name, above=False) or NOTHING for name in ("grip", "square"))
    facing = entries.maybe_mm("facing", above=False) or NOTHING
    skin = entries.maybe_mm("skin", above=False) or NOTHING
    length = size("length", 0, "86")
    if shape == "bar":
        blank = bar_blank(size("across", 1, "12"), length, skin, facing, grip, square)
        words = f"Ø{length_text(blank.blank_mm[0], known.unit, 2)} × {length_text(blank.blank_mm[1], known.unit, 2)}"
    else:
        sizes = length, size("width", 1, "40"), size("height", 2, "31.5")
        blank = block_blank(sizes, (facing, skin, skin), grip, square)
        words = " × ".join(length_text(size, known.unit, 2) for size in blank.blank_mm)
    removed = 1 - blank.finished_volume_mm3 / blank.volume_mm3
    return Answer(
        f"Blank {words}.",
        "Finished length, facing each end, and what is gripped; the cuts, setups and incoming check use this one record.",
        (
            Fact(
                "Finished",
                " × ".join(length_text(one, known.unit, 2) for one in blank.finished_mm),
                "from the features" if part is not None and not any(map(entries.has, SIZES)) else "as typed",
            ),
            Fact(
                "Cut off",
                length_text(blank.length_mm, known.unit, 2),
                f"with {length_text(grip, known.unit, 1)} of grip" if grip else "no grip of its own",
            ),
            Fact("Across", length_text(blank.across_mm, known.unit, 2)),
            Fact(
                "Cut away at least",
                f"{number_text(Decimal(repr(removed * 100)), 0)} %",
                "of the blank's envelope",
            ),
        ),
        findings=_findings(blank, known),
        result=blank,
        source="rule of the trade",
    )


def _findings(blank: Blank, known: Known) -> tuple[Finding, ...]:
    """Compare the bar bought, by its measured size, with what the blank wants."""
    bars = [size for size in known.stock.values() if "bar" in size.name.lower()]
    if blank.shape != "bar" or not bars:
        return ()
    used = bars[0].used_mm(known.unit)
    if used < blank.across_mm:
        return (
            Finding(
                "stock",
                "ask",
                "bar-under-blank",
                f"{bars[0].name} is {length_text(used, known.unit)}, the blank wants {length_text(blank.across_mm, known.unit)}.",
                "Take a larger bar, or leave less on the diameter.",
            ),
        )
    return ()


BLANK = SheetKind(
    "blank",
    "stock",
    "Blank",
    (
        Entry("shape", "Cut from", kind="choose", choices=("bar", "block")),
        Entry("length", "Finished length", length=True),
        Entry("across", "Finished largest Ø", length=True),
        Entry("width", "Finished width, Y", length=True),
        Entry("height", "Finished height, Z", length=True),
        Entry("facing", "Facing, each end"),
        Entry("skin", "On Ø, or each side"),
        Entry("grip", "Grip of each piece"),
        Entry("square", "Saw out of square"),
    ),
    compute,
    single=True,
    begins=lambda known: (
        {"shape": "bar" if known.part_form == "turned" else "block"} if known.of(MEASURES) else {}
    ),
)
