"""The skeleton of a program: in the order of the plan, up before every tool and offset, proven by reading it back."""

import re
from collections.abc import Mapping
from dataclasses import replace
from decimal import Decimal

import pytest

from ditto_run.core.errors import NotNow
from ditto_run.core.place.offsets import Offset
from ditto_run.core.plan import Plan
from ditto_run.core.plan.skeleton import Skeleton, write_skeleton
from ditto_run.core.plan.worked import ShopKnown, work_out
from ditto_run.core.shop import Machine
from ditto_run.core.shop.dialect import Dialect
from tests.conftest import MILL
from tests.core.test_visits import take, two_tools


def written(plan: Plan, machine: Machine = MILL, offsets: Mapping[str, Offset] | None = None) -> Skeleton:
    return write_skeleton(work_out(plan, ShopKnown({1: machine})), plan.all_cycles[0], offsets or {})


def test_it_goes_round_all_stations_with_each_tool_and_calls_what_is_planned() -> None:
    found = written(two_tools())
    assert found.tools == (3, 4)
    assert found.offsets == ("G54", "G55", "G56", "G54", "G55", "G56")
    lines = found.text.splitlines()
    assert lines[3] == "G21 G17 G40 G49 G80 G90 G94"
    assert lines[-2:] == ["M30", "%"]
    assert found.unknown_speeds == ("T03", "T04")  # nothing says how wide they are
    assert "(CUT HERE: FINISH SLOT AT C)" in lines


def test_it_follows_the_order_that_was_taken() -> None:
    found = written(take(two_tools(), "A3 A4 B3 B4 C3 C4"))
    assert found.tools == (3, 4, 3, 4, 3, 4)
    assert found.offsets == ("G54", "G55", "G56")


def test_offsets_it_calls_that_are_not_set_are_named() -> None:
    there = Offset("G54", {"x": Decimal(-300), "y": Decimal(-200), "z": Decimal(-350)})
    assert written(two_tools()).not_set == ("G54", "G55", "G56")
    assert written(two_tools(), offsets={"G54": replace(there, axes={"x": Decimal(1)})}).not_set[0] == "G54"
    assert written(two_tools(), offsets={"G54": there}).not_set == ("G55", "G56")


def test_the_spindle_is_up_before_every_tool_and_every_offset() -> None:
    lines = written(two_tools()).text.splitlines()
    for n, line in enumerate(lines):
        if re.match(r"T\d|G5[4-9]$", line):
            assert lines[n - 1] == "G53 G0 Z0.", (n, line)


def test_comments_bear_only_what_every_control_takes() -> None:
    plan = two_tools()
    plan = replace(plan, heading=replace(plan.heading, part="Klötzchen (neu) Ø12 %"))
    assert written(plan).text.splitlines()[1].startswith("(KLOTZCHEN NEU")


@pytest.mark.parametrize(
    ("table", "start", "tool"),
    [
        (
            "lathe-ngc",
            "G21 G18 G40 G49 G80 G90 G95",
            ["T3 M6 (FINISH SLOT)", "(SPEED NOT KNOWN: SAY S AND M3)", "G54", "G43 H3"],
        ),
        ("lathe-A", "G21 G18 G40 G80 G99", ["T0303 (FINISH SLOT)", "(SPEED NOT KNOWN: SAY S AND M3)", "G54"]),
    ],
)
def test_of_a_lathe_it_goes_out_before_it_goes_back_in_the_words_of_its_table(
    table: str, start: str, tool: list[str]
) -> None:
    lathe = replace(MILL, kind="lathe", dialect=Dialect(reads=table))
    lines = written(two_tools(stations="A"), lathe).text.splitlines()
    assert lines[3] == start
    away = ["G53 G0 X0.", "G53 G0 Z0."]
    at = lines.index(tool[0])
    assert lines[at - 2 : at] == away
    body = [line for line in lines[at : at + 7] if line not in away]
    assert body[: len(tool)] == tool
    assert lines[-6:-1] == [*away, "M5", "M9", "M30"]
    for n, line in enumerate(lines[:-2]):
        assert line != away[0] or lines[n + 2] != away[0]  # once is enough


def test_what_cannot_be_written_is_said() -> None:
    with pytest.raises(NotNow, match="a machine with a control"):
        written(two_tools(), replace(MILL, kind="manual mill"))
    with pytest.raises(NotNow, match="No tool works at a station"):
        written(two_tools(stations=""))
