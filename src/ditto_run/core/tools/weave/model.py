"""A weave as arrays: what lies between two operations, how a cycle opens and closes, and what each rule asks of a state.

Operations of the same station and tool are alike in all but their cut: they are a class. What of the first operation counts
at the end of the cycle, a tool or a class, is its opening.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ditto_run.core.tools.weave.problem import Weave, members, set_of
from ditto_run.core.tools.weave.units import Flags, Ints, Unit, units_of


@dataclass(frozen=True, eq=False)
class Group:
    """Operations a rule names, looked up by state.

    Args:
        size: how many they are.
        inside: whether each operation is one.
        done: unit to how many of them each of its sets has done.
    """

    size: int
    inside: Flags
    done: tuple[tuple[int, Ints], ...]

    def count(self, standing: Sequence[Ints]) -> Ints:
        """Return how many are done in each state.

        Args:
            standing: set of each unit, by state.
        """
        found: Ints = sum((table[standing[unit]] for unit, table in self.done), np.zeros_like(standing[0]))
        return found


@dataclass(frozen=True, eq=False)
class Resting:
    """A rest or a cooling: what follows starts no sooner than so long after the last of what it waits for.

    Args:
        after, holds: whether each operation is waited for, and whether it waits.
        rest_ms: how long. [ms]
    """

    after: Flags
    holds: Flags
    rest_ms: int


@dataclass(frozen=True, eq=False)
class Model:
    """A weave as arrays.

    Args:
        weave: the problem.
        units: of its operations.
        words: numbers a state has.
        unit_of, class_of, station_of, cut: by operation; cuts in ms.
        classes: station and tool of each.
        between: change, move and index from class to class. [ms]
        opens: before the first operation, by class. [ms]
        firsts: operations that may be the first.
        opening_of: by class, which opening it makes.
        closes: by class of the last operation and opening. [ms]
        crossing: by operation, what has to be done in other units before it: unit, and whether each of its sets has.
        whole: together and once: begun, they are gone through.
        lasts: one of each is the last.
        rests: rests and coolings.
        stations: units of each.
        sizes, pieces: operations and pieces of each station.
        counting: whether the first of these stations done counts.
    """

    weave: Weave
    units: tuple[Unit, ...]
    words: int
    unit_of: Ints
    class_of: Ints
    station_of: Ints
    cut: Ints
    classes: tuple[tuple[int, int], ...]
    between: Ints
    opens: Ints
    firsts: tuple[int, ...]
    opening_of: Ints
    closes: Ints
    crossing: tuple[tuple[tuple[int, Flags], ...], ...]
    whole: tuple[Group, ...]
    lasts: tuple[Group, ...]
    rests: tuple[Resting, ...]
    stations: tuple[tuple[int, ...], ...]
    sizes: Ints
    pieces: Ints
    counting: Flags

    @property
    def openings(self) -> int:
        """How many openings there are."""
        return int(self.closes.shape[1])


def model_of(weave: Weave) -> Model:
    """Return a weave as arrays."""
    units = units_of(weave)
    unit_of = np.zeros(len(weave.ops), np.int64)
    for n, unit in enumerate(units):
        unit_of[list(unit.ops)] = n
    number: dict[tuple[int, int], int] = {}
    class_of = np.array([number.setdefault((op.station, op.tool), len(number)) for op in weave.ops], np.int64)
    classes = tuple(number)
    one_of = [int(np.argmax(class_of == c)) for c in range(len(classes))]
    firsts = _firsts(weave)
    opening_of, openers = _openings(weave, classes, class_of, firsts)
    closes = [[sum(weave.closing(first, last)) for first in openers] for last in one_of]
    counting = np.array([station.finished > 0 for station in weave.stations])
    return Model(
        weave,
        units,
        1 + max(unit.word for unit in units),
        unit_of,
        class_of,
        np.array([op.station for op in weave.ops], np.int64),
        np.array([op.cut_ms for op in weave.ops], np.int64),
        classes,
        np.array([[sum(weave.between(a, b)) for b in one_of] for a in one_of], np.int64),
        np.array([sum(weave.opening(first)) for first in one_of], np.int64),
        firsts,
        opening_of,
        np.array(closes, np.int64).reshape(len(classes), -1),
        _crossing(weave, units, unit_of),
        tuple(_group(weave, units, rule.a) for rule in weave.rules if rule.kind in {"together", "once"}),
        tuple(_group(weave, units, rule.a) for rule in weave.rules if rule.kind == "last"),
        _rests(weave),
        tuple(tuple(dict.fromkeys(unit_of[members(ops)].tolist())) for ops in weave.at_station),
        np.array([ops.bit_count() for ops in weave.at_station], np.int64),
        np.array([station.pieces for station in weave.stations], np.int64),
        counting if counting.any() else ~counting,
    )


def _firsts(weave: Weave) -> tuple[int, ...]:
    """Operations that may be the first of the cycle."""
    allowed = set_of(i for i in range(len(weave.ops)) if not weave.before[i])
    for rule in weave.rules:
        if rule.kind == "first":
            allowed &= rule.a
    return tuple(members(allowed))


def _openings(
    weave: Weave, classes: Sequence[tuple[int, int]], class_of: Ints, firsts: Sequence[int]
) -> tuple[Ints, list[int]]:
    """The opening each class makes, and a first operation of each opening."""
    if weave.kind == "loop":
        marks = list(range(len(classes)))
    elif weave.kind == "load" and weave.start_tool is None:
        marks = [tool for _, tool in classes]
    else:
        marks = [0] * len(classes)
    openers = {marks[int(class_of[i])]: i for i in reversed(firsts)}
    place = {mark: n for n, mark in enumerate(sorted(openers))}
    return np.array([place.get(mark, 0) for mark in marks], np.int64), [openers[mark] for mark in place]


def _crossing(
    weave: Weave, units: Sequence[Unit], unit_of: Ints
) -> tuple[tuple[tuple[int, Flags], ...], ...]:
    found = []
    for i in range(len(weave.ops)):
        mine = int(unit_of[i])
        wanted: dict[int, int] = {}
        for a in members(weave.before[i]):
            unit = int(unit_of[a])
            if unit != mine or not weave.own_before[i] >> a & 1:
                wanted[unit] = wanted.get(unit, 0) | 1 << a
        found.append(
            tuple(
                (unit, np.array([not ops & ~done for done in units[unit].sets]))
                for unit, ops in wanted.items()
            )
        )
    return tuple(found)


def _flags(weave: Weave, ops: int) -> Flags:
    return np.array([bool(ops >> i & 1) for i in range(len(weave.ops))])


def _group(weave: Weave, units: Sequence[Unit], ops: int) -> Group:
    done = tuple((n, unit.holding(ops)) for n, unit in enumerate(units) if set_of(unit.ops) & ops)
    return Group(ops.bit_count(), _flags(weave, ops), done)


def _rests(weave: Weave) -> tuple[Resting, ...]:
    found = []
    for rule in weave.rules:
        if rule.kind == "rest":
            groups = weave.at_station if rule.same_station else (rule.a | rule.b,)
            found += [
                Resting(_flags(weave, rule.a & group), _flags(weave, rule.b & group), rule.rest_ms)
                for group in groups
                if rule.a & group and rule.b & group
            ]
        elif rule.kind == "cool":
            tool = weave.ops[members(rule.a)[0]].tool
            uses = _flags(weave, set_of(i for i, op in enumerate(weave.ops) if op.tool == tool))
            found.append(Resting(uses, uses, rule.rest_ms))
    return tuple(found)
