"""Sizes after work done elsewhere: held to the drawing, and their change to what was promised."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.part import Characteristic
from ditto_run.core.part.coated import finish_of
from ditto_run.core.part.finish import FACTOR, FEWEST_PAIRS, SMALL_SHARE, Shift, shift_of_pairs
from ditto_run.core.plan import Plan
from ditto_run.core.run.state import RunState, SizeAfter, Trip
from ditto_run.core.run.verdict import side_of
from ditto_run.core.run.words import ranges_text
from ditto_run.core.sizes import limits_text
from ditto_run.core.units import MINUS, LengthUnit, convert, counted, small_text, to_base

PER_UM = Decimal("0.001")


@dataclass(frozen=True, slots=True)
class AfterRow:
    """One piece: its reading before, None where it has none, and after, with units; whether it is outside now."""

    piece: int
    before: tuple[Decimal, LengthUnit] | None
    after: tuple[Decimal, LengthUnit]
    out: bool


@dataclass(frozen=True, slots=True)
class SizesAfter:
    """A dimension after a trip.

    Args:
        characteristic: it.
        rows: a piece each, the last reading of it.
        shift: what the trip did to it; None with too few pieces gauged before and after.
        promised_um: change that was agreed; None where no finish says it. [µm]
        words: what it comes to, a sentence each.
    """

    characteristic: Characteristic
    rows: tuple[AfterRow, ...]
    shift: Shift | None
    promised_um: tuple[Decimal, Decimal] | None
    words: tuple[str, ...]

    @property
    def out(self) -> tuple[int, ...]:
        """The pieces that are outside now."""
        return tuple(row.piece for row in self.rows if row.out)


def lengths_of(plan: Plan) -> tuple[Characteristic, ...]:
    """Return the dimensions that are lengths: those that can be gauged after a trip."""
    return tuple(c for c in plan.all_characteristics if c.size.unit in {"mm", "in"})


def sizes_to_send(plan: Plan) -> tuple[Characteristic, ...]:
    """Return the dimensions that a finish changes or a fit hangs on: those that go on a packing list."""
    return tuple(
        c
        for c in lengths_of(plan)
        if c.finish is not None or c.size.kind in {"thread", "drill"} or c.mate or c.grade == "critical"
    )


def sizes_after(state: RunState, trip: Trip) -> tuple[SizesAfter, ...]:
    """Return every dimension that was gauged after a trip, in the order of the part.

    Args:
        state: the run.
        trip: of it.

    Source:
        Change with what the next piece will do in 8 of 10, [nist]; promised is factor × build-up, own derivation.
    """
    last: dict[tuple[int, int], SizeAfter] = {}
    for one in state.sizes_after:
        if one.trip == trip.number:
            last[one.size, one.piece] = one
    found = []
    for c in state.plan.all_characteristics:
        mine = sorted((one for (size, _), one in last.items() if size == c.number), key=lambda one: one.piece)
        if mine:
            found.append(_of_size(state, c, mine))
    return tuple(found)


def _of_size(state: RunState, c: Characteristic, mine: Sequence[SizeAfter]) -> SizesAfter:
    rows = tuple(_row(state, c, one) for one in mine)
    pairs = [(to_base(*row.before), to_base(*row.after)) for row in rows if row.before is not None]
    drawn = c.drawing
    wide = (
        to_base(drawn.upper, drawn.unit) - to_base(drawn.lower, drawn.unit)
        if drawn.upper is not None and drawn.lower is not None
        else None
    )
    shift = shift_of_pairs(pairs, wide) if len(pairs) >= FEWEST_PAIRS else None
    finish = finish_of(c, state.plan.finishes)
    promised = None
    if finish is not None:
        low, high = sorted(FACTOR[c.face] * one for one in finish.build_up_um(c.face))
        promised = low, high
    unit: LengthUnit = "in" if drawn.unit == "in" else "mm"
    small_um = 0.0 if wide is None else float(SMALL_SHARE * wide) * 1000
    words = (inside_words(c, rows), *_change_words(len(pairs), shift, promised, unit, small_um))
    return SizesAfter(c, rows, shift, promised, words)


def _row(state: RunState, c: Characteristic, one: SizeAfter) -> AfterRow:
    gauged = state.pieces[one.piece].left_with(c.number)
    before: tuple[Decimal, LengthUnit] | None = None
    if gauged is not None and gauged.value is not None:
        before = gauged.value, "in" if c.size.unit == "in" else "mm"
    out = side_of(one.value, one.unit, c.drawing) != "inside"
    return AfterRow(one.piece, before, (one.value, one.unit), out)


def inside_words(c: Characteristic, rows: Sequence[AfterRow]) -> str:
    """Return how many of some pieces were gauged after a trip, and which of them are outside, in a sentence.

    Args:
        c: the dimension.
        rows: a piece each.
    """
    out = [row.piece for row in rows if row.out]
    if not c.drawing.has_limits:
        return f"{counted(len(rows), 'piece')} gauged; the drawing gives no limits."
    limits = limits_text(c.drawing)
    if not out:
        return f"{counted(len(rows), 'piece')} gauged, none outside {limits}."
    return f"{len(out)} of {len(rows)} gauged outside {limits}: {ranges_text(out)}."


def _change_words(
    pairs: int,
    shift: Shift | None,
    promised: tuple[Decimal, Decimal] | None,
    unit: LengthUnit,
    small_um: float,
) -> tuple[str, ...]:
    """What the trip did to the size, and whether that was agreed; a change under so much moves nothing, [µm]."""
    if shift is None:
        return (
            f"{counted(pairs, 'piece')} gauged before and after: from {FEWEST_PAIRS} on the change is known.",
        )

    def said(um: float | Decimal) -> str:
        sign = "+" if um > 0 else MINUS if um < 0 else ""
        return f"{sign}{small_text(convert(Decimal(str(um)) * PER_UM, 'mm', unit), unit)}"

    change = f"It changed by {said(shift.mean_um)}; the next piece by {said(shift.low_um)} to {said(shift.high_um)}, in 8 of 10."
    if promised is None:
        if max(abs(shift.low_um), abs(shift.high_um)) < small_um:
            return change, "It keeps the size: less than a tenth of the tolerance."
        if shift.low_um <= 0 <= shift.high_um:
            return change, "Whether it keeps the size is not known yet: gauge more before and after."
        return change, "No change was agreed: say on Part what it does."
    low, high = promised
    if shift.high_um < low or shift.low_um > high:
        how = "Not what was agreed"
    elif low <= shift.low_um and shift.high_um <= high:
        how = "As agreed"
    else:
        how = "Partly beyond what was agreed"
    return change, f"{how}: {said(low)} to {said(high)}."
