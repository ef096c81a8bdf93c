"""The questions of Stock: blank, starts, bars and mass from the part, each resting on the one before; what is kept of them."""

from dataclasses import replace
from decimal import Decimal as D

import pytest

from ditto_run.core.edits import (
    AddFeatureLines,
    KeepSheet,
    KeepSheets,
    OverrideFinding,
    SetFigure,
    SetForm,
    SetOrder,
    SetSetup,
    SetStockSize,
    apply_edit,
)
from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan, open_things
from ditto_run.core.plan.asked import asked_of, stock_asked, taken_over, to_keep
from ditto_run.core.plan.worked import PART, ShopKnown, Worked, work_out
from ditto_run.core.questions import Asked
from ditto_run.core.shop.drawers import Material
from ditto_run.core.shop.taught import Taught
from tests.conftest import SHOP

STEEL = {
    "316": Material("316", D("8.0"), D(500), D(1800), D("0.2")),
    "3": Material("3", D(1), D(1), D(1), D(0)),
}
REGISTERS = replace(SHOP, materials=STEEL)


def planned(
    lines: str, *edits: object, form: str = "turned", unit: str = "mm", material: str = "316 stainless"
) -> Plan:
    plan = Plan(Heading("Pin", 60, unit, material=material))  # type: ignore[arg-type]
    for edit in (*([SetForm("turned")] if form == "turned" else []), AddFeatureLines(lines), *edits):
        plan = apply_edit(edit, plan, REGISTERS).plan
    return plan


def worked(plan: Plan) -> Worked:
    return work_out(plan, ShopKnown(materials=STEEL))


def ask_all(plan: Plan) -> dict[str, Asked]:
    return {one.question: one for one in stock_asked(worked(plan))}


def origins(asked: Asked) -> dict[str, tuple[str, str]]:
    return {f.name: (f.text, f.found.origin if f.found else "yours") for f in asked.figures if f.text}


PIN = "body Ø12 x 86\nshoulder Ø10 0/-0.04 x 20 long, free end"


def test_a_pin_is_answered_from_its_features_before_anything_is_kept() -> None:
    found = ask_all(planned(PIN))
    assert [*found] == ["blank", "starts", "cuts", "mass"]
    assert origins(found["blank"]) == {
        "shape": ("bar", "drawing"),
        "length": ("86 mm", "computed"),
        "across": ("12 mm", "computed"),
        "facing": ("1.5 mm", "practice"),
        "skin": ("1.5 mm", "practice"),
    }
    assert [one.answer.say for one in found.values() if one.answer] == [
        "Blank Ø13.50 mm (0.531 in) × 89.00 mm (3.504 in).",  # 86 and 1.5 at each end
        "Start 60 to be 90 % sure of 60 good.",
        "2 bars for 60 pieces: 32 a bar.",  # 3000 less what nothing keeps, over 89 + 3
        found["mass"].answer.say,  # type: ignore[union-attr]
    ]
    assert origins(found["cuts"])["bar"] == ("3000 mm", "guess")
    assert origins(found["mass"])["material"] == ("316", "register")
    assert not any(one.given for one in found.values())


@pytest.mark.parametrize(
    ("edits", "question", "name", "figure"),
    [
        ((SetStockSize("bar", "12", "11.95"),), "blank", "skin", ("0 mm", "measured")),
        ((SetStockSize("bar", "16", ""),), "blank", "skin", ("4 mm", "measured")),
        ((SetOrder("316 bar", bars=3, length="4000"),), "cuts", "bar", ("4000", "said")),
    ],
)
def test_what_was_bought_goes_before_what_is_usual(edits, question, name, figure) -> None:
    assert origins(ask_all(planned(PIN, *edits))[question])[name] == figure


def test_a_body_that_no_setup_cuts_comes_with_its_size() -> None:
    plan = planned(PIN)
    shoulder = plan.features[1].key
    cut = apply_edit(SetSetup("turn", 1, "collet", cuts=(shoulder,)), plan, REGISTERS).plan
    assert origins(ask_all(cut)["blank"])["skin"] == ("0 mm", "computed")
    whole = apply_edit(
        SetSetup("turn", 1, "collet", cuts=(plan.features[0].key, shoulder)), plan, REGISTERS
    ).plan
    assert origins(ask_all(whole)["blank"])["skin"] == ("1.5 mm", "practice")


def test_a_drawing_in_inches_has_round_inches_for_what_is_usual() -> None:
    found = ask_all(planned("body .500 x 3.386", unit="in"))
    assert origins(found["blank"])["facing"] == ("0.06 in", "practice")
    assert origins(found["cuts"])["bar"] == ("144 in", "guess")


def test_a_part_without_a_size_asks_only_how_many() -> None:
    assert [*ask_all(Plan(Heading("Pin", 60, "mm")))] == ["starts"]
    kept = apply_edit(
        KeepSheet("blank", {"shape": "bar", "length": "86", "across": "12"}),
        Plan(Heading("Pin", 60, "mm")),
        REGISTERS,
    ).plan
    assert [*ask_all(kept)] == ["blank", "starts"]  # what is kept is shown


def test_what_is_kept_finds_what_the_job_knows_again() -> None:
    plan = planned(PIN)
    asked = stock_asked(worked(plan))
    sheets = tuple(KeepSheet(one.question, to_keep(one), one.question) for one in asked)
    assert sheets[0].texts == {"shape": "bar", "facing": "1.5 mm", "skin": "1.5 mm"}
    changed = apply_edit(KeepSheets(sheets), plan, REGISTERS)
    assert changed.what == "kept Blank, How many to start, Bars and cuts, Mass, cost, chips"
    for one in asked:  # what Hold, Method and the shelf rest on is what was shown
        assert one.answer is not None
        assert worked(changed.plan).result_of(one.question) == one.answer.result, one.question
    after = stock_asked(worked(changed.plan))
    assert [one.answer.result for one in after if one.answer] == [
        one.answer.result for one in asked if one.answer
    ]
    assert all(one.given for one in after)
    longer = apply_edit(AddFeatureLines("face 100, free end"), changed.plan, REGISTERS).plan
    assert worked(longer).result_of("blank") is not None
    with pytest.raises(BadEntry):
        apply_edit(KeepSheets(()), plan, REGISTERS)


def test_a_figure_of_the_part_said_otherwise_reaches_what_rests_on_it() -> None:
    plan = planned(PIN)
    plan = apply_edit(
        SetFigure(PART, "blank", "facing", "5 mm", "rough saw", "1.5 mm", "RK"), plan, REGISTERS
    ).plan
    found = ask_all(plan)
    assert found["cuts"].answer.result.full.piece_mm == D(96)  # type: ignore[union-attr]
    assert asked_of(worked(plan), "cuts", PART, {"kerf": "4"}).answer.result.full.kerf_mm == D(4)  # type: ignore[union-attr]
    with pytest.raises(NotFound):
        asked_of(worked(plan), "blank", "setup 1")
    with pytest.raises(NotFound):
        asked_of(worked(plan), "grip", PART)


@pytest.mark.parametrize(
    ("material", "row"), [("316 stainless", "316"), ("303", "3"), ("brass", ""), ("", "")]
)
def test_the_register_s_row_is_the_longest_the_name_begins_with(material: str, row: str) -> None:
    assert origins(ask_all(planned(PIN, material=material))["mass"]).get("material", ("",))[0] == row


@pytest.mark.parametrize(
    "edits",
    [(), (SetStockSize("bar", "16", ""),), (SetOrder("316 bar", bars=3, length="4 m"),)],
    ids=["bare", "bar", "order"],
)
def test_what_the_page_shows_is_what_the_other_steps_use(edits) -> None:
    """Planned, and a figure said otherwise after it: the answer shown and the result others rest on are one."""
    plan = planned(PIN, *edits)
    sheets = tuple(KeepSheet(one.question, to_keep(one), one.question) for one in stock_asked(worked(plan)))
    plan = apply_edit(KeepSheets(sheets), plan, REGISTERS).plan
    for edit in (None, SetFigure(PART, "cuts", "bar", "2 m"), SetFigure(PART, "blank", "facing", "5 mm")):
        plan = apply_edit(edit, plan, REGISTERS).plan if edit is not None else plan
        found = worked(plan)
        for one in stock_asked(found):
            assert one.answer is not None
            assert found.result_of(one.question) == one.answer.result, one.question
    assert found.result_of("cuts").full.bar_mm == D(2000)
    assert found.result_of("cuts").full.piece_mm == D(96)


def test_a_sheet_kept_before_there_were_questions_is_shown_as_it_counts() -> None:
    """An empty field of it was nothing, and is not filled with what is usual now."""
    plan = apply_edit(KeepSheet("blank", {"shape": "bar"}), planned(PIN), REGISTERS).plan
    found = worked(plan)
    shown = ask_all(plan)["blank"]
    assert shown.answer is not None
    assert shown.answer.result == found.result_of("blank")
    assert found.result_of("blank").blank_mm == (D(12), D(86))


def planned_so(plan: Plan) -> Plan:
    """The plan after *Plan it so*, as the page sends it."""
    asked = [one for one in stock_asked(worked(plan)) if one.answer is not None and not one.given]
    sheets = tuple(
        KeepSheet(one.question, to_keep(one), one.question, taken=taken_over(one)) for one in asked
    )
    return apply_edit(KeepSheets(sheets), plan, REGISTERS).plan


def open_of(plan: Plan, code: str) -> list[str]:
    return [
        thing.finding.problem
        for thing in open_things(worked(plan))
        if thing.finding.code == code and thing.is_open
    ]


def test_a_guess_that_was_planned_stays_a_guess_until_somebody_says_it() -> None:
    plan = planned(PIN)
    assert open_of(plan, "guess") == []  # nobody planned it: nothing rests on it
    plan = planned_so(plan)
    assert open_of(plan, "guess") == ["Bar as bought, 3000 mm, is a guess."]
    finding = next(thing.finding for thing in open_things(worked(plan)) if thing.finding.code == "guess")
    code, thing, ground = finding.key
    let = OverrideFinding(finding.problem, "measured later", "RK", code=code, thing=thing, ground=ground)
    stands = apply_edit(let, plan, REGISTERS).plan
    assert open_of(stands, "guess") == []
    said = apply_edit(
        SetFigure(PART, "cuts", "bar", "3 m", "measured", "3000 mm", "RK"), plan, REGISTERS
    ).plan
    assert open_of(said, "guess") == open_of(said, "figure-moved") == []


def test_what_was_planned_is_asked_about_when_the_job_says_something_else() -> None:
    plan = planned_so(planned(PIN))
    plan = apply_edit(SetOrder("316 bar", bars=3, length="4000 mm"), plan, REGISTERS).plan
    assert open_of(plan, "figure-moved") == ["Bar as bought is planned as 3000 mm; the job says 4000 mm now."]
    assert open_of(plan, "guess") == []
    found = ask_all(plan)
    assert found["cuts"].answer.result.full.bar_mm == D(3000)  # type: ignore[union-attr]  # what is planned counts
    assert not found["cuts"].given
    again = planned_so(plan)
    assert open_of(again, "figure-moved") == []
    assert worked(again).result_of("cuts").full.bar_mm == D(4000)
    emptied = apply_edit(SetFigure(PART, "cuts", "bar", "", ground="4000 mm"), plan, REGISTERS).plan
    assert worked(emptied).result_of("cuts").full.bar_mm == D(4000)
    assert open_of(emptied, "figure-moved") == []


def test_a_sheet_typed_by_hand_is_nobodys_but_the_hand_s() -> None:
    """What is typed over a planned figure is not the job's any more; what is as it was still is."""
    plan = planned_so(planned(PIN))
    sheet = next(one for one in plan.sheets if one.kind == "cuts")
    assert sheet.taken["bar"] == "guess"
    typed = {**sheet.texts, "bar": "3010 mm"}
    plan = apply_edit(KeepSheet("cuts", typed, key=sheet.key), plan, REGISTERS).plan
    after = next(one for one in plan.sheets if one.kind == "cuts")
    assert "bar" not in after.taken
    assert after.taken["kerf"] == "practice"
    assert open_of(plan, "guess") == []


def test_what_batches_taught_of_scrap_sets_how_many_to_start() -> None:
    """Of 40 pieces 36 were good: 60 wanted ask for more than the 60 that no scrap asks for; the sheet says how sure."""
    row = Taught("scrap", 10.0, 2, 40, "", "Mill 2", "316 stainless", ())
    plan = planned(PIN, SetSetup("turn", 1, "collet"))
    shop = ShopKnown(SHOP.machines, materials=STEEL, taught=(row,))
    found = next(one for one in stock_asked(work_out(plan, shop)) if one.question == "starts")
    assert origins(found)["history_good"] == ("36", "learned")
    assert origins(found)["history_made"] == ("40", "learned")
    assert found.answer is not None
    assert found.answer.result.start > 66
    elsewhere = replace(shop, taught=(replace(row, machine="Lathe 1"),))
    found = next(one for one in stock_asked(work_out(plan, elsewhere)) if one.question == "starts")
    assert "history_made" not in found.texts
