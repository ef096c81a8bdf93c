"""The way of a program's tip, move by move, for a picture and for the ear."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal

from ditto_run.core.program.given import Three
from ditto_run.core.program.paths import Arc, Path

MOST_MOVES = 10_000  # that are kept for a picture
ARC_STEPS = 12  # of a full turn's quarter


@dataclass(frozen=True, slots=True)
class TracedMove:
    """One move: its line, rapid or feed, tool, offset, its points in the coordinates of that offset [mm], time before it. [s]."""

    line: int
    kind: Literal["rapid", "feed"]
    tool: int
    offset: str
    points: tuple[Three, ...]
    since_s: float


@dataclass(slots=True)
class Trace:
    """Moves in order, the first ones where there are many.

    Args:
        moves: that are kept.
        more: that are not.
        is_full: True if a further move is only counted.
    """

    moves: list[TracedMove] = field(default_factory=list)
    more: int = 0
    is_full: bool = False

    def add(self, move: TracedMove) -> None:
        """Add a move; beyond what is kept it is counted."""
        if self.is_full:
            self.more += 1
        else:
            self.moves.append(move)
            self.is_full = len(self.moves) >= MOST_MOVES


def points_of(path: Path) -> tuple[Three, ...]:
    """Return points of a path, close enough for a picture, [mm]."""
    if not isinstance(path, Arc):
        return path.start, path.end
    many = max(2, min(int(abs(path.sweep) * ARC_STEPS / 1.5) + 1, 200))
    return tuple(path.at(n / many) for n in range(many + 1))


@dataclass(frozen=True, slots=True)
class Stay:
    """What a tool does under an offset before it goes elsewhere: feed moves, rapids, lines from and to."""

    tool: int
    offset: str
    feeds: int
    rapids: int
    begin: int
    end: int


def stays_of(moves: Sequence[TracedMove]) -> list[Stay]:
    """Return the visits of a program in order: each tool at each offset.

    Args:
        moves: in order.
    """
    found: list[Stay] = []
    for move in moves:
        last = found[-1] if found else None
        fed = move.kind == "feed"
        if last is not None and (last.tool, last.offset) == (move.tool, move.offset):
            found[-1] = Stay(
                move.tool, move.offset, last.feeds + fed, last.rapids + (not fed), last.begin, move.line
            )
        else:
            found.append(Stay(move.tool, move.offset, int(fed), int(not fed), move.line, move.line))
    return found
