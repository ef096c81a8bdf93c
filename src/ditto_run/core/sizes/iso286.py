"""ISO 286 tolerance classes up to 500 mm, from the tables of the standard.

The tables are carried, since the formulas of ISO 286-1 with its rounding do not give every
tabulated value. All figures in micrometres. Source: [iso286-1], from memory; checked against an
independent package and the values of docs/sources.md by tests/published/test_iso286.py.
"""

from bisect import bisect_left
from decimal import Decimal
from functools import cache

from ditto_run.core.errors import BadEntry

BANDS_MM = (3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500)  # up to and including
STEPS_MM = (
    3,
    6,
    10,
    14,
    18,
    24,
    30,
    40,
    50,
    65,
    80,
    100,
    120,
    140,
    160,
    180,
    200,
    225,
    250,
    280,
    315,
    355,
    400,
    450,
    500,
)
LARGEST_MM = 500

GRADES: dict[int, tuple[int, ...]] = {  # standard tolerances by grade and band
    4: (3, 4, 4, 5, 6, 7, 8, 10, 12, 14, 16, 18, 20),
    5: (4, 5, 6, 8, 9, 11, 13, 15, 18, 20, 23, 25, 27),
    6: (6, 8, 9, 11, 13, 16, 19, 22, 25, 29, 32, 36, 40),
    7: (10, 12, 15, 18, 21, 25, 30, 35, 40, 46, 52, 57, 63),
    8: (14, 18, 22, 27, 33, 39, 46, 54, 63, 72, 81, 89, 97),
    9: (25, 30, 36, 43, 52, 62, 74, 87, 100, 115, 130, 140, 155),
    10: (40, 48, 58, 70, 84, 100, 120, 140, 160, 185, 210, 230, 250),
    11: (60, 75, 90, 110, 130, 160, 190, 220, 250, 290, 320, 360, 400),
    12: (100, 120, 150, 180, 210, 250, 300, 350, 400, 460, 520, 570, 630),
    13: (140, 180, 220, 270, 330, 390, 460, 540, 630, 720, 810, 890, 970),
    14: (250, 300, 360, 430, 520, 620, 740, 870, 1000, 1150, 1300, 1400, 1550),
    15: (400, 480, 580, 700, 840, 1000, 1200, 1400, 1600, 1850, 2100, 2300, 2500),
    16: (600, 750, 900, 1100, 1300, 1600, 1900, 2200, 2500, 2900, 3200, 3600, 4000),
}
CLEAR: dict[str, tuple[int, ...]] = {  # distance from the zero line, shafts below, holes above
    "d": (20, 30, 40, 50, 65, 80, 100, 120, 145, 170, 190, 210, 230),
    "e": (14, 20, 25, 32, 40, 50, 60, 72, 85, 100, 110, 125, 135),
    "f": (6, 10, 13, 16, 20, 25, 30, 36, 43, 50, 56, 62, 68),
    "g": (2, 4, 5, 6, 7, 9, 10, 12, 14, 15, 17, 18, 20),
    "h": (0,) * 13,
    "cd": (34, 46, 56),  # these three end at 10 mm
    "ef": (10, 14, 18),
    "fg": (4, 6, 8),
}
UNEVEN_SHAFT: dict[int, tuple[int, ...]] = {  # lower deviation of j, by grade and band
    5: (-2, -2, -2, -3, -4, -5, -7, -9, -11, -13, -16, -18, -20),
    6: (-2, -2, -2, -3, -4, -5, -7, -9, -11, -13, -16, -18, -20),
    7: (-4, -4, -5, -6, -8, -10, -12, -15, -18, -21, -26, -28, -32),
    8: (-6,),
}
UNEVEN_HOLE: dict[int, tuple[int, ...]] = {  # upper deviation of J, by grade and band
    6: (2, 5, 5, 6, 8, 10, 13, 16, 18, 22, 25, 29, 33),
    7: (4, 6, 8, 10, 12, 14, 18, 22, 26, 30, 36, 39, 43),
    8: (6, 10, 12, 15, 20, 24, 28, 34, 41, 47, 55, 60, 66),
}
TIGHT: dict[str, tuple[int, ...]] = {  # lower deviation of the shaft, by band
    "k": (0, 1, 1, 1, 2, 2, 2, 3, 3, 4, 4, 4, 5),
    "m": (2, 4, 6, 7, 8, 9, 11, 13, 15, 17, 20, 21, 23),
    "n": (4, 8, 10, 12, 15, 17, 20, 23, 27, 31, 34, 37, 40),
    "p": (6, 12, 15, 18, 22, 26, 32, 37, 43, 50, 56, 62, 68),
}
TIGHT_STEPS: dict[str, tuple[int, ...]] = {  # the same, by finer step
    "r": (
        10,
        15,
        19,
        23,
        23,
        28,
        28,
        34,
        34,
        41,
        43,
        51,
        54,
        63,
        65,
        68,
        77,
        80,
        84,
        94,
        98,
        108,
        114,
        126,
        132,
    ),
    "s": (
        14,
        19,
        23,
        28,
        28,
        35,
        35,
        43,
        43,
        53,
        59,
        71,
        79,
        92,
        100,
        108,
        122,
        130,
        140,
        158,
        170,
        190,
        208,
        232,
        252,
    ),
    "u": (
        18,
        23,
        28,
        33,
        33,
        41,
        48,
        60,
        70,
        87,
        102,
        124,
        144,
        170,
        190,
        210,
        236,
        258,
        284,
        315,
        350,
        390,
        435,
        490,
        540,
    ),
    "t": (  # none up to 24 mm
        0,
        0,
        0,
        0,
        0,
        0,
        41,
        48,
        54,
        66,
        75,
        91,
        104,
        122,
        134,
        146,
        166,
        180,
        196,
        218,
        240,
        268,
        294,
        330,
        360,
    ),
    "x": (
        20,
        28,
        34,
        40,
        45,
        54,
        64,
        80,
        97,
        122,
        146,
        178,
        210,
        248,
        280,
        310,
        350,
        385,
        425,
        475,
        525,
        590,
        660,
        740,
        820,
    ),
    "z": (
        26,
        35,
        42,
        50,
        60,
        73,
        88,
        112,
        136,
        172,
        210,
        258,
        310,
        365,
        415,
        465,
        520,
        575,
        640,
        710,
        790,
        900,
        1000,
        1100,
        1250,
    ),
}
CLEAR_STEPS: dict[str, tuple[int, ...]] = {
    "c": (
        60,
        70,
        80,
        95,
        95,
        110,
        110,
        120,
        130,
        140,
        150,
        170,
        180,
        200,
        210,
        230,
        240,
        260,
        280,
        300,
        330,
        360,
        400,
        440,
        480,
    ),
    "a": (
        270,
        270,
        280,
        290,
        290,
        300,
        300,
        310,
        320,
        340,
        360,
        380,
        410,
        460,
        520,
        580,
        660,
        740,
        820,
        920,
        1050,
        1200,
        1350,
        1500,
        1650,
    ),
    "b": (
        140,
        140,
        150,
        150,
        150,
        160,
        160,
        170,
        180,
        190,
        200,
        220,
        240,
        260,
        280,
        310,
        340,
        380,
        420,
        480,
        540,
        600,
        680,
        760,
        840,
    ),
}
LOOSEST_K = 7  # the shaft deviation k is 0 above this grade
LOOSEST_TRANSITION = 8  # K, M and N get the correction up to this grade
LOOSEST_PRESS = 7  # P and tighter get it up to this grade
M6_BAND = 10  # 250 to 315 mm: the standard prints −9 for M6, the rule would give −11
LETTERS = (
    *(
        "a",
        "b",
        "c",
        "cd",
        "d",
        "e",
        "ef",
        "f",
        "fg",
        "g",
        "h",
        "js",
        "j",
        "k",
        "m",
        "n",
        "p",
        "r",
        "s",
        "t",
        "u",
        "x",
        "z",
    ),
)
SMALLEST_AB_MM = 1  # a and b are not used up to here


@cache
def deviations_um(size_mm: Decimal, letter: str, grade: int) -> tuple[Decimal, Decimal]:
    """Return the lower and upper deviation of a tolerance class.

    Args:
        size_mm: nominal size, over 0 up to 500. [mm]
        letter: position; capital for a hole, small for a shaft: those of LETTERS; v, y, za, zb and zc are not carried.
        grade: standard tolerance grade, 5 to 16.

    Returns:
        Lower and upper deviation from the nominal. [µm]

    Raises:
        BadEntry: if the size, letter or grade is outside the tables.

    Source:
        [iso286-1] tables of standard tolerances and fundamental deviations.

    Example:
        >>> deviations_um(Decimal(25), "H", 7)
        (Decimal('0'), Decimal('21'))
    """
    small = letter.lower()
    if small not in LETTERS or not (grade > min(GRADES) and grade in GRADES) or not 0 < size_mm <= LARGEST_MM:
        raise _outside(letter, grade, size_mm)
    band, step = bisect_left(BANDS_MM, size_mm), bisect_left(STEPS_MM, size_mm)
    width = GRADES[grade][band]
    if small == "js":
        return Decimal(-width) / 2, Decimal(width) / 2
    if small == "j":
        return _uneven(letter, grade, size_mm, width)
    if small in CLEAR or small in CLEAR_STEPS:
        gaps, at = (CLEAR[small], band) if small in CLEAR else (CLEAR_STEPS[small], step)
        if at >= len(gaps) or (small in "ab" and size_mm <= SMALLEST_AB_MM):
            raise _outside(letter, grade, size_mm)
        gap = gaps[at]
        return (
            (Decimal(gap), Decimal(gap + width))
            if letter.isupper()
            else (Decimal(-gap - width), Decimal(-gap))
        )
    if small in TIGHT_STEPS and not TIGHT_STEPS[small][step]:
        raise _outside(letter, grade, size_mm)
    if letter.isupper():
        upper = _tight_hole(size_mm, small, grade, band)
        return Decimal(upper - width), Decimal(upper)
    lower = _tight_shaft(size_mm, small, grade, band)
    return Decimal(lower), Decimal(lower + width)


def _outside(letter: str, grade: int, size_mm: Decimal) -> BadEntry:
    return BadEntry(
        f"The class {letter}{grade} at {size_mm.normalize():f} mm is outside our ISO 286 tables.",
        "Type the limits from the drawing instead; we carry a to z without v and y, grades 5 to 16, up to 500 mm.",
        "size",
    )


def _uneven(letter: str, grade: int, size_mm: Decimal, width: int) -> tuple[Decimal, Decimal]:
    """Return the deviations of j and J, which lie about the zero line but not evenly."""
    rows = UNEVEN_HOLE if letter.isupper() else UNEVEN_SHAFT
    band = bisect_left(BANDS_MM, size_mm)
    if band >= len(rows.get(grade, ())):
        raise _outside(letter, grade, size_mm)
    one = rows[grade][band]
    return (Decimal(one - width), Decimal(one)) if letter.isupper() else (Decimal(one), Decimal(one + width))


def _tight_shaft(size_mm: Decimal, letter: str, grade: int, band: int) -> int:
    if letter == "k" and grade > LOOSEST_K:
        return 0
    if letter in TIGHT:
        return TIGHT[letter][band]
    return TIGHT_STEPS[letter][bisect_left(STEPS_MM, size_mm)]


def _tight_hole(size_mm: Decimal, letter: str, grade: int, band: int) -> int:
    """Return the upper deviation: minus the shaft's, plus the rule's correction."""
    if letter == "m" and grade == 6 and band == M6_BAND:  # noqa: PLR2004 - the one printed exception
        return -9
    loosest = LOOSEST_TRANSITION if letter in "kmn" else LOOSEST_PRESS
    if letter == "n" and grade > loosest:
        return 0 if band else -4
    if letter == "k":
        plain = TIGHT["k"][band] if grade <= loosest else 0
    else:
        plain = _tight_shaft(size_mm, letter, grade, band)
    corrected = band > 0 and grade <= loosest
    return -plain + (GRADES[grade][band] - GRADES[grade - 1][band] if corrected else 0)
