"""Jobs and their plans. A plan version is written once; the head says which one counts.

Undo is a new version equal to an earlier one, so nothing that somebody decided is ever lost.
"""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache
from typing import Any

from sqlalchemy import Connection, Row, Select, delete, insert, select, update

from ditto_run.core.edits import Changed
from ditto_run.core.errors import ChangedMeanwhile, NotFound, NotNow
from ditto_run.core.plan import Plan
from ditto_run.formats.documents import PLAN
from ditto_run.store import tables
from ditto_run.store.database import Database
from ditto_run.store.pictures import Attachment, check_picture


@dataclass(frozen=True, slots=True)
class Job:
    """A job with the plan that counts.

    Args:
        version: number of the plan version; an edit names the one it was made on.
        what: what the last change was, in words.
        can_undo: False at the first version.
        at: when the last change was made.
    """

    id: int
    version: int
    plan: Plan
    what: str
    who: str
    can_undo: bool
    archived: bool
    is_demo: bool
    at: datetime


class Jobs:
    """The jobs of the shop."""

    def __init__(self, database: Database, clock: Callable[[], datetime]) -> None:
        self._database = database
        self._clock = clock

    def load(self, job_id: int) -> Job:
        """Return one job.

        Raises:
            NotFound: if there is none.
        """
        with self._database.reading() as connection:
            return load_job(connection, job_id)

    def find(self, search: str = "", *, archived: bool = False) -> list[Job]:
        """Return the jobs that hold every word of the search, newest first."""
        chosen = tables.job.c.archived_at.is_not(None) if archived else tables.job.c.archived_at.is_(None)
        query = _query().where(chosen).order_by(tables.job.c.id.desc())
        for word in search.lower().split():
            query = query.where(tables.job.c.words.contains(word, autoescape=True))
        with self._database.reading() as connection:
            return [_job(row) for row in connection.execute(query).all()]

    def new(self, plan: Plan, who: str, *, is_demo: bool = False, what: str = "new job") -> int:
        """Keep a new job. Returns its number."""
        with self._database.writing() as connection:
            return self.insert(connection, plan, who, is_demo=is_demo, what=what)

    def insert(
        self, connection: Connection, plan: Plan, who: str, *, is_demo: bool = False, what: str = "new job"
    ) -> int:
        """Keep a new job within a write session of the caller. Returns its number."""
        now = self._clock().isoformat()
        row = {"created_at": now, "is_demo": is_demo, "head": 1, "words": _words(plan)}
        made = connection.execute(insert(tables.job).values(**row)).inserted_primary_key
        job_id = int(made[0]) if made else 0
        _insert_version(connection, job_id, (1, None), Changed(plan, what), (who, now))
        return job_id

    def edit(self, job_id: int, version: int, who: str, change: Callable[[Plan], Changed]) -> Job:
        """Change a plan and keep the new version.

        Args:
            job_id: which job.
            version: the version the change was made on; an older one than the head is told, not applied.
            who: initials.
            change: makes the next plan of the present one.

        Raises:
            ChangedMeanwhile: if somebody saved another version since.
        """
        with self._database.writing() as connection:
            job = load_job(connection, job_id)
            if version != job.version:
                raise ChangedMeanwhile(job.who, job.what, job.version)
            changed = change(job.plan)
            if changed.plan != job.plan:
                now = self._clock().isoformat()
                _insert_version(connection, job_id, (job.version + 1, job.version), changed, (who, now))
                _set_head(connection, job_id, job.version + 1, changed.plan)
            return load_job(connection, job_id)

    def undo(self, job_id: int, version: int, who: str) -> Job:
        """Take back the last change of the plan, as a version of its own.

        Raises:
            ChangedMeanwhile: if somebody saved another version since.
            NotNow: if there is nothing to undo.
        """
        with self._database.writing() as connection:
            job = load_job(connection, job_id)
            if version != job.version:
                raise ChangedMeanwhile(job.who, job.what, job.version)
            parent = connection.execute(
                select(tables.plan_version.c.parent).where(
                    tables.plan_version.c.job_id == job_id, tables.plan_version.c.version == job.version
                )
            ).scalar_one()
            if parent is None:
                raise NotNow("There is nothing to undo in this plan.", "It is as it was first saved.")
            earlier = load_version(connection, job_id, parent)
            grandparent = connection.execute(
                select(tables.plan_version.c.parent).where(
                    tables.plan_version.c.job_id == job_id, tables.plan_version.c.version == parent
                )
            ).scalar_one()
            changed = Changed(earlier, f"undid: {job.what}")
            _insert_version(
                connection, job_id, (job.version + 1, grandparent), changed, (who, self._clock().isoformat())
            )
            _set_head(connection, job_id, job.version + 1, earlier)
            return load_job(connection, job_id)

    def archive(self, job_id: int, *, archived: bool) -> None:
        """Put a job away, or bring it back."""
        when = self._clock().isoformat() if archived else None
        with self._database.writing() as connection:
            load_job(connection, job_id)
            connection.execute(update(tables.job).where(tables.job.c.id == job_id).values(archived_at=when))

    def delete(self, job_id: int) -> None:
        """Delete a demo job for good. A job of your own is archived, never deleted."""
        with self._database.writing() as connection:
            if not load_job(connection, job_id).is_demo:
                raise NotNow("Only the demo jobs can be deleted.", "Archive it instead.")
            connection.execute(delete(tables.job).where(tables.job.c.id == job_id))

    def attach(self, job_id: int, name: str, media_type: str, content: bytes) -> int:
        """Keep a drawing or photo beside a job. Returns its number.

        Raises:
            BadEntry: if it is empty, too large, or no picture and no PDF.
        """
        check_picture(name, media_type, content, "drawing_file", drawing=True)
        with self._database.writing() as connection:
            load_job(connection, job_id)
            values = {"job_id": job_id, "name": name[:120], "media_type": media_type, "content": content}
            made = connection.execute(insert(tables.attachment).values(**values)).inserted_primary_key
            return int(made[0]) if made else 0

    def detach(self, job_id: int, attachment_id: int) -> None:
        """Take a drawing or photo away."""
        with self._database.writing() as connection:
            mine = (tables.attachment.c.id == attachment_id) & (tables.attachment.c.job_id == job_id)
            connection.execute(delete(tables.attachment).where(mine))

    def attachments(self, job_id: int) -> list[Attachment]:
        """Return the drawings and photos of a job, without their contents."""
        columns = (tables.attachment.c.id, tables.attachment.c.name, tables.attachment.c.media_type)
        with self._database.reading() as connection:
            rows = connection.execute(select(*columns).where(tables.attachment.c.job_id == job_id)).all()
        return [Attachment(row.id, row.name, row.media_type) for row in rows]

    def attachment(self, job_id: int, attachment_id: int) -> Attachment:
        """Return one drawing or photo with its content.

        Raises:
            NotFound: if there is none.
        """
        mine = (tables.attachment.c.id == attachment_id) & (tables.attachment.c.job_id == job_id)
        with self._database.reading() as connection:
            row = connection.execute(select(tables.attachment).where(mine)).first()
        if row is None:
            raise NotFound("drawing", attachment_id, "Choose one on the job's first page.")
        return Attachment(row.id, row.name, row.media_type, row.content)


@lru_cache(maxsize=16)
def read_plan(document: str) -> Plan:
    """Return the plan of a document; a page reads the same one several times, and plans never change."""
    return PLAN.validate_json(document)


def load_version(connection: Connection, job_id: int, version: int) -> Plan:
    """Return the plan of one version."""
    document = connection.execute(
        select(tables.plan_version.c.document).where(
            tables.plan_version.c.job_id == job_id, tables.plan_version.c.version == version
        )
    ).scalar_one()
    return read_plan(document)


def _query() -> Select[Any]:
    head = tables.plan_version
    return select(tables.job, head.c.document, head.c.what, head.c.who, head.c.parent, head.c.at).join(
        head, (head.c.job_id == tables.job.c.id) & (head.c.version == tables.job.c.head)
    )


def _job(row: Row[Any]) -> Job:
    plan = read_plan(row.document)
    return Job(
        row.id,
        row.head,
        plan,
        row.what,
        row.who,
        row.parent is not None,
        row.archived_at is not None,
        row.is_demo,
        datetime.fromisoformat(row.at),
    )


def load_job(connection: Connection, job_id: int) -> Job:
    """Return one job within a session of the caller.

    Raises:
        NotFound: if there is none.
    """
    row = connection.execute(_query().where(tables.job.c.id == job_id)).first()
    if row is None:
        raise NotFound("job", job_id)
    return _job(row)


def _words(plan: Plan) -> str:
    heading = plan.heading
    return f"{heading.part} {heading.customer} {heading.drawing} {heading.material}".lower()


def _insert_version(
    connection: Connection,
    job_id: int,
    versions: tuple[int, int | None],
    changed: Changed,
    signed: tuple[str, str],
) -> None:
    """Write a version: its number and the one it came from, what changed, who and when."""
    version, parent = versions
    who, now = signed
    connection.execute(insert(tables.plan_version).values(
        job_id=job_id, version=version, parent=parent, document=PLAN.dump_json(changed.plan).decode(),
        what=changed.what[:200], who=who, at=now,
    ))  # fmt: skip


def _set_head(connection: Connection, job_id: int, version: int, plan: Plan) -> None:
    connection.execute(
        update(tables.job).where(tables.job.c.id == job_id).values(head=version, words=_words(plan))
    )
