"""What this shop forgot before a first load: it stands on top of the start list until it was looked at often enough."""

from dataclasses import dataclass

from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets.entries import Entries

FORGETS_AFTER = 12  # looks without being missed again: then it is habit; own judgement
LONGEST = 120


@dataclass(frozen=True, slots=True)
class Forgotten:
    """One thing that was forgotten.

    Args:
        words: what.
        machine: it happened at; empty for any.
        day: when it was missed last, as written.
        times: how often it was missed.
        looked: how often it was looked at since.
    """

    words: str
    machine: str = ""
    day: str = ""
    times: int = 1
    looked: int = 0

    @property
    def key(self) -> str:
        """Its lasting name in a list."""
        return f"forgot {self.words.lower()}"[:60]

    @property
    def texts(self) -> dict[str, str]:
        """It as a row of its register."""
        return {
            "what": self.words,
            "machine": self.machine,
            "day": self.day,
            "times": str(self.times),
            "looked": str(self.looked),
        }

    @property
    def why(self) -> str:
        """When it was missed, in words."""
        often = "" if self.times == 1 else f"{self.times} times, the last "
        return f"Forgotten {often}on {self.day}." if self.day else "Forgotten before."

    def is_for(self, machine: str) -> bool:
        """Return whether it is asked about at a machine: until it is habit."""
        return self.looked < FORGETS_AFTER and self.machine.lower() in {"", machine.lower()}


def read_forgotten(entries: Entries) -> Forgotten:
    """Return a row of the register.

    Raises:
        BadEntry: at the column that cannot be read.
    """
    words = " ".join(entries.need("what", "both parallels tried by hand").split())
    if len(words) > LONGEST:
        raise BadEntry(f"That is longer than {LONGEST} letters.", "Say it in a few words.", "what")
    times, looked = entries.whole("times", 1, 9999, 1), entries.whole("looked", 0, 9999, 0)
    return Forgotten(words, entries.text("machine"), entries.text("day"), times, looked)
