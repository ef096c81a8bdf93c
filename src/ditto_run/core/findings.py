"""What a check says: one sentence, what to do, how much it matters, and to what it yields."""

from dataclasses import dataclass
from typing import Literal

Weight = Literal["stop", "ask", "note"]
Yields = Literal["never", "initials", "note", "plain"]
NEVER = frozenset(
    {
        "zero",
        "same-zero",
        "no-approval",
        "no-characteristic",
        "no-setup",
        "nowhere-to-start",
        "being-worked-out",
    }
)  # codes that yield to nothing: it goes when the thing is done
ORDER: tuple[Yields, ...] = ("never", "initials", "note", "plain")


@dataclass(frozen=True, slots=True)
class Finding:
    """One sentence of a check.

    Args:
        step: the step it belongs to, such as part.
        weight: stop, ask or note.
        code: short fixed name of the check.
        problem: what and where.
        remedy: what to do.
        thing: what it is about, such as setup 3; empty where the sentence alone names it.
        ground: what it rests on; empty where that is the sentence.
    """

    step: str
    weight: Weight
    code: str
    problem: str
    remedy: str
    thing: str = ""
    ground: str = ""

    @property
    def yields(self) -> Yields:
        """To what it yields: nothing, a note with initials, a note; a note of its own wants no answer."""
        if self.code in NEVER:
            return "never"
        return {"stop": "initials", "ask": "note", "note": "plain"}[self.weight]  # type: ignore[return-value]

    @property
    def key(self) -> tuple[str, str, str]:
        """What an override is kept under: the check, the thing, and what it rests on."""
        return self.code, self.thing or self.problem, self.ground or self.problem
