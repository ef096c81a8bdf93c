"""The carried values of Student's t against scipy."""

import pytest
from scipy.stats import t

from ditto_run.core.run.pace import MOST_LOADS
from ditto_run.core.statistics.student import NORMAL_90, T_90, t_80


def test_table_agrees_with_scipy() -> None:
    assert set(T_90) == set(range(1, MOST_LOADS))
    for freedom, value in T_90.items():
        assert value == pytest.approx(t.ppf(0.9, freedom), abs=0.00005)
    for freedom in (12, 13, 20, 40, 500):
        assert t_80(freedom) == pytest.approx(t.ppf(0.9, freedom), abs=0.00005)
    assert pytest.approx(t.ppf(0.9, 1e9), abs=1e-6) == NORMAL_90
