"""The register: what a change does, the guard before a kept one, drift, and predicted against measured."""

from dataclasses import replace
from datetime import UTC, datetime
from decimal import Decimal as D

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.place.offsets import Offset, OffsetChange, change_words, changed, drift, read_axis
from ditto_run.core.place.predict import expectations, offset_findings
from ditto_run.core.shop import Wear
from tests.core.place.layouts import BED, MILL, standing, vise

DAY = datetime(2026, 5, 12, 8, 52, tzinfo=UTC)
BASE = Offset("G54.1 P7", {"x": D(-158), "y": D(-72)}, kept=True, name="pallet base", who="RK", at=DAY)


def test_one_axis_changes_and_the_others_stay() -> None:
    new = changed(replace(BASE, kept=False), OffsetChange("G54.1 P7", {"x": D("-158.02")}, "touched"), MILL)
    assert new.axes == {"x": D("-158.02"), "y": D(-72)}
    assert change_words(BASE, new) == "X −158.000 to −158.020, by 20 µm (0.8 thou)"
    assert change_words(BASE, BASE) == ""
    assert changed(new, OffsetChange("G54.1 P7", {"x": None}), MILL).axes == {"y": D(-72)}


@pytest.mark.parametrize(
    ("change", "field"),
    [
        (OffsetChange("G55", {"x": D(0)}, name="pallet"), "name"),
        (OffsetChange("G55", {"x": D(0)}, typed="pallet"), "typed"),
    ],
)
def test_a_name_for_what_is_not_kept_is_refused_not_dropped(change: OffsetChange, field: str) -> None:
    with pytest.raises(BadEntry) as refused:
        changed(None, change, MILL)
    assert refused.value.field == field
    assert changed(None, replace(change, kept=True, name="pallet"), MILL).name == "pallet"


def test_a_kept_offset_wants_its_name_typed_and_shows_the_change() -> None:
    change = OffsetChange("G54.1 P7", {"x": D(0)})
    with pytest.raises(BadEntry) as refused:
        changed(BASE, change, MILL)
    assert refused.value.field == "typed"
    assert (
        "kept as “pallet base”: it would change X −158.000 to 0.000, by 158 mm (6.2205 in)"
        in refused.value.problem
    )
    assert "RK set it on 12 May 2026" in refused.value.problem
    with pytest.raises(BadEntry):
        changed(BASE, replace(change, typed="pallet"), MILL)
    assert changed(BASE, replace(change, typed=" Pallet Base "), MILL).axes["x"] == 0


@pytest.mark.parametrize(
    "change", [OffsetChange("G54.1 P7", kept=False), OffsetChange("G54.1 P7", name="other")]
)
def test_letting_a_kept_offset_go_or_renaming_it_is_guarded_too(change: OffsetChange) -> None:
    with pytest.raises(BadEntry, match="kept as"):
        changed(BASE, change, MILL)


def test_its_purpose_and_limit_are_not() -> None:
    assert changed(BASE, OffsetChange("G54.1 P7", purpose="base", limit=D("0.02")), MILL).purpose == "base"


@pytest.mark.parametrize(
    ("change", "field"),
    [
        (OffsetChange("G59.3", {"x": D(1)}), "code"),
        (OffsetChange("G54", {"x": D(1)}, kept=True, name=" "), "name"),
    ],
)
def test_what_cannot_be_is_refused(change: OffsetChange, field: str) -> None:
    with pytest.raises(BadEntry) as refused:
        changed(None, change, MILL)
    assert refused.value.field == field


@pytest.mark.parametrize(
    ("axis", "text", "unit", "value"),
    [
        ("x", "-23.6220", "in", D("-23.6220")),
        ("x", "10 mm", "in", D("0.3937")),
        ("x", "1 in", "mm", D("25.400")),
        ("z", "−3", "mm", D(-3)),
        ("a", "90°", "in", D(90)),
        ("y", "", "mm", None),
    ],
)
def test_axes_are_read_as_the_control_shows_them(axis, text, unit, value) -> None:
    assert read_axis(axis, text, replace(MILL, wear=Wear(unit=unit)), axis) == value


@pytest.mark.parametrize(("axis", "text"), [("x", "1e9"), ("x", "left"), ("a", "99999"), ("x", "NaN")])
def test_axes_that_cannot_be_are_refused(axis, text) -> None:
    with pytest.raises(BadEntry) as refused:
        read_axis(axis, text, MILL, axis)
    assert refused.value.field == axis


def test_a_control_set_to_another_unit_takes_its_values_along() -> None:
    inch = replace(MILL, wear=Wear(unit="in"))
    new = changed(Offset("G54", {"x": D("25.4"), "a": D(90)}), OffsetChange("G54", {"y": D(1)}), inch)
    assert (new.unit, new.axes) == ("in", {"x": D("1.0000"), "a": D(90), "y": D(1)})


def test_drift_is_counted_from_the_first_line_that_set_the_axis() -> None:
    lines = [
        Offset("G54", {"x": D(1)}),
        Offset("G54", {"x": D("1.02"), "z": D(5)}),
        Offset("G54", {"x": D("0.99"), "z": D("5.01")}),
    ]
    assert [by for _, by in drift(lines)] == [
        {"x": D(0)},
        {"x": D("0.02"), "z": D(0)},
        {"x": D("-0.01"), "z": D("0.01")},
    ]


def two_vises():
    one, other = standing(vise(1, 200)), standing(vise(2, 400), "B")
    seat = replace(other.seats[0], station=replace(other.seats[0].station, offset="G55"))
    return one, replace(other, seats=(seat,))


def test_the_others_are_expected_where_the_drawing_puts_them_from_the_measured_one() -> None:
    # drawn: A at X −530, B at −330. A measured 0.4 off; B exactly at the tolerance from there, then a hair over.
    offsets = {
        "G54": Offset("G54", {"x": D("-529.6"), "y": D(-110), "z": D(-488)}),
        "G55": Offset("G55", {"x": D("-329.1"), "y": D(-110)}),
    }
    first, second = expectations(two_vises(), offsets, BED)
    assert (first.reference, second.reference) == (True, False)
    assert second.drawn_mm[0] == D(-330)
    assert second.expected_mm[:2] == (D("-329.6"), D(-110))
    assert second.off_mm == (D("0.5"), D(0), None)
    assert second.far == ()
    offsets["G55"] = Offset("G55", {"x": D("-329.0999"), "y": D(-110)})
    found = offset_findings(two_vises(), offsets, BED, "mm")
    assert [f.problem for f in found] == [
        "G55 at B is not set in Z.",
        "X of G55 is 0.50 mm (0.020 in) from where the drawing puts B.",
    ]


def test_without_a_measured_station_the_tables_own_measures_stand() -> None:
    first, second = expectations(two_vises(), {}, BED)
    assert (first.expected_mm, second.expected_mm[0]) == (first.drawn_mm, D(-330))
    assert [f.code for f in offset_findings(two_vises(), {}, BED, "mm")] == ["offset-open", "offset-open"]
