"""Drills, number screws and coarse pitches against docs/sources.md (GNU units' printed values; ASME B94.11, B1.1, ISO 261 from memory)."""

from decimal import Decimal as D

import pytest

from ditto_run.core.sizes.names import LETTER_DRILLS_IN, NUMBER_DRILLS_IN, drill_in
from ditto_run.core.threads.series import COARSE_PITCH_MM, number_screw_in

DRILLS = {
    "7": ".201",
    "25": ".1495",
    "29": ".136",
    "36": ".1065",
    "43": ".089",
    "50": ".070",
    "60": ".040",
    "80": ".0135",
    "21": ".159",
    "1": ".228",
    "30": ".1285",
    "5": ".2055",
    "10": ".1935",
    "18": ".1695",
    "28": ".1405",
    "69": ".0292",
    "A": ".234",
    "F": ".257",
    "Q": ".332",
    "Z": ".413",
}


@pytest.mark.parametrize(("name", "size"), DRILLS.items())
def test_drill(name: str, size: str) -> None:
    assert drill_in(name) == D(size)


def test_drill_tables_are_whole_and_in_order() -> None:
    numbers = [D(size) for size in NUMBER_DRILLS_IN]
    letters = [D(size) for size in LETTER_DRILLS_IN]

    assert len(numbers) == 80
    assert len(letters) == 26
    assert numbers == sorted(set(numbers), reverse=True)
    assert letters == sorted(set(letters))


@pytest.mark.parametrize(("number", "major"), [(10, ".190"), (4, ".112"), (6, ".138"), (8, ".164")])
def test_number_screw(number: int, major: str) -> None:
    assert number_screw_in(number) == D(major)


@pytest.mark.parametrize(
    ("size", "pitch"),
    [
        ("3", ".5"),
        ("4", ".7"),
        ("6", "1"),
        ("8", "1.25"),
        ("10", "1.5"),
        ("12", "1.75"),
        ("16", "2"),
        ("20", "2.5"),
        ("24", "3"),
    ],
)
def test_coarse_pitch_gives_the_tap_drill(size: str, pitch: str) -> None:
    """Size less pitch is the published tap drill: 2.5, 3.3, 5.0, 6.8 (6.75), 8.5, 10.2 (10.25), 14.0, 17.5, 21.0."""
    tap = {
        "3": "2.5",
        "4": "3.3",
        "6": "5.0",
        "8": "6.8",
        "10": "8.5",
        "12": "10.2",
        "16": "14.0",
        "20": "17.5",
        "24": "21.0",
    }

    assert D(COARSE_PITCH_MM[size]) == D(pitch)
    assert abs(D(size) - D(pitch) - D(tap[size])) <= D("0.05")
