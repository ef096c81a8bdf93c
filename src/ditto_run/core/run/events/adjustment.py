"""An offset, wear value or stop was moved; an offset of the machine's register moves with it."""

import re
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.place.offsets import AXES, LINEAR, Axis, OffsetChange, as_shown
from ditto_run.core.run.effects import next_load_number, note_change
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.require import require_text
from ditto_run.core.run.state import Dialled, RunState
from ditto_run.core.shop.codes import read_code
from ditto_run.core.sizes import read_value
from ditto_run.core.units import LengthUnit, capital, convert

OFFSET_AXIS = re.compile(r"(.+?)\s+([XYZABC])", re.IGNORECASE)
FOLLOWED = "on Run: "  # how an offset is marked in the register that was moved through the run


@dataclass(frozen=True, slots=True)
class Adjust:
    """An offset, wear value or stop was moved. `station` empty means all stations; `advised` where it was as said."""

    what: str
    amount: str
    unit: LengthUnit = "mm"
    station: str = ""
    advised: bool = False
    kind: Literal["adjust"] = "adjust"


@dataclass(frozen=True, slots=True)
class Moved:
    """What an adjustment did to the register: which axis, and what it read before and after, [control's unit]."""

    machine: int
    code: str
    axis: Axis
    before: Decimal
    after: Decimal


@dataclass(frozen=True, slots=True)
class Adjustment:
    """An offset, wear value or stop was moved to bring the size back. `station` empty means all, [unit]."""

    setup: int
    what: str
    amount: Decimal
    unit: LengthUnit
    station: str = ""
    moved: Moved | None = None
    advised: bool = False
    kind: Literal["adjustment"] = "adjustment"


@decide.register
def _decide(command: Adjust, state: RunState, now: Now) -> Adjustment:
    what = require_text(command.what, "what", "what was moved, such as T03 diameter wear")
    try:
        amount, _, unit = read_value(command.amount, command.unit)
    except BadEntry:
        raise BadEntry(
            f"“{command.amount[:30]}” is not an amount.", "Type what you added, such as −0.0008.", "amount"
        ) from None
    if not amount or unit == "arcsec":
        raise BadEntry("The amount is nothing.", "Type what you added, such as −0.0008.", "amount")
    if command.station and command.station not in state.here.composition:
        raise BadEntry(
            f"There is no station {command.station[:10]}.", "Choose one of the stations, or all.", "station"
        )
    moved = move_of(what, amount, unit, now)
    return Adjustment(state.cycle, what, amount, unit, command.station, moved, command.advised)


def move_of(what: str, amount: Decimal, unit: LengthUnit, now: Now) -> Moved | None:
    """Return what an adjustment does to the register; None where it is no offset of it that is set.

    Raises:
        BadEntry: if it would move an offset that is kept.
    """
    found = OFFSET_AXIS.fullmatch(what)
    if found is None or now.machine is None:
        return None
    try:
        code = read_code(found[1])
    except BadEntry:
        return None
    offset, axis = now.offsets.get(code), AXES["XYZABC".index(found[2].upper())]
    if offset is None or axis not in offset.axes:
        return None
    if offset.kept:
        raise BadEntry(
            f"{code} is kept as “{offset.name}”.",
            "Change it on Place, Offsets, with its name typed; others rely on it.",
            "what",
        )
    by = convert(amount, unit, offset.unit) if axis in LINEAR else amount
    before = offset.axes[axis]
    return Moved(now.machine.id, code, axis, before, as_shown(axis, before + by, offset.unit))


def register_change(body: Adjustment, *, back: bool = False) -> OffsetChange | None:
    """Return what is written to the register with an adjustment, or with its undo; None for nothing.

    Args:
        body: the adjustment.
        back: True to take it back.
    """
    moved = body.moved
    if moved is None:
        return None
    value = moved.before if back else moved.after
    return OffsetChange(moved.code, {moved.axis: value}, f"{FOLLOWED}{'undid ' if back else ''}{body.what}")


@apply.register
def _apply(body: Adjustment, state: RunState, line: LogLine) -> None:
    note_change(state, line.seq, "offset", f"{body.what} {amount_words(body)}", body.setup, body.station)
    run = state.cycles.get(body.setup, state.here)
    moved = float(convert(body.amount, body.unit, "mm"))
    dialled = Dialled(line.seq, next_load_number(run), body.what, moved, body.station)
    run.dialled.append(dialled)
    if body.advised:
        run.turns_advised.append(dialled)


def amount_words(body: Adjustment) -> str:
    """Return how much was added: +0.010 mm."""
    return f"{'+' if body.amount > 0 else '−'}{abs(body.amount):f} {body.unit}"


@sentence.register
def _say(body: Adjustment, _state: RunState, _seq: int) -> str:
    where = f" at {body.station}" if body.station else ""
    return f"{capital(body.what)}{where}: {amount_words(body)} recorded."
