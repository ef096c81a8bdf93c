"""A run of any size, recorded through the same doors as a person's."""

from datetime import UTC, datetime, timedelta
from decimal import Decimal
from pathlib import Path
from random import Random

from ditto_run.core.edits import SetCharacteristic, SetSetup, SetStation, SetToolStep, apply_edit
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.run import events as ev
from ditto_run.core.run.events import Event
from ditto_run.core.shop import Machine, read_codes
from ditto_run.desk import Desk, open_desk
from ditto_run.settings import Settings
from ditto_run.store.runs import insert_event

STATIONS = ("A", "B", "C")
DIMENSIONS = 6


def big_run(folder: Path, pieces: int) -> tuple[Desk, int, int]:
    """Make a shop whose one run has that many gauged pieces. Returns desk, job and run.

    The lines are written straight into the log, since recording them one by one is what is measured.
    """
    desk = open_desk(Settings(folder))
    desk.shop.save_setting("unit", "mm")
    desk.shop.save_person("RK")
    machine = desk.shop.save_machine(Machine(0, "Mill 2", "mill", read_codes("G54-G59")))
    plan = Plan(Heading("Bench block", max(1, pieces + 30), "mm"))
    edits = [SetCharacteristic(f"size {n}", f"{10 + n} ±0.05") for n in range(DIMENSIONS)]
    edits.append(SetSetup("side", machine, "vises", "stop", "45"))
    for edit in edits:
        plan = apply_edit(edit, plan, desk.jobs.registers()).plan
    key = plan.setups[0].key
    for edit in (
        *(SetStation(key, label, "vise", f"G{54 + n}") for n, label in enumerate(STATIONS)),
        SetToolStep(key, 1, "mill", "60", "20"),
    ):
        plan = apply_edit(edit, plan, desk.jobs.registers()).plan
    job = desk.jobs.new(plan, "RK")
    run = desk.runs.start(job, "RK")
    with desk.database.writing() as connection:
        for event in _lines(pieces, key, 2):
            insert_event(connection, run, event)
    desk.runs.forget()
    return desk, job, run


def _lines(pieces: int, setup: int, seq: int) -> list[Event]:
    random = Random(7)
    at = datetime(2026, 3, 2, 7, tzinfo=UTC)
    lines: list[Event] = []

    def add(body: ev.Body) -> None:
        lines.append(Event(seq + len(lines), at, "RK", f"b{seq + len(lines)}", body))

    number, load = 1, 0
    while number <= pieces:
        load += 1
        taken = tuple(
            ev.Loaded(label, (number + n,)) for n, label in enumerate(STATIONS) if number + n <= pieces
        )
        add(ev.CycleStarted(setup, load, 1, taken))
        at += timedelta(seconds=random.gauss(300, 6))
        add(ev.CycleEnded(setup, load))
        for loaded in taken:
            for dimension in range(1, DIMENSIONS + 1):
                size = Decimal(repr(round(random.gauss(9 + dimension, 0.012), 3)))
                add(ev.Reading(loaded.pieces[0], dimension, setup, f"{size}", size, "mm", 3))
        if load == 1:
            add(ev.MasterAccepted(setup, 1))
        number += len(STATIONS)
    return lines
