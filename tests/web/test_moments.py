"""Moments on the board: a day is said only where it is not the one that is known."""

from datetime import UTC, datetime, timedelta

from ditto_run.web.filters import between, clock, moment

NOW = datetime(2026, 11, 27, 12, 0, tzinfo=UTC)


def test_a_finish_on_another_day_bears_its_day_and_its_range_does_not_repeat_it() -> None:
    at = NOW + timedelta(days=1)
    ends = at - timedelta(minutes=10), at + timedelta(minutes=10)
    assert moment(at, NOW) == f"{at.astimezone():%a} {clock(at)}"
    assert between(ends, at, NOW) == f"{clock(ends[0])} to {clock(ends[1])}"
    late = at, at + timedelta(days=2)
    assert between(late, at, NOW) == f"{clock(at)} to {moment(late[1], NOW)}"
    assert " " not in moment(NOW + timedelta(minutes=1), NOW)
