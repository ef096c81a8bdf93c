"""Decisions about readings: what was typed, what it completes, and what stands in the place of a wrong one."""

from decimal import Decimal

from ditto_run.core.errors import BadEntry, NotFound, NotNow
from ditto_run.core.part import Characteristic
from ditto_run.core.run import commands as do
from ditto_run.core.run import events as ev
from ditto_run.core.run.decide import Now, decide
from ditto_run.core.run.require import require_piece, require_reason
from ditto_run.core.run.short_entry import doubt_about_reading, full_entry
from ditto_run.core.run.state import Piece, RunState, in_drawing_unit
from ditto_run.core.sizes import read_value
from ditto_run.core.units import Unit


def _gaugeable(state: RunState, number: int, dimension: int) -> tuple[Piece, Characteristic, int]:
    """Return piece, dimension and setup of a reading, if it can be taken."""
    piece = require_piece(state, number)
    setup = state.setup if state.setup in piece.made else next(reversed(piece.made))
    characteristic = state.plan_of(piece, setup).characteristic(dimension)
    if characteristic.setup not in {None, setup}:
        raise NotNow(
            f"{characteristic.name} is gauged in another setup.", "Choose a piece that went through it."
        )
    if piece.outcome in {"lost", "scrap"}:
        raise NotNow(f"Piece {number} is {piece.outcome}.", "Undo that first if it was a mistake.")
    return piece, characteristic, setup


def recent_value(state: RunState, characteristic: Characteristic, setup: int) -> Decimal | None:
    """Return the reading a short entry completes, or None where the whole number is wanted."""
    run = state.setups[setup]
    if (
        run.master is None
        or characteristic.number in run.full_entry_due
        or state.plan.heading.has_consequence
    ):
        return None
    gauging = run.recent.get(characteristic.number)
    return gauging.value if gauging else None


@decide.register
def _reading(command: do.TakeReading, state: RunState, _now: Now) -> ev.Body:
    piece, characteristic, setup = _gaugeable(state, command.piece, command.characteristic)
    if characteristic.by_gauge_only:
        raise BadEntry(
            f"{characteristic.name} is checked GO and NO-GO.", "Press V for GO, Shift+V for NO-GO.", "text"
        )
    recent = recent_value(state, characteristic, setup)
    own = characteristic.size.unit
    unit: Unit = own if own == "arcsec" or command.unit is None else command.unit
    decimals = max(characteristic.size.decimals, _typed_decimals(state, characteristic, setup))
    typed = command.text.strip()
    whole = full_entry(typed, recent, decimals) if unit == own else typed
    value, typed_decimals, read_unit = _value(whole, unit)
    in_drawing = in_drawing_unit(value, read_unit, characteristic)
    doubt = doubt_about_reading(
        in_drawing, recent or _any_recent(state, characteristic, setup), characteristic.size
    )
    if doubt is not None and command.confirm.strip() != typed:
        raise doubt
    return ev.Reading(
        piece.number, characteristic.number, setup, typed, value, read_unit, max(typed_decimals, 0)
    )


def _value(text: str, unit: Unit) -> tuple[Decimal, int, Unit]:
    try:
        return read_value(text, unit)
    except BadEntry:
        raise BadEntry(
            f"“{text[:30]}” is not a reading.", "Type the number on the gauge, such as 19.977.", "text"
        ) from None


def _any_recent(state: RunState, characteristic: Characteristic, setup: int) -> Decimal | None:
    gauging = state.setups[setup].recent.get(characteristic.number)
    return gauging.value if gauging else None


def _typed_decimals(state: RunState, characteristic: Characteristic, setup: int) -> int:
    gauging = state.setups[setup].recent.get(characteristic.number)
    return gauging.decimals if gauging else 0


@decide.register
def _go(command: do.TakeGo, state: RunState, _now: Now) -> ev.Body:
    piece, characteristic, setup = _gaugeable(state, command.piece, command.characteristic)
    if not characteristic.by_gauge_only and characteristic.size.has_limits:
        raise BadEntry(f"{characteristic.name} is measured.", "Type the number on the gauge.", "text")
    return ev.Reading(
        piece.number, characteristic.number, setup, "GO" if command.go else "NO-GO", go=command.go
    )


@decide.register
def _correct(command: do.CorrectReading, state: RunState, _now: Now) -> ev.Body:
    wrong = state.gaugings.get(command.corrects)
    if wrong is None:
        raise NotFound("reading in line", command.corrects, "Choose one from the list of readings.")
    require_reason(command.reason)
    if wrong.seq != command.corrects:
        raise NotNow("That reading was corrected already.", f"Correct line {wrong.seq} instead.")
    if wrong.value is None:
        go = _gorequire_text(command.text)
        return ev.Correction(wrong.seq, "GO" if go else "NO-GO", command.reason.strip(), go=go)
    piece = state.pieces[wrong.piece]
    characteristic = state.plan_of(piece, wrong.setup).characteristic(wrong.characteristic)
    value, decimals, unit = _value(command.text, characteristic.size.unit)
    return ev.Correction(wrong.seq, command.text.strip(), command.reason.strip(), value, unit, decimals)


def _gorequire_text(text: str) -> bool:
    word = text.strip().upper().replace(" ", "-")
    if word not in {"GO", "NO-GO", "NOGO"}:
        raise BadEntry(f"“{text[:20]}” is neither GO nor NO-GO.", "Type GO or NO-GO.", "text")
    return word == "GO"
