"""Kills a process in the middle of its work, and looks at what it left: nothing lost, doubled or torn apart.

`python -m bench.kills KIND FOLDER` is the victim; `kill_once` starts it, kills it, and opens what is left.
"""

import json
import sqlite3
import subprocess
import sys
import time
from collections.abc import Callable
from decimal import Decimal
from pathlib import Path
from random import Random

from ditto_run.core.edits import (
    PlanRegisters,
    SetCharacteristic,
    SetSetup,
    SetStation,
    SetToolStep,
    apply_edit,
)
from ditto_run.core.part import Heading
from ditto_run.core.place.offsets import OffsetChange
from ditto_run.core.plan import Plan
from ditto_run.core.run import events as do
from ditto_run.core.shop import Machine, read_codes
from ditto_run.desk import Desk, open_desk
from ditto_run.formats.job_bundle import write_bundle
from ditto_run.settings import Settings
from ditto_run.store.database import FILE_NAME, HEAD, upgrade

STEP = Decimal("0.01")
START = Decimal(-300)
SCHEMAS = tuple(f"{number:04d}" for number in range(1, int(HEAD)))
KINDS = ("adjust", "import", "restore", "first start", *(f"upgrade {schema}" for schema in SCHEMAS))


def small_plan() -> Plan:
    """Return a plan with one size, one setup and one station."""
    plan = Plan(Heading("Pin", 1000))
    shop = PlanRegisters({1: Machine(1, "Mill 2", "mill", read_codes("G54-G59"))})
    for edit in (
        SetCharacteristic("shank", "12 ±0.02"),
        SetSetup("turn", 1, "collet"),
        SetStation(2, "L", "collet", "G54"),
        SetToolStep(2, 1, "turn", "0:01"),
    ):
        plan = apply_edit(edit, plan, shop).plan
    return plan


def fill(folder: Path) -> None:
    """Make a shop with a machine, an offset and a run, as the victims of the first kinds want it."""
    desk = open_desk(Settings(folder))
    desk.shop.begin("mm", "RK", Machine(0, "Mill 2", "mill", read_codes("G54-G59")))
    desk.offsets.write(desk.shop.machine(1), [OffsetChange("G54", {"z": START})], "RK")
    desk.runs.start(desk.jobs.new(small_plan(), "RK"), "RK")
    desk.backups.write(folder / "first.backup")
    (folder / "job.json").write_bytes(write_bundle(desk.bundles.take_out(1)))
    desk.close()


def old_shop(folder: Path, schema: str) -> None:
    """Make a shop of an earlier schema, with a job in it."""
    from ditto_run.formats.documents import PLAN  # noqa: PLC0415
    from ditto_run.store.database import _engine  # noqa: PLC0415 - before there is a database to open

    engine = _engine(folder / FILE_NAME)
    upgrade(engine, schema)
    engine.dispose()
    document, at = PLAN.dump_json(small_plan()).decode(), "2026-01-01T08:00:00+00:00"
    with sqlite3.connect(folder / FILE_NAME) as connection:
        connection.execute("INSERT INTO job (id, created_at, is_demo, head) VALUES (1, ?, 0, 1)", (at,))
        connection.execute(
            "INSERT INTO plan_version (job_id, version, document, what, who, at)"
            " VALUES (1, 1, ?, 'new job', 'RK', ?)",
            (document, at),
        )
    connection.close()


def victim(kind: str, folder: Path) -> None:
    """Work until killed, and say what was done once it is done."""
    desk = open_desk(Settings(folder))
    print("ready", flush=True)
    for number in range(100_000):
        if kind == "adjust":
            amount = f"{STEP if number % 3 else -STEP}"
            desk.runs.record(1, do.Adjust("G54 Z", amount), "RK", f"{time.time_ns()}")
        elif kind == "import":
            desk.bundles.bring_in(desk.bundles.take_out(1))
        elif kind == "restore":
            desk.jobs.new(small_plan(), "RK")
            desk.backups.restore((folder / "first.backup").read_bytes())
        else:
            return
        print(number, flush=True)


def kill_once(kind: str, folder: Path, seed: int) -> list[str]:
    """Start a victim, kill it somewhere in its work, and return what is wrong with what it left."""
    random = Random(seed)
    folder.mkdir(parents=True)
    if kind.startswith("upgrade"):
        old_shop(folder, kind.split()[1])
    elif kind != "first start":
        fill(folder)
    command = [sys.executable, "-m", "bench.kills", kind, str(folder)]
    with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as process:
        if kind in {"adjust", "import", "restore"}:
            process.stdout.readline()  # type: ignore[union-attr]
            time.sleep(random.uniform(0.01, 0.4))
        else:
            time.sleep(random.uniform(0.3, 1.6))
        process.kill()
        done = process.stdout.read().split()  # type: ignore[union-attr]
    try:
        desk = open_desk(Settings(folder))
    except Exception as fault:  # noqa: BLE001 - whatever it is, a shop that does not start is the finding
        return [f"does not start: {fault}"]
    try:
        return LOOK.get(kind, look_started)(desk, len(done))
    finally:
        desk.close()


def look_adjusted(desk: Desk, done: int) -> list[str]:
    """Every line that was acknowledged is there once, and the register reads what the lines say."""
    lines = [event for event in desk.runs.events(1) if isinstance(event.body, do.Adjustment)]
    should = START + sum((event.body.amount for event in lines), Decimal(0))  # type: ignore[union-attr]
    reads = desk.offsets.of(1)["G54"].axes["z"]
    wrong = [] if done <= len(lines) <= done + 1 else [f"{done} acknowledged, {len(lines)} lines"]
    return wrong if reads == should else [*wrong, f"the register reads {reads}, the log says {should}"]


def look_imported(desk: Desk, done: int) -> list[str]:
    """Every job that was acknowledged is there whole."""
    jobs = desk.jobs.find()
    whole = [job for job in jobs if len(desk.runs.events(desk.runs.require(job.id))) == 1]
    if len(whole) == len(jobs) and done <= len(jobs) - 1 <= done + 1:
        return []
    return [f"{done} acknowledged, {len(jobs) - 1} there, {len(whole)} whole"]


def look_restored(desk: Desk, _done: int) -> list[str]:
    """The shop is what it was before the restore or after it, never between."""
    jobs = len(desk.jobs.find())
    return [] if jobs in {1, 2} and len(desk.runs.events(1)) == 1 else [f"{jobs} jobs"]


def look_started(desk: Desk, _done: int) -> list[str]:
    """The shop is there and can be worked with."""
    desk.shop.begin("mm", "RK", Machine(0, "Mill 9", "mill", read_codes("G54")))
    desk.runs.start(desk.jobs.new(small_plan(), "RK"), "RK")
    jobs = [job.plan.heading.part for job in desk.jobs.find()]
    return [] if set(jobs) == {"Pin"} else [json.dumps(jobs)]


LOOK: dict[str, Callable[[Desk, int], list[str]]] = {
    "adjust": look_adjusted,
    "import": look_imported,
    "restore": look_restored,
}

if __name__ == "__main__":
    victim(sys.argv[1], Path(sys.argv[2]))
