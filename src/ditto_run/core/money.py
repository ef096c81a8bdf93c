"""Money: whole cents, and how it is typed and shown."""

import re
from decimal import ROUND_HALF_UP, Decimal

from ditto_run.core.entry.quantity import POUND_KG
from ditto_run.core.errors import BadEntry
from ditto_run.core.units import LengthUnit

# A mark may stand before or behind, and what it is for behind that: €18.50, 18.50 an hour, 1 250.00 /kg.
MARK = r"[^\w\s\d.,;:/%+\-−±]|kr\.?|eur|usd|gbp|chf|cad|aud|nzd|sek|nok|dkk|pln|czk|jpy"
WHOLE = rf"{MARK}|euros?|dollars?|pounds?|francs?|crowns?|quid|bucks?"
HUNDREDTHS = r"cents?|ct|pence|p|c|¢"
SUM = re.compile(
    rf"(?:{MARK})?\s*(\d[\d.,\s'’]*|[.,]\d+)\s*(?:(?:{WHOLE})|({HUNDREDTHS}))?\s*(?:(?:/|per|an?|each|for)\s*[a-z ]{{0,16}})?\.?",
    re.IGNORECASE,
)
OF_MASS = re.compile(r"\s*(?:/|per|an?)\s*(kg|kgs|kilos?|lbs?|pounds?)\.?\s*$", re.IGNORECASE)
OF_OTHER = re.compile(r"(?:/|\bper|\ban?)\s*[a-z]+\.?\s*$", re.IGNORECASE)
PRICED_BY: dict[LengthUnit, str] = {"mm": "kg", "in": "lb"}
THREE = 3  # figures between the marks of thousands
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
    sum_ = SUM.fullmatch(text.strip())
    plain = _plain(sum_[1].strip()) if sum_ else ""
    if sum_ and sum_[2]:
        plain = str(Decimal(plain) / 100) if re.fullmatch(r"\d{1,9}", plain) else "x"
    if not re.fullmatch(r"\d{1,9}(?:\.\d{1,2})?|\.\d{1,2}", plain):
        raise BadEntry(f"“{text[:30]}” is not a sum of money.", "Type it as 55 or 55.00.", field)
    cents = int((Decimal(plain) * 100).to_integral_value(ROUND_HALF_UP))
    if cents > MOST_CENTS:
        raise BadEntry(f"“{text[:30]}” is over a million.", "Check the decimal point.", field)
    return cents


def read_price(text: str, field: str, unit: LengthUnit) -> Decimal:
    """Return the price of a mass as typed: 7.50, 7.50 /kg, $3.40/lb, [cents/kg].

    Args:
        text: as typed; nothing typed is nothing. Without a mass behind it, it is of the shop's own.
        field: entry field it came from.
        unit: unit of the shop: mm goes with kilograms, inches with pounds.

    Raises:
        BadEntry: if it is no sum, is negative, or beyond a million.

    Example:
        >>> read_price("3.40 /lb", "price", "mm").quantize(Decimal("0.01"))
        Decimal('749.57')
    """
    of = OF_MASS.search(text)
    if of is None and OF_OTHER.search(text):
        raise BadEntry(
            f"“{text.strip()[:30]}” is not a price of material.", "Type it as 7.50 /kg or 3.40 /lb.", field
        )
    mass = (of[1] if of else PRICED_BY[unit]).lower()[:1]
    return Decimal(read_cents(text[: of.start()] if of else text, field)) / (POUND_KG if mass in "lp" else 1)


def _plain(typed: str) -> str:
    """Return a sum with a decimal point and nothing else; "x" if its thousands are not in threes."""
    last = max(typed.rfind("."), typed.rfind(","))
    cents = typed[last + 1 :] if last >= 0 else ""
    single = typed.count(".") == 1 and "," not in typed
    whole, end = (typed[:last], cents) if last >= 0 and (len(cents) in {1, 2} or single) else (typed, "")
    groups = re.split(r"[.,\s'’]", whole)
    if end and last >= 0 and typed[last] in whole:  # one mark cannot part both thousands and cents
        return "x"
    if len(groups) > 1 and not all(len(group) == THREE for group in groups[1:]):
        return "x"
    return f"{''.join(groups)}.{end}" if end else "".join(groups)


def money_text(cents: float, mark: str = "") -> str:
    """Return a sum as it is shown: 1,234.50; whole units from 1,000 up.

    Example:
        >>> money_text(123450)
        '1,235'
    """
    value = Decimal(repr(cents)) / 100
    places = Decimal(1) if abs(value) >= 1000 else Decimal("0.01")  # noqa: PLR2004 - where cents stop to matter
    return f"{mark}{value.quantize(places, ROUND_HALF_UP):,f}"
