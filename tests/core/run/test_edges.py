"""Where a decision of Run turns: one case on each side of it."""

from dataclasses import replace
from datetime import timedelta
from decimal import Decimal as D

import pytest

from ditto_run.core.edits import SetCharacteristic, SetHeading, SetSetup, SetStation, apply_edit
from ditto_run.core.errors import BadEntry, NeedsAnswer, NotNow
from ditto_run.core.place.offsets import Offset
from ditto_run.core.run import events as do
from ditto_run.core.run.at_machine import often_words, plan_words
from ditto_run.core.run.board import board
from ditto_run.core.run.events.adjustment import Adjustment, move_of, register_change
from ditto_run.core.run.events.base import Now
from ditto_run.core.run.events.undo import _require_reads
from ditto_run.core.run.moved import moved_since_proof
from ditto_run.core.run.outlook import pace
from ditto_run.core.run.short_entry import doubt_about_reading, full_entry
from ditto_run.core.run.strip import changed_marks, frame
from ditto_run.core.sizes import read_size
from tests.conftest import MILL, MORNING, SHOP, CoreHand, planned


def one_by_one(quantity: int, *edits) -> CoreHand:
    """A run of one piece a load, its first piece accepted."""
    return CoreHand(planned(quantity, *edits, stations="A")).proven()


def gauge(hand: CoreHand, piece: int, slot: str = "20.0", height: str = "31.5") -> CoreHand:
    hand.do(do.TakeReading(piece, 1, slot, confirm=slot), do.TakeReading(piece, 2, height))
    return hand


# The clock


def test_a_second_load_waits_for_the_end_of_the_first() -> None:
    hand = one_by_one(3)
    hand.do(do.StartCycle())
    with pytest.raises(NotNow, match="Load 2 is cutting") as refused:
        hand.do(do.StartCycle())
    assert refused.value.remedy == "End it first."
    body = hand.log[-1].body
    assert isinstance(body, do.CycleStarted)
    assert (body.load, body.cycle, body.machine) == (2, 1, 1)


def test_the_pieces_that_are_cut_now_have_the_later_setups_before_them() -> None:
    hand = one_by_one(4, SetSetup("second side", 1, "vise", handling="60"))
    key = hand.state.plan.setups[1].key
    hand.plans[1] = apply_edit(SetStation(key, "B", "vise", "G58"), hand.plans[1], SHOP).plan
    later = hand.state.plan.cycle(key, 1).load_to_load_s
    before = pace(hand.state, hand.at)
    hand.do(do.StartCycle())
    during = pace(hand.state, hand.at)
    gap = hand.state.plan.cycle(hand.state.setup, 1).load_to_load_s
    assert (before.finish - hand.at + timedelta(minutes=1)).total_seconds() == pytest.approx(
        before.left.likely_s + 4 * later
    )
    assert during.setups_to_come == 1
    assert (during.finish - hand.at).total_seconds() == pytest.approx(
        during.left.likely_s + during.planned_cycle_s + 4 * later
    )
    assert gap > 0


# Readings


def test_a_reading_of_a_held_piece_says_that_it_is_a_second_look() -> None:
    hand = one_by_one(3)
    hand.load("20.031")
    hand.do(do.TakeReading(2, 1, "20.029"))
    assert [line.body.recheck for line in hand.log if isinstance(line.body, do.Reading)] == [
        False,
        False,
        False,
        True,
    ]


def test_a_hold_for_another_reason_is_not_the_readings_doing() -> None:
    hand = one_by_one(3)
    hand.load()
    hand.do(do.HoldPieces("2", "a burr"), do.TakeReading(2, 1, "20.0"))
    assert [g.made_held for g in hand.state.gaugings.values()] == [False, False, False]
    hand.do(do.TakeReading(2, 1, "20.05", confirm="20.05"))
    assert [g.made_held for g in hand.state.gaugings.values()][-1]


def test_of_two_ways_to_read_a_comma_the_one_that_can_be_meant_is_taken() -> None:
    plan = apply_edit(SetCharacteristic("bore", "12 H7", number=1), planned(3, stations="A"), SHOP).plan
    hand = CoreHand(plan)
    hand.load()
    hand.do(do.TakeReading(1, 1, "12,012"))
    assert hand.state.pieces[1].last(hand.state.setup, 1).value == D("12.012")


def test_an_earlier_reading_is_corrected_and_the_later_one_still_counts() -> None:
    hand = one_by_one(3)
    hand.load("20.05")
    first = max(hand.state.gaugings)
    hand.do(do.TakeReading(2, 1, "20.0"))
    assert hand.state.pieces[2].standing != "held"
    hand.do(do.CorrectReading(first, "20.06", "misread"))
    assert hand.state.pieces[2].last(hand.state.setup, 1).value == D("20.0")
    assert (hand.state.pieces[2].out, hand.state.pieces[2].standing) == ([], "not gauged")


@pytest.mark.parametrize(
    ("typed", "hint"),
    [
        ("200", "about 10 times"),
        ("2.0", "about a tenth"),
        ("508", "about 25.4 times"),
        ("0.7874", "about 1/25.4"),
    ],
)
def test_a_reading_far_off_is_asked_about_with_what_it_may_be(typed: str, hint: str) -> None:
    asked = doubt_about_reading(D(typed), None, read_size("20 ±0.03", "mm"))
    assert isinstance(asked, NeedsAnswer)
    assert hint in asked.problem


@pytest.mark.parametrize(
    ("size", "value", "doubted"),
    [
        ("20", "22", False),  # a tenth of it, no more
        ("20", "22.001", True),
        ("20", "18", False),
        ("20 ±0.03", "20.12", False),  # twice the tolerance
        ("20 ±0.03", "20.121", True),
        ("1.6 max", "4.8", False),  # three times the limit
        ("1.6 max", "4.801", True),
        ("1.6 max", "0.001", False),
        ("3 min", "1", False),
        ("3 min", "0.999", True),
        ("3 min", "500", False),
    ],
)
def test_how_far_is_too_far(size: str, value: str, doubted: bool) -> None:
    assert (doubt_about_reading(D(value), None, read_size(size, "mm")) is not None) == doubted


@pytest.mark.parametrize(("typed", "whole"), [("03", "20.03"), ("09", "20.09"), ("10", None), ("14", None)])
def test_last_digits_are_completed_up_to_one_tolerance_outside(typed: str, whole: str | None) -> None:
    size = read_size("20 ±0.03", "mm")
    if whole is None:
        with pytest.raises(NeedsAnswer):
            full_entry(typed, D("20.01"), 2, size)
    else:
        assert full_entry(typed, D("20.01"), 2, size) == whole


# What is said


def test_held_and_to_be_reworked_both_wait_for_a_decision() -> None:
    hand = one_by_one(3)
    hand.load("20.05")
    hand.load("20.05")
    gauge(hand, 3, "20.05")
    hand.do(do.Dispose(3, "rework", "again"))
    assert (hand.state.counts["held"], hand.state.counts["rework"]) == (1, 1)
    assert board(hand.state, hand.at).call.next == "decide"


def test_a_start_names_no_piece_of_its_own() -> None:
    call = board(one_by_one(3).state, MORNING).call
    assert (call.next, call.piece, call.station) == ("start", 0, "A")


def test_the_jaws_show_what_was_measured_where_nothing_is_asked() -> None:
    hand = gauge(one_by_one(2), 1)
    hand.do(do.AddNote("quiet"))
    hand.load()
    gauge(hand, 2, "20.01", "31.52")
    hand.do(do.Dispose(2, "spare", ""))
    picture = board(hand.state, hand.at, piece=2).jaws
    assert picture is not None
    assert (picture.characteristic.number, picture.value) == (1, D("20.01"))


@pytest.mark.parametrize(("loads", "words"), [(1, "every load"), (2, "first, last and every 2 loads")])
def test_how_often_in_words(loads: int, words: str) -> None:
    assert often_words(loads) == words


def test_spares_that_were_agreed_are_said_at_the_machine() -> None:
    plan = apply_edit(SetHeading("Block", 6, spares=2), planned(6), SHOP).plan
    assert ("Spares agreed", "2") in plan_words(CoreHand(plan).state)
    assert "Spares agreed" not in dict(plan_words(CoreHand(planned(6)).state))


def test_one_piece_that_lacks_its_reading_or_its_heat_is_one() -> None:
    hand = one_by_one(2)
    hand.load()
    with pytest.raises(NotNow, match=r"^Piece 2 is not gauged\."):
        hand.do(do.CloseRun(short=True))
    heading = SetHeading("Hook", 2, lifts=True, heat="H-1; H-2", approved_by="the engineer")
    plan = apply_edit(heading, planned(2, stations="A"), SHOP).plan
    both = CoreHand(plan).proven()
    both.load()
    gauge(both, 2)
    with pytest.raises(NotNow, match="the heat that pieces 1-2 are of"):
        both.do(do.CloseRun())


def test_a_reworked_piece_is_good_in_the_strips_sentence() -> None:
    hand = one_by_one(3)
    hand.load("20.05")
    hand.do(do.Dispose(2, "rework", "again"))
    gauge(hand, 2)
    assert hand.state.counts["reworked"] == 1
    assert "2 good" in board(hand.state, hand.at).strip.words


def test_a_mark_on_the_master_itself_says_no_distance() -> None:
    hand = one_by_one(3)
    hand.load()
    gauge(hand, 2, "20.004", "31.502")
    marks = board(hand.state, hand.at).strip.marks
    assert marks["A", 2].name == "Piece 2, station A, load 2, 1 slot 20.004 mm"


# The strip


def test_a_long_run_shows_the_loads_about_the_last_one() -> None:
    hand = one_by_one(300)
    hand.do(do.EnterLoads(99))
    _, shown, made, last = frame(hand.state)
    assert (made, last, shown) == (100, 300, range(84, 104))
    assert frame(hand.state, 250)[1] == range(250, 270)
    assert frame(hand.state, 299)[1] == range(281, 301)
    assert frame(hand.state, -5)[1] == range(1, 21)


def test_only_marks_that_a_later_line_touched_are_sent() -> None:
    hand = one_by_one(4)
    hand.load("20.0")
    seq = hand.state.seq
    assert changed_marks(hand.state, seq, []) == {}
    hand.do(do.TakeReading(2, 2, "31.5"))
    assert {mark.piece for mark in changed_marks(hand.state, seq, []).values()} == {2}
    assert changed_marks(hand.state, hand.state.seq, []) == {}


# A size given to another setup


def test_a_size_given_to_a_setup_is_wanted_of_the_pieces_that_went_through_it() -> None:
    hand = one_by_one(3, SetSetup("second side", 1, "vise"))
    second = hand.state.plan.setups[1].key
    hand.do(do.GiveSize(2, second))
    assert not any(key == (second, 2) for p in hand.state.pieces.values() for key in p.unproven)
    hand.load("20.0")
    assert hand.state.pieces[2].unproven <= {(hand.state.setup, 1)}


# Offsets that move with a line


def now(at, **axes) -> Now:
    offset = Offset("G54", {name: D(value) for name, value in axes.items()}, at=at)
    return Now(at, "RK", machine=MILL, offsets={"G54": offset})


def test_an_adjustment_moves_the_axis_it_names_and_nothing_else() -> None:
    at = now(MORNING, x="10", z="-100")
    moved = move_of("G54 Z", D("0.02"), "mm", at)
    assert (moved.code, moved.axis, moved.before, moved.after) == ("G54", "z", D(-100), D("-99.980"))
    for what in ("G54 Y", "G55 Z", "T03 wear", "G54"):
        assert move_of(what, D("0.02"), "mm", at) is None
    assert move_of("G54 Z", D("0.02"), "mm", Now(MORNING, "RK")) is None
    kept = replace(at.offsets["G54"], kept=True, name="base")
    with pytest.raises(BadEntry, match="kept as “base”"):
        move_of("G54 Z", D(1), "mm", replace(at, offsets={"G54": kept}))


def test_an_undone_adjustment_writes_what_the_register_read_before() -> None:
    moved = move_of("G54 Z", D("0.02"), "mm", now(MORNING, z="-100"))
    body = Adjustment(3, "G54 Z", D("0.02"), "mm", "", moved)
    assert register_change(body).axes == {"z": D("-99.980")}
    assert register_change(body, back=True).axes == {"z": D(-100)}
    assert register_change(replace(body, moved=None)) is None


def test_an_adjustment_is_undone_only_while_the_register_reads_what_it_wrote() -> None:
    moved = move_of("G54 Z", D("0.02"), "mm", now(MORNING, z="-100"))
    body = Adjustment(3, "G54 Z", D("0.02"), "mm", "", moved)
    _require_reads(body, now(MORNING, z="-99.98"), back=True)
    _require_reads(body, now(MORNING, z="-100"), back=False)
    for at, words in (
        (now(MORNING, z="-99.5"), "it reads"),
        (now(MORNING, x="1"), "it is not set"),
        (Now(MORNING, "RK"), "it is not set"),
        (replace(now(MORNING, z="-99.98"), machine=replace(MILL, id=7)), "it is not set"),
    ):
        with pytest.raises(NotNow, match=words):
            _require_reads(body, at, back=True)


def test_a_line_that_kept_no_reading_of_the_register_is_undone_unless_it_would_move_it() -> None:
    old = Adjustment(3, "G54 Z", D("0.02"), "mm")
    _require_reads(old, now(MORNING, x="1"), back=True)
    _require_reads(old, now(MORNING, z="-100"), back=False)
    with pytest.raises(NotNow, match="before a line kept"):
        _require_reads(old, now(MORNING, z="-100"), back=True)


def test_an_offset_set_again_after_the_proof_wants_a_look_until_a_later_piece_is_gauged() -> None:
    hand = one_by_one(5)
    proven = hand.state.here.proven_at

    def looks(at, how: str = "found again") -> list[str]:
        return [one.label for one in moved_since_proof(hand.state, {"G54": Offset("G54", at=at, how=how)})]

    assert looks(proven) == []
    assert looks(proven + timedelta(seconds=1)) == ["A"]
    assert looks(proven + timedelta(seconds=1), "on Run: G54 Z") == []
    assert moved_since_proof(hand.state, {"G54": Offset("G54")}) == ()
    hand.load("20.0")
    began = hand.state.here.loads[-1].started_at
    assert looks(began - timedelta(seconds=1)) == []
    assert looks(began) == ["A"]  # set as it began: nobody knows which came first
