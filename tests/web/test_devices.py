"""Devices at the door: a gauge and a machine with their keys; the stand-in beside a run of the demo."""

from datetime import timedelta

import pytest
from starlette.testclient import TestClient

from ditto_run.core.edits import SetCharacteristic, SetToolStep
from ditto_run.core.run import events as do
from ditto_run.desk import Desk
from ditto_run.desk.gate import start_run
from ditto_run.devices.machine import SimulatedMachine
from tests.conftest import Clock, planned
from tests.web.conftest import flat

GAUGE, MACHINE = "gauge-key-of-its-own", "machine-key-of-its-own"


@pytest.fixture
def run(desk: Desk) -> int:
    desk.drawers.save("devices", 0, {"name": "micrometer", "kind": "gauge", "key": GAUGE})
    name = desk.shop.machine(1).name
    desk.drawers.save("devices", 0, {"name": "agent", "kind": "machine", "of": name, "key": MACHINE})
    return start_run(
        desk,
        desk.jobs.new(
            planned(12, SetToolStep(3, 4, "deep pocket", "3000", "20"), stations="A"), "RK", is_demo=True
        ),
        "RK",
    )


def post(client: TestClient, what: str, body: dict[str, object], key: str):  # type: ignore[no-untyped-def]
    return client.post(f"/api/v1/devices/{what}", json=body, headers={"X-Device-Key": key})


def test_a_gauge_sends_its_line_with_its_key_once(client: TestClient, desk: Desk, run: int) -> None:
    body = {"line": "+0020.0040 mm", "client_key": "1"}
    first = post(client, "reading", body, GAUGE)
    assert first.status_code == 409, first.text
    desk.runs.record(run, do.StartCycle(), "RK", "s")
    desk.runs.record(run, do.EndCycle(confirm="1"), "RK", "e")
    for key in ("", "wrong", MACHINE):
        assert post(client, "reading", body, key).status_code == 404
    taken = post(client, "reading", body, GAUGE)
    assert taken.status_code == 200
    assert "20.004" in taken.json()["said"]
    assert post(client, "reading", body, GAUGE).json()["said"] == ""
    assert post(client, "reading", {**body, "line": "ERR", "client_key": "2"}, GAUGE).status_code == 422
    assert post(client, "reading", {**body, "strange": 1}, GAUGE).status_code == 422
    with desk.runs.folded(run) as state:
        assert len(state.gaugings) == 1


def test_a_machine_sends_its_document_into_the_run_that_is_cut_on_it(
    client: TestClient, desk: Desk, run: int, clock: Clock
) -> None:
    machine = SimulatedMachine("Mill 2", lambda: clock.at, 60.0)
    machine.press()
    assert post(client, "machine", {"document": machine.sample(1)}, GAUGE).status_code == 404
    sent = post(client, "machine", {"document": machine.sample(1)}, MACHINE)
    assert (sent.status_code, sent.json()["written"]) == (200, 1)
    with desk.runs.folded(run) as state:
        assert state.running is not None
    assert post(client, "machine", {"document": "<html/>"}, MACHINE).status_code == 422
    again = post(client, "machine", {"document": machine.sample(1)}, MACHINE).json()
    assert (again["written"], again["refused"]) == (0, [])


def test_a_device_with_a_short_key_or_no_machine_is_refused(desk: Desk) -> None:
    from ditto_run.core.errors import BadEntry

    for texts in (
        {"name": "a", "kind": "gauge", "key": "short"},
        {"name": "a", "kind": "machine", "key": GAUGE},
        {"name": "a", "kind": "gauge", "key": "with some blanks in it"},
    ):
        with pytest.raises(BadEntry):
            desk.drawers.save("devices", 0, texts)


def test_the_stand_in_is_only_for_jobs_of_the_demo(client: TestClient, desk: Desk) -> None:
    job = desk.jobs.new(planned(12, stations="A"), "RK")
    start_run(desk, job, "RK")
    assert "/run/stand-in" not in client.get(f"/jobs/{job}/run/time").text
    refused = client.post(f"/jobs/{job}/run/stand-in", data={"fault": "none"}, headers={"HX-Request": "true"})
    assert "A stand-in writes made-up readings." in refused.text


def test_a_batch_is_begun_by_the_stand_ins_button_and_gauged_by_its_gauge(
    client: TestClient, desk: Desk, run: int, clock: Clock
) -> None:
    at = f"/jobs/{desk.runs.job_of(run)}/run"
    assert 'hx-get="/jobs/1/run/stand-in" hx-trigger="load"' in flat(client.get(f"{at}/time").text)
    assert "/run/stand-in" not in client.get(at).text
    assert "Practise with a stand-in" in client.get(f"{at}/stand-in").text
    client.post(f"{at}/stand-in", data={"fault": "none", "speed": "1"})
    assert 'hx-get="/jobs/1/run/stand-in" hx-trigger="load"' in flat(client.get(at).text)
    pressed = client.post(f"{at}/stand-in/press", headers={"HX-Request": "true"})
    assert "The stand-in is cutting." in pressed.text, flat(pressed.text)
    with desk.runs.folded(run) as state:
        assert state.running is not None
    assert "The machine is cutting." in client.post(f"{at}/stand-in/press").text
    clock.at += timedelta(seconds=client.app.state.stand_ins[run].machine.cycle_s - 400)  # type: ignore[attr-defined]
    for _ in range(20):
        client.get(f"{at}/stand-in")
    assert "The stand-in waits." in client.get(f"{at}/stand-in").text
    for _ in range(2):  # slot and height of the first piece
        answer = client.post(f"{at}/stand-in/gauge").text
        assert "piece 1, station A" in answer, flat(answer)
    assert "No reading is asked for now." in client.post(f"{at}/stand-in/gauge").text
    with desk.runs.folded(run) as state:
        assert {one.who for one in state.gaugings.values()} == {"GAU"}
        assert all(one.inside for one in state.gaugings.values())
    client.post(f"{at}/stand-in/press")
    refused = client.get(f"{at}/stand-in").text
    assert "the run did not take it" in refused
    client.post(f"{at}/stand-in", data={"on": "false"})
    assert "Practise with a stand-in" in client.get(f"{at}/stand-in").text
    assert client.post(f"{at}/stand-in/press").status_code == 409


def test_the_stand_in_tries_go_and_no_go_where_a_size_is_checked_so(
    client: TestClient, desk: Desk, clock: Clock
) -> None:
    plan = planned(8, SetCharacteristic("thread", "M8 6H", "critical"), stations="A")
    job = desk.jobs.new(plan, "RK", is_demo=True)
    run = start_run(desk, job, "RK")
    at = f"/jobs/{job}/run"
    client.post(f"{at}/stand-in", data={"fault": "none", "speed": "60"})
    client.post(f"{at}/stand-in/press")
    clock.at += timedelta(hours=1)
    client.get(f"{at}/stand-in")
    for _ in range(3):
        client.post(f"{at}/stand-in/gauge")
    with desk.runs.folded(run) as state:
        checked = [one for one in state.gaugings.values() if one.go is not None]
        assert [(one.piece, one.go, one.who) for one in checked] == [(1, True, "GAU")]
