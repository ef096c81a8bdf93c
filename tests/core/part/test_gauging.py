"""How often a size is gauged: worked by hand, asked once batches taught the machine's drift, given to Run."""

from dataclasses import replace
from decimal import Decimal as D

import pytest

from ditto_run.core.close.taught import batch_teaches
from ditto_run.core.edits import GiveBackSize, apply_edit
from ditto_run.core.errors import BadEntry
from ditto_run.core.part.gauging_sheet import every_loads
from ditto_run.core.plan import ShopKnown
from ditto_run.core.plan.asked import part_asked
from ditto_run.core.plan.worked import work_out
from ditto_run.core.run import events as do
from ditto_run.core.sheets import Entries
from ditto_run.core.shop.taught import Taught, read_taught
from tests.conftest import MILL, SHOP, CoreHand, planned

DRIFT = Taught("drift", 0.05, 2, 80, "several-up", "Mill 2", "", ("4/1", "5/1"))


@pytest.mark.parametrize(
    ("width", "drift", "pieces", "loads"),
    [
        ("0.06", "0.05", 1, 30),  # half of 0.03 is 0.015; 0.0005 a piece: 30 loads
        ("0.06", "0.05", 3, 10),
        ("0.06", "0.0501", 3, 9),
        ("0.06", "5", 3, 1),
        ("0.06", "0", 3, None),
    ],
)
def test_worked_by_hand(width: str, drift: str, pieces: int, loads: int | None) -> None:
    assert every_loads(D(width), D(drift), pieces).loads == loads


def test_it_is_asked_where_the_machine_taught_its_drift_and_goes_to_run() -> None:
    plan = planned(24)
    assert part_asked(work_out(plan, ShopKnown({1: MILL}))) == ()
    other = ShopKnown({1: MILL}, taught=(replace(DRIFT, machine="Old mill"),))
    assert part_asked(work_out(plan, other)) == ()
    shop = ShopKnown({1: MILL}, taught=(DRIFT,))
    slot, height = part_asked(work_out(plan, shop))
    assert (slot.question, slot.texts) == (
        "gauging",
        {"size": slot.texts["size"], "drift": "0.05000 mm", "pieces": "1"},
    )
    assert (slot.gives, height.gives) == ((("every", "30"),), (("every", "50"),))
    given = apply_edit(GiveBackSize(1, "every", "30"), plan, SHOP).plan
    assert part_asked(work_out(given, shop))[0].given
    hand = CoreHand(given)
    assert (hand.state.sampling(1), hand.state.sampling(2)) == (30, plan.heading.gauged_every)
    back = apply_edit(GiveBackSize(1, "every", ""), given, SHOP).plan
    assert back.characteristics == plan.characteristics


@pytest.mark.parametrize("text", ["0", "1001", "often"])
def test_how_often_is_a_number_of_loads(text: str) -> None:
    with pytest.raises(BadEntry):
        apply_edit(GiveBackSize(1, "every", text), planned(24), SHOP)


def drifting(step: str, loads: int = 11) -> CoreHand:
    """Loads of one piece; the slot grows by so much a piece."""
    hand = CoreHand(planned(24, stations="A")).proven()
    for n in range(1, loads):
        hand.do(do.StartCycle(), do.EndCycle())
        piece, value = hand.state.here.loads[-1].pieces[0], f"{D('20.004') + n * D(step):f}"
        hand.do(do.TakeReading(piece, 1, value, confirm=value))
    return hand


def taught(hand: CoreHand) -> dict[str, float]:
    return {one.figure: one.value for one in batch_teaches(hand.state, {1: "Mill 2"}, "7/1")}


def test_a_batch_teaches_how_far_its_worst_size_goes_in_a_hundred_pieces() -> None:
    """A line by hand: 0.002 mm a piece is 0.2 mm in 100."""
    assert taught(drifting("0.002"))["drift"] == pytest.approx(0.2)
    assert taught(drifting("-0.002"))["drift"] == pytest.approx(0.2)  # whichever way
    assert taught(drifting("0"))["drift"] == 0
    assert "drift" not in taught(drifting("0.002", loads=4))  # four readings show no line


def test_a_change_parts_the_readings_so_that_dialling_is_no_drift() -> None:
    """Eleven pieces that stand still, then an offset is dialled, eleven more a hundredth on: no line between the two lots."""
    hand = drifting("0")
    hand.do(do.Adjust("T3 radius", "0.01"))
    for _ in range(11):
        hand.do(do.StartCycle(), do.EndCycle())
        piece = hand.state.here.loads[-1].pieces[0]
        hand.do(do.TakeReading(piece, 1, "20.014", confirm="20.014"), do.TakeReading(piece, 2, "31.5"))
    assert taught(hand)["drift"] == 0


def test_a_drift_is_written_and_read_back_as_a_row_of_the_register() -> None:
    row = read_taught(Entries(DRIFT.texts, "in", {}))
    assert (row.figure, row.value, row.machine, row.credible) == ("drift", 0.05, "Mill 2", True)
    assert not replace(DRIFT, value=6).credible
