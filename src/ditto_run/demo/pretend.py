"""A pretended hand at the machine: it plans and runs through the same doors as a person."""

from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from decimal import Decimal
from itertools import count
from random import Random

from ditto_run.core.edits import Edit, OverrideFinding
from ditto_run.core.plan import FIRST_PART
from ditto_run.core.run import Command
from ditto_run.core.run import events as do
from ditto_run.desk import Desk
from ditto_run.desk.gate import start_run, what_is_open
from ditto_run.desk.plans import Plans
from ditto_run.desk.runs import Runs


@dataclass(slots=True)
class Hand:
    """Somebody who plans a job and runs it, at a pretended time.

    Args:
        desk: the shop.
        who: initials.
        at: the pretended moment; it moves on as the work does.
        seed: makes times and sizes differ the same way every time.
        run_id: the run they work at.
        cycle: key of the cycle they are at; 0 for the one opened last.
        part: key of the part they plan.
    """

    desk: Desk
    who: str
    at: datetime
    seed: int
    run_id: int = 0
    cycle: int = 0
    part: int = FIRST_PART
    here: Desk = field(init=False)
    random: Random = field(init=False)
    keys: Callable[[], str] = field(init=False)

    def __post_init__(self) -> None:
        self.here = self.desk.at(lambda: self.at).seen_from(self.part)
        self.random = Random(self.seed)  # noqa: S311 - made-up sizes, no secrets
        numbers = count(1)
        self.keys = lambda: f"demo-{self.seed}-{next(numbers)}"

    @property
    def jobs(self) -> Plans:
        """Jobs and plans, at the pretended time."""
        return self.here.jobs

    @property
    def runs(self) -> Runs:
        """Runs, at the pretended time."""
        return self.here.runs

    def seen_from(self, part: int) -> "Hand":
        """Return the same person planning another part of the job."""
        return Hand(self.desk, self.who, self.at, self.seed, part=part)

    def plan(self, job_id: int, *edits: Edit) -> None:
        """Make changes of a plan, one after another."""
        for edit in edits:
            self.jobs.change(job_id, self.jobs.load(job_id).version, self.who, edit)

    def start(self, job_id: int) -> None:
        """Start the run; what keeps it is let stand, as somebody who knows the machine would."""
        for thing in what_is_open(self.here, self.jobs.load(job_id)).stops:
            code, about, ground = thing.finding.key
            note = "Comes off once it is clamped, before the second side."
            self.plan(
                job_id,
                OverrideFinding(thing.finding.problem, note, "", self.who, code, about, ground, "stop"),
            )
        self.run_id = start_run(self.here, job_id, self.who, "Found before its own side is run.")

    def wait(self, seconds: float) -> None:
        """Let time go by, a little more or less each time."""
        self.at += timedelta(seconds=seconds * self.random.uniform(0.985, 1.02))

    def do(self, *commands: Command) -> None:
        """Record what was done."""
        for command in commands:
            self.runs.record(self.run_id, command, self.who, self.keys(), self.cycle)

    def load(self, cycle_s: float, between_s: float) -> list[int]:
        """Cut one load. Returns its pieces."""
        self.do(do.StartCycle())
        self.wait(cycle_s)
        self.do(do.EndCycle())
        self.wait(between_s)
        with self.runs.folded(self.run_id) as state:
            return list(state.near(self.cycle).here.loads[-1].pieces)

    def size(self, middle: float, spread: float, decimals: int = 3) -> str:
        """Return a gauged size around a middle."""
        value = Decimal(repr(self.random.gauss(middle, spread)))
        return f"{value:.{decimals}f}"

    def gauge(self, piece: int, *sizes: tuple[int, str]) -> None:
        """Gauge dimensions of a piece."""
        for dimension, text in sizes:
            self.do(do.TakeReading(piece, dimension, text, confirm=text))
