"""Nest, angle plate, face plate and arbor: what each needs, and what a cut runs into there."""

from dataclasses import replace
from decimal import Decimal
from math import hypot, pi

import pytest

from ditto_run.core.edits import AddFeatureLines, PlanRegisters, SetForm, SetSetup, apply_edit
from ditto_run.core.hold import Setup
from ditto_run.core.hold.heights import Contact, Vise, walls_of
from ditto_run.core.hold.held import Holding
from ditto_run.core.hold.spinning import spinning
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.plan.held import contacts, density_of, room_findings, spin_findings
from ditto_run.core.plan.worked import ShopKnown, work_out
from ditto_run.core.shop import Ability, Machine
from ditto_run.core.shop.drawers import Material, drawer_of
from ditto_run.core.shop.steps_cut import JawStep
from tests.core.hold.test_contact import Part

D = Decimal


def codes(contact: Contact) -> list[str]:
    return [finding.code for finding in contact.findings]


def plate(depth: str, run: str = "full length") -> Part:
    return Part(
        "block", "outside: block 60 x 40 x 20", f"slot: slot 10 x {depth} deep, {run}, in the middle, top"
    )


def nest(*steps: str) -> Vise:
    return Vise(name="Nest 4", kind="nest", steps=tuple(JawStep(D(step), D(8)) for step in steps))


@pytest.mark.parametrize(("depth", "found"), [("12", []), ("12.1", ["cut-meets-jaws"])])
def test_a_nest_stands_on_all_four_sides(depth, found) -> None:
    """8 deep under a plate of 20: a slot along the jaws of a vise passes them, the walls of a nest it does not."""
    part = plate(depth)
    setup = Setup(1, "one", locates_on=("bottom",), cuts=part.keys("slot"))
    (held,) = part.held([setup], vise=nest("40.1"))
    assert codes(held) == found
    for finding in held.findings:
        assert "slot runs 0.100 mm (0.0039 in) into the nest: it ends at 8.000 mm" in finding.problem
    (vise,) = part.held(
        [replace(setup, clamps_on=("front", "back"))], vise=Vise(high=8.0, name="Vise 1", kind="vise")
    )
    assert codes(vise) == []


@pytest.mark.parametrize(
    ("steps", "found"),
    [(("40.3",), []), (("60.2",), []), (("40.4",), ["nest-does-not-fit"]), (("39.9", "70"), ["nest-does-not-fit"]), ((), [])],
)  # fmt: skip
def test_a_nest_takes_what_it_was_cut_for(steps, found) -> None:
    part = plate("5")
    (held,) = part.held([Setup(1, "one", locates_on=("bottom",), cuts=part.keys("slot"))], vise=nest(*steps))
    assert codes(held) == found


@pytest.mark.parametrize(
    ("high", "depth", "run", "found"),
    [
        (15.0, "5", "full width", []),
        (15.0, "5.1", "full width", ["cut-meets-jaws"]),
        (15.0, "5.1", "x 20 long, open front", []),  # it ends before the plate
        (10.0, "5", "full width", []),
        (9.9, "5", "full width", ["backed-short"]),
    ],
)
def test_an_angle_plate_stands_on_one_side(high, depth, run, found) -> None:
    part = plate(depth, run)
    setup = Setup(1, "one", locates_on=("bottom", "back"), clamps_on=("front",), cuts=part.keys("slot"))
    (held,) = part.held([setup], vise=Vise(high=high, name="Angle plate", kind="angle plate"))
    assert codes(held) == found
    assert not held.judged  # what it is clamped with is asked about by name


def test_where_a_holder_stands() -> None:
    setup = Setup(1, "one", locates_on=("bottom",), clamps_on=("front",))
    assert walls_of(setup, "angle plate") == ("back",)  # nothing said but where it is pressed
    assert walls_of(replace(setup, locates_on=("bottom", "left")), "angle plate") == ("left",)
    assert set(walls_of(setup, "nest")) == {"left", "right", "front", "back"}
    assert set(walls_of(setup, "vise")) == {"front", "back"}


LATHE = Machine(1, "Lathe 1", "lathe", ability=Ability(swing_mm=D("96.7")))
SHOP = PlanRegisters({1: LATHE})


def on_face_plate(away: str) -> Plan:
    plan = Plan(Heading("Gate", 6, "mm", material="Steel 45"))
    for edit in (
        AddFeatureLines(f"block 60 x 40 x 31.5\nbore 12 through, {away} from left, in the middle, top"),
        SetSetup("bore", 1, "Face plate", locates_on=("bottom",), clamps_on=("left", "right"), cuts=(2,), parallels="12"),
    ):  # fmt: skip
        plan = apply_edit(edit, plan, SHOP).plan
    return plan


FACE_PLATE = drawer_of("holders").value(
    {
        "name": "Face plate",
        "kind": "face plate",
        "low": "60",
        "high": "100",
        "marks": "light",
        "shape": "any",
    },
    "mm",
)
STEEL = Material("Steel", D("7.85"), D(0), D(0), D(0))


def test_a_face_plate_swings_the_farthest_corner_and_is_balanced_opposite() -> None:
    """By hand: the bore at 16, 20 of 60 × 40; the middle of the mass 14 off; 0.593 kg × 14 / 50 opposite; r ω² = g."""
    plan = on_face_plate("16")
    known = ShopKnown(SHOP.machines, materials={"Steel": STEEL}, holders={"Face plate": FACE_PLATE})
    worked = work_out(plan, known)
    (held,) = contacts(worked)
    found = spinning(held)
    assert found.swing == pytest.approx(2 * hypot(44, 20))
    assert found.off == pytest.approx(14)
    assert found.own_weight_rpm == pytest.approx(30 / pi * (9806.65 / 14) ** 0.5)
    (asked,) = spin_findings(held, worked)
    mass = 60 * 40 * 31.5 * 7.85 / 1e6
    assert f"{mass:.3f} kg (1.31 lb) lies 14.0 mm" in asked.problem
    assert f"{mass * 14 / 50:.3f} kg (0.366 lb) opposite, 50.0 mm" in asked.problem
    assert "above 253 rev/min it pulls harder than it weighs" in asked.problem
    (unknown,) = spin_findings(held, replace(worked, shop=replace(known, materials={})))
    assert unknown.problem.startswith("bore: the middle of its mass lies 14.0 mm")
    assert room_findings(held, LATHE, "mm") == []
    small = replace(LATHE, ability=Ability(swing_mm=D("96.6")))
    assert [(f.code, f.weight) for f in room_findings(held, small, "mm")] == [("piece-over-machine", "stop")]


@pytest.mark.parametrize(("away", "asked"), [("29", True), ("29.1", False)])
def test_what_runs_nearly_true_is_let_go(away, asked) -> None:
    worked = work_out(on_face_plate(away), ShopKnown(SHOP.machines, holders={"Face plate": FACE_PLATE}))
    (held,) = contacts(worked)
    assert bool(spin_findings(held, worked)) is asked


def test_a_material_is_known_by_how_its_name_begins() -> None:
    assert density_of("steel 45", [STEEL]) == 7.85
    assert density_of("Brass", [STEEL]) is None
    assert density_of("", [STEEL]) is None


def test_a_turned_part_has_to_swing_too() -> None:
    plan = Plan(Heading("Disc", 6, "mm"))
    for edit in (
        SetForm("turned"),
        AddFeatureLines("body Ø96.8 x 20\nface, free end"),
        SetSetup("one", 1, "Chuck", locates_on=("chuck end",), clamps_on=("outside",), cuts=(2,)),
    ):
        plan = apply_edit(edit, plan, SHOP).plan
    (held,) = contacts(work_out(plan))
    assert [f.code for f in room_findings(held, LATHE, "mm")] == ["piece-over-machine"]


RING = Part(
    "turned",
    "body: body Ø30 x 20",
    "bore: bore 12 H7 through, free end",
    "rim: shoulder 28 x 20",
    "oil: cross hole 4, 10 from free end",
    "dent: cross hole 4 x 5 deep, 10 from free end",
)


def on_arbor(*cuts: str, seat: str = "", bored: bool = True, least: float | None = None) -> Contact:
    first = Setup(1, "bore it", locates_on=("chuck end",), cuts=RING.keys("bore") if bored else ())
    second = Setup(2, "on the arbor", locates_on=("bore",), clamps_on=("bore",), cuts=RING.keys(*cuts))
    steps = (JawStep(D(seat), D(18)),) if seat else ()
    vise = Vise(name="Arbor 2", kind="arbor", steps=steps, least=least, opens=20.0 if least else None)
    return RING.held([first, second], vise=vise)[1]


@pytest.mark.parametrize(
    ("held", "found"),
    [
        ({"seat": "12"}, [("arbor-play", "note")]),  # 12.000 to 12.018: up to 9 µm off
        ({"seat": "12.001"}, [("arbor-no-seat", "stop")]),
        ({"seat": "11.718"}, [("arbor-play", "note")]),
        ({"seat": "11.717"}, [("arbor-no-seat", "ask")]),
        ({"least": 12.0}, []),
        ({"least": 12.001}, [("does-not-span", "stop")]),
        ({"bored": False}, [("arbor-no-bore", "stop")]),
    ],
)
def test_the_bore_and_its_seat_at_their_limits(held, found) -> None:
    contact = on_arbor("rim", **held)
    assert [(f.code, f.weight) for f in contact.findings] == found


def test_what_is_cut_into_the_arbor_is_found_and_turning_over_it_is_free() -> None:
    held = on_arbor("rim", "oil", "dent")
    assert [f.problem for f in held.findings] == ["on the arbor: oil runs into the arbor inside the bore."]
    assert (held.zone, held.judged) == ((0, 20), True)
    assert codes(on_arbor("bore")) == []  # nothing wider than the seat
    assert on_arbor("rim", bored=False).zone is None


def test_a_strap_at_a_face_no_block_has_is_passed_over() -> None:
    """As a file from elsewhere may bring it."""
    part = plate("5")
    setup = Setup(
        1, "one", locates_on=("bottom",), cuts=part.keys("slot"), held=Holding(straps=(("outside", D(5)),))
    )
    assert codes(part.held([setup], vise=Vise())[0]) == []
