"""The last digits are enough: 977 after 19.996 becomes 19.977, where only one whole number can be meant."""

from collections.abc import Iterable
from decimal import Decimal

from ditto_run.core.errors import NeedsAnswer
from ditto_run.core.sizes import Size
from ditto_run.core.units import number_text

FEWEST_DIGITS = 2
MOST_OFFERED = 3
NEAR, CLEAR = 1, 3  # tolerances from the limits: how near the one meant lies, and how far every other
FAR_RATIO = Decimal(3)  # of a size with one limit; common practice, no source


def full_entry(typed: str, recent: Decimal | None, decimals: int, size: Size) -> str:
    """Return the whole number that a short entry stands for; anything else unchanged.

    An entry is short if it is only digits, at least two, and there is a recent accepted reading. It may stand for itself,
    for the digits of a number without its point, or for the last digits of one: at the last place of earlier readings,
    and if it is shorter than those at the drawing's last place too. It is completed if one of these lies within a
    tolerance of the limits and every other is at least three tolerances away.

    Args:
        typed: as typed.
        recent: last accepted reading of this dimension; None asks for the whole number. [size's unit]
        decimals: decimals of earlier readings.
        size: what the drawing says.

    Returns:
        The whole number as text, or `typed` unchanged.

    Raises:
        NeedsAnswer: if several whole numbers may be meant.

    Example:
        >>> from ditto_run.core.sizes import read_size
        >>> full_entry("977", Decimal("19.996"), 3, read_size("20 ±0.03", "mm"))
        '19.977'
    """
    short = typed.isascii() and typed.isdigit() and len(typed) >= FEWEST_DIGITS
    if recent is None or not short or size.unit == "arcsec" or size.lower is None or size.upper is None:
        return typed
    tolerance = size.upper - size.lower
    if not tolerance or size.lower < 0:
        return typed
    finest = max(decimals, size.decimals)
    places = {finest} if len(typed) >= finest else {finest, size.decimals}
    found = {Decimal(typed)} | {Decimal(int(typed)).scaleb(-n) for n in (finest, size.decimals)}
    found |= {whole for place in places for whole in _endings(typed, place, size, tolerance * CLEAR)}
    close = sorted(
        (value for value in found if _away(value, size) < tolerance * CLEAR), key=lambda v: _away(v, size)
    )
    if not close:
        return typed
    if len(close) > 1 or _away(close[0], size) > tolerance * NEAR:
        words = [f"{value:f}" for value in close[:MOST_OFFERED]]
        raise NeedsAnswer(
            f"{typed} may be {' or '.join(words)}.", "Type the whole number.", "text", {w: w for w in words}
        )
    return f"{close[0]:f}"


def _away(value: Decimal, size: Size) -> Decimal:
    """Return how far a value lies outside its limits; 0 inside, [size's unit]."""
    low, high = size.lower or Decimal(0), size.upper or Decimal(0)
    return max(low - value, value - high, Decimal(0))


def _endings(typed: str, decimals: int, size: Size, reach: Decimal) -> Iterable[Decimal]:
    """Give the numbers of so many decimals that end in the digits typed and lie near the limits."""
    low, high = (size.lower or Decimal(0)) - reach, (size.upper or Decimal(0)) + reach
    wrap, ending = Decimal(10 ** len(typed)).scaleb(-decimals), Decimal(int(typed)).scaleb(-decimals)
    first = max(0, int((low - ending) / wrap))
    last = int((high - ending) / wrap) if high >= ending else -1
    for count in range(first, min(last, first + 50) + 1):
        yield ending + count * wrap


def doubt_about_reading(value: Decimal, recent: Decimal | None, size: Size) -> NeedsAnswer | None:
    """Return the question to ask about a reading far from what can be expected, or None.

    With two limits it is asked about if it lies more than twice their width from the last accepted reading, or from the
    middle if there is none. With one limit everything on its good side can be expected, and it is asked about beyond
    three times the limit on the other. Without limits, if it is a tenth of the size away.

    Args:
        value: the reading. [size's unit]
        recent: last accepted reading of this dimension. [size's unit]
        size: what the drawing says.

    Source:
        Common practice, no source.
    """
    against = size.middle if recent is None else recent
    away = value - against
    limit = size.upper if size.lower is None else size.lower if size.upper is None else None
    if limit is not None:
        bad_side = value > limit * FAR_RATIO if size.upper is not None else value * FAR_RATIO < limit
        if limit <= 0 or not bad_side:
            return None
        against, away = limit, value - limit
    else:
        width = (size.upper or Decimal(0)) - (size.lower or Decimal(0))
        far = width * 2 if size.has_limits and width > 0 else abs(size.nominal) / 10
        if not far or abs(away) <= far:
            return None
    which = (
        "the limit"
        if limit is not None
        else "the last one"
        if recent is not None
        else "the size on the drawing"
    )
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
