"""A gauging: a measured size, or GO and NO-GO. In the middle of a cut it is rough and judges nothing."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal, Protocol

from ditto_run.core.errors import BadEntry, NeedsAnswer, NotNow
from ditto_run.core.part import Characteristic
from ditto_run.core.run.effects import take_gauging
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.require import require_piece
from ditto_run.core.run.short_entry import doubt_about_reading, full_entry
from ditto_run.core.run.state import Gauging, Piece, RunState, in_drawing_unit
from ditto_run.core.run.verdict import side_of
from ditto_run.core.run.words import gauged_words, typed_value
from ditto_run.core.units import LengthUnit, Unit


@dataclass(frozen=True, slots=True)
class TakeReading:
    """A measured size as typed; its last digits may be enough. `confirm` repeats a doubted entry.

    `rough` marks a reading in the middle: measured, then cut again.
    """

    piece: int
    characteristic: int
    text: str
    unit: LengthUnit | None = None
    confirm: str = ""
    rough: bool = False
    kind: Literal["take_reading"] = "take_reading"


@dataclass(frozen=True, slots=True)
class TakeGo:
    """A GO (true) or NO-GO (false) result."""

    piece: int
    characteristic: int
    go: bool
    kind: Literal["take_go"] = "take_go"


@dataclass(frozen=True, slots=True)
class Reading:
    """One gauging. `go` is for GO and NO-GO, `value` for a measured size, [unit]. `recheck` says it was asked for."""

    piece: int
    characteristic: int
    setup: int
    text: str
    value: Decimal | None = None
    unit: Unit = "mm"
    decimals: int = 0
    go: bool | None = None
    rough: bool = False
    recheck: bool = False
    kind: Literal["reading"] = "reading"


def gaugeable(state: RunState, number: int, dimension: int) -> tuple[Piece, Characteristic, int]:
    """Return piece, dimension and setup of a reading, if it can be taken.

    Raises:
        NotNow: if the dimension is gauged in another setup, or the piece is gone.
    """
    piece = require_piece(state, number)
    setup = setup_for(state, piece, dimension)
    characteristic = state.plan_of(piece, setup).characteristic(dimension)
    if not _has(state, piece, setup, dimension):
        raise NotNow(
            f"{characteristic.name} is gauged in another setup.",
            "Give it to this setup first, or choose a piece that went through the other.",
        )
    if piece.outcome in {"lost", "scrap"}:
        raise NotNow(f"Piece {number} is {piece.outcome}.", "Undo that first if it was a mistake.")
    return piece, characteristic, setup


def setups_for(state: RunState, piece: Piece) -> list[int]:
    """Return the setups in which a piece may be gauged now, the last first: those of the cycle looked at, else the last one."""
    return state.setups_here(piece) or [next(reversed(piece.made))]


def setup_for(state: RunState, piece: Piece, dimension: int) -> int:
    """Return the setup in which a dimension of a piece is gauged; the last one where it is gauged in none of them."""
    setups = setups_for(state, piece)
    return next((one for one in setups if _has(state, piece, one, dimension)), setups[0])


def _has(state: RunState, piece: Piece, setup: int, dimension: int) -> bool:
    here = state.gauged_in(setup, state.plan_of(piece, setup))
    return piece.last(setup, dimension) is not None or any(c.number == dimension for c in here)


def recent_value(state: RunState, piece: Piece, characteristic: Characteristic, setup: int) -> Decimal | None:
    """Return the reading a short entry completes, or None where the whole number is wanted, [size's unit]."""
    run = state.run_of(piece, setup)
    changed = setup not in run.masters or characteristic.number in run.full_entry_due
    if changed or state.plan.heading.has_consequence:
        return None
    gauging = run.recent.get(characteristic.number)
    return gauging.value if gauging else None


@decide.register
def _measured(command: TakeReading, state: RunState, _now: Now) -> Reading:
    piece, characteristic, setup = gaugeable(state, command.piece, command.characteristic)
    if characteristic.by_gauge_only:
        raise BadEntry(
            f"{characteristic.name} is checked GO and NO-GO.", "Press V for GO, Shift+V for NO-GO.", "text"
        )
    size, own = characteristic.size, characteristic.size.unit
    gauging = state.run_of(piece, setup).recent.get(characteristic.number)
    unit: Unit = own if own == "arcsec" or command.unit is None else command.unit
    typed, confirmed = command.text.strip(), command.confirm.strip()
    whole = typed
    if unit == own:
        recent = recent_value(state, piece, characteristic, setup)
        whole = full_entry(typed, recent, gauging.decimals if gauging else 0, size)
    last = gauging.value if gauging else None
    value, typed_decimals, read_unit = _likely(whole, unit, characteristic, last)
    doubt = doubt_about_reading(in_drawing_unit(value, read_unit, characteristic), last, size)
    if doubt is not None and confirmed != typed and not command.rough:
        raise doubt
    recheck = piece.standing == "held"
    return Reading(
        piece.number,
        characteristic.number,
        setup,
        typed,
        value,
        read_unit,
        max(typed_decimals, 0),
        rough=command.rough,
        recheck=recheck,
    )


def _likely(
    text: str, unit: Unit, characteristic: Characteristic, last: Decimal | None
) -> tuple[Decimal, int, Unit]:
    """Return a reading as typed; of two ways to read a comma the one that can be meant: 12,012 of a bore of 12.

    Raises:
        BadEntry: if it is no number.
        NeedsAnswer: if both can be meant, or neither.
    """
    try:
        return typed_value(text, unit)
    except NeedsAnswer as asked:
        read = [typed_value(choice, unit) for choice in asked.choices.values()]
        size = characteristic.size
        meant = [
            one
            for one in read
            if doubt_about_reading(in_drawing_unit(one[0], one[2], characteristic), last, size) is None
        ]
        if len(meant) == 1:
            return meant[0]
        raise


@decide.register
def _tried(command: TakeGo, state: RunState, _now: Now) -> Reading:
    piece, characteristic, setup = gaugeable(state, command.piece, command.characteristic)
    if not characteristic.by_gauge_only and characteristic.size.has_limits:
        raise BadEntry(f"{characteristic.name} is measured.", "Type the number on the gauge.", "text")
    text, recheck = "GO" if command.go else "NO-GO", piece.standing == "held"
    return Reading(piece.number, characteristic.number, setup, text, go=command.go, recheck=recheck)


@apply.register
def _apply(body: Reading, state: RunState, line: LogLine) -> None:
    found = gauging_of(body, state, line, (body.piece, body.characteristic, body.setup), rough=body.rough)
    take_gauging(state, found)
    found.made_held = not found.inside and state.pieces[body.piece].standing == "held"


class Said(Protocol):
    """What a reading and a correction both say."""

    @property
    def text(self) -> str:
        """As typed."""

    @property
    def value(self) -> Decimal | None:
        """The size; None for GO and NO-GO, [unit]."""

    @property
    def unit(self) -> Unit:
        """Its unit."""

    @property
    def decimals(self) -> int:
        """Decimals typed."""

    @property
    def go(self) -> bool | None:
        """GO, NO-GO, or None for a size."""


def gauging_of(
    body: Said, state: RunState, line: LogLine, at: tuple[int, int, int], *, rough: bool = False
) -> Gauging:
    """Return what a reading or a correction says.

    Args:
        body: what was said.
        state: the run.
        line: its line.
        at: piece, dimension and setup.
        rough: True for a reading in the middle of the cut.
    """
    number, dimension, setup = at
    characteristic = state.plan_of(state.pieces[number], setup).characteristic(dimension)
    value, inside = body.value, bool(body.go)
    if value is not None:
        inside = side_of(value, body.unit, characteristic.size) == "inside"
        value = in_drawing_unit(value, body.unit, characteristic)
    return Gauging(
        line.seq,
        line.at,
        line.who,
        number,
        dimension,
        setup,
        value,
        inside,
        body.text,
        body.decimals,
        body.go,
        judged=characteristic.grade != "free" and not rough,
        rough=rough,
    )


@sentence.register
def _say(body: Reading, state: RunState, seq: int) -> str:
    return gauged_words(state, seq, body.text)
