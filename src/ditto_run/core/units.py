"""Units of a drawing. Verdicts are exact: every conversion here is by a whole decimal factor.

Angles are kept in seconds of arc, because a minute is not a finite decimal of a degree.
"""

from datetime import date
from decimal import ROUND_HALF_UP, Decimal
from fractions import Fraction
from math import ceil
from typing import Literal

Unit = Literal["mm", "in", "arcsec"]
LengthUnit = Literal["mm", "in"]

MM_PER_INCH = Decimal("25.4")  # exact since 1959; [iso80000]
ARCSEC_PER_DEGREE = 3600
ARCSEC_PER_MINUTE = 60
MOST_DECIMALS = 6
NOT_SMALL_UM = 1000  # from here on a distance is said in millimetres and inches
MINUS = "−"
UNIT_WORDS = {"mm": "millimetres", "in": "inches", "arcsec": "degrees"}
UNIT_MARKS = {"mm": "mm", "in": "in", "arcsec": "°"}


def to_base(value: Decimal, unit: Unit) -> Decimal:
    """Return a length in millimetres, an angle in seconds of arc; exact, [mm or arcsec]."""
    return value * MM_PER_INCH if unit == "in" else value


def rounded(value: Decimal, decimals: int) -> Decimal:
    """Return the value, [any unit], with so many decimals, halves away from zero as a shop rounds."""
    return value.quantize(Decimal(1).scaleb(-decimals), ROUND_HALF_UP)


def steps_of(whole: Decimal, largest: Decimal) -> int:
    """Return into how many equal steps, none larger than `largest`, a length is parted, both [any one unit]; rounded up, exact.

    Worked out in whole fractions: a quotient of decimals is cut off after 28 figures and may come out whole where it is not.

    Example:
        >>> steps_of(Decimal("4.8"), Decimal(2))
        3
    """
    return ceil(Fraction(whole) / Fraction(largest))


def convert(value: Decimal, unit: Unit, wanted: Unit) -> Decimal:
    """Return the value in another unit of the same kind; for display, not for verdicts."""
    if unit == wanted:
        return value
    return value * MM_PER_INCH if unit == "in" else value / MM_PER_INCH


IRREGULAR = {"tooth": "teeth", "copy": "copies"}


def capital(words: str) -> str:
    """Return words that begin like a sentence, the rest of them as it is.

    Example:
        >>> capital("station A, G54")
        'Station A, G54'
    """
    return words[:1].upper() + words[1:]


def counted(count: int, one: str) -> str:
    """Return so many of a thing, [1], in words: the only place where a plural is made.

    Example:
        >>> counted(1, "pass"), counted(1200, "pass")
        ('1 pass', '1,200 passes')
    """
    if count == 1:
        return f"1 {one}"
    many = IRREGULAR.get(one) or one + ("es" if one.endswith(("s", "ch", "sh", "x")) else "s")
    return f"{count:,} {many}"


def with_article(one: str) -> str:
    """Return a thing with a or an before it: an offcut, a drill."""
    return f"{'an' if one[:1].lower() in 'aeiou' else 'a'} {one}"


def number_text(value: Decimal, decimals: int) -> str:
    """Return the number, [any unit], with a true minus sign and a leading zero."""
    return f"{rounded(value, decimals):f}".replace("-", MINUS)


def angle_text(arcsec: Decimal) -> str:
    """Return degrees, minutes and seconds, as far as needed.

    Example:
        >>> angle_text(Decimal(161100))
        '44°45′'
    """
    sign = MINUS if arcsec < 0 else ""
    degrees, rest = divmod(abs(arcsec), ARCSEC_PER_DEGREE)
    minutes, seconds = divmod(rest, ARCSEC_PER_MINUTE)
    text = f"{sign}{degrees:f}°"
    if minutes or seconds:
        text += f"{minutes:f}′"
    return text + (f"{seconds.normalize():f}″" if seconds else "")


def value_text(value: Decimal, unit: Unit, decimals: int) -> str:
    """Return value and unit as the drawing writes them; the unit is never left out."""
    if unit == "arcsec":
        return angle_text(value)
    return f"{number_text(value, decimals)} {UNIT_MARKS[unit]}"


def bare_text(value: Decimal, unit: Unit, decimals: int) -> str:
    """Return the value alone, for places that name the unit themselves."""
    return angle_text(value) if unit == "arcsec" else number_text(value, decimals)


def small_text(value: Decimal, unit: Unit) -> str:
    """Return a small distance, the drawing's unit first and the other in brackets.

    Example:
        >>> small_text(Decimal("-0.023"), "mm")
        '23 µm (0.9 thou)'
    """
    size = abs(value)
    if unit == "arcsec":
        return angle_text(rounded(size, 0))
    microns = to_base(size, unit) * 1000
    thou = convert(size, unit, "in") * 1000
    if microns >= NOT_SMALL_UM:
        metric, inch = (
            f"{rounded(microns / 1000, 3).normalize():f} mm",
            f"{rounded(thou / 1000, 4).normalize():f} in",
        )
        return f"{metric} ({inch})" if unit == "mm" else f"{inch} ({metric})"
    metric = f"{_seen(microns, 0 if microns >= 1 or not microns else 1):f} µm"
    inch = f"{_seen(thou, 1).normalize():f} thou"
    return f"{metric} ({inch})" if unit == "mm" else f"{inch} ({metric})"


def small_mm_text(value_mm: Decimal | float, unit: LengthUnit) -> str:
    """Return a small distance given in millimetres, the job's unit first, [mm]."""
    exact = value_mm if isinstance(value_mm, Decimal) else Decimal(repr(value_mm))
    return small_text(convert(exact, "mm", unit), unit)


def said_small(value: Decimal, unit: Unit) -> str:
    """Return a small distance as it is spoken: the drawing's unit only."""
    if unit == "arcsec":
        return angle_text(rounded(abs(value), 0)).replace("°", " degrees ").replace("′", " minutes").strip()
    if to_base(abs(value), unit) * 1000 >= NOT_SMALL_UM:
        return f"{rounded(abs(value), 3 if unit == 'mm' else 4).normalize():f} {UNIT_WORDS[unit]}"
    if unit == "mm":
        microns = _seen(abs(value) * 1000, 0)
        return f"{microns:f} micron{'s' if microns != 1 else ''}"
    return f"{_seen(abs(value) * 1000, 1).normalize():f} thou"


def _seen(value: Decimal, decimals: int) -> Decimal:
    """Return the rounded value; something that would round to nothing keeps its first figure."""
    found = rounded(value, decimals)
    return found if found or not value else rounded(value, -value.adjusted())


def clock_text(seconds: float) -> str:
    """Return minutes and seconds as on a clock: 5:48."""
    whole = round(seconds)
    sign = MINUS if whole < 0 else ""
    minutes, rest = divmod(abs(whole), 60)
    return f"{sign}{minutes}:{rest:02d}"


def day_text(moment: date) -> str:
    """Return a day as it is shown: 4 Dec 2026; of a moment in the zone it bears."""
    return f"{moment.day} {moment:%b %Y}"


def span_text(seconds: float) -> str:
    """Return a long time as hours and minutes: 5 h 58."""
    hours, minutes = divmod(round(seconds / 60), 60)
    return f"{hours} h {minutes:02d}" if hours else f"{minutes} min"


def length_text(value_mm: Decimal | float, unit: LengthUnit, decimals: int = 3) -> str:
    """Return a length in the drawing's unit, the other one in brackets.

    Args:
        value_mm: the length. [mm]
        unit: the drawing's unit.
        decimals: decimals in millimetres; inches get one more.

    Example:
        >>> length_text(Decimal("12.7"), "mm")
        '12.700 mm (0.5000 in)'
    """
    exact = value_mm if isinstance(value_mm, Decimal) else Decimal(repr(value_mm))
    metric = f"{number_text(exact, decimals)} mm"
    inch = f"{number_text(exact / MM_PER_INCH, decimals + 1)} in"
    return f"{metric} ({inch})" if unit == "mm" else f"{inch} ({metric})"


def bare_length(value_mm: Decimal | float, unit: LengthUnit, decimals: int = 1) -> str:
    """Return a length in the job's unit alone, without its name: to a tenth of a millimetre or a hundredth of an inch.

    Args:
        value_mm: the length. [mm]
        unit: of the job.
        decimals: decimals in millimetres; inches get one more.

    Example:
        >>> bare_length(12, "mm"), bare_length(38.1, "in")
        ('12.0', '1.50')
    """
    exact = value_mm if isinstance(value_mm, Decimal) else Decimal(repr(value_mm))
    return number_text(convert(exact, "mm", unit), decimals if unit == "mm" else decimals + 1)


def volume_text(cm3: float, unit: LengthUnit, decimals: int = 1) -> str:
    """Return a volume, [cm³], in cubic inches or centimetres, the job's first.

    Example:
        >>> volume_text(16.387064, "in")
        '1.00 in³ (16.4 cm³)'
    """
    exact = Decimal(repr(cm3))
    metric = f"{number_text(exact, decimals)} cm³"
    inch = f"{number_text(exact * 1000 / MM_PER_INCH**3, decimals + 1)} in³"
    return f"{metric} ({inch})" if unit == "mm" else f"{inch} ({metric})"


def degrees_text(degrees: float) -> str:
    """Return an angle in decimal degrees with degrees and minutes beside it.

    Example:
        >>> degrees_text(2.8624)
        '2.862° (2°52′)'
    """
    sign = MINUS if degrees < 0 else ""
    whole, minutes = divmod(round(abs(degrees) * 60), 60)
    return f"{number_text(Decimal(repr(degrees)), 3)}° ({sign}{whole}°{minutes:02d}′)"


def decimals_of(*values: Decimal | None) -> int:
    """Return how many decimals it takes to write all of the values."""
    most = 0
    for value in values:
        if value is not None:
            exponent = value.as_tuple().exponent
            most = max(most, -exponent if isinstance(exponent, int) else 0)
    return min(most, MOST_DECIMALS)


def tidy(value: Decimal) -> Decimal:
    """Return the value, [any unit], without more decimals than we ever keep; exact where it was."""
    return rounded(value, MOST_DECIMALS + 2).normalize() if decimals_of(value) >= MOST_DECIMALS else value
