"""Numbers without a unit: counts, shares and percentages, plain numbers, angles in degrees."""

import re
from decimal import Decimal

from ditto_run.core.entry.numbers import NUMBER, number
from ditto_run.core.entry.signs import normalised
from ditto_run.core.entry.spoken import words_to_digits
from ditto_run.core.errors import BadEntry, standing_at

DOZEN = 12
COUNT = re.compile(
    r"(\d+)(?: ?(?:x|off|pcs?|pieces?|each|ea)\.?)?|(?:(?:(\d+(?: 1/2)?|1/2) |an? )?(?:a )?(dozens?|gross))",
    re.IGNORECASE,
)
THOUSANDS = re.compile(r"\d{1,3}([,.' ’\u00a0\u202f])\d{3}(?:\1\d{3})*")
DIGITS = re.compile(r"\d+")
PLAIN = re.compile(rf"[+-]? ?({NUMBER})")
OF_ALL = re.compile(rf"({NUMBER}) ?(%|percent|per cent|pct)", re.IGNORECASE)
ONE_IN = re.compile(rf"({NUMBER}) ?(?::|in|of|out of|to) ?({NUMBER})", re.IGNORECASE)
WHOLE = r"(\d+(?:\.\d*)?|\.\d+|\d+/\d+)"
DEGREES = re.compile(
    rf"(?:[+-] ?)?(?:{WHOLE} ?(?:°|deg(?:rees?)?|(?=$| )))?(?: ?{WHOLE} ?')?(?: ?{WHOLE} ?\")?(?<=.)",
    re.IGNORECASE,
)
PERCENT = 100


def read_count(text: str, field: str) -> int:
    """Return how many, [1]: 24, 1,000, 24 pcs, two dozen.

    Args:
        text: as typed. A mark before three figures parts thousands: nobody counts thousandths.
        field: entry field it came from.

    Raises:
        BadEntry: if it is no whole number from nothing up.

    Example:
        >>> read_count("1,000", "quantity"), read_count("two dozen", "quantity")
        (1000, 24)
    """
    bare = text.strip()
    if DIGITS.fullmatch(bare):
        return int(bare)
    bare = re.sub(r"[,.' ’\u00a0\u202f]", "", bare) if THOUSANDS.fullmatch(bare) else bare
    match = COUNT.fullmatch(_plainly(bare))
    if match is None:
        raise BadEntry(
            f"“{text.strip()[:30]}” is not a whole number.", "Type how many, such as 24 or two dozen.", field
        )
    if match[1]:
        return int(match[1])
    each = DOZEN if match[3].lower().startswith("dozen") else DOZEN * DOZEN
    return int((number(match[2]).value if match[2] else 1) * each)


def read_plain(text: str, field: str) -> Decimal:
    """Return a number without a unit, [1]: 0.15, .15, 1/8, −3, half.

    Args:
        text: as typed.
        field: entry field it came from.

    Raises:
        BadEntry: if it is no number.
        NeedsAnswer: if a comma may part thousands or decimals.

    Example:
        >>> read_plain("-1/8", "factor")
        Decimal('-0.125')
    """
    with standing_at(field):
        typed = _plainly(text)
    match = PLAIN.fullmatch(typed)
    found = _signed(match[1], typed) if match else None
    if found is None:
        raise BadEntry(f"“{text.strip()[:30]}” is not a number.", "Type a number, such as 0.15.", field)
    return found


def read_share(text: str, field: str) -> Decimal:
    """Return a share of a whole, [1]: 0.7, 70 %, 7/10, 7:10, 1 in 20.

    Args:
        text: as typed.
        field: entry field it came from.

    Raises:
        BadEntry: if it is no share.

    Example:
        >>> read_share("70 %", "share"), read_share("1 in 20", "share")
        (Decimal('0.7'), Decimal('0.05'))
    """
    with standing_at(field):
        typed = _plainly(text)
    bare = typed.lstrip("+- ")
    if (match := OF_ALL.fullmatch(bare)) and (of_hundred := _signed(match[1], typed)) is not None:
        return of_hundred / PERCENT
    if match := ONE_IN.fullmatch(bare):
        part, whole = _signed(match[1], typed), _signed(match[2])
        if part is not None and whole:
            return part / whole
    return read_plain(text, field)


def read_percent(text: str, field: str) -> Decimal:
    """Return a percentage, [%]: 5, 5 %, 1 in 20. A number alone is in percent.

    Args:
        text: as typed.
        field: entry field it came from.

    Raises:
        BadEntry: if it is none.

    Example:
        >>> read_percent("5", "scrap"), read_percent("1 in 20", "scrap")
        (Decimal('5'), Decimal('5.00'))
    """
    try:
        return read_plain(text, field)
    except BadEntry:
        return read_share(text, field) * PERCENT


def read_degrees(text: str, field: str) -> Decimal:
    """Return an angle or a turn, [°]: 44.5, 44°30', -90 deg, 44 30' 15".

    Args:
        text: as typed; without a sign of its own a number is in degrees.
        field: entry field it came from.

    Raises:
        BadEntry: if it is no angle.

    Example:
        >>> read_degrees("44°30'", "angle")
        Decimal('44.5')
    """
    typed = _plainly(text)
    match = DEGREES.fullmatch(typed)
    parts = (
        [(_signed(part), below) for part, below in zip(match.groups(), (1, 60, 3600), strict=True) if part]
        if match
        else []
    )
    if not parts or any(part is None for part, _ in parts):
        raise BadEntry(f"“{text.strip()[:30]}” is not an angle.", "Type it as 44.5 or 44°30'.", field)
    total = sum((part / below for part, below in parts if part is not None), Decimal(0))
    return -total if typed.startswith("-") else total


def _plainly(text: str) -> str:
    """Return what was typed with one way of writing each sign and digits for words; empty for what is no writing at all.

    Raises:
        NeedsAnswer: if a comma may part thousands or decimals.
    """
    try:
        return words_to_digits(normalised(text)).strip()
    except BadEntry:
        return ""


def _signed(figure: str, sign: str = "") -> Decimal | None:
    """Return one figure, below zero if what it stands in is; None for a fraction that is none."""
    try:
        value = number(figure).value
    except BadEntry:
        return None
    return -value if sign.startswith("-") else value
