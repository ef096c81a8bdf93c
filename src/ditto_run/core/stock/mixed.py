"""Mixed lengths from several stock lengths and named offcuts: fewest bars, then the longest useful offcut."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Any, Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.stock.bars import bar_room
from ditto_run.core.stock.patterns import CutProblem, Relaxed, fills, relax
from ditto_run.core.units import LengthUnit, length_text

SCALE = 100  # lengths are counted in hundredths of a millimetre
MOST_PATTERNS = 12_000  # ways of filling one bar, up to which all of them are listed
EFFORT = 0.4  # deterministic units of the solver, a few seconds on an old PC
SEED, WORKERS = 1, 8  # strategies that take turns: several prove in a moment what one alone does not


@dataclass(frozen=True, slots=True)
class WantedLength:
    """So many pieces of one length, [mm]."""

    name: str
    length_mm: float
    count: int


@dataclass(frozen=True, slots=True)
class Stock:
    """One kind of bar or one offcut.

    Args:
        name: as the shelf calls it.
        length_mm: whole length. [mm]
        keeps_mm: what the holder keeps of it. [mm]
        count: how many there are; None for as many as wanted, to be bought.
        is_offcut: True for a named remnant: it costs no bar.
    """

    name: str
    length_mm: float
    count: int | None = None
    is_offcut: bool = False
    keeps_mm: float = 0.0


@dataclass(frozen=True, slots=True)
class CutBar:
    """One bar as it is cut: pieces by place in the wanted list, and what is left, the holder's part included, [mm]."""

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
    wanted: Sequence[WantedLength],
    stock: Sequence[Stock],
    kerf_mm: float,
    effort: float = EFFORT,
    unit: LengthUnit = "mm",
) -> Nesting:
    """Return how to cut mixed lengths: fewest new bars, then the longest useful offcut.

    So many bars of each way of filling one are chosen (the patterns of the cutting-stock problem) by CP-SAT with a
    fixed seed, strategies in turns and a deterministic limit. The ways are all there are while they are few, else those that the linear problem
    asks for; its value, rounded up, is the bound no plan can go below.

    Args:
        wanted: lengths and counts. [mm]
        stock: bars and offcuts. [mm]
        kerf_mm: width of a cut; each piece costs one. [mm]
        effort: limit for the first question, in the solver's own count of steps; the second, for
            the longest offcut, gets half. The same input gives the same answer on any machine. [-]
        unit: unit that a refusal is said in.

    Raises:
        BadEntry: if a piece is longer than every bar, or the bars there are do not suffice.

    Source:
        Cutting-stock problem by patterns (Gilmore and Gomory 1961, from memory).
    """
    sizes = [round((piece.length_mm + kerf_mm) * SCALE) for piece in wanted]
    rooms = [
        round(float(bar_room(*map(_exact, (bar.length_mm, kerf_mm, bar.keeps_mm)))) * SCALE) for bar in stock
    ]
    for piece, size in zip(wanted, sizes, strict=True):
        if size > max(rooms):
            raise BadEntry(
                f"{piece.name}, {length_text(piece.length_mm, unit, 1)}, is longer than every bar.",
                "Add a longer bar.",
                "stock",
            )
    costs = tuple(0 if bar.is_offcut else 1 for bar in stock)
    limits = tuple(bar.count for bar in stock)
    problem = CutProblem(tuple(sizes), tuple(piece.count for piece in wanted), tuple(rooms), costs, limits)
    relaxed = relax(problem)
    if relaxed is None:
        raise BadEntry(
            "The bars there are do not suffice.", "Add bars, or leave their number open to buy.", "stock"
        )
    chosen = _chosen(problem, relaxed, wanted, stock, effort)
    better = _longest(chosen.patterns, wanted, stock, (sizes, rooms), chosen.new_bars, effort / 2)
    whole = [round(bar.length_mm * SCALE) for bar in stock]
    bars = _trimmed(better if better is not None else chosen.bars, wanted, (sizes, whole))
    left = max((bar.left_mm for bar in bars), default=0.0)
    alike = Counter((bar.pieces, bar.left_mm) for bar in bars)
    drawn = tuple(
        DrawnBar(times, tuple(wanted[w].length_mm for w in pieces), rest)
        for (pieces, rest), times in alike.items()
    )
    status: Literal["proven", "best found"] = "proven" if chosen.new_bars == chosen.bound else "best found"
    return Nesting(bars, chosen.new_bars, chosen.bound, status, left, kerf_mm, drawn)


def _exact(length_mm: float) -> Decimal:
    return Decimal(repr(length_mm))


@dataclass(frozen=True, slots=True)
class Chosen:
    """Bars chosen, the ways they were chosen from, and the bound."""

    bars: Sequence[tuple[int, tuple[int, ...]]]
    patterns: Sequence[tuple[int, tuple[int, ...]]]
    new_bars: int
    bound: int


def _chosen(
    problem: CutProblem,
    relaxed: Relaxed,
    wanted: Sequence[WantedLength],
    stock: Sequence[Stock],
    effort: float,
) -> Chosen:
    """Return the fewest bars from the ways the linear problem asks for; where they miss its bound, from all there are."""
    patterns = list(relaxed.columns)
    first = _fewest(patterns, wanted, stock, effort / 3)
    if first is None:
        raise BadEntry(
            "No way of cutting was found within the effort allowed; whether there is one is unknown.",
            "Ask for fewer lengths at once.",
            "rows",
        )
    bars, new_bars, _ = first
    bound = min(relaxed.bound, new_bars)
    if new_bars == bound:
        return Chosen(bars, patterns, new_bars, bound)
    every = [fills(problem.sizes, problem.counts, room, MOST_PATTERNS) for room in problem.rooms]
    listed = [(i, fill) for i, found in enumerate(every) for fill in found or ()]
    more = list(dict.fromkeys((*patterns, *listed)))
    second = _fewest(more, wanted, stock, effort)
    if second is None:
        return Chosen(bars, patterns, new_bars, bound)
    again, fewer, optimal = second
    if optimal and all(found is not None for found in every):
        bound = fewer
    return Chosen(again, more, fewer, bound) if fewer < new_bars else Chosen(bars, patterns, new_bars, bound)


Patterns = Sequence[tuple[int, tuple[int, ...]]]


def _model(
    patterns: Patterns, wanted: Sequence[WantedLength], stock: Sequence[Stock]
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


def _solve(model: Any, effort: float) -> tuple[Any, Any]:  # noqa: ANN401 - OR-Tools has no types of its own
    from ortools.sat.python import cp_model  # noqa: PLC0415 - start-up stays quick

    solver = cp_model.CpSolver()
    solver.parameters.max_deterministic_time = effort
    solver.parameters.random_seed = SEED
    solver.parameters.num_workers = WORKERS
    solver.parameters.interleave_search = True  # in turns, so that the order does not depend on the machine
    return solver, solver.solve(model)


def _fewest(
    patterns: Patterns, wanted: Sequence[WantedLength], stock: Sequence[Stock], effort: float
) -> tuple[list[tuple[int, tuple[int, ...]]], int, bool] | None:
    """Return bars, how many are new, and whether that is the least; None if the effort did not suffice to tell.

    Raises:
        BadEntry: if the bars there are cannot suffice.
    """
    from ortools.sat.python import cp_model  # noqa: PLC0415 - start-up stays quick

    model, used, covers = _model(patterns, wanted, stock)
    for piece, cover in zip(wanted, covers, strict=True):
        model.add(sum(cover) >= piece.count)
    new = sum(used[n] for n, (i, _) in enumerate(patterns) if not stock[i].is_offcut)
    model.minimize(new)
    solver, status = _solve(model, effort)
    if status == cp_model.INFEASIBLE:
        raise BadEntry(
            "The bars there are do not suffice.", "Add bars, or leave their number open to buy.", "stock"
        )
    if status not in {cp_model.OPTIMAL, cp_model.FEASIBLE}:
        return None
    bars = [pattern for n, pattern in enumerate(patterns) for _ in range(solver.value(used[n]))]
    return bars, round(solver.objective_value), status == cp_model.OPTIMAL


def _longest(
    patterns: Patterns,
    wanted: Sequence[WantedLength],
    stock: Sequence[Stock],
    scaled: tuple[Sequence[int], Sequence[int]],
    new_bars: int,
    effort: float,
) -> list[tuple[int, tuple[int, ...]]] | None:
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
    solver, status = _solve(model, effort)
    if status not in {cp_model.OPTIMAL, cp_model.FEASIBLE}:
        return None
    bars = [pattern for n, pattern in enumerate(patterns) for _ in range(solver.value(used[n]))]
    last = next(i for i, var in which.items() if solver.value(var))
    taken = tuple(solver.value(var) for var in loose)
    return [*bars, (last, taken)] if any(taken) else bars


def _trimmed(
    chosen: Sequence[tuple[int, tuple[int, ...]]],
    wanted: Sequence[WantedLength],
    scaled: tuple[Sequence[int], Sequence[int]],
) -> tuple[CutBar, ...]:
    """Return the bars with no piece more than wanted; what is spared lengthens a remnant.

    Every piece takes its kerf out of the whole length, and nothing is left below nought.
    """
    sizes, whole = scaled
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
            left = whole[stock] - sum(sizes[w] for w in pieces)
            found.append(CutBar(stock, tuple(sorted(pieces, key=lambda w: -sizes[w])), max(0, left) / SCALE))
    return tuple(found)
