"""What batches showed goes before the table: the grade that six standard deviations need, by kind, way and machine."""

from dataclasses import replace
from decimal import Decimal
from statistics import stdev

import pytest

from ditto_run.core.edits import AddFeatureLines, apply_edit
from ditto_run.core.propose.proposal import ToolsThere, propose_tools
from ditto_run.core.propose.shown import ShownGrade, as_shown, shown_by, together
from ditto_run.core.propose.ways import ways_of
from ditto_run.core.run import events as do
from ditto_run.core.shop.shop_tools import ShopTool
from tests.conftest import SHOP, CoreHand, planned
from tests.core.propose.test_proposal import CLOSE_SLOT, TEN, feature, of


def batch(loads: int, step: str = "0.002") -> CoreHand:
    """A slot of 20 mm, cut at once; its size goes up and down by a step."""
    plan = planned(40, stations="A")
    plan = apply_edit(AddFeatureLines("slot 20 x 8 deep, full length, top"), plan, SHOP).plan
    slot = next(one for one in plan.features if one.kind == "other" or "slot" in one.name)
    features = tuple(replace(one, characteristic=1) if one == slot else one for one in plan.features)
    setups = tuple(replace(one, cuts=(slot.key,), machine_id=1) for one in plan.setups)
    steps = tuple(replace(one, makes=(slot.key,)) for one in plan.tool_steps)
    hand = CoreHand(replace(plan, features=features, setups=setups, tool_steps=steps))
    for n in range(loads):
        hand.load(f"{20 + Decimal(step) * (n % 3):.3f}")
        if not n:
            hand.do(do.TakeReading(1, 2, "31.502"), do.AcceptMaster(1))
    return hand


@pytest.mark.parametrize(("loads", "many"), [(24, 0), (25, 1)])
def test_twenty_five_pieces_show_a_grade(loads: int, many: int) -> None:
    found = shown_by(batch(loads).state)
    assert len(found) == many
    if many:
        spread = stdev([0.002 * (n % 3) for n in range(25)]) * 6000
        assert 9 < spread < 13  # µm; at 20 mm IT5 is 9 and IT6 13 (ISO 286-1): IT6 holds it
        assert (found[0].kind, found[0].how, found[0].grade, found[0].pieces) == ("slot", "once", 6, 25)


def test_the_worst_of_the_batches_of_a_machine_counts_with_all_pieces() -> None:
    some = [
        ShownGrade("slot", "once", 1, 7, 30),
        ShownGrade("slot", "once", 1, 9, 25),
        ShownGrade("slot", "once", 2, 5, 90),
    ]
    assert together(some, 1) == {("slot", "once"): ShownGrade("slot", "once", 1, 9, 55)}
    assert together(some, None) == {}


def test_what_was_shown_goes_before_the_table_both_ways() -> None:
    once = ways_of(feature(CLOSE_SLOT), turned=False)[0]
    assert (once.how, once.grade) == ("once", 10)
    shown = {("slot", once.how): ShownGrade("slot", "once", 1, 8, 30)}
    assert (as_shown(once, "slot", shown).grade, as_shown(once, "slot", shown).shown_on) == (8, 30)
    kit = ToolsThere((TEN, ShopTool("T9", 9, "", "end mill", Decimal(12))))
    assert of(propose_tools([feature(CLOSE_SLOT)], kit, turned=False)[0]).way.name != "milled at once"  # type: ignore[union-attr]
    better = propose_tools([feature(CLOSE_SLOT)], kit, turned=False, shown=shown)[0]
    assert of(better).way.name == "milled at once"  # type: ignore[union-attr] # there is one
    worse = {("slot", how): ShownGrade("slot", how, 1, 12, 40) for how in ("once", "same", "other")}
    assert not of(propose_tools([feature(CLOSE_SLOT)], kit, turned=False, shown=worse)[0]).held  # type: ignore[arg-type] # of How
