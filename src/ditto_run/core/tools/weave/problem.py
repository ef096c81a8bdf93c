"""The weave: one load, several stations, every operation once; the problem as it is solved, in whole milliseconds.

Stations, tools and operations are counted from 0 in the order of the problem. A set of operations is a number whose bits
are its members.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import reduce
from operator import or_
from typing import Literal

CycleKind = Literal["load", "loop", "once"]
RuleKind = Literal["before", "rest", "together", "once", "cool", "first", "last"]
Matrix = tuple[tuple[int, ...], ...]


@dataclass(frozen=True, slots=True)
class WeaveOp:
    """One operation.

    Args:
        id: its name, unique in the problem.
        station, tool: by number.
        cut_ms: how long it cuts. [ms]
        tags: free words for rules.
    """

    id: str
    station: int
    tool: int
    cut_ms: int
    tags: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class WeaveStation:
    """One station.

    Args:
        id: its name.
        pieces: sitting there.
        finished: pieces it gives finished in a cycle; 0 for a first setup.
        face: face of an index it sits on, by number.
    """

    id: str
    pieces: int = 1
    finished: int = 1
    face: int = 0


@dataclass(frozen=True, slots=True)
class WeaveRule:
    """One rule, its operations looked up.

    Args:
        kind: which.
        id: shown when it is broken.
        why: its reason.
        a, b: sets of operations; of together, once, first and last a alone.
        same_station: only within one station.
        rest_ms: of rest and cool. [ms]
    """

    kind: RuleKind
    id: str
    why: str
    a: int
    b: int = 0
    same_station: bool = False
    rest_ms: int = 0


@dataclass(frozen=True, slots=True)
class Weave:
    """A problem.

    Args:
        ops: operations, station by station.
        stations, tools: as listed; tools by their ids.
        before: what has to be done before each operation: its own order and the rules that say so in general. [set each]
        own_before: the part of it that is the stations' own order. [set each]
        change: from tool to tool, with what is added when a tool is put in. [ms]
        move: from station to station. [ms]
        index: from face to face. [ms]
        away: of each station, where tools can be changed at one position only; None where they can anywhere. [ms]
        at_once: True if change and move run at the same time.
        kind: load, loop or once.
        start_tool, end_tool: by number; None where not named.
        from_park, to_park: of each station. [ms]
        load_ms: the machine stands still while it is loaded; in the time of a piece, not in the cycle. [ms]
        rules: all of them.
    """

    ops: tuple[WeaveOp, ...]
    stations: tuple[WeaveStation, ...]
    tools: tuple[str, ...]
    before: tuple[int, ...]
    own_before: tuple[int, ...]
    change: Matrix
    move: Matrix
    index: Matrix
    away: tuple[int, ...] | None = None
    at_once: bool = False
    kind: CycleKind = "load"
    start_tool: int | None = None
    end_tool: int | None = None
    from_park: tuple[int, ...] = ()
    to_park: tuple[int, ...] = ()
    load_ms: int = 0
    rules: tuple[WeaveRule, ...] = ()

    @property
    def at_station(self) -> tuple[int, ...]:
        """The operations of each station, a set each."""
        return tuple(
            set_of(i for i, op in enumerate(self.ops) if op.station == s) for s in range(len(self.stations))
        )

    def between(self, i: int, j: int) -> tuple[int, int, int]:
        """Return change, move and index from one operation to the next, [ms, ms, ms]; of what runs at once the shorter is nothing."""
        one, other = self.ops[i], self.ops[j]
        change = self.change[one.tool][other.tool]
        move = 0 if one.station == other.station else self.move[one.station][other.station]
        faces = self.stations[one.station].face, self.stations[other.station].face
        index = 0 if faces[0] == faces[1] else self.index[faces[0]][faces[1]]
        if one.tool != other.tool and self.away is not None:
            move = self.away[one.station] + self.away[other.station]
        if self.at_once:
            return (change, 0, 0) if change >= move + index else (0, move, index)
        return change, move, index

    def opening(self, first: int) -> tuple[int, int]:
        """Return change and move before the first operation, [ms, ms]."""
        if self.kind == "loop":
            return 0, 0
        op = self.ops[first]
        change = self.change[self.start_tool][op.tool] if self.start_tool is not None else 0
        return change, self.from_park[op.station]

    def closing(self, first: int, last: int) -> tuple[int, int, int]:
        """Return change, move and index after the last operation, [ms, ms, ms]."""
        if self.kind == "loop":
            return self.between(last, first)
        op, end = self.ops[last], self.end_tool
        if self.kind == "load":
            end = self.start_tool if self.start_tool is not None else self.ops[first].tool
        change = self.change[op.tool][end] if end is not None else 0
        return change, self.to_park[op.station], 0


def members(ops: int) -> list[int]:
    """Return the members of a set of operations, in order."""
    return [i for i in range(ops.bit_length()) if ops >> i & 1]


def set_of(ops: Iterable[int]) -> int:
    """Return the set of some operations."""
    return reduce(or_, (1 << i for i in ops), 0)


def by_id(weave: Weave) -> Mapping[str, int]:
    """Return the number of each operation, by its name."""
    return {op.id: i for i, op in enumerate(weave.ops)}


def all_before(ops: Sequence[WeaveOp], own: Sequence[int], rules: Sequence[WeaveRule]) -> tuple[int, ...]:
    """Return what has to be done before each operation: its own order, and the rules that put one before the other.

    Args:
        ops: the operations.
        own: the stations' own order. [set each]
        rules: all of them.
    """
    found = [*own]
    stations = max(op.station for op in ops) + 1
    at_station = [set_of(i for i, op in enumerate(ops) if op.station == s) for s in range(stations)]
    for rule in rules:
        if rule.kind in {"before", "rest"}:
            for b in members(rule.b):
                found[b] |= rule.a & (at_station[ops[b].station] if rule.same_station else rule.a)
    return tuple(found)


def with_rules(weave: Weave, rules: Sequence[WeaveRule]) -> Weave:
    """Return the same problem with other rules."""
    return replace(weave, rules=tuple(rules), before=all_before(weave.ops, weave.own_before, rules))
