"""Proposed setups: no rule of the chain is broken, every feature is cut once, and no fewer setups would do."""

from dataclasses import replace
from decimal import Decimal
from itertools import combinations

import pytest
from hypothesis import given as for_all
from hypothesis import strategies as st

from ditto_run.core.edits import AddFeatureLines, apply_edit
from ditto_run.core.errors import NotNow
from ditto_run.core.hold.chain import Chain, check_chain
from ditto_run.core.part import Heading
from ditto_run.core.part.faces import OPPOSITE
from ditto_run.core.plan import Plan
from ditto_run.core.propose.setups import HoldsThere, ProposedChain, propose_setups, setups_of, what_stops
from ditto_run.core.propose.taking import take_setups
from ditto_run.core.shop.drawers import Holder
from tests.conftest import SHOP
from tests.searches import searches

WHOLE = "block 60 x 40 x 20"
LINES = (
    "face top",
    "face bottom",
    "face front",
    "hole 8 through, top, 15 from left, 20 from front",
    "hole 6 x 8 deep, top, 45 from left, 20 from front",
    "hole 5 x 8 deep, bottom, 30 from left, 10 from front",
    "hole 4 x 5 deep, left, 10 from front, 10 from bottom",
    "hole 3 through, front, 30 from left, 10 from bottom",
    "stamp the number",
)


def part(*lines: str) -> Plan:
    return apply_edit(AddFeatureLines("\n".join(lines)), Plan(Heading("Gate block", 12, "mm")), SHOP).plan


def vise(name: str, high: str) -> Holder:
    return Holder(name, "vise", "flat", Decimal(0), Decimal(high), "light", None, "", "", "", "")


def proposed(plan: Plan, *holders: Holder) -> tuple[ProposedChain, ...]:
    return propose_setups(plan.chain, plan.described, HoldsThere(1, 2, holders))


def test_two_sides_make_a_block_and_what_holds_it_spans_it() -> None:
    plan = part(WHOLE, *LINES[:2], LINES[3], LINES[5])
    first, *_ = proposed(plan, vise("Big vise", "150"), vise("Small vise", "50"), vise("Tiny vise", "30"))
    assert [one.up for one in first.setups] == ["top", "bottom"]
    assert first.setups[0].holds == "Small vise"  # 40 wide
    assert first.setups[1].locates_on[0] == "top"
    names = {f.key: f.name for f in plan.features}
    assert [names[key] for key in first.setups[0].cuts][:2] == ["top face", "outline"]


def test_a_part_from_the_bar_is_turned_and_its_cross_hole_is_a_mills() -> None:
    lines = ("body 20 x 60", "face, free end", "groove 3 wide to Ø9 at 20", "cross hole 4 through at 30")
    edit = AddFeatureLines("\n".join(lines))
    plan = apply_edit(edit, Plan(Heading("Pin", 12, "mm"), form="turned"), SHOP).plan
    first, *_ = propose_setups(plan.chain, plan.described, HoldsThere(1, 2))
    assert [one.machine_id for one in first.setups] == [2, 1]
    assert first.setups[0].clamps_on == ("bar",)


def test_taken_setups_are_those_of_the_plan_and_are_not_taken_over_others() -> None:
    plan = part(WHOLE, *LINES[:2])
    first, *_ = proposed(plan)
    taken = take_setups(plan, first).plan
    assert [one.name for one in taken.setups] == ["first side", "second side"]
    assert taken.setups[0].held.up == "top"
    with pytest.raises(NotNow):
        take_setups(taken, first)


def test_no_feature_no_setup() -> None:
    plan = Plan(Heading("Gate block", 12, "mm"))
    assert proposed(plan) == ()
    assert proposed(part("stamp the number")) == ()


lines = st.lists(st.sampled_from(LINES), min_size=1, max_size=7, unique=True)


@searches(120)
@for_all(lines, st.booleans())
def test_no_rule_is_broken_all_is_cut_once_and_fewer_would_not_reach_it(some: list[str], whole: bool) -> None:
    plan = part(*([WHOLE] if whole else []), *some)
    hand = {f.key for f in plan.described if f.feature.kind == "by hand"}
    wanted = [f for f in plan.features if f.key not in hand]
    found = proposed(plan)
    assert bool(found) is bool(wanted)
    for one in found:
        setups = setups_of(one, 100)
        chain = Chain(plan.form, plan.features, setups, as_it_comes=frozenset(hand))
        assert not [f for f in check_chain(chain) if f.weight == "stop"]
        cut = [key for setup in setups for key in setup.cuts]
        assert sorted(cut) == sorted(f.key for f in wanted)
    if found:  # against trying every set of faces
        reach = [reached(f.kind, f.face, through="through" in f.line, whole=whole) for f in wanted]
        faces = ("top", "bottom", "front", "back", "left", "right")
        least = next(
            many
            for many in range(1, 7)
            if any(all(one & set(some) for one in reach) for some in combinations(faces, many))
        )
        assert len(found[0].setups) == least


def reached(kind: str, face: str, *, through: bool, whole: bool) -> set[str]:
    if kind == "outline":
        return {"top", "bottom"}
    if kind == "face" and whole and face not in {"top", "bottom"}:
        return {face, "top", "bottom"}  # 20 mm high: the side of a cutter reaches it
    return {face, OPPOSITE[face]} if through and kind != "face" else {face}


def test_what_goes_round_is_held_by_a_hole_where_jaws_would_be_in_its_way_and_that_comes_after_jaws() -> None:
    lines = (WHOLE, *LINES[:2], LINES[3])
    found = proposed(part(*lines), vise("Vise", "150"))
    pinned = [one for one in found if one.on_pins]
    assert pinned
    assert found[0].on_pins == 0
    last = pinned[0].setups[-1]
    assert (last.clamps_on, last.holds) == (("hole",), "fixture plate, to make")
    plate = Holder("Plate 1", "fixture plate", "any", Decimal(0), Decimal(160), "none", None, "", "", "", "")
    there = [one for one in proposed(part(*lines), vise("Vise", "150"), plate) if one.on_pins]
    assert there[0].setups[-1].holds == "Plate 1"
    small = "hole 4 through, top, 15 from left, 20 from front"  # a pin of 4 mm holds nothing
    assert not [one for one in proposed(part(WHOLE, *LINES[:2], small), vise("Vise", "150")) if one.on_pins]


def test_faces_that_are_each_measured_from_the_other_are_a_sentence() -> None:
    plan = part(WHOLE, *LINES[:2])
    other = {"top face": ("bottom",), "bottom face": ("top",)}
    features = tuple(replace(f, refers=other.get(f.name, f.refers)) for f in plan.features)
    critical = frozenset(f.key for f in features if f.name in other)
    chain, there = replace(plan.chain, features=features, critical=critical), HoldsThere(1, 2)
    assert propose_setups(chain, plan.described, there) == ()
    (stopped,) = what_stops(chain, plan.described, there)
    assert stopped == "top face in first side refers to bottom, not machined by then."
    assert what_stops(part("stamp the number").chain, part("stamp the number").described, there) == ()


def test_a_turned_part_is_held_by_what_the_register_has_for_its_diameter() -> None:
    lines = "body 16 x 60\nface, free end\nshoulder 10 x 12, chuck end"
    plan = apply_edit(AddFeatureLines(lines), Plan(Heading("Pin", 12, "mm"), form="turned"), SHOP).plan

    def held(*rows: tuple[str, str, int, int, str]) -> list[str]:
        holders = tuple(
            Holder(name, kind, "round", Decimal(low), Decimal(high), "none", None, machine, "", "", "")
            for name, kind, low, high, machine in rows
        )
        first, *_ = propose_setups(plan.chain, plan.described, HoldsThere(1, 2, holders))
        return [one.holds for one in first.setups]

    assert held() == ["collet or chuck", "soft jaws"]
    chuck, collets = ("Three-jaw", "chuck", 3, 80, ""), ("Collets", "collet", 2, 20, "")
    assert held(chuck) == ["Three-jaw", "Three-jaw"]
    assert held(chuck, collets, ("Jaws 16", "soft jaws", 15, 18, "")) == ["Collets", "Jaws 16"]
    assert held(("Small collets", "collet", 1, 10, "")) == ["collet or chuck", "soft jaws"]
    vise = Holder(
        "Vise, soft jaws", "soft jaws", "any", Decimal(5), Decimal(140), "none", None, "", "", "", ""
    )
    first, *_ = propose_setups(plan.chain, plan.described, HoldsThere(1, 2, (vise,)))
    assert first.setups[1].holds == "soft jaws"  # of a vise they are no jaws of a chuck
    assert held(("Chuck of another", "chuck", 3, 80, "Lathe 9")) == ["collet or chuck", "soft jaws"]


def test_a_face_and_a_step_are_cut_from_the_side_where_that_saves_a_setup_and_the_jaws_have_two_faces() -> (
    None
):
    def ups(*lines: str) -> list[tuple[str, ...]]:
        return [tuple(setup.up for setup in one.setups) for one in proposed(part(*lines))]

    assert ups(WHOLE, "face top", "face left")[0] == ("top",)
    assert ups(WHOLE, "face top", "face left", "face right")[0] == ("top",)
    assert (
        len(ups(WHOLE, "face top", "face left", "face front")[0]) == 2
    )  # else nothing is left to hold it by
    assert (
        len(ups("block 60 x 40 x 30", "face top", "face left")[0]) == 2
    )  # too high for the side of a cutter
    assert len(ups("face top", "face left")[0]) == 2  # how high it is nobody said
    assert ups("face front", "step 10 x 4, top, along front")[0] == ("front",)
    both = part(WHOLE, "face top", "face left")
    first, *_ = proposed(both)
    assert "left" not in {*first.setups[0].clamps_on, *first.setups[0].locates_on}
