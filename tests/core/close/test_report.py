"""The report says what the log says, and what its figures mean."""

import pytest

from ditto_run.core.close import report
from ditto_run.core.close.report import meaning
from ditto_run.core.run import events as do
from ditto_run.core.statistics import capability
from tests.conftest import CoreHand, planned


@pytest.fixture
def closed() -> CoreHand:
    hand = CoreHand(planned(6)).proven()
    for piece, slot in ((2, "20.01"), (3, "20.02")):
        hand.do(do.TakeReading(piece, 1, slot), do.TakeReading(piece, 2, "31.5"))
    hand.do(do.Adjust("T03 wear", "-0.008"), do.AddNote("dull", 3))
    hand.load("20.002", "20.031")
    hand.do(do.TakeReading(4, 2, "31.5"), do.TakeReading(5, 2, "31.5"))
    hand.do(do.TakeReading(6, 1, "20.011"), do.TakeReading(6, 2, "31.5"))
    hand.do(do.Dispose(5, "as_is", "the customer takes it"), do.CloseRun())
    return hand


def test_every_piece_stands_in_it(closed: CoreHand) -> None:
    found = report(closed.state)

    assert [row.piece for row in found.pieces] == [1, 2, 3, 4, 5, 6]
    assert found.adds_up
    assert found.good == found.wanted == 6
    five = found.pieces[4]
    assert (five.standing, five.reason) == ("accepted as it is", "the customer takes it")
    assert five.readings[1][1] == "1 µm over the upper limit"
    assert five.made == ((1, 2, "B"),)


def test_figures_are_those_of_the_readings_that_count(closed: CoreHand) -> None:
    slot = report(closed.state).dimensions[0]

    assert slot.figures == capability([20.004, 20.01, 20.02, 20.002, 20.031, 20.011], 19.97, 20.03)
    assert slot.refused == 1
    assert "Only 6 pieces" in slot.means
    assert "Adjusted once meanwhile" in slot.means


def test_times_are_planned_and_actual(closed: CoreHand) -> None:
    times = report(closed.state).times[0]

    assert (times.loads, times.planned_cycle_s, times.actual_cycle_s) == (2, 200, 60)
    assert times.planned_piece_s == pytest.approx(111.67, abs=0.01)


@pytest.mark.parametrize(
    ("values", "limits", "words"),
    [
        ([], (0, 1), "Not gauged"),
        ([1.0], (0, 2), "One piece"),
        ([1.0] * 9, (0, 2), "too coarse"),
        ([1.0, 1.1], (None, None), "No limits"),
        ([1.0 + n % 5 / 100 for n in range(60)], (0.5, 1.5), "Even the low end"),
        ([1.0 + n % 5 / 10 for n in range(60)], (0.9, 1.5), "expect some outside"),
    ],
)
def test_figures_are_put_in_words(values: list[float], limits: tuple, words: str) -> None:
    assert words in meaning(capability(values, *limits), 0, len(values), 0)


def test_mixed_pieces_are_said_to_be_mixed() -> None:
    from ditto_run.core.edits import SetSetup, SetStation, apply_edit
    from tests.conftest import SHOP

    plan = planned(3, SetSetup("second side", 1, "pallet"))
    second = plan.setups[-1].key
    plan = apply_edit(SetStation(second, "P", offset="G57", pieces=3), plan, SHOP).plan
    hand = CoreHand(plan).proven()
    hand.do(do.OpenSetup(second, "lost"))
    hand.load()
    assert report(hand.state).mixed_before == "second side"
    assert report(hand.state).pieces[0].made == ((1, 1, "A"), (2, 1, "P"))


def test_a_size_gauged_in_two_setups_counts_once_a_piece_as_the_last_one_left_it() -> None:
    from dataclasses import replace

    from ditto_run.core.edits import SetSetup, SetStation, apply_edit
    from tests.conftest import SHOP

    plan = planned(3, SetSetup("second side", 1, "pallet"))
    second = plan.setups[-1].key
    plan = apply_edit(SetStation(second, "P", offset="G57", pieces=3), plan, SHOP).plan
    slot, *others = plan.characteristics
    plan = replace(plan, characteristics=(replace(slot, also_in=second), *others))
    hand = CoreHand(plan).proven()
    hand.do(do.TakeReading(2, 1, "20.01"), do.TakeReading(3, 1, "20.02"))
    hand.do(do.TakeReading(2, 2, "31.5"), do.TakeReading(3, 2, "31.5"))
    hand.do(do.OpenSetup(second))
    hand.load()
    hand.do(do.TakeReading(1, 1, "20.028"))
    found = report(hand.state)
    assert found.dimensions[0].figures == capability([20.028, 20.01, 20.02], 19.97, 20.03)
    assert [str(row.readings[1][0].value) for row in found.pieces] == ["20.028", "20.01", "20.02"]
