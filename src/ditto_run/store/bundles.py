"""Rows of a whole job, written within a session of the caller: versions, run, log, drawings, and what of the shop it names."""

from collections.abc import Iterable, Mapping
from dataclasses import replace

from sqlalchemy import Connection, Row, delete, insert, select, update

from ditto_run.core.plan import Plan, ShopKnown
from ditto_run.formats.documents import PLAN
from ditto_run.formats.job_bundle import Bundle, BundleVersion
from ditto_run.store import tables
from ditto_run.store.jobs import Jobs
from ditto_run.store.runs import Revision, insert_laid_out, insert_revision, insert_run
from ditto_run.store.shop import insert_gauge, insert_machine, registers_in


def version_rows(connection: Connection, job_id: int) -> list[Row[tuple[object, ...]]]:
    """Return the versions of a job as they are kept, oldest first."""
    columns = tables.plan_version.c
    query = select(tables.plan_version).where(columns.job_id == job_id).order_by(columns.version)
    return [*connection.execute(query).all()]


def insert_bundle(connection: Connection, jobs: Jobs, bundle: Bundle, batches: Iterable[int]) -> int:
    """Write a checked bundle as a new job. Returns its number.

    Machines and gauges it names are matched with the shop's by their values, else added.

    Args:
        connection: holds the database for writing.
        jobs: the jobs of the shop.
        bundle: checked whole.
        batches: those whose log is laid ready.
    """
    machine_of, gauge_of = _machines(connection, bundle), _gauges(connection, bundle)
    first = bundle.versions[0]
    job_id = jobs.insert(connection, _renamed(first.plan, machine_of, gauge_of), first.who)
    connection.execute(delete(tables.plan_version).where(tables.plan_version.c.job_id == job_id))
    for entry in bundle.versions:
        _insert_version(connection, job_id, entry, _renamed(entry.plan, machine_of, gauge_of))
    connection.execute(update(tables.job).where(tables.job.c.id == job_id).values(head=bundle.head))
    for revision in bundle.revisions:
        shop = _shop_renamed(revision.shop, machine_of)
        frozen = Revision(revision.revision, revision.version, revision.reason, shop)
        insert_revision(connection, job_id, frozen)
    for batch in batches:
        insert_laid_out(connection, insert_run(connection, job_id, batch), batch)
    for drawing in bundle.drawings:
        values = {"name": drawing.name[:120], "media_type": drawing.media_type, "content": drawing.raw}
        connection.execute(insert(tables.attachment).values(job_id=job_id, **values))
    return job_id


def _insert_version(connection: Connection, job_id: int, entry: BundleVersion, plan: Plan) -> None:
    connection.execute(
        insert(tables.plan_version).values(
            job_id=job_id,
            version=entry.version,
            parent=entry.parent,
            document=PLAN.dump_json(plan).decode(),
            what=entry.what,
            who=entry.who,
            at=entry.at.isoformat(),
            step=entry.step,
            same_as=entry.same_as,
            redo_from=entry.redo_from,
        )
    )


def _machines(connection: Connection, bundle: Bundle) -> dict[int, int]:
    shop = registers_in(connection)
    known = {(m.name, m.kind, m.offset_codes): number for number, m in shop.machines.items()}
    return {
        m.id: known.get((m.name, m.kind, m.offset_codes)) or insert_machine(connection, replace(m, id=0))
        for m in bundle.machines
    }


def _gauges(connection: Connection, bundle: Bundle) -> dict[int, int]:
    shop = registers_in(connection)
    known = {(g.name, g.resolution, g.unit): number for number, g in shop.gauges.items()}
    return {
        g.id: known.get((g.name, g.resolution, g.unit)) or insert_gauge(connection, replace(g, id=0))
        for g in bundle.gauges
    }


def _renamed(plan: Plan, machine_of: Mapping[int, int], gauge_of: Mapping[int, int]) -> Plan:
    """Return the plan with the numbers that machines and gauges have in this shop."""
    setups = tuple(replace(s, machine_id=machine_of.get(s.machine_id or 0)) for s in plan.setups)
    kept = tuple(replace(c, gauge_id=gauge_of.get(c.gauge_id or 0)) for c in plan.characteristics)
    cycles = tuple(replace(c, machine_id=machine_of.get(c.machine_id or 0)) for c in plan.cycles)
    others = tuple(replace(o, plan=_renamed(o.plan, machine_of, gauge_of)) for o in plan.companions)
    return replace(plan, setups=setups, characteristics=kept, cycles=cycles, companions=others)


def _shop_renamed(shop: ShopKnown | None, machine_of: Mapping[int, int]) -> ShopKnown | None:
    """Return what a revision was frozen with, its machines under the numbers they have in this shop."""
    if shop is None:
        return None
    known = [
        (machine_of[number], machine) for number, machine in shop.machines.items() if number in machine_of
    ]
    return replace(shop, machines={number: replace(machine, id=number) for number, machine in known})
