"""What happens at the machine: a line decided, written and taken in, with whatever else it moves.

A line and what it does to the register of offsets are one transaction: a kill leaves both or neither.
"""

import gc
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager, suppress
from dataclasses import dataclass, field, replace
from datetime import datetime
from threading import Lock, RLock

from sqlalchemy import Connection

from ditto_run.core.errors import ChangedMeanwhile, DittoError, NotFound, NotNow
from ditto_run.core.plan import Changed, Plan, ShopKnown, shop_used
from ditto_run.core.run import Command, Event, Now, RunState, decide, extend, fold, start_run
from ditto_run.core.run.batches import last_number, require_next
from ditto_run.core.run.events import (
    Adjustment,
    PlanRevised,
    ProofTicked,
    Redone,
    Undone,
    redoable,
    register_change,
    undoable,
)
from ditto_run.core.shop.forgotten import Forgotten
from ditto_run.store.database import Database
from ditto_run.store.drawers import rows_in, write_row
from ditto_run.store.jobs import load_job, load_version, save_version
from ditto_run.store.offsets import standing_offsets, write_offsets
from ditto_run.store.runs import (
    Revision,
    batches_of,
    events_after,
    frozen_plans,
    insert_event,
    insert_revision,
    insert_run,
    job_of_run,
    newest_line,
    newest_run,
    newest_runs,
    newest_used,
    newest_versions,
    revisions_of,
)
from ditto_run.store.shop import machine_in

LONGEST_KEY = 80
AFTER_CLOSING = {
    "undo",
    "redo",
    "add_note",
    "correct_reading",
    "send_out",
    "come_back",
    "gauge_after",
    "try_fit",
    "prove_function",
    "count_tray",
    "reopen_run",
    "say_fact",
    "put_lesson",
    "work_by_hand",
}
OF_THE_NEWEST = {"undo", "redo", "reopen_run"}
MOVES_OFFSETS = {"adjust", "undo", "redo"}
LOOKS_AT_OFFSETS = MOVES_OFFSETS | {"tick_proof"}


@dataclass(slots=True)
class _Kept:
    """A run kept in memory. The database stays the truth; a restart folds again."""

    job_id: int
    lock: RLock = field(default_factory=RLock)
    state: RunState | None = None
    plans: dict[int, Plan] = field(default_factory=dict)
    ahead: tuple[int, bool] = (0, False)
    swaps: int = 0


class Runs:
    """The runs of the shop."""

    def __init__(
        self, database: Database, clock: Callable[[], datetime], shop: Callable[[], ShopKnown] = ShopKnown
    ) -> None:
        self._database = database
        self._shop = shop
        self._clock = clock
        self._kept: dict[int, _Kept] = {}
        self._kept_lock = RLock()
        self._watchers = Watchers()
        self._of_job: tuple[int, dict[int, int | None]] = (0, {})

    def of_job(self, job_id: int) -> int | None:
        """Return the number of a job's newest run, or None before it has one."""
        version, known = self._of_job
        if version != self._database.plans_version:
            self._of_job = version, known = self._database.plans_version, {}
        if job_id not in known:
            with self._database.reading() as connection:
                known[job_id] = newest_run(connection, job_id)
        return known[job_id]

    def require(self, job_id: int) -> int:
        """Return the number of a job's run.

        Raises:
            NotFound: before it has one.
        """
        run_id = self.of_job(job_id)
        if run_id is None:
            raise NotFound("run of job", job_id, "Start it on its Run page.")
        return run_id

    def batches(self, job_id: int) -> Mapping[int, int]:
        """Return batch to the number of its run, of one job, the first batch first."""
        with self._database.reading() as connection:
            return batches_of(connection, job_id)

    def of_batch(self, job_id: int, batch: int) -> int:
        """Return the number of the run of a batch; 0 is the newest one.

        Raises:
            NotFound: if the job was not run that often.
        """
        if not batch:
            return self.require(job_id)
        found = self.batches(job_id).get(batch)
        if found is None:
            raise NotFound("batch", batch, "Choose one of those on Close.")
        return found

    def of_jobs(self) -> Mapping[int, int]:
        """Return job number to the number of its newest run."""
        with self._database.reading() as connection:
            return newest_runs(connection)

    def start(
        self,
        job_id: int,
        who: str,
        client_key: str = "",
        version: int = 0,
        noted: Plan | None = None,
        batch: int = 1,
    ) -> int:
        """Freeze the plan and start the run of a batch. Returns its number; twice gives the same.

        A revision that was frozen from this very version before is taken again.

        Args:
            job_id: which job.
            who: initials.
            client_key: chosen by the sender.
            version: the version that was looked at; 0 takes the newest.
            noted: that version with the notes on what was let stand; kept as a version of its own.
            batch: which time the job is run, from 1.

        Raises:
            ChangedMeanwhile: if the plan was changed since it was looked at.
            NotNow: if the plan lacks what a run cannot do without.
        """
        shop = self._shop()
        with self._standing(job_id) as last, self._database.writing() as connection:
            known = batches_of(connection, job_id)
            if batch <= len(known):
                return known[batch]
            require_next(batch, len(known), last)
            job = load_job(connection, job_id)
            if version and version != job.version:
                raise ChangedMeanwhile(job.who, job.what, job.version)
            if noted is not None:
                job = save_version(
                    connection, job, Changed(noted, "let stand at the start"), who, self._clock()
                )
            before = revisions_of(connection, job_id)
            again = next((frozen.number for frozen in before if frozen.version == job.version), None)
            number = again or len(before) + 1
            first = start_run(job.plan, number, batch, last_number(last))
            if again is None:
                reason = "start" if batch == 1 else f"start of batch {batch}"
                frozen = Revision(number, job.version, reason, shop_used(job.plan, shop))
                insert_revision(connection, job_id, frozen)
            run_id = insert_run(connection, job_id, batch)
            key = client_key or f"start-{run_id}"
            insert_event(connection, run_id, Event(1, self._clock(), who, key, first))
            return run_id

    @contextmanager
    def _standing(self, job_id: int) -> Iterator[RunState | None]:
        """Lend the newest run of a job; None before there is one."""
        run_id = self.of_job(job_id)
        if run_id is None:
            yield None
        else:
            with self.folded(run_id) as state:
                yield state

    @contextmanager
    def folded(self, run_id: int) -> Iterator[RunState]:
        """Lend the state of a run; nobody else changes it meanwhile.

        Raises:
            NotFound: if there is no such run.
        """
        kept = self._keep(run_id)
        with kept.lock:
            state = kept.state
            here = kept.swaps == self._database.swaps  # read from the file that is here now
            if state is None or not here or self._database.newest_lines.get(run_id) != state.seq:
                with self._database.reading() as connection:
                    state = self._catch_up(connection, run_id, kept)
                self._tell_newest(run_id, state.seq)
            yield state

    def job_of(self, run_id: int) -> int:
        """Return the number of the job a run is of. NotFound if there is no such run."""
        return self._keep(run_id).job_id

    def last_used(self) -> int:
        """Return the number of the run that was written to last; 0 before there is one."""
        with self._database.reading() as connection:
            return newest_used(connection) or 0

    def take_up_last(self) -> None:
        """Fold the run that was written to last, so that whoever opens its page does not wait for it."""
        run_id = self.last_used()
        if run_id:
            with suppress(DittoError), self.folded(run_id):  # what is wrong with it is said on its page
                pass

    def seq(self, run_id: int) -> int:
        """Return the number of the newest line of a run."""
        with self._database.reading() as connection:
            return newest_line(connection, run_id)

    def watch(self, run_id: int, tell: Callable[[int], None]) -> Callable[[], None]:
        """Have `tell` called with the number of each new line once it is kept. Returns what ends it."""
        return self._watchers.add(run_id, tell)

    def record(
        self, run_id: int, command: Command, who: str, client_key: str, cycle: int = 0
    ) -> Event | None:
        """Decide on a command and write its line; it is kept for good before this returns.

        An offset it moves is moved in the register within the same transaction. The same client key again writes
        nothing more, and returns None.

        Args:
            run_id: which run.
            command: what the person wants.
            who: initials.
            client_key: chosen by the sender.
            cycle: the cycle it is about; 0, or one that is not open any more, for the one opened last.
        """
        kept = self._keep(run_id)
        key = client_key[:LONGEST_KEY]
        shop = self._shop() if command.kind == "take_revision" else None
        with kept.lock:
            moves = command.kind in MOVES_OFFSETS
            line = command.kind != "take_revision"
            with self._database.writing(offsets=moves, line=line) as connection:
                state = self._catch_up(connection, run_id, kept)
                if key in state.client_keys:
                    return None
                if state.closed_at is not None and command.kind not in AFTER_CLOSING:
                    raise NotNow("This batch is closed.", "Begin the next batch on Close.")
                if command.kind in OF_THE_NEWEST and newest_run(connection, kept.job_id) != run_id:
                    raise NotNow(
                        "The next batch has begun; this one stays as it is.", "Write a note instead."
                    )
                meant = state.near(cycle)
                now = self._now(connection, kept, meant, command, who)
                event = Event(state.seq + 1, now.at, who, key, decide(command, meant, now))
                insert_event(connection, run_id, event)
                self._write_beside(connection, kept, state, event, now, shop)
            # everything is on the disk now; only then does the state take the line in
            self._tell_newest(run_id, event.seq)
            self._take_in(run_id, kept, state, event)
        self._watchers.tell(run_id, event.seq)
        return event

    def events(self, run_id: int, after: int = 0, most: int | None = None) -> list[Event]:
        """Return the lines of a run after one of them, oldest first; no more than `most`."""
        self._keep(run_id)
        with self._database.reading() as connection:
            return events_after(connection, run_id, after, most)

    def plans(self, run_id: int) -> Mapping[int, Plan]:
        """Return the frozen plans of a run by revision."""
        with self.folded(run_id) as state:
            return dict(state.plans)

    def revisions(self, job_id: int) -> list[Revision]:
        """Return the revisions of a job, oldest first."""
        with self._database.reading() as connection:
            return revisions_of(connection, job_id)

    def ahead(self, run_id: int) -> bool:
        """Return True if the plan was changed since the revision being run."""
        kept, version = self._keep(run_id), self._database.plans_version
        if kept.ahead[0] != version:
            with self._database.reading() as connection:
                head, frozen = newest_versions(connection, kept.job_id)
                other = head != frozen and (
                    load_job(connection, kept.job_id).plan != load_version(connection, kept.job_id, frozen)
                )
            kept.ahead = version, other
        return kept.ahead[1]

    def forget(self) -> None:
        """Forget what is kept in memory; for when the database was replaced."""
        with self._kept_lock:
            self._kept.clear()

    def _tell_newest(self, run_id: int, seq: int) -> None:
        newest = self._database.newest_lines
        newest[run_id] = max(seq, newest.get(run_id, 0))

    def _keep(self, run_id: int) -> _Kept:
        with self._kept_lock:
            kept = self._kept.get(run_id)
            if kept is None:
                swaps = self._database.swaps  # before the job is read: a swap in between is then seen
                with self._database.reading() as connection:
                    job_id = job_of_run(connection, run_id)
                if job_id is None:
                    raise NotFound("run", run_id)
                kept = self._kept[run_id] = _Kept(job_id, swaps=swaps)
            return kept

    def _catch_up(self, connection: Connection, run_id: int, kept: _Kept) -> RunState:
        if kept.swaps != self._database.swaps:  # it was read from a file that is no longer here
            job_id = job_of_run(connection, run_id)
            if job_id is None:
                raise NotFound("run", run_id)
            kept.job_id, kept.state, kept.swaps = job_id, None, self._database.swaps
        if kept.state is None:
            kept.plans = frozen_plans(connection, kept.job_id)
            with _no_collector():
                kept.state = fold(events_after(connection, run_id), kept.plans)
        elif newest_line(connection, run_id) > kept.state.seq:  # another process wrote
            kept.plans.update(frozen_plans(connection, kept.job_id))
            new = events_after(connection, run_id, kept.state.seq)
            kept.state = extend(kept.state, new, events_after(connection, run_id))
        return kept.state

    def _now(self, connection: Connection, kept: _Kept, state: RunState, command: Command, who: str) -> Now:
        now = Now(self._clock(), who)
        if command.kind == "take_revision":
            draft = load_job(connection, kept.job_id).plan
            return replace(now, draft=draft, draft_revision=max(state.plans) + 1)
        if command.kind in LOOKS_AT_OFFSETS:
            machine = machine_in(connection, _machine_meant(state, command, who))
            if machine is not None:
                offsets = standing_offsets(connection, machine_id=machine.id).get(machine.id, {})
                now = replace(now, machine=machine, offsets=offsets)
            if command.kind == "tick_proof":
                return replace(now, forgotten=tuple(row.value for row in rows_in(connection, "forgotten")))
        return now

    def _write_beside(
        self,
        connection: Connection,
        kept: _Kept,
        state: RunState,
        event: Event,
        now: Now,
        shop: ShopKnown | None,
    ) -> None:
        """Write what a line moves besides the log: a frozen plan, an offset of the register."""
        body = event.body
        if isinstance(body, PlanRevised) and now.draft is not None:
            version = load_job(connection, kept.job_id).version
            used = shop_used(now.draft, shop) if shop else None
            insert_revision(connection, kept.job_id, Revision(body.revision, version, body.reason, used))
            kept.plans[body.revision] = now.draft
        moved: object = body
        back = False
        looked = 1
        if isinstance(body, Undone):
            moved, back = next((e.body for e in state.recent_events if e.seq == body.undoes), body), True
            looked = -1
        elif isinstance(body, Redone):
            moved = state.undone_bodies[body.redoes]
        if isinstance(moved, ProofTicked) and not moved.waived:
            _count_look(connection, moved.item, looked)
        change = register_change(moved, back=back) if isinstance(moved, Adjustment) else None
        if change is not None and now.machine is not None:
            write_offsets(connection, now.machine, [change], event.who, now.at)

    def _take_in(self, run_id: int, kept: _Kept, state: RunState, event: Event) -> None:
        if isinstance(event.body, Undone | Redone):
            kept.state = fold(self.events(run_id), kept.plans)
        else:
            kept.state = extend(state, [event])


def _count_look(connection: Connection, item: str, looks: int) -> None:
    """Count that a thing which was forgotten before was looked at, so that it becomes habit."""
    for row in rows_in(connection, "forgotten"):
        found: Forgotten = row.value
        if found.key == item:
            write_row(connection, row.id, replace(found, looked=max(found.looked + looks, 0)).texts)


@contextmanager
def _no_collector() -> Iterator[None]:
    """Keep the collector from walking what a long log becomes: all of it stays, and looking takes as long as folding."""
    was = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was:
            gc.enable()


def _machine_meant(state: RunState, command: Command, who: str) -> int | None:
    """Return the machine whose register a command may touch: the setup's, or the one an undone line moved."""
    found = None
    if command.kind == "undo":
        found = undoable(state, who)
    elif command.kind == "redo":
        found = redoable(state, who)
    if found is not None:
        body = next(
            (e.body for e in state.recent_events if e.seq == found[0]), state.undone_bodies.get(found[0])
        )
        if isinstance(body, Adjustment) and body.moved is not None:
            return body.moved.machine
    return state.plan.cycle(state.cycle).machine_id


class Watchers:
    """Who wants to hear of new lines, by run."""

    def __init__(self) -> None:
        self._lock = Lock()
        self._tell: dict[int, list[Callable[[int], None]]] = {}

    def add(self, run_id: int, tell: Callable[[int], None]) -> Callable[[], None]:
        """Add one who is told. Returns what ends it."""
        with self._lock:
            self._tell.setdefault(run_id, []).append(tell)

        def end() -> None:
            with self._lock:
                self._tell[run_id].remove(tell)

        return end

    def tell(self, run_id: int, seq: int) -> None:
        """Tell all who watch a run of its newest line."""
        with self._lock:
            found = [*self._tell.get(run_id, ())]
        for tell in found:
            tell(seq)
