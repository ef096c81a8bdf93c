"""Features added by their lines: what the chain learns of them, which sizes become dimensions, what is refused."""

from dataclasses import replace

import pytest

from ditto_run.core.edits import (
    AddFeatureLines,
    RemoveFeature,
    SetCharacteristic,
    SetFeature,
    SetFeatureForm,
    SetFeatureLine,
    SetForm,
    apply_edit,
)
from ditto_run.core.edits.base import PlanRegisters
from ditto_run.core.errors import BadEntry, DittoError, NeedsAnswer
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan, plan_findings
from ditto_run.core.sizes import size_text

SHOP = PlanRegisters()


def planned(*lines: str, form: str = "block") -> Plan:
    plan = Plan(Heading("Oarlock block", quantity=48))
    if form == "turned":
        plan = apply_edit(SetForm("turned"), plan, SHOP).plan
    for line in lines:
        plan = apply_edit(SetFeatureLine(line), plan, SHOP).plan
    return plan


def test_a_line_makes_a_feature_and_its_dimensions() -> None:
    plan = planned(
        "bore 12 H7 through, top, 20 from left, 15 from front",
        "slot 20 ±0.03 x 12 ±0.1 deep, full length, top",
    )
    bore, slot = plan.features
    assert (bore.name, bore.kind, bore.face, bore.refers) == ("bore", "hole", "top", ("left", "front"))
    assert slot.refers == ("top",)  # its depth is from there
    assert plan.characteristic(bore.characteristic).name == "bore"
    assert plan.characteristic(slot.characteristic).name == "slot"
    assert [c.name for c in plan.characteristics] == ["bore", "slot", "slot depth"]
    assert plan.characteristic(bore.characteristic).size.name == "H7"
    assert bore.line.startswith("bore Ø12")


@pytest.mark.parametrize(
    ("line", "form"),
    [
        ("body Ø25 x 80", "turned"),
        ("taper 10° Ø20 x 30 long, free end", "turned"),
        ("body 100 x 50", "block"),
        ("block 60 x 40 x 20", "block"),
        ("hole 6 through, top", "block"),
    ],
)
def test_the_first_line_may_say_that_the_part_is_turned(line: str, form: str) -> None:
    assert planned(line).form == form


def test_only_the_first_line_says_the_form_and_what_was_said_to_be_turned_stays() -> None:
    with pytest.raises(BadEntry, match="A block part has no taper"):
        planned("block 60 x 40 x 20", "taper 10° Ø20 x 30 long, free end")
    with pytest.raises(BadEntry, match="A turned part has no pocket"):
        planned("pocket 10 x 10 x 2 deep, top", form="turned")
    with pytest.raises(BadEntry, match="wibble"):
        planned("body Ø25 x wibble")


def test_a_dimension_that_is_not_the_main_size_is_called_by_what_it_is() -> None:
    plan = planned("outline 60 x 40 x 31.5 ±0.05")
    assert [c.name for c in plan.characteristics] == ["height"]  # of the part, not of its outline
    assert plan.features[0].characteristic == plan.characteristics[0].number


def test_free_sizes_are_no_dimensions_and_threads_are() -> None:
    plan = planned("4x M6 x 12 deep, top", "pocket 40 x 20 x 8 deep, top, in the middle")
    assert [c.name for c in plan.characteristics] == ["tapped hole"]
    assert plan.characteristics[0].by_gauge_only
    assert [f.name for f in plan.features] == ["tapped hole", "pocket"]


def test_a_dimension_typed_before_is_carried_if_it_is_the_same_and_refused_if_not() -> None:
    plan = apply_edit(SetCharacteristic("slot", "20 ±0.03", why="slides on the tube"), planned(), SHOP).plan
    same = apply_edit(SetFeatureLine("slot 19.97 to 20.03 x 12 deep, full length, top"), plan, SHOP)
    assert same.plan.features[0].characteristic == plan.characteristics[0].number
    assert same.plan.characteristics[0].why == "slides on the tube"
    with pytest.raises(BadEntry, match="a dimension slot already"):
        apply_edit(SetFeatureLine("slot 22 ±0.03 x 12 deep, full length, top"), plan, SHOP)


def test_a_dimension_follows_its_line_when_the_limits_go() -> None:
    plan = planned("bore 12 H7 through, top, centre")
    plan = apply_edit(
        SetFeatureLine("bore 13 through, top, centre", key=plan.features[0].key), plan, SHOP
    ).plan
    size = plan.characteristic(plan.features[0].characteristic).size
    assert (size.nominal, size.has_limits) == (13, False)


def test_a_line_that_came_in_unreadable_is_known_by_name_alone() -> None:
    """No page of the job may stand still for it; the others are read as ever."""
    plan = planned("bore 12 H7 through, top, centre", "hole 6 through, top, 2 from left, 5 from front")
    spoilt = replace(plan, features=(replace(plan.features[0], line="bohrung 12"), plan.features[1]))
    assert [named.name for named in spoilt.described] == ["hole"]
    assert plan_findings(spoilt, {})


def test_names_are_told_apart() -> None:
    plan = planned(
        "face top",
        "face bottom",
        "hole 6 through, top, centre",
        "hole 8 through, top, centre",
        "hole 9 through, top, centre",
    )
    assert [f.name for f in plan.features] == ["top face", "bottom face", "hole", "hole, top", "hole 2"]


def test_both_ends_of_a_turned_part_are_two_features() -> None:
    plan = planned(
        "M8 x 16 deep, both ends",
        "shoulder 20 h6 x 30",
        "groove 3 wide to Ø9 at 20",
        "part off",
        form="turned",
    )
    assert [(f.face, f.kind) for f in plan.features] == [
        ("free end", "thread"),
        ("chuck end", "thread"),
        ("outside", "turned"),
        ("outside", "slot"),
        ("bar", "cut off"),
    ]
    with pytest.raises(BadEntry, match="the line makes two"):
        apply_edit(SetFeatureLine("M8 x 16 deep, both ends", key=plan.features[0].key), plan, SHOP)


def test_a_changed_line_changes_its_dimension_and_keeps_what_is_known_of_it() -> None:
    plan = planned("bore 12 H7 through, top, centre")
    number = plan.features[0].characteristic
    plan = apply_edit(
        SetCharacteristic("bore", "12 H7", grade="critical", why="the pin turns in it", number=number),
        plan,
        SHOP,
    ).plan
    plan = apply_edit(
        SetFeatureLine("bore 14 H7 through, top, centre", key=plan.features[0].key), plan, SHOP
    ).plan
    kept = plan.characteristic(number)
    assert (kept.size.nominal, kept.grade, kept.why) == (14, "critical", "the pin turns in it")
    assert len(plan.characteristics) == len(plan.features) == 1


def test_a_feature_changed_by_name_keeps_its_line_only_while_it_is_true() -> None:
    plan = planned("bore 12 through, top, centre")
    key = plan.features[0].key
    same = apply_edit(SetFeature("big bore", "top", "hole", key=key), plan, SHOP).plan
    assert same.features[0].line == plan.features[0].line
    other = apply_edit(SetFeature("big bore", "bottom", "hole", key=key), plan, SHOP).plan
    assert other.features[0].line == ""
    assert apply_edit(RemoveFeature(key), plan, SHOP).plan.features == ()


@pytest.mark.parametrize(
    ("line", "said"),
    [
        ("", "No feature is typed"),
        ("6 on a 50 circle", "does not say what it is"),
        ("hole 6 through", "on which face"),
        ("hole wibble", "wibble"),
    ],
)
def test_a_line_that_does_not_do_is_refused_at_its_field(line, said) -> None:
    with pytest.raises(DittoError, match=said) as refused:
        planned(line)
    assert refused.value.field == "line"


def test_a_doubtful_size_is_asked_once() -> None:
    plan = planned("bore 12 H7 through, top, centre")
    line = "slot .500 ±.001 x 3 deep, full length, top"
    with pytest.raises(NeedsAnswer) as asked:
        apply_edit(SetFeatureLine(line), plan, SHOP)
    assert asked.value.field == "line"
    assert apply_edit(SetFeatureLine(line, keep=line), plan, SHOP).plan.features[-1].name == "slot"


def test_many_lines_are_added_together_or_not_at_all() -> None:
    lines = "face top\n\n  bore 12 H7 x 20 deep, top, centre\nM6 x 12 deep, top, 10 from left\n"
    found = apply_edit(AddFeatureLines(lines), planned(), SHOP)
    assert [f.name for f in found.plan.features] == ["top face", "bore", "tapped hole"]
    assert "3 features" in found.what
    with pytest.raises(BadEntry) as refused:
        apply_edit(AddFeatureLines("face top\n\nhole wibble"), planned(), SHOP)
    assert refused.value.problem.startswith("Line 3, “hole wibble”: “wibble” is no word")
    assert refused.value.field == "lines"
    with pytest.raises(BadEntry, match="between 1 and 200"):
        apply_edit(AddFeatureLines(" \n "), planned(), SHOP)


def test_a_doubtful_size_among_many_is_asked_once() -> None:
    plan, lines = (
        planned("bore 12 H7 through, top, centre"),
        "face bottom\nslot .500 ±.001 x 3 deep, full length, top",
    )
    with pytest.raises(NeedsAnswer) as asked:
        apply_edit(AddFeatureLines(lines), plan, SHOP)
    assert asked.value.problem.startswith("Line 2")
    assert (
        len(apply_edit(AddFeatureLines(lines, keep=lines.replace("\n", "\r\n")), plan, SHOP).plan.features)
        == 3
    )


def test_a_form_says_the_line_it_stands_for() -> None:
    plan = apply_edit(
        SetFeatureForm("hole", "top", "4", "50", "circle", "on", diameter="6.6"), planned(), SHOP
    ).plan
    assert plan.features[-1].line == "4x holes Ø6.6 mm, through, on a 50 mm circle, top"
    plan = apply_edit(SetFeatureForm("slot", "top", width="20 ±0.03", length="28", depth="12", from_left="3", from_front="8"), plan, SHOP).plan  # fmt: skip
    assert (
        plan.features[-1].line
        == "slot 20.00 ±0.03 mm wide x 12 mm deep x 28 mm long, 3 mm from left, 8 mm from front, top"
    )
    assert plan.characteristics[-1].name == "slot"


@pytest.mark.parametrize(
    ("edit", "said"),
    [
        (SetFeatureForm(" "), "does not say what it is"),
        (SetFeatureForm("hole", diameter="6"), "on which face"),
        (SetFeatureForm("hole", "top", diameter="wide"), "no word we know"),
        (SetFeatureForm("shoulder", diameter="6"), "A block part has no shoulder"),
    ],
)
def test_a_form_that_says_nothing_sensible_is_refused(edit, said) -> None:
    with pytest.raises(DittoError, match=said):
        apply_edit(edit, planned("block 60 x 40 x 20"), SHOP)


def test_form_and_position_become_dimensions_as_the_drawing_words_them() -> None:
    line = "bore 12 H7 through, in the middle, top, perpendicular 0.003 to A, true position 0.2"
    plan = planned(line)
    assert [(c.name, size_text(c.size)) for c in plan.characteristics] == [
        ("bore", "Ø12.000 H7 mm"),
        ("bore perpendicular", "perpendicular 0.003 mm"),
        ("bore position", "position 0.2 mm"),
    ]
    key = plan.features[0].key
    assert len(apply_edit(SetFeatureLine(line, key), plan, SHOP).plan.characteristics) == 3
    tighter = apply_edit(SetFeatureLine(line.replace("0.003", "0.002"), key), plan, SHOP).plan
    assert [str(c.size.upper) for c in tighter.characteristics] == ["12.018", "0.002", "0.2"]
