"""A gauging sheet with blanks: the pieces as they will be dealt out, the sizes as the plan asks for them; by hand."""

from dataclasses import replace

from ditto_run.core.close.blanks import blank_rows
from ditto_run.core.run import events as do
from tests.conftest import CoreHand, planned


def test_the_pieces_to_come_stand_as_they_will_be_dealt_out() -> None:
    hand = CoreHand(planned(8)).proven()
    rows = blank_rows(hand.state)
    assert [(one.load, one.station, one.piece) for one in rows] == [
        (2, "A", 4),
        (2, "B", 5),
        (2, "C", 6),
        (3, "A", 7),
        (3, "B", 8),
    ]
    hand.do(do.StartCycle())
    assert [one.piece for one in blank_rows(hand.state)] == [7, 8]


def test_a_size_is_asked_for_on_the_loads_that_run_asks_for_it() -> None:
    plan = planned(24)
    often = replace(plan, heading=replace(plan.heading, gauge_every=3))
    rows = blank_rows(CoreHand(often).proven().state)
    assert sorted({one.load for one in rows if one.asked}) == [4, 7]
    assert {one.load for one in blank_rows(CoreHand(plan).proven().state, most=2)} == {2, 3}
