"""All pieces through one operation and then the next, or each piece complete; or lots in between."""

from collections.abc import Sequence
from dataclasses import dataclass

from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets import Knows
from ditto_run.core.units import counted

MOST_OPERATIONS = 20
MOST_PIECES = 20_000


@dataclass(frozen=True, slots=True)
class Operation:
    """One operation of the part.

    Args:
        name: what is done.
        piece_s: time of one piece, without handling. [s]
        handling_s: load, locate and unload one piece. [s]
        change_s: set the machine up for it. [s]
        machine: where it runs; two operations of one machine take turns.
    """

    name: str
    piece_s: float
    handling_s: float
    change_s: float
    machine: str


@dataclass(frozen=True, slots=True)
class OrderPlan:
    """What one order of working takes, for one pair of hands.

    Args:
        lot: pieces that go through an operation before the next one starts. [pieces]
        total_s: until the last piece is done. [s]
        first_s: until the first piece is done. [s]
        handling_s: of all pieces. [s]
        changes: how often a machine is set up.
        waiting: most pieces that wait between operations. [pieces]
        at_risk: pieces spoilt when a mistake of the first operation is found at the last. [pieces]
        lost_s: work in those pieces by then. [s]
    """

    lot: int
    total_s: float
    first_s: float
    handling_s: float
    changes: int
    waiting: int
    at_risk: int
    lost_s: float


def order_plan(operations: Sequence[Operation], pieces: int, lot: int) -> OrderPlan:
    """Return what it takes to run lots of `lot` pieces through all operations, one lot after the other.

    lot = pieces is one operation after the other; lot = 1 is each piece complete. A machine that serves one
    operation only is set up once; one that serves several is set up again for each lot.

    Args:
        operations: in order, 1 to 20.
        pieces: pieces wanted. [pieces]
        lot: 1 to `pieces`. [pieces]

    Raises:
        BadEntry: if there is no operation, or the lot is out of range.

    Source:
        Own derivation, one pair of hands.
    """
    if not 1 <= len(operations) <= MOST_OPERATIONS:
        raise BadEntry(
            f"{len(operations)} operations cannot be ordered.", f"Type 1 to {MOST_OPERATIONS}.", "rows"
        )
    if not 1 <= pieces <= MOST_PIECES or not 1 <= lot <= pieces:
        raise BadEntry(
            f"A lot of {lot:,} of {counted(pieces, 'piece')} is not possible.",
            "Type a lot from 1 to the quantity.",
            "lot",
        )
    lots = -(-pieces // lot)
    shared = {
        op.machine for op in operations if sum(1 for other in operations if other.machine == op.machine) > 1
    }
    changes = {op.name: (lots if op.machine in shared else 1) for op in operations}
    setting = sum(op.change_s * changes[op.name] for op in operations)
    working = sum((op.piece_s + op.handling_s) * pieces for op in operations)
    once = sum(op.change_s for op in operations)
    before = sum((op.piece_s + op.handling_s) * lot for op in operations[:-1])
    last = operations[-1].piece_s + operations[-1].handling_s
    lost = sum((op.piece_s + op.handling_s) * lot for op in operations[:-1]) + last
    return OrderPlan(
        lot,
        setting + working,
        once + before + last,
        sum(op.handling_s * pieces for op in operations),
        sum(changes.values()),
        lot if len(operations) > 1 else 0,
        lot,
        lost,
    )


def visits(operations: int, pieces: int, lot: int) -> list[list[int]]:
    """Return in which turn each operation meets each piece: rows are operations, columns pieces, from 1.

    Args:
        operations: rows.
        pieces: columns.
        lot: pieces of a lot.

    Example:
        >>> visits(2, 3, 1)
        [[1, 3, 5], [2, 4, 6]]
    """
    grid = [[0] * pieces for _ in range(operations)]
    turn = 0
    for start in range(0, pieces, lot):
        for row in range(operations):
            for column in range(start, min(start + lot, pieces)):
                turn += 1
                grid[row][column] = turn
    return grid


NO_OPERATIONS: tuple[Operation, ...] = ()
OPERATIONS: Knows[tuple[Operation, ...]] = Knows("operations", NO_OPERATIONS)
"""The job's setups as operations."""
