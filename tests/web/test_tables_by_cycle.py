"""One setup on two mills at once: each mill has its own table, codes, zeros, files and sheet."""

from dataclasses import replace

import pytest
from starlette.testclient import TestClient

from ditto_run.core.edits import CopyPlaced, MovePlaced, PlaceHolder, SetCycle
from ditto_run.core.errors import NotNow
from ditto_run.core.plan import Plan
from ditto_run.desk import Desk
from ditto_run.desk.gate import what_is_open
from tests.web.conftest import flat
from tests.web.placed import lay_out, setting


@pytest.fixture
def two(desk: Desk) -> tuple[int, int]:
    """The job of `lay_out` with its vise B on a second mill just like the first; the job and the cycle's key."""
    job = lay_out(desk)
    other = desk.shop.save_machine(replace(desk.shop.machine(2), id=0, name="Mill 4"))
    return job, done(desk, job, SetCycle("on mill 4", ("1:B",), other)).cycles[-1].key


def done(desk: Desk, job: int, edit: object) -> Plan:
    return desk.jobs.change(job, desk.jobs.load(job).version, "RK", edit).plan


def clashes(desk: Desk, job: int) -> list[str]:
    found = what_is_open(desk, desk.jobs.load(job)).wanted
    return [thing.finding.problem for thing in found if thing.finding.code == "overlap"]


def test_a_vise_that_is_cut_on_the_other_mill_stands_on_its_table(desk: Desk, two) -> None:
    job, cycle = two
    plan = desk.jobs.load(job).plan
    a, b, pallet = plan.placed
    assert plan.on_table(1) == (a, pallet)
    assert plan.on_table(1, cycle) == (b,)
    assert [s.label for s in plan.stations_at(1, cycle)] == ["B"]
    assert plan.stations_at(1, 99) == plan.stations_at(1, 0)  # not a cycle of it: the first
    assert [(s.key, c.key) for s, c in plan.cuts] == [(1, 1), (1, cycle)]


def test_a_holder_for_the_other_mill_takes_its_free_place_and_its_first_free_code(desk: Desk, two) -> None:
    job, cycle = two
    plan = done(desk, job, PlaceHolder(1, "Vise", left="100", front="100", cycle=cycle))
    assert plan.on_table(1, cycle)[-1].left_mm == plan.placed[0].left_mm  # where A stands, on the other table
    new = plan.stations[-1]
    assert (new.label, new.offset, new.cycle) == ("C", "G54", cycle)  # G54 is A's, on the first mill
    assert plan.stations[0].offset == "G54"
    assert not clashes(desk, job)
    copied = done(desk, job, CopyPlaced(plan.placed[-1].key, "1", "10"))
    assert (copied.stations[-1].cycle, copied.stations[-1].offset) == (cycle, "G56")  # G55 is B's


def test_two_holders_that_meet_on_the_other_mill_are_found_there(desk: Desk, two) -> None:
    job, cycle = two
    plan = done(desk, job, PlaceHolder(1, "Vise", left="100", front="100", cycle=cycle))
    done(desk, job, MovePlaced(plan.placed[-1].key, left="300", front="100"))
    assert clashes(desk, job) == ["Vise B and Vise C overlap by 60.0 mm (2.36 in)."]


def test_a_holder_for_a_mill_whose_table_is_not_measured_is_refused(desk: Desk) -> None:
    job = lay_out(desk)
    cycle = done(desk, job, SetCycle("on mill 2", ("1:B",), 1)).cycles[-1].key
    with pytest.raises(NotNow, match="not measured"):
        done(desk, job, PlaceHolder(1, "Vise", cycle=cycle))
    assert done(desk, job, PlaceHolder(1, "Vise")).stations[-1].cycle == 0  # the first mill's is


def test_the_pages_of_place_show_the_mill_that_the_address_says(client: TestClient, desk: Desk, two) -> None:
    job, cycle = two
    setting(client)
    first = flat(client.get(f"/jobs/{job}/place?setup=1").text)
    other = flat(client.get(f"/jobs/{job}/place?setup=1.{cycle}").text)
    assert f"?setup=1.{cycle}" in first
    assert "Mill 4" in first
    assert "-630" not in other  # G54 of Mill 3
    for page in ("place", "place/offsets", "place/files"):
        answer = client.get(f"/jobs/{job}/{page}?setup=1.{cycle}")
        assert answer.status_code == 200, page
        assert "Mill 4" in answer.text, page
    sheet = flat(client.get(f"/jobs/{job}/place/sheet").text)
    assert sheet.count("on mill 4") >= 1
    assert "Mill 3" in sheet
    table = client.get(f"/jobs/{job}/place/files/1.{cycle}/offsets.csv").text
    assert "-630" not in table
    assert "-630" in client.get(f"/jobs/{job}/place/files/1/offsets.csv").text


@pytest.mark.parametrize("setup", ["1.x", "1.", ".2", "a", "1.2.3", "9999999999"])
def test_an_address_that_says_no_setup_is_refused(client: TestClient, two, setup) -> None:
    assert client.get(f"/jobs/{two[0]}/place?setup={setup}").status_code == 422


def test_a_cycle_that_is_not_there_shows_the_first(client: TestClient, two) -> None:
    assert client.get(f"/jobs/{two[0]}/place?setup=1.77").status_code == 200


def test_the_api_gives_the_layout_of_either_mill(client: TestClient, two) -> None:
    job, cycle = two
    first = client.get(f"/api/v1/jobs/{job}/layout/1").json()
    other = client.get(f"/api/v1/jobs/{job}/layout/1?cycle={cycle}").json()
    assert [first["machine"], other["machine"]] == [2, 3]
    assert [len(first["standings"]), len(other["standings"])] == [2, 1]
