"""How a hole is made: which tool decides its size, spot, pilot, pecks, depth; asked of each hole that a setup cuts."""

from decimal import Decimal as D

import pytest

from ditto_run.core.edits import AddFeatureLines, AddToolLines, SetFigure, SetForm, SetSetup, apply_edit
from ditto_run.core.errors import NotFound
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan, ShopKnown
from ditto_run.core.plan.asked import asked_findings, asked_of, tools_asked
from ditto_run.core.plan.worked import work_out
from ditto_run.core.questions import Asked
from ditto_run.core.tools.hole import FINER, Hole, drilled_mm, grade_of, make_hole, pecks_of, point_mm
from ditto_run.core.tools.hole_sheet import HOLE
from tests.conftest import SHOP

DRILLS = tuple(
    (f"{n / 10:g} mm", D(n) / 10) for n in (25, 30, 40, 50, 60, 78, 80, 98, 100, 118, 120, 140, 200)
)
REAMERS = (("12 mm new", D("12.008")), ("8 mm worn", D("7.996")))
DRAWER = ShopKnown(drills=DRILLS, reamers=REAMERS)


def tools(hole: Hole, reamers: tuple[tuple[str, D], ...] = REAMERS) -> list[tuple[str, str]]:
    return [(tool.does, tool.name) for tool in make_hole(hole, DRILLS, reamers).tools]


@pytest.mark.parametrize(
    ("nominal", "limits", "expected"),
    [
        ("6", None, [("spot", ""), ("drill", "6 mm")]),
        ("6", ("6", "6.08"), [("spot", ""), ("drill", "6 mm")]),  # 6 + 0.05 + 0.03: on the limit it holds
        ("6", ("6", "6.0799"), [("spot", ""), ("drill", "5 mm"), ("bore", "")]),
        ("12", ("12", "12.018"), [("spot", ""), ("drill", "11.8 mm"), ("ream", "12 mm new")]),
        ("8", ("8", "8.015"), [("spot", ""), ("drill", "6 mm"), ("bore", "")]),  # the worn one cuts too small
        (
            "20",
            ("20", "20.021"),
            [("spot", ""), ("pilot", "3 mm"), ("drill", "14 mm"), ("bore", "")],
        ),
    ],
)
def test_the_limits_say_what_makes_the_size(
    nominal: str, limits: tuple[str, str] | None, expected: list[tuple[str, str]]
) -> None:
    hole = Hole(D(nominal), None if limits is None else (D(limits[0]), D(limits[1])))
    assert tools(hole) == expected


def test_reamers_that_are_not_listed_are_said_and_not_made_up() -> None:
    made = make_hole(Hole(D(12), (D(12), D("12.018"))), DRILLS, ())
    assert (made.finish, made.lacks) == ("ream", ("reamer",))
    odd = make_hole(Hole(D(12), (D("11.9"), D("11.918"))), DRILLS, ())
    assert (odd.finish, odd.lacks) == ("bore", ())  # none is sold for that


def test_without_a_drill_that_fits_there_is_no_drill() -> None:
    made = make_hole(Hole(D(2), (D(2), D("2.01"))), DRILLS, (("2 mm", D("2.005")),))
    assert (made.drill, made.lacks) == (None, ("drill",))


@pytest.mark.parametrize(
    ("hole", "spotted"),
    [
        (Hole(D(6)), True),
        (Hole(D(6), drill="stub"), False),
        (Hole(D(6), drill="stub", place_mm=D("0.2")), True),
        (Hole(D(6), drill="stub", place_mm=D("0.2001")), False),
        (Hole(D(6), drill="stub", entry="raw"), True),
        (Hole(D(6), drill="stub", entry="round"), True),
    ],
)
def test_it_is_spotted_where_a_drill_would_wander(hole: Hole, spotted: bool) -> None:
    assert (("spot", "") in tools(hole)) is spotted


def test_grades_are_those_of_the_standard() -> None:
    """IT7 at 12 mm is 18 µm, at 25 mm 21 µm, IT11 at 6 mm 75 µm: [iso286-values], and ISO 286-1 from memory."""
    assert [grade_of(D(12), D("0.018")), grade_of(D(12), D("0.0179"))] == [7, 6]
    assert grade_of(D(12), D("0.004")) == FINER  # IT4 is 5 µm there
    assert [grade_of(D(25), D("0.021")), grade_of(D(6), D("0.075")), grade_of(D(501), D(1))] == [7, 11, None]


def test_a_point_of_118_degrees_is_three_tenths_of_the_diameter() -> None:
    """A fact of the trade, and half of 1 / tan 59° = 0.3004."""
    assert point_mm(D(10)) == pytest.approx(D("3.004"), abs=D("0.001"))
    assert drilled_mm(D(10)) == D("10.1")


@pytest.mark.parametrize(
    ("slender", "how", "then"),
    [
        ("4", "in one", "4"),  # as Method's rule says too
        ("4.01", "break the chip", "1"),
        ("6", "break the chip", "1"),
        ("6.01", "out of the hole", "1"),
        ("10.01", "out of the hole", "0.5"),
    ],
)
def test_pecks_by_how_slender_the_hole_is(slender: str, how: str, then: str) -> None:
    pecks = pecks_of(D(slender))
    assert (pecks.how, pecks.then) == (how, D(then))


def test_how_deep_the_drill_goes() -> None:
    """Blind and reamed: 20 + 2 for the reamer's lead + 3.54 point of an 11.8 drill; through: 1 past the far face and its point."""
    blind = make_hole(Hole(D(12), (D(12), D("12.018")), D(20)), DRILLS, REAMERS)
    assert blind.to_mm == pytest.approx(D("25.545"), abs=D("0.001"))
    through = make_hole(Hole(D(6), None, D(20), through=True), DRILLS, ())
    assert through.to_mm == pytest.approx(D("22.803"), abs=D("0.001"))


def planned(lines: str, *edits: object, form: str = "block") -> Plan:
    plan = Plan(Heading("Part", 24, "mm"))
    for edit in (*([SetForm("turned")] if form == "turned" else []), AddFeatureLines(lines), *edits):
        plan = apply_edit(edit, plan, SHOP).plan
    keys = tuple(f.key for f in plan.features)
    return apply_edit(SetSetup("first side", 1, "vise", cuts=keys), plan, SHOP).plan


def only(plan: Plan) -> Asked:
    (asked,) = tools_asked(work_out(plan, DRAWER))
    return asked


def test_a_hole_is_answered_from_the_part_and_its_setups() -> None:
    asked = only(
        planned(
            "block 60 x 40 x 20\nface 20 ±0.1, top\nbore 12 H7 through, top, in the middle, position 0.1 to A"
        )
    )
    assert asked.texts == {
        "hole": "12.000 mm H7",
        "through": "through",
        "depth": "20.0 mm",
        "entry": "machined",
        "drill": "jobber",
        "place": "0.1 mm",
    }
    assert asked.answer is not None
    assert asked.answer.say == "Spot it, drill 11.8 mm and ream 12 mm new."
    assert asked.gives == (("tools", "spot bore\ndrill 11.8 mm\nream 12 mm new"),)


def test_its_lines_go_to_the_setup_once_and_a_typed_figure_goes_before_the_drawing() -> None:
    plan = planned("block 60 x 40 x 20\nhole 6 x 10 deep, top, in the middle")
    asked = only(plan)
    assert asked.gives == (("tools", "spot hole\ndrill 6 mm 10 mm deep"),)
    assert asked.texts["entry"] == "raw"  # no setup faces the top
    given = apply_edit(AddToolLines(plan.setups[0].key, asked.gives[0][1]), plan, SHOP).plan
    assert only(given).given
    stub = SetFigure(asked.thing, "hole", "drill", "stub", "", "jobber", "RK")
    faced = SetFigure(asked.thing, "hole", "entry", "machined", "faced when bought", "raw", "RK")
    plan = apply_edit(faced, apply_edit(stub, plan, SHOP).plan, SHOP).plan
    assert only(plan).gives == (("tools", "drill 6 mm 10 mm deep"),)


def test_a_cross_hole_starts_on_the_round_and_a_tapped_one_is_asked_as_a_thread() -> None:
    lines = "body Ø20 x 60\ncross hole 6 through, 10 from free end\ntapped hole M6 x 12 deep, free end"
    asked = only(planned(lines, form="turned"))
    assert (asked.texts["entry"], asked.texts["depth"]) == ("round", "20.0 mm")


def test_a_hole_nobody_cuts_is_not_asked_and_one_that_is_not_there_is_said() -> None:
    plan = Plan(Heading("Part", 24, "mm"))
    plan = apply_edit(
        AddFeatureLines("block 60 x 40 x 20\nhole 6 through, top, in the middle"), plan, SHOP
    ).plan
    assert tools_asked(work_out(plan, DRAWER)) == ()
    with pytest.raises(NotFound):
        asked_of(work_out(plan, DRAWER), "hole", "feature 99")


def test_where_no_drill_is_listed_nothing_is_said_of_the_hole() -> None:
    worked = work_out(planned("block 60 x 40 x 20\nhole 6 through, top, in the middle"), ShopKnown())
    (asked,) = tools_asked(worked)
    assert asked.answer is None
    assert asked_findings(worked, (asked,)) == []


def test_a_point_that_breaks_through_is_open_until_it_is_let_stand() -> None:
    plan = planned("block 60 x 40 x 12\nhole 8 x 10 deep, top, in the middle")
    worked = work_out(plan, DRAWER)
    assert [f.code for f in asked_findings(worked, tools_asked(worked))] == ["point-breaks-through"]


@pytest.mark.parametrize(
    ("texts", "code"),
    [
        ({"hole": "12 ±0.002"}, "finer-than-bored"),
        ({"hole": "2 mm to 2.01 mm"}, "no-drill-before"),
        ({"hole": "8 mm to 8.015 mm", "depth": "10", "room": "13"}, ""),
        ({"hole": "6", "depth": "10", "room": "11.8"}, "point-breaks-through"),
        ({"hole": "6", "depth": "10", "room": "11.9"}, ""),
    ],
)
def test_what_is_asked_about(texts: dict[str, str], code: str) -> None:
    answer = HOLE.answer(texts, work_out(planned("block 60 x 40 x 20"), DRAWER).known)
    assert [f.code for f in answer.findings if f.weight == "ask"] == ([code] if code else [])
