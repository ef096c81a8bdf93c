"""One thing about the part that is, or is not, allowed to differ."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.sizes import Size, size_text

Grade = Literal["critical", "functional", "free"]


@dataclass(frozen=True, slots=True)
class Characteristic:
    """One characteristic of the part.

    Args:
        number: its digit on the strip; never used twice in a job.
        name: what the shop calls it, such as slot.
        size: what the drawing says.
        grade: critical, functional or free; a free one raises nothing.
        gauge_id: gauge it is measured with; None if any.
        why: why it matters, in one sentence.
        setup: key of the setup it is gauged in; None for every setup.
    """

    number: int
    name: str
    size: Size
    grade: Grade = "functional"
    gauge_id: int | None = None
    why: str = ""
    setup: int | None = None

    @property
    def by_gauge_only(self) -> bool:
        """True if it is checked GO and NO-GO rather than measured."""
        return self.size.kind == "thread"

    @property
    def drawn(self) -> str:
        """Name and size in one line."""
        return f"{self.name} {size_text(self.size)}"
