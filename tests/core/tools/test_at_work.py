"""Each tool step is asked whether it reaches, how fast it turns, what it takes of the spindle and how long it cuts."""

from dataclasses import replace
from decimal import Decimal as D
from typing import Any

import pytest

from ditto_run.core.close.taught import batch_teaches
from ditto_run.core.edits import (
    AddFeatureLines,
    Edit,
    GiveBackTimes,
    PlanRegisters,
    RemoveSetup,
    RemoveToolStep,
    SetFigure,
    SetForm,
    SetSetup,
    SetToolStep,
    apply_edit,
)
from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan, ShopKnown
from ditto_run.core.plan.asked import asked_findings, asked_of, hold_asked, tools_asked
from ditto_run.core.plan.at_work import made_by, step_asked, step_ground, times_wanted, tool_thing
from ditto_run.core.plan.held import contacts
from ditto_run.core.plan.worked import work_out
from ditto_run.core.questions import Asked
from ditto_run.core.run import events as do
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import Known
from ditto_run.core.shop import Ability, Machine
from ditto_run.core.shop.drawers import Material
from ditto_run.core.shop.shop_tools import ShopTool
from ditto_run.core.shop.taught import Taught
from tests.conftest import CoreHand, planned

MILL = Machine(
    1,
    "Mill 2",
    "mill",
    ability=Ability(D("7.5"), D(48), D(8000), rapid_m_min=D(24), accel_m_s2=D(3), change_s=D(6)),
)
LATHE = Machine(
    2, "Hand lathe", "manual lathe", ability=Ability(D("1.5"), D(90), speeds_rpm=(D(200), D(330), D(850)))
)
ALU = Material("6061-T6", D("2.7"), D(500), D(700), D("0.25"))
SHOP = PlanRegisters({1: MILL, 2: LATHE})
ROUGH = ShopTool(
    "T02 rough", 2, "Mill 2", "end mill", D(16), out_mm=D(40), flute_mm=D(34), flutes=3, edge="carbide"
)
KNOWN = ShopKnown({1: MILL, 2: LATHE}, {"6061-T6": ALU}, tools={2: (ROUGH,)})


def made(*edits: Edit, form: str = "block", material: str = "6061-T6") -> Plan:
    plan = Plan(Heading("Bracket", 24, "mm", material=material))
    lines = (
        "block 60 x 40 x 30\nslot 20 x 12 deep x 40 long, in the middle, top\nhole 6 through, 8 from left, in the middle, top"
        if form == "block"
        else "body Ø20 x 60\nshoulder Ø12 x 30, free end\npart off 60"
    )
    machine = 1 if form == "block" else 2
    for edit in (SetForm(form), AddFeatureLines(lines)):  # type: ignore[arg-type]
        plan = apply_edit(edit, plan, SHOP).plan
    keys = tuple(f.key for f in plan.features[1:])
    held: dict[str, Any] = {
        "locates_on": ("bottom",),
        "clamps_on": ("front", "back"),
        "parallels": "10",
        "jaw_high": "25",
    }
    if form == "turned":
        held = {"locates_on": ("chuck end",), "clamps_on": ("chuck end",), "grip": "20"}
    plan = apply_edit(SetSetup("first side", machine, "Vise 1", cuts=keys, **held), plan, SHOP).plan
    for edit in edits:
        plan = apply_edit(edit, plan, SHOP).plan
    return plan


def milled(does: str = "rough slot", tool: int = 2, **more: Any) -> Plan:
    plan = made()
    key = next(f.key for f in plan.features if f.name in does) if "makes" not in more else 0
    edit = SetToolStep(plan.setups[0].key, tool, does, **({"makes": (key,)} | more))
    return apply_edit(edit, plan, SHOP).plan


def answers(plan: Plan, shop: ShopKnown = KNOWN, at: int = 0) -> dict[str, Asked]:
    return {one.question: one for one in step_asked(work_out(plan, shop), plan.tool_steps[at])}


def figure(asked: Asked, name: str) -> tuple[str, str]:
    found = asked.figure(name)
    assert found is not None
    return found.text, found.found.of if found.found is not None else ""


def test_a_tool_of_the_register_on_a_feature_is_answered_with_nothing_typed() -> None:
    found = answers(milled())
    assert list(found) == ["speed", "spindle", "stickout", "cutting", "passes", "direction"]
    assert all(one.answer is not None for one in found.values())
    assert figure(found["speed"], "across") == ("16 mm", "T02 rough")
    assert figure(found["speed"], "group") == ("aluminium", "6061-T6")
    assert figure(found["stickout"], "tip") == ("12 mm", "heights of the setup")
    assert found["stickout"].answer is not None
    assert found["stickout"].answer.result.reach.spare_mm == pytest.approx(40 - 12 - 2)
    assert figure(found["stickout"], "force")[1] == "power"  # bends under the force that its own cut asks


def test_passes_ask_for_what_their_kind_of_cut_has() -> None:
    plan = milled()
    assert [one.name for one in answers(plan)["passes"].figures] == ["cut", "deep", "deepest"]
    thing = tool_thing(plan.tool_steps[0])
    said = apply_edit(SetFigure(thing, "passes", "first", "3 mm", "tender"), plan, SHOP).plan
    assert answers(said)["passes"].figure("first") is not None  # what somebody said is never hidden


def test_each_answer_rests_on_the_one_before() -> None:
    plan = milled()
    thing = tool_thing(plan.tool_steps[0])
    slow = apply_edit(SetFigure(thing, "speed", "rpm", "2000", "sings above"), plan, SHOP).plan
    was, now = answers(plan), answers(slow)
    assert figure(now["spindle"], "rpm")[0] == "2000"
    assert now["cutting"].answer is not None
    assert was["cutting"].answer is not None
    assert now["cutting"].answer.result.feed_s > was["cutting"].answer.result.feed_s
    asked = asked_of(work_out(slow, KNOWN), "spindle", thing)
    assert figure(asked, "rpm")[0] == "2000"  # asked alone it rests on the same


def test_the_machine_has_as_many_passes_as_its_power_asks() -> None:
    """Slot 12 deep with Ø16 is one pass in aluminium; a spindle of 2 kW wants more of them."""
    weak = replace(MILL, ability=replace(MILL.ability, power_kw=D(2)))
    found = answers(milled(), replace(KNOWN, machines={1: weak, 2: LATHE}))["spindle"]
    assert found.answer is not None
    assert found.answer.result.share <= 1
    assert figure(found, "depth")[1] == "its way, as the power allows"
    strong = answers(
        milled(),
        replace(
            KNOWN,
            machines={
                1: replace(MILL, ability=replace(MILL.ability, power_kw=D(50), torque_nm=D(500))),
                2: LATHE,
            },
        ),
    )
    assert figure(strong["spindle"], "depth") == ("12 mm", "its way")


def test_a_depth_the_machine_has_no_power_for_is_asked_about_with_the_machines_that_do() -> None:
    plan = milled()
    thing = tool_thing(plan.tool_steps[0])
    plan = apply_edit(SetFigure(thing, "spindle", "depth", "12 mm"), plan, SHOP).plan
    strong = Machine(5, "Mill 9", "mill", ability=Ability(D(30), D(300), D(8000)))
    weak = replace(MILL, ability=replace(MILL.ability, power_kw=D(2)))
    shop = replace(KNOWN, machines={1: weak, 2: LATHE, 5: strong})
    worked = work_out(plan, shop)
    (finding,) = [f for f in asked_findings(worked, tools_asked(worked)) if f.code == "over-power"]
    assert finding.weight == "ask"
    assert finding.problem.startswith("T02: The cut asks")
    assert "passes of" in finding.remedy
    assert finding.remedy.endswith("or cut it on Mill 9.")
    assert finding.thing == thing


@pytest.mark.parametrize(("reach", "weight"), [("14", ""), ("13.999", "stop")])
def test_a_tool_that_is_too_short_is_a_stop_exactly_from_there(reach: str, weight: str) -> None:
    worked = work_out(milled(reach=reach), KNOWN)
    found = [f for f in asked_findings(worked, tools_asked(worked)) if f.code == "stickout-short"]
    assert [f.weight for f in found] == ([weight] if weight else [])


def test_jaws_that_stand_higher_than_the_piece_are_what_the_holder_has_to_clear() -> None:
    plan = milled()
    setup = plan.setups[0]
    high = SetSetup(
        "first side",
        1,
        "Vise 1",
        cuts=setup.cuts,
        locates_on=("bottom",),
        clamps_on=("front", "back"),
        jaw_high="45",
        key=setup.key,
    )
    found = answers(apply_edit(high, plan, SHOP).plan)
    assert figure(found["stickout"], "tip") == ("27 mm", "heights of the setup")  # 45 − 18


def test_a_tool_longer_than_swings_past_is_a_stop_and_short_flutes_are_asked_about() -> None:
    short = replace(ROUGH, out_mm=D(120), flute_mm=D("11.9"))
    mill = replace(MILL, ability=replace(MILL.ability, tool_mm=D(119)))
    worked = work_out(milled(), replace(KNOWN, machines={1: mill, 2: LATHE}, tools={2: (short,)}))
    codes = {f.code: f.weight for f in asked_findings(worked, tools_asked(worked))}
    assert (codes["stickout-long"], codes["flutes-short"]) == ("stop", "ask")


def test_a_drill_reaches_with_its_point_and_a_millimetre_past_the_far_face() -> None:
    plan = milled("drill 6 hole", 5)
    tip, of = figure(answers(plan)["stickout"], "tip")
    assert of == "heights of the setup"
    assert D(tip.removesuffix(" mm")) == pytest.approx(D("32.802"), abs=D("0.001"))  # 30 + 0.3004 × 6 + 1


def test_a_spot_goes_a_quarter_of_its_diameter_deep_and_not_to_the_floor_of_its_hole() -> None:
    plan = milled("spot hole", 4, across="10")
    assert figure(answers(plan)["stickout"], "tip")[0] == "2.5 mm"


def test_on_a_lathe_the_work_counts_and_belts_decide() -> None:
    plan = made(form="turned")
    step = SetToolStep(plan.setups[0].key, 1, "turn shoulder", makes=(plan.features[1].key,))
    found = answers(apply_edit(step, plan, SHOP).plan)
    assert figure(found["speed"], "across") == ("20 mm", "piece as it goes in")
    assert found["speed"].answer is not None
    assert found["speed"].answer.result.speed.rpm == 850  # 61 to 122 m/min at Ø20 is 970 to 1,940
    assert "stickout" not in found
    assert found["cutting"].answer is not None  # to Ø12 and 30 long
    worked = work_out(
        apply_edit(
            SetFigure(tool_thing(apply_edit(step, plan, SHOP).plan.tool_steps[0]), "speed", "rpm", "700"),
            apply_edit(step, plan, SHOP).plan,
            SHOP,
        ).plan,
        KNOWN,
    )
    (finding,) = [f for f in asked_findings(worked, tools_asked(worked)) if f.code == "no-such-speed"]
    assert "the nearest is 850" in finding.problem


def test_what_is_not_known_is_said_as_such_and_opens_nothing() -> None:
    plan = milled("mill slot", 9)  # not in the register, and no diameter
    worked = work_out(plan, KNOWN)
    found = answers(plan)
    assert (found["speed"].answer, found["speed"].unknown) == (None, "across")
    assert (found["cutting"].answer, found["cutting"].unknown) == (None, "way")
    assert not [f for f in asked_findings(worked, tools_asked(worked)) if f.thing.startswith("tool ")]
    strange = answers(replace(milled(), heading=replace(milled().heading, material="rack 3")))
    assert strange["speed"].unknown == "group"


def test_a_hand_tool_and_a_probe_are_asked_nothing() -> None:
    plan = made()
    for tool, does in ((0, "file slot"), (8, "measure slot")):
        plan = apply_edit(SetToolStep(plan.setups[0].key, tool, does), plan, SHOP).plan
    assert not answers(plan)
    assert not answers(plan, at=1)


def test_the_force_of_the_heaviest_tool_of_a_setup_is_what_has_to_be_held() -> None:
    worked = work_out(milled(), KNOWN)
    grip = next(one for one in hold_asked(worked, contacts(worked)) if one.question == "grip")
    force, of = figure(grip, "cutting")
    spent = answers(milled())["spindle"].answer
    assert spent is not None
    assert of == "T02 rough slot"
    assert float(force.removesuffix(" N")) == pytest.approx(spent.result.asked.force_n, rel=1e-4)


def test_times_that_come_out_go_to_the_steps_that_have_none() -> None:
    plan = milled()
    worked = work_out(plan, KNOWN)
    key = plan.tool_steps[0].key
    times = times_wanted(worked, plan.setups[0].key)
    assert [(at, name) for at, name, _ in times] == [(key, "cut"), (key, "change")]
    new = apply_edit(GiveBackTimes(times), plan, SHOP)
    assert new.what == "computed time of T02"
    assert new.plan.tool_steps[0].change_s == 6
    assert new.plan.tool_steps[0].time_by == "computed"
    again = work_out(new.plan, KNOWN)
    assert times_wanted(again, plan.setups[0].key) == ()
    asked = answers(new.plan)["cutting"]
    assert asked.given
    other = apply_edit(
        SetToolStep(plan.setups[0].key, 2, "rough slot", "60", "6", key, makes=plan.tool_steps[0].makes),
        new.plan,
        SHOP,
    ).plan
    found = answers(other)["cutting"]
    assert not found.given
    assert found.answer is not None
    assert [f.code for f in found.answer.findings] == ["time-differs"]


def test_a_time_that_is_typed_over_is_computed_no_more_and_another_word_leaves_it_so() -> None:
    plan = milled()
    key, setup, makes = plan.tool_steps[0].key, plan.setups[0].key, plan.tool_steps[0].makes
    plan = apply_edit(GiveBackTimes(((key, "cut", 30.0),), "clocked"), plan, SHOP).plan
    same = SetToolStep(setup, 2, "rough the slot", "30", "0", key, makes=makes)
    assert apply_edit(same, plan, SHOP).plan.tool_steps[0].time_by == "clocked"
    typed = SetToolStep(setup, 2, "rough the slot", "31", "0", key, makes=makes)
    assert apply_edit(typed, plan, SHOP).plan.tool_steps[0].time_by == ""


def test_a_time_for_a_strip_stays_a_persons() -> None:
    assert answers(milled(at_once=6))["cutting"].gives == ()


def test_times_that_cannot_be_are_refused() -> None:
    plan = milled()
    with pytest.raises(BadEntry, match="is no time"):
        apply_edit(GiveBackTimes(((plan.tool_steps[0].key, "cut", -1.0),)), plan, SHOP)
    with pytest.raises(NotFound):
        apply_edit(GiveBackTimes(((99, "cut", 1.0),)), plan, SHOP)


def test_what_was_said_of_a_step_goes_with_it() -> None:
    plan = milled()
    said = apply_edit(SetFigure(tool_thing(plan.tool_steps[0]), "speed", "rpm", "2000"), plan, SHOP).plan
    assert said.figures
    assert not apply_edit(RemoveToolStep(plan.tool_steps[0].key), said, SHOP).plan.figures
    assert not apply_edit(RemoveSetup(plan.setups[0].key), said, SHOP).plan.figures


def test_a_closed_batch_proves_the_speed_that_was_said_and_the_next_plan_takes_it() -> None:
    plan = planned(12)
    step = plan.tool_steps[0]
    plan = apply_edit(SetFigure(tool_thing(step), "speed", "rpm", "4,500", who="RK"), plan, SHOP).plan
    plan = replace(plan, heading=replace(plan.heading, material="6061-T6"))
    hand = CoreHand(plan).proven()
    for piece in (2, 3):
        hand.do(do.TakeReading(piece, 1, "20.001"), do.TakeReading(piece, 2, "31.5"))
    for _ in range(3):
        hand.load()
    (lesson,) = [one for one in batch_teaches(hand.state, {1: "Mill 2"}, "7/1") if one.figure == "speed"]
    assert (lesson.value, lesson.way, lesson.machine, lesson.material) == (4500, "T03", "Mill 2", "6061-T6")
    taught = Taught("speed", 4500, 2, 96, "T02", "Mill 2", "6061-T6")
    found = answers(milled(), replace(KNOWN, taught=(taught,)))["speed"]
    assert figure(found, "rpm") == ("4500", "2 batches")
    assert (
        figure(answers(milled("drill 6 hole", 5), replace(KNOWN, taught=(taught,)))["speed"], "rpm")[0] == ""
    )


FACE = ShopTool("T01 face mill", 1, "Mill 2", "face mill", D(50), out_mm=D(45), flutes=5, edge="carbide")


def faced(*rows: ShopTool) -> tuple[Plan, ShopKnown]:
    plan = Plan(Heading("Plate", 400, "mm", material="6061-T6"))
    plan = apply_edit(AddFeatureLines("block 300 x 200 x 30\ntop face: face, top"), plan, SHOP).plan
    key = plan.features[1].key
    plan = apply_edit(
        SetSetup(
            "first side",
            1,
            "Vise 1",
            cuts=(key,),
            locates_on=("bottom",),
            clamps_on=("front", "back"),
            jaw_high="40",
        ),
        plan,
        SHOP,
    ).plan
    plan = apply_edit(SetToolStep(plan.setups[0].key, 2, "face mill", makes=(key,)), plan, SHOP).plan
    return plan, replace(KNOWN, tools={2: (ROUGH,), **{row.number or 0: (row,) for row in rows}})


def test_a_larger_cutter_at_hand_is_offered_with_what_the_batch_saves() -> None:
    """300 × 200 with Ø16 takes 1 + ⌈184 / 11.2⌉ = 18 strokes, with Ø50 1 + ⌈150 / 35⌉ = 6."""
    plan, shop = faced(FACE)
    found = answers(plan, shop)["cutters"]
    assert found.answer is not None
    by_name = {row.name: row.seconds for row in found.answer.result}
    assert by_name["T02 rough"] > by_name["T01 face mill"]
    worked = work_out(plan, shop)
    (finding,) = [f for f in asked_findings(worked, tools_asked(worked)) if f.code == "small-cutter"]
    assert finding.problem.startswith("T02: T01 face mill takes ")
    alone = replace(plan, heading=replace(plan.heading, quantity=1))
    once = work_out(alone, shop)
    assert not [f for f in asked_findings(once, tools_asked(once)) if f.code == "small-cutter"]  # seconds


@pytest.mark.parametrize(
    "row",
    [
        replace(FACE, machine="Mill 9"),  # not at this machine
        replace(FACE, kind="drill"),
        replace(FACE, across_mm=D(12)),  # smaller
        replace(FACE, out_mm=D("11.9")),  # does not reach: jaws stand 10 above, and 2 clear
    ],
)
def test_a_cutter_that_cannot_do_it_is_not_offered(row: ShopTool) -> None:
    plan, shop = faced(row)
    assert "cutters" not in answers(plan, shop)
    assert "cutters" not in answers(milled())  # a slot is not a field


def test_cutters_side_by_side_say_who_is_quickest_and_refuse_what_is_no_time() -> None:
    rows = "T02 rough; 0:41\nT01 face; 0:06"
    answer = sheet_of("cutters").answer({"rows": rows, "used": "T02 rough", "pieces": "48"}, Known())
    assert answer.say == "T01 face: 28 min less."  # 35 s × 48
    assert [f.code for f in answer.findings] == ["small-cutter"]
    best = sheet_of("cutters").answer({"rows": rows, "used": "t01 face"}, Known())
    assert (best.say, best.findings) == ("T01 face is the quickest at hand.", ())
    for texts, field in (
        ({"rows": "T02; soon", "used": "T02"}, "rows"),
        ({"rows": "T02", "used": "T02"}, "rows"),
        ({"rows": rows, "used": "T9"}, "used"),
    ):
        with pytest.raises(BadEntry) as refused:
            sheet_of("cutters").answer(texts, Known())
        assert refused.value.field == field


@pytest.mark.parametrize(
    ("does", "names"),
    [
        ("rough slot", ["slot"]),
        ("drill 6", ["hole"]),  # the one hole of the setup
        ("spot", ["hole"]),
        ("face", []),  # it cuts no face
        ("tap M6", []),
        ("chamfer", []),
    ],
)
def test_a_step_that_says_nothing_makes_what_its_words_can_only_mean(does: str, names: list[str]) -> None:
    plan = apply_edit(SetToolStep(made().setups[0].key, 5, does), made(), SHOP).plan
    assert [one.name for one in made_by(plan, plan.setups[0], plan.tool_steps[0])] == names


def test_two_of_a_kind_are_not_guessed_between() -> None:
    plan = apply_edit(AddFeatureLines("hole 8 through, 52 from left, in the middle, top"), made(), SHOP).plan
    setup = plan.setups[0]
    both = SetSetup("first side", 1, "Vise 1", cuts=(*setup.cuts, plan.features[-1].key), key=setup.key)
    plan = apply_edit(both, plan, SHOP).plan
    plan = apply_edit(SetToolStep(setup.key, 5, "drill"), plan, SHOP).plan
    assert made_by(plan, plan.setups[0], plan.tool_steps[0]) == []


def test_a_last_pass_takes_two_thirds_of_the_nose_at_least() -> None:
    """From Ø20 to Ø12 is 4 on the radius; a nose of 0.8 leaves 0.533, so 3.467 in two; without one a quarter, 3.75 in two of 2."""
    plan = made(form="turned")
    step = SetToolStep(plan.setups[0].key, 1, "turn shoulder", makes=(plan.features[1].key,))
    plan = apply_edit(step, plan, SHOP).plan
    row = ShopTool("T01 turn", 1, "Hand lathe", "turning", radius_mm=D("0.8"))
    with_nose = step_ground(work_out(plan, replace(KNOWN, tools={1: (row,)})), plan.tool_steps[0]).way
    without = step_ground(work_out(plan, KNOWN), plan.tool_steps[0]).way
    assert with_nose is not None
    assert without is not None
    assert with_nose.deep_mm == pytest.approx((4 - 0.8 * 2 / 3) / 2)
    assert without.deep_mm == pytest.approx(3.75 / 2)


def test_a_machine_nobody_looked_up_says_nothing_of_tapping() -> None:
    plan = milled("tap M6 hole", 6)
    assert answers(plan)["tapping"].answer is not None
    bare = answers(plan, replace(KNOWN, machines={1: replace(MILL, ability=Ability()), 2: LATHE}))["tapping"]
    assert (bare.answer, bare.unknown) == (None, "can")


def test_the_drill_of_a_thread_is_known_from_the_thread_where_no_other_is_said() -> None:
    """M6 at 75 %: 6 less 0.75 × 1.299 × 1 = 5.03; the tap drill formula of docs/sources.md."""
    plan = made(AddFeatureLines("tapped hole M6 x 10 deep, 8 from right, in the middle, top"))
    key, setup = plan.features[-1].key, plan.setups[0]
    plan = plan.put(replace(setup, cuts=(*setup.cuts, key)))
    for does in ("drill tapped hole", "drill 5.1"):
        step = SetToolStep(setup.key, 4, does, makes=(key,))
        plan = apply_edit(step, plan, SHOP).plan
    assert figure(answers(plan)["speed"], "across") == ("5.03 mm", "M6×1 at 75 %")
    assert figure(answers(plan, at=1)["speed"], "across")[0] == "5.1 mm"
