"""Forces, torques, films and the like: read with any unit of the trade, shown in the job's system first."""

import re
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.entry.numbers import NUMBER, number
from ditto_run.core.entry.signs import normalised
from ditto_run.core.entry.spoken import words_to_digits
from ditto_run.core.errors import BadEntry, standing_at
from ditto_run.core.units import MINUS, LengthUnit, number_text, rounded

Kind = Literal[
    "force", "torque", "film", "pressure", "mass", "speed", "power", "density", "stress", "volume", "capacity"
]
LBF_N = Decimal("4.4482216152605")  # exact: 0.45359237 kg × 9.80665 m/s²
FOOT_M, INCH_M = Decimal("0.3048"), Decimal("0.0254")
POUND_KG = Decimal("0.45359237")
HORSEPOWER_KW = Decimal("0.74569987158227022")  # exact: 550 lbf·ft/s
G = Decimal("9.80665")
PLAIN_FROM = 1000  # from here on figures are written out
LITRES_A_GALLON = Decimal("3.785411784")  # exact: 231 cubic inches, the gallon of the United States
INHG_KPA = Decimal("3.386389")  # conventional inch of mercury; [iso80000]


@dataclass(frozen=True, slots=True)
class Quantity:
    """One kind of quantity that is typed with a unit.

    Args:
        word: what it is called in a refusal.
        metric: unit of a number typed alone in a metric job, and of its value.
        inch: unit of a number typed alone in an inch job.
        units: what may be typed behind it, and how many metric units it is.
        example: what is offered where it cannot be read.
        decimals: decimals shown, metric and inch.
    """

    word: str
    metric: str
    inch: str
    units: dict[str, Decimal]
    example: str
    decimals: tuple[int, int]


_CUBIC_INCH_CM3 = Decimal("16.387064")  # exact: 2.54³
_PSI_MPA = Decimal("0.006894757293168361")
_FOOT_POUND, _INCH_POUND = LBF_N * FOOT_M, LBF_N * INCH_M
QUANTITIES: dict[Kind, Quantity] = {
    "force": Quantity(
        "a force",
        "N",
        "lbf",
        {
            "n": Decimal(1),
            "kn": Decimal(1000),
            "dan": Decimal(10),
            "kgf": G,
            "kp": G,
            "lbf": LBF_N,
            "lb": LBF_N,
            "lbs": LBF_N,
        },
        "500 N or 110 lbf",
        (0, 0),
    ),
    "torque": Quantity(
        "a torque",
        "N·m",
        "lbf·ft",
        {
            **dict.fromkeys(("nm", "newtonmetres"), Decimal(1)),
            **dict.fromkeys(("ncm",), Decimal("0.01")),
            **dict.fromkeys(("kgfm", "kpm", "mkg"), G),
            **dict.fromkeys(("lbfft", "ftlbf", "lbft", "ftlb", "ftlbs", "footpounds"), _FOOT_POUND),
            **dict.fromkeys(("lbfin", "inlbf", "lbin", "inlb", "inlbs", "inchpounds"), _INCH_POUND),
        },
        "60 N·m or 45 lbf·ft",
        (1, 1),
    ),
    "film": Quantity(
        "a film",
        "µm",
        "thou",
        {
            **dict.fromkeys(("µm", "um", "micron", "microns"), Decimal(1)),
            **dict.fromkeys(("thou", "thous", "mil", "mils"), Decimal("25.4")),
            **dict.fromkeys(("tenth", "tenths"), Decimal("2.54")),
            "mm": Decimal(1000),
            **dict.fromkeys(("in", '"'), Decimal(25400)),
        },
        "12 µm or 0.5 thou",
        (1, 2),
    ),
    "pressure": Quantity(
        "a pressure",
        "kPa",
        "inHg",
        {
            "kpa": Decimal(1),
            "mbar": Decimal("0.1"),
            "hpa": Decimal("0.1"),
            "bar": Decimal(100),
            "psi": _PSI_MPA * 1000,
            "inhg": INHG_KPA,
            "mmhg": Decimal("0.133322387415"),
        },
        "80 kPa or 24 inHg",
        (1, 1),
    ),
    "mass": Quantity(
        "a mass",
        "kg",
        "lb",
        {
            "kg": Decimal(1),
            "g": Decimal("0.001"),
            "t": Decimal(1000),
            **dict.fromkeys(("lb", "lbs"), POUND_KG),
            "oz": POUND_KG / 16,
        },
        "2.5 kg or 5.5 lb",
        (2, 2),
    ),
    "speed": Quantity(
        "a cutting speed",
        "m/min",
        "ft/min",
        {"m/min": Decimal(1), "mpm": Decimal(1), **dict.fromkeys(("ft/min", "fpm", "sfm", "sfpm"), FOOT_M)},
        "90 m/min or 300 ft/min",
        (0, 0),
    ),
    "power": Quantity(
        "a power",
        "kW",
        "hp",
        {"kw": Decimal(1), "w": Decimal("0.001"), "hp": HORSEPOWER_KW, "ps": Decimal("0.73549875")},
        "5.5 kW or 7.5 hp",
        (2, 2),
    ),
    "density": Quantity(
        "a density",
        "g/cm³",
        "lb/in³",
        {
            **dict.fromkeys(
                ("g/cm³", "g/cm3", "g/cc", "kg/dm³", "kg/dm3", "kg/l", "t/m³", "t/m3"), Decimal(1)
            ),
            **dict.fromkeys(("kg/m³", "kg/m3"), Decimal("0.001")),
            **dict.fromkeys(("lb/in³", "lb/in3", "lb/cuin"), POUND_KG * 1000 / _CUBIC_INCH_CM3),
            **dict.fromkeys(("lb/ft³", "lb/ft3"), POUND_KG * 1000 / (_CUBIC_INCH_CM3 * 1728)),
        },
        "2.7 g/cm³ or 0.098 lb/in³",
        (2, 3),
    ),
    "stress": Quantity(
        "a cutting force of an area",
        "N/mm²",
        "ksi",
        {
            **dict.fromkeys(("n/mm²", "n/mm2", "mpa"), Decimal(1)),
            "gpa": Decimal(1000),
            "psi": _PSI_MPA,
            "ksi": _PSI_MPA * 1000,
        },
        "700 N/mm² or 100 ksi",
        (0, 0),
    ),
    "volume": Quantity(
        "a volume",
        "cm³",
        "in³",
        {
            **dict.fromkeys(("cm³", "cm3", "cc", "ml"), Decimal(1)),
            **dict.fromkeys(("mm³", "mm3"), Decimal("0.001")),
            **dict.fromkeys(("in³", "in3", "cuin"), _CUBIC_INCH_CM3),
            **dict.fromkeys(("l", "dm³", "dm3"), Decimal(1000)),
        },
        "12 cm³ or 0.75 in³",
        (1, 2),
    ),
    "capacity": Quantity(
        "what a bin holds",
        "l",
        "gal",
        {
            **dict.fromkeys(("l", "litres", "liters", "dm³", "dm3"), Decimal(1)),
            **dict.fromkeys(("gal", "gallons", "gallon"), LITRES_A_GALLON),
            **dict.fromkeys(("m³", "m3"), Decimal(1000)),
        },
        "60 l or 15 gal",
        (0, 0),
    ),
}
SHAPE = re.compile(rf"({NUMBER}) ?([^\d\s(][^\d]*[23]?)?")


def mark_of(kind: Kind, unit: LengthUnit) -> str:
    """Return the unit of a bare number of that kind in a job of that unit."""
    return QUANTITIES[kind].metric if unit == "mm" else QUANTITIES[kind].inch


def read_quantity(kind: Kind, text: str, unit: LengthUnit, field: str) -> Decimal:
    """Return a quantity as typed, [its metric unit].

    Args:
        kind: what is read.
        text: such as 500, 500 N, 110 lbf, 45 ft-lb or half a thou.
        unit: unit of the job, which says what a bare number means.
        field: entry field it came from.

    Raises:
        BadEntry: if it is no number, or has a unit of something else.

    Source:
        [iso80000] factors; exact but for inHg.

    Example:
        >>> read_quantity("torque", "40 ft-lb", "mm", "torque").quantize(Decimal("0.001"))
        Decimal('54.233')
    """
    quantity = QUANTITIES[kind]
    with standing_at(field):
        typed = words_to_digits(normalised(text))
    sign = -1 if typed.startswith("-") else 1
    match = SHAPE.fullmatch(re.sub(r"^[+-]", "", typed).strip())
    if match is None:
        raise BadEntry(
            f"“{text.strip()[:30]}” is not {quantity.word}.", f"Type it as {quantity.example}.", field
        )
    name = re.sub(r"[\s·.*^-]", "", match[2] or mark_of(kind, unit)).lower()
    scale = quantity.units.get(name)
    if scale is None:
        raise BadEntry(
            f"“{(match[2] or '').strip()[:20]}” is no unit of {quantity.word}.",
            f"Type it as {quantity.example}.",
            field,
        )
    with standing_at(field):
        return sign * number(match[1]).value * scale


def in_system(kind: Kind, value: Decimal | float, unit: LengthUnit, *, fine: bool = False) -> str:
    """Return a bare figure of a quantity in a job's own unit, without the unit, [its metric unit]; `fine` keeps three figures."""
    quantity = QUANTITIES[kind]
    exact = value if isinstance(value, Decimal) else Decimal(repr(value))
    own = exact if unit == "mm" else exact / quantity.units[_plain(quantity.inch)]
    if fine:
        return f"{own:,.0f}" if own >= PLAIN_FROM else f"{float(own):.3g}"
    decimals = quantity.decimals[0 if unit == "mm" else 1]
    return number_text(own, decimals) if decimals else f"{rounded(own, 0):,f}".replace("-", MINUS)


def quantity_text(kind: Kind, value: Decimal | float, unit: LengthUnit, *, fine: bool = False) -> str:
    """Return a quantity in the job's unit, the other one in brackets.

    Args:
        kind: what it is.
        value: in the metric unit of its kind.
        unit: unit of the job.
        fine: three figures, however small it is.

    Example:
        >>> quantity_text("torque", Decimal("54.2327"), "in")
        '40.0 lbf·ft (54.2 N·m)'
    """
    other: LengthUnit = "in" if unit == "mm" else "mm"
    first, second = (
        f"{in_system(kind, value, one, fine=fine)} {mark_of(kind, one)}" for one in (unit, other)
    )
    return f"{first} ({second})"


def _plain(mark: str) -> str:
    return mark.lower().replace("·", "")
