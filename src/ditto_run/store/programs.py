"""Program files kept with a job, as text."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from hashlib import sha256

from sqlalchemy import delete, insert, select, update

from ditto_run.core.errors import BadEntry, FileNotRead, NotFound
from ditto_run.store import tables
from ditto_run.store.database import Database
from ditto_run.store.jobs import load_job

MOST_BYTES, MOST_FILES = 8_000_000, 60
MOST_WHY = 200  # letters
MOST_REVISIONS = 20  # of one name; the oldest goes first
FILE = tables.program.c


@dataclass(frozen=True, slots=True)
class Program:
    """One revision of a program file: its name and text, who kept it, when and why; or a copy read back from the machine."""

    id: int
    name: str
    content: str
    who: str
    at: datetime
    why: str = ""
    read_back: bool = False

    @property
    def seal(self) -> str:
        """The first signs of its SHA-256, by which two copies are told apart."""
        return sha256(self.content.encode()).hexdigest()[:12]


class Programs:
    """The program files of the jobs."""

    def __init__(self, database: Database, clock: Callable[[], datetime]) -> None:
        self._database = database
        self._clock = clock

    def revisions(self, job_id: int) -> list[Program]:
        """Return every revision of the program files of a job, oldest first."""
        with self._database.reading() as connection:
            rows = connection.execute(
                select(tables.program).where(FILE.job_id == job_id).order_by(FILE.id)
            ).all()
        return [
            Program(
                row.id, row.name, row.content, row.who, datetime.fromisoformat(row.at), row.why, row.read_back
            )
            for row in rows
        ]

    def of_job(self, job_id: int) -> list[Program]:
        """Return the program files of a job as they are now, oldest first."""
        newest = {one.name: one for one in self.revisions(job_id) if not one.read_back}
        return sorted(newest.values(), key=lambda one: one.id)

    def keep(self, job_id: int, name: str, content: bytes, who: str, *, read_back: bool = False) -> int:
        """Keep a program file; of the same name it is the next revision, unless it is the same text. Returns its number.

        Args:
            job_id: of the job.
            name: of the file.
            content: as it was sent.
            who: kept it.
            read_back: True for a copy read back from the machine: it is no revision, and takes the place of the last copy.

        Raises:
            BadEntry: if there are too many.
            FileNotRead: if it is empty, too large or no text.
        """
        clean = name.replace("\\", "/").rsplit("/", 1)[-1].strip()[:120] or "program.nc"
        if not content or len(content) > MOST_BYTES:
            raise FileNotRead("That file is empty or over 8 MB.", "Choose the program as text.")
        try:
            text = content.decode()
        except UnicodeDecodeError:
            text = content.decode("latin-1")
        if "\0" in text:
            raise FileNotRead("That file is no text.", "Choose the program as text.")
        with self._database.writing() as connection:
            load_job(connection, job_id)
            mine = connection.execute(
                select(FILE.id, FILE.content)
                .where((FILE.job_id == job_id) & (FILE.name == clean) & (FILE.read_back == read_back))
                .order_by(FILE.id)
            ).all()
            if mine and mine[-1].content == text and not read_back:
                return int(mine[-1].id)
            for old in mine if read_back else mine[: 1 - MOST_REVISIONS]:
                connection.execute(delete(tables.program).where(FILE.id == old.id))
            names = connection.execute(select(FILE.name).where(FILE.job_id == job_id).distinct()).all()
            if not mine and len(names) >= MOST_FILES:
                raise BadEntry(
                    f"{MOST_FILES} program files are kept already.", "Take one away first.", "program"
                )
            values = {
                "job_id": job_id,
                "name": clean,
                "content": text,
                "who": who,
                "at": self._clock().isoformat(),
                "why": "",
                "read_back": read_back,
            }
            made = connection.execute(insert(tables.program).values(**values)).inserted_primary_key
            return int(made[0]) if made else 0

    def say_why(self, job_id: int, number: int, why: str) -> None:
        """Say why a revision was kept.

        Raises:
            NotFound: if there is none.
        """
        with self._database.writing() as connection:
            done = connection.execute(
                update(tables.program)
                .where((FILE.id == number) & (FILE.job_id == job_id))
                .values(why=why.strip()[:MOST_WHY])
            )
            if not done.rowcount:
                raise NotFound("program file", number, "Choose one of the list.")

    def remove(self, job_id: int, number: int) -> None:
        """Take a program file away, with its revisions.

        Raises:
            NotFound: if there is none.
        """
        with self._database.writing() as connection:
            name = connection.execute(
                select(FILE.name).where((FILE.id == number) & (FILE.job_id == job_id))
            ).scalar()
            gone = connection.execute(
                delete(tables.program).where((FILE.name == name) & (FILE.job_id == job_id))
            )
            if not gone.rowcount:
                raise NotFound("program file", number, "Choose one of the list.")
