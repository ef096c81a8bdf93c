"""Steps done by hand: which pieces, until when they cool or cure, what a part with a consequence wants written."""

from dataclasses import replace
from datetime import timedelta

import pytest

from ditto_run.core.close.counts import left_to_do
from ditto_run.core.errors import BadEntry, DittoError
from ditto_run.core.run import events as do
from ditto_run.core.run.by_hand import HAND_STEPS
from tests.conftest import CoreHand, planned
from tests.core.close.test_counts import all_gauged


def test_pieces_that_cure_are_left_alone_until_they_are_cured() -> None:
    hand = all_gauged(6)
    hand.do(do.CloseRun(), do.WorkByHand("bond", "1-4", "24 h", "lot 7"))
    work = hand.state.by_hand[0]
    assert (work.pieces, work.ready_at - work.at) == ((1, 2, 3, 4), timedelta(hours=24))
    assert do.sentence(hand.log[-1].body, hand.state, 0) == "Pieces 1-4 bonded, lot 7."
    before, at = work.ready_at - timedelta(seconds=1), work.ready_at
    (waits,) = left_to_do(hand.state, (), before)
    assert waits.startswith("4 pieces cure: leave alone until ")
    assert left_to_do(hand.state, (), at) == ()
    hand.do(do.Undo())
    assert hand.state.by_hand == []


@pytest.mark.parametrize(
    ("pieces", "waits", "field"),
    [("none", "", "pieces"), ("9", "", "piece"), ("2", "", "pieces"), ("1", "soon", "waits")],
)
def test_wrong_entries_are_said_at_their_field_and_nothing_is_written(
    pieces: str, waits: str, field: str
) -> None:
    hand = all_gauged(6)
    hand.do(do.Dispose(2, "scrap", "dented"))
    with pytest.raises(DittoError) as refused:
        hand.do(do.WorkByHand("braze", pieces, waits))
    assert getattr(refused.value, "field", field) in {field, "pieces"}
    assert hand.state.by_hand == []


def test_a_part_with_a_consequence_wants_to_know_what_was_used() -> None:
    hand = CoreHand(planned(3))
    hand.do(do.StartCycle(), do.EndCycle())
    heading = replace(hand.state.plan.heading, holds_pressure=True)
    hand.state.plans = {1: replace(hand.state.plan, heading=heading)}
    with pytest.raises(BadEntry) as refused:
        hand.do(do.WorkByHand("braze", "1-3"))
    assert refused.value.field == "note"
    hand.do(do.WorkByHand("braze", "1-3", "", "silver 45, lot 12"))
    assert hand.state.by_hand[0].note == "silver 45, lot 12"


def test_whatever_is_hot_pressed_or_glued_has_its_caution() -> None:
    for name, step in HAND_STEPS.items():
        assert step.caution, name
        assert ("licensed" in step.caution) is (name not in {"press", "bond"})
        assert step.sizes
        assert step.after
