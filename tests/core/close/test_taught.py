"""What a batch teaches: real over planned cycles, hands between loads, scrap; worked by hand."""

from dataclasses import replace
from datetime import timedelta
from decimal import Decimal

import pytest

from ditto_run.core.close.taught import _drifts, batch_teaches
from ditto_run.core.run import events as do
from tests.conftest import CoreHand, planned

MACHINES = {1: "Mill 2"}


def run(loads: int = 4, material: str = "") -> CoreHand:
    """Loads of three; each cycle takes a minute, and two minutes go by between loads for two readings."""
    plan = planned(12)
    hand = CoreHand(replace(plan, heading=replace(plan.heading, material=material))).proven()
    for piece in (2, 3):
        hand.do(do.TakeReading(piece, 1, "20.001"), do.TakeReading(piece, 2, "31.5"))
    for _ in range(loads - 1):
        hand.load()
    return hand


def test_pace_handling_and_scrap_worked_by_hand() -> None:
    """A planned load is 3 × 60 s + 20 s = 200 s; a real one takes the minute between two commands: 60 / 200 = 0.3."""
    hand = run()
    hand.do(do.Dispose(3, "scrap", "dropped"))
    found = {one.figure: one for one in batch_teaches(hand.state, MACHINES, "7/1")}
    assert found["pace"].value == pytest.approx(0.3)
    assert found["pace"].machine == "Mill 2"
    # from the end of a load to the start of the next: one minute, but after the first, where its readings were taken
    assert found["handling"].value == pytest.approx(20)
    made = [p for p in hand.state.pieces.values() if p.standing not in {"trial", "spare", "lost", "cutting"}]
    assert found["scrap"].value == round(100 / len(made), 1)
    assert (found["scrap"].pieces, found["scrap"].batches_named) == (len(made), ("7/1",))


def test_two_loads_teach_no_time_and_a_setup_without_a_machine_teaches_nothing() -> None:
    assert {one.figure for one in batch_teaches(run(2).state, MACHINES, "7/1")} == {"scrap"}
    assert batch_teaches(run().state, {}, "7/1") == ()


def test_loads_keyed_through_faster_than_they_could_be_cut_teach_no_pace() -> None:
    hand = run(1)
    for number in range(2, 5):
        hand.do(do.StartCycle())
        hand.at -= timedelta(seconds=59)  # ended a second after it began, of 200 planned
        hand.do(do.EndCycle(confirm=str(number)))
    assert "pace" not in {one.figure for one in batch_teaches(hand.state, MACHINES, "7/1")}


def test_a_pace_is_the_middle_one_so_a_night_teaches_nothing() -> None:
    hand = run(3)
    hand.do(do.StartCycle())
    hand.at = hand.at.replace(day=hand.at.day + 1)  # ended the next morning
    hand.do(do.EndCycle())
    pace = next(one for one in batch_teaches(hand.state, MACHINES, "7/1") if one.figure == "pace")
    assert pace.value == pytest.approx(0.3)


def test_the_way_and_the_material_are_those_of_the_plan() -> None:
    hand = run(material="316")
    found = {one.figure: one for one in batch_teaches(hand.state, MACHINES, "7/1")}
    assert (found["pace"].material, found["handling"].material, found["scrap"].material) == ("316", "", "316")


@pytest.mark.parametrize(("loads", "taught"), [(10, False), (11, True)])
def test_a_drift_is_taught_from_as_many_pieces_as_tell_what_a_hundred_do(loads: int, taught: bool) -> None:
    hand = CoreHand(planned(24, stations="A"))
    for n in range(loads):
        hand.load(f"{20 + Decimal('0.002') * n:.3f}")
        if not n:
            hand.do(do.TakeReading(1, 2, "31.502"), do.AcceptMaster(1))
    key = hand.state.cycle
    drifts = _drifts(hand.state, hand.state.cycles[key])
    assert drifts == ([pytest.approx(0.2)] if taught else [])  # 2 µm a piece
