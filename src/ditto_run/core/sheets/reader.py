"""The one reader of entries: each kind declared once with its unit, its limits, how it is read and how it is said back."""

import re
from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from typing import Any, Literal

from ditto_run.core.entry.plain import read_count, read_degrees, read_percent, read_plain, read_share
from ditto_run.core.entry.quantity import QUANTITIES, mark_of, quantity_text, read_quantity
from ditto_run.core.entry.quantity import Kind as Quantity
from ditto_run.core.entry.rows import lengths_of
from ditto_run.core.errors import BadEntry, DittoError, NeedsAnswer, standing_at
from ditto_run.core.money import PRICED_BY, money_text, read_cents, read_price
from ditto_run.core.sizes import read_size, read_value, understood
from ditto_run.core.threads import read_thread
from ditto_run.core.times import read_seconds
from ditto_run.core.units import UNIT_MARKS, LengthUnit, angle_text, convert, to_base

LONGEST_MM = Decimal(100_000)
MOST_COUNTED = 100_000_000
ARCSEC = 3600
POWER_OF_TEN = re.compile(r"[\d.]+[eE][+-]?\d+")
Measure = (
    Literal[
        "length",
        "size",
        "angle",
        "thread",
        "time",
        "money",
        "price",
        "count",
        "share",
        "percent",
        "number",
        "row",
    ]
    | Quantity
)


KEPT = frozenset({"length", "angle", "time", "count", "share", "percent", "number", *QUANTITIES})
KEPT_LONGEST = 40  # signs of a text whose value is kept


@dataclass(frozen=True, slots=True)
class MeasureKind:
    """One kind of entry.

    Args:
        mark: unit of a figure typed alone, in millimetres and in inches.
        base: unit of what is read.
        read: gives the value of a text, in a unit of length, for a field.
        say: says a value back.
        examples: what can be typed, for docs/entries.md.
        least, most: limits of the value, whatever the field; None without. [base]
    """

    mark: tuple[str, str]
    base: str
    read: Callable[[str, LengthUnit, str], Any]
    say: Callable[[Any, LengthUnit], str]
    examples: str
    least: Decimal | None = None
    most: Decimal | None = None


def read_as(measure: Measure, text: str, unit: LengthUnit, field: str) -> Any:  # noqa: ANN401 - each kind has its own
    """Return the value of an entry.

    Args:
        measure: what kind of entry it is.
        text: as typed.
        unit: unit of the job or the shop, for a figure typed alone.
        field: entry field it came from.

    Raises:
        BadEntry: which word cannot be read, or that it is beyond all limits of its kind.
        NeedsAnswer: with the readings, if it can be read in two ways.

    Example:
        >>> read_as("torque", "40 N·m", "in", "torque"), read_as("length", "1/2", "mm", "x")
        (Decimal('40'), Decimal('12.70'))
    """
    if measure in KEPT and len(text) <= KEPT_LONGEST:
        try:
            return _kept(measure, text, unit)
        except DittoError:  # read again below: a refusal names its field
            pass
    return _read(measure, text, unit, field)


@lru_cache(maxsize=8192)
def _kept(measure: Measure, text: str, unit: LengthUnit) -> Any:  # noqa: ANN401 - each kind has its own
    """What was read before: a plan asks for the same figures after every change."""
    return _read(measure, text, unit, "")


def _read(measure: Measure, text: str, unit: LengthUnit, field: str) -> Any:  # noqa: ANN401 - each kind has its own
    kind = KINDS[measure]
    value = kind.read(text, unit, field)
    for end, beyond in ((kind.least, "under"), (kind.most, "over")):
        if end is not None and (value < end if beyond == "under" else value > end):
            raise BadEntry(
                f"“{text.strip()[:30]}” is {beyond} {kind.say(end, unit)}.",
                "Check the sign, the decimal point and the unit.",
                field,
            )
    return value


def said_back(measure: Measure, value: Any, unit: LengthUnit) -> str:  # noqa: ANN401 - each kind has its own
    """Return how an entry was understood, in a few words; `value` is what `read_as` gave."""
    return KINDS[measure].say(value, unit)


def mark_for(measure: Measure | None, unit: LengthUnit) -> str:
    """Return the unit of a figure typed alone; empty where none is due."""
    return KINDS[measure].mark[0 if unit == "mm" else 1] if measure else ""


def _length(text: str, unit: LengthUnit, field: str) -> Decimal:
    try:
        value, _, typed = read_value(text, unit)
    except NeedsAnswer as refusal:
        refusal.field = field
        raise
    except DittoError:
        try:
            if POWER_OF_TEN.fullmatch(text.strip()):  # not 1 with the class e9
                raise BadEntry("", "", field)
            drill = read_size(text, unit)  # a drill, a fraction in words, Ø before it
            if drill.as_limits:  # 1 to 2 is no one length
                raise BadEntry("", "", field)
        except DittoError:
            raise BadEntry(
                f"“{text[:30]}” is not a length.", "Type a number, such as 12.5 or 1/2 in.", field
            ) from None
        value, typed = drill.nominal, drill.unit
    return to_base(value, typed)


def _length_text(value_mm: Decimal, unit: LengthUnit) -> str:
    return f"{convert(value_mm, 'mm', unit).normalize():f} {UNIT_MARKS[unit]}"


def _size(text: str, unit: LengthUnit, field: str) -> Any:  # noqa: ANN401 - a Size
    with standing_at(field):
        return read_size(text, unit)


def _thread(text: str, _unit: LengthUnit, field: str) -> Any:  # noqa: ANN401 - a Thread
    with standing_at(field):
        return read_thread(text)


def _bare(value: Decimal, _unit: LengthUnit) -> str:
    return f"{value.normalize():f}"


def _quantity(name: Quantity) -> MeasureKind:
    kind = QUANTITIES[name]
    return MeasureKind(
        (mark_of(name, "mm"), mark_of(name, "in")),
        kind.metric,
        lambda text, unit, field: read_quantity(name, text, unit, field),
        lambda value, unit: quantity_text(name, value, unit),
        kind.example,
    )


KINDS: dict[Measure, MeasureKind] = {
    "length": MeasureKind(
        *(("mm", "in"), "mm", _length, _length_text, "12.5, 1/2 in, 3 thou"),
        *(-LONGEST_MM, LONGEST_MM),
    ),
    "size": MeasureKind(
        *(("mm", "in"), "mm", _size, lambda size, _unit: understood(size)),
        "12 H7, .500 ±.001, six under 5/8",
    ),
    "angle": MeasureKind(
        ("°", "°"),
        "°",
        lambda text, _unit, field: read_degrees(text, field),
        lambda degrees, _unit: angle_text((degrees * ARCSEC).quantize(Decimal("0.1"))),
        "44.5, 44°30'",
    ),
    "thread": MeasureKind(
        *(("", ""), "", _thread, lambda thread, _unit: thread.name, "M6, 1/4-20 UNC, 1/8 NPT")
    ),
    "time": MeasureKind(
        ("s", "s"),
        "s",
        lambda text, _unit, field: Decimal(repr(read_seconds(text, field))),
        lambda seconds, _unit: f"{seconds.normalize():f} s",
        "41, 1:05, 1 h 30, half an hour",
    ),
    "money": MeasureKind(
        ("", ""),
        "cents",
        lambda text, _unit, field: Decimal(read_cents(text, field)),
        lambda cents, _unit: money_text(float(cents)),
        "55, 1,250.00",
    ),
    "price": MeasureKind(
        (f"/{PRICED_BY['mm']}", f"/{PRICED_BY['in']}"),
        "cents/kg",
        lambda text, unit, field: read_price(text, field, unit),
        lambda cents, _unit: f"{money_text(float(cents))} /kg",
        "7.50, 3.40 /lb",
    ),
    "count": MeasureKind(
        ("", ""),
        "",
        lambda text, _unit, field: Decimal(read_count(text, field)),
        _bare,
        "24, 1,000, two dozen",
        most=Decimal(MOST_COUNTED),
    ),
    "share": MeasureKind(
        *(("", ""), "", lambda text, _unit, field: read_share(text, field), _bare),
        "0.7, 70 %, 7/10, 1 in 20",
    ),
    "percent": MeasureKind(
        ("%", "%"),
        "%",
        lambda text, _unit, field: read_percent(text, field),
        lambda value, _unit: f"{value.normalize():f} %",
        "5, 5 %, 1 in 20",
    ),
    "number": MeasureKind(
        *(("", ""), "", lambda text, _unit, field: read_plain(text, field), _bare),
        "0.15, 1/8",
    ),
    "row": MeasureKind(
        ("mm", "in"),
        "mm",
        lengths_of,
        lambda row, unit: "; ".join(_length_text(value, unit) for value in row),
        "0 1 .410 .430",
    ),
    **{name: _quantity(name) for name in QUANTITIES},
}
