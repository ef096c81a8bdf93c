"""The program of a cycle: what was said of it is open until it is let stand, and asked anew when the plan moves."""

from dataclasses import replace

import pytest

from ditto_run.core.edits import GiveUpProgram, RemoveStation, SetProgram, SetToolStep, SetTrouble, apply_edit
from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.plan import Plan, plan_findings
from ditto_run.core.plan.differences import differences
from ditto_run.core.plan.programs_open import planned_of
from ditto_run.core.program.choice import KeptFault, ProgramChoice
from tests.conftest import MILL, SHOP
from tests.core.test_visits import two_tools

FAULTS = (
    KeptFault(12, "rapid_in_blank"),
    KeptFault(20, "slow_air", seconds=4.5),
    KeptFault(29, "coolant_on_at_end"),
)


def chosen(plan: Plan, **more: object) -> Plan:
    cycle = plan.all_cycles[0]
    tools, offsets = planned_of(plan, cycle)
    choice = ProgramChoice(
        cycle.key, "side.nc", "abc", "mill-ngc", faults=FAULTS, tools=tools, offsets=offsets
    )
    return apply_edit(SetProgram(replace(choice, **more)), plan, SHOP).plan  # type: ignore[arg-type]


def told(plan: Plan) -> list[tuple[str, str, str]]:
    found = [f for f in plan_findings(plan, {1: MILL}) if f.code.startswith("program-")]
    return [(f.weight, f.code, f.problem) for f in found]


def test_what_was_said_of_it_is_open_but_a_note_wants_no_answer() -> None:
    plan = two_tools()
    assert told(plan) == []
    name = plan.setups[0].name
    assert told(chosen(plan)) == [
        ("stop", "program-rapid_in_blank", f"{name}, side.nc: line 12: a rapid goes through the blank."),
        ("ask", "program-slow_air", f"{name}, side.nc: line 20: it feeds 4.5 s through the air."),
    ]
    assert [code for _, code, _ in told(chosen(plan, faults=(), is_whole=False))] == ["program-not-whole"]
    assert differences(plan, chosen(plan)) == ["added program"]


def test_for_other_tools_or_offsets_it_has_to_be_read_again() -> None:
    plan = chosen(two_tools())
    key = plan.setups[0].key
    for edit in (SetToolStep(key, 9, "deburr slot"), RemoveStation(key, "C")):
        moved = apply_edit(edit, plan, SHOP).plan
        assert [code for _, code, _ in told(moved)] == ["program-moved"]


def test_it_is_chosen_anew_given_up_and_refused_where_nothing_was_read() -> None:
    plan = chosen(two_tools())
    again = chosen(plan, file="other.nc", faults=())
    assert [one.file for one in again.programs] == ["other.nc"]
    key = plan.all_cycles[0].key
    assert apply_edit(GiveUpProgram(key), again, SHOP).plan.programs == ()
    with pytest.raises(NotFound):
        apply_edit(GiveUpProgram(77), again, SHOP)
    with pytest.raises(NotFound):
        chosen(two_tools(), key=77)
    for wrong in ({"faults": (KeptFault(1, "made up"),)}, {"file": " "}, {"faults": FAULTS * 40}):
        with pytest.raises(BadEntry):
            chosen(two_tools(), **wrong)


def test_for_another_revision_of_the_drawing_it_has_to_be_looked_at_again() -> None:
    plan = chosen(two_tools())
    other = replace(plan, heading=replace(plan.heading, drawing_revision="C"))
    name = plan.setups[0].name
    assert told(other) == [
        (
            "ask",
            "program-moved",
            f"{name}: side.nc was chosen for a drawing without a revision; it is drawing revision C now.",
        )
    ]
    assert told(chosen(other, drawing="C", faults=())) == []


def test_a_trouble_is_open_until_something_says_what_mended_it() -> None:
    plan = two_tools()
    cycle = plan.all_cycles[0]
    edit = SetTrouble(cycle.key, "drill broke  at 12 mm ", "side.nc, line 14")
    plan = apply_edit(edit, plan, SHOP).plan
    (trouble,) = plan.troubles
    problem = f"{cycle.name}, side.nc, line 14: drill broke at 12 mm, and nothing says what mended it."
    assert told(plan) == [("ask", "program-trouble", problem)]
    mended = apply_edit(replace(edit, mended="pecked every 2 mm", key=trouble.key), plan, SHOP)
    assert mended.what.endswith("is mended by pecked every 2 mm")
    assert told(mended.plan) == []
    assert [one.mended for one in mended.plan.troubles] == ["pecked every 2 mm"]
    for wrong, error in ((replace(edit, what=" "), BadEntry), (replace(edit, cycle=77), NotFound)):
        with pytest.raises(error):
            apply_edit(wrong, plan, SHOP)
