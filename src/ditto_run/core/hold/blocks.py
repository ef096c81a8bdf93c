"""Gauge block stacks: fewest blocks from the set owned, exact."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import cache
from itertools import combinations
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.units import LengthUnit

SetName = Literal["inch 81", "metric 88"]
TENTH, HALF_MICRON = Decimal("0.0001"), Decimal("0.0005")
MOST_BLOCKS = 6
MOST_OWN = 140


@dataclass(frozen=True, slots=True)
class BlockSet:
    """One set.

    Args:
        unit: mm or in.
        step: least step the set can make. [unit]
        blocks: every block. [unit]
    """

    unit: LengthUnit
    step: Decimal
    blocks: tuple[Decimal, ...]


@dataclass(frozen=True, slots=True)
class Stacks:
    """Stacks that are drawn: size wanted and its blocks, [unit]."""

    unit: LengthUnit
    rows: tuple[tuple[Decimal, tuple[Decimal, ...]], ...]


def _run(first: str, last: str, step: str) -> tuple[Decimal, ...]:
    low, high, by = Decimal(first), Decimal(last), Decimal(step)
    return tuple(low + by * i for i in range(int((high - low) / by) + 1))


# Source: [blocks], the usual grading of the two sets, from memory.
SETS: dict[SetName, BlockSet] = {
    "inch 81": BlockSet(
        "in",
        TENTH,
        (
            *_run("0.1001", "0.1009", "0.0001"),
            *_run("0.101", "0.149", "0.001"),
            *_run("0.05", "0.95", "0.05"),
            *_run("1", "4", "1"),
        ),
    ),
    "metric 88": BlockSet(
        "mm",
        HALF_MICRON,
        (
            Decimal("1.0005"),
            *_run("1.001", "1.009", "0.001"),
            *_run("1.01", "1.49", "0.01"),
            *_run("0.5", "9.5", "0.5"),
            *_run("10", "100", "10"),
        ),
    ),
}


def stack(size: Decimal, name: SetName, wear: Decimal | None = None) -> tuple[Decimal, ...]:
    """Return the fewest blocks of a standard set that make a size exactly.

    The last digit leaves one block, the one before it one more; what is left is made of the large ones by fewest
    coins. Two wear blocks, one at each end, are taken off first where they are used.

    Args:
        size: wanted. [unit of the set]
        name: inch 81 or metric 88.
        wear: thickness of each wear block; None without. [unit of the set]

    Returns:
        The blocks, thinnest first, with both wear blocks. [unit of the set]

    Raises:
        BadEntry: if the set cannot make the size.

    Source:
        Own derivation; held to exhaustive search over small stacks.

    Example:
        >>> [str(b) for b in stack(Decimal("1.3825"), "inch 81")]
        ['0.1005', '0.1320', '0.1500', '1.0000']
    """
    chosen = SETS[name]
    rest = size - (2 * wear if wear else 0)
    if rest % chosen.step:
        raise BadEntry(
            f"{size} {chosen.unit} is finer than the set: its least step is {chosen.step}.",
            "Round it to that.",
            "size",
        )
    best = _fewest(int(rest / chosen.step), name)
    if best is None:
        raise BadEntry(
            f"The {name} set cannot make {size} {chosen.unit}.",
            "Use a spacer of your own, or another set.",
            "size",
        )
    blocks = tuple(chosen.step * count for count in best)
    return tuple(sorted((*blocks, *((wear, wear) if wear else ()))))


def _fewest(target: int, name: SetName) -> tuple[int, ...] | None:
    """Return the fewest blocks for a whole number of least steps."""
    found = [
        (*fine, *large)
        for fine in _fine(target, name)
        if (large := _large(name).get(target - sum(fine))) is not None and target > sum(fine)
    ]
    small = [fine for fine in _fine(target, name) if fine and sum(fine) == target]
    return min((*found, *small), key=len, default=None)


def _fine(target: int, name: SetName) -> list[tuple[int, ...]]:
    """Return the choices of fine blocks that bring the rest to a step of the large ones."""
    if name == "inch 81":
        fourth = target % 10
        first = ((1000 + fourth,),) if fourth else ((),)
        return [one + two for one in first for two in _middle(target - sum(one), 10, 1000, 500)]
    half = ((2001,),) if target % 2 else ((),)
    found = []
    for one in half:
        third = (target - sum(one)) // 2 % 10
        second = (*one, 2000 + 2 * third) if third else one
        found += [second + two for two in _middle(target - sum(second), 20, 2000, 1000)]
    return found


def _middle(rest: int, unit: int, base: int, period: int) -> list[tuple[int, ...]]:
    """Return no, one or two blocks of the middle series that leave a multiple of the period."""
    residue = rest % period
    found: list[tuple[int, ...]] = [()] if not residue else [(base + residue,)]
    steps = period // unit
    # two of them, where one alone would be too much or a large block is missing
    for low in range(1, steps):
        high = (residue // unit - low) % steps
        if low < high:
            found.append((base + low * unit, base + high * unit))
    return found


@cache
def _large(name: SetName) -> dict[int, tuple[int, ...]]:
    """Return for every sum of large blocks the fewest that make it, each block once."""
    if name == "inch 81":
        blocks = [500 * i for i in range(1, 20)] + [10_000 * i for i in range(1, 5)]
    else:
        blocks = [1000 * i for i in range(1, 20)] + [20_000 * i for i in range(1, 11)]
    best: dict[int, tuple[int, ...]] = {0: ()}
    for block in reversed(blocks):
        for total, taken in list(best.items()):
            new = (*taken, block)
            old = best.get(total + block)
            # of equally few those with the largest block
            if len(new) <= MOST_BLOCKS and (old is None or (len(new), -max(new)) < (len(old), -max(old))):
                best[total + block] = new
    return best


def stack_of_own(size: Decimal, blocks: Sequence[Decimal]) -> tuple[Decimal, ...]:
    """Return the fewest spacers of a shop's own that make a size exactly, up to 4.

    Args:
        size: wanted. [any unit]
        blocks: each spacer owned, up to 140. [same unit]

    Raises:
        BadEntry: if no 4 of them make it, or there are too many.

    Source:
        Exhaustive search by pairs.
    """
    if len(blocks) > MOST_OWN:
        raise BadEntry(f"{len(blocks)} spacers are too many to try.", f"Type {MOST_OWN} at most.", "own")
    for count in (1, 2):
        for chosen in combinations(range(len(blocks)), count):
            if sum(blocks[i] for i in chosen) == size:
                return tuple(sorted(blocks[i] for i in chosen))
    found = _three_or_four(size, blocks)
    if found is not None:
        return tuple(sorted(blocks[i] for i in found))
    raise BadEntry(f"No four of these spacers make {size}.", "Turn one to size, or use gauge blocks.", "own")


def _three_or_four(size: Decimal, blocks: Sequence[Decimal]) -> tuple[int, ...] | None:
    """Return the places of three, else four, spacers that make a size; by the sums of pairs."""
    pairs: dict[Decimal, list[tuple[int, int]]] = {}
    for i, j in combinations(range(len(blocks)), 2):
        pairs.setdefault(blocks[i] + blocks[j], []).append((i, j))
    thirds = (
        (*pair, third)
        for third in range(len(blocks))
        for pair in pairs.get(size - blocks[third], ())
        if third not in pair
    )
    fourths = (
        (*one, *other)
        for total, ones in pairs.items()
        for one in ones
        for other in pairs.get(size - total, ())
        if not set(one) & set(other)
    )
    return next(thirds, None) or next(fourths, None)
