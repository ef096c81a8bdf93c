"""Two texts of a program line by line: what went out, what came in."""

from collections.abc import Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher
from typing import Literal

MOST_COMPARED = 4_000  # lines between the first and the last difference
MOST_TOLD = 200


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
