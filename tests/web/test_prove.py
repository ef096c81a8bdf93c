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


def test_what_was_forgotten_is_asked_first_and_each_look_counts(client: TestClient, desk: Desk) -> None:
    machine = desk.shop.machine(1).name
    job = desk.jobs.new(planned(4, stations="A"), "RK")
    start_run(desk, job, "RK")
    at = f"/jobs/{job}/prove"
    refused = client.post(f"{at}/forgot", data={"what": "  "}, headers=HX)
    assert refused.status_code == 422
    assert "What is missing." in refused.text
    for _ in range(2):
        client.post(f"{at}/forgot", data={"what": "chips under C", "machine": machine}, headers=HX)
    page = flat(client.get(at).text)
    assert page.index("Chips under C.") < page.index("From the plan")
    assert "Forgotten 2 times, the last on " in page
    client.post(at, data={"item": "forgot chips under c", "client_key": "a"}, headers=HX)
    client.post(at, data={"item": "forgot chips under c", "client_key": "a"}, headers=HX)  # the same key
    looked = [row.value.looked for row in desk.drawers.rows("forgotten")]
    assert looked == [1]
    client.post(f"{at}/undo", headers=HX)
    assert [row.value.looked for row in desk.drawers.rows("forgotten")] == [0]
    client.post(at, data={"item": "forgot chips under c", "waived": "true", "note": "no C today"}, headers=HX)
    assert [row.value.looked for row in desk.drawers.rows("forgotten")] == [0]  # it was not looked at


def tried(desk: Desk) -> int:
    job = desk.jobs.new(planned(12, stations="A"), "RK")
    run = start_run(desk, job, "RK")
    for n, command in enumerate(
        (
            do.Adjust("T03 diameter wear", "0.1"),
            do.StartCycle(),
            do.EndCycle(confirm="1"),
            do.TakeReading(1, 1, "19.900", confirm="19.900"),
        )
    ):
        desk.runs.record(run, command, "RK", f"t{n}")
    return job


def test_a_trial_says_what_to_set_and_one_key_writes_it_down_once(client: TestClient, desk: Desk) -> None:
    job = tried(desk)
    at = f"/jobs/{job}/prove"
    page = flat(client.get(at).text)
    assert '/prove/trials?of=1">slot</a>: Add −0.100 mm to the T03 diameter wear.' in page
    page = flat(client.get(f"{at}/trials?of=1").text)
    assert "<h1>Add −0.100 mm to the T03 diameter wear.</h1>" in page
    assert '<p class="dial mk">−0.100 <small>mm</small></p>' in page
    assert "Piece 1 can be cut again: 100 µm (3.9 thou) are left on it." in page
    for _ in range(2):  # pressed twice
        client.post(f"{at}/set?of=1", data={"client_key": "k"}, headers=HX)
    with desk.runs.folded(desk.runs.require(job)) as state:
        assert [round(one.amount_mm, 6) for one in state.here.dialled] == [0.1, -0.1]
    page = flat(client.get(f"{at}/trials?of=1").text)
    assert "<h1>Cut the next piece; the T03 diameter wear was moved.</h1>" in page
    assert 'data-key="k"' not in page
    stale = client.post(f"{at}/set?of=1", data={"client_key": "other"}, headers=HX)
    assert stale.status_code == 404
    assert "The trials changed meanwhile." in stale.text


def test_where_nothing_was_tried_there_is_no_page_of_it(client: TestClient, desk: Desk) -> None:
    job = desk.jobs.new(planned(4, stations="A"), "RK")
    start_run(desk, job, "RK")
    assert client.get(f"/jobs/{job}/prove/trials").status_code == 404
    assert client.get(f"/jobs/{tried(desk)}/prove/trials?of=9").status_code == 404


def test_a_first_piece_near_a_limit_is_named(client: TestClient, desk: Desk) -> None:
    job = desk.jobs.new(planned(12, stations="A"), "RK")
    run = start_run(desk, job, "RK")
    for n, command in enumerate(
        (do.StartCycle(), do.EndCycle(confirm="1"), do.TakeReading(1, 1, "20.016", confirm="20.016"))
    ):
        desk.runs.record(run, command, "RK", f"t{n}")
    page = flat(client.get(f"/jobs/{job}/prove").text)
    assert "slot: inside, but outside the middle half." in page
    desk.runs.record(run, do.TakeReading(1, 1, "20.015", confirm="20.015"), "RK", "again")
    assert "outside the middle half" not in client.get(f"/jobs/{job}/prove").text
