"""The head of a job: whose part, which drawing, how many."""

from dataclasses import dataclass
from datetime import date

from ditto_run.core.errors import BadEntry
from ditto_run.core.units import LengthUnit

MOST_PIECES = 20_000  # far beyond the small batches this tool is for
MOST_LOADS = 1000


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


def check_heading(heading: Heading) -> Heading:
    """Return the heading if it can be used.

    Raises:
        BadEntry: without a name, or with a quantity outside 1 to 20,000.
    """
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
    return heading
