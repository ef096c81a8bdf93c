"""The order of tool steps: each rule of the trade asked about where it is broken, and only there."""

from dataclasses import replace

import pytest

from ditto_run.core.edits import OverrideFinding, apply_edit
from ditto_run.core.plan import plan_findings
from ditto_run.core.tools.order_rules import RULES, kinds_of, order_rule_findings
from ditto_run.core.tools.tool_step import ToolStep
from tests.conftest import MILL, SHOP, planned


def steps(*does: str) -> list[ToolStep]:
    return [ToolStep(n, 1, n, words, 1.0) for n, words in enumerate(does, 1)]


def asked(*does: str) -> list[str]:
    return [found.problem for found in order_rule_findings(1, "first side", steps(*does))]


@pytest.mark.parametrize(
    ("does", "kinds"),
    [
        ("face mill", {"face"}),
        ("finish slot", {"finish"}),
        ("spot drill", {"spot"}),
        ("centre drill both ends", {"spot"}),
        ("spot and drill 6 mm", {"spot", "drill"}),
        ("drill and tap M6", {"drill", "tap"}),
        ("break edges", {"chamfer"}),
        ("screwcut M10", {"thread"}),
        ("slot", set()),
        ("tapered shank", set()),  # no tap
        ("surface plate", set()),  # no facing
    ],
)
def test_a_step_is_known_by_its_words(does: str, kinds: set[str]) -> None:
    assert kinds_of(does) == kinds


WRONG = [
    (("drill 6 mm", "face mill"), "counts its depth"),
    (("finish slot", "rough slot"), "pushes and heats"),
    (("chamfer", "rough"), "takes the chamfer away again"),
    (("drill 6 mm", "spot"), "nothing to start in"),
    (("tap M6", "drill 5 mm"), "no hole to work in yet"),
    (("ream 12 mm", "drill 11.7 mm"), "no hole to work in yet"),
    (("thread M10", "groove 2 mm"), "runs out into the groove"),
    (("chamfer", "face mill"), "facing cut takes the chamfer away"),
    (("chamfer", "finish"), "leaves a burr"),
]


@pytest.mark.parametrize(("wrong", "reason"), WRONG)
def test_each_rule_is_asked_about_and_turned_round_it_is_not(wrong: tuple[str, str], reason: str) -> None:
    (found,) = asked(*wrong)
    assert found.startswith(f"first side: T01 {wrong[0]} comes before T02 {wrong[1]}; ")
    assert reason in found
    assert asked(*wrong[::-1]) == []


def test_every_rule_has_a_case() -> None:
    tried = {(*kinds_of(early), *kinds_of(late)) for (late, early), _ in WRONG}
    assert {rule.earlier for rule in RULES} == {early for early, _ in tried}
    assert all(any((rule.earlier, late) in tried for late in rule.later) for rule in RULES)


@pytest.mark.parametrize(
    "right",
    [
        ("face mill", "rough", "finish slot", "spot", "drill", "ream", "chamfer"),  # the clamp block's
        ("rough slot", "finish slot", "rough step", "finish step"),  # one after the other, each in its order
        ("drill 5 mm", "tap M6", "drill 8.5 mm", "tap M10"),
        ("drill and tap M6", "face mill"),  # says two kinds: not known which part of it comes when
        ("face mill", "drill 6 mm", "face mill, other side"),
        ("tap M6",),
    ],
)
def test_what_is_in_order_is_not_asked_about(right: tuple[str, ...]) -> None:
    assert asked(*right) == []


def test_steps_of_the_same_thing_are_held_to_it_among_many() -> None:
    assert asked("rough step", "finish slot", "rough slot", "finish step") == [
        "first side: T02 finish slot comes before T03 rough slot; roughing pushes and heats what is finished already."
    ]


def test_it_is_open_in_the_job_until_it_is_let_stand_with_a_note_on_the_same_ground() -> None:
    plan = planned(12)
    key = plan.setups[0].key
    plan = replace(plan, tool_steps=tuple(replace(step, setup=key) for step in steps("tap M6", "drill 5 mm")))
    (found,) = [f for f in plan_findings(plan, {1: MILL}) if f.code == "order-rule"]
    stands = OverrideFinding(
        found.problem, "the hole is cast", "RK", code=found.code, thing=found.thing, ground=found.ground
    )
    plan = apply_edit(stands, plan, SHOP).plan
    assert "order-rule" not in {f.code for f in plan_findings(plan, {1: MILL})}
