"""Where one way overtakes another, and which one is best at each quantity."""

from collections.abc import Sequence
from dataclasses import dataclass

from ditto_run.core.method.totals import CostLine

LADDER_LOW, LADDER_HIGH = 4, 1000
RUNGS = (10, 30, 100, 300, 1000)


def break_even(one: CostLine, other: CostLine) -> float | None:
    """Return the quantity where two ways cost the same, (F2 − F1)/(v1 − v2); None if they never do, [pieces].

    Args:
        one: the one way.
        other: the other way.

    Source:
        Closed form of two straight lines.

    Example:
        >>> break_even(CostLine(0, 10), CostLine(140, 5))
        28.0
    """
    slope = one.each - other.each
    if not slope:
        return None
    quantity = (other.fixed - one.fixed) / slope
    return float(quantity) if quantity > 0 else None


def best_at(lines: Sequence[CostLine], quantity: float) -> int:
    """Return the place of the least line at a quantity, [pieces]; the earlier one in a tie."""
    totals = [line.at(quantity) for line in lines]
    return totals.index(min(totals))


@dataclass(frozen=True, slots=True)
class Rung:
    """A stretch of the quantity ladder where one way is best.

    Args:
        low: first quantity. [pieces]
        high: last quantity. [pieces]
        way: place of the way in the list.
    """

    low: int
    high: int
    way: int


def ladder(lines: Sequence[CostLine], low: int = LADDER_LOW, high: int = LADDER_HIGH) -> tuple[Rung, ...]:
    """Return which way is best at every whole quantity from `low` to `high`, in stretches.

    Args:
        lines: the ways.
        low: first quantity. [pieces]
        high: last quantity. [pieces]

    Source:
        Lower envelope of straight lines, own derivation.
    """
    rungs: list[Rung] = []
    start = low
    while start <= high:
        best = best_at(lines, start)
        crossings = [
            at
            for i, line in enumerate(lines)
            if i != best
            and line.each < lines[best].each
            and (at := break_even(lines[best], line)) is not None
            and at >= start
        ]
        # the first whole quantity past the nearest crossing; on the crossing itself the earlier way stays
        ends = [int(at) for at in crossings]
        end = min([high, *ends])
        while end < high and best_at(lines, end + 1) == best:
            end += 1
        rungs.append(Rung(start, max(end, start), best))
        start = max(end, start) + 1
    return tuple(rungs)


def payback_batches(lasting: float, saving_a_batch: float) -> float | None:
    """Return after how many batches a lasting fixture has paid for itself; None if it never does, [batches].

    Args:
        lasting: what is made once and kept. [any unit]
        saving_a_batch: what each batch saves against the way without it. [same unit]

    Source:
        Closed form.
    """
    return lasting / saving_a_batch if saving_a_batch > 0 else None
