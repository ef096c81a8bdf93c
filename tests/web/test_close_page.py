"""Close in the browser: counting, facts, lessons, opening again, the next batch, papers; wrong entries at their field."""

from datetime import timedelta

import pytest
from starlette.testclient import TestClient

from ditto_run.core.edits import SetHeading, apply_edit
from ditto_run.core.run import events as do
from ditto_run.desk import Desk
from ditto_run.desk.gate import start_run
from tests.conftest import SHOP, Clock, planned
from tests.web.conftest import flat

HX = {"HX-Request": "true"}


@pytest.fixture
def job(desk: Desk, clock: Clock) -> int:
    """Six gauged pieces at A, B and C, not closed yet."""
    number = desk.jobs.new(planned(6), "RK")
    run = start_run(desk, number, "RK")
    for n in range(2):
        desk.runs.record(run, do.StartCycle(), "RK", f"s{n}")
        desk.runs.record(run, do.EndCycle(confirm=str(n + 1)), "RK", f"e{n}")
        for piece in range(3 * n + 1, 3 * n + 4):
            desk.runs.record(run, do.TakeReading(piece, 1, "20.001", confirm="20.001"), "RK", f"a{piece}")
            desk.runs.record(run, do.TakeReading(piece, 2, "31.5"), "RK", f"b{piece}")
        if not n:
            desk.runs.record(run, do.AcceptMaster(1), "RK", "m")
    return number


def page_of(client: TestClient, job: int, more: str = "") -> str:
    return flat(client.get(f"/jobs/{job}/close{more}").text)


def say(client: TestClient, job: int, **fields: str):  # type: ignore[no-untyped-def]
    return client.post(f"/jobs/{job}/close/say", data=fields, headers=HX)


def test_the_count_by_hand_is_asked_about_until_it_is_right(client: TestClient, desk: Desk, job: int) -> None:
    assert "The log says 6." in page_of(client, job)
    refused = say(client, job, kind="count_tray", pieces="a few")
    assert refused.status_code == 422
    assert "is not a whole number" in refused.text
    say(client, job, kind="count_tray", pieces="5")
    page = page_of(client, job)
    assert "Counted by hand: 5, 1 fewer than the log says." in page
    assert "Find the difference to the count by hand." in page
    say(client, job, kind="count_tray", pieces="6")
    assert "Look here:" not in page_of(client, job)
    assert say(client, job, kind="close_run").status_code == 404  # only what Close says


def test_what_nobody_clocks_is_said_once_and_shown_where_it_is_asked_again(
    client: TestClient, desk: Desk, job: int
) -> None:
    assert say(client, job, kind="say_fact", name="setting_up", text="long").status_code == 422
    say(client, job, kind="say_fact", name="setting_up", text="1 h 20")
    say(client, job, kind="say_fact", name="price", text="14.50")
    client.post(f"/jobs/{job}/close")
    page = page_of(client, job)
    assert "Setting up took 1 h 20, as said above: it is taught too." in page
    assert 'name="setting_up" value="1 h 20"' in page  # and goes along, asked nowhere else
    assert 'value="14.50"' in page


def test_a_closed_batch_is_opened_again_only_with_a_reason_and_only_the_newest(
    client: TestClient, desk: Desk, job: int
) -> None:
    client.post(f"/jobs/{job}/close")
    assert "Nothing is left to do" in page_of(client, job)
    assert say(client, job, kind="reopen_run", reason=" ").status_code == 422
    say(client, job, kind="reopen_run", reason="two more wanted")
    run = desk.runs.require(job)
    with desk.runs.folded(run) as state:
        assert state.closed_at is None
    client.post(f"/jobs/{job}/close")
    start_run(desk, job, "RK", batch=2)
    with pytest.raises(Exception, match="next batch has begun"):
        desk.runs.record(run, do.ReopenRun("late"), "RK", "late")


def test_lessons_go_to_their_places_once(client: TestClient, desk: Desk, job: int) -> None:
    run = desk.runs.require(job)
    desk.runs.record(run, do.WriteStop("drill clogged"), "RK", "w")
    desk.runs.record(run, do.WriteStop("alarm 7"), "RK", "w2")
    page = page_of(client, job)
    assert "2 lessons to put in their places" in page
    with desk.runs.folded(run) as state:
        stops = [f"stop {one.seq}" for one in state.here.stopped]
    at = f"/jobs/{job}/close/lesson"
    for _ in range(2):  # sent twice
        client.post(
            at,
            data={"key": stops[0], "words": "flutes looked at", "place": "start list", "client_key": "k"},
            headers=HX,
        )
    client.post(
        at,
        data={"key": stops[1], "words": "alarm 7", "place": "machine", "of": "Mill 2", "client_key": "k2"},
        headers=HX,
    )
    forgotten = [row.value for row in desk.drawers.rows("forgotten")]
    assert [(one.words, one.times) for one in forgotten] == [("flutes looked at", 1)]
    assert [row.value.what for row in desk.drawers.rows("maintenance")] == ["alarm 7"]
    page = page_of(client, job)
    assert "to put in" not in page
    assert "flutes looked at: the start list" in page


def test_a_lesson_of_ones_own_goes_to_tool_holder_or_supplier_and_a_wrong_one_is_said(
    client: TestClient, desk: Desk, job: int
) -> None:
    desk.drawers.save("tools", 0, {"name": "T03 finish slot", "note": "new holder"})
    at = f"/jobs/{job}/close/lesson"

    def put(place: str, of: str, words: str = "begin 5 µm lower"):  # type: ignore[no-untyped-def]
        return client.post(at, data={"words": words, "place": place, "of": of, "key": ""}, headers=HX)

    put("tool", "T03")
    put("tool", "t03 finish slot")  # the same words are not put twice
    assert [row.value.note for row in desk.drawers.rows("tools")] == ["begin 5 µm lower; new holder"]
    put("supplier", "the plater", "ask for a day more")
    assert [(row.value.name, row.value.note) for row in desk.drawers.rows("to_ask")] == [
        ("the plater", "ask for a day more")
    ]
    refused = put("holder", "no such vise")
    assert refused.status_code == 422
    assert "is not on Shop." in refused.text
    assert put("start list", "", " ").status_code == 422
    assert put("cellar", "").status_code == 422


def test_the_next_batch_says_what_differs_and_takes_along_what_was_said_on_run(
    client: TestClient, desk: Desk, job: int
) -> None:
    run = desk.runs.require(job)
    desk.runs.record(run, do.GaugeEvery(1, 4), "RK", "often")
    client.post(f"/jobs/{job}/close")
    page = page_of(client, job)
    assert "Batch 2 starts from this one" in page
    assert "Nothing differs today." in page
    desk.drawers.save("gauge_checks", 0, {"gauge": "nobody's", "on": "2020-01-01", "due": "2021-01-01"})
    plan = desk.jobs.load(job)
    desk.jobs.edit(
        job, plan.version, "RK", lambda p: apply_edit(SetHeading("Clamp block", 40, material="5083"), p, SHOP)
    )
    page = page_of(client, job)
    assert "Material 5083, before not said." in page
    assert "40 pieces, before 6." in page
    again = flat(client.get(f"/jobs/{job}/run/again").text)
    assert "Material 5083, before not said." in again
    new = start_run(desk, job, "RK", batch=2)
    with desk.runs.folded(new) as state:
        assert state.every == {1: 4}


def test_papers_say_what_was_measured_and_what_was_not(client: TestClient, desk: Desk, job: int) -> None:
    run = desk.runs.require(job)
    desk.runs.record(run, do.TakeReading(4, 1, "20.050", confirm="20.050"), "RK", "out")
    desk.runs.record(run, do.Dispose(4, "as_is", "tried in the rail"), "RK", "as")
    desk.runs.record(run, do.HoldPieces("5", "dropped"), "RK", "h")
    paper = page_of(client, job, "/customer")
    assert "5 pieces for the customer, 1 deviation." in paper
    assert "Piece 4, slot 20.00 ±0.03 mm: 20 µm over the upper limit." in paper
    assert "Tried in the rail." in paper
    assert "Height: gauged on every piece." in paper
    desk.runs.record(run, do.SendOut("anodise", "the plater", "4", "2026-12-04"), "RK", "out2")
    with desk.runs.folded(run) as state:
        trip = state.trips[0].number
    label = page_of(client, job, f"/trip/{trip}").partition(">Label</h2>")[2]
    assert 'class="qr"' in label
    assert "back by 2026-12-04" in label
    tags = page_of(client, job, "/tags")
    assert "1 tag." in tags
    assert tags.count('class="qr"') == 1
    assert page_of(client, job, "/tags?of=all&first=4").count('class="qr"') == 3
    assert "Nothing to print." in page_of(client, job, "/tags?of=scrap")
    piece = page_of(client, job, "/piece/4")
    assert "Piece 4: accepted as it is, tried in the rail." in piece
    assert client.get(f"/jobs/{job}/close/piece/99").status_code == 404


def test_batches_stand_beside_each_other(client: TestClient, desk: Desk, job: int) -> None:
    assert "There is one batch so far." in page_of(client, job, "/batches")
    client.post(f"/jobs/{job}/close")
    start_run(desk, job, "RK", batch=2)
    page = page_of(client, job, "/batches")
    assert "Batch 2, open" in page
    assert "Nothing changed surely from batch to batch." in page
    assert '/close/batches">' in page_of(client, job)


def test_pins_are_fitted_to_bores_by_what_two_jobs_measured(client: TestClient, desk: Desk, job: int) -> None:
    at = f"/jobs/{job}/close/fit"
    page = flat(client.get(at).text)
    assert "Clamp block: slot 20.00 ±0.03 mm, 6" in page
    found = flat(
        client.get(at, params={"pin": f"{job}:1", "bore": f"{job}:2", "low": "11", "high": "12"}).text
    )
    assert "<h1>6 pairs.</h1>" in found
    assert "11.499 mm" in found
    none = flat(
        client.get(at, params={"pin": f"{job}:1", "bore": f"{job}:2", "low": "0", "high": "0.02"}).text
    )
    assert "No two of them fit." in none
    for low, high, words in (("x", "1", "is not a"), ("2", "1", "Swap them."), ("0", "", "")):
        wrong = flat(
            client.get(at, params={"pin": f"{job}:1", "bore": f"{job}:2", "low": low, "high": high}).text
        )
        assert words in wrong
        assert "is-wrong" in wrong
    assert "Choose two sizes" in flat(client.get(at, params={"pin": "9:9", "bore": "1:1"}).text)


def test_a_step_by_hand_is_written_with_its_clock_and_its_caution(
    client: TestClient, desk: Desk, clock: Clock, job: int
) -> None:
    page = page_of(client, job)
    assert "None is written." in page
    assert "whoever is licensed for it." in page
    refused = say(client, job, kind="work_by_hand", step="bond", pieces="1-6", waits="a while")
    assert refused.status_code == 422
    assert "is not a time" in refused.text
    assert say(client, job, kind="work_by_hand", step="stir", pieces="1").status_code == 422
    say(client, job, kind="work_by_hand", step="bond", pieces="1-6", waits="2 h", note="lot 7")
    page = page_of(client, job)
    assert "1-6 bonded" in page
    assert "Cured at" in page
    assert "6 pieces cure: leave alone until" in page
    clock.at += timedelta(hours=2)
    assert "Cured since" in page_of(client, job)


def test_a_gauging_sheet_has_a_blank_for_every_piece_to_come(
    client: TestClient, desk: Desk, clock: Clock
) -> None:
    number = desk.jobs.new(planned(8), "RK")
    start_run(desk, number, "RK")
    sheet = page_of(client, number, "/gauging")
    assert "8 pieces to write down by hand." in sheet
    assert sheet.count("<tr>") == 9
    assert "/close/gauging" in page_of(client, number)


def test_finished_stock_under_its_level_calls_for_the_next_batch(
    client: TestClient, desk: Desk, job: int
) -> None:
    row = {"part": "clamp block", "there": "12", "least": "20", "batch": "48"}
    number = desk.drawers.save("finished", 0, row)
    words = "clamp block: 12 on the shelf, 20 at least: the next batch of 48 is called for."
    assert words in page_of(client, job)
    assert words in flat(client.get("/").text)
    desk.drawers.save("finished", number, row | {"there": "20"})  # at the level is enough
    assert "20 on the shelf, 20 at least." in page_of(client, job)
    assert "is called for" not in flat(client.get("/").text)


def test_what_is_still_out_of_an_older_batch_is_counted_in_there(
    client: TestClient, desk: Desk, job: int
) -> None:
    first = desk.runs.require(job)
    desk.runs.record(first, do.SendOut("anodise", "the plater", "4"), "RK", "out")
    client.post(f"/jobs/{job}/close")
    start_run(desk, job, "RK", batch=2)
    page = page_of(client, job, "?batch=1")
    assert f'hx-post="/jobs/{job}/close/trip?batch=1"' in page
    with desk.runs.folded(first) as state:
        trip = state.trips[0].number
    assert "4 pieces to the plater" in page_of(client, job, f"/trip/{trip}?batch=1")
    sent = {"kind": "come_back", "trip": str(trip), "pieces": "4", "client_key": "b"}
    client.post(f"/jobs/{job}/close/trip?batch=1", data=sent, headers=HX)
    client.post(
        f"/jobs/{job}/close/say?batch=1", data={"kind": "say_fact", "name": "price", "text": "9"}, headers=HX
    )
    with desk.runs.folded(first) as state:
        assert state.trips[0].away == 0
        assert state.facts == {"price": 900}
    reopened = client.post(
        f"/jobs/{job}/close/say?batch=1", data={"kind": "reopen_run", "reason": "late"}, headers=HX
    )
    assert reopened.status_code == 409
