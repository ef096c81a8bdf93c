"""The questions of Hold: when each is asked, where its figures come from, what is unknown, what somebody said instead."""

from dataclasses import replace
from decimal import Decimal as D
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ditto_run.core.edits import (
    AddFeatureLines,
    AddPart,
    GiveBack,
    KeepSheet,
    RemoveSetup,
    SetFigure,
    SetForm,
    SetHeading,
    SetSetup,
    SetStation,
    apply_edit,
)
from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.plan.asked import QUESTIONS, asked_findings, asked_of, held_answers, hold_asked
from ditto_run.core.plan.held import contacts
from ditto_run.core.plan.worked import ShopKnown, Worked, thing_of, work_out
from ditto_run.core.questions import Asked
from ditto_run.core.shop import Machine
from ditto_run.core.shop.drawers import Holder, Material
from tests.conftest import MILL, SHOP

LATHE = Machine(3, "Lathe 1", "manual lathe")
VISE = Holder(
    "Vise 1", "vise", "flat", D(0), D(120), "light", D("0.01"), "", "", "60 N·m", "", jaw_high_mm=D(25)
)
CHUCK = Holder("Chuck", "chuck", "round", D(5), D(200), "light", None, "", "", "", "", jaw_high_mm=D(20))
ALLOY = {"6061-T6": Material("6061-T6", D("2.7"), D(0), D(700), D("0.25"))}
REGISTERS = replace(SHOP, machines={**SHOP.machines, 3: LATHE}, materials=ALLOY)


def planned(form: str, lines: str, *edits: object) -> Plan:
    plan = Plan(Heading("Part", 24, "mm", material="6061-T6"))
    for edit in (*([SetForm("turned")] if form == "turned" else []), AddFeatureLines(lines), *edits):
        plan = apply_edit(edit, plan, REGISTERS).plan
    return plan


def block(*edits: object) -> Plan:
    """A block in a vise, faced and bored, then turned over."""
    lines = "block 60 x 40 x 31.5\nface 31.5 ±0.05, top\nbore 12 H7 through, 16 from left, in the middle, top\nface, bottom"
    first = SetSetup(
        "first side",
        1,
        "Vise 1",
        locates_on=("bottom", "back"),
        clamps_on=("front", "back"),
        cuts=(2, 4),
        parallels="17",
        to_stop="left",
    )
    second = SetSetup("second side", 1, "Vise 1", locates_on=("top",), clamps_on=("front", "back"), cuts=(6,))
    plan = planned("block", lines)
    keys = [f.key for f in plan.features]
    for edit in (replace(first, cuts=tuple(keys[1:3])), replace(second, cuts=tuple(keys[3:])), *edits):
        plan = apply_edit(edit, plan, REGISTERS).plan
    return plan


def worked(plan: Plan, **holders: Holder) -> Worked:
    known = {one.name: one for one in (VISE, CHUCK, *holders.values())}
    return work_out(plan, ShopKnown({1: MILL, 3: LATHE}, ALLOY, holders=known))


def ask_all(plan: Plan, **holders: Holder) -> dict[tuple[str, str], Asked]:
    found = worked(plan, **holders)
    return {(one.thing, one.question): one for one in hold_asked(found, contacts(found))}


def one(plan: Plan, question: str, at: int = 0, **holders: Holder) -> Asked:
    return ask_all(plan, **holders)[thing_of(plan.setups[at]), question]


def origins(asked: Asked) -> dict[str, tuple[str, str]]:
    return {f.name: (f.text, f.found.origin if f.found else "yours") for f in asked.figures if f.text}


def test_what_is_asked_of_a_block_in_a_vise() -> None:
    plan = block()
    first, second = (thing_of(s) for s in plan.setups)
    assert [q for thing, q in ask_all(plan) if thing == first] == ["stop", "grip", "depth", "marks", "reach"]
    assert [q for thing, q in ask_all(plan) if thing == second] == [
        "stop",
        "grip",
        "depth",
        "marks",
        "way_round",
    ]
    assert [q for thing, q in ask_all(planned("block", "block 60 x 40 x 20", SetSetup("one")))] == []


def test_figures_come_from_setup_register_features_and_practice() -> None:
    plan = block()
    assert origins(one(plan, "depth")) == {"gripped": ("8 mm", "computed"), "stands": ("23.5 mm", "computed")}
    depth = one(plan, "depth").answer
    assert depth is not None
    assert depth.say.startswith("8.0 mm")
    assert not depth.findings  # a quarter of 23.5 is 5.9
    assert origins(one(plan, "grip")) == {
        "holder": ("vise", "register"),
        "torque": ("60 N·m", "register"),
        "k": ("0.2", "practice"),
        "friction": ("0.15", "practice"),
    }
    assert origins(one(plan, "stop"))["repeat"] == ("0.01 mm", "register")


@pytest.mark.parametrize(
    ("edit", "question", "name", "text"),
    [
        (SetSetup("first side", 1, "Vise 1", torque="40 N·m"), "grip", "torque", "40 N·m"),
        (
            SetSetup("first side", 1, "Vise 1", torque="by feel"),
            "grip",
            "torque",
            "60 N·m",
        ),  # no figure: the register's
        (SetSetup("first side", 1, "Vise 1", to_stop="left"), "stop", "side", "left"),
    ],
)
def test_what_is_said_on_the_setup_goes_before_the_register(edit, question, name, text) -> None:
    plan = block()
    setup = plan.setups[0]
    kept = replace(
        edit,
        key=setup.key,
        locates_on=setup.locates_on,
        clamps_on=setup.clamps_on,
        cuts=setup.cuts,
        parallels="17",
    )
    found = one(apply_edit(kept, plan, REGISTERS).plan, question).figure(name)
    assert found is not None
    assert found.text == text


def test_a_station_that_says_where_its_stop_is_and_a_side_that_nobody_said() -> None:
    plan = block()
    assert (one(plan, "stop", 1).answer, one(plan, "stop", 1).unknown) == (
        None,
        "side",
    )  # left is not made up
    plan = apply_edit(SetStation(plan.setups[1].key, "A", stop="right"), plan, REGISTERS).plan
    assert origins(one(plan, "stop", 1))["side"] == ("right", "said")
    assert one(plan, "stop", 1).answer is not None


def test_what_nobody_knows_is_said_and_no_answer_is_made_up() -> None:
    grip = one(block(), "grip")
    assert (grip.answer, grip.unknown) == (None, "cutting")


def test_the_force_of_a_cut_that_method_worked_out_reaches_will_it_hold() -> None:
    cut = {
        "machine": "1",
        "material": "6061-T6",
        "kind": "turn",
        "diameter": "50",
        "speed": "200",
        "feed": "0.2",
        "depth": "2",
    }
    plan = block(KeepSheet("machine", cut, name="rough"))
    found = worked(plan)
    force = found.answers[plan.sheets[0].key].result.force_n
    grip = one(plan, "grip")
    assert origins(grip)["cutting"] == (f"{force:.6g} N", "computed")
    assert grip.figure("cutting").found.of == "rough"  # type: ignore[union-attr]
    assert grip.unknown == "screw"


def test_the_force_of_the_register_and_of_a_cut_make_it_hold() -> None:
    """Two faces, friction 0.15, 20 kN clamp 6 kN; against 2 kN that is 3 times."""
    strong = replace(VISE, rated_n=D(20000))
    plan = block()
    plan = apply_edit(
        SetFigure(thing_of(plan.setups[0]), "grip", "cutting", "2000 N", "measured once", "", "RK"),
        plan,
        REGISTERS,
    ).plan
    grip = one(plan, "grip", vise=strong)
    assert grip.answer is not None
    assert grip.answer.say == "It holds 3.0 times the cut."


def test_the_way_round_is_asked_once_the_piece_has_a_side() -> None:
    plan = block()
    assert one(plan, "way_round", 1).answer.say == "Both ways are right."  # type: ignore[union-attr]
    feature = plan.features[2]
    plan = plan.put(replace(feature, one_sided=True))
    found = one(plan, "way_round", 1)
    assert (found.answer, found.unknown) == (None, "proof")
    setup = plan.setups[1]
    plan = apply_edit(GiveBack(setup.key, "proof", "a pin at the left"), plan, REGISTERS).plan
    found = one(plan, "way_round", 1)
    assert found.answer is not None
    assert (found.answer.say, found.answer.why) == ("It cannot.", "A pin at the left.")
    assert found.given


def pin(**held: Any) -> Plan:
    lines = (
        "body Ø20 x 86\nshoulder Ø10 0/-0.04 x 60 ±0.1 long, free end\nshoulder Ø8 x 20 ±0.1 long, free end"
    )
    plan = planned("turned", lines)
    cuts = tuple(f.key for f in plan.features[1:])
    edit = SetSetup(
        "turn", 3, "Chuck", locates_on=("chuck end",), clamps_on=("chuck end",), cuts=cuts, **held
    )
    return apply_edit(edit, plan, REGISTERS).plan


def test_what_is_asked_of_a_slender_pin_in_a_chuck_of_a_hand_lathe() -> None:
    plan = pin(grip="20")
    found = ask_all(plan)
    assert [q for _, q in found] == ["blocks", "grip", "overhang", "marks"]
    assert origins(one(plan, "blocks"))["sizes"] == ("20.0 mm; 60.0 mm", "drawing")
    bends = origins(one(plan, "overhang"))
    assert (bends["length"], bends["across"]) == (("66 mm", "computed"), ("8 mm", "computed"))
    assert bends["material"] == ("aluminium", "drawing")
    assert bends["allowed"] == ("0.01 mm", "drawing")  # a quarter of 0.04
    assert one(plan, "overhang").unknown == "force"
    assert [q for _, q in ask_all(pin())] == [
        "blocks",
        "grip",
        "overhang",
        "marks",
    ]  # the register says how deep it grips


def test_a_thin_wall_in_a_chuck_is_asked_about_and_a_thick_one_is_not() -> None:
    def ring(bore: str) -> Plan:
        plan = planned("turned", f"body Ø60 x 30\nbore {bore} H8 through, free end")
        cuts = (plan.features[1].key,)
        edit = SetSetup(
            "bore", 3, "Chuck", locates_on=("chuck end",), clamps_on=("outside",), cuts=cuts, grip="20"
        )
        return apply_edit(edit, plan, REGISTERS).plan

    assert "thin" in {q for _, q in ask_all(ring("54"))}  # 3 of wall, a twentieth
    assert "thin" not in {q for _, q in ask_all(ring("40"))}  # 10 of wall, a sixth
    found = one(ring("54"), "thin")
    assert {name: text for name, (text, _) in origins(found).items()} == {
        "outside": "60 mm",
        "inside": "54 mm",
        "width": "20 mm",
        "material": "aluminium",
        "jaws": "3",
        "allowed": "0.023 mm",
    }
    assert found.unknown == "force"


def test_a_figure_said_otherwise_goes_before_the_job_and_is_asked_about_when_its_ground_moves() -> None:
    plan = block()
    key = plan.setups[0].key
    edit = SetFigure(f"setup {key}", "depth", "gripped", "7 mm", "worn jaws", "8 mm", "rk")
    plan = apply_edit(edit, plan, REGISTERS).plan
    depth = one(plan, "depth")
    figure = depth.figure("gripped")
    assert figure is not None
    assert figure.yours is not None
    assert (figure.text, figure.yours.who, figure.is_shaky) == ("7 mm", "RK", False)
    assert not asked_findings(worked(plan), (depth,))
    higher = apply_edit(
        replace(
            SetSetup("first side", 1, "Vise 1", parallels="18"),
            key=key,
            locates_on=("bottom", "back"),
            clamps_on=("front", "back"),
            cuts=plan.setups[0].cuts,
        ),
        plan,
        REGISTERS,
    ).plan
    moved = asked_findings(worked(higher), (one(higher, "depth"),))
    assert [f.code for f in moved] == ["figure-moved"]
    assert moved[0].problem == "first side: Gripped is yours, 7 mm; the job said 8 mm then and says 7 mm now."
    empty = apply_edit(replace(edit, text=""), plan, REGISTERS).plan
    assert empty.figures == ()
    assert one(empty, "depth").texts == one(block(), "depth").texts


@pytest.mark.parametrize(
    ("edit", "error"),
    [
        (SetFigure("first", "nothing", "gripped", "6"), NotFound),
        (SetFigure("first", "depth", "nothing", "6"), NotFound),
        (SetFigure("setup 99", "depth", "gripped", "6"), NotFound),
        (SetFigure("first", "grip", "holder", "glue"), BadEntry),
        (SetFigure("first", "depth", "gripped", "6" * 2001), BadEntry),
    ],
)
def test_a_figure_that_cannot_be_is_refused(edit, error) -> None:
    plan = block()
    keyed = replace(edit, thing=thing_of(plan.setups[0])) if edit.thing == "first" else edit
    with pytest.raises(error):
        apply_edit(keyed, plan, REGISTERS)


def test_figures_go_with_their_setup_and_into_a_part_like_it() -> None:
    plan = block()
    key = plan.setups[0].key
    plan = apply_edit(SetFigure(f"setup {key}", "grip", "cutting", "900 N"), plan, REGISTERS).plan
    assert apply_edit(RemoveSetup(key), plan, REGISTERS).plan.figures == ()
    both = apply_edit(AddPart("Part, right", 4, like=True), plan, REGISTERS).plan.seen_from(2)
    assert [figure.thing for figure in both.figures] == [thing_of(both.setups[0])]
    assert one(both, "grip").texts["cutting"] == "900 N"


def test_a_sheet_kept_before_there_were_questions_says_its_figures_still() -> None:
    plan = block()
    sheet = KeepSheet(
        "grip", {"cutting": "1200", "rated": "18000", "holder": "vise"}, name="Will it hold, first side"
    )
    plan = apply_edit(sheet, plan, REGISTERS).plan
    first, second = one(plan, "grip"), one(plan, "grip", 1)
    assert first.answer is not None
    assert first.texts["cutting"] == "1200"
    assert second.unknown == "cutting"  # it was kept about the first side
    said = [f.problem for f in asked_findings(worked(plan), (first,))]
    assert said == []  # what the sheet finds is said by the sheet


def test_a_guess_counts_as_open() -> None:
    plate = Holder("Plate", "vacuum", "flat", D(0), D(400), "none", None, "", "", "", "")
    plan = planned("block", "block 200 x 150 x 10\nface 10 ±0.1, top")
    edit = SetSetup("face", 1, "Plate", locates_on=("bottom",), cuts=(plan.features[1].key,))
    plan = apply_edit(edit, plan, REGISTERS).plan
    found = one(plan, "vacuum", plate=plate)
    assert found.answer is not None
    assert found.figure("x").is_guess  # type: ignore[union-attr]
    assert "stop" not in {q for _, q in ask_all(plan, plate=plate)}


def test_an_answer_is_the_same_with_its_figures_typed_in() -> None:
    """What the job says and what a person types is read by the same reader."""
    for plan in (block(), pin(grip="20"), pin(stick_out="50")):
        found = worked(plan)
        for asked in hold_asked(found, contacts(found)):
            assert asked_of(found, asked.question, asked.thing, asked.texts).answer == asked.answer


EDITS = st.sampled_from(
    [
        lambda plan: SetFigure(thing_of(plan.setups[0]), "grip", "friction", "0.3"),
        lambda plan: SetFigure(thing_of(plan.setups[0]), "grip", "cutting", "800 N"),
        lambda plan: SetFigure(thing_of(plan.setups[1]), "depth", "stands", "40"),
        lambda plan: SetFigure(thing_of(plan.setups[0]), "stop", "side", "right"),
        lambda plan: SetStation(plan.setups[1].key, "A", stop="right", was="A" if plan.stations else ""),
        lambda plan: GiveBack(plan.setups[0].key, "stop", "left, set by paper"),
        lambda _: SetHeading("Part", 30, "mm", material="brass"),
    ]
)


@settings(max_examples=40, deadline=None)
@given(st.lists(EDITS, min_size=1, max_size=4))
def test_a_change_reaches_what_rests_on_it_and_nothing_else(edits) -> None:
    plan = block()
    before = ask_all(plan)
    for edit in edits:
        plan = apply_edit(edit(plan), plan, REGISTERS).plan
    for place, now in ask_all(plan).items():
        was = before[place]
        same = was.texts == now.texts
        assert (now.answer == was.answer and now.unknown == was.unknown) or not same
        if not same:  # something that was changed is a figure of it
            assert any(f.yours or f.found for f in now.figures if f.text != was.texts.get(f.name, ""))


def test_every_question_names_fields_that_its_sheet_has() -> None:
    for question in QUESTIONS.values():
        assert set(question.sources) <= {entry.name for entry in question.sheet.entries}, question.name


def test_what_is_printed_of_a_setup_is_what_it_was_asked_and_what_is_in_it_already_is_not_said_again() -> (
    None
):
    plan = block()
    found = worked(plan)
    first = plan.setups[0]
    assert [name for name, _ in held_answers(found, hold_asked(found, contacts(found)), first)] == [
        "Stop",
        "Depth in the jaws",
        "Marks of the jaws",
        "Room below",
    ]
    gives = dict(one(plan, "stop").gives)
    plan = apply_edit(GiveBack(first.key, "stop", gives["stop"]), plan, REGISTERS).plan
    found = worked(plan)
    assert [name for name, _ in held_answers(found, hold_asked(found, contacts(found)), plan.setups[0])] == [
        "Depth in the jaws",
        "Marks of the jaws",
        "Room below",
    ]


def test_a_figure_said_otherwise_counts_in_a_sheet_kept_about_the_setup_too() -> None:
    plan = block(KeepSheet("grip", {"cutting": "12000", "rated": "18000"}, name="Will it hold, first side"))
    sheet = plan.sheets[0].key
    assert [f.code for f in worked(plan).answers[sheet].findings] == ["grip-weak"]
    plan = apply_edit(SetFigure(thing_of(plan.setups[0]), "grip", "cutting", "900 N"), plan, REGISTERS).plan
    found = worked(plan)
    assert not found.answers[sheet].findings
    assert found.answers[sheet] == one(plan, "grip").answer


@pytest.mark.parametrize(
    ("leaves", "cut", "says", "weights"),
    [
        ("none", "", "", []),  # not asked
        ("light", "", "Light marks stay.", ["note"]),  # the sides stay as they come
        ("deep", "", "Deep marks stay.", ["ask"]),
        ("deep", "front and back", "They may: it is cut later.", []),
    ],
)
def test_marks_of_the_jaws_matter_where_they_stay(
    leaves: str, cut: str, says: str, weights: list[str]
) -> None:
    plan = block()
    if cut:
        plan = apply_edit(AddFeatureLines("face, front\nface, back"), plan, REGISTERS).plan
        keys = tuple(f.key for f in plan.features[-2:])
        plan = apply_edit(SetSetup("sides", 1, "Vise 1", cuts=keys), plan, REGISTERS).plan
    asked = ask_all(plan, vise=replace(VISE, marks=leaves)).get((thing_of(plan.setups[0]), "marks"))
    assert (asked is None) == (not says)
    if asked is not None and asked.answer is not None:
        assert asked.answer.say == says
        assert [f.weight for f in asked.answer.findings] == weights


def test_marks_on_a_face_that_is_finished_already_are_asked_about_even_if_light() -> None:
    plan = block()
    top = replace(plan.setups[1], clamps_on=("top",))
    asked = one(plan.put(top), "marks", 1)
    assert origins(asked)["face"] == ("finished", "computed")
    assert [f.code for f in asked.answer.findings] == ["marks-stay"]  # type: ignore[union-attr]


def test_a_piece_on_a_pin_sits_off_by_half_its_play_and_half_the_hole_s_zone() -> None:
    """Hole 12 H7, at most 12.018; pin 11.99: play 28 µm, 14 off either way; its place within 0.02: 10 more."""
    plan = block()
    second = replace(plan.setups[1], locates_on=("top", "bore"))
    asked = one(plan.put(second), "on_hole", 1)
    assert origins(asked)["largest"] == ("12.018 mm", "drawing")
    assert asked.unknown == "pin"
    said = {"pin": "11.99", "zone": "0.02", "allowed": "0.04"}
    found = asked_of(worked(plan.put(second)), "on_hole", asked.thing, said)
    assert found.answer is not None
    assert found.answer.result["off_mm"] == D("0.024")
    assert [f.code for f in found.answer.findings] == ["located-loosely"]  # more than 0.02
    wide = asked_of(worked(plan.put(second)), "on_hole", asked.thing, said | {"allowed": "0.048"})
    assert wide.answer is not None
    assert not wide.answer.findings
    large = asked_of(worked(plan.put(second)), "on_hole", asked.thing, said | {"pin": "12.019"})
    assert [f.weight for f in large.answer.findings] == ["stop", "ask"] or large.answer.findings[
        0
    ].weight == "stop"  # type: ignore[union-attr]
    assert ("on_hole", thing_of(plan.setups[0])) not in {(q, t) for t, q in ask_all(plan)}


def test_a_slender_bar_is_pulled_out_by_segments_and_a_centred_or_thick_one_is_not() -> None:
    lines = "body Ø12 x 90\nshoulder Ø8 x 70 long, free end"
    plan = planned("turned", lines)
    cuts = (plan.features[1].key,)
    held = {"locates_on": ("bar",), "clamps_on": ("bar",), "cuts": cuts, "grip": "20"}
    blank = KeepSheet("blank", {"shape": "bar", "facing": "1", "skin": "0"})
    for edit in (blank, SetSetup("turn", 3, "Chuck", **held)):  # type: ignore[arg-type]
        plan = apply_edit(edit, plan, REGISTERS).plan
    asked = one(plan, "segments")
    assert origins(asked)["bar_across"] == ("12 mm", "computed")
    assert asked.texts["rows"].splitlines()[0] == "0.0000 mm 70.0000 mm 8.0000 mm"
    assert asked.answer is not None
    stretches = asked.answer.result["segments"]
    assert all(s.end_mm - s.start_mm <= 36 for s in stretches)  # three times the bar
    setup = plan.setups[0]
    centred = plan.put(replace(setup, centres=("free end",)))
    assert "segments" not in {q for _, q in ask_all(centred)}


def test_a_sawn_end_leans_the_blank_as_far_as_it_is_out_of_square() -> None:
    """0.3 out over 40, 90 long: the far end leans 0.3 × 90 / 40 = 0.675."""
    plan = planned("block", "block 87 x 40 x 38\nface, right")
    texts = {"shape": "block", "facing": "1.5", "skin": "1", "square": "0.3"}
    cuts = (plan.features[1].key,)
    for edit in (
        KeepSheet("blank", texts),
        SetSetup("end", 1, "Vise 1", locates_on=("left",), clamps_on=("front", "back"), cuts=cuts),
    ):
        plan = apply_edit(edit, plan, REGISTERS).plan
    asked = one(plan, "sawn")
    assert origins(asked) == {
        "square": ("0.3 mm", "computed"),
        "across": ("40 mm", "computed"),
        "length": ("90 mm", "computed"),
        "facing": ("1.5 mm", "computed"),
    }
    assert asked.answer is not None
    assert asked.answer.findings == ()
    assert asked.answer.result["lean_mm"] == D("0.675")
    short = asked_of(worked(plan), "sawn", asked.thing, {"facing": "0.2"})
    assert [f.code for f in short.answer.findings] == ["end-not-cleaned"]  # type: ignore[union-attr]
    enough = asked_of(worked(plan), "sawn", asked.thing, {"facing": "0.3"})
    assert not enough.answer.findings  # type: ignore[union-attr]
    flat = replace(plan, sheets=tuple(replace(s, texts=s.texts | {"square": "0"}) for s in plan.sheets))
    assert "sawn" not in {q for _, q in ask_all(flat)}
