"""Runs: the append-only log, and the state it folds to, kept in memory and extended by new lines."""

from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import datetime
from threading import RLock

from sqlalchemy import Connection, func, insert, select

from ditto_run.core.errors import NotFound, NotNow
from ditto_run.core.plan import Plan
from ditto_run.core.run import Command, Event, Now, RunState, decide, extend, fold, start_run
from ditto_run.core.run.events import PlanRevised
from ditto_run.formats.documents import BODY
from ditto_run.store import tables
from ditto_run.store.database import Database
from ditto_run.store.jobs import load_job, load_version

LONGEST_KEY = 80


@dataclass(slots=True)
class _Kept:
    """A run kept in memory. The database stays the truth; a restart folds again."""

    job_id: int
    lock: RLock = field(default_factory=RLock)
    state: RunState | None = None
    plans: dict[int, Plan] = field(default_factory=dict)


class Runs:
    """The runs of the shop."""

    def __init__(self, database: Database, clock: Callable[[], datetime]) -> None:
        self._database = database
        self._clock = clock
        self._kept: dict[int, _Kept] = {}
        self._kept_lock = RLock()

    def of_job(self, job_id: int) -> int | None:
        """Return the number of a job's newest run, or None before it has one."""
        with self._database.reading() as connection:
            return connection.execute(
                select(func.max(tables.run.c.id)).where(tables.run.c.job_id == job_id)
            ).scalar()

    def of_jobs(self) -> Mapping[int, int]:
        """Return job number to the number of its newest run."""
        with self._database.reading() as connection:
            rows = connection.execute(
                select(tables.run.c.job_id, func.max(tables.run.c.id)).group_by(tables.run.c.job_id)
            )
            return {row[0]: row[1] for row in rows}

    def start(self, job_id: int, who: str, client_key: str = "") -> int:
        """Freeze the plan as revision 1 and start the run. Returns its number; twice gives the same.

        Raises:
            NotNow: if the plan lacks what a run cannot do without.
        """
        with self._database.writing() as connection:
            found = connection.execute(select(tables.run.c.id).where(tables.run.c.job_id == job_id)).scalar()
            if found is not None:
                return int(found)
            job = load_job(connection, job_id)
            first = start_run(job.plan, 1)
            connection.execute(
                insert(tables.revision).values(job_id=job_id, revision=1, version=job.version, reason="start")
            )
            made = connection.execute(insert(tables.run).values(job_id=job_id, batch=1)).inserted_primary_key
            run_id = int(made[0]) if made else 0
            insert_event(
                connection, run_id, Event(1, self._clock(), who, client_key or f"start-{run_id}", first)
            )
            return run_id

    @contextmanager
    def folded(self, run_id: int) -> Iterator[RunState]:
        """Lend the state of a run; nobody else changes it meanwhile.

        Raises:
            NotFound: if there is no such run.
        """
        kept = self._keep(run_id)
        with kept.lock, self._database.reading() as connection:
            yield self._catch_up(connection, run_id, kept)

    def seq(self, run_id: int) -> int:
        """Return the number of the newest line of a run."""
        with self._database.reading() as connection:
            return _newest(connection, run_id)

    def record(self, run_id: int, command: Command, who: str, client_key: str) -> Event | None:
        """Decide on a command and write its line; it is kept for good before this returns.

        The same client key again writes nothing more, and returns None.

        Args:
            run_id: which run.
            command: what the person wants.
            who: initials.
            client_key: chosen by the sender.
        """
        kept = self._keep(run_id)
        key = client_key[:LONGEST_KEY]
        with kept.lock:
            with self._database.writing() as connection:
                state = self._catch_up(connection, run_id, kept)
                if key in state.client_keys:
                    return None
                if state.closed_at is not None and command.kind not in {
                    "undo",
                    "add_note",
                    "correct_reading",
                }:
                    raise NotNow("This batch is closed.", "Copy the job to run the part again.")
                now = self._now(connection, kept, state, command, who)
                body = decide(command, state, now)
                event = Event(state.seq + 1, now.at, who, key, body)
                insert_event(connection, run_id, event)
                if isinstance(body, PlanRevised):
                    self._freeze(connection, kept, body, now)
            # the line is on the disk now; only then does the state take it in
            self._take_in(run_id, kept, state, event)
            return event

    def events(self, run_id: int, after: int = 0) -> list[Event]:
        """Return the lines of a run after one of them, oldest first."""
        self._keep(run_id)
        with self._database.reading() as connection:
            return _events(connection, run_id, after)

    def plans(self, run_id: int) -> Mapping[int, Plan]:
        """Return the frozen plans of a run by revision."""
        with self.folded(run_id) as state:
            return dict(state.plans)

    def revisions(self, job_id: int) -> list[tuple[int, int, str]]:
        """Return the revisions of a job: number, plan version, reason."""
        with self._database.reading() as connection:
            return _revisions(connection, job_id)

    def ahead(self, run_id: int) -> bool:
        """Return True if the plan was changed since the revision being run."""
        kept = self._keep(run_id)
        columns = tables.revision.c
        newest = select(func.max(columns.version)).where(columns.job_id == kept.job_id).scalar_subquery()
        with self._database.reading() as connection:
            head, frozen = connection.execute(
                select(tables.job.c.head, newest).where(tables.job.c.id == kept.job_id)
            ).one()
            if head == frozen:
                return False
            return load_job(connection, kept.job_id).plan != load_version(
                connection, kept.job_id, int(frozen)
            )

    def forget(self) -> None:
        """Forget what is kept in memory; for when the database was replaced."""
        with self._kept_lock:
            self._kept.clear()

    def _keep(self, run_id: int) -> _Kept:
        with self._kept_lock:
            kept = self._kept.get(run_id)
            if kept is None:
                with self._database.reading() as connection:
                    job_id = connection.execute(
                        select(tables.run.c.job_id).where(tables.run.c.id == run_id)
                    ).scalar()
                if job_id is None:
                    raise NotFound("run", run_id)
                kept = self._kept[run_id] = _Kept(job_id)
            return kept

    def _catch_up(self, connection: Connection, run_id: int, kept: _Kept) -> RunState:
        if kept.state is None:
            kept.plans = _plans(connection, kept.job_id)
            kept.state = fold(_events(connection, run_id, 0), kept.plans)
        elif _newest(connection, run_id) > kept.state.seq:  # another process wrote
            kept.plans.update(_plans(connection, kept.job_id))
            kept.state = extend(
                kept.state, _events(connection, run_id, kept.state.seq), _events(connection, run_id, 0)
            )
        return kept.state

    def _now(self, connection: Connection, kept: _Kept, state: RunState, command: Command, who: str) -> Now:
        if command.kind != "take_revision":
            return Now(self._clock(), who)
        job = load_job(connection, kept.job_id)
        return Now(self._clock(), who, job.plan, max(state.plans) + 1)

    def _freeze(self, connection: Connection, kept: _Kept, body: PlanRevised, now: Now) -> None:
        job = load_job(connection, kept.job_id)
        values = {
            "job_id": kept.job_id,
            "revision": body.revision,
            "version": job.version,
            "reason": body.reason,
        }
        connection.execute(insert(tables.revision).values(**values))
        if now.draft is not None:
            kept.plans[body.revision] = now.draft

    def _take_in(self, run_id: int, kept: _Kept, state: RunState, event: Event) -> None:
        if event.body.kind == "undone":
            kept.state = fold(self.events(run_id), kept.plans)
        else:
            kept.state = extend(state, [event])


def insert_event(connection: Connection, run_id: int, event: Event) -> None:
    """Write one line of a log."""
    connection.execute(insert(tables.run_event), {
        "run_id": run_id, "seq": event.seq, "at": event.at.isoformat(), "who": event.who,
        "client_key": event.client_key or f"{run_id}-{event.seq}", "body": BODY.dump_json(event.body).decode(),
    })  # fmt: skip


def _newest(connection: Connection, run_id: int) -> int:
    return int(connection.execute(
        select(func.max(tables.run_event.c.seq)).where(tables.run_event.c.run_id == run_id)
    ).scalar() or 0)  # fmt: skip


def _events(connection: Connection, run_id: int, after: int) -> list[Event]:
    columns = tables.run_event.c
    rows = connection.execute(
        select(columns.seq, columns.at, columns.who, columns.client_key, columns.body)
        .where(columns.run_id == run_id, columns.seq > after)
        .order_by(columns.seq)
    ).all()
    return [
        Event(seq, datetime.fromisoformat(at), who, key, BODY.validate_json(body))
        for seq, at, who, key, body in rows
    ]


def _revisions(connection: Connection, job_id: int) -> list[tuple[int, int, str]]:
    columns = tables.revision.c
    rows = connection.execute(
        select(columns.revision, columns.version, columns.reason)
        .where(columns.job_id == job_id)
        .order_by(columns.revision)
    )
    return [(int(number), int(version), str(reason)) for number, version, reason in rows.all()]


def _plans(connection: Connection, job_id: int) -> dict[int, Plan]:
    return {
        number: load_version(connection, job_id, version)
        for number, version, _ in _revisions(connection, job_id)
    }
