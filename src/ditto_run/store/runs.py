"""Runs as they are written down: revisions, and the append-only log. Sessions and locks are the caller's."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import Connection, func, insert, select

from ditto_run.core.plan import Plan, ShopKnown
from ditto_run.core.run import Body, Event
from ditto_run.formats.documents import SHOP
from ditto_run.formats.line_documents import BODIES, BODY
from ditto_run.store import tables
from ditto_run.store.jobs import load_version


def newest_run(connection: Connection, job_id: int) -> int | None:
    """Return the number of a job's newest run, or None before it has one."""
    return connection.execute(select(func.max(tables.run.c.id)).where(tables.run.c.job_id == job_id)).scalar()


def newest_runs(connection: Connection) -> Mapping[int, int]:
    """Return job number to the number of its newest run."""
    rows = connection.execute(
        select(tables.run.c.job_id, func.max(tables.run.c.id)).group_by(tables.run.c.job_id)
    )
    return {row[0]: row[1] for row in rows}


def job_of_run(connection: Connection, run_id: int) -> int | None:
    """Return the job a run belongs to, or None if there is no such run."""
    return connection.execute(select(tables.run.c.job_id).where(tables.run.c.id == run_id)).scalar()


def batches_of(connection: Connection, job_id: int) -> Mapping[int, int]:
    """Return batch to the number of its run, of one job, the first batch first."""
    columns = tables.run.c
    rows = connection.execute(
        select(columns.batch, columns.id).where(columns.job_id == job_id).order_by(columns.batch)
    )
    return {int(batch): int(run_id) for batch, run_id in rows.all()}


def insert_run(connection: Connection, job_id: int, batch: int) -> int:
    """Write a run. Returns its number."""
    made = connection.execute(insert(tables.run).values(job_id=job_id, batch=batch)).inserted_primary_key
    return int(made[0]) if made else 0


@dataclass(frozen=True, slots=True)
class Revision:
    """A version of a plan as it was frozen.

    Args:
        number: of the revision, from 1.
        version: of the plan.
        reason: why it was frozen.
        shop: what of the shop it was worked out with; None where that was not kept yet.
    """

    number: int
    version: int
    reason: str
    shop: ShopKnown | None = None


def insert_revision(connection: Connection, job_id: int, frozen: Revision) -> None:
    """Freeze a version of a plan as a revision."""
    shop = SHOP.dump_json(frozen.shop).decode() if frozen.shop else ""
    values = {
        "revision": frozen.number,
        "version": frozen.version,
        "reason": frozen.reason,
        "shop": shop,
    }
    connection.execute(insert(tables.revision).values(job_id=job_id, **values))


AT_ONCE = 500
EventRow = tuple[int, str, str, str, str]
"""A line as it is kept: number, when, who, key, body."""
Logs = Mapping[int, Sequence[EventRow]]
"""Batch to the lines of its log."""


def event_row(event: Event) -> EventRow:
    """Return a line of a log as it is kept."""
    body = BODY.dump_json(event.body).decode()
    return event.seq, event.at.isoformat(), event.who, event.client_key, body


def lay_out(connection: Connection, logs: Logs) -> None:
    """Lay lines ready in a table of this connection alone; nobody is kept from the database meanwhile."""
    rows = [(batch, *row) for batch, log in logs.items() for row in log]
    connection.exec_driver_sql("DROP TABLE IF EXISTS temp.laid_out")
    connection.exec_driver_sql("CREATE TEMP TABLE laid_out (batch, seq, at, who, client_key, body)")
    connection.exec_driver_sql("BEGIN")
    if rows:
        connection.exec_driver_sql("INSERT INTO temp.laid_out VALUES (?, ?, ?, ?, ?, ?)", rows)
    connection.exec_driver_sql("COMMIT")


def insert_laid_out(connection: Connection, run_id: int, batch: int) -> None:
    """Write the lines that were laid ready for a batch as the log of its run, all in one go."""
    connection.exec_driver_sql(
        "INSERT INTO run_event (run_id, seq, at, who, client_key, body)"
        " SELECT ?, seq, at, who, client_key, body FROM temp.laid_out WHERE batch = ?",
        (run_id, batch),
    )


def insert_event(connection: Connection, run_id: int, event: Event) -> None:
    """Write one line of a log."""
    names = ("seq", "at", "who", "client_key", "body")
    values = dict(zip(names, event_row(event), strict=True)) | {"run_id": run_id}
    values["client_key"] = event.client_key or f"{run_id}-{event.seq}"
    connection.execute(insert(tables.run_event), values)


def newest_line(connection: Connection, run_id: int) -> int:
    """Return the number of the newest line of a run; 0 before there is one."""
    found = connection.execute(
        select(func.max(tables.run_event.c.seq)).where(tables.run_event.c.run_id == run_id)
    ).scalar()
    return int(found or 0)


def events_after(connection: Connection, run_id: int, after: int = 0, most: int | None = None) -> list[Event]:
    """Return the lines of a run after one of them, oldest first; no more than `most`."""
    columns = tables.run_event.c
    rows = connection.execute(
        select(columns.seq, columns.at, columns.who, columns.client_key, columns.body)
        .where(columns.run_id == run_id, columns.seq > after)
        .order_by(columns.seq)
        .limit(most)
    ).all()
    bodies: list[Body] = []
    for start in range(0, len(rows), AT_ONCE):  # many at once are quicker, thousands would hold everybody up
        part = [row[4] for row in rows[start : start + AT_ONCE]]
        bodies += BODIES.validate_json(f"[{','.join(part)}]")
    return [
        Event(seq, datetime.fromisoformat(at), who, key, body)
        for (seq, at, who, key, _), body in zip(rows, bodies, strict=True)
    ]


def newest_used(connection: Connection) -> int | None:
    """Return the number of the run that was written to last, or None before there is one."""
    columns = tables.run_event.c
    found = connection.execute(select(columns.run_id).order_by(columns.at.desc()).limit(1)).scalar()
    return None if found is None else int(found)


def revisions_of(connection: Connection, job_id: int) -> list[Revision]:
    """Return the revisions of a job, oldest first."""
    columns = tables.revision.c
    rows = connection.execute(
        select(columns.revision, columns.version, columns.reason, columns.shop)
        .where(columns.job_id == job_id)
        .order_by(columns.revision)
    )
    return [
        Revision(number, version, reason, SHOP.validate_json(shop) if shop else None)
        for number, version, reason, shop in rows.all()
    ]


def frozen_plans(connection: Connection, job_id: int) -> dict[int, Plan]:
    """Return the frozen plans of a job by revision."""
    columns = tables.revision.c
    rows = connection.execute(select(columns.revision, columns.version).where(columns.job_id == job_id))
    return {number: load_version(connection, job_id, version) for number, version in rows.all()}


def newest_versions(connection: Connection, job_id: int) -> tuple[int, int]:
    """Return the version a job's plan stands at, and the newest one that was frozen."""
    columns = tables.revision.c
    newest = select(func.max(columns.version)).where(columns.job_id == job_id).scalar_subquery()
    head, frozen = connection.execute(
        select(tables.job.c.head, newest).where(tables.job.c.id == job_id)
    ).one()
    return int(head), int(frozen)
