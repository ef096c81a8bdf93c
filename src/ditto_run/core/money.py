"""Money: whole cents, and how it is typed and shown."""

import re
from decimal import ROUND_HALF_UP, Decimal

from ditto_run.core.errors import BadEntry

MOST_CENTS = 100_000_000


def read_cents(text: str, field: str) -> int:
    """Return a typed sum of money in cents; nothing typed is nothing.

    Args:
        text: such as 55, 55.00, 1,250.00 or €18.50.
        field: entry field it came from.

    Raises:
        BadEntry: if it is no sum, is negative, or beyond a million.

    Example:
        >>> read_cents("55.5", "rate")
        5550
    """
    if not text.strip():
        return 0
    sum_ = re.fullmatch(r"[^\d.,\-−]*([\d.,]+)[^\d.,\-−]*", text.strip())  # a mark may stand before or behind
    typed = sum_[1] if sum_ else ""
    plain = typed.replace(",", ".") if re.fullmatch(r"\d+,\d{1,2}", typed) else typed.replace(",", "")
    if not re.fullmatch(r"\d{1,9}(?:\.\d{1,2})?|\.\d{1,2}", plain):
        raise BadEntry(f"“{text[:30]}” is not a sum of money.", "Type it as 55 or 55.00.", field)
    cents = int((Decimal(plain) * 100).to_integral_value(ROUND_HALF_UP))
    if cents > MOST_CENTS:
        raise BadEntry(f"“{text[:30]}” is over a million.", "Check the decimal point.", field)
    return cents


def money_text(cents: float, mark: str = "") -> str:
    """Return a sum as it is shown: 1,234.50; whole units from 1,000 up.

    Example:
        >>> money_text(123450)
        '1,235'
    """
    value = Decimal(repr(cents)) / 100
    places = Decimal(1) if abs(value) >= 1000 else Decimal("0.01")  # noqa: PLR2004 - where cents stop to matter
    return f"{mark}{value.quantize(places, ROUND_HALF_UP):,f}"
