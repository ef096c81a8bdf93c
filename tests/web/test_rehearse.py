"""A batch rehearsed and practised in the browser: nothing of it is recorded, wrong entries keep what was typed."""

from starlette.testclient import TestClient

from ditto_run.desk import Desk
from tests.conftest import planned
from tests.web.conftest import flat


def job_of(desk: Desk) -> int:
    return desk.jobs.new(planned(18), "RK")


def test_the_planned_batch_is_played_back_load_by_load_and_nothing_is_recorded(
    client: TestClient, desk: Desk
) -> None:
    job = job_of(desk)
    at = f"/jobs/{job}/prove/rehearse"
    page = flat(client.get(at, params={"fault": "bump"}).text)
    assert "18 pieces rehearsed" in page or "pieces rehearsed" in page
    assert "a stop is bumped at " in page
    assert "<h2>Load 6 of 6" in page or "of 7," in page
    first = flat(client.get(at, params={"fault": "bump", "load": 1}).text)
    assert "<h2>Load 1 of " in first
    assert 'data-key="ArrowRight"' in first
    assert 'data-key="ArrowLeft"' not in first
    playing = client.get(at, params={"fault": "bump", "load": 1, "play": 3}).text
    assert 'hx-trigger="load delay:300ms"' in playing
    assert "load=2&play=3" in playing.replace("&amp;", "&")
    end = client.get(at, params={"fault": "bump", "load": 99, "play": 3}).text
    assert "hx-trigger" not in end.partition('id="played"')[2].partition(">")[0]
    assert desk.runs.of_job(job) is None


def test_what_cannot_be_played_is_a_sentence(client: TestClient, desk: Desk) -> None:
    assert client.get(f"/jobs/{job_of(desk)}/prove/rehearse", params={"fault": "fire"}).status_code == 422
    assert client.get(f"/jobs/{job_of(desk)}/prove/rehearse", params={"seed": 0}).status_code == 422
    from ditto_run.core.part import Heading
    from ditto_run.core.plan import Plan

    bare = desk.jobs.new(Plan(Heading("Pin", 6, "mm")), "RK")
    page = flat(client.get(f"/jobs/{bare}/prove/rehearse").text)
    assert "There is no setup to run." in page
    assert "Add one on Hold." in page
    assert "There is no setup to run." in flat(client.get(f"/jobs/{bare}/prove/practise").text)


def test_a_practice_keeps_what_was_decided_and_a_wrong_turn_is_said_at_its_field(
    client: TestClient, desk: Desk
) -> None:
    at = f"/jobs/{job_of(desk)}/prove/practise"
    page = flat(client.get(at).text)
    assert "Load 1 is cut and gauged. What now?" in page
    page = flat(client.get(at, params={"did": "g", "do": "go"}).text)
    assert 'name="did" value="gg"' in page
    wrong = flat(client.get(at, params={"did": "gg", "do": "turn", "steps": "a bit"}).text)
    assert "“a bit” is not a number of steps." in wrong
    assert 'name="did" value="gg"' in wrong
    assert 'value="a bit"' in wrong
    turned = flat(client.get(at, params={"did": "gg", "do": "turn", "steps": "−2", "knob": 0}).text)
    assert 'name="did" value="ggt0-2"' in turned
    assert "The decisions cannot be read." in flat(client.get(at, params={"did": "zzz"}).text)


def test_at_the_end_of_a_practice_the_same_pieces_are_shown_decided_in_three_ways(
    client: TestClient, desk: Desk
) -> None:
    at = f"/jobs/{job_of(desk)}/prove/practise"
    page = flat(client.get(at, params={"did": "g" * 30, "seed": 2}).text)
    assert "<h1>Done: " in page
    for name in ("you", "the advice", "as many do"):
        assert f'class="n">{name}</th>' in page
    assert "Another batch" in page


def test_the_batch_is_played_on_the_floor_with_as_many_hands_as_are_said(
    client: TestClient, desk: Desk
) -> None:
    job = job_of(desk)
    at = f"/jobs/{job}/prove/floor"
    page = flat(client.get(at).text)
    assert "<h1>All cut about " in page
    assert "with 1 pair of hands, if it began now." in page
    assert '<th scope="row">Mill 2</th>' in page
    assert "Nobody said how long T03 lasts: Shop, Tools." in page
    desk.drawers.save("tools", 0, {"name": "T03 finish slot", "life": "7 pieces"})
    worn = flat(client.get(at, params={"hands": "2"}).text)
    assert "with 2 pairs of hands" in worn
    assert "T03 before load 3 of first side, Mill 2." in worn
    assert desk.runs.of_job(job) is None


def test_a_wrong_number_of_hands_is_said_at_its_field_and_one_pair_is_played(
    client: TestClient, desk: Desk
) -> None:
    at = f"/jobs/{job_of(desk)}/prove/floor"
    for typed, words in (
        ("a few", "is not a whole number"),
        ("0", "0 pairs of hands cannot be."),
        ("99", "Type 1 to 20."),
    ):
        page = flat(client.get(at, params={"hands": typed}).text)
        assert words in page
        assert f'value="{typed}"' in page
        assert "with 1 pair of hands" in page


def test_what_has_no_station_yet_cannot_be_played_on_the_floor(client: TestClient, desk: Desk) -> None:
    from ditto_run.core.part import Heading
    from ditto_run.core.plan import Plan

    bare = desk.jobs.new(Plan(Heading("Pin", 6, "mm")), "RK")
    page = flat(client.get(f"/jobs/{bare}/prove/floor").text)
    assert "<h1>No station is there yet.</h1>" in page
    assert "Say on Place where the pieces sit." in page
