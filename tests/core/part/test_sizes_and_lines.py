"""A size changed among the dimensions is changed in the line of its feature too, and in a sibling."""

from decimal import Decimal as D

import pytest

from ditto_run.core.edits import (
    AddFeatureLines,
    SetCharacteristic,
    SetForm,
    SetKitPart,
    apply_edit,
    make_sibling,
    sibling_sizes,
)
from ditto_run.core.errors import BadEntry
from ditto_run.core.part import Heading
from ditto_run.core.part.family import read_siblings
from ditto_run.core.plan import Plan
from tests.conftest import SHOP
from tests.core.run.test_cycles import two_parts


def pin() -> Plan:
    plan = Plan(Heading("Pin 10", 40, "mm"))
    lines = (
        "body Ø16 x 76\nshoulder Ø10 0/-0.04 x 70 ±0.1 long, free end\noutside thread M8 x 12 long, free end"
    )
    for edit in (SetForm("turned"), AddFeatureLines(lines)):
        plan = apply_edit(edit, plan, SHOP).plan
    return plan


def lines(plan: Plan) -> list[str]:
    return [feature.line for feature in plan.features]


def resized(plan: Plan, name: str, size: str, called: str = "") -> Plan:
    c = next(c for c in plan.characteristics if c.name == name)
    edit = SetCharacteristic(called or c.name, size, c.grade, number=c.number, keep=size)
    return apply_edit(edit, plan, SHOP).plan


@pytest.mark.parametrize(
    ("name", "size", "line"),
    [
        ("shoulder", "Ø12 0/-0.04", "shoulder Ø12.00 0/-0.04 mm x 70.0 ±0.1 mm long, free end"),
        (
            "shoulder",
            "12 ±0.02",
            "shoulder Ø12.00 ±0.02 mm x 70.0 ±0.1 mm long, free end",
        ),  # still a diameter
        ("shoulder length", "2.5 in", "shoulder Ø10.00 0/-0.04 mm x 2.5 in long, free end"),
        ("outside thread", "M10", "outside thread M10×1.5 x 12 mm long, free end"),
    ],
)
def test_the_line_follows_the_size(name: str, size: str, line: str) -> None:
    before = pin()
    after = resized(before, name, size)
    assert line in lines(after)
    assert len(set(lines(before)) - set(lines(after))) == 1


def test_a_size_that_is_renamed_keeps_its_line_and_one_of_another_meaning_leaves_it() -> None:
    plan = resized(pin(), "shoulder", "Ø11 0/-0.04", called="stem")
    assert any("Ø11.00" in line for line in lines(plan))
    plan = apply_edit(
        SetCharacteristic("length", "80 ±0.2"), plan, SHOP
    ).plan  # the body says 76: not the same
    assert any("76" in line for line in lines(resized(plan, "length", "81 ±0.2")))


def test_a_sibling_is_another_size_in_its_lines_too() -> None:
    plan = pin()
    assert sibling_sizes(plan) == [
        "shoulder",
        "shoulder length",
        "outside thread",
        "diameter",
        "length",
        "outside thread length",
    ]
    row = "Pin 12; 40; shoulder = 12 0/-0.04; shoulder length = 90 ±0.1; length = 96; diameter = 20"
    made = make_sibling(plan, read_siblings(row, sibling_sizes(plan))[0], SHOP)
    assert "body Ø20 mm x 96 mm long" in lines(made)
    assert "shoulder Ø12.00 0/-0.04 mm x 90.0 ±0.1 mm long, free end" in lines(made)
    with pytest.raises(BadEntry, match="Line 1"):
        make_sibling(plan, read_siblings("Pin 0; 4; length = much", sibling_sizes(plan))[0], SHOP)


def test_a_sibling_is_of_the_part_in_front_alone() -> None:
    plan = apply_edit(SetKitPart("nut", 2, "bought", 10), two_parts(), SHOP).plan
    for seen, name in ((plan, "depth"), (plan.seen_from(2), "depth")):
        made = make_sibling(seen, read_siblings(f"Stay; 3; {name} = 7 ±0.05", sibling_sizes(seen))[0], SHOP)
        assert (made.companions, made.cycles, made.part) == ((), (), 1)
        assert {station.cycle for station in made.stations} == {0}
        assert [c.drawing.nominal for c in made.characteristics] == [D(7)]
    assert [part.have for part in make_sibling(plan, read_siblings("Stay; 3", [])[0], SHOP).kit] == [0]
