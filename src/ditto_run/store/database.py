"""The database file: pragmas on every connection, write sessions that lock at once, migrations, the swap of a restore."""

import sqlite3
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from threading import Condition

from sqlalchemy import Connection, Engine, create_engine, event, text
from sqlalchemy.exc import DatabaseError, OperationalError

from ditto_run.core.errors import CannotKeep, DittoError, FileNotRead

HEAD = "0011"  # newest migration; tests/store/test_migrations.py holds it to the folder
PRAGMAS = (
    "PRAGMA busy_timeout=5000",  # first: the next one may have to wait
    "PRAGMA journal_mode=WAL",
    "PRAGMA synchronous=FULL",  # an acknowledged line survives a power cut
    "PRAGMA foreign_keys=ON",
)
FILE_NAME = "ditto-run.db"


class Database:
    """One database file.

    Args:
        path: the file; its folder is made if it is missing.

    Raises:
        CannotKeep: if the folder cannot be written.
        FileNotRead: if the file is no database of Ditto Run, or a newer one wrote it.
    """

    def __init__(self, path: Path) -> None:
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as fault:
            raise CannotKeep(
                f"The folder {path.parent} cannot be made: {fault.strerror}.", "Choose another with --data."
            ) from None
        self.path = path
        self.engine = _engine(path)
        self._gate = _Gate()
        self.shop_version = self.offsets_version = self.plans_version = 1
        self.swaps = 0  # how often another file was put in the place of this one
        self.newest_lines: dict[int, int] = {}  # run to its newest line, as whoever wrote it said
        with _said(path):
            migrate(self)

    @contextmanager
    def reading(self) -> Iterator[Connection]:
        """Open a connection for reading."""
        with self._gate.passing(), _said(self.path), self.engine.connect() as connection:
            yield connection

    @contextmanager
    def writing(
        self,
        *,
        shop: bool = False,
        offsets: bool = False,
        line: bool = False,
        first: Callable[[Connection], None] | None = None,
    ) -> Iterator[Connection]:
        """Open a connection that holds the write lock from the start, and commit at the end.

        The lock comes first so that what was read cannot change before it is written.

        Args:
            shop: True if a register of the shop is changed, so that what was worked out with it is old.
            offsets: True if the register of offsets may be changed.
            line: True if nothing but a line of a run is written, so that jobs, plans and revisions stay as they are.
            first: lays ready what is long, in tables of this connection alone, before the lock is taken.
        """
        with self._gate.passing(), _said(self.path), self.engine.connect() as connection:
            if first is not None:
                first(connection)
            connection.exec_driver_sql("BEGIN IMMEDIATE")
            try:
                yield connection
                connection.exec_driver_sql("COMMIT")
                self.shop_version += shop
                self.offsets_version += offsets
                self.plans_version += not line
            except BaseException:
                _roll_back(connection)
                raise

    def swap(self, file: Path, last_look: Callable[[], None]) -> None:
        """Put another database file in the place of this one, by one rename, while nobody reads or writes.

        Args:
            file: the other file, in the same folder.
            last_look: called just before the rename, when nothing can be written any more.
        """
        with self._gate.closed():
            self._leave()
            last_look()
            file.replace(self.path)
            self.engine = _engine(self.path)
            self.shop_version += 1
            self.plans_version += 1
            self.swaps += 1
            self.newest_lines.clear()

    def settle(self) -> None:
        """Put what was written so far into the one file, as far as nobody is reading older pages."""
        with self._gate.passing(), _said(self.path), self.engine.connect() as connection:
            connection.exec_driver_sql("PRAGMA wal_checkpoint(TRUNCATE)")

    def stamp(self) -> tuple[int, int]:
        """Return what tells whether the one file was written to, after everything was put into it."""
        found = self.path.stat()
        return found.st_mtime_ns, found.st_size

    def close(self) -> None:
        """Put everything into the one file, and close every connection."""
        with self._gate.closed():
            self._leave()

    def _leave(self) -> None:
        with _said(self.path), self.engine.connect() as connection:
            connection.exec_driver_sql("PRAGMA wal_checkpoint(TRUNCATE)")
        self.engine.dispose()


class _Gate:
    """Lets many through at once, or shuts behind the last of them."""

    def __init__(self) -> None:
        self._changed = Condition()
        self._inside = 0
        self._shut = False

    @contextmanager
    def passing(self) -> Iterator[None]:
        with self._changed:
            while self._shut:
                self._changed.wait()
            self._inside += 1
        try:
            yield
        finally:
            with self._changed:
                self._inside -= 1
                self._changed.notify_all()

    @contextmanager
    def closed(self) -> Iterator[None]:
        with self._changed:
            while self._shut or self._inside:
                self._changed.wait()
            self._shut = True
        try:
            yield
        finally:
            with self._changed:
                self._shut = False
                self._changed.notify_all()


def _roll_back(connection: Connection) -> None:
    """Take back what a write session did; where the disk is full the database has done so already."""
    raw = connection.connection.dbapi_connection
    if isinstance(raw, sqlite3.Connection) and raw.in_transaction:
        connection.exec_driver_sql("ROLLBACK")


@contextmanager
def _said(path: Path) -> Iterator[None]:
    """Turn what the database cannot do into a sentence."""
    try:
        yield
    except DatabaseError as fault:
        refusal = _refusal(path, fault)
        if refusal is None:
            raise
        raise refusal from fault


def _refusal(path: Path, fault: DatabaseError) -> DittoError | None:
    words = str(fault.orig).lower()
    if "locked" in words:
        return CannotKeep(
            "Another program holds the shop's file.",
            "Close it, or wait a moment; then do it again. Nothing was recorded.",
        )
    if "full" in words:
        return CannotKeep(
            "The disk is full.", "Make room on it, then do it again. What was recorded before is safe."
        )
    if "readonly" in words or "unable to open" in words:
        return CannotKeep(
            f"{path} cannot be written.", "Let this user write there, or choose another folder with --data."
        )
    if not isinstance(fault, OperationalError) and ("not a database" in words or "malformed" in words):
        return FileNotRead(
            f"{path.name} is no database of Ditto Run, or it is damaged.",
            "Move it away, start afresh, and restore a backup.",
        )
    return None


def _engine(path: Path) -> Engine:
    engine = create_engine(
        f"sqlite:///{path}", connect_args={"check_same_thread": False}, pool_size=10, max_overflow=20
    )

    @event.listens_for(engine, "connect")
    def _prepare(connection: sqlite3.Connection, _record: object) -> None:
        connection.isolation_level = None  # we begin and commit ourselves
        for pragma in PRAGMAS:
            connection.execute(pragma)

    return engine


def schema_version(connection: Connection) -> str | None:
    """Return the migration a database stands at; None for an empty file."""
    found = connection.execute(text("SELECT name FROM sqlite_master WHERE name = 'alembic_version'")).first()
    if found is None:
        return None
    version = connection.execute(text("SELECT version_num FROM alembic_version")).scalar()
    return None if version is None else str(version)


def migrate(database: Database) -> None:
    """Bring the schema up to date; a database that is already there costs one query.

    Raises:
        FileNotRead: if a newer Ditto Run wrote it.
    """
    with database.reading() as connection:
        version = schema_version(connection)
    if version == HEAD:
        return
    if version is not None and version > HEAD:
        raise FileNotRead(
            f"{database.path.name} was written by a newer Ditto Run.",
            "Start that newer version, or restore an older backup.",
        )
    upgrade(database.engine, HEAD)


def upgrade(engine: Engine, version: str) -> None:
    """Run the migrations up to a version. Alembic is imported here: start-up stays quick without it."""
    from alembic import command  # noqa: PLC0415
    from alembic.config import Config  # noqa: PLC0415

    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.attributes["engine"] = engine
    command.upgrade(config, version)
