"""A change reaches every answer that rests on it, and no other: random edits over a whole plan, part to hold."""

from dataclasses import replace
from decimal import Decimal as D
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from ditto_run.core.edits import (
    AddFeatureLines,
    AddWays,
    ChooseWay,
    SetFeatureLine,
    SetForm,
    SetHeading,
    SetOrder,
    SetSetup,
    SetStockSize,
    SetToolStep,
    apply_edit,
)
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.plan.asked import asked_of, hold_asked, method_asked, part_asked, stock_asked
from ditto_run.core.plan.held import contacts
from ditto_run.core.plan.worked import ShopKnown, work_out
from ditto_run.core.shop import Machine
from ditto_run.core.shop.drawers import Holder, Material
from tests.conftest import SHOP

LATHE = Machine(3, "Lathe 1", "manual lathe")
CHUCK = Holder(
    "Chuck", "chuck", "round", D(5), D(200), "light", None, "", "", "60 N·m", "", jaw_high_mm=D(20)
)
STUFF = {
    name: Material(name, D(density), D(500), D(1800), D("0.2"))
    for name, density in (("6061-T6", "2.7"), ("316", "8.0"))
}
REGISTERS = replace(SHOP, machines={3: LATHE}, materials=STUFF, holders={"Chuck": CHUCK})
KNOWN = ShopKnown({3: LATHE}, STUFF, {"Chuck": CHUCK})
STOCK = {"blank", "cuts", "mass"}


def begun() -> Plan:
    plan = Plan(Heading("Pin", 24, "mm", material="6061-T6"))
    lines = "body Ø20 x 86\nshoulder Ø10 0/-0.04 x 60 ±0.1, free end\nshoulder Ø8 x 20 ±0.1 long, free end\nM6 x 12 deep, chuck end"
    for edit in (SetForm("turned"), AddFeatureLines(lines)):
        plan = apply_edit(edit, plan, REGISTERS).plan
    keys = [f.key for f in plan.features]
    held = {"locates_on": ("chuck end",), "clamps_on": ("chuck end",), "grip": "20"}
    for name, cuts in (("turn", keys[1:3]), ("tap", keys[3:])):
        plan = apply_edit(SetSetup(name, 3, "Chuck", cuts=tuple(cuts), **held), plan, REGISTERS).plan  # type: ignore[arg-type]
    for setup in plan.setups:
        plan = apply_edit(SetToolStep(setup.key, 1, "cut", "40", "10"), plan, REGISTERS).plan
    plan = apply_edit(AddWays(("planned",)), plan, REGISTERS).plan
    return apply_edit(ChooseWay(plan.ways[0].key, "It is set up."), plan, REGISTERS).plan


BEGUN = begun()


def headed(plan: Plan, **new: Any) -> SetHeading:
    heading = replace(plan.heading, **new)
    return SetHeading(**{name: getattr(heading, name) for name in heading.__dataclass_fields__})


def torque(plan: Plan, text: str) -> SetSetup:
    setup = plan.setups[0]
    return SetSetup(
        *(setup.name, 3, "Chuck"),
        locates_on=setup.locates_on,
        clamps_on=setup.clamps_on,
        cuts=setup.cuts,
        grip="20",
        torque=text,
        key=setup.key,
    )


# what is changed, how, what has to follow, and what else may
CHANGES: dict[str, tuple[Any, set[str], set[str]]] = {
    "quantity": (lambda p, n: headed(p, quantity=30 + n), {"starts", "order"}, {*STOCK, "time_box"}),
    "length": (
        lambda p, n: SetFeatureLine(f"body Ø20 x {90 + n}", key=p.features[0].key),
        {"blank"},
        {*STOCK, "ladder", "rules", "overhang"},
    ),
    "bar": (
        lambda p, n: SetStockSize("bar", str(22 + n), key=p.stock[0].key if p.stock else None),
        {"blank"},
        {*STOCK, "ladder", "overhang"},
    ),
    "order": (lambda _p, n: SetOrder("bar", bars=3, length=f"{2000 + 100 * n} mm"), {"cuts"}, {"mass"}),
    "torque": (lambda p, n: torque(p, f"{30 + n} N·m"), {"grip"}, {"clamps"}),
    "tool": (
        lambda p, n: SetToolStep(p.setups[0].key, 1, "cut", str(50 + n), "10", key=p.tool_steps[0].key),
        {"order", "overlap"},
        {"time_box"},
    ),
    "material": (
        lambda p, _n: headed(p, material="316" if p.heading.material != "316" else "6061-T6"),
        {"mass"},
        {"overhang", "thin", "nest"},
    ),
}


def answers(plan: Plan) -> dict[tuple[str, str], object]:
    worked = work_out(plan, KNOWN)
    asked = (
        *part_asked(worked),
        *method_asked(worked),
        *stock_asked(worked),
        *hold_asked(worked, contacts(worked)),
    )
    return {
        (one.thing, one.question): (
            one.texts,
            one.answer and (one.answer.say, one.answer.facts, one.answer.result),
        )
        for one in asked
    }


@settings(max_examples=25, deadline=None)
@given(st.lists(st.tuples(st.sampled_from(sorted(CHANGES)), st.integers(0, 6)), min_size=1, max_size=5))
def test_a_change_reaches_what_rests_on_it_and_nothing_else(changes: list[tuple[str, int]]) -> None:
    plan = BEGUN
    before = answers(plan)
    for what, how in changes:
        make, must, may = CHANGES[what]
        new = apply_edit(make(plan, how), plan, REGISTERS).plan
        after = answers(new)
        moved = {key[1] for key in before.keys() | after.keys() if before.get(key) != after.get(key)}
        assert moved <= must | may, (what, how, moved - must - may)
        if new != plan:
            assert must <= moved, (what, how, must - moved)
        plan, before = new, after


def test_an_answer_without_overrides_is_the_same_with_its_figures_typed_in() -> None:
    """Whatever the job says, typed by hand: of every question of Part, Method and Stock."""
    worked = work_out(BEGUN, KNOWN)
    for one in (*part_asked(worked), *method_asked(worked), *stock_asked(worked)):
        typed = asked_of(worked, one.question, one.thing, one.texts)
        assert typed.answer == one.answer, one.question
