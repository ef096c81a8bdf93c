"""A closed batch teaches the shop: only what was ticked, once, and the next plan starts from it."""

import pytest
from starlette.testclient import TestClient

from ditto_run.core.edits import AddWays
from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.run import events as do
from ditto_run.desk import Desk
from ditto_run.desk.gate import start_run
from ditto_run.desk.teaching import lessons_of, teach
from ditto_run.desk.ways import compare
from tests.conftest import planned
from tests.web.conftest import flat


@pytest.fixture
def job(desk: Desk) -> int:
    """A job with a closed batch of four loads of two."""
    job = desk.jobs.new(planned(8, stations="AB"), "RK")
    run = start_run(desk, job, "RK")
    n = 0
    for load in range(4):
        commands: list[object] = [do.StartCycle(), do.EndCycle()]
        for piece in (2 * load + 1, 2 * load + 2):
            commands += [do.TakeReading(piece, 1, "20.001"), do.TakeReading(piece, 2, "31.5")]
        if not load:
            commands.append(do.AcceptMaster(1))
        for command in commands:
            n += 1
            desk.runs.record(run, command, "RK", f"k{n}")
    return job


def close(desk: Desk, job: int) -> None:
    desk.runs.record(desk.runs.require(job), do.CloseRun(), "RK", "end")


def test_an_open_batch_teaches_nothing_yet(desk: Desk, job: int) -> None:
    with pytest.raises(NotNow):
        teach(desk, job, 0, {"scrap Mill 2"})
    assert desk.drawers.rows("taught") == []


def test_only_what_is_ticked_is_kept_and_a_batch_counts_once(desk: Desk, job: int) -> None:
    close(desk, job)
    machine = lessons_of(desk, job)[0].lesson.machine
    assert {one.lesson.figure for one in lessons_of(desk, job)} == {"pace", "handling", "scrap"}
    assert teach(desk, job, 0, {f"pace {machine}"}) == 1
    assert [row.value.figure for row in desk.drawers.rows("taught")] == ["pace"]
    assert [one.kept for one in lessons_of(desk, job)] == [True, False, False]
    assert teach(desk, job, 0, {f"pace {machine}"}) == 0
    assert teach(desk, job, 0, {f"scrap {machine}"}, "1 h 20") == 2
    rows = {row.value.figure: row.value for row in desk.drawers.rows("taught")}
    assert rows["setting up"].value == 4800
    assert rows["setting up"].batches == 1
    with pytest.raises(BadEntry) as caught:
        teach(desk, job, 0, set())
    assert caught.value.field == "ticked"
    with pytest.raises(BadEntry) as caught:
        teach(desk, job, 0, set(), "soon")
    assert caught.value.field == "setting_up"


def test_the_next_plan_starts_from_it(desk: Desk, job: int) -> None:
    close(desk, job)
    desk.jobs.change(job, 1, "RK", AddWays(("planned",)))
    before = compare(desk.worked_out(desk.jobs.load(job))).ways[0]
    for one in lessons_of(desk, job):
        teach(desk, job, 0, {f"{one.lesson.figure} {one.lesson.machine}"})
    after = compare(desk.worked_out(desk.jobs.load(job))).ways[0]
    pace = next(row.value for row in desk.drawers.rows("taught") if row.value.figure == "pace")
    assert after.cut.likely_s == pytest.approx(before.cut.likely_s * pace.value, abs=0.51)
    assert "1 batch" in after.rest_of("cut").of
    next_job = desk.jobs.new(planned(8, stations="AB"), "RK")
    desk.jobs.change(next_job, 1, "RK", AddWays(("planned",)))
    way = compare(desk.worked_out(desk.jobs.load(next_job))).ways[0]
    assert way.rest_of("cut").of.startswith("Tools, ")
    assert (
        way.rest_of("load").origin == "computed"
    )  # the batch chose no way, so how it was handled is not this way's


def test_the_page_offers_it_and_says_what_is_in_it_already(client: TestClient, desk: Desk, job: int) -> None:
    assert "What it teaches the shop" not in flat(client.get(f"/jobs/{job}/close").text)
    close(desk, job)
    page = flat(client.get(f"/jobs/{job}/close").text)
    assert "What it teaches the shop" in page
    machine = lessons_of(desk, job)[0].lesson.machine
    sent = {"ticked": [f"pace {machine}"], "setting_up": "soon"}
    wrong = client.post(f"/jobs/{job}/close/teach", data=sent, headers={"HX-Request": "true"})
    assert (wrong.status_code, 'data-field="setting_up"' in wrong.text) == (422, True)
    assert desk.drawers.rows("taught") == []
    client.post(f"/jobs/{job}/close/teach", data={"ticked": [f"pace {machine}"]})
    assert "this batch is in it" in flat(client.get(f"/jobs/{job}/close").text)
