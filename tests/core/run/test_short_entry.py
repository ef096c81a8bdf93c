"""Short entry: the last digits complete the last accepted reading."""

from decimal import Decimal as D

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.errors import NeedsAnswer
from ditto_run.core.run.short_entry import doubt_about_reading, full_entry
from ditto_run.core.sizes import read_size


@pytest.mark.parametrize(
    ("typed", "recent", "decimals", "whole"),
    [
        ("977", "19.996", 3, "19.977"), ("003", "19.998", 3, "20.003"), ("998", "20.001", 3, "19.998"), ("06", "12.007", 3, "12.006"),
        ("4993", "0.4995", 4, "0.4993"), ("993", "0.4995", 4, "0.4993"), ("19.977", "19.996", 3, "19.977"), ("7", "19.996", 3, "7"),
        ("19977", "19.996", 3, "19.977"), ("199770", "19.996", 3, "199770"), ("-977", "19.996", 3, "-977"),
    ],
)  # fmt: skip
def test_last_digits_are_enough(typed: str, recent: str, decimals: int, whole: str) -> None:
    assert full_entry(typed, D(recent), decimals) == whole


def test_the_whole_number_is_wanted_without_a_recent_reading() -> None:
    assert full_entry("977", None, 3) == "977"


def test_two_numbers_equally_near_are_asked_about() -> None:
    with pytest.raises(NeedsAnswer, match=r"may be 19\.500 or 20\.500"):
        full_entry("500", D("20.000"), 3)


@given(st.integers(1_000, 99_999), st.integers(-400, 400))
def test_a_small_difference_is_completed_rightly(recent: int, away: int) -> None:
    """Whatever the recent reading, its last three digits moved by up to 400 come back whole."""
    value = D(recent + away).scaleb(-3)
    if value <= 0 or len(str(recent)) <= 3:
        return
    typed = f"{(recent + away) % 1000:03d}"

    assert D(full_entry(typed, D(recent).scaleb(-3), 3)) == value


@pytest.mark.parametrize(
    ("value", "recent", "doubted"),
    [
        ("19.977", "19.996", False),
        ("19.877", None, True),
        ("12.977", "19.996", True),
        ("199.96", "19.996", True),
        ("0.787", "19.996", True),
        ("20.031", None, False),
    ],
)
def test_far_readings_are_doubted(value: str, recent: str | None, doubted: bool) -> None:
    found = doubt_about_reading(D(value), None if recent is None else D(recent), read_size("20 ±0.03", "mm"))

    assert (found is not None) == doubted


def test_a_slipped_decimal_point_is_named() -> None:
    found = doubt_about_reading(D("199.96"), D("19.996"), read_size("20 ±0.03", "mm"))

    assert "about 10 times" in found.problem
