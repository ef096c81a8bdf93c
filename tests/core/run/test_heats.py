"""Heat by bar and by piece."""

from dataclasses import replace

import pytest

from ditto_run.core.close import report
from ditto_run.core.edits import SetHeading, apply_edit
from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.run import events as do
from ditto_run.core.run.heats import heat_of, heats_of, known_heats
from tests.conftest import SHOP, CoreHand, planned


def made(heat: str, *before: do.Command) -> CoreHand:
    """Four pieces of a part that lifts, each gauged; `before` is done after the second."""
    heading = SetHeading("Hook", 4, lifts=True, heat=heat, approved_by="the engineer")
    hand = CoreHand(apply_edit(heading, planned(4, stations="A"), SHOP).plan)
    for piece in range(1, 5):
        if piece == 3:
            hand.do(*before)
        hand.load("20.0")
        hand.do(do.TakeReading(piece, 2, "31.5"))
        if piece == 1:
            hand.do(do.AcceptMaster(1))
    return hand


def heats(hand: CoreHand) -> list[str]:
    return [heat_of(hand.state, piece) for piece in hand.state.pieces.values()]


@pytest.mark.parametrize(
    ("text", "found"), [("", ()), ("H-1, cert 3.1", ("H-1, cert 3.1",)), (" H-1; H-2 ;", ("H-1", "H-2"))]
)
def test_a_head_names_one_heat_or_several(text: str, found: tuple[str, ...]) -> None:
    assert heats_of(text) == found


def test_the_one_heat_of_the_job_is_that_of_every_piece() -> None:
    hand = made("H-1")
    assert heats(hand) == ["H-1"] * 4
    hand.do(do.CloseRun())
    assert report(hand.state).heats == {"H-1": (1, 2, 3, 4)}


def test_from_a_new_bar_on_pieces_are_of_its_heat() -> None:
    hand = made("H-1", do.MarkBreak("bar 2", "H-2"))
    assert heats(hand) == ["H-1", "H-1", "H-2", "H-2"]
    assert known_heats(hand.state) == ("H-1", "H-2")
    assert hand.state.here.changes[-1].words == "bar 2"


def test_a_new_bar_without_a_heat_changes_none() -> None:
    assert heats(made("", do.MarkBreak("bar 2", "H-2"), do.MarkBreak("bar 3")))[2:] == ["H-2", "H-2"]


def test_of_several_heats_nobody_knows_which_until_it_is_said() -> None:
    hand = made("H-1; H-2")
    assert heats(hand) == [""] * 4
    with pytest.raises(NotNow, match="the heat that pieces 1-4 are of is not recorded"):
        hand.do(do.CloseRun())
    hand.do(do.MarkBreak("bar 1", "H-1", "1-3"))
    with pytest.raises(NotNow, match="the heat that piece 4 is of is not recorded"):
        hand.do(do.CloseRun())
    hand.do(do.MarkBreak("bar 2", "H-2", "4"))
    hand.do(do.CloseRun())
    assert report(hand.state).heats == {"H-1": (1, 2, 3), "H-2": (4,)}


def test_pieces_named_without_a_heat_are_asked_about() -> None:
    hand = made("")
    with pytest.raises(BadEntry) as refused:
        hand.do(do.MarkBreak("bar 1", "", "1-2"))
    assert refused.value.field == "heat"
    with pytest.raises(BadEntry, match="no piece 9"):
        hand.do(do.MarkBreak("bar 1", "H-1", "9"))


def test_what_was_said_of_made_pieces_is_no_new_bar_and_is_undone() -> None:
    hand = made("")
    lines = len(hand.state.here.changes)
    hand.do(do.MarkBreak("bar 1", "H-1", "1-2"))
    assert (heats(hand)[:2], len(hand.state.here.changes)) == (["H-1", "H-1"], lines)
    hand.do(do.Undo())
    assert heats(hand) == [""] * 4


def test_a_piece_keeps_the_heat_of_the_plan_it_was_made_to() -> None:
    hand = made("H-1")
    later = replace(hand.state.plan, heading=replace(hand.state.plan.heading, heat="H-9"))
    hand.state.plans = {**hand.state.plans, hand.state.revision + 1: later}
    hand.state.revision += 1
    assert heats(hand) == ["H-1"] * 4


def test_scrap_needs_no_heat() -> None:
    hand = made("H-1; H-2")
    hand.do(do.MarkBreak("bar 1", "H-1", "1-3"), do.Dispose(4, "scrap", "dropped"))
    hand.do(do.CloseRun(short=True))
    assert hand.state.closed_at is not None
