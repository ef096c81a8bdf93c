"""Checks of the Part step."""

from collections.abc import Mapping, Sequence
from decimal import Decimal

from ditto_run.core.errors import NeedsAnswer
from ditto_run.core.findings import Finding
from ditto_run.core.part.characteristic import Characteristic
from ditto_run.core.part.heading import Heading
from ditto_run.core.sheets import StockSize
from ditto_run.core.sizes import Size, size_text
from ditto_run.core.units import MM_PER_INCH, LengthUnit, value_text

FEWEST_NEIGHBOURS = 2  # with one neighbour anything may be right
SLACK = Decimal(
    "1.5"
)  # how far past its neighbours a size may lie before we wonder; common practice, no source
FAR = Decimal(5)
INCH_DECIMALS = 3  # a bare metric size seldom has so many; common practice, no source


def doubt_about_size(size: Size, neighbours: Sequence[Size], job_unit: LengthUnit) -> NeedsAnswer | None:
    """Return the question to ask about a size that looks 10 × or 25.4 × off, or None.

    The size is compared with the largest and smallest length of the same part. It is asked about
    only if it lies far outside them, and the same digits read in the other unit, or with the point
    moved by one place, would lie among them. Small features are common: a size far below the others
    is asked about only if it is written with three decimals or more, as inches are.

    Args:
        size: the new size.
        neighbours: the other sizes of the part.
        job_unit: unit of the drawing.

    Returns:
        A question with the likely readings as choices, or None.

    Source:
        Common practice, no source: factors 10 and 25.4 are the two slips a keyboard makes.
    """
    lengths = [other.nominal_base for other in neighbours if other.kind != "angle" and other.nominal_base > 0]
    if len(lengths) < FEWEST_NEIGHBOURS or size.kind in {"angle", "thread", "drill"} or size.nominal <= 0:
        return None
    low, high = min(lengths) / SLACK, max(lengths) * SLACK
    value = size.nominal_base
    small = (
        value < low / FAR and size.decimals >= INCH_DECIMALS
    )  # a small feature is common, a small inch value not
    if not small and value <= high * 2:
        return None
    other_unit: LengthUnit = "in" if size.unit == "mm" else "mm"
    guesses: dict[str, str] = {}
    as_other = size.nominal if other_unit == "mm" else size.nominal * MM_PER_INCH
    if low <= as_other <= high:
        guesses[value_text(size.nominal, other_unit, size.decimals)] = _in_other_unit(size, other_unit)
    if not small and low <= value / 10 <= high:
        moved = size.nominal / 10
        guesses[value_text(moved, size.unit, size.decimals + 1)] = f"{moved:f} {size.unit}"
    if not guesses:
        return None
    drawn = size_text(size)
    span = " to ".join(
        value_text(_from_mm(end, job_unit), job_unit, 2) for end in (min(lengths), max(lengths))
    )
    return NeedsAnswer(
        f"{drawn} is far from the part's other sizes, {span}.",
        f"Did you mean {' or '.join(guesses)}? Say again to keep {drawn}.",
        "size",
        guesses,
    )


def _in_other_unit(size: Size, unit: LengthUnit) -> str:
    text = size.text
    for mark in ("mm", "inches", "inch", "in", '"'):
        text = text.removesuffix(mark).strip()
    return f"{text} {unit}"


def _from_mm(value_mm: Decimal, unit: LengthUnit) -> Decimal:
    return value_mm if unit == "mm" else value_mm / MM_PER_INCH


def part_findings(heading: Heading, characteristics: Sequence[Characteristic]) -> list[Finding]:
    """Return what Part still wants: at least one characteristic, and limits for each critical one."""
    found = []
    if not characteristics:
        found.append(
            Finding(
                "part",
                "ask",
                "no-characteristic",
                "Nothing says what must come out the same.",
                "Add the first size that matters.",
            )
        )
    found += [
        Finding(
            "part",
            "ask",
            "critical-without-limits",
            f"{c.name} is critical but has no limits.",
            "Ask the customer, or type the limits you agreed.",
        )
        for c in characteristics
        if c.grade == "critical" and not c.drawing.has_limits and not c.by_gauge_only
    ]
    if heading.quantity_is_guess:
        found.append(
            Finding(
                "part",
                "ask",
                "quantity-is-a-guess",
                f"Nobody has said how many; {heading.quantity} is a guess.",
                "Ask the customer, then clear the mark in the job's head.",
            )
        )
    if heading.has_consequence:
        found += _consequence(heading)
    if heading.waits_for:
        found.append(
            Finding("part", "note", "waits", f"Waits for {heading.waits_for}.", "Clear it when it has come.")
        )
    return found


def _consequence(heading: Heading) -> list[Finding]:
    """Return what a part that people can come to harm by wants; no arithmetic here replaces it."""
    found = [
        Finding(
            "part",
            "note",
            "consequence",
            f"This part {heading.consequence_words}: every piece is gauged and recorded in full.",
            "Design and approval belong to a competent person, not to this tool's arithmetic.",
        )
    ]
    if not heading.approved_by:
        found.append(
            Finding(
                "part",
                "stop",
                "no-approval",
                f"This part {heading.consequence_words}, and nobody competent has approved its design.",
                "Write down in the job's head who did. Design and approval are not this tool's.",
                "heading",
            )
        )
    if not heading.heat:
        found.append(
            Finding(
                "part",
                "ask",
                "no-material-trace",
                f"A part that {heading.consequence_words} has no heat or certificate of its material.",
                "Type it in the job's head.",
            )
        )
    return found


def stock_findings(
    stock: Sequence[StockSize], unit: LengthUnit, users: Mapping[int, Sequence[str]]
) -> list[Finding]:
    """Return a note for each measured size over 2 % from what it is sold as, with what follows it now.

    Args:
        stock: sizes of what was bought.
        unit: the drawing's unit.
        users: names of the sheets that use each size, by its key.
    """
    return [
        Finding(
            "part",
            "note",
            "stock-differs",
            f"{size.name} measures {size.measured}, sold as {size.nominal}.",
            f"The measured size is used now by: {', '.join(users.get(size.key, ())) or 'nothing yet'}.",
        )
        for size in stock
        if size.measured and size.differs(unit)
    ]
