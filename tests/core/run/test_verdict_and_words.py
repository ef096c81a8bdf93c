"""Verdicts in words and tones. Cases worked by hand from the limits."""

from decimal import Decimal as D

import pytest

from ditto_run.core.part import Characteristic
from ditto_run.core.run.verdict import is_quiet, judge, slip, tone_hz
from ditto_run.core.run.words import answer_value
from ditto_run.core.sizes import read_size

SLOT = Characteristic(2, "slot", read_size("20.00 ±0.03", "mm"), "critical")
MASTER = D("20.004")


@pytest.mark.parametrize(
    ("value", "words", "away", "said"),
    [
        (
            "19.977",
            "7 µm inside the lower limit",
            "23 µm (0.9 thou) under 20.000",
            "Down 27 microns. 7 microns inside the limit.",
        ),
        (
            "20.030",
            "on the upper limit, inside",
            "30 µm (1.2 thou) over 20.000",
            "Up 26 microns. 0 microns inside the limit.",
        ),
        (
            "20.033",
            "3 µm over the upper limit",
            "33 µm (1.3 thou) over 20.000",
            "Over the limit by 3 microns. Stop.",
        ),
        (
            "19.967",
            "3 µm under the lower limit",
            "33 µm (1.3 thou) under 20.000",
            "Under the limit by 3 microns. Stop.",
        ),
        ("20.006", "24 µm inside the upper limit", "6 µm (0.2 thou) over 20.000", "Ditto."),
    ],
)
def test_a_reading_is_answered_in_words(value: str, words: str, away: str, said: str) -> None:
    found = answer_value(D(value), 3, SLOT, MASTER)

    assert (found.words, found.away, found.said) == (words, away, said)


def test_an_inch_drawing_says_thou_first() -> None:
    tenon = Characteristic(1, "tenon", read_size(".500 +.000/-.001", "in"))

    found = answer_value(D(".4993"), 4, tenon, D(".4995"))

    assert (found.words, found.away) == ("0.3 thou inside the lower limit", "0.2 thou (5 µm) under 0.4995")


def test_a_free_dimension_is_never_outside() -> None:
    free = Characteristic(3, "chamfer", read_size("1 ±0.1", "mm"), "free")

    assert answer_value(D(3), 1, free, D(1)).inside


def test_each_side_of_the_strip_has_its_own_scale() -> None:
    size = read_size("10 +0.03/-0.01", "mm")

    assert slip(D("10.03"), D(10), size) == 1.0
    assert slip(D("9.99"), D(10), size) == -1.0
    assert slip(D("10.015"), D(10), size) == 0.5
    assert slip(D("10.01"), D(10), read_size("10", "mm")) == 0.0
    assert slip(D("10.01"), D("10.03"), read_size("10 max", "mm")) == -1.01  # the master itself is over


def test_the_quiet_band_is_a_third_of_the_smaller_side() -> None:
    size = read_size("10 +0.03/-0.012", "mm")

    assert is_quiet(D("10.004"), D(10), size)
    assert not is_quiet(D("10.005"), D(10), size)


def test_tones_are_an_octave_from_master_to_limit() -> None:
    assert tone_hz(0) == 440
    assert tone_hz(1) == 880
    assert tone_hz(-1) == 220
    assert tone_hz(0.5) == pytest.approx(440 * 2**0.5)  # six semitones


def test_a_reading_in_inches_is_judged_against_millimetres_exactly() -> None:
    size = read_size("25.4 ±0.0254", "mm")

    assert judge(D("1.001"), "in", size).side == "inside"
    assert judge(D("1.0010001"), "in", size).side == "over"


@pytest.mark.parametrize(
    ("value", "unit", "side"),
    [
        ("19.969", "mm", "under"),
        ("19.970", "mm", "inside"),
        ("20.030", "mm", "inside"),
        ("20.031", "mm", "over"),
        ("0.7862204724", "in", "under"),  # 19.97 mm is 0.78622047244…: just short of it
        ("0.7862204725", "in", "inside"),
        ("0.7885826771", "in", "inside"),  # 20.03 mm is 0.78858267716…
        ("0.7885826772", "in", "over"),
    ],
)
def test_on_a_limit_is_inside_and_one_step_past_it_is_not(value: str, unit: str, side: str) -> None:
    """Own derivation: limits in millimetres divided by 25.4, the last digit on either side."""
    assert judge(D(value), unit, read_size("20.00 ±0.03", "mm")).side == side
