"""Unified inch threads against an independent package and remembered rows of the standard.

Source: [screw-thread-lib], which carries ASME B1.1-2019 limits of eleven threads (printed by the package); [b1.1] rows
from memory; [h28] stripping areas printed by the same package. Half a unit of the last printed digit is allowed, one
unit where the standard rounds twice.
"""

from decimal import Decimal

import pytest
from screw_thread_lib import Assembly
from screw_thread_lib.data import ASME_UN_2A2B_dict as ROWS

from ditto_run.core.errors import BadEntry
from ditto_run.core.threads import (
    read_thread,
    shear_area_per_length,
    tensile_area,
    thread_limits,
)
from ditto_run.core.threads.wires import over_wires

TENTH = Decimal("0.00011")


@pytest.mark.parametrize("name", ROWS)
def test_class_2_limits_agree_with_the_package(name: str) -> None:
    row, thread = ROWS[name], read_thread(f"#{name}" if name.startswith("10-") else name)
    outside, inside = thread_limits(thread, "external", "2A"), thread_limits(thread, "internal", "2B")
    assert thread.series == row["series"]
    found = {
        "dmin": outside.major.low,
        "dmax": outside.major.high,
        "d2min": outside.pitch.low,
        "d2max": outside.pitch.high,
        "D2min": inside.pitch.low,
        "D2max": inside.pitch.high,
    }
    for key, value in found.items():
        assert abs(value - Decimal(str(row[key]))) <= TENTH, (name, key, value)
    assert abs(inside.minor.low - Decimal(str(row["D1min"]))) <= Decimal("0.0005")
    assert abs(inside.minor.high - Decimal(str(row["D1max"]))) <= Decimal("0.0005")


@pytest.mark.parametrize(
    ("thread", "side", "name", "low", "high"),
    [  # pitch diameters of the standard's table, from memory
        ("1/4-20", "external", "3A", "0.2147", "0.2175"),
        ("1/4-20", "external", "1A", "0.2108", "0.2164"),
        ("1/4-20", "internal", "1B", "0.2175", "0.2248"),
        ("1/4-20", "internal", "3B", "0.2175", "0.2211"),
        ("3/8-16", "internal", "2B", "0.3344", "0.3401"),
        ("1/2-13", "external", "3A", "0.4463", "0.4500"),
    ],
)
def test_pitch_diameters_of_the_other_classes(thread, side, name, low, high) -> None:
    found = thread_limits(read_thread(thread), side, name).pitch
    assert abs(found.low - Decimal(low)) <= TENTH
    assert abs(found.high - Decimal(high)) <= TENTH


@pytest.mark.parametrize(
    ("thread", "low", "high"),
    [("1/4-20", "0.1960", "0.2067"), ("1/2-13", "0.4170", "0.4284"), ("#10-32", "0.1560", "0.1641")],
)
def test_minor_diameters_of_class_3b(thread, low, high) -> None:
    """From memory of the standard's table."""
    found = thread_limits(read_thread(thread), "internal", "3B").minor
    assert abs(found.low - Decimal(low)) <= Decimal("0.0006")
    assert abs(found.high - Decimal(high)) <= Decimal("0.0003")


@pytest.mark.parametrize(
    ("name", "area"), [("#10-32", 0.01999), ("1/4-20", 0.03182), ("1/2-13", 0.14190), ("3/4-10", 0.33446)]
)
def test_tensile_areas(name: str, area: float) -> None:
    """Printed by the package; M6 20.1 and M10 58.0 mm² from memory of [iso898]."""
    assert tensile_area(read_thread(name)) == pytest.approx(area, abs=0.00006)
    assert tensile_area(read_thread("M6")) == pytest.approx(20.1, abs=0.05)
    assert tensile_area(read_thread("M10")) == pytest.approx(58.0, abs=0.05)


@pytest.mark.parametrize("name", ["1/4-20", "1/2-13", "10-32", "3/4-10"])
def test_stripping_area_of_the_screw(name: str) -> None:
    """The package takes the largest minor diameter of 2B and the least pitch diameter of 2A, as [h28] says."""
    row = ROWS[name]
    thread = read_thread(f"#{name}" if name.startswith("10-") else name)
    ours = shear_area_per_length(thread, Decimal(str(row["D1max"])), Decimal(str(row["d2min"])))
    theirs = Assembly.from_ASME_B11_UN_2A2B(name, UTSs=150000, UTSn=150000).ASs_min_FEDSTD_4a()
    assert ours == pytest.approx(theirs, rel=0.002)


def test_best_wire_and_reading() -> None:
    """Best wire 0.57735 P; M = E − 0.866025 P + 3 W, which is E + 0.866025 P at the best wire. Own derivation."""
    thread = read_thread("1/4-20")
    limits = thread_limits(thread, "external", "2A").pitch
    found = over_wires(thread, limits)
    assert float(found.best) == pytest.approx(0.0288675, abs=1e-7)
    assert float(found.reading.high - limits.high) == pytest.approx(0.866025 * 0.05, abs=1e-6)
    with pytest.raises(BadEntry, match="do not touch"):
        over_wires(thread, limits, Decimal("0.080"))


@pytest.mark.parametrize(
    ("thread", "side", "name", "what", "printed"),
    [  # rows of the standard's table, from memory, to its last digit
        ("1/4-20", "internal", "2B", "pitch", "0.2175 0.2224"),
        ("1/4-20", "internal", "2B", "minor", "0.196 0.207"),
        ("1/4-20", "internal", "3B", "minor", "0.1960 0.2067"),
        ("5/8-11", "external", "2A", "major", "0.6113 0.6234"),
        ("5/8-11", "external", "2A", "pitch", "0.5589 0.5644"),
        ("5/8-11", "internal", "2B", "pitch", "0.5660 0.5732"),
        ("1/2-13", "external", "2A", "pitch", "0.4435 0.4485"),
        ("1/2-13", "internal", "3B", "minor", "0.4170 0.4284"),
        ("#8-32", "internal", "3B", "minor", "0.1300 0.1389"),
        ("#8-32", "internal", "2B", "minor", "0.130 0.139"),
        ("#6-32", "internal", "2B", "minor", "0.104 0.114"),
        ("#4-40", "internal", "2B", "minor", "0.0849 0.0939"),
        ("#0-80", "internal", "2B", "minor", "0.0465 0.0514"),
        ("1-8", "internal", "3B", "minor", "0.8650 0.8797"),
        ("3/4-10", "internal", "3B", "minor", "0.6420 0.6545"),
        ("2-8 UN", "internal", "2B", "pitch", "1.9188 1.9289"),
    ],
)
def test_limits_as_the_standard_rounds_them(thread, side, name, what, printed) -> None:
    band = getattr(thread_limits(read_thread(thread), side, name), what)
    assert f"{band.low} {band.high}" == printed
