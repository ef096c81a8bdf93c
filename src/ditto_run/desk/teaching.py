"""What a batch teaches, and where the shop keeps it."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from decimal import Decimal
from types import MappingProxyType

from ditto_run.core.close.taught import batch_teaches
from ditto_run.core.errors import BadEntry, NotFound, NotNow
from ditto_run.core.money import money_text
from ditto_run.core.shop.looked_up import MATERIALS
from ditto_run.core.shop.taught import TEACHES_WORDS, Taught, taught_with
from ditto_run.core.times import read_seconds
from ditto_run.desk.desk import Desk

PRICE = "price"
"""What is ticked to put the price paid into the register."""


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


@dataclass(frozen=True, slots=True)
class PaidPrice:
    """What the material of a batch cost beside what the register says.

    Args:
        material: its row of the register.
        had: price of the register. [cents/kg]
        paid: by the order's price and the mass of its bars. [cents/kg]
    """

    material: str
    had: Decimal
    paid: Decimal


def price_paid(desk: Desk, job_id: int) -> PaidPrice | None:
    """Return what a kilogram of the material really cost, by order and mass; None where one of them is not known.

    Args:
        desk: the desk.
        job_id: which job.
    """
    job = desk.jobs.load(job_id)
    order, worked = job.plan.order, desk.worked_out(job)
    mass = worked.result_of("mass")
    sheet = next((one for one in job.plan.sheets if one.kind == "mass"), None)
    row = worked.known.of(MATERIALS).get(sheet.texts.get("material", "")) if sheet is not None else None
    cuts = worked.result_of("cuts")
    if order is None or not order.cents or mass is None or row is None or mass.all_kg <= 0:
        return None
    bars = (
        order.bars / cuts.bars if cuts is not None and order.bars else 1.0
    )  # ordered for each that is needed
    return PaidPrice(row.name, row.cents_per_kg, Decimal(round(order.cents / (mass.all_kg * bars))))


def keep_price(desk: Desk, price: PaidPrice) -> None:
    """Put the price paid into the register of materials."""
    row = next(row for row in desk.drawers.rows("materials") if row.value.name == price.material)
    text = f"{money_text(float(price.paid))} /kg"
    desk.drawers.save("materials", row.id, row.texts | {"price": text})


def holders_used(desk: Desk, job_id: int) -> tuple[str, ...]:
    """Return the holders of the register that a job's setups and tables name."""
    plan = desk.jobs.load(job_id).plan
    named = {setup.holds.lower() for setup in plan.setups} | {placed.holder.lower() for placed in plan.placed}
    return tuple(row.value.name for row in desk.drawers.rows("holders") if row.value.name.lower() in named)


def keep_sentence(desk: Desk, holder: str, sentence: str) -> None:
    """Put a sentence for the next time beside a holder; it replaces the one that stood there."""
    row = next((row for row in desk.drawers.rows("holders") if row.value.name == holder), None)
    if row is None:
        raise NotFound("holder", holder, "Somebody renamed it meanwhile.")
    desk.drawers.save("holders", row.id, row.texts | {"next_time": sentence.strip()[:200]})


def _chosen(desk: Desk, job_id: int, batch: int, ticked: Collection[str], setting_up: str) -> list[Taught]:
    """The figures that were ticked, and what setting up took, of a batch that is closed."""
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
    return chosen


def teach(
    desk: Desk,
    job_id: int,
    batch: int,
    ticked: Collection[str],
    setting_up: str = "",
    sentences: Mapping[str, str] = MappingProxyType({}),
) -> int:
    """Put what was ticked into the shop's registers; a batch counts once.

    Args:
        desk: the desk.
        job_id: which job.
        batch: which batch; 0 for the newest.
        ticked: names of the figures, as pace or scrap, with their machine: pace Mill 2.
        setting_up: how long setting up took, all setups together, as typed; empty where nobody knows.
        sentences: by holder, what to remember the next time; it goes beside the holder.

    Returns:
        How many figures were kept.

    Raises:
        NotNow: while the batch is open.
        BadEntry: if nothing is ticked, or the time cannot be read.
    """
    chosen = _chosen(desk, job_id, batch, ticked, setting_up)
    paid = price_paid(desk, job_id) if PRICE in ticked else None
    said = {holder: text for holder, text in sentences.items() if text.strip()}
    if not chosen and paid is None and not said:
        raise BadEntry("No figure is ticked.", "Tick what the next plan is to know.", "ticked")
    for holder, text in said.items():
        keep_sentence(desk, holder, text)
    if paid is not None:
        keep_price(desk, paid)
    rows = {row.value.place: row for row in desk.drawers.rows("taught")}
    kept = len(said) + (paid is not None)
    for lesson in chosen:
        row = rows.get(lesson.place)
        new = taught_with(row.value if row is not None else None, lesson)
        if row is None or new != row.value:
            desk.drawers.save("taught", row.id if row is not None else 0, new.texts)
            kept += 1
    return kept
