"""Never yields: the same zero twice in a load, and a code the machine lacks."""

from decimal import Decimal as D

import pytest

from ditto_run.core.edits import RemoveSetup, SetSetup, SetStation, apply_edit
from ditto_run.core.errors import BadEntry
from ditto_run.core.place import Station, check_station, place_findings
from ditto_run.core.plan import plan_findings
from ditto_run.core.shop import Machine, read_codes
from tests.conftest import MILL, SHOP, planned

A = Station(1, "A", "vise 1", "G54")


@pytest.mark.parametrize(
    ("station", "words"),
    [
        (Station(1, "B", offset="G54"), "A have the same zero"),
        (Station(1, "B", offset="G54", shift=(D("0.0"), D(0), D(0)), unit="in"), "same zero"),
        (Station(1, "B", offset="G59.1"), "Mill 2 has no G59.1"),
        (Station(1, "A", offset="G55"), "a station A already"),
        (Station(1, "left", offset="G55"), "not a label"),
        (Station(1, "B", offset="G55", pieces=0), "1 to 50 pieces"),
    ],
)
def test_is_refused(station: Station, words: str) -> None:
    with pytest.raises(BadEntry, match=words):
        check_station(station, [A], MILL)


def test_a_shift_parts_two_stations_on_one_offset() -> None:
    check_station(Station(1, "B", offset="G54", shift=(D(80), D(0), D(0))), [A], MILL)


def test_a_shift_is_the_same_in_either_unit() -> None:
    one = Station(1, "A", offset="G54", shift=(D("25.4"), D(0), D(0)))
    with pytest.raises(BadEntry, match="same zero"):
        check_station(Station(1, "B", offset="G54", shift=(D(1), D(0), D(0)), unit="in"), [one], MILL)


def test_manual_machines_have_stops_instead() -> None:
    manual = Machine(2, "Old mill", "manual")
    check_station(Station(1, "B"), [Station(1, "A")], manual)
    assert place_findings(1, "first", [Station(1, "A")], manual) == []
    with pytest.raises(BadEntry, match="Old mill has no G54"):
        check_station(A, [], manual)


def test_changing_the_machine_below_its_stations_is_refused() -> None:
    plan = planned()
    with pytest.raises(BadEntry, match="Old mill has no G54"):
        apply_edit(SetSetup("first side", 2, key=plan.setups[0].key), plan, SHOP)


def test_coordinates_are_plain_numbers_of_one_unit() -> None:
    plan = planned()
    key = plan.setups[0].key
    for zero, words in ((("x", "", ""), "not a coordinate"), (("1 in", "", ""), "another unit")):
        with pytest.raises(BadEntry, match=words) as refused:
            apply_edit(SetStation(key, "D", offset="G57", zero=zero), plan, SHOP)
        assert refused.value.field == "zero_x"


def test_findings_run_through_the_steps() -> None:
    assert plan_findings(planned(), SHOP.machines) == []
    bare = apply_edit(RemoveSetup(planned().setups[0].key), planned(), SHOP).plan
    assert [f.step for f in plan_findings(bare, SHOP.machines)] == ["hold"]


@pytest.mark.parametrize(
    ("text", "count", "back"),
    [
        ("G54-G59", 6, "G54-G59"),
        ("g54, g55 ;G59.1", 3, "G54-G55, G59.1"),
        ("G54.1 P1-P48", 48, "G54.1 P1-P48"),
        ("G54 to G59.3", 9, "G54-G59.3"),
        ("", 0, ""),
    ],
)
def test_codes_read_and_write_back(text: str, count: int, back: str) -> None:
    from ditto_run.core.shop import codes_text

    codes = read_codes(text)
    assert len(codes) == count
    assert codes_text(codes) == back
    assert read_codes(back) == codes


@pytest.mark.parametrize("text", ["G53", "G60", "X", "G59-G54", "G54.1 P0", "G54-G55-G56"])
def test_what_is_no_code_is_refused(text: str) -> None:
    with pytest.raises(BadEntry):
        read_codes(text)
