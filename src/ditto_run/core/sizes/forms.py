"""The forms of a length with its limits, each a pattern and what it means. Their order is that of `LENGTHS`."""

import re
from collections.abc import Callable
from dataclasses import replace
from decimal import Decimal

from ditto_run.core.entry.numbers import NUMBER, UNIT, Number, number
from ditto_run.core.errors import BadEntry, SizeNotRead, TwoReadings
from ditto_run.core.sizes.iso286 import LETTERS, deviations_um
from ditto_run.core.sizes.size import Size
from ditto_run.core.units import MM_PER_INCH, LengthUnit, decimals_of, tidy

N, U = f"({NUMBER})", f"({UNIT})?"
SIGNED = rf"[+-] ?{NUMBER}|(?<![\d.])0(?:\.0*)?(?![\d.])"  # a nought of its own, not the last of 30
OVER_UNDER = re.compile(rf"{N} ?{U} (over|under|above|below|more than|less than) {N} ?{U}", re.IGNORECASE)
ISO = re.compile(rf"{N} ?{U} ?([A-Za-z]{{1,2}}) ?(\d{{1,2}}) ?{U}(?: ?\((.+)\))?")
RANGE = re.compile(rf"{N} ?{U} ?(to|\.\.\.?|-|/) ?{N} ?{U}", re.IGNORECASE)
ONE_SIDED = re.compile(rf"{N} ?{U} ?(max|min)\.?|(max|min)\.? {N} ?{U}", re.IGNORECASE)
PLUS_MINUS = re.compile(rf"{N} ?{U} ?±{N} ?{U}")
TWO_SIDED = re.compile(
    rf"{N} ?{U} ?\(?({SIGNED}) ?{U}(?: ?[/,;] ?| |(?=[+-]))({SIGNED}|{NUMBER}) ?{U}\)? ?{U}"
)
ONE_DEVIATION = re.compile(rf"{N} ?{U} ?\(?([+-]) ?{N} ?{U}\)?")
PLAIN = re.compile(rf"{N} ?{U}")
FOUR = 4  # decimals of a class worked out in inches, or of half a micrometre
TWOFOLD = 2  # limits further apart than this are asked about; own judgement
LEAST_ASKED = {"mm": Decimal(1), "in": Decimal("0.04")}  # broken edges are given as 0.1-0.3
SMALL_PART = Decimal("0.1")  # a deviation is a small part of its size; own judgement
MOST_INCHES = Decimal(3)  # a class in inches above this is more likely millimetres; own judgement
UNDER = {"under", "below", "less than"}
SMALL_SCALE: dict[LengthUnit, Decimal] = {"in": Decimal("0.001"), "mm": Decimal("0.01")}
Form = Callable[[str, LengthUnit], Size | None]


def unit_of(job_unit: LengthUnit, *numbers: Number) -> LengthUnit:
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


def plain(text: str, job_unit: LengthUnit) -> Size | None:
    """Read one number: 12, .500, 1 1/4, 2.5 cm."""
    match = PLAIN.fullmatch(text)
    if match is None:
        return None
    value = number(match[1], match[2])
    if value.small and match[2].lower().startswith("tenth") and job_unit == "mm":
        _ask_tenths(text, match[1], "{}")
    return _size(unit_of(job_unit, value), (value,), (None, None))


def _ask_tenths(text: str, count: str, frame: str) -> None:
    """Raise the question which tenths are meant: of a millimetre, or of a thou."""
    metric, inch = f"{number(count).value / 10:f} mm", f"{number(count).value / 10000:f} in"
    raise TwoReadings(
        f"“{text}”: a tenth is 0.1 mm or 0.0001 in.",
        "Choose the one you mean.",
        "size",
        {metric: frame.format(metric), inch: frame.format(inch)},
    )


def over_under(text: str, job_unit: LengthUnit) -> Size | None:
    """Read a size said from another: 7 over 3/4, 2 tenths under .500.

    Raises:
        NeedsAnswer: if hundredths of a millimetre or thou may be meant.
    """
    match = OVER_UNDER.fullmatch(text)
    if match is None:
        return None
    step, base = number(match[1], match[2]), number(match[4], match[5])
    unit = unit_of(job_unit, base)
    sign = -1 if match[3].lower() in UNDER else 1
    if step.unit is None:
        if unit == "mm":
            way = "under" if sign < 0 else "over"
            raise TwoReadings(
                f"“{text}”: is the {match[1]} in hundredths of a millimetre or in thou?",
                "Choose the one you mean.",
                "size",
                {
                    f"{match[1]} hundredths {way} {match[4]} mm": f"{match[1]} hundredths {way} {match[4]} mm",
                    f"{match[1]} thou {way} {match[4]} in": f"{match[1]} thou {way} {match[4]} in",
                },
            )
        step = Number(step.value * SMALL_SCALE[unit], step.decimals + 3, unit=unit, small=True)
    value = tidy(base.in_unit(unit) + sign * step.in_unit(unit))
    decimals = max(3 if unit == "in" else 2, min(FOUR, decimals_of(value)))
    return Size("", unit, decimals, value)


def tolerance_class(text: str, job_unit: LengthUnit) -> Size | None:
    """Read a class of ISO 286, with its limits behind it or not: 12 H7, 25 g6 (-7/-20), 12 H 7.

    Raises:
        NeedsAnswer: if millimetres may be meant in a job in inches, or the limits beside it are others.
        SizeNotRead: if what stands beside it is not two limits.
        BadEntry: if the class is outside the tables.
    """
    match = ISO.fullmatch(text)
    if match is None or match[3].lower() not in LETTERS or not (match[3].isupper() or match[3].islower()):
        return None
    if re.search(r"x \d", text):  # so many times, not the class x
        return None
    nominal = number(match[1], match[2] or match[5])
    unit = unit_of(job_unit, nominal)
    name = f"{match[3]}{match[4]}"
    if unit == "in" and nominal.unit is None and (not nominal.decimals or nominal.value >= MOST_INCHES):
        raise TwoReadings(
            f"“{match[1]} {name}”: a class of ISO 286 usually goes with millimetres, and this job is in inches.",
            "Choose the one you mean.",
            "size",
            {
                f"{match[1]} mm {name}": f"{match[1]} mm {name}",
                f"{match[1]} in {name}": f"{match[1]} in {name}",
            },
        )
    millimetres = nominal.in_unit(unit) * (MM_PER_INCH if unit == "in" else 1)
    deviations = deviations_um(millimetres, match[3], int(match[4]))
    scale = Decimal(1000) if unit == "mm" else Decimal(25400)
    lower, upper = (tidy(nominal.in_unit(unit) + deviation / scale) for deviation in deviations)
    decimals = 3 if unit == "mm" else FOUR
    if unit == "mm" and any(deviation % 1 for deviation in deviations):
        decimals = FOUR
    size = Size("", unit, decimals, nominal.in_unit(unit), lower, upper, "diameter", name)
    if match[6]:
        _agrees(size, match[6], job_unit, text)
    return size


def _agrees(size: Size, beside: str, job_unit: LengthUnit, text: str) -> None:
    """Raise NeedsAnswer if the limits printed beside a class are not those of the class."""
    nominal = f"{size.nominal:f} {size.unit}"
    given = two_sided(f"{nominal} {beside}", job_unit) or limits(beside, job_unit)
    if (
        given is None
        or given.lower is None
        or given.upper is None
        or size.lower is None
        or size.upper is None
    ):
        raise SizeNotRead(text, f"“({beside})” is not two limits")
    near = Decimal("0.5").scaleb(-max(decimals_of(given.lower), decimals_of(given.upper)))
    if abs(given.lower - size.lower) > near or abs(given.upper - size.upper) > near:
        by_class, by_limits = f"{nominal} {size.name}", f"{given.lower:f} to {given.upper:f} {size.unit}"
        raise TwoReadings(
            f"{size.name} on {nominal} is {size.lower:f} to {size.upper:f}; beside it stands {given.lower:f} to {given.upper:f}.",
            "Ask whoever drew it, or choose the one that holds.",
            "size",
            {by_class: by_class, by_limits: by_limits},
        )


def limits(text: str, job_unit: LengthUnit) -> Size | None:
    """Read two limits: .612 to .616, 2.498...2.500, 0.616/0.612.

    Raises:
        BadEntry: if they run backwards.
        NeedsAnswer: if they are more than twofold apart.
    """
    match = RANGE.fullmatch(text)
    if match is None:
        return None
    low, high = number(match[1], match[2] or match[5]), number(match[4], match[5] or match[2])
    mark = match[3].lower()
    if mark == "/" and not (low.decimals and high.decimals):
        return None
    unit = unit_of(job_unit, low, high)
    ends = [low.in_unit(unit), high.in_unit(unit)]
    if mark == "-" and 0 < ends[1] <= ends[0] * SMALL_PART:
        return None  # a deviation
    if mark == "/":
        ends.sort()
    elif ends[0] > ends[1]:
        raise BadEntry(
            f"The range runs backwards: {match[1]} is above {match[4]}.",
            "Type the smaller limit first.",
            "size",
        )
    if mark != "to" and ends[1] > max(ends[0] * TWOFOLD, LEAST_ASKED[unit]):
        said = f"{match[1]}{f' {match[2]}' if match[2] else ''} to {match[4]}{f' {match[5]}' if match[5] else ''}"
        raise TwoReadings(
            f"“{text}”: limits so far apart are unusual.",
            "Choose it if that is what you mean.",
            "size",
            {f"from {said}": said},
        )
    middle = Number(sum(ends, Decimal(0)) / 2, max(low.decimals, high.decimals), unit=unit)
    return replace(_size(unit, (middle, low, high), (ends[0], ends[1])), as_limits=True)


def one_sided(text: str, job_unit: LengthUnit) -> Size | None:
    """Read one limit: 12 max, min 3; what is said in words has been brought to these."""
    match = ONE_SIDED.fullmatch(text)
    if match is None:
        return None
    value, unit_text, word = (match[1], match[2], match[3]) if match[1] else (match[5], match[6], match[4])
    limit = number(value, unit_text)
    unit = unit_of(job_unit, limit)
    exact = limit.in_unit(unit)
    return _size(unit, (limit,), (None, exact) if word.lower() == "max" else (exact, None))


def plus_minus(text: str, job_unit: LengthUnit) -> Size | None:
    """Read equal limits: 20 ±0.03, 3.250 ±3 thou."""
    match = PLUS_MINUS.fullmatch(text)
    if match is None:
        return None
    nominal, tolerance = number(match[1], match[2]), number(match[3], match[4])
    unit = unit_of(job_unit, nominal, tolerance)
    if match[4] and match[4].lower().startswith("tenth") and unit == "mm":
        _ask_tenths(text, match[3], f"{match[1]} {match[2] or unit} ±{{}}")
    middle, reach = nominal.in_unit(unit), tolerance.in_unit(unit)
    return _size(unit, (nominal, tolerance), (middle - tidy(reach), middle + tidy(reach)))


def two_sided(text: str, job_unit: LengthUnit) -> Size | None:
    """Read two deviations: .500 +.000/-.001, 12 0 -0.05, 25 (-0.020/-0.041).

    Raises:
        SizeNotRead: if one but nought has no sign.
    """
    match = TWO_SIDED.fullmatch(text)
    if match is None:
        return None
    nominal, parts, reaches = number(match[1], match[2]), [], []
    whole = match[7]
    for typed, unit_text in (
        (match[3], match[4] or match[6] or whole),
        (match[5], match[6] or match[4] or whole),
    ):
        part = number(typed.lstrip("+- "), unit_text)
        if typed[0] not in "+-" and part.value:
            raise SizeNotRead(text, f"the deviation {typed} needs a sign")
        parts.append(part)
        reaches.append(-1 if typed[0] == "-" else 1)
    unit = unit_of(job_unit, nominal, *parts)
    middle = nominal.in_unit(unit)
    ends = sorted(middle + sign * tidy(part.in_unit(unit)) for sign, part in zip(reaches, parts, strict=True))
    return _size(unit, (nominal, *parts), (ends[0], ends[1]))


def one_deviation(text: str, job_unit: LengthUnit) -> Size | None:
    """Read one deviation, the other being nought: 10.3 +0.1, 2.5 -.1."""
    match = ONE_DEVIATION.fullmatch(text)
    if match is None:
        return None
    other = "-" if match[3] == "+" else "+"
    return two_sided(f"{match[1]} {match[2] or ''} {match[3]}{match[4]} {match[5] or ''}/{other}0", job_unit)


LENGTHS: tuple[Form, ...] = (
    plain,
    over_under,
    tolerance_class,
    one_sided,
    plus_minus,
    limits,
    two_sided,
    one_deviation,
)


def length_of(text: str, job_unit: LengthUnit) -> Size | None:
    """Return the length a text with one way of writing each sign means; None if it is none."""
    for form in LENGTHS:
        found = form(text, job_unit)
        if found is not None:
            return found
    return None
