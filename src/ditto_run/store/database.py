"""The database file: pragmas on every connection, write sessions that lock at once, migrations."""

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from sqlalchemy import Connection, Engine, create_engine, event, text

from ditto_run.core.errors import FileNotRead

HEAD = "0005"  # newest migration; tests/store/test_migrations.py holds it to the folder
PRAGMAS = (
    "PRAGMA journal_mode=WAL",
    "PRAGMA synchronous=FULL",  # an acknowledged line survives a power cut
    "PRAGMA foreign_keys=ON",
    "PRAGMA busy_timeout=5000",
)
FILE_NAME = "ditto-run.db"


class Database:
    """One database file.

    Args:
        path: the file; its folder is made if it is missing.
    """

    def __init__(self, path: Path) -> None:
        path.parent.mkdir(parents=True, exist_ok=True)
        self.path = path
        self.engine = _engine(path)
        migrate(self)

    @contextmanager
    def reading(self) -> Iterator[Connection]:
        """Open a connection for reading."""
        with self.engine.connect() as connection:
            yield connection

    @contextmanager
    def writing(self) -> Iterator[Connection]:
        """Open a connection that holds the write lock from the start, and commit at the end.

        The lock comes first so that what was read cannot change before it is written.
        """
        with self.engine.connect() as connection:
            connection.exec_driver_sql("BEGIN IMMEDIATE")
            try:
                yield connection
            except BaseException:
                connection.exec_driver_sql("ROLLBACK")
                raise
            connection.exec_driver_sql("COMMIT")

    def close(self) -> None:
        """Close every connection."""
        self.engine.dispose()


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
    return str(connection.execute(text("SELECT version_num FROM alembic_version")).scalar_one())


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
