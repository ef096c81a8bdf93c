"""Every field of every question, with where it comes from, as docs/fields.md says it; what the job knows is never typed."""

from dataclasses import replace
from decimal import Decimal as D
from functools import cache
from pathlib import Path

import pytest

from ditto_run.core.edits import (
    AddFeatureLines,
    AddPart,
    AddWays,
    KeepSheet,
    SetCharacteristic,
    SetForm,
    SetHeading,
    SetOrder,
    SetSetup,
    SetStation,
    SetToolStep,
    apply_edit,
)
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.plan.asked import (
    QUESTIONS,
    hold_asked,
    method_asked,
    part_asked,
    stock_asked,
    to_keep,
    tools_asked,
)
from ditto_run.core.plan.held import contacts
from ditto_run.core.plan.worked import ShopKnown, work_out
from ditto_run.core.shop import Ability, Machine
from ditto_run.core.shop.drawers import Holder, Material
from ditto_run.core.shop.inserts import read_insert
from ditto_run.core.shop.shop_tools import Lasting, ShopTool
from ditto_run.core.shop.taught import Taught
from tests.conftest import MILL, SHOP

FIELDS = Path(__file__).parents[2] / "docs" / "fields.md"
LATHE = Machine(3, "Lathe 1", "manual lathe")
ALLOY = {"6061-T6": Material("6061-T6", D("2.7"), D(0), D(700), D("0.25"), carbide_m_min=D(300))}


def holder(name: str, kind: str, **more: object) -> Holder:
    return Holder(name, kind, "any", D(0), D(200), "light", D("0.01"), "", "", "60 N·m", "", **more)  # type: ignore[arg-type]


HOLDERS = {
    one.name: one
    for one in (
        holder("Vise 1", "vise", jaw_high_mm=D(25), rated_n=D(20000), screw_mm=D(20)),
        holder("Chuck", "chuck", jaw_high_mm=D(20), rated_n=D(15000)),
        holder("Vacuum", "vacuum"),
        holder("Nest", "nest"),
        holder("Plate", "fixture plate"),
    )
}
REGISTERS = replace(
    SHOP, machines={1: MILL, 3: LATHE, 4: replace(MILL, id=4)}, materials=ALLOY, holders=HOLDERS
)
TAUGHT = (
    Taught("scrap", 10, 1, 40, "", "Lathe 1", "", ()),
    Taught("drift", 0.02, 1, 40, "", "Mill 2", "", ()),
    Taught("pace", 1.1, 1, 40, "", "Mill 2", "", ()),
    Taught("speed", 4500, 1, 40, "T02", "Mill 2", "", ()),
)
CUT = {
    "machine": "1",
    "material": "6061-T6",
    "cutting": "turn",
    "diameter": "50",
    "speed": "200",
    "feed": "0.2",
    "depth": "2",
}
ROW = tuple[str, str, str]


def planned(form: str, lines: str, *edits: object) -> Plan:
    plan = Plan(Heading("Part", 24, "mm", material="6061-T6"))
    for edit in (*([SetForm("turned")] if form == "turned" else []), AddFeatureLines(lines), *edits):
        plan = apply_edit(edit, plan, REGISTERS).plan
    return plan


def held(
    plan: Plan, machine: int, name: str, on: tuple[str, ...], press: tuple[str, ...], **more: object
) -> Plan:
    cuts = tuple(f.key for f in plan.features[1:])
    edit = SetSetup("one", machine, name, locates_on=on, clamps_on=press, cuts=cuts, **more)  # type: ignore[arg-type]
    plan = apply_edit(edit, plan, REGISTERS).plan
    return apply_edit(KeepSheet("machine", CUT, name="rough"), plan, REGISTERS).plan


def plans() -> list[Plan]:
    """Jobs of all kinds, as far as somebody has said what only a person knows of them."""
    vise = held(
        planned("block", "block 60 x 40 x 31.5\nface 31.5 ±0.05, top\nhole 6 x 40 deep, top, in the middle"),
        *(1, "Vise 1", ("bottom", "back"), ("front", "back")),
        parallels="17",
        to_stop="left",
        stop_high="20",
        torque="50 N·m",
        proof="a pin",
        jaw_wide="60",
    )
    vise = replace(vise, features=tuple(replace(f, one_sided=True) for f in vise.features))
    turned = SetSetup("two", 1, "Vise 1", locates_on=("top",), clamps_on=("front", "back"), proof="a pin")
    vise = apply_edit(turned, vise, REGISTERS).plan
    bored = planned(
        "block",
        "block 60 x 40 x 20\nbore 12 H7 through, top, in the middle, position 0.02 to A\nface 60 ±0.05, right",
    )
    bored = held(bored, 1, "Nest", ("bottom", "bore"), ("top",))
    bored = apply_edit(SetStation(bored.setups[0].key, "A", "Nest", "G54"), bored, REGISTERS).plan
    bored = apply_edit(SetToolStep(bored.setups[0].key, 1, "face", "40"), bored, REGISTERS).plan
    across = planned("block", "block 60 x 40 x 31.5\nface 60 ±0.05, right")
    across = replace(across, features=tuple(replace(f, refers=("left",)) for f in across.features))
    across = held(across, 1, "Vise 1", ("bottom", "back"), ("front", "back"), to_stop="left")
    flat = planned(
        "block", "block 60 x 40 x 10\nface 40 ±0.05, front\npocket 30 x 20 x 4 deep, top, in the middle"
    )
    others = [
        held(flat, 1, name, ("bottom",), ("top",), torque="20 N·m") for name in ("Vacuum", "Nest", "Plate")
    ]
    pin = held(
        planned(
            "turned",
            "body Ø20 x 86\nshoulder Ø10 0/-0.04 x 60 ±0.1 long, free end\nshoulder Ø8 x 20 ±0.1 long, free end\npart off",
        ),
        *(3, "Chuck", ("chuck end",), ("chuck end",)),
        grip="20",
    )
    pin = apply_edit(SetOrder("6061 bar", bars=3, length="3 m"), pin, REGISTERS).plan
    sheets = [one for one in stock_asked(work_out(pin, SHOP_NOW)) if one.answer is not None]
    for one in sheets:
        pin = apply_edit(KeepSheet(one.question, to_keep(one)), pin, REGISTERS).plan
    ring = held(
        planned("turned", "body Ø60 x 30\nbore 54 H8 through, free end"),
        *(3, "Chuck", ("chuck end",), ("outside",)),
        grip="20",
    )
    pulled = planned("turned", "body Ø12 x 90\nshoulder Ø8 x 70 long, free end")
    pulled = apply_edit(KeepSheet("blank", {"shape": "bar", "facing": "1"}), pulled, REGISTERS).plan
    pulled = held(pulled, 3, "Chuck", ("bar",), ("bar",), grip="20")
    end = planned("block", "block 87 x 40 x 38\nface, right")
    texts = {"shape": "block", "facing": "1.5", "skin": "1", "square": "0.3"}
    end = apply_edit(KeepSheet("blank", texts), end, REGISTERS).plan
    end = held(end, 1, "Vise 1", ("left",), ("front", "back"))
    cone = planned(
        "turned", "body Ø25 x 80\ntaper 10° Ø20 x 30 long, free end\ntapped hole M6 x 12 deep, free end"
    )
    sharp = planned("turned", "body Ø25 x 80\ntaper Ø20 x 30 long to Ø14, free end")
    circle = planned("block", "block 90 x 90 x 10\n6 holes 6 through, on a 60 circle, in the middle, top")
    bent = planned("block", "block 120 x 30 x 3\nbend 90° R4, 40 from left")
    pair = apply_edit(SetCharacteristic("bore", "Ø12 H7"), Plan(Heading("Ring", 24, "mm")), REGISTERS).plan
    pair = apply_edit(AddPart("Pin", 24), pair, REGISTERS).plan
    shaft = apply_edit(
        SetCharacteristic("shank", "Ø12 g6"), pair.seen_from(pair.companions[0].key), REGISTERS
    ).plan
    return [
        vise,
        bored,
        across,
        *others,
        pin,
        ring,
        pulled,
        end,
        cone,
        sharp,
        circle,
        bent,
        shaft.seen_from(1),
        timed(),
        at_work(),
        on_a_lathe(),
    ]


def on_a_lathe() -> Plan:
    """An edge with an insert that turns, and a thread by single point, on a lathe with dials."""
    plan = planned(
        "turned",
        "body Ø30 x 80\nshoulder Ø20 x 40 long, free end\noutside thread M20x1.5 x 30 long, free end",
    )
    plan = held(plan, 3, "Chuck", ("chuck end",), ("outside",), grip="20")
    for tool, does in ((4, "turn shoulder"), (5, "thread M20x1.5")):
        plan = apply_edit(SetToolStep(plan.setups[0].key, tool, does), plan, REGISTERS).plan
    return plan


def at_work() -> Plan:
    """A tool of the register in a slot, and a tap, on a machine whose manual was looked up."""
    plan = planned(
        "block",
        "block 60 x 40 x 30\nslot 20 x 12 deep x 40 long, in the middle, top\n"
        "tapped hole M6 x 10 deep, 8 from left, in the middle, top\ntop face: face, top",
    )
    plan = held(plan, 4, "Vise 1", ("bottom",), ("front", "back"), parallels="10", handling="0:45")
    plan = apply_edit(SetSetup("two", 3, "Chuck"), plan, REGISTERS).plan
    plan = apply_edit(SetToolStep(plan.setups[1].key, 1, "deburr", "20"), plan, REGISTERS).plan
    slot, hole, top = (f.key for f in plan.features[1:])
    for step in (
        SetToolStep(plan.setups[0].key, 2, "rough slot", "40", makes=(slot,)),
        SetToolStep(plan.setups[0].key, 5, "tap M6", makes=(hole,)),
        SetToolStep(plan.setups[0].key, 2, "face", makes=(top,)),
    ):
        plan = apply_edit(step, plan, REGISTERS).plan
    return plan


ABLE = Ability(
    D("7.5"),
    D(48),
    D(8000),
    speeds_rpm=(D(500), D(4500)),
    rapid_m_min=D(24),
    accel_m_s2=D(3),
    tool_mm=D(250),
    amps=D(16),
)
FULL = replace(MILL, id=4, ability=ABLE)
ROUGH = ShopTool(
    "T02 rough",
    2,
    "Mill 2",
    "end mill",
    D(16),
    None,
    D(34),
    D(40),
    3,
    edge="carbide",
    nose_mm=D(32),
    runout_mm=D("0.01"),
)
TOOLS = {
    1: (ShopTool("T01", 1, life=Lasting(30)),),
    2: (ROUGH,),
    4: (ShopTool("T04", 4, "Lathe 1", "turning", insert=read_insert("DCMT 11T304")),),
    3: (replace(ROUGH, name="T03", number=3, across_mm=D(50)),),
}
SHOP_NOW = ShopKnown({1: MILL, 3: LATHE, 4: FULL}, ALLOY, HOLDERS, taught=TAUGHT, tools=TOOLS)


def timed() -> Plan:
    """Two setups with their times, a way that follows them, and a hurry."""
    plan = planned("turned", "body Ø12 x 90\nface, free end\nface, chuck end")
    for edit in (
        SetSetup("one", 3, "Chuck", cuts=(plan.features[1].key,)),
        SetSetup("two", 3, "Chuck", cuts=(plan.features[2].key,)),
    ):
        plan = apply_edit(edit, plan, REGISTERS).plan
    for setup in plan.setups:
        plan = apply_edit(SetToolStep(setup.key, 1, "face", "40", "10"), plan, REGISTERS).plan
    plan = apply_edit(AddWays(("planned",)), plan, REGISTERS).plan
    heading = replace(plan.heading, purpose="hurry")
    return apply_edit(
        SetHeading(**{name: getattr(heading, name) for name in heading.__dataclass_fields__}), plan, REGISTERS
    ).plan


@cache
def filled() -> frozenset[tuple[str, str]]:
    """Fields that some job fills by itself."""
    found = set()
    for plan in plans():
        worked = work_out(plan, SHOP_NOW)
        asked = (
            *part_asked(worked),
            *method_asked(worked),
            *stock_asked(worked),
            *hold_asked(worked, contacts(worked)),
            *tools_asked(worked),
        )
        found |= {(one.question, f.name) for one in asked for f in one.figures if f.found is not None}
    return frozenset(found)


def rows() -> list[ROW]:
    lines = [line for line in FIELDS.read_text().splitlines() if line.startswith("| ")]
    cells = [tuple(cell.strip() for cell in line.strip("|").split("|")) for line in lines]
    return [(c[0], c[1], c[3]) for c in cells if c[0] not in {"Question", "---"}]


def test_every_field_of_every_question_is_listed_once() -> None:
    listed = [(question, field) for question, field, _ in rows()]
    there = [(one.name, entry.name) for one in QUESTIONS.values() for entry in one.sheet.entries]
    assert sorted(listed) == sorted(there)


@pytest.mark.parametrize("row", rows(), ids=lambda row: f"{row[0]}-{row[1]}")
def test_what_the_job_or_the_shop_knows_is_never_typed(row: ROW) -> None:
    """A field that is a person's alone has no source; every other is filled by a job of its kind, or found by its sheet."""
    question, field, source = row
    asked = QUESTIONS[question]
    known = field in asked.sources or field in asked.finds
    assert (source == "person") is not known, source
    if field in asked.sources and field not in asked.finds:
        assert (question, field) in filled()
