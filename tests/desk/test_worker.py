"""Long work: done elsewhere, refused in its own words, and a machine without room for another process says so."""

from multiprocessing.context import SpawnProcess
from pathlib import Path
from threading import Event
from time import sleep
from typing import NoReturn

import pytest
from fastapi.testclient import TestClient

from ditto_run.app import create_app
from ditto_run.core.edits import KeepSheet
from ditto_run.core.errors import BadEntry, BeingWorkedOut, NotNow
from ditto_run.core.sizes import read_size
from ditto_run.desk import open_desk
from ditto_run.desk.gate import start_run, what_is_open
from ditto_run.desk.worked import SOON_S
from ditto_run.desk.worker import STOPPED, Task, Worker
from ditto_run.settings import Settings
from tests.conftest import planned


@pytest.fixture
def worker():
    found = Worker()
    yield found
    found.close()


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

    def _ask(self, _task: Task) -> NoReturn:
        sleep(SOON_S + 0.1)
        raise NotNow("This was not done within 20 s, so it was stopped.", "Make it smaller.")


@pytest.fixture
def hurried(monkeypatch: pytest.MonkeyPatch) -> None:
    """Who keeps a sheet waits no longer than a page does."""
    monkeypatch.setattr("ditto_run.desk.worked.KEPT_S", SOON_S)


@pytest.mark.usefixtures("hurried")
def test_a_sheet_too_much_for_the_machine_stops_no_page_of_its_job(tmp_path: Path) -> None:
    desk = open_desk(Settings(tmp_path), Stuck())
    job = desk.jobs.new(planned(), "RK")
    lengths = KeepSheet("mixed", {"rows": "500 x 4", "stock": "3000", "kerf": "3"})
    desk.jobs.change(job, 1, "RK", lengths)
    client = TestClient(create_app(desk.settings, desk), base_url="http://127.0.0.1")
    sleep(SOON_S + 0.2)
    for path in (
        "/",
        *(f"/jobs/{job}/{step}" for step in ("part", "stock", "stock/mixed", "place", "run", "open")),
    ):
        assert client.get(path).status_code == 200, path
    wanted = [t for t in what_is_open(desk, desk.jobs.load(job)).wanted if t.finding.step == "stock"]
    assert [thing.finding.code for thing in wanted] == ["sheet-not-worked-out"]
    assert "not done within 20 s" in wanted[0].finding.problem
    desk.close()


def slow(seconds: float, answer: int) -> int:
    """Give an answer after a while."""
    sleep(seconds)
    return answer


def test_what_was_solved_is_kept_by_what_was_asked(worker: Worker, monkeypatch) -> None:
    assert worker.solve(slow, 0.0, 3) == 3
    monkeypatch.setattr(worker, "_ask", None)  # nothing is asked again
    assert worker.solve(slow, 0.0, 3) == 3


def test_a_refusal_is_kept_until_it_is_asked_again(worker: Worker) -> None:
    with pytest.raises(BadEntry):
        worker.solve(read_size, "banana", "mm")
    with pytest.raises(BeingWorkedOut):
        worker.solve(slow, 9.0, 4, wait_s=0.1)
    worker.stop(slow, 9.0, 4)
    with pytest.raises(NotNow, match=STOPPED[0]):
        worker.solve(slow, 9.0, 4)
    with pytest.raises(NotNow, match=STOPPED[0]):
        worker.solve(slow, 9.0, 4, wait_s=0)
    worker.again(slow, 9.0, 4)
    with pytest.raises(BeingWorkedOut):
        worker.solve(slow, 9.0, 4, wait_s=0)


def test_what_waits_says_how_many_are_before_it_and_can_be_stopped(worker: Worker) -> None:
    said = []
    for number in range(3):
        with pytest.raises(BeingWorkedOut) as found:
            worker.solve(slow, 9.0, number, wait_s=0.3)
        said.append(found.value.before)
    assert said == [0, 1, 2]
    worker.stop(slow, 9.0, 1)  # out of the middle of the queue
    with pytest.raises(BeingWorkedOut) as found:
        worker.solve(slow, 9.0, 2, wait_s=0)
    assert found.value.before == 1
    worker.stop(slow, 9.0, 0)
    worker.stop(slow, 9.0, 2)
    assert worker.run(pow, 2, 5) == 32


def test_a_hand_that_typed_on_gives_up_only_what_nobody_else_asked(worker: Worker) -> None:
    for typed in (True, False):
        with pytest.raises(BeingWorkedOut):
            worker.solve(slow, 5.0, 1, wait_s=0, typed=typed)
    worker.leave(slow, 5.0, 1)
    with pytest.raises(BeingWorkedOut):  # the plan asked it too
        worker.solve(slow, 5.0, 2, wait_s=0, typed=True)
    worker.leave(slow, 5.0, 2)
    worker.stop(slow, 5.0, 1)
    assert worker.solve(slow, 0.0, 7) == 7


def test_closing_refuses_what_is_under_way() -> None:
    worker = Worker()
    with pytest.raises(BeingWorkedOut):
        worker.solve(slow, 9.0, 1, wait_s=0.3)
    worker.close()
    with pytest.raises(NotNow):
        worker.solve(slow, 9.0, 1)


LENGTHS = {"rows": "500 x 4\n300 x 2", "stock": "3000", "kerf": "3"}


class Slow(Worker):
    """A machine that takes its time until it is let go on."""

    def __init__(self) -> None:
        super().__init__()
        self.go_on = Event()

    def _ask(self, task: Task) -> object:
        while not self.go_on.wait(0.05):
            if task.stopped:
                raise NotNow(*STOPPED)
        return task.work(*task.values)


@pytest.fixture
def slow_shop(tmp_path: Path, hurried: None):
    desk = open_desk(Settings(tmp_path), Slow())
    job = desk.jobs.new(planned(), "RK")
    desk.jobs.change(job, 1, "RK", KeepSheet("mixed", LENGTHS))
    client = TestClient(create_app(desk.settings, desk), base_url="http://127.0.0.1", cookies={"who": "RK"})
    yield desk, job, client
    desk.worker.go_on.set()
    desk.close()


def test_a_plan_with_something_under_way_is_drawn_and_does_not_start(slow_shop) -> None:
    desk, job, client = slow_shop
    key = desk.jobs.load(job).plan.sheets[0].key
    for path in ("stock/mixed", f"stock/mixed?sheet={key}"):
        assert "Being worked out" in client.get(f"/jobs/{job}/{path}").text
    stops = [thing.finding.code for thing in what_is_open(desk, desk.jobs.load(job)).stops]
    assert stops == ["being-worked-out"]
    with pytest.raises(NotNow, match="Being worked out"):
        start_run(desk, job, "RK", "it will do")
    desk.worker.go_on.set()
    assert desk.worked.answer("mixed", LENGTHS, desk.worked_out(desk.jobs.load(job)).known).say
    assert start_run(desk, job, "RK", "it will do")


def test_who_types_sees_how_far_it_is_and_can_stop_it(slow_shop) -> None:
    desk, job, client = slow_shop
    typed = LENGTHS | {"rows": "700 x 3"}
    page = client.post(f"/jobs/{job}/sheets/mixed/answer", data=typed)
    assert "Being worked out" in page.text
    assert "1 before it" in page.text  # the one that is kept
    assert 'hx-trigger="load' in page.text
    assert STOPPED[0] in client.post(f"/jobs/{job}/sheets/mixed/stop", data=typed).text
    still = client.post(f"/jobs/{job}/sheets/mixed/answer", data=typed | {"going": "yes"})
    assert STOPPED[0] in still.text
    assert "Try it again" in still.text
    assert 'hx-trigger="load' not in still.text
    desk.worker.go_on.set()
    assert "new bar" in client.post(f"/jobs/{job}/sheets/mixed/answer", data=typed).text


def test_lengths_that_cannot_be_cut_are_refused_at_their_field_though_the_process_only_starts(
    tmp_path: Path,
) -> None:
    desk = open_desk(Settings(tmp_path))
    job = desk.jobs.new(planned(), "RK")
    with pytest.raises(BadEntry, match="longer than every bar") as refused:
        desk.jobs.change(job, 1, "RK", KeepSheet("mixed", LENGTHS | {"rows": "5000 x 1"}))
    assert refused.value.field == "stock"
    assert desk.jobs.load(job).version == 1
    desk.close()
