"""Numbers as typed: decimal point or comma, fractions, units of the shop."""

import re
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.errors import NeedsAnswer, SizeNotRead
from ditto_run.core.sizes.size import decimals_of
from ditto_run.core.units import MM_PER_INCH, LengthUnit

NUMBER = r"(?:\d+[ -]\d+/\d+|\d+/\d+|\d+(?:\.\d*)?|\.\d+)"
UNIT = r"(?:mm|millimet(?:er|re)s?|inch(?:es)?|in\b|\"|thou|tenths?|µm|um|microns?)"
FRACTION_DECIMALS = 4  # a fraction is shown to the tenth of a thou
MOST_DIGITS = 9
UNITS: dict[str, tuple[LengthUnit, Decimal]] = {
    "mm": ("mm", Decimal(1)),
    "millimeter": ("mm", Decimal(1)),
    "millimetre": ("mm", Decimal(1)),
    "in": ("in", Decimal(1)),
    "inch": ("in", Decimal(1)),
    "inche": ("in", Decimal(1)),
    '"': ("in", Decimal(1)),
    "thou": ("in", Decimal("0.001")),
    "tenth": ("in", Decimal("0.0001")),
    "µm": ("mm", Decimal("0.001")),
    "um": ("mm", Decimal("0.001")),
    "micron": ("mm", Decimal("0.001")),
}
SMALL_UNITS = {"thou", "tenth", "µm", "um", "micron"}
SIGNS = str.maketrans(
    {
        "−": "-",
        "–": "-",
        "—": "-",
        "‐": "-",
        "″": '"',
        "”": '"',
        "“": '"',
        "′": "'",
        "’": "'",
        "ø": "Ø",
        "⌀": "Ø",
        "φ": "Ø",
        "×": "x",
        "\u00a0": " ",
        "\u202f": " ",
        "μ": "µ",
        "º": "°",
        "½": " 1/2",
        "¼": " 1/4",
        "¾": " 3/4",
    }
)


@dataclass(frozen=True, slots=True)
class Number:
    """One number as typed.

    Args:
        value: exact value in `unit` if there is one, else as it stands.
        decimals: decimals typed.
        fraction: True if it was written as a fraction, which means inches.
        unit: mm or in if one was typed with it.
        small: True if the unit typed was thou, tenths or µm.
    """

    value: Decimal
    decimals: int
    fraction: bool = False
    unit: LengthUnit | None = None
    small: bool = False

    def in_unit(self, unit: LengthUnit) -> Decimal:
        """Return the value in that unit; a number typed without unit is taken to be in it."""
        if self.unit is None or self.unit == unit:
            return self.value
        return self.value * MM_PER_INCH if unit == "mm" else self.value / MM_PER_INCH


def normalised(text: str) -> str:
    """Return the text with one way of writing each sign, and decimal points only.

    Raises:
        NeedsAnswer: if a comma may part thousands or decimals.
        SizeNotRead: if there is nothing, or far too much.
    """
    text = text[:200].translate(SIGNS).strip()
    if not text:
        raise SizeNotRead(text)
    text = re.sub(r"\s*(?:\+\s*/\s*-|\+-|±|plus or minus)\s*", " ±", text, flags=re.IGNORECASE)
    text = re.sub(r"\s+", " ", text).strip()
    if max((len(digits) for digits in re.findall(r"\d+", text)), default=0) > MOST_DIGITS:
        raise SizeNotRead(text, "no part has that many digits")
    return _points_only(text)


def _points_only(text: str) -> str:
    found = re.findall(r"[\d.,]*,[\d.,]*\d", text)
    if not found:
        return text
    plain = [number for number in found if "." not in number]
    doubtful = [number for number in plain if re.fullmatch(r"[1-9]\d{0,2},\d{3}", number)]
    thousands = any(re.fullmatch(r"[1-9]\d{0,2}(,\d{3}){2,}", number) for number in plain)
    mixed = [number for number in found if "." in number]
    point_decides = thousands or any(n.rindex(".") > n.rindex(",") for n in mixed)
    comma_decides = any(n.rindex(",") > n.rindex(".") for n in mixed) or (
        not thousands and len(plain) > len(doubtful)
    )
    as_points = text.replace(".", "").replace(",", ".") if mixed else text.replace(",", ".")
    without = text.replace(",", "")
    if comma_decides and not point_decides:
        return as_points
    if point_decides or (doubtful and re.search(r"\d\.\d|(?<!\d)\.\d", text)):
        return without
    raise NeedsAnswer(
        f"“{doubtful[0] if doubtful else text}” can be read in two ways.",
        "Choose the one you mean.",
        "size",
        {as_points: as_points, without: without},
    )


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
        if not below or below > 128 or (Decimal(1) / below).normalize() * below != 1:  # noqa: PLR2004
            raise SizeNotRead(text, "that fraction is on no rule")
        value = Decimal(whole or 0) + above / below
    else:
        value = Decimal(text)
    decimals = min(decimals_of(value), FRACTION_DECIMALS) if fraction else decimals_of(Decimal(text))
    if unit_text is None:
        return Number(value, decimals, fraction)
    word = unit_text.lower()
    word = word if word in UNITS else word.removesuffix("s")
    unit, scale = UNITS[word]
    scaled = value * scale
    return Number(scaled, decimals + decimals_of(scale), fraction, unit, word in SMALL_UNITS)
