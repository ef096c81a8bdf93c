"""Takes a job out of the shop as a bundle, and brings one in: all of it or nothing."""

import base64

from ditto_run.desk.plans import Plans
from ditto_run.desk.runs import Runs
from ditto_run.desk.worker import Worker
from ditto_run.formats.documents import PLAN
from ditto_run.formats.job_bundle import (
    Bundle,
    BundleDrawing,
    BundleEvent,
    BundleRevision,
    BundleRun,
    BundleVersion,
    read_bundle,
)
from ditto_run.store.bundles import insert_bundle, version_rows
from ditto_run.store.database import Database
from ditto_run.store.runs import Logs, event_row, lay_out
from ditto_run.store.shop import Shop


class Bundles:
    """Bundles of whole jobs."""

    def __init__(self, database: Database, shop: Shop, jobs: Plans, runs: Runs, worker: Worker) -> None:
        self._database, self._shop, self._jobs, self._runs = database, shop, jobs, runs
        self._worker = worker

    def take_out(self, job_id: int) -> Bundle:
        """Return a job with everything that belongs to it."""
        job = self._jobs.load(job_id)
        with self._database.reading() as connection:
            rows = version_rows(connection, job_id)
        versions = [
            BundleVersion(
                version=row.version,
                parent=row.parent,
                what=row.what,
                who=row.who,
                at=row.at,
                step=row.step,
                same_as=row.same_as,
                redo_from=row.redo_from,
                plan=PLAN.validate_json(row.document),
            )
            for row in rows
        ]
        registers = self._shop.load()
        named = [entry.plan for entry in versions]
        machine_ids = {cycle.machine_id for plan in named for cycle in plan.cycles}
        machine_ids |= {s.machine_id for plan in named for one in plan.all_parts for s in one.plan.setups}
        gauge_ids = {c.gauge_id for plan in named for c in plan.all_characteristics}
        revisions = self._runs.revisions(job_id)
        return Bundle(
            versions=versions,
            head=job.version,
            revisions=[
                BundleRevision(revision=r.number, version=r.version, reason=r.reason, shop=r.shop)
                for r in revisions
            ],
            runs=[self._run(batch, run_id) for batch, run_id in self._runs.batches(job_id).items()],
            drawings=[*self._drawings(job_id)],
            machines=[machine for machine in registers.machines.values() if machine.id in machine_ids],
            gauges=[gauge for gauge in registers.gauges.values() if gauge.id in gauge_ids],
        )

    def _run(self, batch: int, run_id: int) -> BundleRun:
        events = [
            BundleEvent(seq=e.seq, at=e.at, who=e.who, client_key=e.client_key, body=e.body)
            for e in self._runs.events(run_id)
        ]
        return BundleRun(batch=batch, events=events)

    def _drawings(self, job_id: int) -> list[BundleDrawing]:
        found = [self._jobs.attachment(job_id, entry.id) for entry in self._jobs.attachments(job_id)]
        return [
            BundleDrawing(name=d.name, media_type=d.media_type, content=base64.b64encode(d.content).decode())
            for d in found
        ]

    def read(self, content: bytes) -> int:
        """Keep the job of a bundle file as a new job. Returns its number.

        Raises:
            FileNotRead: if the file does not hold together; nothing was changed then, in the registers neither.
        """
        return self._keep(*self._worker.run(_read, content))

    def bring_in(self, bundle: Bundle) -> int:
        """Keep the job of a checked bundle as a new job. Returns its number."""
        return self._keep(bundle, _logs(bundle))

    def _keep(self, bundle: Bundle, logs: Logs) -> int:
        with self._database.writing(shop=True, first=lambda own: lay_out(own, logs)) as connection:
            return insert_bundle(connection, self._jobs, bundle, logs)


def _logs(bundle: Bundle) -> Logs:
    return {run.batch: [event_row(event.as_event()) for event in run.events] for run in bundle.runs}


def _read(content: bytes) -> tuple[Bundle, Logs]:
    """Return the bundle of a file without its log, and the log as it is kept: thousands of plain lines pass quickly."""
    bundle = read_bundle(content)
    return bundle.model_copy(update={"runs": []}), _logs(bundle)
