"""Jobs and their plans. A plan version is written once; the head says which one counts.

Undo is a new version equal to an earlier one, so nothing that somebody decided is ever lost.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import cache, lru_cache
from typing import Any

from sqlalchemy import Connection, Row, Select, delete, func, insert, select, update

from ditto_run.core.errors import ChangedMeanwhile, NeedsAnswer, NotFound, NotNow
from ditto_run.core.plan import Changed, Plan, differences
from ditto_run.formats.documents import PLAN
from ditto_run.store import tables
from ditto_run.store.database import Database
from ditto_run.store.pictures import Attachment, check_picture
from ditto_run.store.setting import keep_setting, read_setting

LEAST_JOB = "least job number"  # a setting: the next job gets at least this number
MOST_SHOWN = 3  # changes of somebody else that are told one by one


@dataclass(frozen=True, slots=True)
class ChangeStep:
    """One change of a plan that can be taken back or brought back.

    Args:
        what: what it was, in words.
        who: whose.
        step: the page it was made on; empty where nobody knows.
    """

    what: str
    who: str
    step: str

    def words(self, step: str, who: str) -> str:
        """Return what it was, with the step and the person where they are others than these."""
        where = f" on {self.step.capitalize()}" if self.step and self.step != step else ""
        whose = f", by {self.who}" if self.who != who else ""
        return f"{self.what}{where}{whose}"


@dataclass(frozen=True, slots=True)
class Job:
    """A job with the plan that counts.

    Args:
        version: number of the plan version; an edit names the one it was made on.
        what: what the last change was, in words.
        undo: what undo would take back; None at the first version.
        redo: what redo would bring back; None unless the last thing was an undo.
        at: when the last change was made.
    """

    id: int
    version: int
    plan: Plan
    what: str
    who: str
    undo: "ChangeStep | None"
    redo: "ChangeStep | None"
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

    def new(
        self, plan: Plan, who: str, *, is_demo: bool = False, what: str = "new job", client_key: str = ""
    ) -> int:
        """Keep a new job. Returns its number; the same client key again gives the same job."""
        with self._database.writing() as connection:
            if client_key:
                mine = select(tables.job.c.id).where(tables.job.c.client_key == client_key)
                found = connection.execute(mine).scalar()
                if found is not None:
                    return int(found)
            job_id = self.insert(connection, plan, who, is_demo=is_demo, what=what)
            if client_key:
                connection.execute(
                    update(tables.job).where(tables.job.c.id == job_id).values(client_key=client_key)
                )
            return job_id

    def new_together(self, plans: Sequence[Plan], who: str, *, what: str) -> list[int]:
        """Keep several new jobs, all of them or none. Returns their numbers."""
        with self._database.writing() as connection:
            return [self.insert(connection, plan, who, what=what) for plan in plans]

    def insert(
        self, connection: Connection, plan: Plan, who: str, *, is_demo: bool = False, what: str = "new job"
    ) -> int:
        """Keep a new job within a write session of the caller. Returns its number."""
        now = self._clock().isoformat()
        highest = connection.execute(select(func.max(tables.job.c.id))).scalar() or 0
        job_id = max(int(highest) + 1, int(read_setting(connection, LEAST_JOB) or 1))
        row = {"id": job_id, "created_at": now, "is_demo": is_demo, "head": 1, "words": _words(plan)}
        connection.execute(insert(tables.job).values(**row))
        _insert_version(connection, job_id, Changed(plan, what), (who, now), {"version": 1})
        return job_id

    def edit(
        self, job_id: int, version: int, who: str, change: Callable[[Plan], Changed], step: str = ""
    ) -> Job:
        """Change a plan and keep the new version.

        Args:
            job_id: which job.
            version: the version the change was made on; an older one than the head is told, not applied.
            who: initials.
            change: makes the next plan of the present one.
            step: the page it was made on.

        Raises:
            ChangedMeanwhile: if somebody saved another version since.
        """
        with self._database.reading() as connection:
            job = load_job(connection, job_id)
            _require_newest(connection, job, version)
        changed = change(job.plan)  # may take long: nobody else waits for it
        with self._database.writing() as connection:
            newest = load_job(connection, job_id)
            _require_newest(connection, newest, version)
            return save_version(connection, newest, changed, who, self._clock(), step)

    def undo(self, job_id: int, version: int, who: str, step: str = "", confirm: str = "") -> Job:
        """Take back the last change of the plan, as a version of its own.

        Args:
            job_id: which job.
            version: the version that is looked at.
            who: initials.
            step: the page that is looked at; empty asks nothing.
            confirm: what is to be taken back, where it is another step's or another person's.

        Raises:
            ChangedMeanwhile: if somebody saved another version since.
            NeedsAnswer: if it is another step's or another person's change, and was not named.
            NotNow: if there is nothing to undo.
        """
        with self._database.writing() as connection:
            job = load_job(connection, job_id)
            _require_newest(connection, job, version)
            if job.undo is None:
                raise NotNow("There is nothing to undo in this plan.", "It is as it was first saved.")
            _require_named(job.undo, who, step, confirm, "undo")
            now = version_row(connection, job_id, job.version)
            meant = version_row(connection, job_id, now.same_as or now.version)
            earlier = version_row(connection, job_id, meant.parent)
            numbers = {"same_as": earlier.same_as or earlier.version, "redo_from": job.version}
            return self._go_to(connection, job, who, f"undid: {job.undo.what}", numbers)

    def redo(self, job_id: int, version: int, who: str, step: str = "", confirm: str = "") -> Job:
        """Bring back the change that was undone last, as a version of its own.

        Raises:
            ChangedMeanwhile: if somebody saved another version since.
            NeedsAnswer: if it is another step's or another person's change, and was not named.
            NotNow: if nothing was undone last.
        """
        with self._database.writing() as connection:
            job = load_job(connection, job_id)
            _require_newest(connection, job, version)
            if job.redo is None:
                raise NotNow("There is nothing to redo.", "Only what was undone last can be redone.")
            _require_named(job.redo, who, step, confirm, "redo")
            back = version_row(connection, job_id, version_row(connection, job_id, job.version).redo_from)
            numbers = {"same_as": back.same_as or back.version, "redo_from": back.redo_from}
            return self._go_to(connection, job, who, f"redid: {job.redo.what}", numbers)

    def _go_to(
        self, connection: Connection, job: Job, who: str, what: str, numbers: dict[str, int | None]
    ) -> Job:
        """Write a version that equals an earlier one."""
        target = version_row(connection, job.id, numbers["same_as"])
        changed = Changed(read_plan(target.document), what)
        numbers |= {"version": job.version + 1, "parent": target.parent}
        _insert_version(connection, job.id, changed, (who, self._clock().isoformat()), numbers)
        _set_head(connection, job.id, job.version + 1, changed.plan)
        return load_job(connection, job.id)

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
            least = max(job_id + 1, int(read_setting(connection, LEAST_JOB) or 1))
            keep_setting(connection, LEAST_JOB, str(least))  # its number is not given again
            connection.execute(delete(tables.job).where(tables.job.c.id == job_id))

    def attach(self, job_id: int, name: str, content: bytes) -> int:
        """Keep a drawing or photo beside a job. Returns its number.

        Raises:
            BadEntry: if it is empty, too large, or no picture and no PDF.
        """
        media_type = check_picture(name, content, "drawing_file", drawing=True)
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


@cache
def _query() -> Select[Any]:
    """Return, made once, the jobs with the version that counts, the change it stands for, and the one that redo brings back."""
    head, meant, back = (tables.plan_version.alias(name) for name in ("head", "meant", "back"))
    redone = tables.plan_version.alias("redone")
    mine = tables.job.c.id
    return (
        select(
            tables.job,
            head.c.document,
            head.c.what,
            head.c.who,
            head.c.at,
            head.c.version,
            meant.c.what.label("undo_what"),
            meant.c.who.label("undo_who"),
            meant.c.step.label("undo_step"),
            meant.c.parent.label("undo_parent"),
            redone.c.what.label("redo_what"),
            redone.c.who.label("redo_who"),
            redone.c.step.label("redo_step"),
        )
        .join(head, (head.c.job_id == mine) & (head.c.version == tables.job.c.head))
        .join(
            meant,
            (meant.c.job_id == mine) & (meant.c.version == func.coalesce(head.c.same_as, head.c.version)),
        )
        .outerjoin(back, (back.c.job_id == mine) & (back.c.version == head.c.redo_from))
        .outerjoin(
            redone,
            (redone.c.job_id == mine) & (redone.c.version == func.coalesce(back.c.same_as, back.c.version)),
        )
    )


def _job(row: Row[Any]) -> Job:
    undo = None if row.undo_parent is None else ChangeStep(row.undo_what, row.undo_who, row.undo_step)
    redo = None if row.redo_what is None else ChangeStep(row.redo_what, row.redo_who, row.redo_step)
    return Job(
        row.id,
        row.head,
        read_plan(row.document),
        row.what,
        row.who,
        undo,
        redo,
        row.archived_at is not None,
        row.is_demo,
        datetime.fromisoformat(row.at),
    )


def save_version(
    connection: Connection, job: Job, changed: Changed, who: str, at: datetime, step: str = ""
) -> Job:
    """Keep a changed plan as the next version, within a write session of the caller; an equal one is not kept."""
    if changed.plan == job.plan:
        return job
    numbers: dict[str, int | str | None] = {"version": job.version + 1, "parent": job.version, "step": step}
    _insert_version(connection, job.id, changed, (who, at.isoformat()), numbers)
    _set_head(connection, job.id, job.version + 1, changed.plan)
    return load_job(connection, job.id)


def version_row(connection: Connection, job_id: int, version: int | None) -> Row[Any]:
    """Return one version as it is kept."""
    columns = tables.plan_version.c
    mine = (columns.job_id == job_id) & (columns.version == version)
    return connection.execute(select(tables.plan_version).where(mine)).one()


def _require_newest(connection: Connection, job: Job, version: int) -> None:
    """Raise ChangedMeanwhile, with what they changed, unless the version that was looked at is the newest."""
    if version == job.version:
        return
    columns = tables.plan_version.c
    mine = (columns.job_id == job.id) & (columns.version == version)
    looked_at = connection.execute(select(columns.document).where(mine)).scalar()
    theirs = differences(read_plan(looked_at), job.plan) if looked_at else ()
    raise ChangedMeanwhile(job.who, job.what, job.version, "; ".join(theirs[:MOST_SHOWN]))


def _require_named(change: ChangeStep, who: str, step: str, confirm: str, verb: str) -> None:
    """Raise NeedsAnswer unless a change is of this step and person, or was named."""
    other = (step and change.step and change.step != step) or change.who != who
    if other and confirm != change.what:
        words = change.words(step, who)
        raise NeedsAnswer(
            f"The last change is {words}.",
            f"Say so to {verb} it all the same.",
            "confirm",
            {f"{verb.capitalize()} it: {words}": change.what},
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
    changed: Changed,
    signed: tuple[str, str],
    numbers: Mapping[str, int | str | None],
) -> None:
    """Write a version: what changed, who and when; its number, the one it came from, and what it equals."""
    who, now = signed
    values = {
        "document": PLAN.dump_json(changed.plan).decode(),
        "what": changed.what[:200],
        "who": who,
        "at": now,
    }
    connection.execute(insert(tables.plan_version).values(job_id=job_id, **values, **numbers))


def _set_head(connection: Connection, job_id: int, version: int, plan: Plan) -> None:
    connection.execute(
        update(tables.job).where(tables.job.c.id == job_id).values(head=version, words=_words(plan))
    )
