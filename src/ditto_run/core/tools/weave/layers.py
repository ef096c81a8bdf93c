"""Search through sets of done operations, layer by layer.

Of all orders that have done the same, ended in the same class and opened alike, the best is kept; whatever takes at least more
than the best order known is cut off.

One order is better than another by cycle, then by when the first station is done, then by pieces at risk. With rests or
coolings what an order has still to wait for counts as well: several are then kept, none of which is in nothing later than
another.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field, fields, replace

import numpy as np
from numpy.typing import NDArray

from ditto_run.core.tools.weave.bound import NEVER, Bound
from ditto_run.core.tools.weave.model import Model
from ditto_run.core.tools.weave.units import Flags, Ints

Value = tuple[int, int, int]
Step = tuple[NDArray[np.int32], NDArray[np.int16]]  # parent and operation of each state of a layer
LEAST_SPENT = 40  # states a look at one unit counts for, were it for fewer
OF_ITSELF, USUAL_WORK = 8, 26  # what a state costs, in walks looked at: of itself, and as it is counted once
AT_ONCE = 4  # walks looked at between two siftings
NEIGHBOURS = 8  # labels of a state each is compared with, besides the first
NOT_YET = -1


class UsedUp(Exception):
    """The budget of states is used up."""


@dataclass(frozen=True)
class States:
    """Unfinished orders, one a row.

    Args:
        words: what is done, as numbers; the second index is the number. [row, number]
        last: class of the last operation.
        opening: how it opened.
        clock: end of the last cut. [ms]
        left: cuts and cheapest ways that are left. [ms]
        least: what the whole takes at least. [ms]
        first: when the first station that counts was done; NOT_YET. [ms]
        risk: most pieces begun and not yet finished. [pieces]
        begun: pieces begun and not yet finished now. [pieces]
        over: when each rest is over. [row, rest; ms]
        parent, op: row of the layer before, and what was done.
    """

    words: Ints
    last: Ints
    opening: Ints
    clock: Ints
    left: Ints
    least: Ints
    first: Ints
    risk: Ints
    begun: Ints
    over: Ints
    parent: Ints
    op: Ints

    def __len__(self) -> int:
        """Return how many there are."""
        return len(self.last)

    def rows(self, some: Ints | Flags) -> "States":
        """Return some of them."""
        return States(*(getattr(self, name)[some] for name in NAMES))


NAMES = tuple(one.name for one in fields(States))


@dataclass
class Found:
    """What a search through the layers found.

    Args:
        order: the best order; None where none is better than what was known.
        value: its cycle, first station done, pieces at risk. [ms, ms, pieces]
        bound: no allowed order takes less. [ms]
        whole: True if nothing was left out but what is cut off for sure.
    """

    order: tuple[int, ...] | None
    value: Value | None
    bound: int
    whole: bool


@dataclass
class Search:
    """Searches through the layers of a weave.

    Args:
        model: the weave as arrays.
        bound: what unfinished orders take at least.
        budget: states that may still be looked at.
        best: value of the best order known.
        lost: the least that anything left out of the last walk takes at least. [ms]
        frontier: the same of the layer it came to. [ms]
    """

    model: Model
    bound: Bound
    budget: int
    best: Value = (NEVER, NEVER, NEVER)
    lost: int = NEVER
    frontier: int = 0
    _offsets: list[Ints] = field(default_factory=list)

    def through(self, width: int) -> Found:
        """Walk through all layers.

        Args:
            width: states kept of a layer, those that take least.

        Raises:
            UsedUp: if the budget does not last.
        """
        self.lost = NEVER
        states = self._begun()
        back: list[Step] = []
        for done in range(1, len(self.model.weave.ops)):
            if not len(states):
                break
            self.frontier = int(states.least.min())
            back.append((states.parent.astype(np.int32), states.op.astype(np.int16)))
            found = self._next(states, done)
            states = self._kept(found, width) if found else states.rows(np.zeros(0, np.int64))
        if not len(states):
            return Found(None, None, self.lost, self.lost >= NEVER)
        back.append((states.parent.astype(np.int32), states.op.astype(np.int16)))
        return self._best_of(states, back)

    def _best_of(self, states: States, back: Sequence[Step]) -> Found:
        cycle = states.clock + self.model.closes[states.last, states.opening]
        at = int(np.lexsort((states.risk, states.first, cycle))[0])
        value = int(cycle[at]), int(states.first[at]), int(states.risk[at])
        order = []
        for parent, op in reversed(back):
            order.append(int(op[at]))
            at = int(parent[at])
        return Found(tuple(reversed(order)), value, min(self.lost, value[0]), self.lost > value[0])

    def _begun(self) -> States:
        """The first operations."""
        model = self.model
        none = np.zeros(1, np.int64)
        empty = States(
            words=np.zeros((1, model.words), np.int64),
            last=none,
            opening=none,
            clock=none,
            left=none + int((model.cut + self.bound.cheapest).sum()),
            least=none,
            first=none + NOT_YET,
            risk=none,
            begun=none,
            over=np.zeros((1, len(model.rests)), np.int64),
            parent=none,
            op=none,
        )
        self._offsets = [none] * len(self.bound.walks)
        found = []
        for n, unit in enumerate(model.units):
            for i, to in zip(unit.next_op[0].tolist(), unit.next_set[0].tolist(), strict=True):
                if i in model.firsts:
                    last = model.class_of[i]
                    opened = replace(empty, opening=none + model.opening_of[last])
                    found.append(self._placed(opened, none, none + i, n, none + to, none + model.opens[last]))
        states = [one for one in found if len(one)]
        return _joined(states) if states else empty.rows(none[:0])

    def _next(self, states: States, done: int) -> list[States]:
        """Every state of a layer with each operation that may follow."""
        model = self.model
        standing = [unit.standing(states.words) for unit in model.units]
        none = np.zeros(len(states), np.int64)
        self._offsets = [
            sum((standing[n] * radix for n, radix in walk.radix.items()), none) for walk in self.bound.walks
        ]
        barred = _Barred(model, standing, last=done == len(model.weave.ops) - 1)
        found = []
        for n, unit in enumerate(model.units):
            for slot in range(unit.next_op.shape[1]):
                self._spend(0)
                op = unit.next_op[standing[n], slot]
                rows = np.nonzero((op >= 0) & ~barred.of(op))[0]
                rows = rows[barred.ready(op[rows], rows)]
                if len(rows):
                    step = unit.next_set[standing[n][rows], slot] - standing[n][rows]
                    found.append(self._placed(states, rows, op[rows], n, step))
        return [one for one in found if len(one)]

    def _spend(self, states: int) -> None:
        self.budget -= max(states * (len(self.bound.walks) + OF_ITSELF) // USUAL_WORK, LEAST_SPENT)
        if self.budget < 0:
            raise UsedUp

    def _placed(
        self, states: States, rows: Ints, op: Ints, n: int, step: Ints, way: Ints | None = None
    ) -> States:
        """States with one operation more, of one unit; those that cannot be better than the best known are left out."""
        model = self.model
        self._spend(len(rows))
        last = model.class_of[op]
        ready = states.clock[rows] + (model.between[states.last[rows], last] if way is None else way)
        left = states.left[rows] - model.cut[op] - self.bound.cheapest[op]
        some = np.nonzero(ready + model.cut[op] + left <= self.best[0])[0]
        rows, op, step, last, left = rows[some], op[some], step[some], last[some], left[some]
        clock, over = self._timed(op, ready[some], states.over[rows])
        value = last * model.openings + states.opening[rows]
        here, least = self._bounded(clock + left, rows, n, step, value)
        rows, op, clock = rows[here], op[here], clock[here]
        words = states.words[rows]
        words[:, model.units[n].word] += step[here] * model.units[n].radix
        counted = self._counted(states, rows, words, clock, int(model.station_of[model.units[n].ops[0]]))
        placed = States(
            words, last[here], states.opening[rows], clock, left[here], least, *counted, over[here], rows, op
        )
        return placed.rows(self._promising(placed))

    def _bounded(self, plain: Ints, rows: Ints, n: int, step: Ints, value: Ints) -> tuple[Ints, Ints]:
        """Which states are not cut off, and what they take at least, by the walks one after the other.

        Args:
            plain: clock, and cuts and cheapest ways left. [ms]
            rows: of the layer before.
            n: unit that went on.
            step: how far.
            value: class and opening as one number.
        """
        here, least = np.arange(len(plain)), plain
        per_place = len(self.model.classes) * self.model.openings
        for k, walk in enumerate(self.bound.walks):
            place = self._offsets[k][rows] + step * walk.radix.get(n, 0)
            least = np.maximum(least, plain + walk.least[place * per_place + value])
            if k % AT_ONCE == 0:
                some = np.nonzero(least <= self.best[0])[0]
                if len(some) < len(here):
                    here, least, plain = here[some], least[some], plain[some]
                    rows, step, value = rows[some], step[some], value[some]
        return here, least

    def _timed(self, op: Ints, ready: Ints, over: Ints) -> tuple[Ints, Ints]:
        """When each operation ends, begun once the machine is there and its rests are over, and when each rest is over then, [ms]."""
        start = ready
        for k, rest in enumerate(self.model.rests):
            start = np.where(rest.holds[op], np.maximum(start, over[:, k]), start)
        clock = start + self.model.cut[op]
        for k, rest in enumerate(self.model.rests):
            over[:, k] = np.where(rest.after[op], clock + rest.rest_ms, over[:, k])
        return clock, over

    def _counted(
        self, states: States, rows: Ints, words: Ints, clock: Ints, station: int
    ) -> tuple[Ints, Ints, Ints]:
        """When the first station was done, most pieces at risk, and pieces begun, after an operation at a station."""
        model = self.model
        counts = [model.units[k].count[model.units[k].standing(words)] for k in model.stations[station]]
        done = np.sum(counts, axis=0)
        begun = states.begun[rows] + np.where(done == 1, model.pieces[station], 0)
        risk = np.maximum(states.risk[rows], begun)
        finished = done == model.sizes[station]
        first = states.first[rows]
        if model.counting[station]:
            first = np.where(finished & (first == NOT_YET), clock, first)
        return first, risk, begun - np.where(finished, model.pieces[station], 0)

    def _promising(self, states: States) -> Ints:
        """Those states that may still become better than the best order known, or as good."""
        cycle, earliest, pieces = self.best
        even = (states.first < earliest) | ((states.first == earliest) & (states.risk <= pieces))
        return np.nonzero((states.least < cycle) | ((states.least == cycle) & even))[0]

    def _kept(self, found: Sequence[States], width: int) -> States:
        """The best of those that are alike, and of these so many as a layer may have."""
        states = _joined(found)
        key = states.words[:, 0] * (len(self.model.classes) * self.model.openings)
        key += states.last * self.model.openings + states.opening
        keys = [key, *states.words.T[1:]]
        some = _undominated(states, keys) if self.model.rests else _best_alike(states, keys)
        if len(some) > width:
            least = states.least[some]
            order = np.lexsort((some, -states.clock[some], least))
            self.lost = min(self.lost, int(least[order[width]]))
            some = np.sort(some[order[:width]])
        return states.rows(some)


def _joined(states: Sequence[States]) -> States:
    return States(*(np.concatenate([getattr(one, name) for one in states]) for name in NAMES))


class _Barred:
    """What may not follow a state: outside of what is gone through once begun, the last one too early, before what it waits for."""

    def __init__(self, model: Model, standing: Sequence[Ints], *, last: bool) -> None:
        self.model, self.standing, self.last = model, standing, last
        self.whole = [(group, group.count(standing)) for group in model.whole]
        self.lasts = [(group, group.count(standing)) for group in model.lasts]

    def of(self, op: Ints) -> Flags:
        """Return where an operation may not follow; the operations of no state do not matter."""
        barred = np.zeros(len(op), bool)
        for group, done in self.whole:
            barred |= (done > 0) & (done < group.size) & ~group.inside[op]
        for group, done in self.lasts:
            barred |= ~group.inside[op] if self.last else (done == group.size - 1) & group.inside[op]
        return barred

    def ready(self, op: Ints, rows: Ints) -> Flags:
        """Return where all is done that an operation waits for in other units."""
        found = np.ones(len(op), bool)
        for i in np.unique(op):
            if self.model.crossing[i]:
                mine = np.nonzero(op == i)[0]
                for unit, done in self.model.crossing[i]:
                    found[mine] &= done[self.standing[unit][rows[mine]]]
        return found


def _groups(keys: Sequence[Ints]) -> tuple[Ints, Ints]:
    """The rows in an order that brings those of one key together, and where each key begins."""
    key, count = keys[0], len(keys[0])
    bits = count.bit_length()
    if len(keys) == 1 and int(key.max()).bit_length() + bits < 63:  # noqa: PLR2004 - bits of a number
        packed = np.sort(
            (key << bits) | np.arange(count)
        )  # sorting numbers is far quicker than sorting by them
        order = packed & ((1 << bits) - 1)
    else:
        order = np.lexsort(keys[::-1])
    begins = np.ones(count, bool)
    begins[1:] = np.any([one[order][1:] != one[order][:-1] for one in keys], axis=0)
    return order, np.nonzero(begins)[0]


def _best_alike(states: States, keys: Sequence[Ints]) -> Ints:
    """Of the states of each key the best; of equal ones the first."""
    order, heads = _groups(keys)
    group = np.zeros(len(order), np.int64)
    group[heads[1:]] = 1
    group = np.cumsum(group)
    best = np.ones(len(order), bool)
    for value in (states.clock[order], states.first[order], states.risk[order]):
        shown = np.where(best, value, NEVER)
        best &= shown == np.minimum.reduceat(shown, heads)[group]
    return np.sort(np.minimum.reduceat(np.where(best, order, NEVER), heads))


def _undominated(states: States, keys: Sequence[Ints]) -> Ints:
    """Of the states of each key those of which nothing is later, or riskier, than another's; a few too many do no harm."""
    order = np.lexsort((states.risk, states.first, states.clock, *keys[::-1]))
    count = len(order)
    begins = np.ones(count, bool)
    begins[1:] = np.any([one[order][1:] != one[order][:-1] for one in keys], axis=0)
    head = np.maximum.accumulate(np.where(begins, np.arange(count), 0))
    waits = np.maximum(states.over, states.clock[:, None])
    values = np.column_stack([states.clock, states.first, states.risk, waits])[order]
    kept = np.ones(count, bool)
    for by in range(1, NEIGHBOURS + 2):
        other = np.maximum(np.arange(count) - by, head) if by <= NEIGHBOURS else head
        mine = np.nonzero(kept & (other < np.arange(count)))[0]
        kept[mine[(values[other[mine]] <= values[mine]).all(axis=1)]] = False
    return np.sort(order[kept])
