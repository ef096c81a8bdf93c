"""One thing about the part that is, or is not, allowed to differ."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.part.finish import Face
from ditto_run.core.sizes import Size, size_text

Grade = Literal["critical", "functional", "free"]
LimitsHold = Literal["finished", "machined", "ask"]


@dataclass(frozen=True, slots=True)
class Characteristic:
    """One characteristic of the part.

    Args:
        number: its digit on the strip; never used twice in a job.
        name: what the shop calls it, such as slot.
        size: what is gauged at the machine: the drawing's, or worked back from it through the finish.
        grade: critical, functional or free; a free one raises nothing.
        gauge_id: gauge it is measured with; None if any.
        why: why it matters, in one sentence.
        setup: key of the setup it is gauged in; None for the one that makes it.
        also_in: key of a setup it is gauged in besides, where it has to hold between setups; None for none.
        made_in: key of the setup that makes it; None while open.
        finish: key of the finish its faces get; None for none.
        face: how the finish changes it.
        limits_hold: whether the drawing's limits hold finished or as machined; ask while nobody knows.
        finished: the drawing's size where `size` is worked back from it; else None.
        mate: mating part it is tried with, GO and NO-GO, such as oarlock pin; empty to measure.
        mate_at_hand: True once the mating part is in the shop.
        customer_words: what the customer said, word for word.
        agreed: what was agreed about it.
        every: every how many loads it is gauged, besides first and last; None as the whole job. [loads]
    """

    number: int
    name: str
    size: Size
    grade: Grade = "functional"
    gauge_id: int | None = None
    why: str = ""
    setup: int | None = None
    made_in: int | None = None
    finish: int | None = None
    face: Face = "none"
    limits_hold: LimitsHold = "finished"
    finished: Size | None = None
    mate: str = ""
    mate_at_hand: bool = False
    customer_words: str = ""
    agreed: str = ""
    every: int | None = None
    also_in: int | None = None

    @property
    def key(self) -> int:
        """Its number, as everything a plan lists calls it."""
        return self.number

    @property
    def by_gauge_only(self) -> bool:
        """True if it is checked GO and NO-GO rather than measured."""
        return self.size.kind == "thread" or bool(self.mate)

    @property
    def is_measured_length(self) -> bool:
        """True if it is a length, diameter or radius that is measured, so that it can drift."""
        return self.size.kind in {"length", "diameter", "radius"} and not self.by_gauge_only

    @property
    def drawing(self) -> Size:
        """What the drawing says."""
        return self.finished or self.size

    @property
    def drawn(self) -> str:
        """Name and size in one line."""
        return f"{self.name} {size_text(self.drawing)}"
