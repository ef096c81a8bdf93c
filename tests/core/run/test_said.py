"""Every line of the log has a sentence; what it says is what was done."""

import pytest

from ditto_run.core.run import events as do
from ditto_run.core.run.events import sentence
from ditto_run.core.run.said import last_said
from ditto_run.core.run.words import numbers_text
from tests.conftest import CoreHand, planned


@pytest.mark.parametrize(
    ("command", "words"),
    [
        (do.StartCycle(), "Load 2 started."),
        (do.TakeReading(2, 1, "20.005"), "Slot, piece 2, station B: 20.005 mm. Ditto."),
        (
            do.TakeReading(2, 1, "20.05"),
            "Slot, piece 2, station B: 20.05 mm. Over the limit by 20 microns. Stop. Held: piece 2.",
        ),
        (do.AddNote("sounds dull", 3), "Noted about piece 3: sounds dull"),
        (do.HoldPieces("1-3", "dropped"), "Held: 1 to 3, dropped."),
        (do.Dispose(2, "scrap", "chatter"), "Piece 2: scrap, chatter."),
        (do.Dispose(2, "spare"), "Piece 2: spare."),
        (do.Adjust("T03 wear", "-0.0008", "in"), "T03 wear: −0.0008 in recorded."),
        (do.Adjust("G55 Z", "0.01", "mm", "B"), "G55 Z at B: +0.01 mm recorded."),
        (do.ChangeSetting("T03 feed", "400", "350"), "T03 feed changed from 400 to 350."),
        (do.ChangeSetting("coolant"), "coolant changed."),
        (do.MarkBreak("bar 2"), "New: bar 2."),
        (do.SetComposition({"B": 0}), "Stations on: A, C."),
        (do.EnterLoads(2), "2 loads written down."),
        (
            do.CorrectReading(4, "20.001", "misread"),
            "Slot, piece 1, station A: 20.001 mm. Ditto. Corrects line 4: misread",
        ),
    ],
)
def test_what_was_done_is_said(command: do.Command, words: str) -> None:
    hand = CoreHand(planned(12)).proven()
    hand.do(command)

    assert last_said(hand.state) == words


def test_the_end_of_a_load_names_what_to_unload() -> None:
    hand = CoreHand(planned(12)).proven()
    hand.load()

    assert last_said(hand.state) == "Load 2 done. Unload A, B, C. It took 1:00."


def test_every_line_of_a_log_can_be_said_even_when_undone() -> None:
    hand = CoreHand(planned(12)).proven()
    hand.do(do.TakeReading(2, 1, "20.0"), do.Undo(), do.StartCycle(), do.Undo())
    said = [sentence(event.body, hand.state, event.seq) for event in hand.log]

    assert said[0] == "The run has begun with revision 1."
    assert "Reading 20.0, undone." in said
    assert all(text.endswith((".", "misread")) for text in said)


@pytest.mark.parametrize(
    ("pieces", "text"), [((3,), "3"), ((3, 4), "3 and 4"), ((3, 4, 5), "3 to 5"), ((3, 5, 9), "3, 5, 9")]
)
def test_numbers_in_words(pieces: tuple[int, ...], text: str) -> None:
    assert numbers_text(pieces) == text
