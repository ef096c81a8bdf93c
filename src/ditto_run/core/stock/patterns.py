"""Ways of filling a bar, and the linear problem over them: which ways are worth having, and a bound."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil

Fill = tuple[int, ...]
MOST_ROUNDS = 400
NOTHING_GAINED = 1e-7


@dataclass(frozen=True, slots=True)
class CutProblem:
    """A cutting-stock problem in whole numbers.

    Args:
        sizes: room each piece takes, with its kerf.
        counts: how many of each are wanted.
        rooms: room of each kind of bar.
        costs: 1 for a bar that is bought, 0 for an offcut.
        limits: how many of each kind there are; None for as many as wanted.
    """

    sizes: tuple[int, ...]
    counts: tuple[int, ...]
    rooms: tuple[int, ...]
    costs: tuple[int, ...]
    limits: tuple[int | None, ...]


@dataclass(frozen=True, slots=True)
class Relaxed:
    """The linear problem solved: ways worth having (kind of bar and filling), and the least number of bars."""

    columns: tuple[tuple[int, Fill], ...]
    bound: int


def fills(sizes: Sequence[int], counts: Sequence[int], room: int, most: int) -> list[Fill] | None:
    """Return every filling of a bar that takes no further piece; None if there are more than `most`.

    Args:
        sizes: room each piece takes.
        counts: how many of each are wanted.
        room: room of the bar.
        most: fillings listed at the most.
    """
    order = sorted(range(len(sizes)), key=lambda i: -sizes[i])
    found: list[Fill] = []

    def fill(place: int, left: int, taken: list[int]) -> bool:
        if place == len(order):
            if any(taken) and all(taken[i] >= counts[i] or sizes[i] > left for i in order):
                found.append(tuple(taken))
            return len(found) <= most
        i = order[place]
        for count in range(min(left // sizes[i], counts[i]), -1, -1):
            taken[i] = count
            if not fill(place + 1, left - count * sizes[i], taken):
                return False
        taken[i] = 0
        return True

    return found if fill(0, room, [0] * len(sizes)) else None


def best_fill(values: Sequence[float], sizes: Sequence[int], counts: Sequence[int], room: int) -> Fill:
    """Return the filling of greatest value: a bounded knapsack, by branch and bound.

    Args:
        values: worth of each piece, [any one unit].
        sizes: room each takes.
        counts: how many of each are wanted.
        room: room of the bar.
    """
    order = sorted((i for i in range(len(sizes)) if values[i] > 0), key=lambda i: -values[i] / sizes[i])
    best_value, best = 0.0, [0] * len(sizes)
    taken = [0] * len(sizes)

    def branch(place: int, left: int, value: float) -> None:
        nonlocal best_value, best
        if value > best_value + NOTHING_GAINED:
            best_value, best = value, taken.copy()
        if (
            place == len(order)
            or value + left * values[order[place]] / sizes[order[place]] <= best_value + NOTHING_GAINED
        ):
            return
        i = order[place]
        for count in range(min(left // sizes[i], counts[i]), -1, -1):
            taken[i] = count
            branch(place + 1, left - count * sizes[i], value + count * values[i])
        taken[i] = 0

    branch(0, room, 0.0)
    return tuple(best)


def first_fit(problem: CutProblem) -> list[tuple[int, Fill]] | None:
    """Return a plan by first fit, longest piece first, offcuts before bars; None if the bars do not suffice."""
    order = [
        w
        for w in sorted(range(len(problem.sizes)), key=lambda w: -problem.sizes[w])
        for _ in range(problem.counts[w])
    ]
    kinds = sorted(range(len(problem.rooms)), key=lambda i: (problem.costs[i], problem.rooms[i]))
    used = dict.fromkeys(kinds, 0)
    bars: list[tuple[int, list[int], list[int]]] = []  # kind, room left, pieces
    for w in order:
        bar = next((bar for bar in bars if bar[1][0] >= problem.sizes[w]), None)
        if bar is None:
            kind = next(
                (
                    i
                    for i in kinds
                    if problem.rooms[i] >= problem.sizes[w] and _free(problem.limits[i], used[i])
                ),
                None,
            )
            if kind is None:
                return None
            used[kind] += 1
            bar = (kind, [problem.rooms[kind]], [0] * len(problem.sizes))
            bars.append(bar)
        bar[1][0] -= problem.sizes[w]
        bar[2][w] += 1
    return [(kind, tuple(pieces)) for kind, _, pieces in bars]


def _free(limit: int | None, used: int) -> bool:
    return limit is None or used < limit


def relax(problem: CutProblem) -> Relaxed | None:
    """Return the ways of filling a bar that the linear problem asks for, and its bound; None if it cannot be met.

    Column generation: solve the linear problem over the ways known, let its prices fill a better bar, until none is.

    Args:
        problem: sizes, counts, bars.

    Source:
        Gilmore and Gomory 1961, from memory; the linear problems by scipy's HiGHS.
    """
    from scipy.optimize import linprog  # noqa: PLC0415 - start-up stays quick

    start = first_fit(problem)
    single = [
        (i, tuple(min(problem.rooms[i] // size, count) if w == k else 0 for k in range(len(problem.sizes))))
        for i in range(len(problem.rooms))
        for w, (size, count) in enumerate(zip(problem.sizes, problem.counts, strict=True))
        if problem.rooms[i] >= size
    ]
    columns = list(dict.fromkeys((*(start or ()), *single)))
    limited = [i for i, limit in enumerate(problem.limits) if limit is not None]
    value = 0.0
    for _ in range(MOST_ROUNDS):
        demand = [[-fill[w] for _, fill in columns] for w in range(len(problem.sizes))]
        supply = [[1 if kind == i else 0 for kind, _ in columns] for i in limited]
        right = [-count for count in problem.counts] + [problem.limits[i] or 0 for i in limited]
        solved = linprog(
            [problem.costs[kind] for kind, _ in columns], A_ub=demand + supply, b_ub=right, method="highs"
        )
        if solved.status != 0:
            return None
        value = float(solved.fun or 0.0)
        prices = [-float(m) for m in solved.ineqlin.marginals]
        new = _better(problem, columns, prices, limited)
        if not new:
            break
        columns += new
    return Relaxed(tuple(columns), max(0, ceil(value - 1e-6)))


def _better(
    problem: CutProblem, columns: list[tuple[int, Fill]], prices: list[float], limited: list[int]
) -> list[tuple[int, Fill]]:
    """Return for each kind of bar the filling that is worth more than it costs, if there is one."""
    worth, found = prices[: len(problem.sizes)], []
    for i, room in enumerate(problem.rooms):
        fee = prices[len(problem.sizes) + limited.index(i)] if i in limited else 0.0
        fill = best_fill(worth, problem.sizes, problem.counts, room)
        gain = sum(value * count for value, count in zip(worth, fill, strict=True)) - problem.costs[i] - fee
        if gain > NOTHING_GAINED * 10 and (i, fill) not in columns:
            found.append((i, fill))
    return found
