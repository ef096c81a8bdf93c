"""Kits: parts per set, made, bought or the customer's; what is short, known at any time."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from ditto_run.core.errors import BadEntry

Source = Literal["made", "bought", "customer"]
MOST = 100_000
OWN = 0  # the job a kit belongs to makes this part itself


@dataclass(frozen=True, slots=True)
class KitPart:
    """One part of a set.

    Args:
        key: its lasting number in the job.
        name: what the shop calls it.
        per_set: how many go into one set. [pieces]
        source: made here, bought, or the customer's.
        have: how many are at hand, besides what a job of ours has made. [pieces]
        job_id: job that makes it, `OWN` for the job of the kit itself, below 0 another part of that job; None if none does.
    """

    key: int
    name: str
    per_set: int = 1
    source: Source = "made"
    have: int = 0
    job_id: int | None = None


def check_kit_part(part: KitPart) -> KitPart:
    """Return the part if it can be used.

    Raises:
        BadEntry: without a name, or with a count out of range.
    """
    if not part.name.strip():
        raise BadEntry("The part has no name.", "Type what the shop calls it, such as gate nut.", "name")
    if not 1 <= part.per_set <= MOST:
        raise BadEntry(
            f"{part.per_set:,} in a set is not possible.", "Type how many go into one set.", "per_set"
        )
    if not 0 <= part.have <= MOST:
        raise BadEntry(
            f"{part.have:,} at hand is not possible.", "Type how many are at hand, 0 if none.", "have"
        )
    return part


@dataclass(frozen=True, slots=True)
class KitLine:
    """One part of the kit with what there is.

    Args:
        part: the part.
        wanted: sets × per set. [pieces]
        have: at hand, with what our job has made and what the shelf holds; of a bought part with what lies at hand for the
            siblings. [pieces]
        beside: how many of a bought part the siblings want. [pieces]
        shelf: how many of them lie on the shelf of finished stock. [pieces]
    """

    part: KitPart
    wanted: int
    have: int
    beside: int = 0
    shelf: int = 0

    @property
    def short(self) -> int:
        """How many are missing, [pieces]."""
        return max(0, self.wanted + self.beside - self.have)

    @property
    def words(self) -> str:
        """What is short, in one sentence; empty if nothing."""
        if not self.short:
            return ""
        from_where = {
            "made": "to be made",
            "bought": "to be bought",
            "customer": "to come from the customer",
        }[self.part.source]
        beside = f" ({self.beside} of them for its siblings)" if self.beside else ""
        return f"{self.part.name}: {self.short} short of {self.wanted + self.beside}{beside}, {from_where}."


@dataclass(frozen=True, slots=True)
class KitBeside:
    """The kit of a sibling: of another part of the same job, or of a job of the same family.

    Args:
        parts: parts of one set.
        sets: sets wanted. [sets]
    """

    parts: Sequence[KitPart]
    sets: int


def kit_lines(
    parts: Sequence[KitPart],
    sets: int,
    made: Mapping[int, int],
    siblings: Sequence[KitBeside] = (),
    shelf: Mapping[str, int] | None = None,
) -> list[KitLine]:
    """Return every part of a kit with what is wanted and what there is; a bought one is shared with siblings, by its name.

    Args:
        parts: parts of one set.
        sets: sets wanted. [sets]
        made: good pieces each job has made, by its number; under `OWN` those of the kit's own
            part, under a part's key below 0 those of that part of the same job. [pieces]
        siblings: kits that draw on the same bought parts.
        shelf: finished stock by the part's name in small letters. [pieces]

    Source:
        Rule of the Close step: sets × per set > have is short, seen as soon as it is so.
    """
    found = []
    for part in parts:
        have = part.have + (made.get(part.job_id, 0) if part.job_id is not None else 0)
        same = [
            (kit.sets * other.per_set, other.have)
            for kit in siblings
            for other in kit.parts
            if part.source == other.source == "bought" and part.name.lower() == other.name.lower()
        ]
        beside, more = (sum(column) for column in zip(*same, strict=True)) if same else (0, 0)
        kept = (shelf or {}).get(part.name.strip().lower(), 0)
        found.append(KitLine(part, sets * part.per_set, have + more + kept, beside, kept))
    return found


def uncounted(parts: Sequence[KitPart]) -> tuple[KitPart, ...]:
    """Return the parts of a kit for a sibling: what lies at hand is counted once, for the other."""
    return tuple(replace(part, have=0) for part in parts)


def sets_wanted(parts: Sequence[KitPart], quantity: int) -> int:
    """Return how many sets a job is for, [sets]: its pieces by what of them goes into one, else as many as pieces.

    Args:
        parts: parts of one set.
        quantity: good pieces wanted of the job. [pieces]
    """
    own = next((part.per_set for part in parts if part.job_id == OWN), 1)
    return max(1, quantity // own)


def complete_sets(lines: Sequence[KitLine]) -> int:
    """Return how many whole sets can be packed now, [sets]."""
    return min((line.have // line.part.per_set for line in lines), default=0)
