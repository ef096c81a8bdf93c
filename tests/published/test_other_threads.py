"""Threads of other forms against rows from memory and the geometry of their forms.

Sources: [iso228], [iso2904] and [bs84] from memory; wires by own derivation from the triangle.
"""

from decimal import Decimal
from math import cos, radians, sin, tan

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.threads import over_wires, percent_of_hole, read_thread, thread_limits
from ditto_run.core.threads.thread import Band


def limits(band: Band) -> str:
    return f"{band.low} {band.high}"


@pytest.mark.parametrize(
    ("side", "name", "major", "pitch", "minor"),
    [
        ("external", "A", "12.907 13.157", "12.176 12.301", "None 11.445"),
        ("external", "B", "12.907 13.157", "12.051 12.301", "None 11.445"),
        ("internal", "", "13.157 None", "12.301 12.426", "11.445 11.890"),
    ],
)
def test_g_quarter(side, name, major, pitch, minor) -> None:
    """[iso228] row of G1/4, from memory."""
    found = thread_limits(read_thread("G1/4"), side, name)
    assert (limits(found.major), limits(found.pitch), limits(found.minor)) == (major, pitch, minor)
    assert not found.basic


def test_g_three_is_of_the_large_ones_and_knows_its_classes() -> None:
    found = thread_limits(read_thread("G3"), "external", "A")
    assert found.pitch.high - found.pitch.low == Decimal("0.217")
    with pytest.raises(BadEntry, match="no class"):
        thread_limits(read_thread("G3"), "external", "6g")


def test_a_trapezoidal_thread_has_its_basic_sizes_and_says_so() -> None:
    """[iso2904] Tr20×4: d2 18, D4 20.5, d3 15.5, D1 16; crests 0.300 and 0.375 wide. From memory."""
    screw, nut = (thread_limits(read_thread("Tr20x4"), side) for side in ("external", "internal"))
    assert (screw.major, screw.pitch.high, screw.minor.high) == (
        Band(Decimal("19.700"), Decimal(20)),
        18,
        Decimal("15.5"),
    )
    assert (nut.major.low, nut.pitch.low, nut.minor) == (
        Decimal("20.5"),
        18,
        Band(Decimal(16), Decimal("16.375")),
    )
    assert screw.basic
    assert nut.basic


def test_a_whitworth_thread_by_its_form() -> None:
    """[bs84] 1/4-20 BSW: effective 0.2180, core 0.1860. From memory."""
    found = thread_limits(read_thread("1/4 BSW"), "external")
    assert (found.major.high, found.pitch.high, found.minor.high, found.basic) == (
        Decimal("0.2500"),
        Decimal("0.2180"),
        Decimal("0.1860"),
        True,
    )
    with pytest.raises(BadEntry, match="no table"):
        thread_limits(read_thread("12 x 2 mm 29°"), "external")


@pytest.mark.parametrize(("name", "form"), [("M10", 60), ("1/4 BSW", 55), ("Tr20x4", 30)])
def test_wires_touch_at_the_pitch_line_whatever_the_form(name: str, form: int) -> None:
    """A round of radius r in a groove of half angle h touches the flank r cos h beside its middle, at the pitch line P/4 of it."""
    thread = read_thread(name)
    pitch_diameter = thread.major - thread.pitch / 2
    found = over_wires(thread, Band(None, pitch_diameter))
    half, radius, pitch = radians(form / 2), float(found.best) / 2, float(thread.pitch)
    assert radius * cos(half) == pytest.approx(pitch / 4, rel=1e-9)
    centre_over_pitch_line = radius / sin(half) - pitch / 4 / tan(half)
    expected = float(pitch_diameter) + 2 * (centre_over_pitch_line + radius)
    assert float(found.reading.high) == pytest.approx(expected, rel=1e-9)


def test_full_thread_is_that_of_the_form() -> None:
    tr = read_thread("Tr20x4")
    assert percent_of_hole(tr, Decimal(16)) == 100
    assert percent_of_hole(read_thread("1/4 BSW"), Decimal("0.1859673")) == pytest.approx(100, abs=0.001)
