"""What a batch suggests for next time: from what, where it goes, and that it is said once."""

from datetime import timedelta

import pytest

from ditto_run.core.close.lessons import Suggested, suggested
from ditto_run.core.errors import BadEntry
from ditto_run.core.run import events as do
from tests.conftest import SHOP, CoreHand, planned


def asked(hand: CoreHand) -> list[Suggested]:
    return list(suggested(hand.state, SHOP.machines))


def test_nothing_is_suggested_where_nothing_happened() -> None:
    assert asked(CoreHand(planned()).proven()) == []


def test_stops_turns_notes_and_corrections_go_where_they_are_seen_next_time() -> None:
    hand = CoreHand(planned()).proven()
    hand.do(
        do.WriteStop("drill clogged"),
        do.WriteStop("alarm 7: spindle hot"),
        do.Adjust("T03 diameter wear", "-0.004"),
        do.Adjust("T03 diameter wear", "-0.002"),
        do.AddNote("chatter"),
        do.AddNote("chatter"),
        do.AddNote("blue chips"),
    )
    lines = [event.seq for event in hand.log if isinstance(event.body, do.Reading)]
    hand.do(
        do.CorrectReading(lines[0], "20.005", "misread"), do.TakeReading(2, 1, "20.001", confirm="20.001")
    )
    assert "Read the slot twice before typing it" not in {one.words for one in asked(hand)}
    hand.do(do.CorrectReading(hand.log[-1].seq, "20.002", "misread"))
    found = {one.words: one for one in asked(hand)}
    assert (found["drill clogged"].place, found["drill clogged"].of) == ("start list", "Mill 2")
    assert (found["alarm 7: spindle hot"].place, found["alarm 7: spindle hot"].of) == ("machine", "Mill 2")
    turned = next(one for one in found.values() if one.place == "tool")
    assert turned.of == "T03"
    assert turned.words.startswith("T03 diameter wear: −")
    assert turned.words.endswith("in all over 3 pieces")
    assert "Chatter" in found
    assert "Blue chips" not in found  # once is no lesson
    assert "Read the slot twice before typing it" in found


def test_turns_that_cancel_out_teach_nothing() -> None:
    hand = CoreHand(planned()).proven()
    hand.do(do.Adjust("T03 diameter wear", "-0.004"), do.Adjust("T03 diameter wear", "0.004"))
    assert asked(hand) == []


def test_a_trip_that_came_back_late_is_the_suppliers_and_one_in_time_is_not() -> None:
    for days, late in ((0, False), (1, True)):
        hand = CoreHand(planned(3))
        hand.do(do.StartCycle(), do.EndCycle())
        for piece in (1, 2, 3):
            hand.do(do.TakeReading(piece, 1, "20.001", confirm="20.001"), do.TakeReading(piece, 2, "31.5"))
        day = hand.at.astimezone().date().isoformat()
        hand.do(do.SendOut("anodise", "the plater", "3", day))
        hand.at += timedelta(days=days)
        hand.do(do.ComeBack(hand.state.trips[0].number, "3"))
        words = [(one.words, one.place, one.of) for one in asked(hand)]
        assert words == ([("anodise: 1 day late", "supplier", "the plater")] if late else [])


def test_a_lesson_is_suggested_until_it_was_put_or_left() -> None:
    hand = CoreHand(planned()).proven()
    hand.do(do.WriteStop("drill clogged"), do.WriteStop("coolant low"))
    first, second = asked(hand)
    hand.do(do.PutLesson(first.key, "look at the flutes", "start list", "Mill 2"))
    assert [one.words for one in asked(hand)] == ["coolant low"]
    hand.do(do.PutLesson(second.key, second.words, "left"))
    assert asked(hand) == []
    assert [(one.words, one.place) for one in hand.state.lessons.values()] == [
        ("look at the flutes", "start list"),
        ("coolant low", "left"),
    ]
    hand.do(do.Undo())
    assert [one.words for one in asked(hand)] == ["coolant low"]
    with pytest.raises(BadEntry) as refused:
        hand.do(do.PutLesson("", "  ", "start list"))
    assert refused.value.field == "words"
