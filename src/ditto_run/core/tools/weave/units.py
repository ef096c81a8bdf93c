"""What is done so far as one number.

The operations of a station stand in units that do not wait for each other; the allowed sets of each unit are counted, so
that a state is where each unit stands.

A unit is a whole station where its allowed sets are few, else what hangs together in its own order, else a single operation.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ditto_run.core.tools.weave.problem import Weave, members, set_of

Ints = NDArray[np.int64]
Flags = NDArray[np.bool_]
MOST_OF_STATION = 1024  # allowed sets of a station taken as one unit
MOST_OF_UNIT = 4096
WIDEST = 24  # operations of a station whose allowed sets are tried at all
WORD = 1 << 44  # states one number may tell apart; what ends and opens a cycle still fits behind it


@dataclass(frozen=True, eq=False)
class Unit:
    """Operations that wait for none of another unit by their own order.

    Args:
        ops: its operations.
        sets: its allowed sets of done operations; a number is the place in this list, 0 is nothing done.
        next_op: of each set, what may be done next, -1 for nothing. [set, slot]
        next_set: where that leads. [set, slot]
        count: done operations of each set.
        word, radix: which number of the state it counts in, and by how much.
    """

    ops: tuple[int, ...]
    sets: tuple[int, ...]
    next_op: Ints
    next_set: Ints
    count: Ints
    word: int = 0
    radix: int = 1

    def standing(self, words: Ints) -> Ints:
        """Return which of its sets each state has done.

        Args:
            words: numbers of the states. [row, number]
        """
        found: Ints = words[:, self.word] // self.radix % len(self.sets)
        return found

    def holding(self, ops: int) -> Ints:
        """Return how many of some operations each of its sets has done."""
        return np.array([(done & ops).bit_count() for done in self.sets], np.int64)


def alike_in_a_row(weave: Weave) -> Weave:
    """Return the same problem in which operations that nothing tells apart come in the order in which they are listed.

    They stand at one station, need one tool, wait for the same, are waited for by the same and are named by the same rules; where
    something rests or cools they cut equally long too. Whatever order of them is best, this one is as good.
    """
    after = [0] * len(weave.ops)
    for i, ops in enumerate(weave.before):
        for a in members(ops):
            after[a] |= 1 << i
    timed = any(rule.kind in {"rest", "cool"} for rule in weave.rules)
    last: dict[object, int] = {}
    before, own = [*weave.before], [*weave.own_before]
    for i, op in enumerate(weave.ops):
        named = tuple((rule.a >> i & 1, rule.b >> i & 1) for rule in weave.rules)
        alike = (op.station, op.tool, weave.before[i], after[i], named, op.cut_ms if timed else 0)
        if alike in last:
            before[i] |= 1 << last[alike]
            own[i] |= 1 << last[alike]
        last[alike] = i
    return replace(weave, before=tuple(before), own_before=tuple(own))


def units_of(weave: Weave) -> tuple[Unit, ...]:
    """Return the units of a problem, each with its place in the numbers of a state."""
    found: list[Unit] = []
    for ops in weave.at_station:
        found += _of_station(weave, members(ops))
    word, radix = 0, 1
    placed = []
    for unit in found:
        if radix * len(unit.sets) > WORD:
            word, radix = word + 1, 1
        placed.append(replace(unit, word=word, radix=radix))
        radix *= len(unit.sets)
    return tuple(placed)


def _of_station(weave: Weave, ops: Sequence[int]) -> list[Unit]:
    whole = _unit(weave, ops, MOST_OF_STATION) if len(ops) <= WIDEST else None
    if whole is not None:
        return [whole]
    found = []
    for part in _hanging_together(weave, ops):
        unit = _unit(weave, part, MOST_OF_UNIT)
        found += [unit] if unit is not None else [_single(i) for i in part]
    return found


def _single(i: int) -> Unit:
    """One operation; its own order is looked at across units."""
    return Unit((i,), (0, 1 << i), np.array([[i], [-1]]), np.array([[1], [0]]), np.array([0, 1], np.int64))


def _unit(weave: Weave, ops: Sequence[int], most: int) -> Unit | None:
    """The allowed sets of some operations; None where they are more than so many."""
    inside = set_of(ops)
    place, sets, steps = {0: 0}, [0], []
    for done in sets:  # grows while it is walked
        found = []
        for i in ops:
            if done >> i & 1 or weave.own_before[i] & inside & ~done:
                continue
            new = done | 1 << i
            if new not in place:
                if len(sets) == most:
                    return None
                place[new] = len(sets)
                sets.append(new)
            found.append((i, place[new]))
        steps.append(found)
    wide = max(1, *map(len, steps))
    next_op = np.full((len(sets), wide), -1, np.int64)
    next_set = np.zeros_like(next_op)
    for row, found in enumerate(steps):
        for slot, (i, to) in enumerate(found):
            next_op[row, slot], next_set[row, slot] = i, to
    count = np.array([done.bit_count() for done in sets], np.int64)
    return Unit(tuple(ops), tuple(sets), next_op, next_set, count)


def _hanging_together(weave: Weave, ops: Sequence[int]) -> list[list[int]]:
    """The operations of a station in groups that its own order ties together."""
    group = {i: {i} for i in ops}
    for i in ops:
        for a in members(weave.own_before[i] & set_of(ops)):
            if group[a] is not group[i]:
                group[a] |= group[i]
                for one in group[i]:
                    group[one] = group[a]
    found = {id(one): one for one in group.values()}
    return [sorted(one) for one in found.values()]
