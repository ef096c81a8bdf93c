"""Where a decision of Run turns: one case on each side of it."""

from dataclasses import replace
from datetime import timedelta
from decimal import Decimal as D

import pytest

from ditto_run.core.edits import SetCharacteristic, SetHeading, SetSetup, SetStation, apply_edit
from ditto_run.core.errors import BadEntry, NeedsAnswer, NotFound, NotNow
from ditto_run.core.place.offsets import Offset
from ditto_run.core.run import Event, decide, extend
from ditto_run.core.run import events as do
from ditto_run.core.run.at_machine import often_words, plan_words
from ditto_run.core.run.board import _may_be_master, board
from ditto_run.core.run.due import due_pieces, due_sizes
from ditto_run.core.run.events.adjustment import Adjustment, move_of, register_change
from ditto_run.core.run.events.base import Now
from ditto_run.core.run.events.late import _clock_time
from ditto_run.core.run.events.undo import _require_reads
from ditto_run.core.run.forecast import ends_of
from ditto_run.core.run.loads import read_pieces
from ditto_run.core.run.moved import moved_since_proof
from ditto_run.core.run.outlook import counts, pace
from ditto_run.core.run.pace import time_left
from ditto_run.core.run.short_entry import doubt_about_reading, full_entry
from ditto_run.core.run.strip import build, changed_marks, frame, weave, worst
from ditto_run.core.run.verdict import slip
from ditto_run.core.run.words import stations_text
from ditto_run.core.shop.day import ShopDay
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
    later = hand.state.plan.times(key, 1).load_to_load_s
    for cut in (False, True):
        if cut:
            hand.do(do.StartCycle())
        found, alone = pace(hand.state, hand.at), ends_of(hand.state, hand.at, ShopDay())
        assert alone is not None
        assert found.setups_to_come == 1
        assert (found.finish - alone.likely).total_seconds() == pytest.approx(4 * later)


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
    assert hand.state.pieces[1].last(hand.state.cycle, 1).value == D("12.012")


def test_an_earlier_reading_is_corrected_and_the_later_one_still_counts() -> None:
    hand = one_by_one(3)
    hand.load("20.05")
    first = max(hand.state.gaugings)
    hand.do(do.TakeReading(2, 1, "20.0"))
    assert hand.state.pieces[2].standing != "held"
    hand.do(do.CorrectReading(first, "20.06", "misread"))
    assert hand.state.pieces[2].last(hand.state.cycle, 1).value == D("20.0")
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
    assert hand.state.pieces[2].unproven <= {(hand.state.cycle, 1)}


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
    (proven,) = hand.state.here.proven.values()

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


# Who is asked for what


def test_a_first_piece_needs_its_critical_sizes_and_no_others() -> None:
    hand = CoreHand(planned(3, stations="A"))
    hand.load()
    piece = hand.state.pieces[1]
    hand.do(do.TakeReading(1, 2, "31.5"))
    assert not _may_be_master(hand.state, piece)
    hand.do(do.TakeReading(1, 1, "20.0"))
    assert _may_be_master(hand.state, hand.state.pieces[1])
    half = CoreHand(planned(3, stations="A"))
    half.load("20.0")
    assert _may_be_master(half.state, half.state.pieces[1])


def test_a_part_with_a_consequence_is_gauged_at_every_load_whatever_was_said() -> None:
    plan = apply_edit(SetHeading("Hook", 6, lifts=True, gauge_every=5), planned(6), SHOP).plan
    assert CoreHand(plan).state.sampling(1) == 1
    calm = apply_edit(SetHeading("Block", 6, gauge_every=5), planned(6), SHOP).plan
    assert CoreHand(calm).state.sampling(1) == 5


def test_a_free_size_and_one_that_is_gone_are_not_judged() -> None:
    plan = apply_edit(SetCharacteristic("edge", "1", "free"), planned(3), SHOP).plan
    state = CoreHand(plan).state
    free = plan.characteristics[-1].number
    assert [state.is_judged(number) for number in (1, 2, free, 99)] == [True, True, False, False]


def test_only_the_first_piece_of_a_station_is_asked_for_every_size() -> None:
    plan = apply_edit(SetHeading("Block", 30, gauge_every=10), planned(30, stations="AB"), SHOP).plan
    hand = CoreHand(plan).proven()
    gauge(hand, 2)
    hand.load()
    hand.load()
    asked = {number: len(due_sizes(hand.state, piece)) for number, piece in hand.state.pieces.items()}
    assert asked == {1: 0, 2: 0, 3: 0, 4: 0, 5: 0, 6: 0}
    late = CoreHand(plan).proven()
    assert len(due_sizes(late.state, late.state.pieces[2])) == 2


def test_the_call_names_the_station_of_the_piece_it_is_about() -> None:
    hand = CoreHand(planned(4, stations="AB")).proven()
    gauge(hand, 2, "20.05")
    call = board(hand.state, hand.at).call
    assert (call.next, call.piece, call.station) == ("decide", 2, "B")


def test_a_size_that_was_excused_is_not_wanted_again_where_it_is_given_to() -> None:
    hand = one_by_one(2, SetSetup("second side", 1, "vise"))
    first, second = hand.state.cycle, hand.state.plan.setups[1].key
    key = apply_edit(SetStation(second, "B", "vise", "G58"), hand.plans[1], SHOP).plan
    hand = CoreHand(key).proven()
    hand.load("20.0")
    hand.do(do.Excuse(2, 2, "left as it came"))
    hand.do(do.GiveSize(2, second), do.GiveSize(2, first))
    assert (first, 2) not in hand.state.pieces[2].unproven
    hand.do(do.OpenSetup(second, "marked"), do.StartCycle(), do.EndCycle(confirm="1"))
    hand.do(do.Excuse(1, 2, "not on this one"))
    assert (second, 2) in hand.state.pieces[1].excused
    assert (first, 2) in hand.state.pieces[2].excused


def test_a_size_with_a_mating_part_says_so_at_the_machine() -> None:
    plan = apply_edit(
        SetCharacteristic("bore", "12", mate="oarlock pin", why="it turns"), planned(3), SHOP
    ).plan
    said = dict(plan_words(CoreHand(plan).state))
    number = plan.characteristics[-1].number
    assert said[f"{number} bore"] == "tried with oarlock pin; gauged every load; it turns"


# Counting


def test_pieces_that_went_through_this_setup_are_counted_only_where_there_are_several() -> None:
    assert "this setup" not in counts(one_by_one(3).state)
    assert counts(one_by_one(3, SetSetup("second side", 1, "vise")).state)["this setup"] == 1


def test_the_time_a_piece_takes_is_that_of_the_last_dozen_loads() -> None:
    hand = one_by_one(40)
    for load in range(15):
        hand.at += timedelta(minutes=30 if load == 2 else 0)
        hand.load()
    gaps = hand.state.here.gaps_s
    assert len(gaps) == 15
    assert max(gaps[-12:]) < max(gaps[:-12])
    assert pace(hand.state, hand.at).per_piece_s == pytest.approx(sum(gaps[-12:]) / 12)


@pytest.mark.parametrize(
    ("text", "pieces"), [("1500-1503", (1500, 1501, 1502, 1503)), ("7", (7,)), ("3, 5-6", (3, 5, 6))]
)
def test_pieces_are_read_from_lists_with_ranges(text: str, pieces: tuple[int, ...]) -> None:
    assert read_pieces(text) == pieces


@pytest.mark.parametrize("text", ["6-5", "0", "0-3", "1-2002", "a", "1000000"])
def test_what_is_no_list_of_pieces(text: str) -> None:
    with pytest.raises(ValueError, match=r"\S"):
        read_pieces(text)
    assert len(read_pieces("1-2001")) == 2001


@pytest.mark.parametrize(
    ("labels", "text"),
    [
        (["A1", "A2", "A3", "A4", "A5"], "A1 to A5"),
        (["A", "B", "C", "D", "E"], "A to E"),
        (["A1", "A3", "A5"], "A1, A3, A5"),
        (["A", "C"], "A, C"),
        (["A9", "A10", "A11", "A12", "A13"], "A9 to A13"),
    ],
)
def test_many_stations_in_a_row_are_said_as_a_range(labels: list[str], text: str) -> None:
    assert stations_text(labels) == text


# Slips


@pytest.mark.parametrize(
    ("size", "value", "slipped"),
    [
        ("3 min", "4.5", 0.5),
        ("3 min", "3.5", -0.5),
        ("5 max", "4.5", 0.5),
        ("5 max", "3.5", -0.5),
        ("4 ±2", "5", 0.5),
        ("4 +1/-2", "3", -0.5),
        ("4", "5", 0.0),
        ("4 ±2", "4", 0.0),
        ("4 0/-1", "4.1", 1.01),
        ("4 +1/0", "3.9", -1.01),
    ],
)
def test_how_far_a_reading_lies_between_master_and_limit(size: str, value: str, slipped: float) -> None:
    assert slip(D(value), D(4), read_size(size, "mm")) == pytest.approx(slipped)


def test_a_free_size_is_the_worst_only_where_nothing_else_is_gauged() -> None:
    plan = planned(3, stations="A")
    plan = replace(
        plan, characteristics=(replace(plan.characteristics[0], grade="free"), plan.characteristics[1])
    )
    hand = CoreHand(plan)
    hand.load()
    hand.do(do.TakeReading(1, 1, "20.02"))
    assert worst(hand.state, hand.state.pieces[1], hand.state.cycle)[0].number == 1
    hand.do(do.TakeReading(1, 2, "31.51"))
    assert worst(hand.state, hand.state.pieces[1], hand.state.cycle)[0].number == 2


def test_no_piece_bears_the_brass_corners_where_none_is_due() -> None:
    hand = one_by_one(3)
    assert not any(mark.due for mark in build(hand.state, []).marks.values())
    assert [m.piece for m in build(hand.state, [1]).marks.values() if m.due] == [1]


# Checks that stand for the pieces between


@pytest.mark.parametrize("order", [(2, 5), (5, 2)])
def test_checks_cover_what_lies_between_whichever_was_made_first(order: tuple[int, int]) -> None:
    plan = apply_edit(SetHeading("Block", 12, gauge_every=3), planned(12, stations="A"), SHOP).plan
    hand = CoreHand(plan).proven()
    for _ in range(5):
        hand.load()
    for piece in order:
        gauge(hand, piece)
    standing = [hand.state.pieces[n].standing for n in range(1, 7)]
    assert standing == ["good", "good", "good", "good", "good", "not gauged"]


def test_a_bad_piece_takes_all_before_it_that_nobody_gauged_along() -> None:
    plan = apply_edit(SetHeading("Block", 12, gauge_every=9), planned(12, stations="A"), SHOP).plan
    hand = CoreHand(plan).proven()
    hand.load()
    hand.load()
    gauge(hand, 3, "20.05")
    assert [hand.state.pieces[n].standing for n in (1, 2, 3)] == ["good", "held", "held"]


def test_an_adjustment_whose_offset_was_set_since_is_not_undone() -> None:
    hand = one_by_one(3)
    at = now(hand.at, z="-100")
    moved = move_of("G54 Z", D("0.02"), "mm", at)
    body = Adjustment(hand.state.cycle, "G54 Z", D("0.02"), "mm", "", moved)
    hand.log.append(Event(len(hand.log) + 1, hand.at, "RK", "adj", body))
    hand.state = extend(hand.state, hand.log[-1:], hand.log)
    with pytest.raises(NotNow, match="was set again since"):
        decide(do.Undo(), hand.state, now(hand.at, z="-98"))
    assert decide(do.Undo(), hand.state, now(hand.at, z="-99.98")).undoes == len(hand.log)


def test_a_master_that_later_loads_were_compared_with_is_not_undone() -> None:
    hand = one_by_one(4)
    hand.do(do.Undo())  # the acceptance itself, while nothing leans on it
    assert hand.state.here.master is None
    again = one_by_one(4)
    again.do(do.StartCycle(), who="MT")
    with pytest.raises(NotNow, match="MT has recorded something that leans on it"):
        again.do(do.Undo())
    other = one_by_one(4)
    other.do(do.AddNote("clean"), who="MT")
    other.do(do.Undo())
    assert other.state.here.master is None


def test_a_station_switched_off_is_a_notch_in_the_strip_and_asks_for_no_gauging() -> None:
    hand = CoreHand(planned(9)).proven()
    gauge(hand, 2)
    gauge(hand, 3)
    hand.do(do.SetComposition({"B": 0}))
    assert [(c.kind, c.words) for c in hand.state.here.changes] == [("stations", "stations")]
    assert build(hand.state).changes == ()
    assert hand.state.here.full_entry_due == set()


@pytest.mark.parametrize(("stations", "words"), [("A", "Piece 1. "), ("AB", "Pieces 1 and 2. ")])
def test_what_is_being_cut_is_said_with_its_number(stations: str, words: str) -> None:
    hand = CoreHand(planned(4, stations=stations))
    hand.do(do.StartCycle())
    assert board(hand.state, hand.at).call.why.startswith(words)


def test_the_jaws_show_earlier_readings_of_the_same_station_only() -> None:
    hand = CoreHand(planned(8, stations="AB")).proven()
    hand.do(do.TakeReading(2, 1, "20.011"))
    hand.do(do.TakeReading(2, 2, "31.5"))
    hand.load("20.001", "20.012")
    picture = board(hand.state, hand.at, piece=4).jaws
    assert picture is not None
    assert (picture.station, picture.earlier) == ("B", ((1, D("20.011")),))
    untouched = board(CoreHand(planned(2, stations="A")).state, MORNING).jaws
    assert untouched is None


def test_a_note_after_a_reading_leaves_its_answer_in_sight() -> None:
    hand = one_by_one(3)
    hand.load("20.02")
    hand.do(do.AddNote("a chip"))
    assert board(hand.state, hand.at).jaws.value == D("20.02")
    hand.do(do.MarkBreak("bar 2"))
    assert board(hand.state, hand.at).jaws.value is None


def test_held_pieces_stand_in_groups_by_their_reason() -> None:
    hand = CoreHand(planned(8, stations="AB")).proven()
    hand.load()
    hand.do(do.HoldPieces("3", "a burr"), do.HoldPieces("4", "a burr"), do.Dispose(2, "rework", "again"))
    groups = {group.why: group.pieces for group in board(hand.state, hand.at).held}
    assert groups["sent to rework: again"] == (2,)
    assert sorted(number for pieces in groups.values() for number in pieces) == [2, 3, 4]
    assert board(one_by_one(2).state, MORNING).held == ()


def test_a_setup_opened_again_has_its_pieces_stand_as_they_do_in_it() -> None:
    hand = one_by_one(2, SetSetup("second side", 1, "vise"))
    first, second = hand.state.cycle, hand.state.plan.setups[1].key
    hand.plans[1] = apply_edit(SetStation(second, "B", "vise", "G58"), hand.plans[1], SHOP).plan
    assert hand.state.pieces[1].standing == "good"
    hand.do(do.OpenSetup(second, "lost"))
    assert (hand.state.cycle, hand.state.identity, hand.state.identity_lost_before) == (
        second,
        "lost",
        second,
    )
    hand.do(do.OpenSetup(first, "marked"))
    assert hand.state.identity_lost_before == second


@pytest.mark.parametrize(("left", "names"), [(3, ["A", "B", "A"]), (1, ["A"])])
def test_what_is_to_come_fills_the_stations_in_turn(left: int, names: list[str]) -> None:
    hand = CoreHand(planned(2 + left, stations="AB")).proven()
    coming = [(lane, load) for (lane, load), mark in build(hand.state).marks.items() if mark.shape == "come"]
    assert [lane for lane, _ in coming] == names
    assert [load for _, load in coming] == [2, 2, 3][:left]


def test_the_newest_load_due_for_gauging_decides_however_far_back_it_lies() -> None:
    plan = apply_edit(SetHeading("Block", 30, gauge_every=4), planned(30, stations="A"), SHOP).plan
    hand = CoreHand(plan).proven()
    for _ in range(4):
        hand.load()
    assert due_pieces(hand.state) == [5]
    for _ in range(3):
        hand.load()
    assert due_pieces(hand.state) == [5]
    hand.load()
    assert due_pieces(hand.state) == [9]


@pytest.mark.parametrize(("amount", "said"), [("0.02", "+0.02 mm"), ("-0.02", "−0.02 mm")])
def test_what_was_added_is_said_with_its_sign(amount: str, said: str) -> None:
    hand = one_by_one(2)
    hand.do(do.Adjust("T03 wear", amount))
    assert board(hand.state, hand.at).last_said == f"T03 wear: {said} recorded."


def test_nothing_is_left_where_no_load_is() -> None:
    done = time_left([60, 60, 61], 0, 100)
    assert (done.likely_s, done.low_s, done.high_s, done.measured, done.seen) == (0, 0, 0, True, 3)
    assert time_left([], 0.5, 100).likely_s == 50


def test_what_is_not_gauged_is_asked_about_when_nothing_is_left_to_cut() -> None:
    plan = apply_edit(SetHeading("Block", 3, gauge_every=9), planned(3, stations="A"), SHOP).plan
    hand = CoreHand(plan).proven()
    hand.load()
    assert board(hand.state, hand.at).not_gauged == ()
    hand.load()
    assert board(hand.state, hand.at).not_gauged == (2, 3)
    with pytest.raises(NotNow, match=r"^Pieces 2-3 are not gauged\."):
        hand.do(do.CloseRun(short=True))


def test_loads_are_written_down_after_the_first_piece_unless_they_were_made_before_this_log() -> None:
    bare = CoreHand(planned(9, stations="A"))
    bare.load()
    with pytest.raises(NotNow, match="not accepted"):
        bare.do(do.EnterLoads(2))
    joined = CoreHand(planned(9, stations="A"))
    joined.do(do.EnterLoads(2, joined=True))
    assert sorted(joined.state.pieces) == [1, 2]
    with pytest.raises(NotNow, match="has loads already"):
        joined.do(do.EnterLoads(2, joined=True))


def test_the_time_of_loads_written_down_later_is_shared_by_them() -> None:
    hand = one_by_one(9)
    since = hand.at + timedelta(minutes=1)
    hand.at += timedelta(minutes=60)
    before = len(hand.state.here.gaps_s)
    hand.do(do.EnterLoads(3, since=f"{since:%H:%M}"))
    gaps = hand.state.here.gaps_s[before:]
    assert len(gaps) == 3
    assert sum(gaps) == pytest.approx((hand.at - since).total_seconds())
    assert len(set(gaps)) == 1


def test_a_clock_time_that_is_now_is_today_and_a_later_one_yesterday() -> None:
    at = MORNING.replace(hour=7, minute=10)
    assert _clock_time("07:10", at) == at
    assert _clock_time("07:11", at) == at.replace(minute=11) - timedelta(days=1)
    assert _clock_time(" ", at) is None


def test_a_new_revision_is_a_change_before_the_next_load() -> None:
    hand = one_by_one(4)
    hand.draft = apply_edit(SetHeading("Clamp block", 5), hand.draft, SHOP).plan
    hand.do(do.TakeRevision("one more"))
    change = hand.state.here.changes[-1]
    assert (change.kind, change.words, change.load) == ("plan", "revision 2", 2)


def test_the_last_three_cycles_are_shown() -> None:
    hand = one_by_one(9)
    for _ in range(4):
        hand.load()
    known = [load.cycle_s for load in hand.state.here.loads]
    assert pace(hand.state, hand.at).last_cycles_s == tuple(known[-3:])
    hand.do(do.StartCycle())
    assert len(pace(hand.state, hand.at).last_cycles_s) == 3


def test_a_size_that_another_setup_gauges_is_no_line_of_this_one() -> None:
    hand = one_by_one(3, SetSetup("second side", 1, "vise"))
    first, second = hand.state.cycle, hand.state.plan.setups[1].key
    hand.plans[1] = apply_edit(SetStation(second, "B", "vise", "G58"), hand.plans[1], SHOP).plan
    with pytest.raises(NotFound):
        hand.do(do.GiveSize(2, 99))
    with pytest.raises(NotNow, match="in that setup already"):
        hand.do(do.GiveSize(2, first))
    hand.do(do.GiveSize(2, second))
    hand.load()
    lines = board(hand.state, hand.at, piece=2).lines
    assert [line.characteristic.number for line in lines] == [1]
    hand.do(do.TakeReading(2, 1, "20.0"), do.OpenSetup(second, "marked"))
    hand.do(do.TakeReading(2, 1, "20.01"))  # still to be gauged where it was made
    assert hand.state.pieces[2].last(first, 1).value == D("20.01")
    with pytest.raises(NotNow, match="gauged in another setup"):
        hand.do(do.TakeReading(2, 2, "31.5"))


def test_a_checked_size_has_no_jaws_and_a_measured_one_beside_it_has() -> None:
    plan = apply_edit(SetCharacteristic("thread", "M6"), planned(2, stations="A"), SHOP).plan
    number = plan.characteristics[-1].number
    plan = replace(plan, characteristics=(plan.characteristics[-1], *plan.characteristics[:-1]))
    hand = CoreHand(plan)
    hand.load()
    hand.do(do.TakeGo(1, number, go=True))
    gauge(hand, 1)
    hand.do(do.MarkBreak("bar 2"))
    picture = board(hand.state, hand.at, piece=1).jaws
    assert picture is not None
    assert picture.characteristic.number == 1


def test_only_a_piece_outside_or_held_is_accepted_as_it_is() -> None:
    hand = one_by_one(4)
    hand.load()
    gauge(hand, 2)
    with pytest.raises(NotNow, match="inside its limits"):
        hand.do(do.Dispose(2, "as_is", "it is fine"))
    hand.do(do.Dispose(2, "spare", ""))
    assert hand.state.pieces[2].standing == "spare"
    hand.load()
    hand.do(do.HoldPieces("3", "a burr"), do.Dispose(3, "as_is", "the burr does not matter"))
    assert hand.state.pieces[3].outcome == "as_is"


def test_the_weave_has_no_brass_corners() -> None:
    hand = one_by_one(5)
    hand.load()
    assert [mark.due for row in weave(hand.state, range(1, 3)).values() for _, mark in row] == [False, False]
