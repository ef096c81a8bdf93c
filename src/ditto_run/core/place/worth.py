"""How many stations are worth it: time per piece falls, pieces at risk and the wait for the first check grow."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, sqrt

from ditto_run.core.sheets import Knows


@dataclass(frozen=True, slots=True)
class Cycle:
    """Times of one setup, whatever its number of stations.

    Args:
        key: of the setup.
        name: of the setup.
        machine_id: its machine; None while open.
        cut_s: cutting a piece, all tools. [s]
        change_s: tool changes and moves of one load. [s]
        handling_s: unload and load of one piece. [s]
        door_s: door, coolant and start of each load. [s]
        ready_s: placing a station and finding its zero. [s]
    """

    key: int
    name: str
    machine_id: int | None
    cut_s: float
    change_s: float
    handling_s: float
    door_s: float = 0.0
    ready_s: float = 0.0


@dataclass(frozen=True, slots=True)
class Worth:
    """What one number of stations costs and gives.

    Args:
        stations: how many.
        piece_s: load to load, shared by its pieces. [s]
        first_s: until the first piece can be gauged, from pressing start. [s]
        at_risk: pieces of a load that goes wrong. [pieces]
        batch_s: the whole batch, getting the stations ready included. [s]
        spread_mm: 80 % range of sizes from holders and zeros. [mm]
    """

    stations: int
    piece_s: float
    first_s: float
    at_risk: int
    batch_s: float
    spread_mm: float


def worth(cycle: Cycle, most: int, quantity: int, repeat_mm: float, zero_mm: float) -> tuple[Worth, ...]:
    """Return what each number of stations from 1 costs and gives, one tool going round all of them.

    piece = cut + handling + (changes + door) / n; first = n cut + changes;
    batch = n ready + q (cut + handling) + ceil(q / n) (changes + door): a last load that is not full cuts only what it holds

    Args:
        cycle: times of the setup.
        most: largest number of stations, 1 or more.
        quantity: pieces of the batch.
        repeat_mm: how well one holder repeats, ±80 %. [mm]
        zero_mm: how well the zeros of different stations agree, ±80 %. [mm]

    Source:
        Own derivation; a load of one station has no spread between stations.
    """
    found = []
    for n in range(1, most + 1):
        load_s = n * (cycle.cut_s + cycle.handling_s) + cycle.change_s + cycle.door_s
        spread = sqrt(repeat_mm**2 + (zero_mm**2 if n > 1 else 0))
        found.append(
            Worth(
                n,
                load_s / n,
                n * cycle.cut_s + cycle.change_s,
                n,
                n * cycle.ready_s
                + quantity * (cycle.cut_s + cycle.handling_s)
                + ceil(quantity / n) * (cycle.change_s + cycle.door_s),
                spread,
            )
        )
    return tuple(found)


def knee(rows: Sequence[Worth]) -> int:
    """Return the number of stations beyond which the gain flattens: farthest below the line from first to last.

    Args:
        rows: from 1 to n stations; with fewer than three the last one.

    Source:
        The point of greatest distance from the chord, a usual definition of a knee; own derivation.
    """
    if len(rows) < 3:  # noqa: PLR2004 - two points have no knee
        return rows[-1].stations
    first, last = rows[0], rows[-1]
    fall, steps = first.piece_s - last.piece_s, last.stations - first.stations
    if fall <= 0:
        return 1

    def below(row: Worth) -> float:
        return (first.piece_s - row.piece_s) / fall - (row.stations - first.stations) / steps

    return max(rows, key=below).stations


NO_CYCLES: tuple[Cycle, ...] = ()
CYCLES = Knows("cycles", NO_CYCLES)
"""Times of each setup, whatever its number of stations."""
