"""Short entry: the last digits complete the last accepted reading."""

from decimal import Decimal as D

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.errors import NeedsAnswer
from ditto_run.core.run.short_entry import doubt_about_reading, full_entry
from ditto_run.core.sizes import read_size

SLOT, BORE, TENON = "20 ±0.03", "12.007 ±0.004", ".500 +.000/-.001"


@pytest.mark.parametrize(
    ("size", "typed", "recent", "decimals", "whole"),
    [
        (SLOT, "977", "19.996", 3, "19.977"),
        (SLOT, "003", "19.998", 3, "20.003"),
        (SLOT, "998", "20.001", 3, "19.998"),
        (BORE, "06", "12.007", 3, "12.006"),
        (SLOT, "19.977", "19.996", 3, "19.977"),
        (SLOT, "7", "19.996", 3, "7"),
        (SLOT, "19977", "19.996", 3, "19.977"),
        (SLOT, "199770", "19.996", 3, "199770"),
        (SLOT, "-977", "19.996", 3, "-977"),
        ("0.003 max", "12", "0.001", 3, "12"),  # one limit says nothing of how far is far
        ("29.5° ±1°", "30", "106200", 0, "30"),
    ],
)
def test_last_digits_are_enough(size: str, typed: str, recent: str, decimals: int, whole: str) -> None:
    assert full_entry(typed, D(recent), decimals, read_size(size, "mm")) == whole


@pytest.mark.parametrize(
    ("size", "typed", "decimals", "whole"),
    [
        (TENON, "4993", 4, "0.4993"),
        (TENON, "993", 4, "0.4993"),
        (".531 ±.001", "533", 4, "0.533"),  # at the drawing's three places, though earlier readings had four
    ],
)
def test_inch_digits_end_where_readings_or_the_drawing_end(
    size: str, typed: str, decimals: int, whole: str
) -> None:
    assert full_entry(typed, D("0.4995"), decimals, read_size(size, "in")) == whole


@pytest.mark.parametrize(
    ("size", "unit", "typed", "choices"),
    [
        (SLOT, "mm", "20", {"20", "20.020"}),  # itself, or the last two digits
        (SLOT, "mm", "500", {"19.500", "20.500"}),
        (".531 ±.001", "in", "31", {"0.531", "0.5331"}),
    ],
)
def test_what_may_be_two_numbers_is_asked(size: str, unit: str, typed: str, choices: set[str]) -> None:
    found = read_size(size, unit)
    if (
        typed == "500"
    ):  # neither lies near the limits: it is no ending, and the doubt about it is asked elsewhere
        assert full_entry(typed, D("20.000"), 3, found) == "500"
        return
    with pytest.raises(NeedsAnswer) as asked:
        full_entry(typed, D("0.5311") if unit == "in" else D("20.001"), 4 if unit == "in" else 3, found)
    assert choices <= set(asked.value.choices)


def test_the_whole_number_is_wanted_without_a_recent_reading() -> None:
    assert full_entry("977", None, 3, read_size(SLOT, "mm")) == "977"


@given(st.integers(1_000, 99_999), st.integers(1, 30), st.integers(-60, 60))
def test_what_is_completed_is_the_only_number_near(middle: int, half: int, away: int) -> None:
    """Three digits near the limits come back as the number they end, or are asked about; never as another one."""
    value = D(middle + away * half // 30).scaleb(-3)
    size = read_size(f"{D(middle).scaleb(-3)} ±{D(half).scaleb(-3)}", "mm")
    typed = f"{int(value.scaleb(3)) % 1000:03d}"
    try:
        whole = full_entry(typed, size.nominal, 3, size)
    except NeedsAnswer as asked:
        assert len(asked.choices) > 1
        return
    assert D(whole) == value


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


@pytest.mark.parametrize(
    ("size", "value", "doubted"),
    [
        ("0.003 max", "0.002", False),
        ("0.003 max", "0.0005", False),
        ("0.003 max", "0.004", False),  # over the limit, and honest
        ("0.003 max", "0.02", True),
        ("1.6 max", "0.8", False),
        ("5 min", "5.2", False),
        ("5 min", "0.52", True),
    ],
)
def test_with_one_limit_only_the_far_side_is_doubted(size: str, value: str, doubted: bool) -> None:
    assert (doubt_about_reading(D(value), None, read_size(size, "mm")) is not None) == doubted


def test_a_slipped_decimal_point_is_named() -> None:
    found = doubt_about_reading(D("199.96"), D("19.996"), read_size("20 ±0.03", "mm"))

    assert "about 10 times" in found.problem


def meant(typed: str, decimals: int, size) -> set[D]:
    """Every number near the limits that the digits may stand for, found by looking at all of them."""
    low, high, width = size.lower, size.upper, size.upper - size.lower
    finest = max(decimals, size.decimals)
    places = {finest} if len(typed) >= finest else {finest, size.decimals}
    found = {D(typed), *(D(int(typed)).scaleb(-n) for n in (finest, size.decimals))}
    for place in places:
        step = D(1).scaleb(-place)
        count = int((low - 4 * width) / step) - 2
        while count * step <= high + 4 * width + step:
            if count >= 0 and str(count).zfill(len(typed) + 12).endswith(typed):
                found.add(count * step)
            count += 1
    return {value.normalize() for value in found if low - 3 * width < value < high + 3 * width}


@pytest.mark.parametrize(
    ("size", "unit"),
    [
        *(("20 ±0.03", "mm"), ("12.007 ±0.004", "mm"), ("0.05 ±0.05", "mm"), ("3 +0.1/0", "mm")),
        *((".500 +.000/-.001", "in"), ("1.25 ±.005", "in"), ("0.01 0/-0.01", "mm"), ("100 ±0.5", "mm")),
    ],
)
def test_short_entries_against_a_search_of_all_numbers(size: str, unit) -> None:
    """Source: own derivation; the search counts through every number, the reader works out where they lie."""
    found = read_size(size, unit)
    width = found.upper - found.lower
    for decimals in (found.decimals, found.decimals + 1):
        for typed in [f"{n:02d}" for n in range(0, 100, 3)] + [f"{n:03d}" for n in range(0, 1000, 37)]:
            near = meant(typed, decimals, found)
            away = {value: max(found.lower - value, value - found.upper, D(0)) for value in near}
            one = len(near) == 1 and min(away.values()) <= width
            if not near:
                assert full_entry(typed, found.middle, decimals, found) == typed
            elif one:
                assert D(full_entry(typed, found.middle, decimals, found)).normalize() in near, typed
            else:
                with pytest.raises(NeedsAnswer) as asked:
                    full_entry(typed, found.middle, decimals, found)
                assert {D(text).normalize() for text in asked.value.choices} <= near, typed


def test_limits_on_both_sides_of_nothing_are_typed_whole() -> None:
    assert full_entry("15", D(0), 3, read_size("0 ±0.02", "mm")) == "15"
