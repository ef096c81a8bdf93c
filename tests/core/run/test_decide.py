"""What is refused, and that the refusals which never yield do not."""

import pytest

from ditto_run.core.edits import SetCharacteristic, apply_edit
from ditto_run.core.errors import BadEntry, NeedsAnswer, NotFound, NotNow
from ditto_run.core.run import events as do
from tests.conftest import SHOP, CoreHand, planned


def refused(hand: CoreHand, command, kind=NotNow) -> str:
    lines = len(hand.log)
    with pytest.raises(kind) as refusal:
        hand.do(command)
    assert len(hand.log) == lines
    assert refusal.value.remedy
    return refusal.value.problem


def test_never_yields_second_load_before_the_first_piece_is_accepted(hand: CoreHand) -> None:
    hand.load()
    assert "not accepted" in refused(hand, do.StartCycle())
    hand.do(do.TakeReading(1, 2, "31.5"))
    assert "slot is not gauged" in refused(hand, do.AcceptMaster(1))
    hand.do(do.TakeReading(1, 1, "20.0"), do.AcceptMaster(1), do.StartCycle())
    assert hand.state.running.number == 2


def test_never_yields_out_of_limits_counted_good_without_a_reason(hand: CoreHand) -> None:
    hand.proven()
    hand.do(do.TakeReading(2, 1, "20.031"))
    assert "out of limits: slot 20.031 mm" in refused(hand, do.Dispose(2, "good", "looks fine"))
    refused(hand, do.Dispose(2, "as_is", "  "), BadEntry)
    assert hand.state.pieces[2].standing == "held"


def test_a_bad_first_piece_is_no_master_and_another_can_be_cut(hand: CoreHand) -> None:
    hand.load("20.05")
    hand.do(do.TakeReading(1, 2, "31.5"))
    assert "is held" in refused(hand, do.AcceptMaster(1))
    for number in (1, 2, 3):
        hand.do(do.Dispose(number, "scrap", "setting up"))
    hand.load("20.0")
    hand.do(do.AcceptMaster(4))
    assert hand.state.here.master == 4


@pytest.mark.parametrize(
    ("command", "kind", "words"),
    [
        (do.TakeReading(99, 1, "20"), BadEntry, "no piece 99"),
        (do.TakeReading(1, 77, "20"), NotFound, "no dimension 77"),
        (do.TakeReading(1, 1, "two"), BadEntry, "not a reading"),
        (do.TakeReading(1, 1, "200.0"), NeedsAnswer, "about 10 times"),
        (do.TakeGo(1, 1, go=True), BadEntry, "measured"),
        (do.CorrectReading(999, "20", "slip"), NotFound, "999"),
        (do.CorrectReading(4, "20", " "), BadEntry, "empty"),
        (do.AcceptMaster(2), NotNow, "already"),
        (do.Adjust("T03", "a bit"), BadEntry, "not an amount"),
        (do.Adjust("T03", "0"), BadEntry, "nothing"),
        (do.Adjust("T03", "0.1", station="Q"), BadEntry, "no station Q"),
        (do.HoldPieces("1-x", "why"), BadEntry, "names no pieces"),
        (do.HoldPieces("44", "why"), BadEntry, "no piece 44"),
        (do.Dispose(1, "scrap"), BadEntry, "empty"),
        (do.Dispose(1, "as_is", "why"), NotNow, "inside its limits"),
        (do.AddNote("x", 55), BadEntry, "no piece 55"),
        (do.SetComposition({"Z": 1}), BadEntry, "no station Z"),
        (do.SetComposition({"A": 4}), BadEntry, "takes up to 1"),
        (do.EnterLoads(0), BadEntry, "0 loads"),
        (do.EnterLoads(9), BadEntry, "more than are left"),
        (do.EnterLoads(1, "25:70"), BadEntry, "not a clock time"),
        (do.EnterLoads(1, joined=True), NotNow, "has loads already"),
        (do.OpenSetup(99), NotFound, "99"),
        (do.TakeRevision("because"), NotNow, "the one being run"),
        (do.CloseRun(), NotNow, "11 pieces are missing"),
        (do.EndCycle(), NotNow, "No load is cutting"),
    ],
)
def test_is_refused_in_words(hand: CoreHand, command, kind, words: str) -> None:
    assert words in refused(hand.proven(), command, kind)


def test_a_doubted_reading_is_kept_when_typed_again(hand: CoreHand) -> None:
    hand.proven()
    refused(hand, do.TakeReading(2, 1, "19.8"), NeedsAnswer)
    refused(hand, do.TakeReading(2, 1, "19.8", confirm="19.7"), NeedsAnswer)
    hand.do(do.TakeReading(2, 1, "19.8", confirm="19.8"))
    assert hand.state.pieces[2].standing == "held"


def test_short_entry_waits_for_the_master_and_for_a_whole_number_after_a_change(hand: CoreHand) -> None:
    hand.load()
    refused(hand, do.TakeReading(1, 1, "004"), NeedsAnswer)
    hand.do(
        do.TakeReading(1, 1, "20.004"),
        do.TakeReading(1, 2, "31.5"),
        do.AcceptMaster(1),
        do.TakeReading(2, 1, "998"),
    )
    assert hand.log[-1].body.value == hand.state.gaugings[hand.log[-1].seq].value
    assert f"{hand.log[-1].body.value}" == "19.998"
    hand.do(do.Adjust("T03 wear", "0.002"))
    refused(hand, do.TakeReading(3, 1, "998"), NeedsAnswer)
    hand.do(do.TakeReading(3, 1, "19.998"), do.TakeReading(2, 1, "003"))
    assert f"{hand.log[-1].body.value}" == "20.003"


def test_inches_typed_into_a_millimetre_run_are_converted_exactly(hand: CoreHand) -> None:
    hand.proven()
    hand.do(do.TakeReading(2, 1, "0.7874", unit="in"))
    assert f"{hand.state.pieces[2].last(hand.state.cycle, 1).value}" == "19.99996"


def test_a_thread_is_checked_go_and_no_go() -> None:
    hand = CoreHand(planned(6, SetCharacteristic("thread", "M6", "critical")))
    thread = hand.state.plan.characteristics[-1].number
    hand.load("20.0")
    hand.do(do.TakeReading(1, 2, "31.5"))
    assert "GO and NO-GO" in refused(hand, do.TakeReading(1, thread, "6"), BadEntry)
    hand.do(do.TakeGo(1, thread, go=False))
    assert hand.state.pieces[1].standing == "held"
    line = hand.log[-1].seq
    refused(hand, do.CorrectReading(line, "maybe", "slip"), BadEntry)
    hand.do(do.CorrectReading(line, "GO", "chip in the hole"), do.AcceptMaster(1))
    assert hand.state.here.master == 1


def test_a_changed_plan_is_taken_with_a_reason_and_each_piece_knows_its_own(hand: CoreHand) -> None:
    hand.proven()
    hand.draft = apply_edit(SetCharacteristic("height", "31.5 ±0.1 mm", number=2), hand.state.plan, SHOP).plan
    refused(hand, do.TakeRevision(""), BadEntry)
    hand.do(do.TakeRevision("customer agreed"))
    hand.load()
    revisions = {piece.number: next(iter(piece.made.values()))[2] for piece in hand.state.pieces.values()}
    assert revisions == {1: 1, 2: 1, 3: 1, 4: 2, 5: 2, 6: 2}


def test_undo_is_ones_own_and_not_under_somebody_elses_feet(hand: CoreHand) -> None:
    hand.proven()
    hand.do(do.StartCycle(), who="MT")
    hand.do(do.AddNote("sounds dull"), who="RK")
    hand.do(do.Undo(), who="RK")
    hand.do(do.EndCycle(), who="MT")
    hand.do(do.TakeReading(4, 1, "20.0"), who="RK")
    assert "leans on it" in refused_for(hand, "MT")
    hand.do(do.Undo(), who="RK")
    hand.do(do.Undo(), who="MT")
    assert hand.state.running.number == 2


def refused_for(hand: CoreHand, who: str) -> str:
    with pytest.raises(NotNow) as refusal:
        hand.do(do.Undo(), who=who)
    return refusal.value.problem


def test_late_entry_and_joining_a_job_half_done() -> None:
    hand = CoreHand(planned(12))
    hand.do(do.EnterLoads(2, joined=True))
    assert hand.state.counts["good"] == 6
    hand.load("20.0")
    hand.do(do.TakeReading(7, 2, "31.5"), do.AcceptMaster(7), do.EnterLoads(1, "07:05"))
    assert (hand.state.counts["good"], hand.state.counts["not gauged"]) == (7, 5)
    assert hand.state.here.loads[-1].entered
    assert refused(hand, do.StartCycle()) == "All pieces are made."
    assert "5 pieces are missing" in refused(hand, do.CloseRun())
    assert "not gauged" in refused(hand, do.CloseRun(short=True))
    refused(hand, do.TakeUngauged("8-12", " "), BadEntry)
    assert "is good" in refused(hand, do.TakeUngauged("7-12", "why"), BadEntry)
    hand.do(do.TakeUngauged("8-12", "gauged by the apprentice, not written down"), do.CloseRun())
    assert hand.state.closed_at is not None
    assert dict(hand.log[-1].body.counts) == {"good": 12}


def test_the_second_setup_takes_the_good_pieces_in_order() -> None:
    from ditto_run.core.edits import SetSetup, SetStation

    plan = planned(6, SetSetup("second side", 1, "pallet", "pin"))
    second = plan.setups[-1].key
    plan = apply_edit(SetStation(second, "P", "pallet", "G57", pieces=4), plan, SHOP).plan
    hand = CoreHand(plan).proven()
    hand.do(do.Dispose(2, "scrap", "dropped"))
    hand.load()
    hand.load()
    hand.do(do.OpenSetup(second, "tray"))
    hand.do(do.StartCycle())
    assert hand.state.running.stations[0].pieces == (1, 3, 4, 5)
    refused(hand, do.OpenSetup(plan.setups[0].key))
