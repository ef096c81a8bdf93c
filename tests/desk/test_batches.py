"""Batches of a job: each with a log of its own, begun once, numbered on, and never mixed up."""

from threading import Thread

import pytest
from starlette.testclient import TestClient

from ditto_run.app import create_app
from ditto_run.core.edits import SetHeading
from ditto_run.core.errors import BadEntry, NotFound, NotNow
from ditto_run.core.run import events as do
from ditto_run.desk import Desk, open_desk
from ditto_run.desk.gate import start_run
from ditto_run.formats.job_bundle import read_bundle, write_bundle
from ditto_run.settings import Settings
from tests.conftest import planned
from tests.web.conftest import flat


def run_through(desk: Desk, run: int, first: int) -> None:
    """Cut one load of two, gauge and accept it, and close the batch."""
    commands: list[object] = [do.StartCycle(), do.EndCycle()]
    for piece in (first, first + 1):
        commands += [do.TakeReading(piece, 1, "20.001"), do.TakeReading(piece, 2, "31.5")]
    commands += [do.AcceptMaster(first), do.CloseRun()]
    for n, command in enumerate(commands):
        desk.runs.record(run, command, "RK", f"{first}-{n}")


@pytest.fixture
def job(desk: Desk) -> int:
    """A job whose first batch, of two pieces, is closed."""
    job = desk.jobs.new(planned(2, stations="AB"), "RK")
    run_through(desk, start_run(desk, job, "RK"), 1)
    return job


def test_the_next_batch_numbers_on_and_knows_nothing_of_the_one_before(desk: Desk, job: int) -> None:
    run = start_run(desk, job, "RK", batch=2)
    assert desk.runs.batches(job) == {1: desk.runs.of_batch(job, 1), 2: run}
    assert desk.runs.of_job(job) == run
    with desk.runs.folded(run) as state:
        assert (state.batch, state.numbered_after, state.revision) == (
            2,
            2,
            1,
        )  # the same plan, the same revision
        assert not state.pieces
        assert state.here.masters == {}
    with pytest.raises(BadEntry, match="There is no piece 1 yet"):
        desk.runs.record(run, do.TakeReading(1, 1, "20"), "RK", "too early")
    desk.runs.record(run, do.StartCycle(), "RK", "a")
    with desk.runs.folded(run) as state:
        assert [*state.pieces] == [3, 4]
    with pytest.raises(BadEntry) as said:
        desk.runs.record(run, do.TakeReading(1, 1, "20"), "RK", "b")
    assert said.value.remedy == "Pieces 3 to 4 are made or being cut."


def test_a_changed_plan_is_the_next_revision_of_the_job(desk: Desk, job: int) -> None:
    desk.jobs.change(job, desk.jobs.load(job).version, "RK", SetHeading("Clamp block", 5))
    run = start_run(desk, job, "RK", batch=2)
    with desk.runs.folded(run) as state:
        assert (state.revision, state.plan.heading.quantity) == (2, 5)
    with desk.runs.folded(desk.runs.of_batch(job, 1)) as state:
        assert (state.revision, state.plan.heading.quantity) == (1, 2)
    assert [r.reason for r in desk.runs.revisions(job)] == ["start", "start of batch 2"]


def test_it_begins_once_and_only_after_the_one_before_is_closed(desk: Desk, job: int) -> None:
    run = start_run(desk, job, "RK", batch=2)
    assert start_run(desk, job, "RK", batch=2) == run  # a second press
    assert start_run(desk, job, "RK", batch=1) != run  # an old page: its own batch
    with pytest.raises(NotNow, match="Batch 2 is still open"):
        start_run(desk, job, "RK", batch=3)
    with pytest.raises(NotNow, match="Batch 5 cannot begin: this job has 2"):
        start_run(desk, job, "RK", batch=5)
    with pytest.raises(NotFound, match="batch 9"):
        desk.runs.of_batch(job, 9)


def test_the_batch_before_stays_as_it_is(desk: Desk, job: int) -> None:
    first = desk.runs.of_batch(job, 1)
    start_run(desk, job, "RK", batch=2)
    for command in (do.Undo(), do.StartCycle()):
        with pytest.raises(NotNow):
            desk.runs.record(first, command, "RK", f"late-{command.kind}")
    desk.runs.record(first, do.AddNote("the slot ran tight"), "RK", "note")
    with desk.runs.folded(first) as state:
        assert state.closed_at is not None
        assert state.notes[-1][2] == "the slot ran tight"


def test_two_people_begin_the_same_batch_at_once(desk: Desk, job: int) -> None:
    found: list[int] = []
    threads = [Thread(target=lambda: found.append(start_run(desk, job, "RK", batch=2))) for _ in range(6)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert len(found) == 6
    assert len(set(found)) == 1
    assert desk.runs.batches(job).keys() == {1, 2}


def test_a_bundle_and_a_restart_keep_both(desk: Desk, job: int, tmp_path) -> None:
    run_through(desk, start_run(desk, job, "RK", batch=2), 3)
    content = write_bundle(desk.bundles.take_out(job))
    other = open_desk(Settings(tmp_path / "other"))
    again = other.bundles.bring_in(read_bundle(content))
    assert other.runs.batches(again).keys() == {1, 2}
    for batch, numbers in ((1, [1, 2]), (2, [3, 4])):
        with other.runs.folded(other.runs.of_batch(again, batch)) as state:
            assert [*state.pieces] == numbers
            assert state.closed_at is not None
    desk.runs.forget()
    with desk.runs.folded(desk.runs.of_batch(job, 2)) as state:
        assert [*state.pieces] == [3, 4]


def test_the_pages_lead_through_it(desk: Desk, job: int) -> None:
    with TestClient(create_app(desk.settings, desk), "http://127.0.0.1", cookies={"who": "RK"}) as client:
        page = flat(client.get(f"/jobs/{job}/close").text)
        assert "Begin batch 2" in page
        start = flat(client.get(f"/jobs/{job}/run/again").text)
        assert "Ready to run batch 2?" in start
        assert 'name="batch" value="2"' in start
        client.post(f"/jobs/{job}/run/start", data={"batch": "2", "client_key": "x"})
        assert "Begin batch" not in client.get(f"/jobs/{job}/close").text
        assert "Batch 2 of 2." in flat(client.get(f"/jobs/{job}/close").text)
        before = flat(client.get(f"/jobs/{job}/close?batch=1").text)
        assert "Batch 1 of 2. Closed" in before
        assert "Begin batch" not in before  # only from the newest
        assert f"/jobs/{job}/close/readings.csv?batch=1" in before
        assert "20.001" in client.get(f"/jobs/{job}/close/readings.csv?batch=1").text
        assert "20.001" not in client.get(f"/jobs/{job}/close/readings.csv").text
        assert client.get(f"/jobs/{job}/close?batch=7").status_code == 404
        asked = client.get(f"/jobs/{job}/run/again", follow_redirects=False)  # it is open already
        assert asked.headers["location"] == f"/jobs/{job}/run"
        got = client.get(f"/api/v1/jobs/{job}").json()
        assert got["batches"] == {str(n): run for n, run in desk.runs.batches(job).items()}
        assert client.get(f"/api/v1/runs/{got['run_id']}").json()["batch"] == 2
        refused = client.post(f"/api/v1/jobs/{job}/run", json={"batch": 3})
        assert refused.status_code == 409
        assert "still open" in refused.text
