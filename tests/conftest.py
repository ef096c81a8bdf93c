"""Shared by all tests: a small job, and a hand that runs it in the pure core."""

from collections.abc import Iterator
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest

from ditto_run.core.edits import (
    Edit,
    PlanRegisters,
    SetCharacteristic,
    SetSetup,
    SetStation,
    SetToolStep,
    apply_edit,
)
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.run import Command, Event, Now, RunState, decide, extend, fold, start_run
from ditto_run.core.run import events as do
from ditto_run.core.shop import Machine, read_codes
from ditto_run.desk import Desk, open_desk
from ditto_run.desk.worker import Worker
from ditto_run.settings import Settings

MILL = Machine(1, "Mill 2", "mill", read_codes("G54-G59"))
SHOP = PlanRegisters({1: MILL, 2: Machine(2, "Old mill", "manual")})
MORNING = datetime(2026, 5, 12, 7, 0, tzinfo=UTC)


def planned(
    quantity: int = 12, *edits: Edit, stations: str = "ABC", pieces: int = 1, unit: str = "mm"
) -> Plan:
    """Return a plan: a slot of 20 ±0.03 and a height of 31.5 ±0.05, gauged in the first setup, at stations A, B and C."""
    plan = Plan(Heading("Clamp block", quantity, unit))  # type: ignore[arg-type]
    wanted: list[Edit] = [
        SetCharacteristic("slot", "20 ±0.03 mm", "critical"),
        SetCharacteristic("height", "31.5 ±0.05 mm"),
        SetSetup("first side", 1, "vises", "stop", "45"),
    ]
    for edit in wanted:
        plan = apply_edit(edit, plan, SHOP).plan
    key = plan.setups[0].key
    plan = replace(plan, characteristics=tuple(replace(c, setup=key) for c in plan.characteristics))
    more = [
        *(SetStation(key, label, "vise", f"G{54 + n}", pieces=pieces) for n, label in enumerate(stations)),
        SetToolStep(key, 3, "finish slot", "60", "20"),
        *edits,
    ]
    for edit in more:
        plan = apply_edit(edit, plan, SHOP).plan
    return plan


class CoreHand:
    """Runs a plan in the pure core, minute by minute."""

    def __init__(self, plan: Plan) -> None:
        self.plans = {1: plan}
        self.at = MORNING
        self.log = [Event(1, self.at, "RK", "start", start_run(plan, 1))]
        self.state = fold(self.log, self.plans)
        self.draft = plan

    def do(self, *commands: Command, who: str = "RK") -> RunState:
        """Record commands, a minute after each other."""
        for command in commands:
            self.at += timedelta(minutes=1)
            body = decide(command, self.state, Now(self.at, who, self.draft, max(self.plans) + 1))
            if body.kind == "plan_revised":
                self.plans[body.revision] = self.draft
            self.log.append(Event(len(self.log) + 1, self.at, who, f"k{len(self.log)}", body))
            self.state = extend(self.state, self.log[-1:], self.log)
        return self.state

    def load(self, *sizes: str) -> RunState:
        """Cut one load, and gauge the slot of its first pieces."""
        self.do(do.StartCycle(), do.EndCycle())
        for piece, text in zip(self.state.here.loads[-1].pieces, sizes, strict=False):
            if text:
                self.do(do.TakeReading(piece, 1, text, confirm=text))
        return self.state

    def proven(self) -> "CoreHand":
        """Cut and accept the first load."""
        self.load("20.004")
        self.do(do.TakeReading(1, 2, "31.502"), do.AcceptMaster(1))
        return self


@pytest.fixture
def hand() -> CoreHand:
    return CoreHand(planned())


class Clock:
    """A clock that stands still until it is moved."""

    def __init__(self) -> None:
        self.at = MORNING

    def __call__(self) -> datetime:
        self.at += timedelta(seconds=20)
        return self.at


@pytest.fixture
def clock() -> Clock:
    return Clock()


class SharedWorker(Worker):
    """One process for the long work of all tests: a desk that closes leaves it running."""

    def close(self) -> None:
        """Leave it running."""


@pytest.fixture(scope="session")
def worker() -> Iterator[Worker]:
    found = SharedWorker()
    yield found
    Worker.close(found)


@pytest.fixture
def desk(tmp_path: Path, clock: Clock, worker: Worker) -> Iterator[Desk]:
    """A shop with one machine and one person, in a folder of its own."""
    found = open_desk(Settings(tmp_path, clock=clock), worker)
    found.shop.save_setting("unit", "mm")
    found.shop.save_person("RK")
    found.shop.save_machine(replace(MILL, id=0))
    yield found
    found.close()
