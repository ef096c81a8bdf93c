"""Every caution appears where its condition holds, on each of its places, and nowhere else."""

from dataclasses import replace
from pathlib import Path

import pytest

from ditto_run.core.edits import SetToolStep, apply_edit
from ditto_run.core.plan import Plan
from ditto_run.core.prove import proof_items
from ditto_run.core.prove.hazards import HAZARDS, Where, hazards_of
from ditto_run.core.run.at_machine import plan_words
from ditto_run.core.sheets import KeptSheet
from ditto_run.core.shop import Machine
from tests.conftest import MILL, SHOP, CoreHand, planned

LATHE = Machine(1, "Lathe 1", "lathe")
HAND_LATHE = Machine(1, "Hand lathe", "manual lathe")
HAND_MILL = Machine(1, "Old mill", "manual mill")


def plan(
    holds: str = "collet",
    does: str = "",
    material: str = "6061-T6",
    sheet: str = "",
    pieces: int = 1,
    **heading,
) -> Plan:  # type: ignore[no-untyped-def]
    found = planned(6, stations="A", pieces=pieces)
    key = found.setups[0].key
    if does:
        found = apply_edit(SetToolStep(key, 7, does, "30", "10"), found, SHOP).plan
    setup = replace(found.setups[0], holds=holds)
    kept = (KeptSheet(1, sheet, "bars", {}),) if sheet else ()
    head = replace(found.heading, material=material, **heading)
    return replace(found, setups=(setup,), heading=head, sheets=kept)


PLAIN = (plan(), MILL)
CASES = {  # key: a setup where it holds, and one where it does not
    "rotating": (PLAIN, None),
    "chuck key": ((plan(), LATHE), PLAIN),
    "drawbar": (PLAIN, (plan(), LATHE)),
    "face plate": ((plan("face plate with straps"), LATHE), (plan("face plate with straps"), MILL)),
    "long bar": ((plan(sheet="cuts"), LATHE), (plan(), LATHE)),
    "part off": ((plan(does="part off"), LATHE), (plan(does="face"), LATHE)),
    "slitting": ((plan(does="slit 2 wide"), MILL), PLAIN),
    "powered tap": ((plan(does="tap M6"), HAND_MILL), (plan(does="tap M6"), MILL)),
    "several pieces": ((plan(pieces=4), MILL), PLAIN),
    "vacuum": ((plan("vacuum plate"), MILL), PLAIN),
    "air": ((plan("air vise"), MILL), (plan("stairs of the fixture"), MILL)),
    "hot": ((plan(material="316 stainless"), MILL), PLAIN),
    "swarf": (PLAIN, None),
    "heat": ((plan(does="silver solder the pin with a torch"), HAND_MILL), PLAIN),
    "first moves": (PLAIN, (plan(), HAND_LATHE)),
    "lifting": ((plan("two vises"), MILL), PLAIN),
    "consequence": ((plan(lifts=True), MILL), PLAIN),
}


def keys(found: Plan, machine: Machine, where: Where) -> set[str]:
    return {one.key for one in hazards_of(found, found.setups[0], machine, where)}


def test_every_caution_has_its_cases() -> None:
    assert set(CASES) == {one.key for one in HAZARDS}


@pytest.mark.parametrize("hazard", HAZARDS, ids=lambda one: one.key)
def test_it_is_said_where_it_holds_on_each_of_its_places_and_nowhere_else(hazard) -> None:  # type: ignore[no-untyped-def]
    there, elsewhere = CASES[hazard.key]
    places: tuple[Where, ...] = ("setup sheet", "prove", "run")
    for where in places:
        assert (hazard.key in keys(*there, where)) == (where in hazard.where)
        if elsewhere is not None:
            assert hazard.key not in keys(*elsewhere, where)


def test_prove_asks_each_once_and_run_says_them_with_the_manual_last() -> None:
    several = plan(pieces=4)
    items = proof_items(several, several.all_cycles[0], MILL, {})
    assert [one.key for one in items].count("hazard several pieces") == 1
    hand = CoreHand(planned())
    said = [text for word, text in plan_words(hand.state, (), MILL) if word == "Caution"]
    assert any(text.startswith("No gloves") for text in said)
    assert said[-1] == "The machine’s manual and local rules come first."
    assert not any(text.startswith("Chuck key") for text in said)


def test_the_table_in_the_docs_says_the_same() -> None:
    rows = (Path(__file__).parents[3] / "docs/hazards.md").read_text().splitlines()
    for one in HAZARDS:
        marks = ["yes" if where in one.where else "" for where in ("setup sheet", "prove", "run")]
        assert f"| {one.key} | {one.words} | " + " | ".join(marks) + " |" in rows
