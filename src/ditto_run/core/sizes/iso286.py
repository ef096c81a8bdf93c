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
}
CLEAR: dict[str, tuple[int, ...]] = {  # distance from the zero line, shafts below, holes above
    "d": (20, 30, 40, 50, 65, 80, 100, 120, 145, 170, 190, 210, 230),
    "e": (14, 20, 25, 32, 40, 50, 60, 72, 85, 100, 110, 125, 135),
    "f": (6, 10, 13, 16, 20, 25, 30, 36, 43, 50, 56, 62, 68),
    "g": (2, 4, 5, 6, 7, 9, 10, 12, 14, 15, 17, 18, 20),
    "h": (0,) * 13,
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
}
LOOSEST_K = 7  # the shaft deviation k is 0 above this grade
LOOSEST_TRANSITION = 8  # K, M and N get the correction up to this grade
LOOSEST_PRESS = 7  # P and tighter get it up to this grade
M6_BAND = 10  # 250 to 315 mm: the standard prints −9 for M6, the rule would give −11
LETTERS = ("c", "d", "e", "f", "g", "h", "js", "k", "m", "n", "p", "r", "s", "u")


@cache
def deviations_um(size_mm: Decimal, letter: str, grade: int) -> tuple[Decimal, Decimal]:
    """Return the lower and upper deviation of a tolerance class.

    Args:
        size_mm: nominal size, over 0 up to 500. [mm]
        letter: position; capital for a hole, small for a shaft: c to u without i, l, o, q, t.
        grade: standard tolerance grade, 5 to 13.

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
    known = letter.lower() in LETTERS and grade > min(GRADES) and grade in GRADES
    if not known or not 0 < size_mm <= LARGEST_MM:
        raise BadEntry(
            f"The class {letter}{grade} at {size_mm} mm is outside our ISO 286 tables.",
            "Type the limits from the drawing instead; we carry c to u, grades 5 to 13, up to 500 mm.",
            "size",
        )
    band = bisect_left(BANDS_MM, size_mm)
    width = GRADES[grade][band]
    small = letter.lower()
    if small == "js":
        return Decimal(-width) / 2, Decimal(width) / 2
    if small in CLEAR or small in CLEAR_STEPS:
        gap = CLEAR[small][band] if small in CLEAR else CLEAR_STEPS[small][bisect_left(STEPS_MM, size_mm)]
        return (
            (Decimal(gap), Decimal(gap + width))
            if letter.isupper()
            else (Decimal(-gap - width), Decimal(-gap))
        )
    if letter.isupper():
        upper = _tight_hole(size_mm, small, grade, band)
        return Decimal(upper - width), Decimal(upper)
    lower = _tight_shaft(size_mm, small, grade, band)
    return Decimal(lower), Decimal(lower + width)


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
