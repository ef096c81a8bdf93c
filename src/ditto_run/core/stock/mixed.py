"""Mixed lengths from several stock lengths and named offcuts: fewest bars, then the longest useful offcut."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

from ditto_run.core.errors import BadEntry

SCALE = 100  # lengths are counted in hundredths of a millimetre
MOST_PATTERNS = 30_000
SECONDS = 1.4  # wall clock for the first question; the second gets half
SEED, WORKERS = 1, 8  # several strategies side by side prove in a moment what one alone does not


@dataclass(frozen=True, slots=True)
class Wanted:
    """So many pieces of one length, [mm]."""

    name: str
    length_mm: float
    count: int


@dataclass(frozen=True, slots=True)
class Stock:
    """One kind of bar or one offcut.

    Args:
        name: as the shelf calls it.
        length_mm: usable length. [mm]
        count: how many there are; None for as many as wanted, to be bought.
        is_offcut: True for a named remnant: it costs no bar.
    """

    name: str
    length_mm: float
    count: int | None = None
    is_offcut: bool = False


@dataclass(frozen=True, slots=True)
class CutBar:
    """One bar as it is cut: pieces by place in the wanted list, and what is left, [mm]."""

    stock: int
    pieces: tuple[int, ...]
    left_mm: float


@dataclass(frozen=True, slots=True)
class DrawnBar:
    """Bars that are cut alike, [mm]."""

    times: int
    pieces_mm: tuple[float, ...]
    left_mm: float


@dataclass(frozen=True, slots=True)
class Nesting:
    """The answer.

    Args:
        bars: every bar or offcut that is cut.
        new_bars: bars that are not offcuts.
        bound: no plan can take fewer new bars than this.
        status: proven where `new_bars` equals the bound.
        longest_left_mm: longest remnant. [mm]
        kerf_mm: width of a cut. [mm]
        drawn: bars cut alike, once each with their number and the lengths of their pieces.
    """

    bars: tuple[CutBar, ...]
    new_bars: int
    bound: int
    status: Literal["proven", "best found"]
    longest_left_mm: float
    kerf_mm: float = 0.0
    drawn: tuple[DrawnBar, ...] = ()


def nest(
    wanted: Sequence[Wanted], stock: Sequence[Stock], kerf_mm: float, seconds: float = SECONDS
) -> Nesting:
    """Return how to cut mixed lengths: fewest new bars, then the longest useful offcut.

    Every way of filling a bar is listed, and so many bars of each way are chosen (the patterns of the cutting-stock
    problem), solved exactly by CP-SAT with a fixed seed and eight workers.

    Args:
        wanted: lengths and counts. [mm]
        stock: bars and offcuts. [mm]
        kerf_mm: width of a cut; each piece costs one. [mm]
        seconds: limit for the first question; the second, for the longest offcut, gets half. [s]

    Raises:
        BadEntry: if a piece is longer than every bar, the bars there are do not suffice, or the ways of filling a
            bar are too many.

    Source:
        Cutting-stock problem by patterns (Gilmore and Gomory 1961, from memory).
    """
    sizes = [round((piece.length_mm + kerf_mm) * SCALE) for piece in wanted]
    rooms = [round((bar.length_mm + kerf_mm) * SCALE) for bar in stock]
    for piece, size in zip(wanted, sizes, strict=True):
        if size > max(rooms):
            raise BadEntry(
                f"{piece.name}, {piece.length_mm:g} mm, is longer than every bar.",
                "Add a longer bar.",
                "stock",
            )
    patterns = [
        (i, fill) for i, room in enumerate(rooms) for fill in _fills(sizes, [w.count for w in wanted], room)
    ]
    if len(patterns) > MOST_PATTERNS:
        raise BadEntry(
            f"There are {len(patterns):,} ways to fill a bar.",
            "Cut the short pieces from offcuts first, or do them apart.",
            "rows",
        )
    counts, new_bars, bound, proven = _fewest(patterns, wanted, stock, seconds)
    better = _longest(patterns, wanted, stock, (sizes, rooms), new_bars, seconds / 2)
    chosen = better if better is not None else counts
    bars = _trimmed(chosen, wanted, (sizes, rooms))
    left = max((bar.left_mm for bar in bars), default=0.0)
    alike = Counter((bar.pieces, bar.left_mm) for bar in bars)
    drawn = tuple(
        DrawnBar(times, tuple(wanted[w].length_mm for w in pieces), rest)
        for (pieces, rest), times in alike.items()
    )
    return Nesting(bars, new_bars, bound, "proven" if proven else "best found", left, kerf_mm, drawn)


def _fills(sizes: Sequence[int], counts: Sequence[int], room: int) -> list[tuple[int, ...]]:
    """Return every filling that takes no further piece, longest lengths first."""
    order = sorted(range(len(sizes)), key=lambda i: -sizes[i])
    found: list[tuple[int, ...]] = []

    def fill(place: int, left: int, taken: list[int]) -> None:
        if len(found) > MOST_PATTERNS:
            return
        if place == len(order):
            if all(taken[i] >= counts[i] or sizes[i] > left for i in order) and any(taken):
                found.append(tuple(taken))
            return
        i = order[place]
        for count in range(min(left // sizes[i], counts[i]), -1, -1):
            taken[i] = count
            fill(place + 1, left - count * sizes[i], taken)
        taken[i] = 0

    fill(0, room, [0] * len(sizes))
    return found


Patterns = Sequence[tuple[int, tuple[int, ...]]]


def _model(
    patterns: Patterns, wanted: Sequence[Wanted], stock: Sequence[Stock]
) -> tuple[Any, list[Any], list[Any]]:
    from ortools.sat.python import cp_model  # noqa: PLC0415 - start-up stays quick

    model = cp_model.CpModel()
    most = sum(w.count for w in wanted)
    limits = [bar.count if bar.count is not None else most for bar in stock]
    used = [model.new_int_var(0, min(most, limits[i]), f"p{n}") for n, (i, _) in enumerate(patterns)]
    covers = [
        [used[n] * fill[w] for n, (_, fill) in enumerate(patterns) if fill[w]] for w in range(len(wanted))
    ]
    for i, bar in enumerate(stock):
        mine = [used[n] for n, (of, _) in enumerate(patterns) if of == i]
        if bar.count is not None and mine:
            model.add(sum(mine) <= bar.count)
    return model, used, covers


def _solve(model: Any, seconds: float) -> tuple[Any, Any]:  # noqa: ANN401 - OR-Tools has no types of its own
    from ortools.sat.python import cp_model  # noqa: PLC0415 - start-up stays quick

    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.random_seed = SEED
    solver.parameters.num_workers = WORKERS
    return solver, solver.solve(model)


def _fewest(
    patterns: Patterns, wanted: Sequence[Wanted], stock: Sequence[Stock], seconds: float
) -> tuple[list[tuple[int, tuple[int, ...]]], int, int, bool]:
    from ortools.sat.python import cp_model  # noqa: PLC0415 - start-up stays quick

    model, used, covers = _model(patterns, wanted, stock)
    for piece, cover in zip(wanted, covers, strict=True):
        model.add(sum(cover) >= piece.count)
    new = sum(used[n] for n, (i, _) in enumerate(patterns) if not stock[i].is_offcut)
    model.minimize(new)
    solver, status = _solve(model, seconds)
    if status not in {cp_model.OPTIMAL, cp_model.FEASIBLE}:
        raise BadEntry(
            "The bars there are do not suffice.", "Add bars, or leave their number open to buy.", "stock"
        )
    bars = [pattern for n, pattern in enumerate(patterns) for _ in range(solver.value(used[n]))]
    return (
        bars,
        round(solver.objective_value),
        max(0, round(solver.best_objective_bound)),
        status == cp_model.OPTIMAL,
    )


def _longest(
    patterns: Patterns, wanted: Sequence[Wanted], stock: Sequence[Stock], scaled: tuple[Sequence[int], Sequence[int]], new_bars: int, seconds: float
) -> list[tuple[int, tuple[int, ...]]] | None:  # fmt: skip
    """Return bars of the same number with the longest remnant: one bar may be filled as loosely as can be."""
    from ortools.sat.python import cp_model  # noqa: PLC0415 - start-up stays quick

    if not new_bars:
        return None
    sizes, rooms = scaled
    model, used, covers = _model(patterns, wanted, stock)
    own = [i for i, bar in enumerate(stock) if not bar.is_offcut]
    which = {i: model.new_bool_var(f"b{i}") for i in own}
    loose = [model.new_int_var(0, piece.count, f"l{w}") for w, piece in enumerate(wanted)]
    model.add(sum(which.values()) == 1)
    room = sum(rooms[i] * var for i, var in which.items())
    fill = sum(size * var for size, var in zip(sizes, loose, strict=True))
    model.add(fill <= room)
    for w, piece in enumerate(wanted):
        model.add(sum(covers[w]) + loose[w] >= piece.count)
    for i in own:
        count = stock[i].count
        if count is not None:
            mine = [used[n] for n, (of, _) in enumerate(patterns) if of == i]
            model.add(sum(mine) + which[i] <= count)
    new = sum(used[n] for n, (i, _) in enumerate(patterns) if not stock[i].is_offcut)
    model.add(new <= new_bars - 1)
    model.maximize(room - fill)
    solver, status = _solve(model, seconds)
    if status not in {cp_model.OPTIMAL, cp_model.FEASIBLE}:
        return None
    bars = [pattern for n, pattern in enumerate(patterns) for _ in range(solver.value(used[n]))]
    last = next(i for i, var in which.items() if solver.value(var))
    taken = tuple(solver.value(var) for var in loose)
    return [*bars, (last, taken)] if any(taken) else bars


def _trimmed(
    chosen: Sequence[tuple[int, tuple[int, ...]]],
    wanted: Sequence[Wanted],
    scaled: tuple[Sequence[int], Sequence[int]],
) -> tuple[CutBar, ...]:
    """Return the bars with no piece more than wanted; what is spared lengthens a remnant."""
    sizes, rooms = scaled
    open_ = [piece.count for piece in wanted]
    found = []
    for stock, fill in sorted(
        chosen, key=lambda bar: -sum(c * s for c, s in zip(bar[1], sizes, strict=True))
    ):
        pieces: list[int] = []
        for w, count in enumerate(fill):
            take = min(count, open_[w])
            open_[w] -= take
            pieces += [w] * take
        if pieces:
            left = rooms[stock] - sum(sizes[w] for w in pieces)
            found.append(CutBar(stock, tuple(sorted(pieces, key=lambda w: -sizes[w])), max(0, left) / SCALE))
    return tuple(found)
