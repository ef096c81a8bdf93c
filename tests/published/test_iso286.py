"""ISO 286 tolerance classes against figures outside this project.

Sources: the values of docs/sources.md [iso286-values] (named there, from memory of ISO 286-1/-2), those printed
by the packages isofits and pressfit as recorded there, and pressfit itself, installed for the tests, over
its whole range of holes and shafts. Known defects of isofits (f6 at 120 to 180 mm) are not used.
"""

from decimal import Decimal as D
from string import ascii_letters

import pressfit
import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.sizes.iso286 import deviations_um

PRINTED = [  # size, letter, grade, lower, upper in micrometres
    (25, "H", 7, 0, 21),
    (25, "g", 6, -20, -7),
    (25, "h", 6, -13, 0),
    (25, "p", 6, 22, 35),
    (25, "n", 6, 15, 28),
    (25, "k", 6, 2, 15),
    (25, "H", 8, 0, 33),
    (25, "f", 7, -41, -20),
    (25, "N", 7, -28, -7),
    (25, "P", 7, -35, -14),
    (25, "K", 7, -15, 6),
    (25, "JS", 7, D("-10.5"), D("10.5")),
    (25, "G", 7, 7, 28),
    (25, "M", 7, -21, 0),
    (25, "R", 7, -41, -20),
    (25, "F", 7, 20, 41),
    (25, "F", 8, 20, 53),
    (25, "m", 6, 8, 21),
    (25, "r", 6, 28, 41),
    (12, "H", 7, 0, 18),
    (12, "n", 6, 12, 23),
    (20, "f", 7, -41, -20),
    (80, "s", 6, 59, 78),
    (40, "H", 11, 0, 160),
    (40, "c", 11, -280, -120),
    (50, "g", 6, -25, -9),
    (6, "H", 7, 0, 12),
    (D("6.001"), "H", 7, 0, 15),
    (10, "H", 7, 0, 15),
    (50, "H", 7, 0, 25),
    (80, "H", 7, 0, 30),
    (100, "H", 7, 0, 35),
    (10, "h", 6, -9, 0),
    (100, "h", 6, -22, 0),
]


@pytest.mark.parametrize(("size", "letter", "grade", "lower", "upper"), PRINTED)
def test_class_agrees_with_the_printed_value(size, letter, grade, lower, upper) -> None:
    assert deviations_um(D(size), letter, grade) == (lower, upper)


@pytest.mark.parametrize(
    "size",
    [
        2,
        3,
        5,
        6,
        9,
        10,
        14,
        18,
        22,
        24,
        27,
        30,
        35,
        40,
        45,
        50,
        60,
        70,
        80,
        90,
        110,
        130,
        150,
        170,
        190,
        210,
        240,
        260,
        300,
        340,
        380,
        420,
        480,
    ],
)
@pytest.mark.parametrize("shaft", ["d9", "e8", "f7", "g6", "h6", "h7", "js6", "k6", "m6", "n6", "p6", "s6"])
def test_shaft_agrees_with_an_independent_package(size: int, shaft: str) -> None:
    found = pressfit.fit(f"{size} H7/{shaft}")
    letter = shaft.rstrip("0123456789")
    lower, upper = deviations_um(D(size), letter, int(shaft[len(letter) :]))

    assert (float(upper), float(lower)) == pytest.approx((found.shaft_es_um, found.shaft_ei_um), abs=0.51)
    assert deviations_um(D(size), "H", 7)[1] == found.hole_es_um


def test_small_transition_holes_have_no_correction() -> None:
    """Up to 3 mm K, M and N are 0, −2 and −4, whatever the grade; ISO 286-1, from memory."""
    assert [deviations_um(D(3), letter, 7)[1] for letter in "KMN"] == [0, -2, -4]


def test_a_class_outside_the_tables_is_refused() -> None:
    for size, letter, grade in ((D(501), "H", 7), (D(10), "q", 7), (D(10), "H", 3), (D(0), "H", 7)):
        with pytest.raises(BadEntry, match="outside our ISO 286 tables"):
            deviations_um(size, letter, grade)


@pytest.mark.parametrize(
    ("size", "name", "lower", "upper"),
    [  # from memory of ISO 286-2; j6 at 25 mm is also printed by a package of docs/sources.md
        ("25", "j6", -4, 9),
        ("25", "J7", -9, 12),
        ("60", "J6", -6, 13),
        ("25", "a11", -430, -300),
        ("25", "B11", 160, 290),
        ("8", "ef7", -33, -18),
        ("5", "fg6", -14, -6),
        ("40", "t6", 48, 64),
        ("40", "T7", -64, -39),
        ("25", "x6", 64, 77),
        ("25", "X7", -77, -56),
        ("25", "z8", 88, 121),
        ("12", "h14", -430, 0),
    ],
)
def test_the_rarer_letters(size: str, name: str, lower: int, upper: int) -> None:
    assert deviations_um(
        D(size),
        name.rstrip("0123456789"),
        int(name.lstrip(ascii_letters)),
    ) == (lower, upper)


@pytest.mark.parametrize(
    ("size", "letter", "grade"),
    [("20", "t", 6), ("12", "ef", 7), ("1", "a", 11), ("25", "j", 9), ("25", "v", 6), ("25", "j", 8)],
)
def test_what_the_tables_do_not_carry_is_said(size: str, letter: str, grade: int) -> None:
    with pytest.raises(BadEntry, match="outside our ISO 286 tables"):
        deviations_um(D(size), letter, grade)
