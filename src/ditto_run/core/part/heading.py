"""The head of a job: whose part, which drawing, how many, and what hangs on it."""

from dataclasses import dataclass
from datetime import date
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.units import LengthUnit

MOST_PIECES = 20_000  # far beyond the small batches this tool is for
MOST_LOADS = 1000
LONGEST_NAME, LONGEST_WORDS = 200, 4000  # signs
MOST_BATCHES = 500
Purpose = Literal["earn", "learn", "hurry"]


@dataclass(frozen=True, slots=True)
class Heading:
    """The head of a job.

    Args:
        part: what it is called.
        quantity: good pieces wanted. [pieces]
        unit: unit of the drawing.
        customer: who wants it.
        drawing: drawing number.
        drawing_revision: the drawing's revision.
        material: what it is made of.
        due: when it is wanted.
        gauge_every: every how many loads the pieces are gauged. [loads]
        waits_for: what the job waits for, in words; empty if nothing.
        quantity_is_guess: True while nobody has said how many.
        spares: spares agreed with the customer, beyond the quantity. [pieces]
        batches: how often the batch is likely to be made in all, 1 if it does not come back. [batches]
        purpose: whether the job is meant to earn, to learn by, or to be quick.
        holds_pressure, lifts, spins: what happens to people if the part fails.
        heat: heat number and certificate of the material.
        approved_by: who designed and approved a part with a consequence.
        customer_words: what the customer said, word for word.
        agreed: what was agreed about it.
        family: name shared by siblings: one recipe in several sizes.
    """

    part: str
    quantity: int
    unit: LengthUnit = "mm"
    customer: str = ""
    drawing: str = ""
    drawing_revision: str = ""
    material: str = ""
    due: date | None = None
    gauge_every: int = 1
    waits_for: str = ""
    quantity_is_guess: bool = False
    spares: int = 0
    batches: int = 1
    purpose: Purpose = "earn"
    holds_pressure: bool = False
    lifts: bool = False
    spins: bool = False
    heat: str = ""
    approved_by: str = ""
    customer_words: str = ""
    agreed: str = ""
    family: str = ""

    @property
    def has_consequence(self) -> bool:
        """True if people can come to harm when the part fails; every piece is then gauged and recorded in full."""
        return self.holds_pressure or self.lifts or self.spins

    @property
    def consequence_words(self) -> str:
        """What the part does that matters, such as: holds pressure and lifts."""
        words = [
            word
            for on, word in (
                (self.holds_pressure, "holds pressure"),
                (self.lifts, "lifts"),
                (self.spins, "spins near people"),
            )
            if on
        ]
        return " and ".join(words)

    @property
    def gauged_every(self) -> int:
        """Every how many loads pieces are gauged: every load if the part has a consequence, [loads]."""
        return 1 if self.has_consequence else self.gauge_every


def check_heading(heading: Heading) -> Heading:
    """Return the heading if it can be used.

    Raises:
        BadEntry: without a name, or with a quantity outside 1 to 20,000.
    """
    for name in (
        "part",
        "customer",
        "drawing",
        "drawing_revision",
        "material",
        "heat",
        "approved_by",
        "family",
        "waits_for",
    ):
        if len(getattr(heading, name)) > LONGEST_NAME:
            raise BadEntry(f"That is longer than {LONGEST_NAME} signs.", "Shorten it.", name)
    for name in ("customer_words", "agreed"):
        if len(getattr(heading, name)) > LONGEST_WORDS:
            raise BadEntry(f"That is longer than {LONGEST_WORDS:,} signs.", "Shorten it.", name)
    if not heading.part.strip():
        raise BadEntry("The part has no name.", "Type what you call it, such as Rigger clamp block.", "part")
    if not 1 <= heading.quantity <= MOST_PIECES:
        raise BadEntry(
            f"A quantity of {heading.quantity:,} is outside 1 to {MOST_PIECES:,}.",
            "Type how many good pieces are wanted; a larger order is run as several batches.",
            "quantity",
        )
    if not 1 <= heading.gauge_every <= MOST_LOADS:
        raise BadEntry("Gauging is every 1 to 1,000 loads.", "Type 1 to gauge every load.", "gauge_every")
    if not 0 <= heading.spares <= MOST_PIECES:
        raise BadEntry(
            f"{heading.spares:,} spares are not possible.", "Type how many were agreed, 0 if none.", "spares"
        )
    if not 1 <= heading.batches <= MOST_BATCHES:
        raise BadEntry(
            f"{heading.batches:,} batches are outside 1 to {MOST_BATCHES}.",
            "Type how often it is likely to be made in all, 1 if it does not come back.",
            "batches",
        )
    return heading
