"""What an unfinished order takes at least.

That is the cuts that are left, for each the cheapest way to come to it, and the dearest walk through what a few stations still
need, paid in what each step costs above that cheapest way.

Nothing assumes that a way straight there is the shortest: walks may lead over operations of other stations.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations, islice, product
from math import prod

import numpy as np

from ditto_run.core.tools.weave.model import Model
from ditto_run.core.tools.weave.problem import Weave, members
from ditto_run.core.tools.weave.units import Flags, Ints, Unit

NEVER = 1 << 50  # ms; longer than any cycle
SHORT = 1 << 29  # the same where a number of 32 bits will do
MOST_SETS = 6_000  # allowed sets of the units of one walk, taken together
MOST_VALUES = 1_000_000  # figures of one walk
MOST_WALKS = 48
MOST_KINDS = 6  # kinds of lists from which walks are taken; those with the most to choose first
TOGETHER = (4, 3, 2, 1)  # units of one walk, tried in this order


@dataclass(frozen=True, eq=False)
class Walk:
    """The least that some units still take above the cheapest ways, by where they stand, class and opening.

    Args:
        radix: unit to what its set counts for.
        least: by place, class and opening, flat. [ms]
    """

    radix: dict[int, int]
    least: Ints


@dataclass(frozen=True, eq=False)
class Bound:
    """What an unfinished order takes at least.

    Args:
        cheapest: way to come to each operation. [ms]
        walks: of a few units each.
    """

    cheapest: Ints
    walks: tuple[Walk, ...]


def bound_of(model: Model) -> Bound:
    """Return what unfinished orders of a weave take at least.

    Source:
        Own derivation; held to every order of small problems by a test.
    """
    ways = np.where(_may_follow(model.weave), model.between[np.ix_(model.class_of, model.class_of)], NEVER)
    cheapest = ways.min(axis=0)
    cheapest[cheapest >= NEVER] = 0  # it can only be the first
    above = _above(model, ways - cheapest)
    ends = _ends(model, above)
    walks = (Walk(_radices(model, units), _walk(model, units, above, ends)) for units in _chosen(model))
    return Bound(cheapest, tuple(walks))


def _may_follow(weave: Weave) -> Flags:
    """Whether the second operation may come right after the first: not before it, and with nothing that has to lie between."""
    count = len(weave.ops)
    all_before = [0] * count
    for i in _in_order(weave):
        for a in members(weave.before[i]):
            all_before[i] |= 1 << a | all_before[a]
    all_after = [0] * count
    for i, ops in enumerate(all_before):
        for a in members(ops):
            all_after[a] |= 1 << i
    return np.array(
        [
            [i != j and not all_before[i] >> j & 1 and not all_after[i] & all_before[j] for j in range(count)]
            for i in range(count)
        ]
    )


def _in_order(weave: Weave) -> list[int]:
    """The operations, each after all that come before it."""
    found: list[int] = []
    done, left = 0, list(range(len(weave.ops)))
    while left:
        ready = [i for i in left if not weave.before[i] & ~done]
        found += ready
        for i in ready:
            done |= 1 << i
        left = [i for i in left if not done >> i & 1]
    return found


def _above(model: Model, above: Ints) -> Ints:
    """The least from class to class above the cheapest ways, over whatever lies between, [ms]."""
    count = len(model.classes)
    least = np.full((count, count), NEVER, np.int64)
    rows = np.repeat(model.class_of[:, None], len(model.class_of), axis=1)
    np.minimum.at(least, (rows, rows.T), above)
    for over in range(count):
        np.minimum(least, least[:, over : over + 1] + least[over : over + 1, :], out=least)
    return least


def _ends(model: Model, above: Ints) -> Ints:
    """The least from a class to the end of the cycle, by opening, [ms]."""
    found = model.closes.copy()
    for over in range(len(model.classes)):
        np.minimum(found, above[:, over : over + 1] + model.closes[over], out=found)
    return found


def _chosen(model: Model) -> list[tuple[int, ...]]:
    """The units of each walk: one of each kind of list where that is not too many."""
    kinds: dict[object, list[int]] = {}
    for n, unit in enumerate(model.units):
        kinds.setdefault(_kind(model, unit), []).append(n)
    lists = sorted(kinds.values(), key=lambda mine: -len(model.units[mine[0]].sets))
    size = {mine[0]: len(model.units[mine[0]].sets) for mine in lists}
    ends = len(model.classes) * model.openings

    def fits(some: Sequence[list[int]]) -> bool:
        sets = prod(size[mine[0]] for mine in some)
        return sets <= MOST_SETS and sets * ends <= MOST_VALUES

    if len(lists) <= MOST_KINDS and fits(lists):
        return list(islice(product(*lists), MOST_WALKS))
    for many in TOGETHER:
        fitting = [some for some in combinations(lists[:MOST_KINDS], many) if fits(some)]
        if fitting:
            return list(islice((units for some in fitting for units in product(*some)), MOST_WALKS))
    return []


def _kind(model: Model, unit: Unit) -> object:
    """What units that are alike have in common: their tools, and what waits for what."""
    tools = tuple(model.weave.ops[i].tool for i in unit.ops)
    return tools, unit.next_set.shape, unit.next_set.tobytes()


def _radices(model: Model, units: Sequence[int]) -> dict[int, int]:
    radix, found = 1, {}
    for n in units:
        found[n] = radix
        radix *= len(model.units[n].sets)
    return found


def _walk(model: Model, units: Sequence[int], above: Ints, ends: Ints) -> Ints:
    """The least that some units still take, worked out from the end backwards."""
    radix = _radices(model, units)
    places = np.arange(prod(len(model.units[n].sets) for n in units))
    standing = {n: places // radix[n] % len(model.units[n].sets) for n in units}
    done = sum((model.units[n].count[standing[n]] for n in units), np.zeros_like(places))
    short, kind = _short(model)
    from_last, closing = (np.minimum(one, short).astype(kind) for one in (above.T, ends))
    least = np.full((len(places), *ends.shape), short, kind)
    least[done == done.max()] = closing
    for count in range(int(done.max()) - 1, -1, -1):
        rows = np.nonzero(done == count)[0]
        best = least[rows]
        for n in units:
            unit, here = model.units[n], standing[n][rows]
            for slot in range(unit.next_op.shape[1]):
                op = unit.next_op[here, slot]
                some = np.nonzero(op >= 0)[0]
                at = model.class_of[op[some]]
                to = rows[some] + (unit.next_set[here[some], slot] - here[some]) * radix[n]
                takes = from_last[at][:, :, None] + least[to, at][:, None, :]
                best[some] = np.minimum(best[some], takes)
        least[rows] = best
    return least.reshape(-1)


def _short(model: Model) -> tuple[int, type[np.int32 | np.int64]]:
    """What stands for never in a walk, and the kind of number: half as long where every walk is short enough."""
    longest = int(model.between.max() + model.closes.max()) * (len(model.weave.ops) + 1)
    return (SHORT, np.int32) if longest < SHORT else (NEVER, np.int64)
