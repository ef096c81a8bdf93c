"""Typed profiles, kits, families, and what is to be asked."""

from dataclasses import replace
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.edits import (
    KeepSheet,
    RemoveStockSize,
    SetCharacteristic,
    SetFinish,
    SetHeading,
    SetKitPart,
    SetOrder,
    SetStockSize,
    apply_edit,
    make_sibling,
)
from ditto_run.core.errors import BadEntry, NeedsAnswer
from ditto_run.core.part import (
    KitBeside,
    KitPart,
    complete_sets,
    kit_lines,
    missing,
    questions_text,
    sets_wanted,
)
from ditto_run.core.part.family import read_siblings
from ditto_run.core.part.kit import OWN
from ditto_run.core.part.profile import check_profile, read_profile
from ditto_run.core.plan import plan_findings
from tests.conftest import SHOP, planned

D = Decimal


def codes(rows: str, **more) -> list[str]:
    profile = check_profile(read_profile(rows.splitlines(), "mm"), D("0.01"), "mm", **more)
    return [finding.code for finding in profile.findings]


def test_a_sound_profile_raises_nothing() -> None:
    assert codes("0 18 9.85 R0.4\n18 20 8 groove\n20 84 11.95\n84 86 11.95 12.5") == []


@pytest.mark.parametrize(
    ("rows", "code"),
    [
        ("0 10 8 R1\n12 20 10", "does-not-join"),
        ("0 10 8 R1\n9 20 10", "does-not-join"),
        ("0 10 12\n10 20 8", "profile-dips"),
        ("0 10 12 8\n10 20 12", "profile-dips"),
        ("0 10 8\n10 20 12", "radius-missing"),
        ("0 9 10\n9 11 8 groove\n11 20 10\n20 22.1 8 groove\n22.1 30 10", "grooves-unequal"),
        ("0 9 10\n9 11 8 groove\n11 20 10\n20 22 8.3 groove\n22 30 10", "grooves-unequal"),
    ],
)
def test_each_fault_of_a_profile_is_found(rows: str, code: str) -> None:
    assert code in codes(rows)


def test_the_gap_that_still_joins_can_be_set() -> None:
    segments = read_profile(["0 10 8 R1", "10.02 20 10"], "mm")
    assert check_profile(segments, D("0.05"), "mm").findings == ()
    assert len(check_profile(segments, D("0.01"), "mm").findings) == 1
    assert codes("0 10 8\n10 20 12", radii=False) == []


@given(st.lists(st.tuples(st.integers(1, 40), st.integers(1, 30)), min_size=1, max_size=20))
def test_growing_segments_never_raise_a_dip(steps) -> None:
    """Property: diameters that only grow, each joined to the last, are sound; volume is that of the cylinders."""
    at, across, rows = 0, 5, []
    for long, more in steps:
        across += more
        rows.append(f"{at} {at + long} {across} R0.2")
        at += long
    profile = check_profile(read_profile(rows, "mm"), D("0.01"), "mm")
    assert profile.findings == ()
    assert profile.length_mm == at
    solid = sum(float(s.length_mm) * float(s.first_mm) ** 2 for s in profile.segments) * 0.7853981633974483
    assert profile.volume_mm3 == pytest.approx(solid)


@pytest.mark.parametrize("rows", ["", "10 0 8", "0 10", "0 10 -8", "0 10 8 banana", "0 0 8", "a b c"])
def test_a_line_that_cannot_be_read_is_named(rows: str) -> None:
    with pytest.raises(BadEntry) as caught:
        read_profile(rows.splitlines(), "mm")
    assert caught.value.field == "rows"


def test_inches_are_inches() -> None:
    assert read_profile(["0 1 .5 R.03"], "in")[0].first_mm == D("12.7")


def test_a_measured_bar_replaces_the_nominal_everywhere() -> None:
    plan = apply_edit(SetStockSize("plate", "3", "2.87"), planned(4), SHOP).plan
    key = plan.stock[0].key
    plan = apply_edit(
        KeepSheet("bend", {"stock": str(key), "radius": "3", "straights": "20 30"}), plan, SHOP
    ).plan
    note = next(f for f in plan_findings(plan, SHOP.machines) if f.code == "stock-differs")
    assert "Bend 1" in note.remedy
    bar = apply_edit(SetStockSize("bar", "12", "11.9"), plan, SHOP).plan
    sheet = KeepSheet("profile", {"rows": "0 10 11.95", "bar": str(bar.stock[1].key)})
    wide = apply_edit(sheet, bar, SHOP).plan
    assert any(f.code == "bar-too-thin" for f in plan_findings(wide, SHOP.machines))
    with pytest.raises(BadEntry, match="used by Bend 1"):
        apply_edit(RemoveStockSize(key), plan, SHOP)
    with pytest.raises(NeedsAnswer) as caught:
        apply_edit(SetStockSize("cord", "3", "0.3"), plan, SHOP)
    assert caught.value.field == "measured"
    assert (
        apply_edit(SetStockSize("cord", "3", "0.3", keep="0.3"), plan, SHOP).plan.stock[-1].measured == "0.3"
    )


def test_a_length_ten_times_the_part_is_asked_about_on_a_sheet() -> None:
    with pytest.raises(NeedsAnswer) as caught:
        apply_edit(KeepSheet("taper", {"large": "250", "small": "15", "length": "30"}), planned(4), SHOP)
    assert caught.value.field == "large"
    texts = {"large": "250", "small": "15", "length": "30"}
    assert (
        apply_edit(KeepSheet("taper", texts, keep="250"), planned(4), SHOP).plan.sheets[0].name == "Taper 1"
    )


def test_what_the_kit_is_short_of() -> None:
    plan = planned(12)
    for edit in (
        SetKitPart("spacer", 2, "made", 3, 7),
        SetKitPart("nut", 1, "bought", 12),
        SetKitPart("sleeve", 1, "customer", 5),
    ):
        plan = apply_edit(edit, plan, SHOP).plan
    lines = kit_lines(plan.kit, 12, {7: 9})
    assert [line.short for line in lines] == [12, 0, 7]
    assert lines[0].words == "spacer: 12 short of 24, to be made."
    assert complete_sets(lines) == 5
    assert complete_sets([]) == 0
    for wrong, field in (
        (SetKitPart(""), "name"),
        (SetKitPart("x", 0), "per_set"),
        (SetKitPart("x", 1, "made", -1), "have"),
    ):
        with pytest.raises(BadEntry) as caught:
            apply_edit(wrong, plan, SHOP)
        assert caught.value.field == field


@pytest.mark.parametrize(("per_set", "quantity", "sets"), [(1, 12, 12), (2, 12, 6), (2, 13, 6), (5, 4, 1)])
def test_a_kit_counts_the_pieces_of_its_own_job(per_set: int, quantity: int, sets: int) -> None:
    plan = planned(quantity)
    for edit in (SetKitPart("block", per_set, "made", 1, OWN), SetKitPart("nut", 1, "bought", 40)):
        plan = apply_edit(edit, plan, SHOP).plan
    assert sets_wanted(plan.kit, quantity) == sets
    lines = kit_lines(plan.kit, sets, {OWN: 3, 7: 99})
    assert (lines[0].wanted, lines[0].have) == (sets * per_set, 4)


def test_a_part_no_job_makes_counts_nobodys_pieces() -> None:
    plan = apply_edit(SetKitPart("nut", 1, "bought", 2), planned(4), SHOP).plan
    assert kit_lines(plan.kit, 4, {OWN: 3})[0].have == 2
    assert sets_wanted(plan.kit, 4) == 4


def test_bought_parts_are_shared_between_siblings_and_others_are_not() -> None:
    plan = planned(12)
    for edit in (SetKitPart("M8 nut", 2, "bought", 30), SetKitPart("spacer", 1, "made", 5)):
        plan = apply_edit(edit, plan, SHOP).plan
    beside = KitBeside((KitPart(1, "m8 Nut", 1, "bought", 4), KitPart(2, "spacer", 1, "made", 9)), 16)
    nut, spacer = kit_lines(plan.kit, 12, {}, [beside])
    assert (nut.wanted, nut.beside, nut.have, nut.short) == (24, 16, 34, 6)  # 24 + 16 - (30 + 4)
    assert nut.words == "M8 nut: 6 short of 40 (16 of them for its siblings), to be bought."
    assert (spacer.have, spacer.short) == (5, 7)


def test_what_lies_at_hand_is_not_counted_again_for_a_sibling() -> None:
    plan = apply_edit(SetKitPart("screw", 4, "bought", 150), planned(12), SHOP).plan
    made = make_sibling(plan, read_siblings("Block 30; 8", ["slot"])[0], SHOP)
    assert [(part.name, part.per_set, part.have) for part in made.kit] == [("screw", 4, 0)]
    assert plan.kit[0].have == 150


def test_siblings_take_all_but_the_sizes_named() -> None:
    plan = planned(12)
    siblings = read_siblings("Block 25; 40; slot = 25 ±0.03\nBlock 30; 8", ["slot", "height"])
    made = make_sibling(plan, siblings[0], SHOP)
    assert (made.heading.part, made.heading.quantity, made.heading.family) == ("Block 25", 40, "Clamp block")
    assert made.characteristics[0].size.nominal == 25
    assert made.setups == plan.setups
    assert made.characteristics[1] == plan.characteristics[1]
    for wrong in ("", "Block", "Block; many", "Block; 4; bore = 3", "Block; 4; slot"):
        with pytest.raises(BadEntry) as caught:
            read_siblings(wrong, ["slot"])
        assert caught.value.field == "siblings"
    with pytest.raises(BadEntry, match="Line 1"):
        make_sibling(plan, read_siblings("B; 4; slot = banana", ["slot"])[0], SHOP)


def test_what_depends_on_a_changed_size_follows_it_and_the_order_does_not() -> None:
    """A sibling kept the blank of the other part, and its material had come."""
    plan = planned(12)
    for edit in (
        KeepSheet("blank", {"shape": "block", "length": "20", "width": "40 mm", "height": "12"}),
        SetOrder("6061 40 × 25", came=True, heat="H 1"),
    ):
        plan = apply_edit(edit, plan, SHOP).plan
    plan = replace(plan, heading=replace(plan.heading, heat="H 1"))
    made = make_sibling(plan, read_siblings("Block 25; 40; slot = 25 ±0.03", ["slot"])[0], SHOP)
    assert made.sheets[0].texts == {**plan.sheets[0].texts, "length": "25 mm"}
    assert (made.order, made.heading.heat, made.choice) == (None, "", plan.choice)


def asked(plan) -> set[str]:
    return {question.code for question in missing(plan.heading, plan.characteristics, plan.finishes)}


def test_everything_the_customer_did_not_say_is_asked() -> None:
    plan = planned(4)
    head = SetHeading(
        "Valve body",
        4,
        drawing="V-1",
        quantity_is_guess=True,
        holds_pressure=True,
        customer_words="nice and smooth",
    )
    edits = (
        head,
        SetFinish("anodise"),
        SetCharacteristic("port", "1/4-20", "critical"),
        SetCharacteristic("seat", "Ø22", "critical", customer_words="must seal"),
        SetCharacteristic("stem", "8 ±0.1", mate="valve stem"),
        SetCharacteristic("loose", "Ø30", "free", customer_words="whatever"),
    )
    for edit in edits:
        plan = apply_edit(edit, plan, SHOP).plan
    edit = SetCharacteristic(
        "face", "5 ±0.01", finish=plan.finishes[0].key, face="length over one face", limits_hold="ask"
    )
    plan = apply_edit(edit, plan, SHOP).plan
    assert asked(plan) == {
        "no-quantity",
        "no-material",
        "no-revision",
        "no-date",
        "no-heat",
        "no-approval",
        "not-agreed",
        "no-thickness",
        "no-class",
        "no-limits",
        "words-not-agreed",
        "no-mate",
        "before-or-after",
    }
    text = questions_text("Valve body", missing(plan.heading, plan.characteristics, plan.finishes))
    assert text.startswith("Valve body: before we start")
    assert "1. How many good pieces" in text
    said = replace(plan.heading, agreed="Ra 0.8", quantity_is_guess=False, heat="H12", approved_by="AB")
    assert "not-agreed" not in asked(replace(plan, heading=said))


def test_a_part_with_a_consequence_is_gauged_and_recorded_in_full() -> None:
    plan = apply_edit(SetHeading("Lifting eye", 4, gauge_every=5, lifts=True), planned(4), SHOP).plan
    assert plan.heading.gauged_every == 1
    found = {f.code: f for f in plan_findings(plan, SHOP.machines)}
    assert "competent person" in found["consequence"].remedy
    assert found["no-material-trace"].weight == "ask"


def test_what_the_shelf_holds_counts_for_a_set_by_its_name() -> None:
    plan = planned(12)
    for edit in (SetKitPart("Gate nut", 1, "made", 2), SetKitPart("pin", 1, "made", 0, 7)):
        plan = apply_edit(edit, plan, SHOP).plan
    nut, pin = kit_lines(plan.kit, 12, {7: 5}, (), {"gate nut": 4})
    assert (nut.have, nut.shelf, nut.short) == (6, 4, 6)
    assert (pin.have, pin.shelf) == (5, 0)
    assert complete_sets([nut, pin]) == 5
