"""The finish and its range: an 80 % range holds the truth in about 80 of 100 runs."""

from random import Random

import pytest

from ditto_run.core.run.pace import steady, time_left


def test_the_range_holds_the_truth_four_times_in_five() -> None:
    """Own derivation: simulate runs with normal load times and count how often the range holds the sum."""
    random = Random(5)
    held = 0
    for _ in range(2000):
        known = [random.gauss(300, 12) for _ in range(6)]
        truth = sum(random.gauss(300, 12) for _ in range(9))
        left = time_left(known, 9, 300)
        held += left.low_s <= truth <= left.high_s
    assert 0.77 < held / 2000 < 0.83


def test_before_three_loads_the_plan_speaks() -> None:
    left = time_left([], 4, 100)

    assert (left.likely_s, left.low_s, round(left.high_s), left.measured) == (400, 340, 460, False)


def test_a_lunch_break_is_no_pace() -> None:
    assert steady([300, 310, 3600, 305]) == [300, 310, 305]


@pytest.mark.parametrize("gaps", [[], [300.0] * 5])
def test_nothing_left_takes_no_time(gaps: list[float]) -> None:
    assert time_left(gaps, 0, 100).likely_s == 0
