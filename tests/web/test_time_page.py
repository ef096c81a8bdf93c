"""The page of a cycle's time, and the day of the shop it counts with."""

from datetime import timedelta

import pytest
from starlette.testclient import TestClient

from ditto_run.core.run import events as do
from ditto_run.core.run.due import due_pieces
from ditto_run.desk import Desk
from ditto_run.desk.gate import start_run
from tests.conftest import Clock, planned
from tests.web.conftest import flat

HX = {"HX-Request": "true"}


def cut(desk: Desk, clock: Clock, loads: int) -> tuple[int, int]:
    """Return a job and its run with so many loads cut."""
    job = desk.jobs.new(planned(24), "RK")
    run = start_run(desk, job, "RK")
    for n in range(loads):
        desk.runs.record(run, do.StartCycle(), "RK", f"s{n}")
        clock.at += timedelta(minutes=5)
        desk.runs.record(run, do.EndCycle(), "RK", f"e{n}")
        if not n:
            desk.runs.record(run, do.TakeReading(1, 1, "20.004"), "RK", "r1")
            desk.runs.record(run, do.TakeReading(1, 2, "31.502"), "RK", "r2")
            desk.runs.record(run, do.AcceptMaster(1), "RK", "m")
    return job, run


def test_the_day_is_kept_and_a_wrong_one_is_said_at_its_field(client: TestClient, desk: Desk) -> None:
    refused = client.post("/shop/day", data={"hours": "16:00 to 7:00", "breaks": "9:00 15"}, headers=HX)
    assert refused.status_code == 422
    assert "The day ends before it begins." in refused.text
    assert desk.shop.load().day.hours_text == ""
    client.post(
        "/shop/day", data={"hours": "7:00 to 16:00", "breaks": "9:00 15, 12:00 45", "days": "6"}, headers=HX
    )
    day = desk.shop.load().day
    assert (day.hours_text, day.breaks_text, day.days) == ("7:00 to 16:00", "9:00 15, 12:00 45", "6")
    page = client.get("/shop").text
    assert 'value="9:00 15, 12:00 45"' in page
    client.post("/shop/day", data={"hours": "", "breaks": "", "days": "5"}, headers=HX)
    assert desk.shop.load().day.hours_text == ""


def test_the_page_says_when_it_is_done_and_where_the_time_went(
    client: TestClient, desk: Desk, clock: Clock
) -> None:
    job, _ = cut(desk, clock, 4)
    page = flat(client.get(f"/jobs/{job}/run/time").text)
    assert "<h1>Done about " in page
    assert "4 loads to go in first side; by 3 loads of the clock." in page
    assert '<th scope="row">cutting</th><td class="mk">21 min</td>' in page
    assert 'data-key="f">' in client.get(f"/jobs/{job}/run").text


def test_what_fits_is_answered_and_a_wrong_time_keeps_what_was_typed(
    client: TestClient, desk: Desk, clock: Clock
) -> None:
    job, _ = cut(desk, clock, 4)
    at = f"/jobs/{job}/run/time"
    wrong = flat(client.get(at, params={"until": "noonish"}).text)
    assert 'value="noonish"' in wrong
    assert "“noonish” is not a time of day. Type it as 12:30." in wrong
    soon = (clock.at + timedelta(minutes=13)).astimezone()
    page = flat(client.get(at, params={"until": f"{soon:%H:%M}"}).text)
    assert f"likely fit before {soon:%H:%M}" in page or f"No load fits before {soon:%H:%M}" in page
    far = (clock.at + timedelta(hours=9)).astimezone()
    assert "All 4 loads fit before" in flat(client.get(at, params={"until": f"{far:%H:%M}"}).text)
    past = (clock.at - timedelta(hours=1)).astimezone()
    assert "All 4 loads fit before " in flat(
        client.get(at, params={"until": f"{past:%H:%M}"}).text
    )  # of tomorrow


def test_who_comes_back_is_led_to_where_the_stations_stand(
    client: TestClient, desk: Desk, clock: Clock
) -> None:
    job, _ = cut(desk, clock, 2)
    assert 'id="away"' not in client.get(f"/jobs/{job}/run").text
    clock.at += timedelta(minutes=27)
    assert 'id="away"' not in client.get(f"/jobs/{job}/run").text
    clock.at += timedelta(minutes=4)
    assert 'id="away"' in client.get(f"/jobs/{job}/run").text
    page = flat(client.get(f"/jobs/{job}/run/time").text)
    assert '<th scope="row">A</th><td>4 came off last; 7 goes in</td>' in page


def test_what_a_thing_costs_is_said_with_its_origin_and_given_back(
    client: TestClient, desk: Desk, clock: Clock
) -> None:
    job, run = cut(desk, clock, 2)
    page = flat(client.get(f"/jobs/{job}/run/time").text)
    assert "· the minutes in it by the plan; no way says what its material costs" in page
    at = f"/jobs/{job}/run/do"
    client.post(
        at,
        data={"kind": "say_cost", "name": "scrap", "text": "45", "whole": "yes", "client_key": "c"},
        headers=HX,
    )
    with desk.runs.folded(run) as state:
        assert state.here.costs == {"scrap": 45.0}
    assert "yours, not " in flat(client.get(f"/jobs/{job}/run/time").text)
    refused = client.post(
        at, data={"kind": "say_cost", "name": "scrap", "text": "lots", "client_key": "d"}, headers=HX
    )
    assert refused.status_code == 422
    client.post(
        at,
        data={"kind": "say_cost", "name": "scrap", "text": "", "whole": "yes", "client_key": "e"},
        headers=HX,
    )
    with desk.runs.folded(run) as state:
        assert state.here.costs == {}


def test_loading_is_gone_through_by_one_key_to_its_end(client: TestClient, desk: Desk, clock: Clock) -> None:
    job, run = cut(desk, clock, 2)
    for n in (1, 2):
        desk.runs.record(run, do.GaugeEvery(n, 50), "RK", f"every{n}")
    with desk.runs.folded(run) as state:
        for piece in due_pieces(state):
            for n, size in ((1, "20.001"), (2, "31.5")):
                desk.runs.record(run, do.TakeReading(piece, n, size), "RK", f"{piece}-{n}")
    page = client.get(f"/jobs/{job}/run").text
    assert 'data-key="d"' in page
    at = f"/jobs/{job}/run/ritual"
    first = flat(client.get(at).text)
    assert "A: 4 out, edges broken" in first
    assert f'hx-get="{at}?step=1"' in first
    count = int(first.partition("1 of ")[2].partition("<")[0])
    last = flat(client.get(at, params={"step": count - 1}).text)
    assert f"{count} of {count}" in last
    assert "<b>Loaded.</b> Space starts it." in client.get(at, params={"step": count}).text
    assert client.get(at, params={"step": -1}).status_code == 422


def test_what_the_shop_says_a_thing_costs_is_kept_and_told_on_every_run(
    client: TestClient, desk: Desk, clock: Clock
) -> None:
    job, _ = cut(desk, clock, 2)
    refused = client.post("/shop/costs", data={"turn": "4", "stop": "a while"}, headers=HX)
    assert refused.status_code == 422
    assert "is not a time" in refused.text
    assert not desk.shop.load().costs.said
    client.post("/shop/costs", data={"turn": "4", "times": "8"}, headers=HX)
    assert desk.shop.load().costs.said == {"turn": 4.0, "times": 8.0}
    page = flat(client.get(f"/jobs/{job}/run/time").text)
    assert "4 · the shop&#39;s<" in page
    assert "the shop&#39;s 8 scrapped pieces" in page
    client.post("/shop/costs", data={}, headers=HX)
    assert not desk.shop.load().costs.said


def test_a_long_log_is_read_on_run_first_so_that_nobody_waits_for_a_look_at_the_time(
    client: TestClient, desk: Desk, clock: Clock, monkeypatch: pytest.MonkeyPatch
) -> None:
    job, _ = cut(desk, clock, 2)
    monkeypatch.setattr("ditto_run.desk.advice.SHORT", 1)
    assert "Run reads this long log first" in flat(client.get(f"/jobs/{job}/run/time").text)
    client.get(f"/jobs/{job}/run/advice")
    page = flat(client.get(f"/jobs/{job}/run/time").text)
    assert "Run reads this long log first" not in page
    assert ">When to gauge</caption>" in page
