"""Checks of the Part step."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from decimal import Decimal

from ditto_run.core.errors import NeedsAnswer
from ditto_run.core.findings import Finding
from ditto_run.core.part.characteristic import Characteristic
from ditto_run.core.part.heading import Heading
from ditto_run.core.sheets import StockSize
from ditto_run.core.sizes import Size, size_text
from ditto_run.core.units import MM_PER_INCH, LengthUnit, decimals_of, value_text

SLACK = Decimal("1.5")  # how far past the others a corrected size may lie; common practice, no source
LARGE = Decimal("2.5")  # from so many times the largest size on we wonder; common practice, no source
WIDE = Decimal(
    3
)  # how far from the others a size meant in the other unit may lie; common practice, no source
FAR, FARTHER = (
    Decimal(5),
    Decimal(10),
)  # how far below the smallest a size with three, or two, decimals is asked about
LIKE = Decimal("0.03")  # how near to ten times the only other size one has to be, to be asked about
INCH_DECIMALS, FEW_DECIMALS = 3, 2  # a bare metric size seldom has so many; common practice, no source
THINNEST_MM = Decimal("0.005")  # no size of a part is less; own judgement
TEN = Decimal(10)


def doubt_about_size(size: Size, neighbours: Sequence[Size], job_unit: LengthUnit) -> NeedsAnswer | None:
    """Return the question to ask about a size that looks 10 × or 25.4 × off, or None.

    The size is compared with the other lengths of the same part. It is asked about only if it lies far outside them,
    and the same digits read in the other unit, or with the point moved by one place, would lie among them. Small
    features are common: a size far below the others is asked about only if it is written with decimals as inches are;
    radii, chamfers and what says form or position never are. Before there are others, .250 in a job in millimetres and
    a size thinner than any film are asked about.

    Args:
        size: the new size.
        neighbours: the other sizes of the part.
        job_unit: unit of the drawing.

    Returns:
        A question with the likely readings as choices, or None.

    Source:
        Common practice, no source: factors 10 and 25.4 are the two slips a keyboard makes.
    """
    small_feature = size.kind == "radius" or "chamfer" in size.note
    if size.kind in {"angle", "thread", "drill"} or size.nominal <= 0:
        return None
    lengths = [
        other.nominal_base
        for other in neighbours
        if other.kind not in {"angle", "thread"} and other.nominal_base > 0
    ]
    guesses = {} if small_feature else _guesses(size, lengths, job_unit)
    if not guesses and size.nominal_base >= THINNEST_MM:
        return None
    drawn = size_text(size)
    among = (
        f"far from the part's other sizes, {_span(lengths, job_unit)}" if lengths else "written as inches are"
    )
    if not guesses:
        among = "thinner than any part"
    meant = f"Did you mean {' or '.join(guesses)}? " if guesses else ""
    return NeedsAnswer(f"{drawn} is {among}.", f"{meant}Press Enter again to keep {drawn}.", "size", guesses)


def _guesses(size: Size, lengths: Sequence[Decimal], job_unit: LengthUnit) -> dict[str, str]:
    """Return what a size far from the others may be meant as: the words, and the text that says so."""
    value = size.nominal_base
    other_unit: LengthUnit = "in" if size.unit == "mm" else "mm"
    in_other = value * MM_PER_INCH if other_unit == "in" else value / MM_PER_INCH
    bare_inches = (
        size.unit == "mm" == job_unit and size.text.startswith(".") and size.decimals >= INCH_DECIMALS
    )
    if not lengths:
        return _as_other(size, other_unit) if bare_inches else {}
    least, most = min(lengths), max(lengths)
    found: dict[str, str] = {}
    if least == most:
        slips = (value / TEN, value * TEN) if len(lengths) > 1 or size.name else ()
        moved = next((one for one in slips if abs(one - least) <= LIKE * least), None)
        if moved is not None:
            found |= _moved(size, TEN if moved > value else 1 / TEN)
        return found | (_as_other(size, other_unit) if bare_inches and value * FAR < least else {})
    low, high = least / SLACK, most * SLACK
    small = (size.decimals >= INCH_DECIMALS and value < low / FAR) or (
        size.decimals >= FEW_DECIMALS and value < least / FARTHER
    )
    if not small and value <= most * LARGE:
        return {}
    if least / WIDE <= in_other <= most * WIDE:
        found |= _as_other(size, other_unit)
    if not small and low <= value / TEN <= high:
        found |= _moved(size, 1 / TEN)
    if small and low <= value * TEN <= high:
        found |= _moved(size, TEN)
    return found


def _as_other(size: Size, unit: LengthUnit) -> dict[str, str]:
    text = size.text
    for mark in ("mm", "inches", "inch", "in", '"'):
        text = text.removesuffix(mark).strip()
    return {value_text(size.nominal, unit, size.decimals): f"{text} {unit}"}


def _moved(size: Size, times: Decimal) -> dict[str, str]:
    """Return a size with its point moved, the limits as they were typed: a class stays, deviations stay."""
    nominal = size.nominal * times
    decimals = max(size.decimals + (1 if times < 1 else 0), 0)
    label = value_text(nominal, size.unit, min(decimals, decimals_of(nominal.normalize())))
    if size.as_limits and size.lower is not None and size.upper is not None:
        return {label: f"{size.lower * times:f} to {size.upper * times:f} {size.unit}"}
    tail = size_text(
        replace(
            size,
            nominal=nominal,
            lower=_shifted(size, size.lower, nominal),
            upper=_shifted(size, size.upper, nominal),
        )
    )
    return {label: tail}


def _shifted(size: Size, limit: Decimal | None, nominal: Decimal) -> Decimal | None:
    return None if limit is None else limit - size.nominal + nominal


def _span(lengths: Sequence[Decimal], unit: LengthUnit) -> str:
    ends = sorted({min(lengths), max(lengths)})
    return " to ".join(value_text(end if unit == "mm" else end / MM_PER_INCH, unit, 2) for end in ends)


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
