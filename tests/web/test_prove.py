"""Prove in the browser: the next thing in large, ticked by one key, left out with a sentence, taken back."""

from starlette.testclient import TestClient

from ditto_run.core.run import events as do
from ditto_run.core.run.proven import proof_of
from ditto_run.desk import Desk
from ditto_run.desk.gate import start_run
from tests.conftest import planned
from tests.web.conftest import flat

HX = {"HX-Request": "true"}


def test_before_the_run_it_leads_there(client: TestClient, desk: Desk) -> None:
    job = desk.jobs.new(planned(4, stations="A"), "RK")
    page = flat(client.get(f"/jobs/{job}/prove").text)
    assert "Start the run, then prove it." in page
    assert f'href="/jobs/{job}/run"' in page
    assert client.post(f"/jobs/{job}/prove", data={"item": "homed"}, headers=HX).status_code in {404, 409}


def test_the_list_is_gone_through_by_one_key_and_the_step_line_counts(client: TestClient, desk: Desk) -> None:
    job = desk.jobs.new(planned(4, stations="A"), "RK")
    run = start_run(desk, job, "RK")
    at = f"/jobs/{job}/prove"
    page = flat(client.get(at).text)
    assert "<h1>The program was read line by line; none was chosen on Tools.</h1>" in page
    left = page.count("Looked at<span")
    assert f"{left + 1} open" in page  # and the first piece
    answer = client.post(at, data={"item": "program", "client_key": "a"}, headers=HX, follow_redirects=False)
    assert answer.status_code == 303
    page = flat(client.get(at).text)
    assert "<h1>Air cut over the piece, every tool to its end.</h1>" in page
    assert page.count("Looked at<span") == left - 1
    assert f"1 of {left} gone through" in page
    refused = client.post(at, data={"item": "air", "waived": "true", "note": ""}, headers=HX)
    assert "The reason is empty." in refused.text
    client.post(at, data={"item": "air", "waived": "true", "note": "cut dry on Monday"}, headers=HX)
    page = flat(client.get(at).text)
    assert "cut dry on Monday" in page
    assert "Undo: Left out: Air cut over the piece" in page
    client.post(f"{at}/undo", headers=HX)
    assert "<h1>Air cut over the piece" in flat(client.get(at).text)
    with desk.runs.folded(run) as state:
        machine = desk.shop.machine(1)
        keys = [one.item.key for one in proof_of(state, machine, {}).items]
    for key in keys:
        client.post(at, data={"item": key}, headers=HX)
    page = flat(client.get(at).text)
    assert "Now the first piece of first side." in page
    desk.runs.record(run, do.StartCycle(), "RK", "s1")
    desk.runs.record(run, do.EndCycle(), "RK", "s2")
    for n, (c, size) in enumerate(((1, "20.001"), (2, "31.5"))):
        desk.runs.record(run, do.TakeReading(1, c, size), "RK", f"r{n}")
    desk.runs.record(run, do.AcceptMaster(1), "RK", "m")
    page = flat(client.get(at).text)
    assert "The first piece is accepted." in page


def test_the_next_thing_is_said_to_the_ear_and_has_the_focus(client: TestClient, desk: Desk) -> None:
    job = desk.jobs.new(planned(4, stations="A"), "RK")
    run = start_run(desk, job, "RK")
    page = flat(client.get(f"/jobs/{job}/prove").text)
    assert "Prove. The program was read line by line; none was chosen on Tools." in page
    assert page.count("autofocus") == 1
    with desk.runs.folded(run) as state:
        keys = [one.item.key for one in proof_of(state, desk.shop.machine(1), {}).items]
    for key in keys:
        client.post(f"/jobs/{job}/prove", data={"item": key}, headers=HX)
    page = flat(client.get(f"/jobs/{job}/prove").text)
    assert "Prove. Now the first piece of first side." in page
    assert "autofocus>Go to Run" in page.replace(" autofocus", "autofocus")
