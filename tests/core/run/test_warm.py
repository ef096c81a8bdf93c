"""What a reading of a warm piece would be at 20 °C; temperatures as people type them."""

from decimal import Decimal as D

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.run import events as do
from ditto_run.core.run.events.warmth import read_degrees
from ditto_run.core.run.warm import warm_words
from tests.conftest import CoreHand, planned

SLOT = planned().all_characteristics[0]  # 20 ±0.03 mm


@pytest.mark.parametrize(
    ("text", "celsius"),
    [("", "20"), ("31", "31"), ("31.5 °C", "31.5"), ("88 F", "31.1"), ("−3", "-3"), ("21,5", "21.5")],
)
def test_a_temperature_is_read_in_either_scale(text: str, celsius: str) -> None:
    assert read_degrees(text, "piece") == D(celsius)


@pytest.mark.parametrize("text", ["warm", "200", "-40", "31 K", "3 1", "３１"])
def test_what_is_none_is_said_at_its_field(text: str) -> None:
    with pytest.raises(BadEntry) as refused:
        read_degrees(text, "piece")
    assert refused.value.field == "piece"


def test_a_warm_aluminium_piece_is_longer_than_at_20() -> None:
    """Own derivation: 20 mm of aluminium, 23 µm/m·K, 25 K warmer: 11.5 µm more; a tenth of the limits is 6."""
    assert "at 20 °C it is 19.999 mm, inside" in warm_words(SLOT, D("20.010"), "6061-T6", (45.0, 20.0), 3)
    assert "at 20 °C it is 20.019 mm, inside" in warm_words(SLOT, D("20.031"), "6061-T6", (45.0, 20.0), 3)
    assert "outside" in warm_words(SLOT, D("19.975"), "6061-T6", (45.0, 20.0), 3)


@pytest.mark.parametrize(("piece_c", "said"), [(33.0, False), (33.1, True)])
def test_it_speaks_from_a_tenth_of_the_limits_on(piece_c: float, said: bool) -> None:
    """Own derivation: 20 mm × 23e-6 × 13.04 K = 6.0 µm."""
    assert bool(warm_words(SLOT, D(20), "6061-T6", (piece_c, 20.0), 3)) is said


def test_where_piece_and_gauge_are_alike_in_steel_nothing_is_moved() -> None:
    assert warm_words(SLOT, D(20), "1045 steel", (60.0, 60.0), 3) == ""
    for material, warmth in (("acetal", (60.0, 20.0)), ("nobody knows", (60.0, 20.0)), ("6061", None)):
        assert warm_words(SLOT, D(20), material, warmth, 3) == ""


def test_it_is_said_of_the_run_and_taken_back() -> None:
    hand = CoreHand(planned())
    hand.do(do.SayWarmth("31", ""))
    assert hand.state.here.warmth == (31.0, 20.0)
    hand.do(do.Undo())
    assert hand.state.here.warmth is None
