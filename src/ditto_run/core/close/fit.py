"""Which pin goes to which bore by measured sizes: as many pairs as there can be, each as near the middle of its fit as the others allow."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.run.state import RunState
from ditto_run.core.units import to_base

MOST_PIECES = 1_000


@dataclass(frozen=True, slots=True)
class Measured:
    """A piece and its measured size. [mm]."""

    piece: int
    size: Decimal


@dataclass(frozen=True, slots=True)
class FitPair:
    """A pin in its bore: their pieces and what is between them, below 0 where it presses. [mm]."""

    pin: int
    bore: int
    clearance: Decimal


@dataclass(frozen=True, slots=True)
class Fitted:
    """Pairs, and the pieces that found none."""

    pairs: tuple[FitPair, ...]
    pins_left: tuple[int, ...]
    bores_left: tuple[int, ...]


def fit_pairs(pins: Sequence[Measured], bores: Sequence[Measured], low: Decimal, high: Decimal) -> Fitted:
    """Return pins put to bores so that fewest are left over; of all such ways the one nearest the middle of the fit.

    Args:
        pins: with their sizes. [mm]
        bores: the same. [mm]
        low: least clearance, below 0 for a press fit; on it is inside. [mm]
        high: most. [mm]

    Raises:
        BadEntry: if the least is over the most, or there are too many pieces.

    Source:
        Assignment of least cost over an exact table of what fits; scipy solves it, brute force holds it in a test.
    """
    from scipy.optimize import linear_sum_assignment  # noqa: PLC0415

    if low > high:
        raise BadEntry("The least clearance is over the most.", "Swap them.", "low")
    if max(len(pins), len(bores)) > MOST_PIECES:
        raise BadEntry(f"More than {MOST_PIECES:,} pieces.", "Fit them in lots.", "low")
    middle = (low + high) / 2
    fits = [[low <= bore.size - pin.size <= high for bore in bores] for pin in pins]
    away = [[abs(float(bore.size - pin.size - middle)) for bore in bores] for pin in pins]
    none = 1.0 + sum(max(row, default=0.0) for row in away)
    cost = [
        [a if fit else none for a, fit in zip(*rows, strict=True)] for rows in zip(away, fits, strict=True)
    ]
    rows, columns = linear_sum_assignment(cost) if pins and bores else ((), ())
    pairs = tuple(
        FitPair(pins[i].piece, bores[j].piece, bores[j].size - pins[i].size)
        for i, j in zip(map(int, rows), map(int, columns), strict=True)
        if fits[i][j]
    )
    used_pins, used_bores = {one.pin for one in pairs}, {one.bore for one in pairs}
    return Fitted(
        tuple(sorted(pairs, key=lambda one: one.pin)),
        tuple(one.piece for one in pins if one.piece not in used_pins),
        tuple(one.piece for one in bores if one.piece not in used_bores),
    )


def measured_of(state: RunState, number: int) -> tuple[Measured, ...]:
    """Return the good pieces of a run with their last size of a dimension; those without a reading are left out. [mm].

    Args:
        state: the run.
        number: of the dimension, a length.
    """
    unit = state.plan.characteristic(number).size.unit
    found = []
    for piece in state.pieces.values():
        last = piece.left_with(number)
        if piece.standing in {"good", "reworked"} and last is not None and last.value is not None:
            found.append(Measured(piece.number, to_base(last.value, unit)))
    return tuple(found)
