"""What follows from the part in a plan: the blank, the piece as it lies on the table, jaws of the register, reach and room."""

from dataclasses import replace
from decimal import Decimal

import pytest

from ditto_run.core.edits import (
    AddFeatureLines,
    KeepSheet,
    PlanRegisters,
    RemoveSetup,
    SetCharacteristic,
    SetForm,
    SetSetup,
    SetToolStep,
    apply_edit,
)
from ditto_run.core.errors import BadEntry, NeedsAnswer
from ditto_run.core.part import Heading
from ditto_run.core.part.shape.measures import MEASURES
from ditto_run.core.plan import Plan
from ditto_run.core.plan.held import contacts, layout_of, lying_mm, room_findings, vise_of
from ditto_run.core.plan.open import plan_findings
from ditto_run.core.plan.worked import ShopKnown, blank_of, known_of, work_out
from ditto_run.core.sheets import KeptSheet
from ditto_run.core.shop import Ability, Machine
from ditto_run.core.shop.drawers import drawer_of

D = Decimal
SHOP = PlanRegisters({1: Machine(1, "Mill 2", "mill")})
LINES = "block 60 x 40 x 31.5\nface, top\nbore 12 H7 through, 16 from left, in the middle, top"
VISE = {
    "name": "Vise 1",
    "kind": "vise",
    "shape": "flat",
    "low": "0",
    "high": "110",
    "marks": "light",
    "jaw_high": "25",
}


def plan_of(*edits: object, lines: str = LINES) -> Plan:
    plan = Plan(Heading("Clamp", 24, "mm"))
    for edit in (AddFeatureLines(lines), *edits):
        plan = apply_edit(edit, plan, SHOP).plan
    return plan


HELD = SetSetup(
    "first side", 1, "Vise 1", locates_on=("bottom",), clamps_on=("front", "back"), cuts=(2, 4), parallels="17", to_stop="left"
)  # fmt: skip


def codes(plan: Plan) -> set[str]:
    return {finding.code for finding in plan_findings(plan, SHOP.machines)}


def test_the_blank_takes_the_parts_own_sizes_and_a_typed_one_is_kept() -> None:
    plan = plan_of(KeepSheet("blank", {"shape": "block", "facing": "1.5", "skin": "1.5"}))
    assert blank_of(plan).blank_mm == (D("63.0"), D("43.0"), D("34.5"))
    answer = work_out(plan).answers[plan.sheets[0].key]
    assert next(fact.note for fact in answer.facts if fact.label == "Finished") == "from the features"
    typed = plan_of(KeepSheet("blank", {"shape": "block", "length": "70"}))
    assert blank_of(typed).blank_mm == (D(70), D("40.0"), D("31.5"))
    bar = replace(
        plan, sheets=(KeptSheet(99, "blank", "blank", {"shape": "bar", "length": "70", "across": "x"}),)
    )
    assert blank_of(bar) is None
    assert known_of(plan).of(MEASURES).volume == pytest.approx(
        60 * 40 * 31.5 - 3.14159265 * 36 * 31.5, rel=1e-6
    )


def test_without_features_the_blank_asks_for_its_sizes() -> None:
    plan = Plan(Heading("Clamp", 24, "mm"))
    with pytest.raises(BadEntry) as refused:
        apply_edit(KeepSheet("blank", {"shape": "block"}), plan, SHOP)
    assert refused.value.field == "length"


def test_the_piece_as_it_lies_goes_to_place_with_its_parallels_and_the_largest_cutter() -> None:
    plan = plan_of(KeepSheet("blank", {"shape": "block", "facing": "1.5", "skin": "1.5"}), HELD)
    key = plan.setups[0].key
    assert lying_mm(plan, key) == (D("63.0"), D("43.0"), D("34.5"))
    plan = apply_edit(SetToolStep(key, 1, "face", "18", "24", across="50"), plan, SHOP).plan
    plan = apply_edit(SetToolStep(key, 2, "ream", "18", "24", across="12"), plan, SHOP).plan
    layout = layout_of(plan, key)
    assert (layout.raised_mm, layout.cutter_mm, layout.piece_mm[2]) == (17, 50, D("34.5"))
    turned_up = apply_edit(
        replace(HELD, key=key, locates_on=("back",), clamps_on=("top", "bottom")), plan, SHOP
    ).plan
    assert lying_mm(turned_up, key) == (D("63.0"), D("34.5"), D("43.0"))
    assert lying_mm(plan, 99) == (D("63.0"), D("43.0"), D("34.5"))  # of no setup: the blank


def test_jaws_come_from_the_register_by_name() -> None:
    plan = plan_of(HELD)
    holder = drawer_of("holders").value(VISE, "mm")
    vise = vise_of(plan.setups[0], plan, {"Vise 1": holder})
    assert (vise.high, vise.opens, vise.name) == (25, 110, "Vise 1")
    assert vise_of(plan.setups[0], plan, {}).high is None
    (held,) = contacts(work_out(plan, ShopKnown(SHOP.machines, holders={"Vise 1": holder})))
    assert (held.heights.grip, held.judged) == (8, True)


@pytest.mark.parametrize(("reach", "asked"), [("36.11", False), ("36.1", True), ("", False)])
def test_a_tool_that_does_not_reach_its_deepest_cut_is_asked_about(reach, asked) -> None:
    """The bore is 31.5 deep; its point and the way out below are 4.6048 more."""
    plan = plan_of(HELD)
    key = plan.setups[0].key
    plan = apply_edit(SetToolStep(key, 5, "drill", "14", "24", reach=reach), plan, SHOP).plan
    assert ("reach-short" in codes(plan)) is asked


@pytest.mark.parametrize(("travel", "found"), [("60", []), ("59.9", ["piece-over-machine"])])
def test_a_piece_larger_than_its_machine_is_said(travel, found) -> None:
    plan = plan_of(HELD)
    machine = Machine(1, "Mill 2", "mill", ability=Ability(travel_x_mm=D(travel)))
    (held,) = contacts(work_out(plan))
    assert [f.code for f in room_findings(held, machine, "mm")] == found
    assert room_findings(held, None, "mm") == []


def test_a_bar_thicker_than_the_spindle_is_said() -> None:
    plan = Plan(Heading("Pin", 24, "mm"))
    for edit in (
        SetForm("turned"),
        AddFeatureLines("body Ø20 x 50\npart off 50"),
        SetSetup("one", 1, "collet", locates_on=("bar",), clamps_on=("bar",), cuts=(1, 2)),
    ):
        plan = apply_edit(edit, plan, SHOP).plan
    (held,) = contacts(work_out(plan))
    lathe = Machine(1, "Lathe 1", "lathe", ability=Ability(bar_mm=D("19.9")))
    assert [f.code for f in room_findings(held, lathe, "mm")] == ["piece-over-machine"]
    assert room_findings(held, replace(lathe, ability=Ability(bar_mm=D(20))), "mm") == []


def test_what_comes_with_the_blank_is_measured_when_it_comes() -> None:
    lines = f"{LINES}\ncut-out: hole 22 ±0.5 through, 40 from left, in the middle, top, supplied"
    plan = plan_of(lines=lines)
    assert "supplied-not-measured" in codes(plan)
    assert not any(c.name.startswith("cut-out") for c in plan.characteristics)
    kept = replace(plan, sheets=(KeptSheet(99, "incoming", "cut-outs", {}),))
    assert "supplied-not-measured" not in codes(kept)


def test_a_slipped_point_is_noticed_against_the_part_that_was_said() -> None:
    with pytest.raises(NeedsAnswer, match="315"):
        plan_of(SetCharacteristic("seat", "315 ±0.05"), lines="block 60 x 40 x 31.5")


@pytest.mark.parametrize(
    ("more", "field"),
    [({"parallels": "-1"}, "parallels"), ({"grip": "0"}, "grip"), ({"up": "free end"}, "up"), ({"jaw_high": "17"}, "parallels"), ({"stick_out": "as usual"}, "stick_out")],
)  # fmt: skip
def test_heights_that_cannot_be_are_refused_at_their_field(more, field) -> None:
    with pytest.raises(BadEntry) as refused:
        plan_of(replace(HELD, **more))
    assert refused.value.field == field


@pytest.mark.parametrize(
    ("lines", "skin", "asked"),
    [("block 60 x 40 x 31.5", "0", False), ("block 60 x 40 x 31.5", "0.5", True), ("block 60 x 40 x 31.5, R5", "0", True)],
)  # fmt: skip
def test_an_outline_that_the_blank_has_already_needs_no_setup(lines, skin, asked) -> None:
    blank = KeepSheet("blank", {"shape": "block", "facing": skin, "skin": skin})
    held = replace(HELD, cuts=(2,))
    said = [
        f.problem for f in plan_findings(plan_of(blank, held, lines=f"{lines}\nface, top"), SHOP.machines)
    ]
    assert ("No setup makes outline." in said) is asked
    assert "No setup makes outline." in [f.problem for f in plan_findings(plan_of(held, lines=f"{lines}\nface, top"), SHOP.machines)]  # fmt: skip


def test_a_blank_planned_for_another_part_is_asked_about() -> None:
    plan = plan_of(KeepSheet("blank", {"shape": "block", "height": "30"}))
    said = [f.problem for f in plan_findings(plan, SHOP.machines) if f.code == "blank-other-part"]
    assert said == [
        "The blank is for 30.000 mm (1.1811 in) of height, and the part's is 31.500 mm (1.2402 in)."
    ]
    assert "blank-other-part" not in codes(plan_of(KeepSheet("blank", {"shape": "block", "height": "31.5"})))
    assert "blank-other-part" not in codes(
        plan_of(KeepSheet("blank", {"shape": "bar", "length": "70", "across": "12"}))
    )


def test_a_size_that_the_next_setup_sits_on_is_gauged_before_it() -> None:
    second = SetSetup("second side", 1, "pin", locates_on=("top", "bore"), clamps_on=("bore",), cuts=(1,))
    plan = plan_of(HELD, second)
    assert "located-ungauged" not in codes(plan)  # gauged where it is made, in the first
    bore = next(c for c in plan.characteristics if c.name == "bore")
    late = replace(plan, characteristics=(replace(bore, setup=plan.setups[1].key),))
    said = [f.problem for f in plan_findings(late, SHOP.machines) if f.code == "located-ungauged"]
    assert said == ["second side locates on bore, and bore is gauged only in second side."]
    first, last = (setup.key for setup in plan.setups)
    both = replace(late, characteristics=(replace(bore, setup=last, also_in=first),))
    assert "located-ungauged" not in codes(both)
    assert [[c.name for c in both.gauged_in(key)] for key in (first, last)] == [["bore"], ["bore"]]
    gone = apply_edit(RemoveSetup(first), both, SHOP).plan  # with its setup goes what was gauged there
    assert (gone.characteristics[0].setup, gone.characteristics[0].also_in) == (last, None)
