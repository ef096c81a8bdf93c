"""What Run asks for, what it says of a held piece, what the strip shows: one case on each side of each decision."""

from datetime import timedelta
from decimal import Decimal as D

import pytest

from ditto_run.core.edits import SetCharacteristic, SetSetup, SetStation, apply_edit
from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.run import events as do
from ditto_run.core.run.board import board, held_groups, jaws
from ditto_run.core.run.due import due_pieces
from ditto_run.core.run.effects import next_load_number, seconds_between
from ditto_run.core.run.outlook import pace
from ditto_run.core.run.pace import time_left
from ditto_run.core.run.strip import build, changed_marks, frame, lane_name
from ditto_run.core.run.verdict import is_quiet
from ditto_run.core.run.words import stations_text
from ditto_run.core.sizes import read_size
from tests.conftest import MORNING, SHOP, CoreHand, planned


def single(quantity: int, *edits) -> CoreHand:
    """A run of one piece a load, its first piece accepted."""
    return CoreHand(planned(quantity, *edits, stations="A")).proven()


def in_second_setup() -> CoreHand:
    """Three pieces through the first setup, one of them through the second, which is being run."""
    plan = planned(3, SetSetup("second side", 1, "vise"), stations="A")
    key = plan.setups[1].key
    for edit in (SetStation(key, "B", "vise", "G58"), SetCharacteristic("step", "5 ±0.1 mm", made_in=key)):
        plan = apply_edit(edit, plan, SHOP).plan
    hand = CoreHand(plan).proven()
    for size in ("20.001", "20.002"):
        hand.load(size)
        hand.do(do.TakeReading(hand.state.here.loads[-1].pieces[0], 2, "31.5"))
    hand.do(do.OpenSetup(key), do.StartCycle(), do.EndCycle())
    return hand


# Held


def test_a_piece_held_beside_a_bad_one_says_which_size() -> None:
    hand = single(4)
    hand.load("")
    hand.load("20.05")
    groups = {group.pieces: group.why for group in held_groups(hand.state)}
    assert groups[2,] == "not gauged beside a piece with slot out of limits; gauge to release"
    assert groups[3,].startswith("3 at A: slot ")


def test_one_held_and_one_to_be_reworked_both_stand_among_the_held() -> None:
    hand = single(4)
    hand.load("20.05")
    hand.load("20.05")
    hand.do(do.Dispose(2, "rework", "again"))
    assert (hand.state.counts["held"], hand.state.counts["rework"]) == (1, 1)
    assert {group.pieces for group in held_groups(hand.state)} == {(2,), (3,)}


def test_a_batch_whose_last_pieces_are_held_and_in_rework_waits_for_them() -> None:
    hand = single(3)
    hand.load("20.05")
    hand.load("20.05")
    hand.do(do.TakeReading(3, 2, "31.5"), do.Dispose(2, "rework", "again"))
    assert not due_pieces(hand.state)
    assert board(hand.state, hand.at).call.next == "decide"


# The call


def test_the_call_counts_what_is_to_be_gauged_while_a_load_is_cutting() -> None:
    hand = single(4)
    hand.do(do.StartCycle())
    call = board(hand.state, hand.at).call
    assert (call.next, call.why) == ("end", "Piece 2. Nothing to gauge.")


def test_a_piece_of_the_setup_before_is_shown_where_it_was_made() -> None:
    hand = in_second_setup()
    assert hand.state.cycle not in hand.state.pieces[3].made
    shown = board(hand.state, hand.at, 3)
    slot = hand.state.plan.characteristics[0]
    picture = jaws(hand.state, hand.state.pieces[3], slot, D("20.002"), 3)
    assert (picture.station, [number for number, _ in picture.earlier]) == ("A", [1, 2])
    assert [line.characteristic.name for line in shown.lines] == ["slot", "height"]


def test_a_size_that_is_due_is_asked_for_before_one_that_is_only_missing() -> None:
    hand = CoreHand(planned(9, SetCharacteristic("hole", "6 ±0.1 mm"), stations="A"))
    hand.proven()
    hand.do(do.GaugeEvery(1, 5))
    hand.load("")
    asked = board(hand.state, hand.at, 2).asked
    assert asked is not None
    assert asked.name == "height"


def test_the_jaws_show_the_last_three_readings_before() -> None:
    hand = single(9)
    for size in ("20.001", "20.002", "20.003", "20.004", "20.005"):
        hand.load(size)
    slot = hand.state.plan.characteristics[0]
    picture = jaws(hand.state, hand.state.pieces[6], slot, D("20.005"), 3)
    assert [value for _, value in picture.earlier] == [D("20.002"), D("20.003"), D("20.004")]


def test_what_was_never_gauged_is_named_before_closing() -> None:
    hand = single(3)
    hand.do(do.GaugeEvery(1, 9), do.GaugeEvery(2, 9))
    hand.load("")
    hand.load("")
    assert hand.state.counts["not gauged"] == 2
    board_now = board(hand.state, hand.at)
    assert board_now.not_gauged == (2, 3)


# Changes and time


def test_a_change_before_the_first_load_is_before_load_one() -> None:
    hand = CoreHand(planned(3, stations="A"))
    assert next_load_number(hand.state.here) == 1
    hand.do(do.Adjust("G54 Z", "0.01", "mm"))
    assert [change.load for change in hand.state.here.changes] == [1]
    hand.load("20.0")
    assert next_load_number(hand.state.here) == 2


def test_no_time_is_a_time_and_a_clock_set_back_is_none() -> None:
    assert seconds_between(MORNING, MORNING) == 0.0
    assert seconds_between(MORNING, MORNING + timedelta(seconds=0.5)) == 0.5
    assert seconds_between(MORNING, MORNING - timedelta(seconds=0.5)) is None


def test_what_is_left_counts_loads_not_pieces() -> None:
    hand = CoreHand(planned(9)).proven()  # three stations, one load made
    found = pace(hand.state, hand.at)
    gap = hand.state.plan.times(hand.state.cycle, 3).load_to_load_s
    assert found.left.likely_s == pytest.approx(time_left(hand.state.here.gaps_s, 2.0, gap).likely_s)
    assert found.setups_to_come == 0


def test_a_change_of_an_earlier_load_asks_for_nothing_now() -> None:
    hand = single(12)
    hand.do(do.GaugeEvery(1, 9), do.GaugeEvery(2, 9))
    hand.do(do.Adjust("G54 Z", "0.01", "mm"))
    hand.load("")
    assert due_pieces(hand.state) == [2]
    hand.do(do.TakeReading(2, 1, "20.0"), do.TakeReading(2, 2, "31.5"))
    hand.load("")
    assert due_pieces(hand.state) == []


def test_one_missing_piece_is_enough_to_ask_before_closing() -> None:
    hand = single(2)
    with pytest.raises(NotNow, match="1 piece is missing to 2"):
        hand.do(do.CloseRun())


# Undo and redo


def test_a_note_between_undo_and_redo_changes_nothing_and_a_reading_does() -> None:
    hand = single(4)
    hand.load("20.001")
    hand.do(do.Undo(), do.AddNote("coffee"), do.Redo())
    assert hand.state.pieces[2].last(hand.state.cycle, 1) is not None
    with pytest.raises(NotNow, match="nothing to redo"):
        hand.do(do.Redo())
    hand.do(do.Undo(), do.TakeReading(2, 2, "31.5"))
    with pytest.raises(NotNow, match="nothing to redo"):
        hand.do(do.Redo())


# The strip


def test_a_ditto_bears_no_digit_and_a_slip_that_of_its_size() -> None:
    hand = single(4)
    hand.load("20.004")
    hand.load("20.025")
    marks = build(hand.state).marks
    assert (marks["A", 2].shape, marks["A", 2].digit) == ("ditto", 0)
    assert (marks["A", 3].shape, marks["A", 3].digit) == ("slip", 1)


def test_places_in_a_station_are_lanes_of_their_own_from_two_on() -> None:
    for pieces, name in ((1, "A"), (2, "A1")):
        hand = CoreHand(planned(4, stations="A", pieces=pieces))
        assert lane_name(hand.state.here, "A", 1) == name


def test_one_station_has_a_column_for_every_piece() -> None:
    assert frame(single(9).state)[3] == 9


@pytest.mark.parametrize(("quantity", "columns"), [(74, 74), (75, 20)])
def test_a_run_of_more_loads_than_fit_is_shown_as_a_window(quantity: int, columns: int) -> None:
    assert len(frame(single(quantity).state)[1]) == columns


def test_a_change_before_the_next_load_is_a_notch_there() -> None:
    hand = single(30)
    hand.load("20.0")
    hand.do(do.Adjust("G54 Z", "0.01", "mm"))
    assert [notch.load for notch in build(hand.state).changes] == [3]


def test_marks_of_what_is_due_are_sent_with_the_brass_corners() -> None:
    hand = single(9)
    hand.load("")
    found = changed_marks(hand.state, hand.state.seq, due_pieces(hand.state))
    assert {place for place, mark in found.items() if mark.due} == {("A", 2)}
    assert changed_marks(hand.state, hand.state.seq, [99]) == {}


# Words and sizes


def test_three_in_a_row_are_named_and_four_are_a_range() -> None:
    assert stations_text(["LA", "LB", "LC"]) == "LA, LB, LC"
    assert stations_text(["LA", "LB", "LC", "LD"]) == "LA to LD"


@pytest.mark.parametrize(("value", "quiet"), [("4.9", True), ("4.7", True), ("4.6", False)])
def test_a_size_with_one_limit_repeats_the_master_within_a_third_of_that_side(
    value: str, *, quiet: bool
) -> None:
    assert is_quiet(D(value), D("4.85"), read_size("5.3 max", "mm")) is quiet


def test_a_reason_is_cut_to_what_a_line_holds() -> None:
    hand = single(4)
    hand.load("20.05")
    hand.do(do.Dispose(2, "scrap", "x" * 501))
    body = hand.log[-1].body
    assert isinstance(body, do.Disposition)
    assert len(body.reason) == 500
    with pytest.raises(BadEntry):
        hand.do(do.Dispose(2, "scrap", "  "))
