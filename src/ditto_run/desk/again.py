"""The next batch of a job: what it starts from, what differs today, and what goes along from the last one."""

from contextlib import suppress

from ditto_run.core.close.repeat import DiffersToday, ShopToday, differs_today, starts_from
from ditto_run.core.errors import DittoError
from ditto_run.core.run.events import Command, GaugeEvery, GiveSize
from ditto_run.core.shop.shop_lists import overdue
from ditto_run.core.units import day_text
from ditto_run.desk.desk import Desk


def next_batch(desk: Desk, job_id: int) -> tuple[tuple[str, ...], tuple[DiffersToday, ...]]:
    """Return what the next batch of a job starts from, and what is not as it was.

    Args:
        desk: the desk.
        job_id: which job; its newest batch is the one before.
    """
    plan, shop = desk.jobs.load(int(job_id)).plan, desk.shop.load()
    changed = desk.shop_changed(int(job_id))
    with desk.runs.folded(desk.runs.require(int(job_id))) as last:
        offsets = {number: shop.register.of(number) for number in shop.machines}
        today = ShopToday(shop.machines, shop.gauges, offsets, changed)
        found = differs_today(last, plan, today, desk.now)
        return starts_from(last), (*_gauges(desk, job_id), *found)


def _gauges(desk: Desk, job_id: int) -> tuple[DiffersToday, ...]:
    """Gauges of the job whose check is out of date."""
    gauges = desk.shop.load().gauges
    checks = tuple(row.value for row in desk.drawers.rows("gauge_checks"))
    used = {c.gauge_id for c in desk.jobs.load(int(job_id)).plan.all_characteristics if c.gauge_id in gauges}
    found = []
    for number in sorted(used, key=lambda one: one or 0):
        name = gauges[number or 0].name
        since = overdue(checks, name, desk.now.astimezone().date())
        if since is not None:
            found.append(
                DiffersToday(f"The check of {name} was due on {day_text(since)}", "it on its master")
            )
    return tuple(found)


def carry_over(desk: Desk, job_id: int, run_id: int, batch: int, who: str) -> int:
    """Write into a new batch what was said on Run in the one before and still fits: how often a size is gauged, where. Returns how much.

    Args:
        desk: the desk.
        job_id: which job.
        run_id: of the new batch.
        batch: its number, 2 or more.
        who: initials.
    """
    with desk.runs.folded(desk.runs.of_batch(job_id, batch - 1)) as last:
        every, given = dict(last.every), dict(last.given_to)
    with desk.runs.folded(run_id) as state:
        numbers = {c.number for c in state.plan.all_characteristics}
        setups = {setup.key for part in state.plan.all_parts for setup in part.plan.setups}
    wanted: list[tuple[str, Command]] = [
        *((f"again-given-{n}", GiveSize(n, to)) for n, to in given.items() if n in numbers and to in setups),
        *((f"again-every-{n}", GaugeEvery(n, loads)) for n, loads in every.items() if n in numbers),
    ]
    kept = 0
    for key, command in wanted:
        with suppress(DittoError):  # it does not fit the new batch any more
            kept += desk.runs.record(run_id, command, who, key) is not None
    return kept
