"""What a check says: one sentence, what to do, and how much it matters."""

from dataclasses import dataclass
from typing import Literal

Weight = Literal["stop", "ask", "note"]


@dataclass(frozen=True, slots=True)
class Finding:
    """One sentence of a check.

    Args:
        step: the step it belongs to, such as part.
        weight: stop, ask or note.
        code: short fixed name of the check.
        problem: what and where.
        remedy: what to do.
    """

    step: str
    weight: Weight
    code: str
    problem: str
    remedy: str
