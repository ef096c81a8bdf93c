"""A gauge was tried on its master, or somebody looked at what holds."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.run.effects import next_load_number
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.state import HoldLook, Mastered, RunState
from ditto_run.core.sizes import read_value
from ditto_run.core.units import LengthUnit, convert

MOST_WRONG_MM = 5  # of a gauge on its master; more is a slip


@dataclass(frozen=True, slots=True)
class TryMaster:
    """The gauge of a dimension was tried on its master; `error` is what it read too much, empty for nothing."""

    characteristic: int
    error: str = ""
    unit: LengthUnit = "mm"
    kind: Literal["try_master"] = "try_master"


@dataclass(frozen=True, slots=True)
class MasterTried:
    """The gauge of a dimension was tried on its master and set right: what it read too much, [unit]."""

    cycle: int
    characteristic: int
    error: Decimal
    unit: LengthUnit
    kind: Literal["master_tried"] = "master_tried"


@dataclass(frozen=True, slots=True)
class LookAtHold:
    """Somebody looked at what holds at a station; empty for all of them."""

    station: str = ""
    loose: bool = False
    kind: Literal["look_at_hold"] = "look_at_hold"


@dataclass(frozen=True, slots=True)
class HoldLookedAt:
    """Somebody looked at what holds, and tightened it where it was loose."""

    cycle: int
    station: str
    loose: bool
    kind: Literal["hold_looked_at"] = "hold_looked_at"


@decide.register
def _try(command: TryMaster, state: RunState, _now: Now) -> MasterTried:
    if all(one.number != command.characteristic for one in state.gauged_here()):
        raise NotFound("dimension", command.characteristic, "Choose one that is gauged here.")
    error, unit = Decimal(0), command.unit
    if command.error.strip():
        try:
            error, _, read_unit = read_value(command.error, command.unit)
        except BadEntry:
            raise BadEntry(
                f"“{command.error[:30]}” is no length.",
                "Type what it read too much, such as 0.002; −0.002 for too little.",
                "error",
            ) from None
        if read_unit == "arcsec":
            raise BadEntry("An angle is no length.", "Type what it read too much, such as 0.002.", "error")
        unit = read_unit
    if abs(convert(error, unit, "mm")) > MOST_WRONG_MM:
        raise BadEntry("No gauge is that far off.", "Type the difference, not the reading.", "error")
    return MasterTried(state.cycle, command.characteristic, error, unit)


@decide.register
def _look(command: LookAtHold, state: RunState, _now: Now) -> HoldLookedAt:
    if command.station and command.station not in state.here.composition:
        raise BadEntry(
            f"There is no station {command.station[:10]}.", "Choose one of the stations, or all.", "station"
        )
    return HoldLookedAt(state.cycle, command.station, command.loose)


@apply.register
def _tried(body: MasterTried, state: RunState, line: LogLine) -> None:
    run = state.cycles.get(body.cycle, state.here)
    error = float(convert(body.error, body.unit, "mm"))
    run.mastered.append(Mastered(line.seq, next_load_number(run), body.characteristic, error))


@apply.register
def _looked(body: HoldLookedAt, state: RunState, line: LogLine) -> None:
    run = state.cycles.get(body.cycle, state.here)
    run.looked.append(HoldLook(line.seq, next_load_number(run), body.station, body.loose))


@sentence.register
def _say_tried(body: MasterTried, state: RunState, _seq: int) -> str:
    name = next((c.name for c in state.plan.all_characteristics if c.number == body.characteristic), "")
    if not body.error:
        return f"The gauge of the {name} reads true on its master."
    return f"The gauge of the {name} read {abs(body.error):f} {body.unit} too {'much' if body.error > 0 else 'little'}; it is set right."


@sentence.register
def _say_looked(body: HoldLookedAt, _state: RunState, _seq: int) -> str:
    where = f"Station {body.station}" if body.station else "Every station"
    return f"{where} was loose, and is tight again." if body.loose else f"{where} holds."
