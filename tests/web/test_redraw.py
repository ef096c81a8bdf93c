"""A board is brought up to date in parts only where the page knows enough; else the whole of it is drawn."""

import re

import pytest
from starlette.testclient import TestClient

from ditto_run.core.edits import KeepSheet
from ditto_run.core.run import events as do
from ditto_run.core.run.fold import KEPT_EVENTS
from ditto_run.desk import Desk
from tests.conftest import planned

PART = {"HX-Request": "true"}
SEEN = re.compile(r'"seen": "([^"]+)')


@pytest.fixture
def job(desk: Desk) -> int:
    found = desk.jobs.new(planned(), "RK")
    run = desk.runs.start(found, "RK")
    for command in (do.StartCycle(), do.EndCycle()):
        desk.runs.record(run, command, "RK", command.kind)
    return found


def page_of(client: TestClient, job: int) -> str:
    client.cookies.set("layout", "wide")
    return SEEN.search(client.get(f"/jobs/{job}/run").text)[1]


def read(client: TestClient, job: int, seen: str, key: str = "r", **headers: str):
    sent = {"kind": "take_reading", "piece": "1", "characteristic": "1", "text": "20.01"}
    return client.post(
        f"/jobs/{job}/run/do", data=sent | {"seen": seen, "client_key": key}, headers=PART | headers
    )


def in_parts(answer) -> bool:
    assert answer.status_code == 200, answer.text[:300]
    return answer.headers.get("HX-Retarget") == "#board-top"


def test_a_page_that_knows_the_line_before_is_answered_in_parts(client: TestClient, job: int) -> None:
    assert in_parts(read(client, job, page_of(client, job)))


@pytest.mark.parametrize("notes", [KEPT_EVENTS - 3, KEPT_EVENTS + 5])
def test_a_page_so_far_behind_that_lines_are_forgotten_gets_the_whole(
    client: TestClient, desk: Desk, job: int, notes: int
) -> None:
    seen = page_of(client, job)
    for n in range(notes):
        desk.runs.record(desk.runs.require(job), do.AddNote(f"{n}"), "RK", f"n{n}")
    assert in_parts(read(client, job, seen)) == (notes < KEPT_EVENTS)


def test_a_page_behind_a_load_gets_the_whole(client: TestClient, desk: Desk, job: int) -> None:
    seen, run = page_of(client, job), desk.runs.require(job)
    for command in (
        do.TakeReading(1, 1, "20.0"),
        do.TakeReading(1, 2, "31.5"),
        do.AcceptMaster(1),
        do.StartCycle(),
    ):
        desk.runs.record(run, command, "RK", f"{command}")
    assert not in_parts(read(client, job, seen))


@pytest.mark.parametrize("part", [1, 2, 3])
def test_a_page_drawn_in_another_shape_gets_the_whole(client: TestClient, job: int, part: int) -> None:
    """Another last load, something held, another setup: the strip or the keys beside it are not what they were."""
    known = page_of(client, job).split(":")
    known[part] = "9"
    assert not in_parts(read(client, job, ":".join(known)))


def test_a_form_without_scripts_goes_back_to_the_run(client: TestClient, desk: Desk, job: int) -> None:
    sent = {"kind": "add_note", "text": "chips"}
    answer = client.post(f"/jobs/{job}/run/do", data=sent, follow_redirects=False)
    assert (answer.status_code, answer.headers["location"]) == (303, f"/jobs/{job}/run")
    assert "<html" in client.get(answer.headers["location"]).text


def test_what_hold_worked_out_is_read_at_the_machine(client: TestClient, desk: Desk) -> None:
    job = desk.jobs.new(planned(), "RK")
    ladder = KeepSheet("ladder", {"length": "30", "kerf": "3", "count": "4", "across": "20"}, name="Ladder")
    desk.jobs.change(job, 1, "RK", ladder)
    desk.runs.start(job, "RK")
    (answer,) = desk.worked_out(desk.jobs.load(job)).answers.values()
    page = client.get(f"/jobs/{job}/run/form/plan", headers=PART).text
    assert "<dt>Ladder</dt>" in page
    assert answer.say in page
