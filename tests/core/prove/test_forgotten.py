"""What was forgotten before stands on top of the start list, until looking at it is habit."""

from dataclasses import replace

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.prove import proof_items
from ditto_run.core.shop.drawers import drawer_of
from ditto_run.core.shop.forgotten import FORGETS_AFTER, Forgotten
from tests.conftest import MILL, planned

CHIPS = Forgotten("chips under C", "Mill 2", "12 Nov 2026", 2)
PLAN = planned()


def listed(*forgotten: Forgotten, machine=MILL) -> list[str]:  # type: ignore[no-untyped-def]
    items = proof_items(PLAN, PLAN.cycle(PLAN.all_cycles[0].key), machine, {}, forgotten)
    return [one.words for one in items if one.part == "forgotten"]


def test_it_stands_before_the_plans_own_list_the_oftenest_missed_first() -> None:
    handle = Forgotten("pallet handle half round", "", "3 Nov 2026", 1)
    assert listed(handle, CHIPS) == ["Chips under C.", "Pallet handle half round."]
    items = proof_items(PLAN, PLAN.cycle(PLAN.all_cycles[0].key), MILL, {}, (CHIPS,))
    parts = [one.part for one in items]
    assert parts == sorted(parts, key=("ladder", "forgotten", "start list").index)
    assert (
        next(one.why for one in items if one.part == "forgotten")
        == "Forgotten 2 times, the last on 12 Nov 2026."
    )


def test_what_was_looked_at_often_enough_is_habit() -> None:
    assert listed(replace(CHIPS, looked=FORGETS_AFTER - 1))
    assert not listed(replace(CHIPS, looked=FORGETS_AFTER))


def test_another_machine_is_not_asked() -> None:
    assert not listed(CHIPS, machine=replace(MILL, name="Mill 5"))
    assert listed(replace(CHIPS, machine=""), machine=replace(MILL, name="Mill 5"))


def test_a_row_comes_back_as_it_was_written() -> None:
    assert drawer_of("forgotten").value(CHIPS.texts, "mm") == CHIPS
    assert drawer_of("forgotten").value({"what": " a  b "}, "in") == Forgotten("a b")


@pytest.mark.parametrize(
    "texts", [{}, {"what": "x" * 121}, {"what": "a", "times": "0"}, {"what": "a", "looked": "-1"}]
)
def test_a_row_that_cannot_be_is_refused(texts: dict[str, str]) -> None:
    with pytest.raises(BadEntry):
        drawer_of("forgotten").value(texts, "mm")
