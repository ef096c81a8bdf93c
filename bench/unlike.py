"""A run of four parts in two sides each, cut at eight unlike stations by one press of start."""

from dataclasses import replace
from datetime import UTC, datetime, timedelta
from decimal import Decimal
from pathlib import Path
from random import Random

from ditto_run.core.edits import (
    AddPart,
    SetCharacteristic,
    SetCycle,
    SetSetup,
    SetStation,
    SetToolStep,
    apply_edit,
)
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.run import events as ev
from ditto_run.core.run.events import Event
from ditto_run.core.shop import Machine, read_codes
from ditto_run.desk import Desk, open_desk
from ditto_run.settings import Settings
from ditto_run.store.runs import insert_event

PARTS = 4
LABELS = "ABCDEFGH"


def unlike_plan(pieces: int, machine: int, desk: Desk) -> Plan:
    """Return the plan: four brackets, first and second side of each in a vise of its own."""
    registers = desk.jobs.registers()

    def changed(plan: Plan, *edits: object) -> Plan:
        for edit in edits:
            plan = apply_edit(edit, plan, registers).plan
        return plan

    each = pieces // PARTS + 10
    plan = Plan(Heading("Bracket 1", each, "mm"))
    for part in range(1, PARTS + 1):
        if part > 1:
            plan = changed(plan, AddPart(f"Bracket {part}", each)).seen_from(part)
        for side in ("first side", "second side"):
            plan = changed(
                plan,
                SetCharacteristic(f"size of {side}", "10 ±0.05"),
                SetSetup(side, machine, "vise", "stop", "45"),
            )
        keys = [setup.key for setup in plan.setups]
        sizes = zip(plan.characteristics, keys, strict=True)
        plan = replace(plan, characteristics=tuple(replace(c, setup=key) for c, key in sizes))
        for key, label in zip(keys, (LABELS[2 * part - 2], LABELS[2 * part - 1]), strict=True):
            plan = changed(plan, SetStation(key, label, "vise"), SetToolStep(key, 1, "mill", "60", "20"))
        plan = plan.seen_from(1)
    seats = tuple(f"{s.setup}:{s.label}" for one in plan.all_parts for s in one.plan.stations)
    return changed(plan, SetCycle("all eight", seats))


def unlike_run(folder: Path, pieces: int) -> tuple[Desk, int, int]:
    """Make a shop whose one run has that many pieces of four parts, gauged on both sides. Returns desk, job and cycle.

    The lines are written straight into the log, since recording them one by one is what is measured.
    """
    desk = open_desk(Settings(folder))
    desk.shop.save_setting("unit", "mm")
    desk.shop.save_person("RK")
    machine = desk.shop.save_machine(Machine(0, "Mill 2", "mill", read_codes("G54-G59")))
    plan = unlike_plan(pieces, machine, desk)
    job = desk.jobs.new(plan, "RK")
    run = desk.runs.start(job, "RK")
    (cycle,) = plan.all_cycles
    with desk.database.writing() as connection:
        for event in _lines(plan, pieces, cycle.key):
            insert_event(connection, run, event)
    desk.runs.forget()
    return desk, job, cycle.key


def _lines(plan: Plan, pieces: int, cycle: int) -> list[Event]:
    random = Random(7)
    at = datetime(2026, 3, 2, 7, tzinfo=UTC)
    lines: list[Event] = []

    def add(body: ev.Body) -> None:
        lines.append(Event(2 + len(lines), at, "RK", f"b{2 + len(lines)}", body))

    sizes = {c.setup: c.number for c in plan.all_characteristics}
    waits: dict[int, int] = {}
    proven: set[int] = set()
    for load in range(1, pieces // PARTS + 2):
        taken = _taken(plan, (load - 1) * PARTS, pieces, waits)
        add(ev.CycleStarted(cycle, load, 1, taken, None, cycle))
        at += timedelta(seconds=random.gauss(600, 6))
        add(ev.CycleEnded(cycle, load))
        for loaded in taken:
            size = Decimal(repr(round(random.gauss(10, 0.012), 3)))
            setup = loaded.setup or 0
            add(ev.Reading(loaded.pieces[0], sizes[setup], setup, f"{size}", size, "mm", 3))
            if setup not in proven:
                proven.add(setup)
                add(ev.MasterAccepted(setup, loaded.pieces[0]))
    return lines


def _taken(plan: Plan, made: int, pieces: int, waits: dict[int, int]) -> tuple[ev.Loaded, ...]:
    """The next load: a new piece of each part on its first side, the one before it on its second."""
    taken, goes_on = [], {}
    for part in plan.all_parts:
        (first, second), (one, two) = part.plan.setups, part.plan.stations
        if (number := made + part.key) <= pieces:
            taken.append(ev.Loaded(one.label, (number,), part.key, first.key))
            goes_on[part.key] = number
        if part.key in waits:
            taken.append(ev.Loaded(two.label, (waits.pop(part.key),), part.key, second.key))
    waits |= goes_on
    return tuple(taken)
