"""Good means gauged and inside, or between two good checks of its station no farther apart than was said."""

import pytest

from ditto_run.core.edits import SetHeading, apply_edit
from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.run import events as do
from ditto_run.core.run.board import board
from ditto_run.core.run.due import due_pieces
from ditto_run.core.run.loads import finished
from tests.conftest import SHOP, CoreHand, planned

KEY = 3  # the setup of `planned`


def one_station(every: int, quantity: int = 30) -> CoreHand:
    """A run at one station whose slot and height are gauged every so many loads."""
    plan = planned(quantity, stations="A")
    plan = apply_edit(SetHeading("Pin", quantity, gauge_every=every), plan, SHOP).plan
    hand = CoreHand(plan)
    hand.load("20.0")
    hand.do(do.TakeReading(1, 2, "31.5"), do.AcceptMaster(1))
    return hand


def both(hand: CoreHand, piece: int, slot: str = "20.0") -> None:
    hand.do(do.TakeReading(piece, 1, slot, confirm=slot), do.TakeReading(piece, 2, "31.5"))


def standing(hand: CoreHand) -> list[str]:
    return [piece.standing for piece in hand.state.pieces.values()]


def test_pieces_between_two_good_checks_are_good_once_the_second_is_in() -> None:
    hand = one_station(3)
    for _ in range(3):
        hand.load()
    assert standing(hand) == ["good", "not gauged", "not gauged", "not gauged"]
    hand.do(do.TakeReading(4, 1, "20.0"))
    assert standing(hand) == ["good", "not gauged", "not gauged", "not gauged"]  # its height is not gauged
    hand.do(do.TakeReading(4, 2, "31.5"))
    assert standing(hand) == ["good"] * 4


@pytest.mark.parametrize(("gap", "covered"), [(3, True), (4, False)])
def test_checks_farther_apart_than_was_said_cover_nothing(gap: int, covered: bool) -> None:
    hand = one_station(3)
    for _ in range(gap):
        hand.load()
    both(hand, gap + 1)
    assert (standing(hand)[1] == "good") == covered


def test_a_bad_check_covers_nothing_and_a_corrected_one_does_again() -> None:
    hand = one_station(3)
    for _ in range(3):
        hand.load()
    both(hand, 4, "20.05")
    assert standing(hand) == ["good", "held", "held", "held"]
    line = next(event.seq for event in hand.log if getattr(event.body, "text", "") == "20.05")
    hand.do(do.CorrectReading(line, "20.005", "read the wrong line"))
    assert standing(hand) == ["good"] * 4


def test_a_check_between_that_turns_out_bad_takes_the_cover_away() -> None:
    hand = one_station(4)
    for _ in range(4):
        hand.load()
    both(hand, 5)
    assert standing(hand) == ["good"] * 5
    hand.do(do.TakeReading(3, 1, "20.06", confirm="20.06"))
    assert standing(hand) == ["good", "held", "held", "held", "good"]


def test_undo_of_the_check_takes_the_cover_away() -> None:
    hand = one_station(2)
    hand.load()
    hand.load()
    both(hand, 3)
    assert standing(hand) == ["good"] * 3
    hand.do(do.Undo())
    assert standing(hand) == ["good", "not gauged", "not gauged"]
    hand.do(do.Redo())
    assert standing(hand) == ["good"] * 3


def test_the_last_piece_is_asked_for_and_then_what_no_check_covers() -> None:
    hand = one_station(3, 6)
    for _ in range(5):
        hand.load()
    assert due_pieces(hand.state) == [4]
    both(hand, 4)
    assert due_pieces(hand.state) == [6, 5]
    both(hand, 6)
    assert (finished(hand.state), due_pieces(hand.state)) == (6, [])


def test_often_can_be_said_at_the_machine_and_covers_what_was_made() -> None:
    hand = one_station(2)
    for _ in range(4):
        hand.load()
    both(hand, 5)
    assert standing(hand)[1] == "not gauged"
    hand.do(do.GaugeEvery(1, 4), do.GaugeEvery(2, 4))
    assert standing(hand) == ["good"] * 5
    hand.do(do.GaugeEvery(1, 1))
    assert standing(hand)[1:4] == ["not gauged"] * 3
    with pytest.raises(BadEntry, match="1 to 1,000"):
        hand.do(do.GaugeEvery(1, 0))


def test_a_size_can_be_given_to_another_setup_and_excused_on_one_piece() -> None:
    from ditto_run.core.edits import SetSetup, SetStation

    plan = planned(2, SetSetup("second side", 1, "pallet"), stations="A")
    second = plan.setups[-1].key
    plan = apply_edit(SetStation(second, "P", "pallet", "G57"), plan, SHOP).plan
    hand = CoreHand(plan)
    hand.load("20.0")
    assert [c.name for c in hand.state.missing(hand.state.pieces[1])] == ["height"]
    hand.do(do.GiveSize(2, second))
    assert hand.state.missing(hand.state.pieces[1]) == []
    hand.do(do.AcceptMaster(1))
    assert standing(hand) == ["good"]
    assert (finished(hand.state), board(hand.state, hand.at).counts["this setup"]) == (0, 1)
    hand.load()
    with pytest.raises(NotNow, match="critical"):
        hand.do(do.Excuse(2, 1, "no slot on this one"))
    hand.do(do.TakeReading(2, 1, "20.0"), do.OpenSetup(second))
    assert hand.state.identity == "unstated"
    hand.load()
    hand.do(do.Excuse(1, 2, "the customer wants this one higher"))
    assert standing(hand)[0] == "good"
    assert finished(hand.state) == 1


def test_every_piece_of_a_part_with_a_consequence_is_gauged() -> None:
    plan = apply_edit(SetHeading("Hook", 6, lifts=True, gauge_every=5), planned(6, stations="A"), SHOP).plan
    hand = CoreHand(plan)
    hand.load("20.0")
    both(hand, 1)
    hand.do(do.AcceptMaster(1))
    for _ in range(5):
        hand.load()
    both(hand, 6)
    assert standing(hand)[1:5] == ["not gauged"] * 4
    for command in (do.TakeUngauged("2-5", "no time"), do.GaugeEvery(1, 5)):
        with pytest.raises(NotNow, match="lifts"):
            hand.do(command)
    with pytest.raises(NotNow, match="Pieces 2-5 are not gauged"):
        hand.do(do.CloseRun(short=True))


def test_pieces_of_a_later_setup_are_counted_when_they_went_through_all() -> None:
    from ditto_run.core.edits import SetSetup, SetStation

    plan = planned(2, SetSetup("second side", 1, "pallet"), stations="A")
    second = plan.setups[-1].key
    plan = apply_edit(SetStation(second, "P", "pallet", "G57"), plan, SHOP).plan
    hand = CoreHand(plan)
    for piece in (1, 2):
        hand.load()
        both(hand, piece)
        if piece == 1:
            hand.do(do.AcceptMaster(1))
    shown = board(hand.state, hand.at)
    assert (shown.counts["good"], shown.counts["this setup"], shown.call.next) == (0, 2, "open_setup")
    assert shown.pace.setups_to_come == 1
    with pytest.raises(NotNow, match="pieces wait for second side"):
        hand.do(do.StartCycle())
    hand.do(do.OpenSetup(second, "marked"))
    hand.load()
    hand.do(do.AcceptMaster(1))
    hand.load()
    assert (finished(hand.state), board(hand.state, hand.at).call.next) == (2, "close")


def test_a_check_covers_nothing_towards_one_that_was_out() -> None:
    """Whoever decides that a suspect is good has not gauged it: the good check beside it stands for the other side only."""
    hand = one_station(3)
    for _ in range(6):
        hand.load()
    both(hand, 4, "20.05")
    both(hand, 7)
    hand.do(do.Dispose(5, "good", "looked at it"))
    assert standing(hand)[3:6] == ["held", "not gauged", "held"]


def test_a_trial_piece_counts_as_nothing_else() -> None:
    hand = one_station(3)
    hand.load()
    both(hand, 2)
    hand.do(do.Dispose(2, "trial", "feeds tried"))
    assert standing(hand) == ["good", "trial"]
    assert finished(hand.state) == 1
