"""Which recipe of coolant a tool step wants: by its words, then the nearest row."""

import pytest

from ditto_run.core.shop.drawers import Coolant
from ditto_run.core.shop.recipes import operation_of, recipe_for


@pytest.mark.parametrize(
    ("does", "turns", "operation"),
    [
        ("drill and tap M6", False, "tap"),
        ("spot drill", False, "drill"),
        ("tape off", False, "mill"),  # no tapping in it
        ("part off", True, "part off"),
        ("finish slot", False, "mill"),
        ("face", True, "turn"),  # faced on a lathe is turned
        ("bore to 12", False, "turn"),
        ("finish", True, "turn"),
    ],
)
def test_an_operation_is_known_by_its_words(does: str, turns: bool, operation: str) -> None:
    assert operation_of(does, turns=turns) == operation


ANY = Coolant("emulsion", "", "any", "emulsion 8 %", "")
TAP = Coolant("tapping", "", "tap", "cutting oil", "")
STEEL = Coolant("tapping 316", "316", "tap", "heavy oil, by brush", "")
ALU = Coolant("alloy", "6061", "any", "spirit mist", "")


@pytest.mark.parametrize(
    ("material", "operation", "found"),
    [
        ("316 stainless", "tap", STEEL),
        ("C45", "tap", TAP),
        ("C45", "mill", ANY),
        ("6061-T6", "tap", ALU),  # the material tells more than the operation
        ("", "tap", TAP),
    ],
)
def test_the_nearest_recipe_is_taken(material: str, operation: str, found: Coolant) -> None:
    assert recipe_for((ANY, TAP, STEEL, ALU), material, operation) is found
    assert recipe_for((STEEL,), "C45", operation) is None
