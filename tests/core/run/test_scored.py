"""What became of the turns that were advised; what stopped a cycle, and where it goes on."""

from decimal import Decimal

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.run import events as do
from ditto_run.core.run.events.cycle import LeftTurn
from ditto_run.core.run.resumed import resumed
from ditto_run.core.run.scored import AdviceScore, advice_score
from tests.conftest import MILL, CoreHand, planned


def proven() -> CoreHand:
    return CoreHand(planned(60, stations="A")).proven()


def cut(hand: CoreHand, *sizes: str, left: LeftTurn | None = None) -> None:
    for size in sizes:
        hand.do(do.StartCycle(left), do.EndCycle())
        left = None
        piece = hand.state.here.loads[-1].pieces[0]
        hand.do(
            do.TakeReading(piece, 1, size, confirm=size), do.TakeReading(piece, 2, "31.5", confirm="31.5")
        )


def score(hand: CoreHand) -> AdviceScore:
    return advice_score(hand.state, MILL, {})


@pytest.mark.parametrize(
    ("amount", "after", "word"),
    [("0.02", "20.001", "helped"), ("0.02", "19.975", "harmed"), ("0.02", "19.990", "unsure")],
)
def test_a_turn_made_as_advised_helped_or_harmed_by_the_readings_after_it(
    amount: str, after: str, word: str
) -> None:
    """Own derivation: more wear makes the slot narrower; from 20.020 a turn of 20 µm to 20.001 is nearer, to 19.975 is not, and 19.990
    is as far.
    """
    hand = proven()
    cut(hand, "20.020", "20.021")
    hand.do(do.Adjust("T03 diameter wear", amount, advised=True))
    cut(hand, *[after] * 5)
    found = score(hand)
    assert (found.made, found.left) == (1, 0)
    assert getattr(found, word) == 1
    assert found.words.startswith("1 turn advised: 1 ")


def test_a_turn_that_was_left_is_kept_with_the_load_that_went_on_without_it() -> None:
    hand = proven()
    cut(hand, "20.020")
    cut(hand, "20.020", "20.019", left=LeftTurn("T03 diameter wear", Decimal("0.020")))
    assert score(hand) == AdviceScore(0, 1)
    assert score(hand).words == "1 turn advised: 1 left."


def test_a_turn_of_ones_own_is_nobodys_advice() -> None:
    hand = proven()
    hand.do(do.Adjust("T03 diameter wear", "0.02"))
    cut(hand, "20.001")
    assert score(hand) == AdviceScore()
    assert score(hand).words == ""


def test_an_advised_turn_taken_back_counts_no_more() -> None:
    hand = proven()
    cut(hand, "20.020")
    hand.do(do.Adjust("T03 diameter wear", "0.02", advised=True), do.Undo())
    assert score(hand) == AdviceScore()


def test_what_stopped_it_is_kept_with_where_it_goes_on_until_a_load_is_begun() -> None:
    hand = proven()
    hand.do(do.WriteStop("the drill clogged", "T05, station A"))
    assert resumed(hand.state, ()).stopped == "the drill clogged. It goes on at T05, station A."
    assert hand.state.here.stopped[0].load == 2
    assert not hand.state.here.changes
    cut(hand, "20.001")
    assert resumed(hand.state, ()).stopped == ""
    assert len(hand.state.here.stopped) == 1
    with pytest.raises(BadEntry):
        hand.do(do.WriteStop(" "))


def test_where_something_was_hit_the_next_piece_is_gauged_whole() -> None:
    from ditto_run.core.run.due import due_pieces, due_sizes

    hand = proven()
    hand.do(do.GaugeEvery(1, 50), do.GaugeEvery(2, 50))
    hand.do(do.StartCycle(), do.EndCycle())
    assert due_pieces(hand.state) == []
    hand.do(do.WriteStop("the tap broke", hit=True), do.StartCycle(), do.EndCycle())
    assert due_pieces(hand.state) == [3]
    assert len(due_sizes(hand.state, hand.state.pieces[3])) == 2
