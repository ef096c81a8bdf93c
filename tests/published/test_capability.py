"""Pp and Ppk against docs/sources.md: [nist] individuals, its Cp example, and the intervals recorded there; and numpy."""

from math import sqrt

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.statistics import capability
from ditto_run.core.statistics.capability import pp_interval, ppk_interval

INDIVIDUALS = [49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1]  # [nist] 6.3.2.2


def test_individuals() -> None:
    """Mean 50.81 is printed by [nist]; Ppk 0.68671 for 45 to 55 by the package recorded in docs/sources.md."""
    found = capability(INDIVIDUALS, 45, 55)

    assert found.mean == pytest.approx(50.81, abs=0.005)
    assert found.ppk == pytest.approx(0.68671, abs=0.000005)
    assert (found.smallest, found.largest, found.count) == (47.6, 53.6, 10)


def test_cp_example() -> None:
    """[nist] USL 20, LSL 8, mean 16, s 2: Cp 1.0, Cpk 0.667. Two values of that mean and s."""
    found = capability([16 - sqrt(2), 16 + sqrt(2)], 8, 20)

    assert found.pp == pytest.approx(1.0)
    assert found.ppk == pytest.approx(0.667, abs=0.0005)


@pytest.mark.parametrize(
    ("pp", "count", "low", "high"), [(1.33, 30, 0.9894, 1.6700), (1.0, 50, 0.8025, 1.1971)]
)
def test_interval_of_pp(pp: float, count: int, low: float, high: float) -> None:
    assert pp_interval(pp, count) == pytest.approx((low, high), abs=0.00006)


@pytest.mark.parametrize(
    ("ppk", "count", "low", "high"),
    [
        (1.33, 20, 0.8826, 1.7774),
        (1.33, 30, 0.9675, 1.6925),
        (1.33, 50, 1.0509, 1.6091),
        (1.0, 25, 0.6884, 1.3116),
    ],
)
def test_interval_of_ppk(ppk: float, count: int, low: float, high: float) -> None:
    assert ppk_interval(ppk, count) == pytest.approx((low, high), abs=0.00006)


@given(st.lists(st.integers(-5000, 5000).map(lambda n: n / 1000), min_size=3, max_size=40))
def test_mean_and_spread_are_numpys(values: list[float]) -> None:
    found = capability(values, -6, 6)

    assert found.mean == pytest.approx(np.mean(values), abs=1e-9)
    assert found.spread == pytest.approx(np.std(values, ddof=1), abs=1e-6)


def test_no_spread_and_no_limits_give_no_index() -> None:
    assert capability([1.0, 1.0, 1.0], 0, 2).ppk is None
    assert capability([1.0, 1.1], None, None).ppk is None
    assert capability([1.0], 0, 2).spread is None
    assert capability([], 0, 2) is None
    one_sided = capability([1.0, 1.1, 1.2], None, 2)
    assert one_sided.pp is None
    assert one_sided.ppk == pytest.approx((2 - 1.1) / 0.3)
