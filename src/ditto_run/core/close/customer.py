"""What the customer gets on paper: what was asked, what he gets, deviations with their concession, sizes, heats, spares."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.close.after_trip import inside_words, sizes_after
from ditto_run.core.close.report import PieceRow, piece_row
from ditto_run.core.part import Characteristic
from ditto_run.core.run.after_trips import outside_after
from ditto_run.core.run.heats import heat_of
from ditto_run.core.run.state import Gauging, Piece, RunState
from ditto_run.core.run.words import answer, ranges_text
from ditto_run.core.sizes import limits_text
from ditto_run.core.units import convert, counted

DELIVERED = frozenset({"good", "reworked"})


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
        every: the sizes of each piece, where the part has a consequence.
        after: what sizes gauged after work done elsewhere came to, a sentence each.
    """

    delivered: tuple[int, ...]
    spares: tuple[int, ...]
    deviations: tuple[Deviation, ...]
    sizes: tuple[SizeDelivered, ...]
    heats: Mapping[str, tuple[int, ...]]
    sampling: tuple[str, ...]
    every: tuple[PieceRow, ...]
    after: tuple[str, ...] = ()


def customer_report(state: RunState) -> CustomerReport:
    """Return what goes to the customer: only what was measured, and what was not said so.

    Args:
        state: the run, closed or not.
    """
    chains = {part.key: state.plan.chain_of(part.key) for part in state.plan.all_parts}
    pieces = [
        piece
        for piece in state.pieces.values()
        if piece.standing in DELIVERED and (not chains[piece.part] or chains[piece.part][-1] in piece.made)
    ]
    sizes = state.plan.all_characteristics
    left = {piece.number: {c.number: piece.left_with(c.number) for c in sizes} for piece in pieces}
    deviations = tuple(
        Deviation(
            piece.number,
            c,
            reading.value,
            reading.decimals,
            answer(state, reading).words,
            piece.reason or piece.hold_reason or "no concession is written",
        )
        for piece in pieces
        for c in sizes
        if (reading := left[piece.number][c.number]) is not None and not reading.inside
    )
    deviations += tuple(
        Deviation(
            piece.number,
            c,
            convert(one.value, one.unit, c.size.unit),
            c.drawing.decimals + 1,
            f"outside {limits_text(c.drawing)} after work done elsewhere",
            piece.reason or piece.hold_reason or "no concession is written",
        )
        for piece in pieces
        for c, one in outside_after(state, piece, undecided=False)
    )
    heats: dict[str, list[int]] = {}
    for piece in pieces:
        heats.setdefault(heat_of(state, piece), []).append(piece.number)
    every = state.plan.heading.has_consequence
    return CustomerReport(
        tuple(sorted(left)),
        tuple(p.number for p in state.pieces.values() if p.standing == "spare"),
        deviations,
        tuple(_size(c, [of[c.number] for of in left.values()]) for c in sizes),
        {heat: tuple(numbers) for heat, numbers in heats.items()},
        tuple(_sampling(state, pieces, left, c) for c in sizes if c.grade != "free"),
        tuple(piece_row(state, piece) for piece in pieces) if every else (),
        tuple(
            f"{one.characteristic.name} after {trip.what}: {inside_words(one.characteristic, mine)}"
            for trip in state.trips
            for one in sizes_after(state, trip)
            if (mine := [row for row in one.rows if row.piece in left])
        ),
    )


def _size(c: Characteristic, last: Sequence[Gauging | None]) -> SizeDelivered:
    read = [one for one in last if one is not None]
    values = [one.value for one in read if one.value is not None]
    decimals = max([c.size.decimals, *(one.decimals for one in read)])
    return SizeDelivered(c, len(read), min(values, default=None), max(values, default=None), decimals)


def _sampling(
    state: RunState,
    pieces: Sequence[Piece],
    left: Mapping[int, Mapping[int, Gauging | None]],
    c: Characteristic,
) -> str:
    """How many pieces a size was gauged on, and what stands for the others."""
    of = next((part.key for part in state.plan.all_parts if c in part.plan.characteristics), None)
    mine = [piece for piece in pieces if of in {None, piece.part}]
    missing = [piece for piece in mine if left[piece.number][c.number] is None]
    excused = {p.number for p in missing if any(number == c.number for _, number in p.excused)}
    taken = [p.number for p in missing if p.outcome == "taken" and p.number not in excused]
    bare = [p.number for p in missing if p.number not in {*taken, *excused}]
    if not mine:
        return f"{c.name}: no piece is delivered."
    if not missing:
        return f"{c.name}: gauged on every piece."
    said = [f"{c.name}: gauged on {len(mine) - len(missing)} of {counted(len(mine), 'piece')}"]
    if bare and state.grandfathered:
        said.append(
            f"{ranges_text(bare)} not measured, and nothing vouches for {'them' if len(bare) > 1 else 'it'}"
        )
    elif bare:
        said.append(
            f"{ranges_text(bare)} {'were' if len(bare) > 1 else 'was'} cut between gauged ones that vouch for "
            f"{'them' if len(bare) > 1 else 'it'}, and not measured"
        )
    if excused:
        said.append(
            f"{ranges_text(sorted(excused))} not measured: it does not apply there, or was not asked for"
        )
    if taken:
        said.append(f"{ranges_text(taken)} taken without gauging")
    return f"{'; '.join(said)}."
