"""The whole shop as one sealed file, made while it runs; and a backup checked whole before anything is replaced."""

import hashlib
import sqlite3
import tempfile
from collections.abc import Iterable
from contextlib import closing
from pathlib import Path

from sqlalchemy import Connection, inspect, select

from ditto_run.core.errors import DittoError, FileNotRead
from ditto_run.core.run import fold
from ditto_run.core.shop.drawers import drawer_of
from ditto_run.formats.documents import ABILITY, BED, DIALECT, OFFSET, PLAN, SHOP, TEXTS
from ditto_run.store import tables
from ditto_run.store.database import HEAD, Database
from ditto_run.store.jobs import LEAST_JOB
from ditto_run.store.runs import events_after, frozen_plans

SEAL = "seal"  # a setting of the copy: the checksum of everything else in it
NO_BACKUP = (
    "That file is no backup of Ditto Run, or it is damaged.",
    "Nothing was changed. Choose another file.",
)


def back_up(database: Path, target: Path) -> None:
    """Write a consistent, sealed copy of a shop's file, while others go on writing."""
    source, copy = sqlite3.connect(database), sqlite3.connect(target)
    try:
        source.backup(copy)
        copy.execute("PRAGMA journal_mode=DELETE")  # one file, without a log beside it
        copy.execute("INSERT OR REPLACE INTO setting VALUES (?, ?)", (SEAL, _checksum(copy)))
        copy.commit()
    finally:
        copy.close()
        source.close()


def backup_bytes(database: Path) -> bytes:
    """Return the backup as the bytes of one file."""
    with tempfile.TemporaryDirectory() as folder:
        target = Path(folder) / "backup.db"
        back_up(database, target)
        return target.read_bytes()


def lay_ready(content: bytes, file: Path) -> None:
    """Write a backup beside the shop's file, where nothing of an earlier try is left.

    Args:
        content: bytes of a backup file.
        file: where it is to lie, ready to take the place of the shop's own.
    """
    _clear(file)
    file.write_bytes(content)


def check_ready(file: Path) -> None:
    """Check a backup whole, as it lies beside the shop's file, and bring it up to date; nothing else is touched.

    Args:
        file: a backup file, of this version or an older one. It is taken away if it is not sound.

    Raises:
        FileNotRead: if it is no backup of Ditto Run, damaged, cut short, or from a newer version.
    """
    try:
        _check_file(file)
        with (
            closing(Database(file)) as ready,
            ready.reading() as connection,
        ):  # an older backup is brought up to date
            _check_schema(connection)
            _check_contents(connection)
    except BaseException:
        _clear(file)
        raise


def _clear(file: Path) -> None:
    for left in (file, *(file.with_name(f"{file.name}{end}") for end in ("-wal", "-shm", "-journal"))):
        left.unlink(missing_ok=True)


def carry_numbers(old: Path, new: Path) -> None:
    """Have the new file give no job number that the old one gave, so that an old tab writes into no other job."""
    given = []
    for file in (old, new):
        with closing(sqlite3.connect(file)) as connection:
            (highest,) = connection.execute("SELECT coalesce(max(id), 0) + 1 FROM job").fetchone()
            said = connection.execute("SELECT value FROM setting WHERE name = ?", (LEAST_JOB,)).fetchone()
            given += [highest, int(said[0]) if said else 1]
    with closing(sqlite3.connect(new)) as connection:
        connection.execute("INSERT OR REPLACE INTO setting VALUES (?, ?)", (LEAST_JOB, str(max(given))))
        connection.commit()


def _check_file(file: Path) -> None:
    connection = sqlite3.connect(file)
    try:
        if connection.execute("PRAGMA integrity_check").fetchone() != ("ok",):
            raise FileNotRead(*NO_BACKUP)
        if connection.execute("PRAGMA foreign_key_check").fetchone() is not None:
            raise FileNotRead(*NO_BACKUP)
        names = {
            name for (name,) in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")
        }
        if not {"alembic_version", "job", "run_event", "setting"} <= names:
            raise FileNotRead(*NO_BACKUP)
        row = connection.execute("SELECT version_num FROM alembic_version").fetchone()
        if row is None:
            raise FileNotRead(*NO_BACKUP)
        if row[0] > HEAD:
            raise FileNotRead(
                "That backup was written by a newer Ditto Run.",
                "Nothing was changed. Restore it with that version.",
            )
        seal = connection.execute("SELECT value FROM setting WHERE name = ?", (SEAL,)).fetchone()
        if seal is not None:
            if seal[0] != _checksum(connection):
                raise FileNotRead(
                    "That backup was changed after it was made: its checksum differs.",
                    "Nothing was changed. Choose another backup.",
                )
            connection.execute("DELETE FROM setting WHERE name = ?", (SEAL,))
            connection.commit()
    except sqlite3.DatabaseError:
        raise FileNotRead(*NO_BACKUP) from None
    finally:
        connection.close()


def _checksum(connection: sqlite3.Connection) -> str:
    """Return the checksum of every row of every table, the seal itself left out."""
    found = hashlib.sha256()
    names = connection.execute("SELECT name FROM sqlite_master WHERE type = 'table' ORDER BY name").fetchall()
    for (name,) in names:
        quoted = '"' + name.replace('"', '""') + '"'
        rows = sorted(repr(row) for row in connection.execute(f"SELECT * FROM {quoted}") if row[0] != SEAL)  # noqa: S608 - a name of the file's own
        found.update(name.encode())
        for row in rows:
            found.update(row.encode(errors="surrogatepass"))
    return found.hexdigest()


def _check_schema(connection: Connection) -> None:
    """Refuse a file whose tables lack columns, however its version reads."""
    there = inspect(connection)
    names = set(there.get_table_names())
    for table in tables.metadata.sorted_tables:
        if table.name not in names:
            raise FileNotRead(*NO_BACKUP)
        columns = {column["name"] for column in there.get_columns(table.name)}
        if not {column.name for column in table.columns} <= columns:
            raise FileNotRead(*NO_BACKUP)


def _check_contents(connection: Connection) -> None:
    """Read everything once, as the pages would: plans, logs, offsets, registers."""
    try:
        heads = {row.id: row.head for row in connection.execute(select(tables.job))}
        known: dict[int, set[int]] = {}
        for row in connection.execute(select(tables.plan_version)):
            PLAN.validate_json(row.document)
            known.setdefault(row.job_id, set()).add(row.version)
        _require(head in known.get(job, ()) for job, head in heads.items())
        frozen = connection.execute(select(tables.revision)).all()
        _require(row.version in known.get(row.job_id, ()) for row in frozen)
        _require(SHOP.validate_json(row.shop) is not None for row in frozen if row.shop)
        for row in connection.execute(select(tables.run)).all():
            log = events_after(connection, row.id)
            _require([event.seq == number for number, event in enumerate(log, 1)] or [False])
            fold(log, frozen_plans(connection, row.job_id))
        for row in connection.execute(select(tables.offset)):
            OFFSET.validate_json(row.body)
        for row in connection.execute(select(tables.drawer_row)):
            drawer_of(row.drawer).value(TEXTS.validate_json(row.texts), "mm")
        for row in connection.execute(select(tables.machine)):
            ABILITY.validate_json(row.ability)
            DIALECT.validate_json(row.dialect)
            if row.bed:
                BED.validate_json(row.bed)
    except (ValueError, LookupError, TypeError, ArithmeticError, DittoError) as fault:
        if isinstance(fault, FileNotRead):
            raise
        raise FileNotRead(
            "That backup cannot be read whole: a plan, a log or a register in it is damaged.",
            "Nothing was changed. Choose another backup.",
        ) from None


def _require(sound: Iterable[bool]) -> None:
    if not all(sound):
        raise FileNotRead(*NO_BACKUP)
