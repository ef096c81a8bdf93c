"""Counts of a batch: what adds up, what the count by hand says, where a difference may be."""

import pytest

from ditto_run.core.close.counts import count_lines, counted_by_hand, left_to_do, likely_places
from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.run import events as do
from tests.conftest import CoreHand, planned
from tests.core.run.test_cycles import two_parts


def all_gauged(quantity: int = 6, stations: str = "ABC") -> CoreHand:
    hand = CoreHand(planned(quantity, stations=stations))
    while len(hand.state.pieces) < quantity:
        hand.do(do.StartCycle(), do.EndCycle())
        for piece in hand.state.here.loads[-1].pieces:
            hand.do(do.TakeReading(piece, 1, "20.001", confirm="20.001"), do.TakeReading(piece, 2, "31.5"))
        if not hand.state.here.masters:
            hand.do(do.AcceptMaster(1))
    return hand


def test_every_piece_is_somewhere_and_nowhere_twice() -> None:
    hand = all_gauged()
    hand.do(do.HoldPieces("2", "dropped"), do.Dispose(3, "scrap", "dented"), do.Dispose(4, "lost", "gone"))
    (line,) = count_lines(hand.state)
    assert (line.begun, line.good, line.left, line.waits) == (6, 3, (1, 0, 0, 1), 1)
    assert line.adds_up


def test_parts_and_heats_are_counted_by_themselves_and_add_up_to_all() -> None:
    hand = CoreHand(two_parts())
    hand.do(do.StartCycle(), do.EndCycle(), do.AddNote("chips"))
    lines = {line.name: line for line in count_lines(hand.state)}
    whole = lines.pop("")
    assert whole.begun == 2
    assert sum(line.begun for line in lines.values()) == whole.begun
    assert all(line.adds_up for line in lines.values())
    assert len(lines) == 2


def test_the_count_by_hand_is_held_to_the_log_as_it_is_now() -> None:
    hand = all_gauged()
    assert counted_by_hand(hand.state) == ""
    hand.do(do.CountTray("5"))
    assert counted_by_hand(hand.state) == "Counted by hand: 5, 1 fewer than the log says."
    assert likely_places(hand.state)[-1].startswith("The scrap bin")
    hand.do(do.Dispose(6, "lost", "not in the tray"))
    assert counted_by_hand(hand.state) == "Counted by hand: 5, as the log says."
    assert likely_places(hand.state) == ()
    hand.do(do.Undo())
    assert likely_places(hand.state)


def test_what_is_out_is_not_counted_here_and_named_where_pieces_are_missing() -> None:
    hand = all_gauged()
    hand.do(do.SendOut("anodise", "the plater", "4"), do.CountTray("1"))
    assert counted_by_hand(hand.state) == "Counted by hand: 1, 1 fewer than the log says."
    assert likely_places(hand.state)[0].startswith("4 pieces out for work done elsewhere")
    hand.do(do.CountTray("3"))
    assert (
        likely_places(hand.state)[0]
        == "4 pieces out for work done elsewhere: some came back and were not counted in."
    )


def test_more_than_the_log_says_may_be_scrap_among_the_good() -> None:
    hand = all_gauged()
    hand.do(do.Dispose(3, "scrap", "dented"), do.CountTray("6"))
    assert likely_places(hand.state)[0] == "Scrap among the good: 3."


@pytest.mark.parametrize("typed", ["", "some", "-1", "1.5", "2000000"])
def test_a_count_that_cannot_be_is_said_at_its_field(typed: str) -> None:
    hand = all_gauged()
    with pytest.raises(BadEntry) as refused:
        hand.do(do.CountTray(typed))
    assert refused.value.field == "pieces"
    assert hand.state.tray is None


def test_nobody_counts_while_a_load_is_cut() -> None:
    hand = CoreHand(planned(9))
    hand.do(do.StartCycle())
    with pytest.raises(NotNow):
        hand.do(do.CountTray("0"))


def test_what_is_left_is_said_until_all_of_it_is_done() -> None:
    hand = all_gauged(6)
    hand.do(do.HoldPieces("2", "dropped"))
    said = left_to_do(hand.state, ["4 caps short for 24 sets."])
    assert said[0] == "Decide on 2."
    assert said[-1] == "Close the batch."
    assert "4 caps short for 24 sets." in said
    hand.do(do.Dispose(2, "scrap", "dented"))
    (missing, *_) = left_to_do(hand.state)
    assert missing.startswith("1 missing to 6; 1 to begin: 1 load of first side")
    assert missing.endswith("1 blank.")
    hand.do(do.SendOut("anodise", "the plater", "5", "2026-12-04"), do.CloseRun(short=True))
    assert left_to_do(hand.state) == ("5 pieces not back from the plater, promised for 2026-12-04.",)
    hand.do(do.ComeBack(hand.state.trips[0].number, "5"))
    assert left_to_do(hand.state) == ()


def test_a_closed_batch_is_opened_again_with_the_reason_and_closed_again() -> None:
    hand = all_gauged(6)
    with pytest.raises(NotNow, match="open"):
        hand.do(do.ReopenRun("why not"))
    hand.do(do.CloseRun())
    with pytest.raises(BadEntry):
        hand.do(do.ReopenRun("  "))
    hand.do(do.ReopenRun("two more wanted"))
    assert hand.state.closed_at is None
    assert do.sentence(hand.log[-1].body, hand.state, 0) == "The batch is open again: two more wanted."
    hand.do(do.CloseRun())
    assert hand.state.closed_at is not None
    hand.state.grandfathered = True
    with pytest.raises(NotNow, match="counted good"):
        hand.do(do.ReopenRun("two more wanted"))
