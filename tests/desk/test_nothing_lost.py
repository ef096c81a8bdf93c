"""What is restored is checked whole first and keeps what it replaces; one process holds the folder."""

import shutil
import sqlite3
import subprocess
import sys
from pathlib import Path
from threading import Thread

import pytest

from ditto_run.cli import main
from ditto_run.core.errors import CannotKeep, FileNotRead
from ditto_run.core.run import events as do
from ditto_run.desk import Desk, backups, open_desk
from ditto_run.desk.folder import hold_folder
from ditto_run.settings import Settings
from ditto_run.store.backup import back_up
from ditto_run.store.database import FILE_NAME, Database
from tests.conftest import planned


def spoiled(content: bytes, folder: Path, *statements: str) -> bytes:
    path = folder / "spoiled.db"
    path.write_bytes(content)
    with sqlite3.connect(path) as connection:
        connection.execute("PRAGMA foreign_keys=OFF")
        for statement in statements:
            connection.execute(statement)
    connection.close()
    return path.read_bytes()


UNSEAL = "DELETE FROM setting WHERE name = 'seal'"


@pytest.mark.parametrize(
    "statements",
    [
        ("UPDATE run_event SET who = 'XX' WHERE seq = 2",),  # sealed, and changed since
        (UNSEAL, "DROP TABLE drawer_row"),  # hollow
        (UNSEAL, "DELETE FROM plan_version"),
        (UNSEAL, "DELETE FROM run_event WHERE seq = 1"),  # half
        (UNSEAL, "DELETE FROM run_event"),
        (UNSEAL, "UPDATE plan_version SET document = '{}'"),
        (UNSEAL, 'UPDATE run_event SET body = \'{"kind": "danced"}\' WHERE seq = 2'),
        (UNSEAL, "UPDATE job SET head = 9"),
        (UNSEAL, "UPDATE machine SET ability = 'x'"),
        ("DELETE FROM alembic_version",),
    ],
    ids=lambda statements: statements[-1][:40],
)
def test_a_backup_that_is_not_whole_changes_nothing(desk: Desk, tmp_path: Path, statements) -> None:
    job = desk.jobs.new(planned(), "RK")
    run = desk.runs.start(job, "RK")
    desk.runs.record(run, do.AddNote("one"), "RK", "a")
    bad = spoiled(desk.backups.content(), tmp_path, *statements)
    desk.jobs.new(planned(), "RK")
    with pytest.raises(FileNotRead) as refused:
        desk.backups.restore(bad)
    assert "Nothing was changed" in refused.value.remedy
    assert len(desk.jobs.find()) == 2
    assert not list(tmp_path.glob("*.incoming*"))
    assert not list(tmp_path.glob("replaced-*"))


def test_what_a_restore_replaces_is_kept_and_can_be_restored(desk: Desk) -> None:
    first = desk.backups.content()
    job = desk.jobs.new(planned(), "RK")
    replaced = desk.backups.restore(first)
    assert desk.jobs.find() == []
    desk.backups.restore(replaced.read_bytes())
    assert [found.id for found in desk.jobs.find()] == [job]


@pytest.mark.parametrize("writes", [False, True])
def test_what_is_written_while_a_backup_is_checked_is_in_what_is_kept(
    desk: Desk, monkeypatch, writes: bool
) -> None:
    first = desk.backups.content()
    copied = []

    def copy(database: Path, target: Path) -> None:
        back_up(database, target)
        copied.append(target)
        if writes and len(copied) == 1:
            desk.jobs.new(planned(), "RK")

    monkeypatch.setattr(backups, "back_up", copy)
    replaced = desk.backups.restore(first)
    assert len(copied) == 1 + writes  # once beside the work of others; again only if they changed something
    monkeypatch.undo()
    desk.backups.restore(replaced.read_bytes())
    assert len(desk.jobs.find()) == writes


def test_a_number_given_before_a_restore_is_not_given_again(desk: Desk) -> None:
    first = desk.backups.content()
    numbers = [desk.jobs.new(planned(), "RK") for _ in range(3)]
    desk.backups.restore(first)
    assert desk.jobs.new(planned(), "RK") == max(numbers) + 1


def test_a_restore_while_others_write_mixes_no_two_logs(desk: Desk) -> None:
    run = desk.runs.start(desk.jobs.new(planned(), "RK"), "RK")
    content = desk.backups.content()
    done: list[int] = []

    def write() -> None:
        for n in range(60):
            event = desk.runs.record(run, do.AddNote(f"{n}"), "RK", f"n{n}")
            done.append(event.seq if event else 0)

    writer = Thread(target=write)
    writer.start()
    desk.backups.restore(content)
    writer.join()
    seqs = [event.seq for event in desk.runs.events(run)]
    assert seqs == list(range(1, len(seqs) + 1))
    with desk.runs.folded(run) as state:
        assert state.seq == len(seqs)


def test_a_line_written_before_the_memory_of_a_restored_shop_is_forgotten_follows_the_restored_log(
    desk: Desk, monkeypatch: pytest.MonkeyPatch
) -> None:
    """It waited while the file was swapped, with the state of the old file in its hand."""
    run = desk.runs.start(desk.jobs.new(planned(), "RK"), "RK")
    content = desk.backups.content()
    for n in range(5):
        desk.runs.record(run, do.AddNote(f"{n}"), "RK", f"n{n}")
    forget, between = desk.runs.forget, []

    def late() -> None:
        between.append(desk.runs.record(run, do.AddNote("late"), "RK", "late").seq)
        with desk.runs.folded(run) as state:
            between.append(state.seq)
        forget()

    monkeypatch.setattr(desk.runs, "forget", late)
    vars(desk).pop("backups", None)  # made anew with it
    desk.backups.restore(content)
    assert between == [2, 2]
    assert [event.seq for event in desk.runs.events(run)] == [1, 2]


def test_after_a_clean_stop_the_one_file_is_everything(tmp_path: Path) -> None:
    desk = open_desk(Settings(tmp_path / "a"))
    desk.jobs.new(planned(), "RK")
    desk.close()
    (tmp_path / "b").mkdir()
    shutil.copy(tmp_path / "a" / FILE_NAME, tmp_path / "b" / FILE_NAME)
    other = open_desk(Settings(tmp_path / "b"))
    assert len(other.jobs.find()) == 1
    other.close()


def test_the_second_of_two_is_told_who_holds_the_folder(tmp_path: Path, capsys) -> None:
    with hold_folder(tmp_path) as held:
        held.say("http://127.0.0.1:8270")
        for command in (["backup", str(tmp_path / "x")], ["restore", str(tmp_path / "x")], ["serve"]):
            assert main(["--data", str(tmp_path), *command]) == 2
            said = capsys.readouterr().err
            assert f"Ditto Run is running on {tmp_path} at http://127.0.0.1:8270." in said
            assert "stop it first" in said
    with hold_folder(tmp_path):
        pass


def test_a_holder_that_was_killed_holds_nothing(tmp_path: Path) -> None:
    code = (
        "import sys, time; from pathlib import Path; from ditto_run.desk.folder import hold_folder\n"
        "with hold_folder(Path(sys.argv[1])): print('held', flush=True); time.sleep(60)"
    )
    with subprocess.Popen([sys.executable, "-c", code, str(tmp_path)], stdout=subprocess.PIPE) as process:
        assert process.stdout.readline() == b"held\n"
        with pytest.raises(CannotKeep), hold_folder(tmp_path):
            pass
        process.kill()
    with hold_folder(tmp_path):
        pass


@pytest.mark.parametrize(
    ("prepare", "command", "words"),
    [
        (lambda _: None, ["restore", "nowhere"], "nowhere cannot be read"),
        (lambda _: None, ["serve", "--port", "banana"], "“banana” is no port"),
        (lambda _: None, ["serve", "--port", "99999"], "“99999” is no port"),
        (
            lambda f: (f / FILE_NAME).write_bytes(b"garbage" * 500),
            ["backup", "x"],
            "is no database of Ditto Run",
        ),
        (lambda f: (f / "a").write_text("a file"), ["--data-is-a-file"], "cannot be written"),
    ],
)
def test_the_command_line_answers_in_a_sentence(tmp_path: Path, capsys, prepare, command, words: str) -> None:
    prepare(tmp_path)
    folder = tmp_path
    if command == ["--data-is-a-file"]:
        folder, command = tmp_path / "a" / "b", ["serve"]
    assert main(["--data", str(folder), *command]) == 2
    said = capsys.readouterr().err
    assert words in said
    assert "Traceback" not in said


def test_a_full_disk_and_a_held_file_are_said(tmp_path: Path) -> None:
    database = Database(tmp_path / FILE_NAME)
    with database.writing() as connection:
        (pages,) = connection.exec_driver_sql("PRAGMA page_count").fetchone()
    database.engine.dispose()
    from sqlalchemy import event

    @event.listens_for(database.engine, "connect")
    def small(connection, _record) -> None:
        connection.execute(f"PRAGMA max_page_count={pages}")
        connection.execute("PRAGMA busy_timeout=50")

    with pytest.raises(CannotKeep, match="The disk is full"), database.writing() as connection:
        connection.exec_driver_sql("INSERT INTO setting VALUES ('big', ?)", ("x" * 100_000,))
    other = sqlite3.connect(tmp_path / FILE_NAME, isolation_level=None)
    other.execute("BEGIN IMMEDIATE")
    with pytest.raises(CannotKeep, match="Another program holds"), database.writing():
        pass
    other.close()
    with database.writing() as connection:
        connection.exec_driver_sql("INSERT INTO setting VALUES ('small', 'x')")


def test_a_shop_left_half_upgraded_by_an_earlier_version_starts(tmp_path: Path) -> None:
    """Earlier versions upgraded step by step; a kill left tables of a step that was never written down."""
    from ditto_run.store.database import _engine, upgrade

    engine = _engine(tmp_path / FILE_NAME)
    upgrade(engine, "0002")
    engine.dispose()
    with sqlite3.connect(tmp_path / FILE_NAME) as connection:
        connection.execute(
            "CREATE TABLE drawer_row (id INTEGER PRIMARY KEY, drawer VARCHAR NOT NULL, texts VARCHAR NOT NULL)"
        )
    connection.close()
    desk = open_desk(Settings(tmp_path))
    assert desk.drawers.rows("drills") == []
    desk.close()


def test_two_starts_at_once_upgrade_once(tmp_path: Path) -> None:
    code = "import sys; from pathlib import Path; from ditto_run.store.database import Database; Database(Path(sys.argv[1])).close()"
    starts = [
        subprocess.Popen([sys.executable, "-c", code, str(tmp_path / FILE_NAME)], stderr=subprocess.PIPE)
        for _ in range(3)
    ]
    assert [start.communicate()[1] for start in starts] == [b""] * 3
    assert {start.returncode for start in starts} == {0}
