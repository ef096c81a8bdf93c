"""The carried values of Student's t against scipy."""

import pytest
from scipy.stats import t

from ditto_run.core.run.pace import MOST_LOADS, T_90


def test_table_agrees_with_scipy() -> None:
    assert set(T_90) == set(range(2, MOST_LOADS))
    for freedom, value in T_90.items():
        assert value == pytest.approx(t.ppf(0.9, freedom), abs=0.00005)
