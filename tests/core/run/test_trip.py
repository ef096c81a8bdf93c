"""Pieces go out and come back: counted both ways, never more than there are, kept after closing, listed for the plater."""

from dataclasses import replace
from decimal import Decimal

import pytest

from ditto_run.core.close.packing import packing_list
from ditto_run.core.errors import BadEntry, NotFound, NotNow
from ditto_run.core.part.finish import Finish
from ditto_run.core.run import events as do
from tests.conftest import CoreHand, planned


def made(quantity: int = 3) -> CoreHand:
    """A batch with every piece good."""
    hand = CoreHand(planned(quantity))
    hand.load("20.004")
    hand.do(do.TakeReading(1, 2, "31.502"), do.AcceptMaster(1))
    for piece in (2, 3):
        hand.do(do.TakeReading(piece, 1, "20.001"), do.TakeReading(piece, 2, "31.5"))
    return hand


def test_what_goes_out_is_counted_in_until_all_are_back() -> None:
    hand = made()
    hand.do(do.SendOut("clear anodise", "the plater", "3", "2026-12-04", "85.00", "bores plugged"))
    (trip,) = hand.state.trips
    assert (trip.pieces, trip.away, trip.cents, trip.promised) == (3, 3, 8500, "2026-12-04")
    hand.do(do.ComeBack(trip.number, "2", "1"))
    (trip,) = hand.state.trips
    assert (trip.away, trip.rejects) == (1, 1)
    hand.do(do.ComeBack(trip.number, "1"))
    assert hand.state.trips[0].away == 0
    with pytest.raises(NotNow):
        hand.do(do.ComeBack(trip.number, "1"))
    hand.do(do.Undo())
    assert hand.state.trips[0].away == 1


@pytest.mark.parametrize(
    ("pieces", "promised", "field"),
    [
        ("0", "", "pieces"),
        ("4", "", "pieces"),
        ("many", "", "pieces"),
        ("2", "Friday", "promised"),
        ("2", "2026-13-01", "promised"),
    ],
)
def test_what_cannot_go_out_is_said_at_its_field(pieces: str, promised: str, field: str) -> None:
    with pytest.raises(BadEntry) as refused:
        made().do(do.SendOut("anodise", "the plater", pieces, promised))
    assert refused.value.field == field


def test_what_is_out_or_came_back_bad_cannot_go_out_again() -> None:
    hand = made()
    hand.do(do.SendOut("anodise", "the plater", "2"))
    with pytest.raises(BadEntry, match="1 good one is here"):
        hand.do(do.SendOut("anodise", "another", "2"))
    hand.do(do.ComeBack(hand.state.trips[0].number, "2", "1"))
    with pytest.raises(BadEntry):
        hand.do(do.SendOut("anodise", "another", "3"))
    hand.do(do.SendOut("engrave", "another", "2"))


def test_more_than_went_out_cannot_come_back() -> None:
    hand = made()
    hand.do(do.SendOut("anodise", "the plater", "2"))
    number = hand.state.trips[0].number
    for pieces, rejects in (("3", ""), ("0", ""), ("1", "2")):
        with pytest.raises(BadEntry):
            hand.do(do.ComeBack(number, pieces, rejects))
    with pytest.raises(NotFound):
        hand.do(do.ComeBack(99, "1"))


def test_the_packing_list_names_finish_sizes_and_what_is_kept_free() -> None:
    hand = made()
    plan = hand.plans[1]
    finish = Finish(1, "clear anodise", Decimal(8), Decimal(15))
    first = replace(plan.characteristics[0], finish=1)
    hand.plans[1] = replace(plan, finishes=(finish,), characteristics=(first, plan.characteristics[1]))
    hand.do(do.SendOut("clear anodise", "the plater", "3", mask="pin bore plugged"))
    listed = packing_list(hand.state, hand.state.trips[0])
    assert listed.finish == "clear anodise, 8 to 15 µm"
    assert listed.mask == ("pin bore plugged",)
    (size,) = listed.sizes
    assert (size.name, size.gauged) == ("slot", "20.001 mm to 20.004 mm, mean 20.002, 3 gauged")
