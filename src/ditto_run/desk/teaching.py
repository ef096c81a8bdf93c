"""What a batch teaches, and where the shop keeps it."""

from collections.abc import Collection
from dataclasses import dataclass

from ditto_run.core.close.taught import batch_teaches
from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.shop.taught import TEACHES_WORDS, Taught, taught_with
from ditto_run.core.times import read_seconds
from ditto_run.desk.desk import Desk


@dataclass(frozen=True, slots=True)
class Lesson:
    """One figure of a batch beside what the shop has.

    Args:
        lesson: what the batch says.
        had: what the shop has of it; None where it has nothing.
        would: what it would have.
        kept: True if the batch is in it already.
    """

    lesson: Taught
    had: Taught | None
    would: Taught
    kept: bool

    @property
    def words(self) -> str:
        """What it is, in a few words."""
        return TEACHES_WORDS[self.lesson.figure]


def lessons_of(desk: Desk, job_id: int, batch: int = 0) -> tuple[Lesson, ...]:
    """Return what a batch teaches, each beside what the shop has.

    Args:
        desk: the desk.
        job_id: which job.
        batch: which batch; 0 for the newest.
    """
    machines = {number: machine.name for number, machine in desk.shop.load().machines.items()}
    with desk.runs.folded(desk.runs.of_batch(job_id, batch)) as state:
        said = batch_teaches(state, machines, f"{int(job_id)}/{state.batch}")
    known = {row.value.place: row.value for row in desk.drawers.rows("taught")}
    return tuple(_beside(lesson, known.get(lesson.place)) for lesson in said)


def _beside(lesson: Taught, had: Taught | None) -> Lesson:
    kept = had is not None and bool(set(lesson.batches_named) & set(had.batches_named))
    return Lesson(lesson, had, taught_with(had, lesson), kept)


def teach(desk: Desk, job_id: int, batch: int, ticked: Collection[str], setting_up: str = "") -> int:
    """Put what was ticked into the shop's register; a batch counts once.

    Args:
        desk: the desk.
        job_id: which job.
        batch: which batch; 0 for the newest.
        ticked: names of the figures, as pace or scrap, with their machine: pace Mill 2.
        setting_up: how long setting up took, all setups together, as typed; empty where nobody knows.

    Returns:
        How many figures were kept.

    Raises:
        NotNow: while the batch is open.
        BadEntry: if nothing is ticked, or the time cannot be read.
    """
    with desk.runs.folded(desk.runs.of_batch(job_id, batch)) as state:
        if state.closed_at is None:
            raise NotNow("The batch is not closed.", "Close it first: it teaches when it is whole.")
        setups = max(1, len(state.plan.setups))
        number = state.batch
    lessons = lessons_of(desk, job_id, batch)
    chosen = [one.lesson for one in lessons if f"{one.lesson.figure} {one.lesson.machine}" in ticked]
    seconds = read_seconds(setting_up, "setting_up", "m")
    if seconds:
        if not lessons:
            raise BadEntry(
                "No setup of this batch has a machine.",
                "Choose it on Hold; times are kept by machine.",
                "setting_up",
            )
        like = lessons[0].lesson
        chosen.append(
            Taught(
                "setting up",
                seconds / setups,
                1,
                like.pieces,
                like.way,
                like.machine,
                "",
                (f"{int(job_id)}/{number}",),
            )
        )
    if not chosen:
        raise BadEntry("No figure is ticked.", "Tick what the next plan is to know.", "ticked")
    rows = {row.value.place: row for row in desk.drawers.rows("taught")}
    kept = 0
    for lesson in chosen:
        row = rows.get(lesson.place)
        new = taught_with(row.value if row is not None else None, lesson)
        if row is None or new != row.value:
            desk.drawers.save("taught", row.id if row is not None else 0, new.texts)
            kept += 1
    return kept
