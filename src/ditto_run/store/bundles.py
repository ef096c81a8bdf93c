"""Takes a job out of the shop as a bundle, and brings one in."""

import base64
from dataclasses import replace
from typing import TypeVar

from sqlalchemy import Connection, insert, select

from ditto_run.core.edits import Changed
from ditto_run.core.plan import Plan
from ditto_run.core.run import Event
from ditto_run.core.shop import Gauge, Machine
from ditto_run.formats.documents import PLAN
from ditto_run.formats.job_bundle import Bundle, BundleDrawing, BundleEvent, BundleRevision, BundleVersion
from ditto_run.store import tables
from ditto_run.store.database import Database
from ditto_run.store.jobs import Jobs, load_job
from ditto_run.store.runs import Runs, insert_event
from ditto_run.store.shop import Shop

T = TypeVar("T", Machine, Gauge)


class Bundles:
    """Bundles of whole jobs."""

    def __init__(self, database: Database, shop: Shop, jobs: Jobs, runs: Runs) -> None:
        self._database, self._shop, self._jobs, self._runs = database, shop, jobs, runs

    def take_out(self, job_id: int) -> Bundle:
        """Return a job with everything that belongs to it."""
        job = self._jobs.load(job_id)
        columns = tables.plan_version.c
        with self._database.reading() as connection:
            rows = connection.execute(
                select(tables.plan_version).where(columns.job_id == job_id).order_by(columns.version)
            ).all()
        versions = [
            BundleVersion(version=row.version, parent=row.parent, what=row.what, who=row.who, at=row.at,
                          plan=PLAN.validate_json(row.document)) for row in rows
        ]  # fmt: skip
        run_id = self._runs.of_job(job_id)
        events = self._runs.events(run_id) if run_id is not None else []
        registers = self._shop.load()
        named = [entry.plan for entry in versions]
        machine_ids = {setup.machine_id for plan in named for setup in plan.setups}
        gauge_ids = {c.gauge_id for plan in named for c in plan.characteristics}
        return Bundle(
            versions=versions, head=job.version,
            revisions=[BundleRevision(revision=r, version=v, reason=why) for r, v, why in self._runs.revisions(job_id)],
            events=[_bundled(event) for event in events], drawings=[*self._drawings(job_id)],
            machines=[machine for machine in registers.machines.values() if machine.id in machine_ids],
            gauges=[gauge for gauge in registers.gauges.values() if gauge.id in gauge_ids],
        )  # fmt: skip

    def _drawings(self, job_id: int) -> list[BundleDrawing]:
        found = [self._jobs.attachment(job_id, entry.id) for entry in self._jobs.attachments(job_id)]
        return [
            BundleDrawing(name=d.name, media_type=d.media_type, content=base64.b64encode(d.content).decode())
            for d in found
        ]

    def bring_in(self, bundle: Bundle) -> int:
        """Keep the job of a bundle as a new job, all of it or nothing. Returns its number.

        Machines and gauges it names are matched with the shop's by their values, else added.
        """
        machine_of = self._matched_machines(bundle)
        gauge_of = self._matched_gauges(bundle)
        with self._database.writing() as connection:
            first = bundle.versions[0]
            job_id = self._jobs.insert(connection, first.plan, first.who)
            connection.execute(tables.plan_version.delete().where(tables.plan_version.c.job_id == job_id))
            for entry in bundle.versions:
                plan = _renamed(entry.plan, machine_of, gauge_of)
                _insert(connection, job_id, entry, plan)
            connection.execute(tables.job.update().where(tables.job.c.id == job_id).values(head=bundle.head))
            if bundle.events:
                made = connection.execute(
                    insert(tables.run).values(job_id=job_id, batch=1)
                ).inserted_primary_key
                run_id = int(made[0]) if made else 0
                for revision in bundle.revisions:
                    values = {
                        "job_id": job_id,
                        "revision": revision.revision,
                        "version": revision.version,
                        "reason": revision.reason,
                    }
                    connection.execute(insert(tables.revision).values(**values))
                for event in bundle.events:
                    insert_event(connection, run_id, event.as_event())
            for drawing in bundle.drawings:
                values = {
                    "job_id": job_id,
                    "name": drawing.name[:120],
                    "media_type": drawing.media_type,
                    "content": drawing.raw,
                }
                connection.execute(insert(tables.attachment).values(**values))
            load_job(connection, job_id)
        return job_id

    def _matched_machines(self, bundle: Bundle) -> dict[int, int]:
        known = {(m.name, m.kind, m.offset_codes): number for number, m in self._shop.load().machines.items()}
        return {
            m.id: known.get((m.name, m.kind, m.offset_codes)) or self._shop.save_machine(_unnumbered(m))
            for m in bundle.machines
        }

    def _matched_gauges(self, bundle: Bundle) -> dict[int, int]:
        known = {(g.name, g.resolution, g.unit): number for number, g in self._shop.load().gauges.items()}
        return {
            g.id: known.get((g.name, g.resolution, g.unit)) or self._shop.save_gauge(_unnumbered(g))
            for g in bundle.gauges
        }


def _bundled(event: Event) -> BundleEvent:
    return BundleEvent(
        seq=event.seq, at=event.at, who=event.who, client_key=event.client_key, body=event.body
    )


def _insert(connection: Connection, job_id: int, entry: BundleVersion, plan: Plan) -> None:
    changed = Changed(plan, entry.what)
    connection.execute(insert(tables.plan_version).values(
        job_id=job_id, version=entry.version, parent=entry.parent, document=PLAN.dump_json(changed.plan).decode(),
        what=changed.what, who=entry.who, at=entry.at.isoformat(),
    ))  # fmt: skip


def _unnumbered(thing: T) -> T:
    return replace(thing, id=0)


def _renamed(plan: Plan, machine_of: dict[int, int], gauge_of: dict[int, int]) -> Plan:
    """Return the plan with the numbers that machines and gauges have in this shop."""
    setups = tuple(replace(s, machine_id=machine_of.get(s.machine_id or 0)) for s in plan.setups)
    kept = tuple(replace(c, gauge_id=gauge_of.get(c.gauge_id or 0)) for c in plan.characteristics)
    return replace(plan, setups=setups, characteristics=kept)
