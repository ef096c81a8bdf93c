"""How sure a reading is of its verdict, once a study says how well its gauge repeats."""

from dataclasses import replace
from decimal import Decimal as D

import pytest

from ditto_run.core.run.proof_of_size import not_proved
from ditto_run.core.shop import Gauge
from tests.conftest import planned

SLOT = replace(planned().all_characteristics[0], gauge_id=5)  # 20 ±0.03
GAUGE = Gauge(5, "micrometer", D("0.001"), "mm", D("0.002"))


@pytest.mark.parametrize(
    ("value", "doubt"),
    [
        ("20.000", False),
        ("20.0267", False),
        ("20.0268", True),
        ("20.0300", True),
        ("20.0332", True),
        ("20.0334", False),
    ],
)
def test_within_the_guard_band_nothing_is_proved(value: str, doubt: bool) -> None:
    """Own derivation: 1.6449 standard uncertainties of 2 µm are 3.29 µm on each side of 20.030."""
    assert bool(not_proved(SLOT, D(value), {5: GAUGE})) is doubt


def test_without_a_study_or_a_gauge_nothing_is_said() -> None:
    for gauges in ({}, {5: replace(GAUGE, repeats=None)}, {6: GAUGE}):
        assert not_proved(SLOT, D("20.030"), gauges) == ""
    assert not_proved(SLOT, None, {5: GAUGE}) == ""


def test_a_gauge_in_the_other_unit_means_the_same() -> None:
    inch = Gauge(5, "micrometer", D("0.0001"), "in", D("0.002") / D("25.4"))
    assert not_proved(SLOT, D("20.0268"), {5: inch})
    assert not not_proved(SLOT, D("20.0266"), {5: inch})
    assert "within 3 µm" in not_proved(SLOT, D("20.030"), {5: inch})
