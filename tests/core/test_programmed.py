"""What a plan tells beside a program: the blank and the jaws at each offset, tools, machine; times read into its steps. By hand."""

import re
from dataclasses import replace
from decimal import Decimal as D

import pytest

from ditto_run.core.edits import AddFeatureLines, SetStation, SetToolStep, apply_edit
from ditto_run.core.place.offsets import Offset
from ditto_run.core.plan import Plan
from ditto_run.core.plan.held import contacts
from ditto_run.core.plan.program_differs import differences
from ditto_run.core.plan.program_room import ProgramZero, blank_of
from ditto_run.core.plan.programmed import (
    given_of,
    times_read,
    usual_dialect,
)
from ditto_run.core.plan.worked import work_out
from ditto_run.core.program.given import BoxBlank, RoundBlank
from ditto_run.core.program.reader import read_program
from ditto_run.core.shop.dialect import Dialect
from tests.conftest import SHOP
from tests.core.test_visits import two_tools
from tests.core.tools.test_at_work import KNOWN, LATHE, MILL, made, milled

ZERO = ProgramZero("left front")


def stationed() -> Plan:
    plan = milled()
    return apply_edit(SetStation(plan.setups[0].key, "A", "vise", "G54"), plan, SHOP).plan


def given(zero: ProgramZero = ZERO, offsets: dict[str, Offset] | None = None):
    plan = stationed()
    return given_of(work_out(plan, KNOWN), plan.all_cycles[0], "mill-ngc", offsets or {}, zero)


def test_the_blank_stands_where_the_zero_is_said_to_be() -> None:
    """60 × 40 × 30 and nothing above: from 0 to 60, 0 to 40, −30 to 0; from the middle half to either side."""
    assert given().blanks["G54"] == BoxBlank((0, 0, -30), (60, 40, 0))
    assert given(ProgramZero("middle")).blanks["G54"] == BoxBlank((-30, -20, -30), (30, 20, 0))
    right = given(ProgramZero("right back")).blanks["G54"]
    assert isinstance(right, BoxBlank)
    assert right.low[:2] == (-60, -40)
    assert given(ProgramZero("")).blanks == {}


def test_the_jaws_stand_before_and_behind_it_as_high_as_hold_says() -> None:
    front, back = given().guards["G54"]
    assert (front.low[1], front.high[1]) == (-40, 0)
    assert (back.low[1], back.high[1]) == (40, 80)
    assert front.high[2] == back.high[2] < 0
    assert front.low[2] == -30  # the seat


def test_machine_tools_and_offsets_are_told() -> None:
    told = given(
        offsets={"G54": Offset("G54", {"x": D(1), "y": D(2), "z": D(-3)}), "G55": Offset("G55", {"x": D(1)})}
    )
    assert told.offsets == {"G54": (1, 2, -3)}  # what is not set in every axis has no place
    assert told.slides.rapid_mm_min == (24_000, 24_000, 24_000)
    assert told.slides.accel_mm_s2 == 3000
    assert told.plan.tools == (2,)
    assert told.plan.figures[2].across_mm == 16


def test_a_tool_that_goes_into_a_jaw_is_said() -> None:
    """16 across, its middle 10 before the piece: 2 into the front jaw's room at −29, which is under its top."""
    head = "G21 G17 G90 G94\nT2 M6\nS1000 M3\nG54 G0 X-20. Y-10.\nG43 H2 Z5.\n"
    tail = "G0 Z5.\nM5\nM30\n"

    def kinds(body: str) -> set[str]:
        return {one.kind for one in read_program(head + body + tail, given()).tally.faults}

    assert "rapid_in_jaw" in kinds("G0 Z-29.\nG0 X30.\n")
    assert "feed_in_jaw" in kinds("G0 Z-29.\nG1 X30. F100.\n")
    assert not {"rapid_in_jaw", "feed_in_jaw"} & kinds("G0 Z-1.\nG1 X80. F100.\n")


def test_a_bar_goes_from_its_end_back() -> None:
    """Ø20 x 60, from its finished end 60 back; X of a bar needs no place, its axis is that of the spindle."""
    (contact,) = contacts(work_out(made(form="turned"), KNOWN))
    contact = replace(contact, up="free end")
    blank = blank_of(contact, ProgramZero())
    assert isinstance(blank, RoundBlank)
    assert blank.across_mm == 20
    assert blank.z_mm[1] - blank.z_mm[0] == pytest.approx(contact.piece.before.size[0])
    assert blank.z_mm[0] < 0 <= blank.z_mm[1]
    assert blank_of(replace(contact, up="chuck end"), ProgramZero()) is None


def test_a_machine_is_read_by_its_own_table_else_by_the_plain_one_of_its_kind() -> None:
    assert usual_dialect(None) == usual_dialect(MILL) == "mill-ngc"
    assert usual_dialect(LATHE) == "lathe-ngc"
    assert usual_dialect(replace(MILL, dialect=Dialect(reads="mill-shop"))) == "mill-shop"
    assert usual_dialect(replace(MILL, dialect=Dialect(reads="gone"))) == "mill-ngc"


def test_a_tools_time_is_shared_by_the_pieces_it_cuts() -> None:
    plan = two_tools()
    cycle = plan.all_cycles[0]
    key = {step.tool: step.key for step in plan.tool_steps}
    assert times_read(plan, cycle, {3: 90.0, 77: 5.0}, 0) == ((key[3], "cut", 30.0),)
    with_change = times_read(plan, cycle, {3: 90.0, 4: 30.0}, 6)
    assert with_change == (
        (key[3], "cut", 30.0),
        (key[3], "change", 6),
        (key[4], "cut", 10.0),
        (key[4], "change", 6),
    )
    assert times_read(plan, cycle, {3: 0.0}, 0) == ()


@pytest.mark.parametrize(
    ("z", "zero", "said"),
    [
        ("-12.3", ZERO, []),  # 10 deep and a point of 6 × 0.3 = 1.8, and half a millimetre more or less
        ("-21.8", ZERO, ["T05 goes 21.8 mm (0.86 in) deep, and 11.8 mm (0.46 in) is planned"]),
        ("-1.18", ZERO, ["T05 goes 1.2 mm (0.05 in) deep, and 11.8 mm (0.46 in) is planned"]),
        ("-21.8", ProgramZero(""), []),  # nobody said where its zero is
    ],
)
def test_a_hole_that_goes_to_another_depth_is_said(z: str, zero: ProgramZero, said: list[str]) -> None:
    assert (
        _differs("hole 6 x 10 deep, 8 from right, in the middle, top", f"X52. Y20. Z{z}", zero, "depth")
        == said
    )


def _differs(
    line: str, hole: str, zero: ProgramZero, kind: str, speed: str = "S1000 M3", feed: str = "100."
) -> list[str]:
    """What is said of a program that drills where it says, of a block of 60 x 40 x 30 with one line of holes."""
    plan = apply_edit(AddFeatureLines(line), stationed(), SHOP).plan
    setup = plan.setups[0]
    plan = plan.put(replace(setup, cuts=(*setup.cuts, plan.features[-1].key)))
    step = SetToolStep(setup.key, 5, "drill 6", makes=(plan.features[-1].key,))
    plan = apply_edit(step, plan, SHOP).plan
    worked, cycle = work_out(plan, KNOWN), plan.all_cycles[0]
    first, *more = hole.split("; ")
    cycles = "\n".join([f"G99 G81 {first} R2. F{feed}", *more])
    text = f"G21 G90 G94\nT5 M6\n{speed}\nG54 G0 X10. Y10.\nG43 H5 Z5.\n{cycles}\nG80\nM5\nM30\n"
    found = read_program(text, given_of(worked, cycle, "mill-ngc", {}, zero))
    return [one.word for one in differences(worked, cycle, zero, found.tally) if one.kind.startswith(kind)]


TWO = "2 x hole 6 x 10 deep in a row, 30 apart, 8 from right, 10 from front, top"
ELSEWHERE = "T05 makes a hole under G54 where none is planned:"


@pytest.mark.parametrize(
    ("holes", "zero", "said"),
    [
        ("X52. Y10.; X22.", ZERO, []),  # 8 from the right and 30 before it
        ("X8. Y30.; X38.", ZERO, []),  # the same piece put in half round
        ("X-8. Y-30.; X-38.", ProgramZero("right back"), []),
        ("X22. Y-10.; X-8.", ProgramZero("middle"), []),
        ("X52. Y10.", ZERO, ["T05 leaves out 1 of 2 planned holes under G54"]),
        ("X52.1 Y10.; X22.", ZERO, []),
        (
            "X52.11 Y10.; X22.",
            ZERO,
            [
                f"{ELSEWHERE} 52.11 mm (2.052 in) from the left and 10.00 mm (0.394 in) from the front",
                "T05 leaves out 1 of 2 planned holes under G54",
            ],
        ),
        ("X52. Y1.; X22. Y1.", ProgramZero(""), []),  # nobody said where its zero is
    ],
)
def test_a_hole_that_stands_elsewhere_or_is_left_out_is_said(
    holes: str, zero: ProgramZero, said: list[str]
) -> None:
    first, *more = holes.split("; ")
    assert _differs(TWO, "; ".join([f"{first} Z-11.8", *more]), zero, "place") == said


def test_a_speed_or_feed_far_from_the_usual_is_said() -> None:
    """The usual of a 6 mm drill is asked of the same plan; a quarter over its band is let be, a tenth more is not."""
    hole = (
        "hole 6 x 10 deep, 8 from right, in the middle, top",
        "X52. Y20. Z-11.8",
        ProgramZero(""),
        "speed",
    )
    fast = _differs(*hole, "S19000 M3", "1000.")[0]
    assert fast.startswith("T05 turns 19000 rpm, and ")
    low, high = map(float, re.findall(r"and (\d+) to (\d+) is usual", fast)[0])
    for rpm, wrong in ((high * 1.24, False), (high * 1.27, True), (low * 0.52, False), (low * 0.48, True)):
        said = _differs(*hole, f"S{rpm:.0f} M3", f"{0.1 * (low * high) ** 0.5:.1f}")
        assert any("turns" in one for one in said) == wrong, (rpm, said)
    (slow,) = _differs(*hole, f"S{(low * high) ** 0.5:.0f} M3", "5.")
    assert slow.startswith("T05 is fed 5 mm (0.2 in) a minute, and about 4")
