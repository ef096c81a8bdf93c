"""What is held when something lets go: everything at that station since the last good gauging of that size."""

import pytest

from ditto_run.core.run import events as do
from tests.conftest import CoreHand


def held(hand: CoreHand) -> list[int]:
    return [piece.number for piece in hand.state.pieces.values() if piece.standing == "held"]


def run_to_load(hand: CoreHand, last: int) -> CoreHand:
    hand.proven()
    while hand.state.here.loads[-1].number < last:
        hand.load()
    return hand


def test_suspects_are_those_between_the_good_ones(hand: CoreHand) -> None:
    """Station A makes 1, 4, 7, 10. 1 is good, 10 is out: 4 and 7 are suspect, the other stations are not."""
    run_to_load(hand, 4)
    hand.do(do.TakeReading(10, 1, "20.05"))
    assert held(hand) == [4, 7, 10]


def test_gauging_a_suspect_releases_it_and_those_before_it(hand: CoreHand) -> None:
    run_to_load(hand, 4)
    hand.do(do.TakeReading(10, 1, "20.05"), do.TakeReading(7, 1, "20.001"))
    assert held(hand) == [10]


def test_pieces_cut_after_the_bad_one_are_suspect_too(hand: CoreHand) -> None:
    run_to_load(hand, 4)
    hand.do(do.TakeReading(7, 1, "20.05"))
    assert held(hand) == [4, 7, 10]


def test_a_corrected_reading_ends_the_containment(hand: CoreHand) -> None:
    run_to_load(hand, 3)
    hand.do(do.TakeReading(7, 1, "20.05"))
    line = hand.log[-1].seq
    hand.do(do.CorrectReading(line, "20.005", "read the wrong line"))
    assert held(hand) == []
    assert hand.state.pieces[7].last(hand.state.cycle, 1).corrected == [line]
    assert hand.log[line - 1].body.text == "20.05"


def test_out_of_limits_counts_good_only_with_a_reason(hand: CoreHand) -> None:
    hand.proven()
    hand.do(do.TakeReading(2, 1, "20.05"), do.TakeReading(2, 2, "31.5"))
    hand.do(do.Dispose(2, "as_is", "the customer takes it", concession="J. at the club"))
    assert held(hand) == []
    assert hand.state.pieces[2].standing == "good"


def test_as_is_does_not_outlive_a_later_reading_out_of_limits(hand: CoreHand) -> None:
    hand.proven()
    hand.do(do.TakeReading(2, 1, "20.05"), do.Dispose(2, "as_is", "the customer takes it"))
    hand.do(do.TakeReading(2, 2, "31.4"))
    assert held(hand) == [2]


@pytest.mark.parametrize(("outcome", "standing"), [("spare", "spare"), ("as_is", "good")])
def test_a_decided_piece_out_of_limits_blocks_nothing(hand: CoreHand, outcome, standing: str) -> None:
    hand.proven()
    hand.do(do.TakeReading(2, 1, "20.05"), do.TakeReading(2, 2, "31.5"))
    hand.do(do.Dispose(2, outcome, "agreed"))
    assert hand.state.pieces[2].standing == standing


def test_a_concession_on_a_reworked_piece_is_no_rework(hand: CoreHand) -> None:
    hand.proven()
    hand.do(do.TakeReading(2, 1, "20.05"), do.Dispose(2, "rework", "one more pass"))
    hand.do(do.TakeReading(2, 1, "20.04"), do.TakeReading(2, 2, "31.5"), do.Dispose(2, "as_is", "agreed"))
    assert hand.state.pieces[2].standing == "good"


def test_a_rough_reading_judges_nothing_and_is_kept(hand: CoreHand) -> None:
    hand.proven()
    hand.do(do.TakeReading(2, 1, "20.4", rough=True))
    assert held(hand) == []
    assert hand.state.pieces[2].last(hand.state.cycle, 1) is None
    assert (hand.state.cycle, 1) in hand.state.pieces[2].unproven
    hand.do(do.TakeReading(2, 1, "20.001"))
    assert hand.state.pieces[2].last(hand.state.cycle, 1).text == "20.001"


def test_rework_is_good_after_it_was_gauged_again(hand: CoreHand) -> None:
    hand.proven()
    hand.do(do.TakeReading(2, 1, "20.05"), do.Dispose(2, "rework", "one more pass"))
    assert hand.state.pieces[2].standing == "rework"
    hand.do(do.TakeReading(2, 1, "20.002"))
    assert hand.state.pieces[2].standing == "reworked"


def test_a_free_dimension_raises_nothing(hand: CoreHand) -> None:
    from ditto_run.core.edits import SetCharacteristic
    from tests.conftest import planned

    hand = CoreHand(planned(12, SetCharacteristic("chamfer", "1 ±0.1", "free"))).proven()
    chamfer = hand.state.plan.characteristics[-1].number
    hand.do(do.TakeReading(2, chamfer, "1.5", confirm="1.5"))
    assert held(hand) == []
