"""Long work: done elsewhere, refused in its own words, and a machine without room for another process says so."""

from multiprocessing.context import SpawnProcess

import pytest

from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.sizes import read_size
from ditto_run.desk.worker import Worker


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
