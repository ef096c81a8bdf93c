"""The whole shop as one file, made and restored while it runs."""

import sqlite3
import tempfile
from pathlib import Path

from ditto_run.core.errors import FileNotRead
from ditto_run.store.database import HEAD, Database


def back_up(database: Database, target: Path) -> None:
    """Write a consistent copy of the whole shop, while others go on writing."""
    source = sqlite3.connect(database.path)
    copy = sqlite3.connect(target)
    try:
        source.backup(copy)
        copy.execute("PRAGMA journal_mode=DELETE")  # one file, without a log beside it
    finally:
        copy.close()
        source.close()


def backup_bytes(database: Database) -> bytes:
    """Return the backup as the bytes of one file."""
    with tempfile.TemporaryDirectory() as folder:
        target = Path(folder) / "backup.db"
        back_up(database, target)
        return target.read_bytes()


def restore(database: Database, content: bytes) -> None:
    """Put a backup in the place of everything that is there. All of it or nothing.

    Args:
        database: the shop's database, in use.
        content: bytes of a backup file, of this version or an older one.

    Raises:
        FileNotRead: if it is no backup of Ditto Run, damaged, or from a newer version.
    """
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "backup.db"
        file.write_bytes(content)
        _check(file)
        older = Database(file)  # brings an older backup up to date, in the copy
        older.close()
        source, target = sqlite3.connect(file), sqlite3.connect(database.path)
        try:
            source.backup(target)
        finally:
            target.close()
            source.close()


def _check(file: Path) -> None:
    no_backup = FileNotRead(
        "That file is no backup of Ditto Run, or it is damaged.", "Nothing was changed. Choose another file."
    )
    connection = sqlite3.connect(file)
    try:
        if connection.execute("PRAGMA integrity_check").fetchone() != ("ok",):
            raise no_backup
        names = {
            name for (name,) in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")
        }
        if not {"alembic_version", "job", "run_event"} <= names:
            raise no_backup
        (version,) = connection.execute("SELECT version_num FROM alembic_version").fetchone()
        if version > HEAD:
            raise FileNotRead(
                "That backup was written by a newer Ditto Run.",
                "Nothing was changed. Restore it with that version.",
            )
    except sqlite3.DatabaseError:
        raise no_backup from None
    finally:
        connection.close()
