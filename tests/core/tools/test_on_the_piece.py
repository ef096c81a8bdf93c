"""Order of the steps against the piece as it stands by then, and the shop's own rules of order."""

from typing import Any

import pytest

from ditto_run.core.edits import (
    AddFeatureLines,
    KeepSheet,
    PlanRegisters,
    SetForm,
    SetSetup,
    SetToolStep,
    apply_edit,
)
from ditto_run.core.errors import BadEntry
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan, ShopKnown
from ditto_run.core.plan.held import contacts
from ditto_run.core.plan.on_the_piece import order_on_piece
from ditto_run.core.plan.worked import work_out
from ditto_run.core.shop import Machine
from ditto_run.core.shop.drawers import drawer_of
from ditto_run.core.shop.own_orders import OwnOrder
from ditto_run.core.tools.order_rules import own_order_findings
from ditto_run.core.tools.tool_step import ToolStep
from tests.conftest import MILL

LATHE = Machine(2, "Lathe 1", "lathe")
SHOP = PlanRegisters({1: MILL, 2: LATHE})
KNOWN = ShopKnown({1: MILL, 2: LATHE})


def plan_of(
    form: str,
    lines: str,
    *steps: tuple[str, tuple[str, ...]],
    blank: dict[str, str] | None = None,
    **held: Any,
) -> Plan:
    plan = Plan(Heading("Part", 24, "mm"))
    for edit in (SetForm(form), AddFeatureLines(lines)):  # type: ignore[arg-type]
        plan = apply_edit(edit, plan, SHOP).plan
    if blank is not None:
        plan = apply_edit(KeepSheet("blank", blank), plan, SHOP).plan
    keys = {f.name: f.key for f in plan.features}
    cuts = tuple(dict.fromkeys(keys[name] for _, makes in steps for name in makes))
    lying = (
        {"locates_on": ("bottom",), "clamps_on": ("front", "back")}
        if form == "block"
        else {"locates_on": ("chuck end",), "clamps_on": ("chuck end",), "grip": "20"}
    )
    edit = SetSetup(
        "first side",
        1 if form == "block" else 2,
        "Vise 1" if form == "block" else "Chuck",
        cuts=cuts,
        **(lying | held),
    )  # type: ignore[arg-type]
    plan = apply_edit(edit, plan, SHOP).plan
    for number, (does, makes) in enumerate(steps, 1):
        step = SetToolStep(plan.setups[0].key, number, does, makes=tuple(keys[name] for name in makes))
        plan = apply_edit(step, plan, SHOP).plan
    return plan


def found(plan: Plan) -> list[tuple[str, str]]:
    worked = work_out(plan, KNOWN)
    contact = next(iter(contacts(worked)), None)
    return [(f.code, f.problem) for f in order_on_piece(worked, plan.setups[0], contact)]


BLOCK = "block 60 x 40 x 30\ntop face: face, top\nhole 6 x 10 deep, top, in the middle"
RAW = {"shape": "block", "facing": "0", "skin": "1.5", "square": "0"}


def test_a_hole_from_a_raw_face_is_asked_about_with_what_is_still_above() -> None:
    early = plan_of("block", BLOCK, ("drill 6", ("hole",)), ("face mill", ("top face",)), blank=RAW)
    assert found(early) == [
        (
            "stock-above",
            "first side: T01 drill 6 starts on the raw top: 1.50 mm (0.059 in) is still above hole.",
        )
    ]
    late = plan_of("block", BLOCK, ("face mill", ("top face",)), ("drill 6", ("hole",)), blank=RAW)
    assert found(late) == []


def test_a_face_that_no_step_of_the_setup_cuts_is_raw_for_all_of_them() -> None:
    plan = plan_of("block", BLOCK, ("drill 6", ("hole",)), blank=RAW)
    assert [code for code, _ in found(plan)] == ["stock-above"]
    assert found(plan_of("block", BLOCK, ("drill 6", ("hole",)))) == []  # without a blank nothing is above


STEM = "body Ø20 x 90\nstem: shoulder Ø12 x 40, free end\nthread: outside thread M12 x 38 long, free end\nhole 8 x 45 deep, free end"


def test_a_slender_stem_is_threaded_before_it_is_drilled_hollow() -> None:
    wrong = plan_of("turned", STEM, ("turn", ("stem",)), ("drill 8", ("hole",)), ("thread M12", ("thread",)))
    (one,) = [problem for code, problem in found(wrong) if code == "hollow-stem"]
    assert one.startswith("first side: T02 drill 8 drills the stem hollow before T03 thread M12;")
    right = plan_of("turned", STEM, ("turn", ("stem",)), ("thread M12", ("thread",)), ("drill 8", ("hole",)))
    assert "hollow-stem" not in [code for code, _ in found(right)]


@pytest.mark.parametrize(
    ("hole", "long", "asked"), [("5.9", "38", False), ("6", "36", True), ("6", "35.9", False)]
)
def test_a_stout_stem_or_a_small_hole_is_not_asked_about(hole: str, long: str, asked: bool) -> None:
    """Half of 12 is 6, three times 12 is 36; both count from there."""
    lines = STEM.replace("x 38 long", f"x {long} long").replace("hole 8", f"hole {hole}")
    plan = plan_of("turned", lines, ("turn", ("stem",)), ("drill", ("hole",)), ("thread M12", ("thread",)))
    assert ("hollow-stem" in [code for code, _ in found(plan)]) is asked


@pytest.mark.parametrize(("bore", "asked"), [("32", False), ("32.1", True)])
def test_a_thin_wall_is_bored_before_its_outside_is_turned(bore: str, asked: bool) -> None:
    """Ø40: a tenth is 4, so Ø32 leaves just enough."""
    lines = f"body Ø50 x 60\nring: shoulder Ø40 x 30, free end\nbore {bore} x 20 deep, free end"
    wrong = plan_of("turned", lines, ("turn", ("ring",)), ("bore", ("bore",)))
    assert ("thin-outside-first" in [code for code, _ in found(wrong)]) is asked
    right = plan_of("turned", lines, ("bore", ("bore",)), ("turn", ("ring",)))
    assert found(right) == []


def own(rule: str, *does: str, reason: str = "") -> list[str]:
    steps = [ToolStep(n, 1, n, words, 1.0) for n, words in enumerate(does, 1)]
    value = drawer_of("own_orders").value({"name": rule, "reason": reason}, "mm")
    return [one.problem for one in own_order_findings(1, "first side", steps, [value])]


def test_the_shops_own_rule_is_asked_about_where_it_is_broken() -> None:
    assert own(
        "engrave before deburr",
        "deburr",
        "engrave number",
        reason="its burr goes too.",
    ) == [
        "first side: T01 deburr comes before T02 engrave number; the shop’s rule is engrave before deburr; its burr goes too."
    ]
    assert own("engrave before deburr", "engrave number", "deburr") == []
    assert (
        own("rough slot before finish slot", "finish slot", "rough pocket") == []
    )  # all words, not one of them


@pytest.mark.parametrize("rule", ["deburr", "deburr after ream", "ream before ream", "before ream", ""])
def test_a_rule_that_says_no_order_is_refused_at_its_field(rule: str) -> None:
    with pytest.raises(BadEntry) as refused:
        drawer_of("own_orders").value({"name": rule}, "mm")
    assert refused.value.field == "name"


def test_words_are_known_by_their_beginning() -> None:
    rule = OwnOrder("drill", "ream")
    assert rule.is_first("drilling 6")
    assert not rule.is_first("undrilled")
    assert not rule.is_then("drill and ream")  # says both: held to neither
