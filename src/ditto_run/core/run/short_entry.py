"""The last digits are enough: 977 after 19.996 becomes 19.977."""

from decimal import Decimal

from ditto_run.core.errors import NeedsAnswer
from ditto_run.core.sizes import Size
from ditto_run.core.units import number_text

FEWEST_DIGITS = 2
AMBIGUOUS = Decimal("0.45")  # of the step the missing digits stand for


def full_entry(typed: str, recent: Decimal | None, decimals: int) -> str:
    """Return the whole number that a short entry stands for; anything else unchanged.

    An entry is short if it is only digits, at least two, no more than the recent reading has, and there is a
    recent accepted reading. The missing leading digits are those that bring it nearest to that reading.

    Args:
        typed: as typed.
        recent: last accepted reading of this dimension; None asks for the whole number. [size's unit]
        decimals: decimals of the whole number.

    Returns:
        The whole number as text, or `typed` unchanged.

    Raises:
        NeedsAnswer: if two whole numbers are about equally near.

    Example:
        >>> full_entry("977", Decimal("19.996"), 3)
        '19.977'
    """
    if recent is None or not typed.isascii() or not typed.isdigit() or len(typed) < FEWEST_DIGITS:
        return typed
    steps = int(abs(recent).scaleb(decimals).to_integral_value())
    if len(typed) > len(str(steps)):
        return typed
    if len(typed) == len(str(steps)):
        return f"{Decimal(int(typed)).scaleb(-decimals).copy_sign(recent):f}"  # every digit, only the point is missing
    wrap = 10 ** len(typed)
    base = steps // wrap * wrap + int(typed)
    nearest = sorted((base - wrap, base, base + wrap), key=lambda whole: abs(whole - steps))
    whole = [Decimal(found).scaleb(-decimals) for found in nearest[:2]]
    if abs(nearest[0] - steps) > wrap * AMBIGUOUS:
        first, second = (f"{found:f}" for found in whole)
        raise NeedsAnswer(
            f"{typed} may be {first} or {second}.",
            "Type the whole number.",
            "text",
            {first: first, second: second},
        )
    return f"{whole[0].copy_sign(recent):f}"


def doubt_about_reading(value: Decimal, recent: Decimal | None, size: Size) -> NeedsAnswer | None:
    """Return the question to ask about a reading far from the last one, or None.

    It is asked about if it lies outside the limits by more than twice their width from the last accepted
    reading, or from the middle if there is none; without limits, if it is a tenth of the size away.

    Args:
        value: the reading. [size's unit]
        recent: last accepted reading of this dimension. [size's unit]
        size: what the drawing says.

    Source:
        Common practice, no source.
    """
    against = size.middle if recent is None else recent
    if size.lower is not None and size.upper is not None and size.upper > size.lower:
        far = (size.upper - size.lower) * 2
    else:
        far = abs(size.nominal) / 10
    away = value - against
    if not far or abs(away) <= far:
        return None
    which = "the size on the drawing" if recent is None else "the last one"
    decimals = max(size.decimals, 3)
    factor = _factor(value, against)
    hint = f" It is about {factor} of it." if factor else ""
    return NeedsAnswer(
        f"{number_text(value, decimals)} is {number_text(abs(away), decimals)} from {which}.{hint}",
        "Type it again to keep it.",
        "text",
    )


def _factor(value: Decimal, against: Decimal) -> str:
    if not value or not against:
        return ""
    ratio = abs(value / against)
    for factor, words in (
        (Decimal(10), "10 times"),
        (Decimal("0.1"), "a tenth"),
        (Decimal("25.4"), "25.4 times"),
        (1 / Decimal("25.4"), "1/25.4"),
    ):
        if abs(ratio / factor - 1) < Decimal("0.1"):
            return words
    return ""
