"""RS-274/NGC version 3: G10 L2, G53 and G54 to G59.3 against positions computed by hand.

Source: reference values of RS-274/NGC semantics, [ngc]: P1 to P9 are G54 to G59.3; worked positions hand-computed there.
"""

from decimal import Decimal as D

import pytest

from ditto_run.core.shop import Dialect
from ditto_run.formats.rs274 import p_number, positions

SET = "G21 G90\nG10 L2 P1 X10 Y20 Z-5\nG10 L2 P2 X110 Y20 Z-5\nG10 L2 P9 Z100\n"


@pytest.mark.parametrize(
    ("program", "ends"),
    [
        ("G54 G0 X0 Y0 Z25", (10, 20, 20)),
        ("G55 G0 X0 Y0 Z25", (110, 20, 20)),
        ("G59.3 G0 X1 Y1 Z0", (1, 1, 100)),
        ("G54 G0 Z25\nG81 X5 Y5 Z-3 R2", (15, 25, -8)),
        ("G54 G0 Z25\nG81 X5 Y5 Z-3 R2\nX15", (25, 25, -8)),
        ("G54 G53 G0 X0 Y0 Z0", (0, 0, 0)),
        ("G54 G53 G0 X0 Y0 Z0\nG0 X0 Y0 Z0", (10, 20, -5)),
    ],
)
def test_positions_agree_with_the_worked_ones(program: str, ends: tuple[int, int, int]) -> None:
    last = positions(SET + program)[-1]
    assert tuple(last[axis] for axis in "xyz") == tuple(map(D, ends))


def test_p_numbers() -> None:
    codes = ["G54", "G55", "G56", "G57", "G58", "G59", "G59.1", "G59.2", "G59.3"]
    assert [p_number(code, Dialect()) for code in codes] == [("L2", n) for n in range(1, 10)]


def test_inches_are_exactly_25_4_millimetres() -> None:
    assert positions("G20 G10 L2 P1 X1\nG54 G0 X1")[-1]["x"] == D("50.8")
