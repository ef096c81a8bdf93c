"""Long work: done elsewhere, refused in its own words, and a machine without room for another process says so."""

from multiprocessing.context import SpawnProcess
from pathlib import Path
from typing import NoReturn

import pytest
from fastapi.testclient import TestClient

from ditto_run.app import create_app
from ditto_run.core.edits import KeepSheet
from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.sizes import read_size
from ditto_run.desk import open_desk
from ditto_run.desk.gate import what_is_open
from ditto_run.desk.worker import Worker
from ditto_run.settings import Settings
from tests.conftest import planned


def test_work_is_done_and_its_refusal_is_its_own() -> None:
    worker = Worker()
    assert worker.run(pow, 2, 10) == 1024
    with pytest.raises(BadEntry):
        worker.run(read_size, "banana", "mm")
    worker.close()
    assert worker.run(pow, 2, 3) == 8
    worker.close()


def test_a_process_that_cannot_start_is_said_and_the_next_one_is_tried(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    worker = Worker()

    def no_room(_process: SpawnProcess) -> None:
        raise OSError(12, "Cannot allocate memory")

    with monkeypatch.context() as patched:
        patched.setattr(SpawnProcess, "start", no_room)
        for _ in range(2):
            with pytest.raises(NotNow, match="too much for this machine"):
                worker.run(pow, 2, 10)
    assert worker.run(pow, 2, 10) == 1024
    worker.close()


class Stuck(Worker):
    """A machine on which long work is never done."""

    def run(self, *_values: object, **_named: object) -> NoReturn:
        """Give up at once, as after the limit."""
        raise NotNow("This was not done within 20 s, so it was stopped.", "Make it smaller.")


def test_a_sheet_too_much_for_the_machine_stops_no_page_of_its_job(tmp_path: Path) -> None:
    desk = open_desk(Settings(tmp_path), Stuck())
    job = desk.jobs.new(planned(), "RK")
    lengths = KeepSheet("mixed", {"rows": "500 x 4", "stock": "3000", "kerf": "3"})
    desk.jobs.change(job, 1, "RK", lengths)
    client = TestClient(create_app(desk.settings, desk), base_url="http://127.0.0.1")
    for path in (
        "/",
        *(f"/jobs/{job}/{step}" for step in ("part", "stock", "stock/mixed", "place", "run", "open")),
    ):
        assert client.get(path).status_code == 200, path
    wanted = [t for t in what_is_open(desk, desk.jobs.load(job)).wanted if t.finding.step == "stock"]
    assert [thing.finding.code for thing in wanted] == ["sheet-not-worked-out"]
    assert "not done within 20 s" in wanted[0].finding.problem
    desk.close()
