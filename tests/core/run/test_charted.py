"""What the usual charts show of a run: which readings count, stations apart, all sizes as deviations."""

import pytest

from ditto_run.core.run import events as do
from ditto_run.core.run.charted import FEW, charted
from ditto_run.core.statistics.precontrol import PreControl
from tests.conftest import CoreHand, planned


def run(*slots: str, stations: str = "A") -> CoreHand:
    hand = CoreHand(planned(90, stations=stations)).proven()
    for text in slots:
        hand.do(do.StartCycle(), do.EndCycle())
        piece = hand.state.here.loads[-1].pieces[0]
        hand.do(
            do.TakeReading(piece, 1, text, confirm=text), do.TakeReading(piece, 2, "31.5", confirm="31.5")
        )
    return hand


def test_readings_come_in_order_and_too_few_say_nothing() -> None:
    found = charted(run("20.001", "20.003").state, 1)
    assert found is not None
    assert [one.value for one in found.readings] == [20.004, 20.001, 20.003]
    assert (found.chart, found.control, found.overall) == (None, None, None)
    assert len(found.readings) < FEW


def test_what_counts_of_a_piece_is_its_last_reading_and_never_a_rough_one() -> None:
    hand = run("20.001")
    hand.do(
        do.TakeReading(2, 1, "20.009", confirm="20.009"),
        do.TakeReading(2, 1, "19.7", rough=True, confirm="19.7"),
    )
    found = charted(hand.state, 1)
    assert found is not None
    assert [one.value for one in found.readings] == [20.004, 20.009]


def test_a_station_alone_and_all_sizes_as_deviations() -> None:
    """Own derivation: 20.015 in 19.97 to 20.03 is half of the half tolerance; 31.5 is in the middle."""
    hand = run("20.015", "20.000", stations="AB")
    alone = charted(hand.state, 1, "A")
    assert alone is not None
    assert {one.station for one in alone.readings} == {"A"}
    both = charted(hand.state, 0)
    assert both is not None
    assert 0.5 in [pytest.approx(one.value) for one in both.readings]
    assert (both.lower, both.upper, both.of) == (-1.0, 1.0, None)


def test_the_figures_are_those_of_the_statistics_and_turns_are_marked() -> None:
    hand = run("20.001", "20.002", "20.000", "20.001", "20.002")
    hand.do(do.Adjust("T03 diameter wear", "0.01"))
    found = charted(hand.state, 1)
    assert found is not None
    assert found.chart is not None
    assert found.chart.mean == pytest.approx((20.004 + 20.001 + 20.002 + 20.0 + 20.001 + 20.002) / 6)
    assert found.control is PreControl.GO_ON
    assert found.set_up
    assert found.turns == (7,)
    assert found.holds is not None
    assert found.holds[0] < 20.0 < found.holds[1]


def test_what_is_not_gauged_here_or_has_no_reading_is_none() -> None:
    assert charted(run().state, 9) is None
    assert charted(CoreHand(planned()).state, 1) is None
