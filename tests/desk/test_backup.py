"""The whole shop as one file, while it is being written to; and back."""

import sqlite3
from pathlib import Path
from threading import Event, Thread

import pytest

from ditto_run.cli import main
from ditto_run.core.errors import FileNotRead
from ditto_run.core.run import events as do
from ditto_run.desk import Desk
from tests.conftest import planned
from tests.store.test_migrations import old_database


def test_backup_and_restore_while_running(desk: Desk) -> None:
    job = desk.jobs.new(planned(), "RK")
    run = desk.runs.start(job, "RK")
    stop = Event()

    def write() -> None:
        n = 0
        while not stop.is_set():
            n += 1
            desk.runs.record(run, do.AddNote(str(n)), "RK", f"n{n}")

    writer = Thread(target=write)
    writer.start()
    content = desk.backups.content()
    stop.set()
    writer.join()
    kept = sqlite3.connect(":memory:")
    kept.deserialize(content)
    lines = kept.execute("SELECT count(*), max(seq) FROM run_event").fetchone()
    assert lines[0] == lines[1]

    desk.jobs.new(planned(), "RK")
    desk.backups.restore(content)
    assert len(desk.jobs.find()) == 1
    assert len(desk.runs.events(run)) == lines[0]
    desk.runs.record(run, do.AddNote("after"), "RK", "after")


def test_an_older_backup_is_brought_up_to_date(desk: Desk, tmp_path: Path) -> None:
    old_database(tmp_path / "old.db")
    desk.backups.restore((tmp_path / "old.db").read_bytes())
    assert [job.plan.heading.part for job in desk.jobs.find()] == ["Clamp block"]


@pytest.mark.parametrize("how", ["no database", "cut off", "another database", "newer", "empty"])
def test_what_is_no_backup_changes_nothing(desk: Desk, tmp_path: Path, how: str) -> None:
    desk.jobs.new(planned(), "RK")
    content = desk.backups.content()
    if how == "no database":
        content = b"hello" * 1000
    elif how == "cut off":
        content = content[: len(content) // 2]
    elif how == "empty":
        content = b""
    else:
        path = tmp_path / "x.db"
        path.write_bytes(content if how == "newer" else b"")
        connection = sqlite3.connect(path)
        connection.execute(
            "UPDATE alembic_version SET version_num = '9'" if how == "newer" else "CREATE TABLE t (x)"
        )
        connection.commit()
        connection.close()
        content = path.read_bytes()
    with pytest.raises(FileNotRead):
        desk.backups.restore(content)
    assert len(desk.jobs.find()) == 1


def test_the_command_line_backs_up_and_restores(desk: Desk, tmp_path: Path, capsys) -> None:
    desk.jobs.new(planned(), "RK")
    file = tmp_path / "shop.backup"
    assert main(["--data", str(tmp_path), "backup", str(file)]) == 0
    assert main(["--data", str(tmp_path / "new"), "restore", str(file)]) == 0
    assert "Restored" in capsys.readouterr().out
    file.write_bytes(b"nothing")
    assert main(["--data", str(tmp_path / "new"), "restore", str(file)]) == 2
    assert "no backup" in capsys.readouterr().err
