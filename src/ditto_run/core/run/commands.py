"""What a person can do in a run. `decide` turns each into the line of the log that records it."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.run.events import Identity, Outcome
from ditto_run.core.units import LengthUnit


@dataclass(frozen=True, slots=True)
class StartCycle:
    """Start cutting the next load."""

    kind: Literal["start_cycle"] = "start_cycle"


@dataclass(frozen=True, slots=True)
class EndCycle:
    """The load is done."""

    kind: Literal["end_cycle"] = "end_cycle"


@dataclass(frozen=True, slots=True)
class TakeReading:
    """A measured size as typed; its last digits may be enough. `confirm` repeats a doubted entry."""

    piece: int
    characteristic: int
    text: str
    unit: LengthUnit | None = None
    confirm: str = ""
    kind: Literal["take_reading"] = "take_reading"


@dataclass(frozen=True, slots=True)
class TakeGo:
    """A GO (true) or NO-GO (false) result."""

    piece: int
    characteristic: int
    go: bool
    kind: Literal["take_go"] = "take_go"


@dataclass(frozen=True, slots=True)
class CorrectReading:
    """The reading in that line of the log was wrong. Its size in full, or GO or NO-GO."""

    corrects: int
    text: str
    reason: str
    kind: Literal["correct_reading"] = "correct_reading"


@dataclass(frozen=True, slots=True)
class AcceptMaster:
    """Accept the first piece of this setup as the master."""

    piece: int
    kind: Literal["accept_master"] = "accept_master"


@dataclass(frozen=True, slots=True)
class Adjust:
    """An offset, wear value or stop was moved. `station` empty means all stations."""

    what: str
    amount: str
    unit: LengthUnit = "mm"
    station: str = ""
    kind: Literal["adjust"] = "adjust"


@dataclass(frozen=True, slots=True)
class ChangeSetting:
    """A speed, feed or other setting was changed."""

    what: str
    before: str = ""
    after: str = ""
    kind: Literal["change_setting"] = "change_setting"


@dataclass(frozen=True, slots=True)
class MarkBreak:
    """New bar, box of blanks or shift."""

    what: str
    kind: Literal["mark_break"] = "mark_break"


@dataclass(frozen=True, slots=True)
class HoldPieces:
    """Hold pieces: numbers and ranges, such as 11, 14-17."""

    pieces: str
    reason: str
    kind: Literal["hold_pieces"] = "hold_pieces"


@dataclass(frozen=True, slots=True)
class Dispose:
    """Decide what becomes of a piece."""

    piece: int
    outcome: Outcome
    reason: str = ""
    kind: Literal["dispose"] = "dispose"


@dataclass(frozen=True, slots=True)
class AddNote:
    """A sentence to remember."""

    text: str
    piece: int | None = None
    kind: Literal["add_note"] = "add_note"


@dataclass(frozen=True, slots=True)
class SetComposition:
    """How many pieces each station takes from the next load on; 0 switches it off."""

    stations: dict[str, int]
    kind: Literal["set_composition"] = "set_composition"


@dataclass(frozen=True, slots=True)
class EnterLoads:
    """Write loads down later. `since` is a clock time of today such as 13:30, or empty.

    `joined` marks work that was done before this log began: its pieces count, nobody asks for their readings.
    """

    loads: int
    since: str = ""
    joined: bool = False
    kind: Literal["enter_loads"] = "enter_loads"


@dataclass(frozen=True, slots=True)
class OpenSetup:
    """Go on in another setup."""

    setup: int
    identity: Identity = "marked"
    kind: Literal["open_setup"] = "open_setup"


@dataclass(frozen=True, slots=True)
class TakeRevision:
    """Take the changed plan as the next revision."""

    reason: str
    kind: Literal["take_revision"] = "take_revision"


@dataclass(frozen=True, slots=True)
class Undo:
    """Take back the last thing this person recorded."""

    kind: Literal["undo"] = "undo"


@dataclass(frozen=True, slots=True)
class CloseRun:
    """Close the batch. `short` agrees to closing with fewer good pieces than wanted."""

    short: bool = False
    kind: Literal["close_run"] = "close_run"


Command = (
    StartCycle | EndCycle | TakeReading | TakeGo | CorrectReading | AcceptMaster | Adjust | ChangeSetting | MarkBreak
    | HoldPieces | Dispose | AddNote | SetComposition | EnterLoads | OpenSetup | TakeRevision | Undo | CloseRun
)  # fmt: skip
"""Everything a person can do in a run."""
