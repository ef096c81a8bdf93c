"""What the customer gets on paper: what was asked, what he gets, deviations with their concession, sizes, heats, spares."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.close.report import STANDING_WORDS, PieceRow, Report, report
from ditto_run.core.part import Characteristic
from ditto_run.core.run.state import RunState
from ditto_run.core.run.words import ranges_text
from ditto_run.core.units import counted

DELIVERED = frozenset({"good", "reworked", "accepted as it is", "taken without gauging"})


@dataclass(frozen=True, slots=True)
class Deviation:
    """A piece that is outside a limit and goes out all the same: which, what, the reading, the concession."""

    piece: int
    characteristic: Characteristic
    value: Decimal | None
    decimals: int
    words: str
    concession: str


@dataclass(frozen=True, slots=True)
class SizeDelivered:
    """A size of what is delivered: how many of it were gauged, least and most; None where nothing was measured."""

    characteristic: Characteristic
    gauged: int
    least: Decimal | None
    most: Decimal | None
    decimals: int


@dataclass(frozen=True, slots=True)
class CustomerReport:
    """What goes to the customer.

    Args:
        delivered: good pieces, numbers in order.
        spares: beyond the quantity, as agreed.
        deviations: outside a limit with a concession.
        sizes: of what is delivered.
        heats: heat to its pieces; an empty one is not known.
        sampling: how the pieces were gauged and what that means, in sentences.
        full: the whole of the shop's report, for the sizes of each piece.
    """

    delivered: tuple[int, ...]
    spares: tuple[int, ...]
    deviations: tuple[Deviation, ...]
    sizes: tuple[SizeDelivered, ...]
    heats: Mapping[str, tuple[int, ...]]
    sampling: tuple[str, ...]
    full: Report


def customer_report(state: RunState) -> CustomerReport:
    """Return what goes to the customer: only what was measured, and what was not said so.

    Args:
        state: the run, closed or not.
    """
    full = report(state)
    chains = {part.key: state.plan.chain_of(part.key) for part in state.plan.all_parts}
    rows = [
        row
        for row in full.pieces
        if row.standing in DELIVERED
        and (not chains[row.part] or chains[row.part][-1] in state.pieces[row.piece].made)
    ]
    numbers = {row.piece for row in rows}
    deviations = tuple(
        Deviation(
            row.piece,
            state.plan.characteristic(number),
            reading.value,
            reading.decimals,
            words,
            row.reason or "no concession is written",
        )
        for row in rows
        for number, (reading, words) in row.readings.items()
        if not reading.inside
    )
    heats: dict[str, list[int]] = {}
    for row in rows:
        heats.setdefault(row.heat, []).append(row.piece)
    return CustomerReport(
        tuple(sorted(numbers)),
        tuple(row.piece for row in full.pieces if row.standing == "spare"),
        deviations,
        tuple(_size(c, rows) for c in state.plan.all_characteristics),
        {heat: tuple(pieces) for heat, pieces in heats.items()},
        tuple(_sampling(state, rows, c) for c in state.plan.all_characteristics if c.grade != "free"),
        full,
    )


def _size(c: Characteristic, rows: Sequence[PieceRow]) -> SizeDelivered:
    read = [row.readings[c.number][0] for row in rows if c.number in row.readings]
    values = [one.value for one in read if one.value is not None]
    decimals = max([c.size.decimals, *(one.decimals for one in read)])
    return SizeDelivered(c, len(read), min(values, default=None), max(values, default=None), decimals)


def _sampling(state: RunState, rows: Sequence[PieceRow], c: Characteristic) -> str:
    """How many pieces a size was gauged on, and what stands for the others."""
    of = next((part.key for part in state.plan.all_parts if c in part.plan.characteristics), None)
    mine = [row for row in rows if of in {None, row.part}]
    taken = [
        row.piece for row in mine if row.standing == STANDING_WORDS["taken"] and c.number not in row.readings
    ]
    bare = [row.piece for row in mine if c.number not in row.readings and row.piece not in set(taken)]
    if not mine:
        return f"{c.name}: no piece is delivered."
    if not bare and not taken:
        return f"{c.name}: gauged on every piece."
    said = [f"{c.name}: gauged on {len(mine) - len(bare) - len(taken)} of {counted(len(mine), 'piece')}"]
    if bare:
        said.append(
            f"{ranges_text(bare)} {'were' if len(bare) > 1 else 'was'} cut between gauged ones that vouch for "
            f"{'them' if len(bare) > 1 else 'it'}, and not measured"
        )
    if taken:
        said.append(f"{ranges_text(taken)} taken without gauging")
    return f"{'; '.join(said)}."
