"""What tool steps make: said with the step, followed when features go, asked about where something is made by none."""

from dataclasses import replace

import pytest

from ditto_run.core.edits import (
    AddFeatureLines,
    AddPart,
    AddToolLines,
    RemoveFeature,
    SetSetup,
    SetToolStep,
    apply_edit,
)
from ditto_run.core.errors import BadEntry
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan, ShopKnown, plan_findings
from ditto_run.core.plan.asked import tools_asked, tools_wanted
from ditto_run.core.plan.worked import Worked, work_out
from ditto_run.core.questions import Asked
from tests.conftest import MILL, SHOP
from tests.core.tools.test_hole import DRAWER


def cut(*edits: object) -> Plan:
    """A block, its faced top and a hole, cut in one setup."""
    plan = Plan(Heading("Part", 24, "mm"))
    lines = "block 60 x 40 x 20\nface 20 ±0.1, top\nhole 6 x 10 deep, top, in the middle"
    plan = apply_edit(AddFeatureLines(lines), plan, SHOP).plan
    keys = tuple(f.key for f in plan.features[1:])
    plan = apply_edit(SetSetup("first side", 1, "vise", cuts=keys), plan, SHOP).plan
    for edit in edits:
        plan = apply_edit(edit, plan, SHOP).plan
    return plan


def asked(plan: Plan) -> list[str]:
    codes = {"not-made", "makes-elsewhere"}
    return [f.problem for f in plan_findings(plan, {1: MILL}) if f.code in codes]


def keys() -> tuple[int, int, int]:
    plan = cut()
    return plan.setups[0].key, plan.features[1].key, plan.features[2].key


def test_nothing_is_asked_while_no_step_says_what_it_makes() -> None:
    setup, _, _ = keys()
    assert asked(cut(SetToolStep(setup, 1, "face mill", "20"))) == []


def test_what_is_made_by_none_and_what_a_step_makes_elsewhere_is_asked_about() -> None:
    setup, top, hole = keys()
    plan = cut(SetToolStep(setup, 1, "face mill", "20", makes=(top,)))
    assert asked(plan) == ["first side: no tool step makes hole."]
    both = apply_edit(SetToolStep(setup, 2, "drill", "5", makes=(hole, hole)), plan, SHOP).plan
    assert both.tool_steps[1].makes == (hole,)
    assert asked(both) == []
    elsewhere = both.put(replace(both.setups[0], cuts=(top,)))
    assert asked(elsewhere) == ["first side: T02 drill makes hole, which this setup does not cut."]
    gone = apply_edit(RemoveFeature(hole), both, SHOP).plan
    assert gone.tool_steps[1].makes == ()
    assert asked(gone) == []


def test_a_step_makes_only_what_its_setup_cuts() -> None:
    setup, _, _ = keys()
    with pytest.raises(BadEntry) as refused:
        cut(SetToolStep(setup, 1, "face mill", "20", makes=(99,)))
    assert refused.value.field == "makes"


def of_holes(worked: Worked) -> tuple[Asked, ...]:
    return tuple(one for one in tools_asked(worked) if one.thing.startswith("feature "))


def test_lines_given_by_a_question_say_what_they_make_and_are_known_by_their_work() -> None:
    """A step that drills the hole is its drill, whatever it is called."""
    setup, _, hole = keys()
    plan = cut(AddToolLines(setup, "spot hole\nT5 drill six", makes=(hole,)))
    assert [step.makes for step in plan.tool_steps] == [(hole,), (hole,)]
    (found,) = of_holes(work_out(plan, DRAWER))
    assert tools_wanted(found, plan, plan.features[2]) == []
    assert found.given
    unsaid = cut(AddToolLines(setup, "T5 drill six"))
    (found,) = of_holes(work_out(unsaid, ShopKnown(drills=DRAWER.drills)))
    assert tools_wanted(found, unsaid, unsaid.features[2]) == ["spot hole", "drill 6 mm 10 mm deep"]


def test_a_part_that_begins_with_this_plan_makes_its_own_features() -> None:
    setup, _, hole = keys()
    plan = cut(SetToolStep(setup, 5, "drill", "5", makes=(hole,)))
    plan = apply_edit(AddPart("Part, left", 24, like=True), plan, SHOP).plan
    other = plan.seen_from(plan.companions[0].key)
    (step,) = other.tool_steps
    assert step.makes == (other.features[2].key,)
    assert step.makes != (hole,)
