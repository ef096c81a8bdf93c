"""The day of the shop: read as typed, its breaks, nights and days off, and when so much work is done."""

from datetime import datetime, timedelta
from itertools import pairwise

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.shop.day import ShopDay, clock_time, read_day

DAY = read_day("7:00 to 16:00", "9:00 15, 12:00 45", "5")
FRIDAY = datetime(2026, 5, 15, 11, 50).astimezone()  # wall time, wherever the test runs


@pytest.mark.parametrize("hours", ["7:00 to 16:00", "07.00-16.00", "7h00 until 16:00", " 7:00 – 16:00 "])
def test_hours_are_read_as_people_write_them(hours: str) -> None:
    assert (read_day(hours, "", "5").begins, read_day(hours, "", "5").ends) == (420, 960)
    assert read_day(hours, "", "5").hours_text == "7:00 to 16:00"


@pytest.mark.parametrize(
    "breaks", ["9:00 15, 12:00 45", "12:00 for 45 min; 9:00 15 min", "9.00 15\n12.00 45"]
)
def test_breaks_are_read_and_put_in_order(breaks: str) -> None:
    assert read_day("7:00 to 16:00", breaks, "5").breaks_text == "9:00 15, 12:00 45"


@pytest.mark.parametrize(
    ("hours", "breaks", "field"),
    [
        ("seven to four", "", "hours"),
        ("16:00 to 7:00", "", "hours"),
        ("7:00 to 24:00", "", "hours"),
        ("", "lunch", "breaks"),
        ("", "9:00 0", "breaks"),
        ("", "9:00 181", "breaks"),
        ("", "9:00 30, 9:15 30", "breaks"),
        ("7:00 to 16:00", "15:50 15", "breaks"),
        ("7:00 to 16:00", "6:30 15", "breaks"),
        ("", ", ".join(f"{n}:00 5" for n in range(9)), "breaks"),
    ],
)
def test_what_cannot_be_is_said_at_its_field(hours: str, breaks: str, field: str) -> None:
    with pytest.raises(BadEntry) as refused:
        read_day(hours, breaks, "5")
    assert refused.value.field == field


def test_a_break_ends_with_the_day_to_the_minute() -> None:
    assert read_day("7:00 to 16:00", "15:45 15, 7:00 15", "5").breaks == ((420, 15), (945, 15))


def test_work_goes_round_lunch_night_and_weekend() -> None:
    """Own derivation: from Friday 11:50, 10 min to lunch, 12:45 to 16:00 are 3 h 15, then Monday from 7:00."""
    assert DAY.after(FRIDAY, 10 * 60) == FRIDAY + timedelta(minutes=10)
    assert DAY.after(FRIDAY, 11 * 60) == FRIDAY + timedelta(minutes=56)
    assert DAY.after(FRIDAY, 3600 * 3.25 + 600) == FRIDAY.replace(hour=16, minute=0)
    monday = DAY.after(FRIDAY, 3600 * 3.25 + 600 + 60)
    assert (monday.strftime("%a %H:%M")) == "Mon 07:01"
    assert read_day("7:00 to 16:00", "", "6").after(FRIDAY, 5 * 3600).strftime("%a %H:%M") == "Sat 07:50"
    assert ShopDay().after(FRIDAY, 9e5) == FRIDAY + timedelta(seconds=9e5)


def test_a_break_that_is_on_takes_what_is_left_of_it() -> None:
    at = FRIDAY.replace(hour=12, minute=30)
    assert DAY.after(at, 60) == FRIDAY.replace(hour=12, minute=46)


def test_pauses_come_in_order_and_do_not_overlap() -> None:
    found = list(DAY.pauses(FRIDAY, FRIDAY + timedelta(days=4)))
    assert found == sorted(found, key=lambda one: one.start)
    for a, b in pairwise(found):
        assert a.start + timedelta(seconds=a.seconds) <= b.start
    assert [one.seconds / 3600 for one in found] == [0.75, 63, 0.25, 0.75, 15, 0.25]


def test_the_end_of_the_day_is_known_where_it_works() -> None:
    assert DAY.end_of(FRIDAY) == FRIDAY.replace(hour=16, minute=0)
    assert DAY.end_of(FRIDAY + timedelta(days=1)) is None
    assert ShopDay().end_of(FRIDAY) is None


@pytest.mark.parametrize(
    ("text", "said"), [("12:30", "12:30"), ("9", "09:00"), ("7 h", "07:00"), ("16.05", "16:05")]
)
def test_a_clock_time_is_of_today(text: str, said: str) -> None:
    found = clock_time(text, FRIDAY, "until")
    assert (found.date(), f"{found:%H:%M}") == (FRIDAY.date(), said)


@pytest.mark.parametrize("text", ["", "noon", "25:00", "12:60", "1230"])
def test_what_is_no_clock_time_is_said(text: str) -> None:
    with pytest.raises(BadEntry) as refused:
        clock_time(text, FRIDAY, "until")
    assert refused.value.field == "until"
