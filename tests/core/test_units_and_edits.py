"""Units in words, and changes of a plan that are refused or make the next plan."""

from dataclasses import replace
from decimal import Decimal as D

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core import edits as to
from ditto_run.core.edits import apply_edit
from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.units import (
    angle_text,
    clock_text,
    convert,
    number_text,
    small_text,
    span_text,
    value_text,
)
from tests.conftest import SHOP, planned


@pytest.mark.parametrize(
    ("value", "unit", "text"),
    [
        ("0.023", "mm", "23 µm (0.9 thou)"),
        ("-0.0008", "in", "0.8 thou (20 µm)"),
        ("0", "mm", "0 µm (0 thou)"),
        ("0.0004", "mm", "0.4 µm (0.02 thou)"),
        ("0.00002", "in", "0.02 thou (0.5 µm)"),  # what is there is never called nothing
        ("1800", "arcsec", "0°30′"),
    ],
)
def test_small_distances_name_the_drawings_unit_first(value: str, unit, text: str) -> None:
    assert small_text(D(value), unit) == text


def test_numbers_have_a_true_minus_and_a_leading_zero() -> None:
    assert number_text(D("-.0008"), 4) == "−0.0008"
    assert number_text(D("2.675"), 2) == "2.68"  # halves away from zero, as a shop rounds
    assert value_text(D(12), "mm", 3) == "12.000 mm"


@pytest.mark.parametrize(
    ("seconds", "clock", "span"),
    [(348, "5:48", "6 min"), (0, "0:00", "0 min"), (21480, "358:00", "5 h 58"), (59.6, "1:00", "1 min")],
)
def test_times_in_words(seconds: float, clock: str, span: str) -> None:
    assert clock_text(seconds) == clock
    assert span_text(seconds) == span


@pytest.mark.parametrize(("arcsec", "text"), [(160200, "44°30′"), (-3601, "−1°0′1″"), (0, "0°")])
def test_angles_in_words(arcsec: int, text: str) -> None:
    assert angle_text(D(arcsec)) == text


@given(st.decimals(min_value="0.0001", max_value="9999", places=4))
def test_inches_to_millimetres_and_back_is_the_same(value: D) -> None:
    assert convert(convert(value, "in", "mm"), "mm", "in") == value


def key() -> int:
    return planned().setups[0].key


@pytest.mark.parametrize(
    ("edit", "kind", "field"),
    [
        (to.SetCharacteristic("Slot", "9"), BadEntry, "name"),
        (to.SetCharacteristic("x", "20", gauge_id=9), NotFound, None),
        (to.SetCharacteristic("x", "20", setup=99), NotFound, None),
        (to.SetCharacteristic("x", "20", number=99), NotFound, None),
        (to.RemoveCharacteristic(99), NotFound, None),
        (to.AddCharacteristics(()), BadEntry, "rows"),
        (to.SetSetup("x", machine_id=9), NotFound, None),
        (to.SetSetup("x", handling="soon"), BadEntry, "handling"),
        (to.SetSetup("x", key=99), NotFound, None),
        (to.MoveSetup(99, 1), NotFound, None),
        (to.RemoveSetup(99), NotFound, None),
        (to.SetStation(99, "D"), NotFound, None),
        (to.SetStation(3, "D", offset="G54", was="Q"), NotFound, None),
        (to.SetStation(3, "D", offset="nonsense"), BadEntry, "offset"),
        (to.SetStation(3, "D", offset="G57", shift=("", "a", "")), BadEntry, "shift_y"),
        (to.RemoveStation(3, "Q"), NotFound, None),
        (to.SetToolStep(99, 1, "x"), NotFound, None),
        (to.SetToolStep(3, 1, "x", key=99), NotFound, None),
        (to.MoveToolStep(99, 1), NotFound, None),
        (to.RemoveToolStep(99), NotFound, None),
        (to.SetHeading("", 4), BadEntry, "part"),
        (to.SetHeading("x", 4, gauge_every=0), BadEntry, "gauge_every"),
    ],
)
def test_a_change_that_cannot_be_made_is_refused(
    edit: to.Edit, kind: type[Exception], field: str | None
) -> None:
    assert key() == 3
    with pytest.raises(kind) as refused:
        apply_edit(edit, planned(), SHOP)
    assert refused.value.field == field  # type: ignore[attr-defined]


def test_a_change_gives_a_new_plan_and_leaves_the_old_one() -> None:
    plan = planned()
    before = replace(plan)
    changed = apply_edit(to.SetStation(3, "B", "new vise", "G58", was="B", pieces=2), plan, SHOP)

    assert plan == before
    assert changed.what == "changed station B"
    assert [s.pieces for s in changed.plan.stations_of(3)] == [1, 2, 1]


def test_tool_steps_move_within_their_setup_only() -> None:
    plan = planned(4, to.SetSetup("second side"))
    second = plan.setups[1].key
    for edit in (
        to.SetToolStep(3, 4, "spot", "6"),
        to.SetToolStep(second, 9, "face", "20"),
        to.SetToolStep(3, 5, "drill", "14"),
    ):
        plan = apply_edit(edit, plan, SHOP).plan
    drill = plan.tools_of(3)[-1]
    for _ in range(5):  # at the end of its setup it stays
        plan = apply_edit(to.MoveToolStep(drill.key, -1), plan, SHOP).plan

    assert [step.does for step in plan.tools_of(3)] == ["drill", "finish slot", "spot"]
    assert [step.does for step in plan.tools_of(second)] == ["face"]


def test_removing_a_setup_takes_its_stations_and_tools_and_frees_its_dimensions() -> None:
    plan = apply_edit(
        to.SetCharacteristic("slot", "20 ±0.03 mm", "critical", setup=3, number=1), planned(), SHOP
    ).plan
    bare = apply_edit(to.RemoveSetup(3), plan, SHOP).plan

    assert (bare.setups, bare.stations, bare.tool_steps) == ((), (), ())
    assert bare.characteristics[0].setup is None


def test_dimensions_are_gauged_in_their_setup_free_ones_last() -> None:
    plan = planned(4, to.SetSetup("second side"), to.SetCharacteristic("edge", "R1", "free"))
    second = plan.setups[1].key
    plan = apply_edit(to.SetCharacteristic("hole", "6 H7", setup=second), plan, SHOP).plan

    assert [c.name for c in plan.gauged_in(3)] == ["slot", "height"]
    assert [c.name for c in plan.gauged_in(second)] == ["hole", "edge"]
