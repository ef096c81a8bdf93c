"""What the customer is told of the sampling: what vouches for a piece is said only where something does."""

from ditto_run.core.close.customer import customer_report
from ditto_run.core.run import events as do
from tests.conftest import CoreHand, planned


def test_a_size_that_does_not_apply_is_not_said_to_be_vouched_for() -> None:
    hand = CoreHand(planned(6)).proven()
    hand.do(do.StartCycle(), do.EndCycle())
    for piece in (2, 3, 4, 5, 6):
        hand.do(do.TakeReading(piece, 1, "20.001", confirm="20.001"))
        if piece == 3:
            hand.do(do.Excuse(3, 2, "the height is faced off later"))
        else:
            hand.do(do.TakeReading(piece, 2, "31.5"))
    slot, height = customer_report(hand.state).sampling
    assert slot == "slot: gauged on every piece."
    assert (
        height
        == "height: gauged on 5 of 6 pieces; 3 not measured: it does not apply there, or was not asked for."
    )


def test_a_piece_between_gauged_ones_is_said_to_be_vouched_for() -> None:
    hand = CoreHand(planned(9)).proven()
    hand.do(do.GaugeEvery(2, 2))
    for _ in range(2):
        hand.do(do.StartCycle(), do.EndCycle())
    for piece in range(2, 10):
        hand.do(do.TakeReading(piece, 1, "20.001", confirm="20.001"))
        if piece not in {5, 6}:
            hand.do(do.TakeReading(piece, 2, "31.5"))
    assert (
        customer_report(hand.state).sampling[1]
        == "height: gauged on 7 of 9 pieces; 5-6 were cut between gauged ones that vouch for them, and not measured."
    )
