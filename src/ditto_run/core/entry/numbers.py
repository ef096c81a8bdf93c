"""Numbers as typed: decimals, fractions, and the units of the shop."""

import re
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.errors import SizeNotRead
from ditto_run.core.units import MM_PER_INCH, LengthUnit, decimals_of

# A whole number before -1/2 is part of a mixed one, never a size less a half.
NUMBER = r"(?:\d+(?: |-(?=\d+/\d))\d+/\d+|\d+/\d+|\d+(?:\.\d*)?(?!-\d+/\d)|\.\d+)"
UNIT = (
    r"(?:(?i:mm|millimet(?:er|re)s?|cm|centimet(?:er|re)s?|inch(?:es)?|in|thou(?:sandth)?s?|tenths?"
    r"|hundredths?|µm|um|microns?|met(?:er|re)s?|ft|feet|foot|(?-i:m))(?![A-Za-z0-9])\.?|\")"
)
FRACTION_DECIMALS = 4  # a fraction is shown to the tenth of a thou
FINEST_FRACTION = 128
UNITS: dict[str, tuple[LengthUnit, Decimal]] = {
    "mm": ("mm", Decimal(1)),
    "millimeter": ("mm", Decimal(1)),
    "millimetre": ("mm", Decimal(1)),
    "m": ("mm", Decimal(1000)),
    "meter": ("mm", Decimal(1000)),
    "metre": ("mm", Decimal(1000)),
    "cm": ("mm", Decimal(10)),
    "centimeter": ("mm", Decimal(10)),
    "centimetre": ("mm", Decimal(10)),
    "hundredth": ("mm", Decimal("0.01")),
    "µm": ("mm", Decimal("0.001")),
    "um": ("mm", Decimal("0.001")),
    "micron": ("mm", Decimal("0.001")),
    "ft": ("in", Decimal(12)),
    "feet": ("in", Decimal(12)),
    "foot": ("in", Decimal(12)),
    "in": ("in", Decimal(1)),
    "inch": ("in", Decimal(1)),
    "inche": ("in", Decimal(1)),
    '"': ("in", Decimal(1)),
    "thou": ("in", Decimal("0.001")),
    "thousandth": ("in", Decimal("0.001")),
    "tenth": ("in", Decimal("0.0001")),
}
SMALL_UNITS = {"thou", "thousandth", "tenth", "hundredth", "µm", "um", "micron"}


@dataclass(frozen=True, slots=True)
class Number:
    """One number as typed.

    Args:
        value: exact value in `unit` if there is one, else as it stands.
        decimals: decimals typed.
        fraction: True if it was written as a fraction, which means inches.
        unit: mm or in if one was typed with it.
        small: True if the unit typed was thou, tenths, hundredths or µm.
    """

    value: Decimal
    decimals: int
    fraction: bool = False
    unit: LengthUnit | None = None
    small: bool = False

    def own(self, unit: LengthUnit) -> LengthUnit:
        """Return its unit: the one typed with it, inches for a fraction, else that of the drawing."""
        return self.unit or ("in" if self.fraction else unit)

    def in_unit(self, unit: LengthUnit) -> Decimal:
        """Return the value in that unit; a number typed without unit is taken to be in it."""
        if self.unit is None or self.unit == unit:
            return self.value
        return self.value * MM_PER_INCH if unit == "mm" else self.value / MM_PER_INCH


def number(text: str, unit_text: str | None = None) -> Number:
    """Return the number, with its unit taken into its value.

    Raises:
        SizeNotRead: for a fraction that no rule shows, such as 1/3 or 1/0.
    """
    text = text.strip()
    whole, _, rest = re.sub(r"(?<=\d)[ -](?=\d+/)", " ", text).rpartition(" ")
    fraction = "/" in text
    if fraction:
        above, below = (Decimal(part) for part in rest.split("/"))
        if not below or below > FINEST_FRACTION or (Decimal(1) / below).normalize() * below != 1:
            raise SizeNotRead(text, "that fraction is on no rule")
        value = Decimal(whole or 0) + above / below
    else:
        value = Decimal(text)
    decimals = min(decimals_of(value), FRACTION_DECIMALS) if fraction else decimals_of(Decimal(text))
    if unit_text is None:
        return Number(value, decimals, fraction)
    word = unit_text.lower().removesuffix(".")
    word = word if word in UNITS else word.removesuffix("s")
    unit, scale = UNITS[word]
    scaled = value * scale
    if scale > 1:
        decimals = max(decimals - 1, 0)
    return Number(scaled, decimals + decimals_of(scale), fraction, unit, word in SMALL_UNITS)
