"""Two texts of a program line by line: what went out, what came in; and two readings of one text, figure by figure."""

from collections.abc import Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher
from typing import Literal

from ditto_run.core.program.reader import ProgramRead

MOST_COMPARED = 4_000  # lines between the first and the last difference
MOST_TOLD = 200
NOTHING = 5e-4  # s or mm, from which a figure differs


@dataclass(frozen=True, slots=True)
class ChangedLine:
    """One line that is not in both: its number in its own text, and which text that is."""

    line: int
    which: Literal["old", "new"]
    text: str


@dataclass(frozen=True, slots=True)
class Differing:
    """What two texts differ in.

    Args:
        lines: in order, the old ones of a place before the new ones; the first ones where there are many.
        count: of all of them.
        is_whole: False where the rest between the first and the last difference was too long to be compared line by line.
    """

    lines: tuple[ChangedLine, ...]
    count: int
    is_whole: bool = True


def compared(old: Sequence[str], new: Sequence[str]) -> Differing:
    """Return what two texts differ in; blanks at the ends of lines do not count.

    Args:
        old: lines of the one before.
        new: lines of the one after it.
    """
    before, after = ([line.rstrip() for line in text] for text in (old, new))
    begin = 0
    while begin < min(len(before), len(after)) and before[begin] == after[begin]:
        begin += 1
    end = 0
    while end < min(len(before), len(after)) - begin and before[-1 - end] == after[-1 - end]:
        end += 1
    mine, theirs = before[begin : len(before) - end], after[begin : len(after) - end]
    if max(len(mine), len(theirs)) > MOST_COMPARED:
        return Differing((), max(len(mine), len(theirs)), is_whole=False)
    found: list[ChangedLine] = []
    matcher = SequenceMatcher(None, mine, theirs, autojunk=False)
    for kind, a, b, c, d in matcher.get_opcodes():
        if kind != "equal":
            found += [ChangedLine(begin + n + 1, "old", mine[n]) for n in range(a, b)]
            found += [ChangedLine(begin + n + 1, "new", theirs[n]) for n in range(c, d)]
    return Differing(tuple(found[:MOST_TOLD]), len(found))


@dataclass(frozen=True, slots=True)
class MovedFigure:
    """A figure that two readings of one program differ in: what it is, and how it was and is; numbers in s or mm."""

    what: str
    was: float
    now: float


def figures_moved(one: ProgramRead, other: ProgramRead) -> tuple[MovedFigure, ...]:
    """Return the figures in which two readings of one program differ.

    Args:
        one: by the ready-made table.
        other: by the machine's.
    """
    found = [
        MovedFigure(what, a, b)
        for (what, a), (_, b) in zip(_figures(one), _figures(other), strict=True)
        if abs(a - b) > NOTHING
    ]
    return tuple(found)


def _figures(read: ProgramRead) -> tuple[tuple[str, float], ...]:
    tally = read.tally
    return (
        ("time, s", read.trapezoid_s if read.trapezoid_s is not None else read.simple_s),
        ("dwells, s", read.dwell_s),
        ("way at feed, mm", tally.cut_mm),
        ("way in the air, mm", tally.air_mm),
        ("way at rapid, mm", tally.rapid_mm),
        ("places to look at", float(len(tally.faults) + tally.more.get("faults", 0))),
        ("words not understood", float(len(tally.unknown) + tally.more.get("unknown", 0))),
        ("offsets used", float(len(set(tally.offsets)))),
        ("holes", float(sum(tally.holes.values()))),
        ("tool changes", float(tally.changes)),
    )
