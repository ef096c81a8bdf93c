"""A size was gauged after work done elsewhere: of which trip, piece and dimension, held to the drawing."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.entry.plain import read_count
from ditto_run.core.errors import BadEntry, NeedsAnswer, NotNow, SizeNotRead
from ditto_run.core.part import Characteristic
from ditto_run.core.run.after_trips import HELD_AFTER, outside_after
from ditto_run.core.run.effects import stand
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.require import require_piece, require_trip
from ditto_run.core.run.state import RunState, SizeAfter
from ditto_run.core.run.verdict import side_of
from ditto_run.core.sizes import limits_text, read_value
from ditto_run.core.units import LengthUnit, to_base, value_text

FAR_SHARE, FAR_MM = Decimal("0.2"), Decimal(1)  # off its size, from which a reading is a slip; own judgement
LONGEST = 40


@dataclass(frozen=True, slots=True)
class GaugeAfter:
    """A size was gauged after a trip: which trip, piece, dimension, and what it reads, as typed."""

    trip: int
    piece: str
    size: int
    value: str
    kind: Literal["gauge_after"] = "gauge_after"


@dataclass(frozen=True, slots=True)
class GaugedAfter:
    """A size was gauged after a trip. [unit]."""

    trip: int
    piece: int
    size: int
    value: Decimal
    unit: LengthUnit = "mm"
    kind: Literal["gauged_after"] = "gauged_after"


@decide.register
def _decide(command: GaugeAfter, state: RunState, _now: Now) -> GaugedAfter:
    trip = require_trip(state, command.trip)
    if not trip.back:
        raise NotNow(f"No piece is back from {trip.to} yet.", "Count the pieces in first.")
    piece = require_piece(state, read_count(command.piece, "piece"))
    if piece.standing in {"scrap", "lost"}:
        raise BadEntry(f"Piece {piece.number} is {piece.standing}.", "Type the one in your hand.", "piece")
    c = next((one for one in state.plan.all_characteristics if one.number == command.size), None)
    if c is None or c.drawing.unit not in {"mm", "in"}:
        raise BadEntry("That size is not measured as a length.", "Choose one of the list.", "size")
    return GaugedAfter(trip.number, piece.number, c.number, *_value(c, command.value))


def _value(c: Characteristic, text: str) -> tuple[Decimal, LengthUnit]:
    """A reading and its unit, the drawing's unless another was typed.

    Raises:
        BadEntry: if it cannot be read, or is far off the size.
        NeedsAnswer: if it can be read in two ways.
    """
    drawn = c.drawing
    try:
        value, _, typed = read_value(text[:LONGEST], drawn.unit)
    except NeedsAnswer as asked:
        asked.field = "value"
        raise
    except SizeNotRead:
        raise BadEntry(f"“{text[:30]}” is not a size.", "Type what the gauge reads.", "value") from None
    unit: LengthUnit = "in" if typed == "in" else "mm"
    off = abs(to_base(value, unit) - drawn.nominal_base)
    if off > max(abs(drawn.nominal_base) * FAR_SHARE, FAR_MM):
        raise BadEntry(
            f"{value_text(value, unit, drawn.decimals)} is far from {drawn.text}.",
            "Check the decimal point and the unit.",
            "value",
        )
    return value, unit


@apply.register
def _apply(body: GaugedAfter, state: RunState, line: LogLine) -> None:
    state.sizes_after.append(
        SizeAfter(line.seq, line.at, line.who, body.trip, body.piece, body.size, body.value, body.unit)
    )
    piece = state.pieces[body.piece]
    out = outside_after(state, piece)
    if out:
        trip = next((one.what for one in state.trips if one.number == body.trip), "it")
        piece.hold_reason = f"{' and '.join(c.name for c, _ in out)} {HELD_AFTER} {trip}"
    elif HELD_AFTER in piece.hold_reason:
        piece.hold_reason = ""
    stand(state, piece)


@sentence.register
def _say(body: GaugedAfter, state: RunState, _seq: int) -> str:
    c = next((one for one in state.plan.all_characteristics if one.number == body.size), None)
    trip = next((one for one in state.trips if one.number == body.trip), None)
    after = f" after {trip.what}" if trip is not None else ""
    if c is None:
        return f"Piece {body.piece}{after}: {body.value}."
    drawn = c.drawing
    shown = value_text(body.value, body.unit, drawn.decimals + 1)
    how = "inside" if side_of(body.value, body.unit, drawn) == "inside" else "outside"
    return f"Piece {body.piece}, {c.name}{after}: {shown}, {how} {limits_text(drawn)}."
