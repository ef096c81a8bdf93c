"""Zeros of one load, compared where they lie in the machine."""

from dataclasses import replace
from decimal import Decimal as D

import pytest

from ditto_run.core.place import Station
from ditto_run.core.place.offsets import Offset
from ditto_run.core.place.zeros import zero_findings
from ditto_run.core.shop import Ability, Machine, read_codes

MILL = Machine(
    1, "Mill 2", "mill", read_codes("G54-G59"), ability=Ability(travel_x_mm=D(600), travel_y_mm=D(400))
)
A, B = Station(1, "A", "vise", "G54"), Station(1, "B", "vise", "G55")


def offset(code: str, x: str, y: str, z: str = "-300", unit: str = "mm") -> Offset:
    return Offset(code, {"x": D(x), "y": D(y), "z": D(z)}, unit)  # type: ignore[arg-type]


def codes(stations, *offsets: Offset, machine: Machine = MILL) -> list[str]:
    return [f.code for f in zero_findings("first side", stations, {o.code: o for o in offsets}, machine)]


def test_two_offsets_at_one_place_never_yield() -> None:
    found = zero_findings(
        "first side",
        (A, B),
        {"G54": offset("G54", "-100", "-50"), "G55": offset("G55", "-100", "-50")},
        MILL,
    )
    assert [(f.code, f.yields) for f in found] == [("same-zero", "never")]
    assert "A have the same zero" in found[0].problem


@pytest.mark.parametrize(
    ("x", "unit", "same"),
    [
        ("-100.000", "mm", True),
        ("-100.0005", "mm", True),  # less than any control shows
        ("-100.001", "mm", False),
        ("-3.9370", "in", True),  # 99.9998 mm
    ],
)
def test_the_limit_is_what_a_control_shows(x: str, unit: str, same: bool) -> None:
    other = offset("G55", x, "0", "0", unit)
    assert (codes((A, B), offset("G54", "-100", "0", "0"), other) == ["same-zero"]) == same


def test_a_shift_can_bring_two_offsets_to_one_place_and_one_offset_apart() -> None:
    shifted = replace(B, shift=(D(10), D(0), D(0)))
    assert codes((A, shifted), offset("G54", "-100", "0"), offset("G55", "-110", "0")) == ["same-zero"]
    assert codes((A, replace(shifted, offset="G54")), offset("G54", "-100", "0")) == []


def test_what_is_not_set_is_not_compared() -> None:
    bare = Offset("G55", {"x": D(-100)})
    assert codes((A, B), offset("G54", "-100", "0"), bare) == []


@pytest.mark.parametrize(
    ("x", "machine", "found"),
    [
        ("-600", MILL, []),
        ("-600.001", MILL, ["offset-beyond-travel"]),
        ("-5480", MILL, ["offset-beyond-travel"]),
        ("-5480", replace(MILL, kind="lathe"), []),
        ("-5480", replace(MILL, ability=Ability()), []),
    ],
)
def test_an_offset_beyond_the_travel_stops(x: str, machine: Machine, found: list[str]) -> None:
    assert codes((A,), offset("G54", x, "-10", "-488"), machine=machine) == found
