"""A machine without a control is spoken of as one: dials, stops and presets, and no offsets but those it has."""

import re
from dataclasses import replace
from decimal import Decimal as D

import pytest
from starlette.testclient import TestClient

from ditto_run.core.place.round_sheets import TEST_CUT
from ditto_run.core.run import events as do
from ditto_run.core.sheets import Known
from ditto_run.core.shop import MACHINE_KINDS, Machine, Wear, read_codes
from ditto_run.desk import Desk
from tests.conftest import planned
from tests.web.conftest import flat

LATHE = Machine(0, "Hand lathe", "manual lathe", wear=Wear("diameter", "plus", D("0.01"), "mm"))
MILL = Machine(0, "Knee mill", "manual mill", read_codes("preset 1-preset 9"))
VIEWS = ("hold/sheet", "place", "place/find", "place/sheet", "tools", "run")


def job_on(desk: Desk, machine: Machine, offset: str | None = None) -> int:
    """Return a job whose one setup, with a station A, is on that machine, which is added to the shop."""
    number = desk.shop.save_machine(machine)
    plan = planned(6, stations="A")
    setups = tuple(replace(setup, machine_id=number) for setup in plan.setups)
    stations = tuple(replace(station, offset=offset) for station in plan.stations)
    return desk.jobs.new(replace(plan, setups=setups, stations=stations), "RK")


def page(client: TestClient, job: int, view: str) -> str:
    text = flat(client.get(f"/jobs/{job}/{view}").text)
    return text[text.index("<main") : text.index("</main>")].lower()


@pytest.mark.parametrize("view", VIEWS)
def test_a_hand_lathe_is_not_asked_for_what_a_control_has(client: TestClient, desk: Desk, view: str) -> None:
    found = page(client, job_on(desk, LATHE), view)
    for word in ("work offset", "g54", "low override", "the table of"):
        assert word not in found


def test_a_read_outs_presets_are_its_codes(client: TestClient, desk: Desk) -> None:
    found = page(client, job_on(desk, MILL, "preset 2"), "place")
    for word in ("read-out preset", "preset 2", "read-out presets of knee mill", "not set"):
        assert word in found


@pytest.mark.parametrize(
    ("machine", "tabs"),
    [
        (LATHE, ["Setting out", "Find zero", "How many", "Layout sheet"]),
        (
            MILL,
            ["Setting out", "Find zero", "Offsets", "Pallets", "How many", "Files", "Layout sheet"],
        ),
    ],
)
def test_place_shows_the_views_that_say_something_of_the_machine(
    client: TestClient, desk: Desk, machine: Machine, tabs: list[str]
) -> None:
    found = client.get(f"/jobs/{job_on(desk, machine)}/place").text
    views = found[found.index('aria-label="Views of Place"') :].split("</nav>")[0]
    assert re.findall(r">([^<>]+)</a>", views) == tabs


def test_the_next_label_and_code_are_proposed(client: TestClient, desk: Desk) -> None:
    job = desk.jobs.new(planned(6, stations="AB"), "RK")
    found = flat(client.get(f"/jobs/{job}/place").text)
    assert 'name="label" type="text" value="C"' in found
    assert 'name="offset" type="text" value="G56"' in found


def test_what_is_moved_on_run_is_a_dial_or_stop_where_there_is_no_control(
    client: TestClient, desk: Desk
) -> None:
    job = job_on(desk, LATHE)
    run = desk.runs.start(job, "RK", "k1")
    desk.runs.record(run, do.StartCycle(), "RK", "k2")
    assert "</kbd>Dial</button>" in client.get(f"/jobs/{job}/run").text
    form = flat(client.get(f"/jobs/{job}/run/form/offset").text)
    assert "Dial or stop moved" in form
    assert '<option value="cross slide">' in form
    assert "G54" not in form
    start = page(client, job_on(desk, LATHE), "run")
    assert "touch off with the spindle stopped" in start


def test_a_test_cut_moves_the_dial(desk: Desk) -> None:
    known = Known("mm", told={"machines": {1: replace(LATHE, id=1)}})
    texts = {"machine": "1", "cut": "outside", "wanted": "12", "measured": "12.02"}
    found = TEST_CUT.answer(texts, known)
    assert found.say == "Move the dial by −0.02 mm."
    assert "This control" not in str(found.facts)


def test_every_kind_of_machine_is_kept_and_named(client: TestClient, desk: Desk) -> None:
    for kind, words in MACHINE_KINDS.items():
        answer = client.post(
            "/shop/machines", data={"name": f"One {kind}", "kind": kind}, follow_redirects=False
        )
        assert answer.status_code == 303
        assert f"<td>{words}<br>" in client.get("/shop").text
    lathes = {m.kind for m in desk.shop.load().machines.values() if m.turns}
    assert lathes == {"lathe", "manual lathe"}


def test_a_travel_that_nobody_knows_is_asked_for_where_the_table_is_measured(
    client: TestClient, desk: Desk
) -> None:
    number = desk.shop.save_machine(Machine(0, "Mill 9", "mill", read_codes("G54-G59")))
    names = (
        *("table_x", "table_y", "slots", "slot_first", "slot_pitch", "slot_width"),
        *("reach_from", "nose", "travel_x", "travel_y"),
    )
    typed = ("600", "300", "3", "60", "90", "14", "20,20", "500", "500 mm", "250 mm")
    table = dict(zip(names, typed, strict=True))
    address = f"/shop/machines/{number}/table"
    refused = client.post(address, data=table, headers={"HX-Request": "true"})
    assert refused.status_code == 422
    assert 'data-field="travel_z"' in refused.text
    assert desk.shop.machine(number).ability.travel_x_mm is None  # nothing of it is kept yet
    kept = client.post(address, data=table | {"travel_z": "400 mm"}, follow_redirects=False)
    assert kept.status_code == 303
    assert desk.shop.machine(number).ability.travel_mm == (500, 250, 400)
    again = client.put(f"/api/v1{address}", json=table | {"nose": "450"})
    assert (again.status_code, desk.shop.machine(number).bed.nose_high_mm) == (200, 450)


def test_what_stands_in_a_machine_is_one_key_away_in_the_order_of_its_places(
    client: TestClient, desk: Desk
) -> None:
    rows = (("T07 chamfer", "Mill 2"), ("T02 rough", "Mill 2"), ("T01 turn", "Lathe 1"), ("loose reamer", ""))
    for name, machine in rows:
        desk.drawers.save("tools", 0, {"name": name, "machine": machine})
    page = client.get("/shop/drawers/tools").text
    assert "In Mill 2: 2" in page
    assert "In Lathe 1: 1" in page
    there = client.get("/shop/drawers/tools?find=Mill+2").text
    assert there.index("T02 rough") < there.index("T07 chamfer")
    assert "T01 turn" not in there
    assert "All 4</a>" in there  # and back
