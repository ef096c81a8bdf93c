"""Reads one size as a machinist writes it. The order of the forms is the order of `FORMS`."""

import re
from collections.abc import Callable
from decimal import Decimal

from ditto_run.core.errors import BadEntry, NeedsAnswer, SizeNotRead
from ditto_run.core.sizes import names
from ditto_run.core.sizes.iso286 import LETTERS, deviations_um
from ditto_run.core.sizes.numbers import NUMBER, UNIT, Number, normalised, number
from ditto_run.core.sizes.size import Kind, Size, decimals_of, tidy
from ditto_run.core.units import ARCSEC_PER_DEGREE, ARCSEC_PER_MINUTE, MM_PER_INCH, LengthUnit, Unit

N, U = f"({NUMBER})", f"({UNIT})?"
METRIC_THREAD = re.compile(
    r"M(\d+(?:\.\d+)?)(?:\s*x\s*(\d*\.?\d+))?(?:\s*-?\s*(\d[a-hA-H](?:\d?[a-hA-H])?(?:/\d[a-h])?))?"
)
INCH_THREAD = re.compile(
    r"(#?)(\d+ \d+/\d+|\d+-\d+/\d+|\d+/\d+|\d+)\s*-\s*(\d{1,2})(?:\s*(UNC|UNF|UNEF|UN|UNS))?(?:\s*-?\s*([123][AB]))?",
    re.IGNORECASE,
)
PIPE_THREAD = re.compile(
    r"(\d+/\d+|\d+-\d+/\d+|\d)(?:\s*-\s*\d{1,2}(?:\.5)?)?\s*NPTF?|(?:Rc|R)\s*(\d+/\d+|\d+-\d+/\d+|\d)(?:\s*BSPT)?",
    re.IGNORECASE,
)
DRILL = re.compile(
    r"(?:#|no\.? ?|number |letter )?([a-z]|\d{1,2}) drill|#(\d{1,2})|letter ([a-z])", re.IGNORECASE
)
OVER_UNDER = re.compile(rf"{N} (over|under) {N}", re.IGNORECASE)
ISO = re.compile(rf"{N}\s*{U}\s*([A-Za-z]{{1,2}})(\d{{1,2}})\s*{U}")
RANGE = re.compile(rf"{N}\s*{U}\s*(to|\.\.\.?|-|/)\s*{N}\s*{U}", re.IGNORECASE)
ONE_SIDED = re.compile(rf"{N}\s*{U}\s*(max|min)\.?|(max|min)\.? {N}\s*{U}", re.IGNORECASE)
PLUS_MINUS = re.compile(rf"{N}\s*{U}\s*±\s*{N}\s*{U}")
TWO_SIDED = re.compile(
    rf"{N}\s*{U}\s*([+-]\s*{NUMBER}|0(?=\s*/))\s*{U}(?:\s*[/ ,]\s*|\s*(?=[+-]))([+-]?\s*{NUMBER})\s*{U}"
)
ONE_DEVIATION = re.compile(rf"{N}\s*{U}\s*([+-])\s*{N}\s*{U}")
PLAIN = re.compile(rf"{N}\s*{U}")
ANGLE_NUMBER = r"(?:(\d+(?:\.\d+)?)\s*(?:°|deg(?:rees?)?)\s*)?(?:(\d+(?:\.\d+)?)\s*(?:'|min(?:utes?)?)\s*)?(?:(\d+(?:\.\d+)?)\s*(?:\"|''|sec)\s*)?"
ANGLE = re.compile(rf"{ANGLE_NUMBER}(?:±\s*{ANGLE_NUMBER})?", re.IGNORECASE)
COMMON_INCH_THREADS = {"2-56", "4-40", "5-40", "6-32", "8-32", "10-24", "10-32", "12-24"}  # common practice
LARGEST_MM = 100_000
Form = Callable[[str, LengthUnit], Size | None]


def read_size(text: str, job_unit: LengthUnit) -> Size:
    """Return what a typed size means.

    Args:
        text: as typed, such as `12 H7`, `.500 +.000/-.001` or `1-1/4`.
        job_unit: unit of the drawing, for numbers typed without one.

    Returns:
        The size with its limits in the unit it was typed in; its text is what was typed.

    Raises:
        NeedsAnswer: if it can be read in two ways; `choices` holds both.
        SizeNotRead: if it cannot be read.
        BadEntry: if it can be read but makes no sense, as when limits are crossed.
    """
    typed = text.strip()
    plain = names.words_to_digits(normalised(typed))
    kind, bare = _kind(plain)
    for form in FORMS:
        size = form(bare, job_unit)
        if size is not None:
            kept_kind = kind if size.kind == "length" else size.kind
            return _checked(
                Size(
                    typed,
                    size.unit,
                    size.decimals,
                    tidy(size.nominal),
                    size.lower,
                    size.upper,
                    kept_kind,
                    size.name,
                )
            )
    raise SizeNotRead(typed)


def read_value(text: str, unit: Unit) -> tuple[Decimal, int, Unit]:
    """Return one measured value: number, decimals typed, and its unit.

    A value typed with a unit keeps it; one without is in `unit`.

    Raises:
        SizeNotRead: if it is not one plain number.
        NeedsAnswer: if it can be read in two ways.
    """
    typed = normalised(text)
    sign = -1 if typed.startswith("-") else 1
    bare = typed.lstrip("+-").strip()
    if unit == "arcsec":
        size = _angle(bare if "°" in bare or "'" in bare else f"{bare}°", "mm")
        if size is None or size.has_limits:
            raise SizeNotRead(text, "it is not an angle such as 44.5 or 44°30'")
        return size.nominal * sign, 0, "arcsec"
    match = PLAIN.fullmatch(bare)
    if match is None:
        raise SizeNotRead(text, "it is not one plain number")
    value = number(match[1], match[2])
    read_unit: LengthUnit = value.unit or ("in" if value.fraction else unit)
    return value.value * sign, value.decimals, read_unit


def _kind(text: str) -> tuple[Kind, str]:
    for pattern, kind in (
        (r"^(?:Ø|dia(?:m(?:eter)?)?\.?)\s*|\s+dia(?:m(?:eter)?)?\.?$", "diameter"),
        (r"^R\s*(?=[\d.])", "radius"),
    ):
        bare = re.sub(pattern, "", text, count=1, flags=re.IGNORECASE)
        if bare != text:
            return ("diameter" if kind == "diameter" else "radius"), bare
    return "length", text


def _checked(size: Size) -> Size:
    if size.kind != "angle" and abs(size.nominal_base) > LARGEST_MM:
        raise BadEntry(f"{size.text} is more than 100 m.", "Check the decimal point and the unit.", "size")
    if size.kind in {"diameter", "radius", "drill", "thread"} and size.nominal <= 0:
        raise BadEntry(f"{size.text} is not above zero.", "Type the size from the drawing.", "size")
    return size


def _unit_of(job_unit: LengthUnit, *numbers: Number) -> LengthUnit:
    """Return the unit of a size: its own, else that of its tolerance, else inches for a fraction."""
    for part in numbers:
        if part.unit and (part is numbers[0] or not part.small):
            return part.unit
    return "in" if any(part.fraction for part in numbers) else job_unit


def _decimals(unit: LengthUnit, *numbers: Number) -> int:
    return max(
        part.decimals if part.unit in {None, unit} else decimals_of(tidy(part.in_unit(unit)))
        for part in numbers
    )


def _size(
    unit: LengthUnit, numbers: tuple[Number, ...], limits: tuple[Decimal | None, Decimal | None]
) -> Size:
    return Size("", unit, _decimals(unit, *numbers), numbers[0].in_unit(unit), *limits)


def _angle(text: str, _unit: LengthUnit) -> Size | None:
    if "°" not in text and not re.search(r"\d\s*deg", text, re.IGNORECASE):
        return None
    match = ANGLE.fullmatch(text)
    if match is None or not any(match.groups()):
        raise SizeNotRead(text, "it is not an angle such as 45° ±30'")

    def arcsec(first: int) -> Decimal | None:
        parts = [match[first + i] for i in range(3)]
        scales = (ARCSEC_PER_DEGREE, ARCSEC_PER_MINUTE, 1)
        found = [Decimal(part) * scale for part, scale in zip(parts, scales, strict=True) if part]
        return sum(found, Decimal(0)) if found else None

    nominal, tolerance = arcsec(1), arcsec(4)
    if nominal is None or ("±" in text and tolerance is None):
        raise SizeNotRead(text, "it is not an angle such as 45° ±30'")
    lower, upper = (None, None) if tolerance is None else (nominal - tolerance, nominal + tolerance)
    return Size("", "arcsec", 0, nominal, lower, upper, "angle")


def _metric_thread(text: str, _unit: LengthUnit) -> Size | None:
    match = METRIC_THREAD.fullmatch(text)
    if match is None:
        return None
    pitch = match[2] or names.COARSE_PITCH_MM.get(match[1])
    if pitch is None:
        raise SizeNotRead(text, f"M{match[1]} has no coarse pitch; add it, as in M{match[1]}x1")
    name = f"M{match[1]}×{Decimal(pitch):f}" + (f" {match[3]}" if match[3] else "")
    return Size("", "mm", decimals_of(Decimal(match[1])), Decimal(match[1]), kind="thread", name=name)


def _inch_thread(text: str, _unit: LengthUnit) -> Size | None:
    match = INCH_THREAD.fullmatch(text)
    if match is None:
        return None
    screw, major, tpi, series, fit = match.groups()
    if "/" not in major and not screw and not series:
        if text.replace(" ", "") not in COMMON_INCH_THREADS:
            return None  # a range such as 10-12
        raise NeedsAnswer(
            f"“{text}” can be a thread or a range.",
            "Choose the one you mean.",
            "size",
            {f"thread #{major}-{tpi}": f"#{major}-{tpi}", f"from {major} to {tpi}": f"{major} to {tpi}"},
        )
    small = "/" not in major and (bool(screw) or int(major) > 4)  # noqa: PLR2004 - #5 up, 1 to 4 inch below
    value = names.number_screw_in(int(major)) if small else number(major).value
    name = (
        f"{'#' if small else ''}{major}-{tpi}"
        + (f" {series.upper()}" if series else "")
        + (f" {fit.upper()}" if fit else "")
    )
    return Size("", "in", 3, value, kind="thread", name=name)


def _pipe_thread(text: str, _unit: LengthUnit) -> Size | None:
    """Read a taper pipe thread, such as 1/8 NPT or Rc 1/4; it is gauged by how far the plug goes in."""
    match = PIPE_THREAD.fullmatch(text)
    if match is None:
        return None
    size, name = (match[1], f"{match[1]} NPT") if match[1] else (match[2], f"Rc {match[2]}")
    return Size("", "in", 4, number(size).value, kind="thread", name=name)


def _drill(text: str, _unit: LengthUnit) -> Size | None:
    match = DRILL.fullmatch(text)
    if match is None:
        return None
    name = next(group for group in match.groups() if group)
    value = names.drill_in(name)
    if value is None:
        raise SizeNotRead(text, "number drills run from 1 to 80, letter drills from A to Z")
    shown = f"#{name}" if name.isdigit() else name.upper()
    return Size("", "in", decimals_of(value), value, kind="drill", name=f"{shown} drill")


def _over_under(text: str, _unit: LengthUnit) -> Size | None:
    match = OVER_UNDER.fullmatch(text)
    if match is None:
        return None
    thou = number(match[1]).value / 1000
    base = number(match[3]).value
    value = base + thou if match[2].lower() == "over" else base - thou
    return Size("", "in", max(3, min(4, decimals_of(value))), value)


def _iso(text: str, job_unit: LengthUnit) -> Size | None:
    match = ISO.fullmatch(text)
    if match is None or match[3].lower() not in LETTERS or not (match[3].isupper() or match[3].islower()):
        return None
    nominal = number(match[1], match[2] or match[5])
    unit = _unit_of(job_unit, nominal)
    millimetres = nominal.in_unit(unit) * (MM_PER_INCH if unit == "in" else 1)
    deviations = deviations_um(millimetres, match[3], int(match[4]))
    scale = Decimal(1000) if unit == "mm" else Decimal(25400)
    lower, upper = (tidy(nominal.in_unit(unit) + deviation / scale) for deviation in deviations)
    decimals = 3 if unit == "mm" else FOUR
    if unit == "mm" and any(deviation % 1 for deviation in deviations):
        decimals = FOUR
    return Size("", unit, decimals, nominal.in_unit(unit), lower, upper, "diameter", f"{match[3]}{match[4]}")


FOUR = 4  # decimals of a class worked out in inches, or of half a micrometre


def _range(text: str, job_unit: LengthUnit) -> Size | None:
    match = RANGE.fullmatch(text)
    if match is None:
        return None
    low, high = number(match[1], match[2] or match[5]), number(match[4], match[5] or match[2])
    if match[3] == "/" and not (low.decimals and high.decimals):
        return None
    unit = _unit_of(job_unit, low, high)
    limits = [low.in_unit(unit), high.in_unit(unit)]
    if match[3] == "/":
        limits.sort()
    elif limits[0] > limits[1]:
        raise BadEntry(
            f"The range runs backwards: {match[1]} is above {match[4]}.",
            "Type the smaller limit first.",
            "size",
        )
    middle = Number(sum(limits, Decimal(0)) / 2, max(low.decimals, high.decimals), unit=unit)
    return _size(unit, (middle, low, high), (limits[0], limits[1]))


def _one_sided(text: str, job_unit: LengthUnit) -> Size | None:
    match = ONE_SIDED.fullmatch(text)
    if match is None:
        return None
    value, unit_text, word = (match[1], match[2], match[3]) if match[1] else (match[5], match[6], match[4])
    limit = number(value, unit_text)
    unit = _unit_of(job_unit, limit)
    exact = limit.in_unit(unit)
    return _size(unit, (limit,), (None, exact) if word.lower() == "max" else (exact, None))


def _plus_minus(text: str, job_unit: LengthUnit) -> Size | None:
    match = PLUS_MINUS.fullmatch(text)
    if match is None:
        return None
    nominal, tolerance = number(match[1], match[2]), number(match[3], match[4])
    unit = _unit_of(job_unit, nominal, tolerance)
    middle, reach = nominal.in_unit(unit), tolerance.in_unit(unit)
    return _size(unit, (nominal, tolerance), (middle - tidy(reach), middle + tidy(reach)))


def _two_sided(text: str, job_unit: LengthUnit) -> Size | None:
    match = TWO_SIDED.fullmatch(text)
    if match is None:
        return None
    nominal, parts, reaches = number(match[1], match[2]), [], []
    for typed, unit_text in ((match[3], match[4] or match[6]), (match[5], match[6] or match[4])):
        part = number(typed.lstrip("+- "), unit_text)
        if typed[0] not in "+-" and part.value:
            raise SizeNotRead(text, f"the deviation {typed} needs a sign")
        parts.append(part)
        reaches.append(-1 if typed[0] == "-" else 1)
    unit = _unit_of(job_unit, nominal, *parts)
    middle = nominal.in_unit(unit)
    ends = sorted(middle + sign * tidy(part.in_unit(unit)) for sign, part in zip(reaches, parts, strict=True))
    return _size(unit, (nominal, *parts), (ends[0], ends[1]))


def _one_deviation(text: str, job_unit: LengthUnit) -> Size | None:
    match = ONE_DEVIATION.fullmatch(text)
    if match is None:
        return None
    other = "-" if match[3] == "+" else "+"
    return _two_sided(f"{match[1]} {match[2] or ''} {match[3]}{match[4]} {match[5] or ''}/{other}0", job_unit)


def _plain(text: str, job_unit: LengthUnit) -> Size | None:
    match = PLAIN.fullmatch(text)
    if match is None:
        return None
    value = number(match[1], match[2])
    return _size(_unit_of(job_unit, value), (value,), (None, None))


FORMS: tuple[Form, ...] = (
    _angle,
    _metric_thread,
    _pipe_thread,
    _drill,
    _plain,
    _inch_thread,
    _over_under,
    _iso,
    _one_sided,
    _plus_minus,
    _range,
    _two_sided,
    _one_deviation,
)
