"""Angles, tapers and chamfers. An angle is brought to seconds of arc first; then its limits are read like those of a length."""

import re
from dataclasses import replace
from decimal import Decimal
from math import atan, degrees

from ditto_run.core.entry.numbers import NUMBER, UNIT, number
from ditto_run.core.errors import SizeNotRead
from ditto_run.core.sizes.forms import length_of
from ditto_run.core.sizes.size import Size
from ditto_run.core.units import ARCSEC_PER_DEGREE, ARCSEC_PER_MINUTE, LengthUnit, rounded

FIGURE = r"(\d+(?:\.\d*)?|\.\d+)"
DEGREE, MINUTE, SECOND = (
    r" ?(?:°|deg(?:rees?)?\.?)",
    r" ?(?:'|min(?:utes?)?\.?(?! *\d*\.?\d+ ?(?:°|deg)))",
    r" ?(?:\"|sec(?:onds?)?\.?)",
)
MARKED = re.compile(r"°|\d ?deg|^\d+(?:\.\d+)? ?'(?! ?\d*\")", re.IGNORECASE)
LITERAL = re.compile(
    rf"{FIGURE}{DEGREE}(?: ?{FIGURE}{MINUTE})?(?: ?{FIGURE}{SECOND})?|{FIGURE}{MINUTE}(?: ?{FIGURE}{SECOND})?|{FIGURE}{SECOND}|{FIGURE}",
    re.IGNORECASE,
)
CHAMFER = re.compile(rf"(.+?) ?x ?{FIGURE}{DEGREE}", re.IGNORECASE)
CHAMFER_45 = re.compile(r"C ?(?=[\d.])(.+)")
TAPER = re.compile(rf"(?:taper )?1 ?(?::|in) ?{FIGURE}(?: taper)?", re.IGNORECASE)
PER_FOOT = re.compile(
    rf"(?:taper )?({NUMBER}) ?(?:{UNIT})? ?(?:/|per) ?(?:ft|foot)\.?(?: taper)?", re.IGNORECASE
)
INCHES_PER_FOOT = 12


def angle_of(text: str) -> Size | None:
    """Return the angle with its limits that a text means; None if it is no angle, [arcsec].

    Raises:
        SizeNotRead: if it is written as an angle that cannot be read.

    Example:
        >>> angle_of("30° +1°/-0°").upper
        Decimal('111600')
    """
    if not MARKED.search(text):
        return None
    size = length_of(LITERAL.sub(_arcsec, text), "mm")
    if size is None or size.unit != "mm" or size.kind != "length" or re.search(r"mm|in\b|thou", text):
        raise SizeNotRead(text, "it is not an angle such as 45° ±30'")
    return replace(size, unit="arcsec", kind="angle", decimals=0)


def _arcsec(match: re.Match[str]) -> str:
    deg, minute, sec, only_minute, with_sec, only_sec, bare = match.groups()
    parts = (
        (deg or bare, ARCSEC_PER_DEGREE),
        (minute or only_minute, ARCSEC_PER_MINUTE),
        (sec or with_sec or only_sec, 1),
    )
    total = sum((Decimal(figure) * scale for figure, scale in parts if figure), Decimal(0))
    return f"{total.normalize():f} " if match[0].endswith(" ") else f"{total.normalize():f}"


def chamfer_of(text: str, job_unit: LengthUnit) -> Size | None:
    """Return the width of a chamfer, with its angle in the name: 1x45°, C1; None if it is none."""
    if match := CHAMFER.fullmatch(text):
        inner, angle = match[1], match[2]
    elif match := CHAMFER_45.fullmatch(text):
        inner, angle = match[1], "45"
    else:
        return None
    size = length_of(inner.strip(), job_unit)
    return None if size is None or size.kind != "length" else replace(size, note=f"chamfer, {angle}°")


def taper_of(text: str) -> Size | None:
    """Return the included angle of a taper on the diameter: 1:10, 3/4 in per foot; None if it is none, [arcsec].

    Raises:
        SizeNotRead: if it tapers by nothing.

    Source: tan of half the angle is half the taper; own derivation.
    """
    if match := TAPER.fullmatch(text):
        ratio, name = Decimal(match[1]), f"1:{Decimal(match[1]).normalize():f}"
        if not ratio:
            raise SizeNotRead(text, "a taper of 1 in nothing is none")
    elif match := PER_FOOT.fullmatch(text):
        rise = number(match[1]).value
        if not rise:
            raise SizeNotRead(text, "a taper of nothing is none")
        ratio, name = INCHES_PER_FOOT / rise, f"{match[1]} in per foot"
    else:
        return None
    whole = Decimal(repr(2 * degrees(atan(1 / (2 * float(ratio)))))) * ARCSEC_PER_DEGREE
    return Size("", "arcsec", 0, rounded(whole, 0), kind="angle", name=name)
