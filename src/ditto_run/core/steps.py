"""The nine steps of the work, declared once. Folders, menu, help and tests hold to this table."""

from dataclasses import dataclass
from typing import Literal

State = Literal["settled", "open", "held", "later"]


@dataclass(frozen=True, slots=True)
class Step:
    """One step of the work.

    Args:
        number: its key, 1 to 9.
        name: folder, address and template name.
        word: as shown.
        does: what it does, in one sentence.
    """

    number: int
    name: str
    word: str
    does: str


STEPS = (
    Step(1, "part", "Part", "What must come out the same."),
    Step(2, "method", "Method", "Which way of making it wins, and why."),
    Step(3, "stock", "Stock", "How much material to cut, and how many to start."),
    Step(4, "hold", "Hold", "Setups in order, and what holds the piece in each."),
    Step(5, "place", "Place", "Stations and their work offsets."),
    Step(6, "tools", "Tools", "Tool steps in order, with their times."),
    Step(7, "prove", "Prove", "The ladder and the start list, before the first load counts."),
    Step(8, "run", "Run", "Cycle, gauge, and see what repeats."),
    Step(9, "close", "Close", "Count, report and keep."),
)
BY_NAME = {step.name: step for step in STEPS}


@dataclass(frozen=True, slots=True)
class StepState:
    """How far a step is.

    Args:
        step: which step.
        state: settled, open, held or later.
        count: how many things are open or held.
    """

    step: Step
    state: State
    count: int = 0

    @property
    def words(self) -> str:
        """The state in words: settled, 2 open, 2 held, later."""
        if self.step.name == "run" and self.state == "open":
            return f"{self.count} to go"
        return f"{self.count} {self.state}" if self.state in {"open", "held"} else self.state
