"""What the Run page says, and where the marks stand."""

from datetime import timedelta

import pytest

from ditto_run.core.edits import SetHeading, SetStation, apply_edit
from ditto_run.core.run import events as do
from ditto_run.core.run.board import board
from ditto_run.core.run.due import due_pieces
from ditto_run.core.run.loads import next_load
from ditto_run.core.run.strip import ALL_SHOWN, WINDOW, build, changed_marks, weave, weave_chunks
from tests.conftest import SHOP, CoreHand, planned


def said(hand: CoreHand) -> tuple[str, str]:
    call = board(hand.state, hand.at).call
    return call.next, call.say


def test_the_call_leads_through_the_first_piece(hand: CoreHand) -> None:
    assert said(hand) == ("start", "Load A, B, C, then start load 1.")
    hand.do(do.StartCycle())
    assert said(hand)[0] == "end"
    hand.do(do.EndCycle())
    assert said(hand) == ("gauge", "Gauge the slot on piece 1.")
    hand.do(do.TakeReading(1, 1, "20.0"))
    assert said(hand) == ("gauge", "Gauge the height on piece 1.")
    hand.do(do.TakeReading(1, 2, "31.5"))
    assert said(hand) == ("accept", "Accept piece 1 as the master?")
    hand.do(do.AcceptMaster(1))
    assert said(hand) == ("gauge", "Gauge the slot on piece 2.")


def test_the_call_ends_with_closing() -> None:
    hand = CoreHand(planned(3)).proven()
    for piece in (2, 3):
        hand.do(do.TakeReading(piece, 1, "20.0"), do.TakeReading(piece, 2, "31.5"))
    assert said(hand) == ("close", "All 3 of 3 are good. Close the batch.")
    hand.do(do.CloseRun())
    assert said(hand)[0] == "closed"


def test_an_outside_piece_is_decided_on_before_the_next_load(hand: CoreHand) -> None:
    hand.proven()
    hand.do(
        do.TakeReading(2, 1, "20.05"),
        do.TakeReading(2, 2, "31.5"),
        do.TakeReading(3, 1, "20.0"),
        do.TakeReading(3, 2, "31.5"),
    )
    assert said(hand) == ("decide", "Decide on piece 2.")
    assert board(hand.state, hand.at).held[0].why == "2 at B: slot 20 µm over the upper limit"


@pytest.mark.parametrize(("every", "due"), [(1, [7, 8, 9]), (2, [7, 8, 9]), (3, [])])
def test_pieces_are_asked_for_every_so_many_loads(every: int, due: list[int]) -> None:
    plan = planned(30)
    plan = apply_edit(SetHeading("x", 30, gauge_every=every), plan, SHOP).plan
    hand = CoreHand(plan).proven()
    hand.load()
    hand.load()
    expected = due if every != 3 else [2, 3]
    assert due_pieces(hand.state) == expected


def test_the_first_load_after_a_change_is_gauged_at_the_station_it_touches() -> None:
    plan = apply_edit(SetHeading("x", 30, gauge_every=10), planned(30), SHOP).plan
    hand = CoreHand(plan).proven()
    for piece in (2, 3):
        hand.do(do.TakeReading(piece, 1, "20.0"), do.TakeReading(piece, 2, "31.5"))
    hand.load()
    assert due_pieces(hand.state) == []
    hand.do(do.Adjust("G55 Z", "-0.02", station="B"))
    hand.load()
    assert due_pieces(hand.state) == [8]


def test_marks_tell_master_ditto_slip_dash_and_what_is_to_come(hand: CoreHand) -> None:
    hand.proven()
    hand.load("20.005", "20.021", "")
    hand.do(do.StartCycle())
    strip = build(hand.state)
    shapes = {cell: mark.shape for cell, mark in strip.marks.items()}

    assert shapes["A", 1] == "master"
    assert (shapes["A", 2], shapes["B", 2], shapes["C", 2]) == ("ditto", "slip", "dash")
    assert shapes["A", 3] == "cutting"
    assert shapes["A", 4] == "come"
    assert strip.marks["B", 2].digit == 1
    assert (
        strip.marks["B", 2].name == "Piece 5, station B, load 2, 1 slot 20.021 mm, 17 microns over the master"
    )
    assert "3 of 4 loads begun" in strip.words


def test_the_mark_shows_the_worst_dimension(hand: CoreHand) -> None:
    hand.proven()
    hand.do(do.TakeReading(2, 1, "20.010"), do.TakeReading(2, 2, "31.46"))
    mark = build(hand.state).marks["B", 1]

    assert (mark.digit, round(mark.slip, 3)) == (2, -0.808)  # 42 µm of the 52 below the master


def test_notches_and_breaks_stand_before_their_load(hand: CoreHand) -> None:
    hand.proven()
    hand.do(do.Adjust("G55 Z", "0.01", station="B"), do.MarkBreak("bar 2"))
    changes = build(hand.state).changes

    assert [(c.load, c.kind, c.lanes) for c in changes] == [
        (2, "notch", ("B",)),
        (2, "break", ("A", "B", "C")),
    ]


def test_a_long_run_shows_a_window_and_the_whole_as_a_weave() -> None:
    hand = CoreHand(planned(300)).proven()
    hand.do(do.EnterLoads(80))
    strip = build(hand.state)

    assert strip.last > ALL_SHOWN
    assert len(strip.loads) == WINDOW
    assert 81 in strip.loads
    assert build(hand.state, first=1).loads[0] == 1
    chunks = weave_chunks(strip.last)
    assert sum(len(chunk) for chunk in chunks) == strip.last
    assert sum(len(marks) for chunk in chunks for marks in weave(hand.state, chunk).values()) == 243


def test_one_reading_changes_few_marks(hand: CoreHand) -> None:
    hand.proven()
    hand.load()
    before = hand.state.seq
    hand.do(do.TakeReading(5, 1, "20.0"))
    cells = set(changed_marks(hand.state, before, []))

    assert ("B", 2) in cells
    assert all(load == 2 for _, load in cells)


def test_pace_and_finish_come_from_the_loads(hand: CoreHand) -> None:
    hand.proven()
    pace = board(hand.state, hand.at).pace
    assert not pace.left.measured
    assert pace.planned_cycle_s == 200
    hand.load()
    hand.load()
    hand.do(do.StartCycle())
    later = board(hand.state, hand.at + timedelta(seconds=30)).pace
    assert later.left.measured
    assert later.earliest <= later.finish <= later.latest


def test_several_pieces_in_a_station_have_a_lane_each() -> None:
    hand = CoreHand(planned(8, stations="P", pieces=4))
    hand.load("20")
    assert build(hand.state).lanes == ("P1", "P2", "P3", "P4")


def test_labels_with_digits_keep_their_lanes() -> None:
    """Station V1 with two places is V11 and V12, and its dots to come stand in them."""
    plan = planned(8, stations="")
    key = plan.setups[0].key
    for label, code in (("V1", "G54"), ("V2", "G55")):
        plan = apply_edit(
            SetStation(key, label, "vise", code, pieces=2 if label == "V1" else 1), plan, SHOP
        ).plan
    hand = CoreHand(plan).proven()
    hand.do(do.Adjust("G54 Z", "0.01", station="V1"))
    strip = build(hand.state)

    assert strip.lanes == ("V11", "V12", "V2")
    assert {lane for lane, load in strip.marks if load == 2} == {"V11", "V12", "V2"}
    assert strip.changes[0].lanes == ("V11", "V12")
    assert next_load(hand.state)[0].pieces == (4, 5)
