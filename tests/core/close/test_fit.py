"""Pins to bores: held to brute force, and to what has to hold."""

from decimal import Decimal as D
from itertools import permutations
from random import Random
from time import process_time

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ditto_run.core.close.fit import Fitted, Measured, fit_pairs, measured_of
from ditto_run.core.errors import BadEntry
from ditto_run.core.run import events as do
from tests.core.close.test_counts import all_gauged

SIZES = st.lists(st.integers(-12, 12).map(lambda n: D(20) + D(n) / 1000), min_size=0, max_size=5)


def made(sizes: list[D], first: int = 1) -> list[Measured]:
    return [Measured(first + n, size) for n, size in enumerate(sizes)]


def worth(found: Fitted, low: D, high: D) -> tuple[int, D]:
    """More pairs first, then nearer the middle in all."""
    middle = (low + high) / 2
    return len(found.pairs), -sum((abs(one.clearance - middle) for one in found.pairs), D(0))


def best_by_trying(pins: list[D], bores: list[D], low: D, high: D) -> tuple[int, D]:
    middle, best = (low + high) / 2, (0, D(0))
    short, long, turned = (pins, bores, 1) if len(pins) <= len(bores) else (bores, pins, -1)
    for order in permutations(range(len(long)), len(short)):
        gaps = [turned * (long[j] - short[i]) for i, j in enumerate(order)]
        inside = [gap for gap in gaps if low <= gap <= high]
        best = max(best, (len(inside), -sum((abs(gap - middle) for gap in inside), D(0))))
    return best


@settings(deadline=None)
@given(SIZES, SIZES)
def test_no_other_way_leaves_fewer_or_lies_nearer(pins: list[D], bores: list[D]) -> None:
    low, high = D("0.000"), D("0.006")
    found = fit_pairs(made(pins), made(bores, 101), low, high)
    assert worth(found, low, high)[0] == best_by_trying(pins, bores, low, high)[0]
    assert float(worth(found, low, high)[1]) == pytest.approx(
        float(best_by_trying(pins, bores, low, high)[1])
    )
    assert len(found.pairs) + len(found.pins_left) == len(pins)
    assert len(found.pairs) + len(found.bores_left) == len(bores)
    assert all(low <= one.clearance <= high for one in found.pairs)


def test_on_the_limit_fits_and_a_micron_beyond_does_not() -> None:
    (pin,) = made([D("19.990")])
    for bore, fits in (("20.000", True), ("20.010", True), ("20.011", False), ("19.999", False)):
        found = fit_pairs([pin], made([D(bore)], 2), D("0.010"), D("0.020"))
        assert bool(found.pairs) is fits


def test_a_press_fit_is_below_nothing() -> None:
    found = fit_pairs(made([D("20.012")]), made([D("20.000")], 2), D("-0.015"), D("-0.010"))
    assert [(one.pin, one.bore, one.clearance) for one in found.pairs] == [(1, 2, D("-0.012"))]


def test_limits_that_are_no_limits_are_refused() -> None:
    with pytest.raises(BadEntry, match="over the most"):
        fit_pairs([], [], D(1), D(0))
    assert fit_pairs([], made([D(20)]), D(0), D(1)) == Fitted((), (), (1,))


def test_two_hundred_pairs_are_quick() -> None:
    chance = Random(4)
    pins, bores = ([D(20) + D(chance.randint(-15, 15)) / 1000 for _ in range(200)] for _ in range(2))
    fit_pairs(made(pins[:2]), made(bores[:2], 500), D(0), D("0.01"))
    began = process_time()
    fit_pairs(made(pins), made(bores, 500), D(0), D("0.01"))
    assert process_time() - began < 1.0  # the bench holds it to 200 ms


def test_only_good_pieces_with_a_reading_are_fitted() -> None:
    hand = all_gauged(6)
    hand.do(do.Dispose(2, "scrap", "dented"), do.HoldPieces("3", "dropped"))
    assert [one.piece for one in measured_of(hand.state, 1)] == [1, 4, 5, 6]
    assert measured_of(hand.state, 1)[0].size == D("20.001")
