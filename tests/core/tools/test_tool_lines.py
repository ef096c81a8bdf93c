"""Setups and tool steps typed as lines: what each says, and that all come in or none."""

import pytest

from ditto_run.core.edits import AddSetupLines, AddToolLines, PlanRegisters, SetSetup, apply_edit
from ditto_run.core.edits.lines import read_setup_line, read_tool_line
from ditto_run.core.errors import BadEntry
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from tests.conftest import MILL, SHOP


@pytest.mark.parametrize(
    ("line", "tool", "does", "cut", "change"),
    [
        ("T3 rough the slot 1:30 + 0:10", 3, "rough the slot", "1:30", "0:10"),
        ("t 12 drill 6.5, 20 s", 12, "drill 6.5", "20 s", ""),
        ("face 45", 0, "face 45", "", ""),  # a bare figure is part of the words
        ("deburr 0:15", 0, "deburr", "0:15", ""),
        ("T1 tap M6 2 min + 5 s", 1, "tap M6", "2 min", "5 s"),
        ("T4 part off", 4, "part off", "", ""),
        ("Trim the edge 0:30", 0, "Trim the edge", "0:30", ""),
        ("T2 rough + finish 0:30", 2, "rough + finish", "0:30", ""),
    ],
)
def test_what_a_line_of_a_tool_says(line: str, tool: int, does: str, cut: str, change: str) -> None:
    step = read_tool_line(1, line)
    assert (step.tool, step.does, step.cut, step.change) == (tool, does, cut, change)


@pytest.mark.parametrize("line", ["T3 1:30", "1:30", "T3 1:30 + 0:10", ";"])
def test_a_line_that_does_not_say_what_is_done_is_refused(line: str) -> None:
    with pytest.raises(BadEntry, match="does not say what is done"):
        read_tool_line(1, line)


@pytest.mark.parametrize("said", ["soon", "", "8", "0:5"])
def test_what_stands_behind_the_plus_and_is_no_time_is_refused(said: str) -> None:
    with pytest.raises(BadEntry, match=f"“{said}” behind the plus is no time"):
        read_tool_line(1, f"T1 face mill 0:10 + {said}")


@pytest.mark.parametrize(
    ("line", "machine", "holds", "handling"),
    [
        ("first side; Mill 2; Vise 1; 0:45", 1, "Vise 1", "0:45"),
        ("first side, vise, old mill, 30 s", 2, "vise", "30 s"),
        ("first side", None, "", ""),
        ("first side; Mill 9", None, "Mill 9", ""),  # no machine of ours: what holds it
    ],
)
def test_what_a_line_of_a_setup_says(line: str, machine: int | None, holds: str, handling: str) -> None:
    found = read_setup_line(line, SHOP)
    assert (found.name, found.machine_id, found.holds, found.handling) == (
        "first side",
        machine,
        holds,
        handling,
    )
    assert read_setup_line("turn; collet", PlanRegisters({1: MILL})).machine_id == 1  # the only one


def test_all_lines_come_in_or_none() -> None:
    plan = Plan(Heading("Pin", 4))
    plan = apply_edit(AddSetupLines("turn; collet; 0:20\n\nmill; Vise 1"), plan, SHOP).plan
    assert [(s.name, s.handling_s) for s in plan.setups] == [("turn", 20), ("mill", 0)]
    key = plan.setups[0].key
    more = apply_edit(AddToolLines(key, "T1 face 0:10\nT2 turn 0:50 + 0:05"), plan, SHOP)
    assert [(s.name, s.does, s.cut_s, s.change_s) for s in more.plan.tool_steps] == [
        ("T01", "face", 10, 0),
        ("T02", "turn", 50, 5),
    ]
    assert more.what == "added 2 tool steps"
    for edit, words in (
        (AddToolLines(key, "T1 face 0:10\nT2 1:00:00 1:00"), "Line 2"),
        (AddToolLines(key, "\n \n"), "0 lines"),
        (AddSetupLines("turn; a; b; c"), "Line 1, “turn; a; b; c”: “b” is one thing too many"),
        (AddSetupLines("; vise"), "Line 1"),
    ):
        with pytest.raises(BadEntry) as refused:
            apply_edit(edit, plan, SHOP)
        assert refused.value.problem.startswith(words)
        assert refused.value.field == "lines"
    assert apply_edit(SetSetup("saw"), plan, SHOP).plan.setups[-1].name == "saw"
