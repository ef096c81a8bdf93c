"""Sizes after work done elsewhere: held to the drawing, their change to what was agreed; what was tried is left to do or done."""

from dataclasses import replace
from decimal import Decimal

import pytest
from scipy import stats

from ditto_run.core.close.after_trip import sizes_after, sizes_to_send
from ditto_run.core.close.counts import left_to_do
from ditto_run.core.close.customer import customer_report
from ditto_run.core.edits import SetFinish, apply_edit
from ditto_run.core.errors import BadEntry, NeedsAnswer, NotFound, NotNow
from ditto_run.core.part.coated import as_machined, finishes_weighed
from ditto_run.core.part.finish import Finish
from ditto_run.core.run import events as do
from ditto_run.core.run.after_trips import outside_after
from tests.conftest import SHOP, CoreHand, planned

BEFORE = ("20.004", "20.001", "19.998")


def plated(film: tuple[str, str] = ("5", "10")) -> CoreHand:
    """Three pieces, gauged before; the slot narrows by two faces of plating."""
    plan = apply_edit(SetFinish("zinc plate", f"{film[0]} µm", f"{film[1]} µm"), planned(3), SHOP).plan
    key = plan.finishes[0].key
    slot = replace(plan.characteristics[0], finish=key, face="slot between two faces")
    slot = as_machined(slot, plan.finishes)
    hand = CoreHand(replace(plan, characteristics=(slot, *plan.characteristics[1:])))
    hand.load(BEFORE[0])
    hand.do(do.TakeReading(1, 2, "31.502"), do.AcceptMaster(1))
    for piece in (2, 3):
        hand.do(do.TakeReading(piece, 1, BEFORE[piece - 1]), do.TakeReading(piece, 2, "31.5"))
    return hand


def back(hand: CoreHand) -> int:
    """Send all three, count them in; return the number of the trip."""
    hand.do(do.SendOut("zinc plate", "the plater", "3"))
    number = hand.state.trips[-1].number
    hand.do(do.ComeBack(number, "3"))
    return number


def test_the_change_is_that_of_the_same_pieces_and_held_to_what_was_agreed() -> None:
    hand = plated()
    trip = back(hand)
    after = ("19.990", "19.985", "19.984")
    hand.do(*(do.GaugeAfter(trip, str(n), 1, text) for n, text in enumerate(after, 1)))
    (slot,) = sizes_after(hand.state, hand.state.trips[0])
    assert [(row.piece, row.before, row.out) for row in slot.rows] == [
        (n, (Decimal(text), "mm"), False) for n, text in enumerate(BEFORE, 1)
    ]
    changes = [float(b) - float(a) for a, b in zip(BEFORE, after, strict=True)]
    assert slot.shift is not None
    reach = stats.t.ppf(0.9, 2) * stats.tstd(changes) * (1 + 1 / 3) ** 0.5 * 1000  # against scipy
    assert slot.shift.mean_um == pytest.approx(1000 * sum(changes) / 3)
    assert slot.shift.high_um - slot.shift.mean_um == pytest.approx(reach, rel=2e-3)
    assert slot.promised_um == (-20, -10)
    assert slot.words[0] == "3 pieces gauged, none outside 19.97 to 20.03 mm."
    assert slot.words[2].startswith("As agreed: −20 µm")


@pytest.mark.parametrize(
    ("film", "word"), [(("2", "4"), "Not what was agreed"), (("6", "8"), "Partly beyond what was agreed")]
)
def test_a_film_other_than_agreed_is_said(film: tuple[str, str], word: str) -> None:
    hand = plated(film)
    trip = back(hand)
    for n, text in enumerate(("19.990", "19.985", "19.984"), 1):
        hand.do(do.GaugeAfter(trip, str(n), 1, text))
    assert sizes_after(hand.state, hand.state.trips[0])[0].words[2].startswith(word)


def test_a_size_without_a_finish_keeps_its_size_only_where_that_is_known() -> None:
    hand = plated()
    trip = back(hand)
    for n, text in enumerate(("31.503", "31.499", "31.501"), 1):  # ±3 µm of 100
        hand.do(do.GaugeAfter(trip, str(n), 2, text))
    assert sizes_after(hand.state, hand.state.trips[0])[0].words[2].startswith("It keeps the size")
    for n, text in enumerate(("31.512", "31.490", "31.501"), 1):  # around 0, and too wide for that
        hand.do(do.GaugeAfter(trip, str(n), 2, text))
    assert "not known yet" in sizes_after(hand.state, hand.state.trips[0])[0].words[2]
    for n, text in enumerate(("31.522", "31.520", "31.521"), 1):
        hand.do(do.GaugeAfter(trip, str(n), 2, text))
    (height,) = sizes_after(hand.state, hand.state.trips[0])
    assert len(height.rows) == 3  # the last reading of a piece counts
    assert height.words[2].startswith("No change was agreed")


def test_two_pieces_tell_no_change_and_say_so() -> None:
    hand = plated()
    trip = back(hand)
    hand.do(do.GaugeAfter(trip, "1", 1, "19.99"), do.GaugeAfter(trip, "2", 1, "0.787 in"))
    (slot,) = sizes_after(hand.state, hand.state.trips[0])
    assert slot.shift is None
    assert slot.words[1] == "2 pieces gauged before and after: from 3 on the change is known."
    assert slot.rows[1].after == (Decimal("0.787"), "in")  # 19.9898 mm: judged as it was typed


@pytest.mark.parametrize(
    ("text", "out"), [("19.970", False), ("19.9699", True), ("20.03", False), ("20.031", True)]
)
def test_a_piece_outside_after_is_left_to_decide_until_it_is_decided(text: str, out: bool) -> None:
    hand = plated()
    trip = back(hand)
    hand.do(do.GaugeAfter(trip, "2", 1, text))
    said = "Piece 2 came back outside in slot: decide on it."
    assert (said in left_to_do(hand.state)) is out
    assert standing(hand) == (["good", "held", "good"] if out else ["good"] * 3)
    if out:
        with pytest.raises(NotNow, match="waits for a decision"):
            hand.do(do.CloseRun())
        with pytest.raises(NotNow, match="came back outside in slot"):
            hand.do(do.Dispose(2, "good"))
    if out:
        hand.do(do.Dispose(2, "scrap", "film too thick"))
        assert said not in left_to_do(hand.state)
        hand.do(do.Undo())
        assert said in left_to_do(hand.state)


def standing(hand: CoreHand) -> list[str]:
    return [piece.standing for piece in hand.state.pieces.values()]


def test_the_newest_reading_counts_whatever_trip_it_came_from_and_each_size_by_itself() -> None:
    hand = plated()
    first = back(hand)
    hand.do(do.GaugeAfter(first, "2", 1, "20.04"), do.GaugeAfter(first, "3", 1, "20.05"))
    assert standing(hand) == ["good", "held", "held"]
    hand.do(do.Dispose(3, "as_is", "customer takes it"), do.GaugeAfter(first, "3", 2, "31.5"))
    assert standing(hand) == [
        "good",
        "held",
        "good",
    ]  # another size gauged later asks nothing again of piece 3
    paper = customer_report(hand.state)
    assert [(one.piece, one.words, one.concession) for one in paper.deviations] == [
        (3, "outside 19.97 to 20.03 mm after work done elsewhere", "customer takes it")
    ]
    assert (
        paper.after[0] == "slot after zinc plate: 1 of 1 gauged outside 19.97 to 20.03 mm: 3."
    )  # what is held does not go out
    hand.do(do.SendOut("strip and plate", "the plater", "1"))
    second = hand.state.trips[-1].number
    hand.do(do.ComeBack(second, "1"), do.GaugeAfter(second, "2", 1, "20.01"))
    assert standing(hand) == ["good"] * 3  # stripped and plated again
    assert outside_after(hand.state, hand.state.pieces[2]) == ()
    hand.do(do.HoldPieces("1", "dinged"), do.GaugeAfter(second, "1", 1, "20.01"))
    assert standing(hand)[0] == "held"  # a hold that somebody else made stays


def test_a_closed_batch_is_opened_again_to_decide() -> None:
    hand = plated()
    trip = back(hand)
    hand.do(do.CloseRun(), do.GaugeAfter(trip, "2", 1, "20.04"))
    assert "Piece 2 came back outside in slot: open the batch again and decide on it." in left_to_do(
        hand.state
    )
    hand.do(do.ReopenRun("a piece came back outside"), do.Dispose(2, "scrap", "film too thick"))
    assert not [one for one in left_to_do(hand.state) if "came back" in one]


def test_what_cannot_be_a_size_after_is_said_at_its_field() -> None:
    hand = plated()
    hand.do(do.SendOut("zinc plate", "the plater", "3"))
    number = hand.state.trips[0].number
    with pytest.raises(NotNow):
        hand.do(do.GaugeAfter(number, "1", 1, "19.99"))
    hand.do(do.ComeBack(number, "2"))
    for piece, size, value, field in (
        ("9", 1, "19.99", "piece"),
        ("some", 1, "19.99", "piece"),
        ("1", 9, "19.99", "size"),
        ("1", 1, "", "value"),
        ("1", 1, "199.9", "value"),
        ("1", 1, "1.99", "value"),
    ):
        with pytest.raises(BadEntry) as refused:
            hand.do(do.GaugeAfter(number, piece, size, value))
        assert refused.value.field == field, value
    with pytest.raises(NeedsAnswer):
        hand.do(do.GaugeAfter(number, "1", 1, "19,990"))
    with pytest.raises(NotFound):
        hand.do(do.GaugeAfter(99, "1", 1, "19.99"))
    assert not hand.state.sizes_after
    hand.do(do.CloseRun())
    hand.do(do.GaugeAfter(number, "1", 1, "19.99"))  # pieces come back after the batch is closed too


def test_a_try_that_does_not_go_is_left_until_the_same_goes() -> None:
    hand = plated()
    hand.do(do.TryFit("1-2", "pin 3", "not"), do.TryFit("3", "pin 3", "goes"))
    words = [one for one in left_to_do(hand.state) if "pin 3" in one]
    assert words == ["1-2, tried with pin 3: does not go. Find another, or decide on it."]
    hand.do(do.TryFit("1-2", "Pin 3", "goes"))
    assert not [one for one in left_to_do(hand.state) if "in 3" in one]
    with pytest.raises(BadEntry) as refused:
        hand.do(do.TryFit("1", " ", "goes"))
    assert refused.value.field == "with_what"


def test_a_mating_part_is_tried_before_the_finish_goes_on() -> None:
    hand = plated()
    plan = hand.plans[1]
    mated = replace(plan.characteristics[1], mate="oarlock pin")
    hand.plans[1] = replace(plan, characteristics=(plan.characteristics[0], mated))
    hand.state.plans[1] = hand.plans[1]  # type: ignore[index] # the test's own mapping
    said = "Try dry, before the finish goes on: height with oarlock pin."
    assert said in left_to_do(hand.state)
    hand.do(do.TryFit("1", "oarlock pin", "goes"))
    assert said not in left_to_do(hand.state)
    assert mated in sizes_to_send(hand.plans[1])


@pytest.mark.parametrize(
    ("least", "most", "reading", "works"),
    [
        ("0.2", "0.5", "0.2", True),
        ("0.2", "0.5", "0.51", False),
        ("", "4", "4", True),
        ("2", "", "1.9", False),
    ],
)
def test_a_function_is_judged_by_its_limits(least: str, most: str, reading: str, works: bool) -> None:
    hand = plated()
    hand.do(do.ProveFunction("1", "force to turn it", least, most, "N·m", reading, "yes"))
    assert hand.state.functions[-1].works is works
    said = "Piece 1 does not work, force to turn it: decide on it."
    assert (said in left_to_do(hand.state)) is not works


@pytest.mark.parametrize(
    ("least", "most", "reading", "works", "field"),
    [
        ("5", "2", "3", "", "most"),
        ("1", "2", "", "", "reading"),
        ("", "", "3", "", "most"),
        ("", "", "", "", "works"),
        ("a", "", "3", "", "least"),
    ],
)
def test_a_proof_that_proves_nothing_is_refused(
    least: str, most: str, reading: str, works: str, field: str
) -> None:
    hand = plated()
    with pytest.raises(BadEntry) as refused:
        hand.do(do.ProveFunction("1", "turns by hand", least, most, "N", reading, works))
    assert refused.value.field == field
    assert not hand.state.functions


def test_a_choice_of_finishes_says_what_each_takes_of_the_tightest_size() -> None:
    slot = replace(planned(3).characteristics[0], face="slot between two faces")  # 60 µm wide
    thin, thick = Finish(1, "thin", Decimal(2), Decimal(5)), Finish(2, "thick", Decimal(10), Decimal(40))
    found = finishes_weighed((slot, planned(3).characteristics[1]), (thick, thin))
    assert [(one.name, one.size, round(one.share, 3)) for one in found] == [
        ("thin", "slot", 0.1),  # 2 faces × 3 µm of 60
        ("thick", "slot", 1.0),  # 2 faces × 30 µm of 60
    ]
    assert found[1].words == "thick takes all of the tolerance of slot."
    assert finishes_weighed(planned(3).characteristics, (thin,)) == ()
