"""What stands at each offset of a program where holders are placed on a table: by hand from footprints and heights."""

from dataclasses import replace
from decimal import Decimal as D

from ditto_run.core.edits import (
    AddFeatureLines,
    ChangePlaced,
    PlaceHolder,
    SetForm,
    SetSetup,
    SetToolStep,
    apply_edit,
)
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.plan.program_room import ProgramZero, blanks_at, guards_at, lying_across
from ditto_run.core.plan.programmed import given_of
from ditto_run.core.plan.worked import ShopKnown, Worked, work_out
from ditto_run.core.program.given import BoxBlank
from ditto_run.core.program.reader import read_program
from tests.core.place.layouts import MILL, SHOP

ZERO = ProgramZero("left front")


def placed(*edits: object, holder: str = "Vise") -> Plan:
    """A block of 60 x 40 x 32 in a vise whose left front corner is at 200,100 of the table, its stop on the left."""
    plan = Plan(Heading("Block", 12, "mm"))
    for edit in (
        SetForm("block"),
        SetSetup("first", 1, holder, up="top"),
        AddFeatureLines("block 60 x 40 x 32\nhole 6 through, 8 from left, in the middle, top"),
        PlaceHolder(1, holder, left="200", front="100"),
        *edits,
    ):
        plan = apply_edit(edit, plan, SHOP).plan  # type: ignore[arg-type] # edits
    return plan


def worked(plan: Plan) -> Worked:
    return work_out(plan, ShopKnown(SHOP.machines))


def test_of_a_vise_what_lies_before_and_behind_the_piece_is_guarded_as_wide_as_it_is() -> None:
    """Its footprint is 100 x 200, the piece in the middle of the jaws and against the fixed one, 30 from the back edge."""
    plan = placed()
    front, back = guards_at(worked(plan), plan.all_cycles[0], ZERO)["G54"]
    assert (front.low[:2], front.high[:2]) == ((-20, -130), (80, 0))
    assert (back.low[:2], back.high[:2]) == ((-20, 40), (80, 70))
    assert front.high[2] == 110 - 80 - 32  # as high as the vise is, over a seat at 80 and a piece of 32
    assert front.low[2] == -80 - 32  # the table


def test_a_holder_beside_it_is_guarded_too_and_a_rapid_through_it_is_said() -> None:
    plan = placed(PlaceHolder(1, "Vise", left="320", front="100"), SetToolStep(1, 3, "drill 6"))
    four = guards_at(worked(plan), plan.all_cycles[0], ZERO)["G54"]
    assert [(one.low[0], one.high[0]) for one in four] == [(-20, 80), (-20, 80), (100, 200), (100, 200)]
    text = "G21 G90 G94\nT3 M6\nS900 M3\nG54 G0 X30. Y-20.\nG43 H3 Z{z}\nG0 X150.\nG0 Z50.\nM5\nM30\n"
    given = given_of(worked(plan), plan.all_cycles[0], "mill-ngc", {}, ZERO)
    kinds = {
        z: {one.kind for one in read_program(text.format(z=z), given).tally.faults} for z in ("-3.", "-1.")
    }  # the vise ends 2 below the piece's top
    assert "rapid_in_jaw" in kinds["-3."]
    assert "rapid_in_jaw" not in kinds["-1."]


def test_a_vise_turned_a_quarter_turns_the_piece_and_its_jaws() -> None:
    plan = placed()
    plan = apply_edit(ChangePlaced(plan.placed[0].key, "turn"), plan, SHOP).plan
    blank = blanks_at(worked(plan), plan.all_cycles[0], ZERO)["G54"]
    assert blank == BoxBlank((0, 0, -32), (40, 60, 0))
    left, right = guards_at(worked(plan), plan.all_cycles[0], ZERO)["G54"]
    assert (left.high[0], right.low[0]) == (0, 40)
    assert lying_across(worked(plan), plan.all_cycles[0]) == {"G54"}


def test_a_nest_stands_where_its_shift_from_the_offset_says() -> None:
    plan = placed(holder="Pallet")
    first = plan.stations[0]
    x, y, _ = map(float, first.shift_mm)
    assert (x, y) != (0, 0)
    blank = blanks_at(worked(plan), plan.all_cycles[0], ZERO)[first.offset or ""]
    assert isinstance(blank, BoxBlank)
    assert blank.low[:2] == (x, y)


def test_travel_is_told_in_machine_coordinates_and_stops_where_somebody_works_by_hand() -> None:
    """Reach begins at 50,20 and goes 700 x 360; machine zero is right back, so that both end at 0."""
    steps = [
        SetToolStep(1, 3, "drill 6"),
        SetToolStep(1, 0, "gauge the hole"),
        SetToolStep(1, 4, "ream 6 H7"),
    ]
    plan = placed(*steps)
    told = given_of(worked(plan), plan.all_cycles[0], "mill-ngc", {}, ZERO)
    assert told.slides.travel_mm == ((-700, 0), (-360, 0))
    assert told.plan.stops_after == (3,)
    assert (
        given_of(worked(placed(*steps[:2])), plan.all_cycles[0], "mill-ngc", {}, ZERO).plan.stops_after == ()
    )
    bare = replace(MILL, bed=None)
    assert (
        given_of(
            work_out(plan, ShopKnown({1: bare})), plan.all_cycles[0], "mill-ngc", {}, ZERO
        ).slides.travel_mm
        is None
    )
    assert MILL.ability.travel_x_mm == D(700)
