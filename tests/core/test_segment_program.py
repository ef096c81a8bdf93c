"""A slender bar turned in segments as a program: proven segment by segment, the tool far off before each pull. By hand."""

import re
from dataclasses import replace
from decimal import Decimal as D

import pytest

from ditto_run.core.edits import (
    AddFeatureLines,
    KeepSheet,
    PlanRegisters,
    SetForm,
    SetSetup,
    SetStation,
    SetToolStep,
    apply_edit,
)
from ditto_run.core.errors import NotNow
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.plan.segment_program import SegmentProgram, segments_asked, write_segments
from ditto_run.core.plan.worked import ShopKnown, work_out
from ditto_run.core.program.dialect import DIALECTS
from ditto_run.core.program.given import Given, RoundBlank
from ditto_run.core.program.reader import read_program
from ditto_run.core.shop import Ability, Machine
from ditto_run.core.shop.dialect import Dialect
from ditto_run.core.shop.drawers import Material
from ditto_run.core.shop.shop_tools import ShopTool

LATHE = Machine(3, "Lathe 2", "lathe", ("G54", "G55"), ability=Ability(D(5), D(60), D(4000)))
ALU = Material("6061-T6", D("2.7"), D(500), D(700), D("0.25"))
TURN = ShopTool("T01 turn", 1, "Lathe 2", "turning", edge="carbide")


def planned(
    lines: str = "body Ø12 x 90\nshoulder Ø8 x 70 long, free end",
    unit: str = "mm",
    does: str = "turn",
    machine: int = 3,
) -> Plan:
    plan = Plan(Heading("Pin", 24, unit, material="6061-T6"))  # type: ignore[arg-type]
    registers = PlanRegisters({machine: replace(LATHE, id=machine)})
    for edit in (SetForm("turned"), AddFeatureLines(lines)):
        plan = apply_edit(edit, plan, registers).plan
    cuts = tuple(feature.key for feature in plan.features[1:])
    held = {"locates_on": ("bar",), "clamps_on": ("bar",), "cuts": cuts, "grip": "20"}
    blank = KeepSheet("blank", {"shape": "bar", "facing": "1", "skin": "0"})
    for edit in (blank, SetSetup("turn", machine, "Chuck", **held)):  # type: ignore[arg-type]
        plan = apply_edit(edit, plan, registers).plan
    setup = plan.setups[0].key
    for edit in (SetStation(setup, "A", "chuck", "G54"), SetToolStep(setup, 1, "turn", makes=cuts)):
        plan = apply_edit(edit, plan, registers).plan
    return plan


def written(plan: Plan, machine: Machine = LATHE) -> SegmentProgram:
    known = ShopKnown({3: machine}, {"6061-T6": ALU}, tools={1: (TURN,)})
    return write_segments(work_out(plan, known), plan.all_cycles[0])


def test_two_segments_of_35_end_at_the_same_place_and_the_bar_is_pulled_by_35() -> None:
    found = written(planned())
    assert (found.tool, found.pulls, found.ends_mm, found.first_mm) == (1, (35,), 35, 0)
    lines = found.text.splitlines()
    at = lines.index("M0 (PULL THE BAR 35. MM, TIGHTEN)")
    assert lines[at - 2 : at + 2] == ["G0 X52.", "M5", lines[at], lines[at + 1]]  # 20 outside a bar of 12
    assert re.fullmatch(r"G97 S\d+ M3", lines[at + 1])
    assert [line for line in lines if line.endswith("Z-35.") and line.startswith("G1")] == [
        "G1 X11. Z-35.",
        "G1 X10. Z-35.",
        "G1 X9. Z-35.",
        "G1 X8. Z-35.",
    ] * 2
    assert "G1 X10. Z0.01 F" in found.text.split("PULL THE BAR")[1]  # a hair over the last segment's end


def test_a_taper_is_cut_from_its_thin_end_after_it_is_turned_to_its_thick_one() -> None:
    """40 straight, then 30 from 8 to 10: two segments of 20 and one of 30, which ends where the others do."""
    found = written(
        planned("body Ø12 x 90\nshoulder Ø8 x 40 long, free end\ntaper Ø10 to Ø8 x 30 long, 40 from free end")
    )
    assert found.pulls == (20, 30)
    assert found.first_mm == -10
    lines = found.text.split("PULL THE BAR 30. MM")[1].splitlines()
    at = lines.index("G1 X10. Z-30.", lines.index("G1 X10. Z-30.") + 1)  # the second time it is the taper
    assert lines[at - 1] == "G1 X8."


@pytest.mark.parametrize("table", ["lathe-ngc", "lathe-A"])
def test_no_rapid_of_it_meets_the_bar_of_its_own_segment(table: str) -> None:
    found = written(planned(), replace(LATHE, dialect=Dialect(reads=table)))
    first = found.text.split("M0 (")[0] + "M30\n%\n"
    told = Given(DIALECTS[table], offsets={"G54": (0, 0, 0)}, blanks={"G54": RoundBlank(12, (-60, 0))})
    read = read_program(first, told)
    assert not read.tally.faults
    assert read.tally.cut_mm > 3 * 35
    spoilt = first.replace("G1 X8. Z-35.", "G0 X8. Z-35.")
    assert "rapid_in_blank" in {one.kind for one in read_program(spoilt, told).tally.faults}


def test_an_inch_job_is_written_in_inches() -> None:
    found = written(planned("body Ø1/2 x 3.5\nshoulder Ø.3125 x 2.75 long, free end", "in"))
    assert "G20 G18" in found.text
    assert re.search(r"M0 \(PULL THE BAR 1\.375 IN, TIGHTEN\)", found.text)


def test_what_cannot_be_written_is_said() -> None:
    for machine in (replace(LATHE, kind="mill"), replace(LATHE, kind="manual lathe")):
        with pytest.raises(NotNow, match="a lathe with a control"):
            written(planned(), machine)
    with pytest.raises(NotNow, match="cut in segments"):
        written(planned("body Ø30 x 40\nshoulder Ø20 x 20 long, free end"))
    with pytest.raises(NotNow, match="No tool of this setup turns"):
        written(replace(planned(), tool_steps=()))
    assert segments_asked(work_out(planned(), ShopKnown({3: LATHE})), planned().all_cycles[0])
