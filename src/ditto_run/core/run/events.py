"""What happens in a run, as it is written down. The log is these lines and nothing else.

A line is never changed or removed; a correction or an undo is a further line. Field names of these
values are the names in the log, the API and the bundle, so they are kept once released.
"""

from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from typing import Literal

from ditto_run.core.units import LengthUnit, Unit

Outcome = Literal["good", "as_is", "rework", "scrap", "trial", "spare", "lost"]
Identity = Literal["marked", "tray", "lost"]


@dataclass(frozen=True, slots=True)
class Loaded:
    """Pieces in one station."""

    station: str
    pieces: tuple[int, ...]


@dataclass(frozen=True, slots=True)
class RunStarted:
    """The run begins with a frozen plan, in its first setup."""

    revision: int
    setup: int
    kind: Literal["run_started"] = "run_started"


@dataclass(frozen=True, slots=True)
class PlanRevised:
    """From here on pieces are made to this revision."""

    revision: int
    reason: str
    kind: Literal["plan_revised"] = "plan_revised"


@dataclass(frozen=True, slots=True)
class SetupOpened:
    """The run goes on in another setup; `identity` says how the pieces were kept apart until then."""

    setup: int
    identity: Identity
    kind: Literal["setup_opened"] = "setup_opened"


@dataclass(frozen=True, slots=True)
class CycleStarted:
    """A load starts to be cut."""

    setup: int
    load: int
    revision: int
    stations: tuple[Loaded, ...]
    kind: Literal["cycle_started"] = "cycle_started"


@dataclass(frozen=True, slots=True)
class CycleEnded:
    """The load is done."""

    setup: int
    load: int
    kind: Literal["cycle_ended"] = "cycle_ended"


@dataclass(frozen=True, slots=True)
class LoadsEntered:
    """Loads written down later; `since` is when the first began, None when nobody knows."""

    setup: int
    first_load: int
    revision: int
    loads: tuple[tuple[Loaded, ...], ...]
    since: datetime | None = None
    joined: bool = False
    kind: Literal["loads_entered"] = "loads_entered"


@dataclass(frozen=True, slots=True)
class Composition:
    """How many pieces each station takes from the next load on; 0 switches it off."""

    setup: int
    stations: tuple[tuple[str, int], ...]
    kind: Literal["composition"] = "composition"


@dataclass(frozen=True, slots=True)
class Reading:
    """One gauging. `go` is for GO and NO-GO, `value` for a measured size, [unit]."""

    piece: int
    characteristic: int
    setup: int
    text: str
    value: Decimal | None = None
    unit: Unit = "mm"
    decimals: int = 0
    go: bool | None = None
    kind: Literal["reading"] = "reading"


@dataclass(frozen=True, slots=True)
class Correction:
    """A reading was wrong; this stands in its place, the old line stays."""

    corrects: int
    text: str
    reason: str
    value: Decimal | None = None
    unit: Unit = "mm"
    decimals: int = 0
    go: bool | None = None
    kind: Literal["correction"] = "correction"


@dataclass(frozen=True, slots=True)
class MasterAccepted:
    """The first piece of a setup is accepted: everything after it is compared with it."""

    setup: int
    piece: int
    kind: Literal["master_accepted"] = "master_accepted"


@dataclass(frozen=True, slots=True)
class Adjustment:
    """An offset, wear value or stop was moved to bring the size back. `station` empty means all, [unit]."""

    setup: int
    what: str
    amount: Decimal
    unit: LengthUnit
    station: str = ""
    kind: Literal["adjustment"] = "adjustment"


@dataclass(frozen=True, slots=True)
class SettingChanged:
    """A speed, feed or other setting was changed."""

    setup: int
    what: str
    before: str
    after: str
    kind: Literal["setting_changed"] = "setting_changed"


@dataclass(frozen=True, slots=True)
class Break:
    """New bar, box of blanks or shift."""

    setup: int
    what: str
    kind: Literal["break"] = "break"


@dataclass(frozen=True, slots=True)
class Hold:
    """Pieces are held until somebody decides."""

    pieces: tuple[int, ...]
    reason: str
    kind: Literal["hold"] = "hold"


@dataclass(frozen=True, slots=True)
class Disposition:
    """What becomes of a piece."""

    piece: int
    outcome: Outcome
    reason: str = ""
    kind: Literal["disposition"] = "disposition"


@dataclass(frozen=True, slots=True)
class Note:
    """A sentence to remember, about a piece or the run."""

    text: str
    piece: int | None = None
    kind: Literal["note"] = "note"


@dataclass(frozen=True, slots=True)
class Undone:
    """The line of that number no longer counts."""

    undoes: int
    kind: Literal["undone"] = "undone"


@dataclass(frozen=True, slots=True)
class RunClosed:
    """The batch is closed."""

    kind: Literal["run_closed"] = "run_closed"


Body = (
    RunStarted | PlanRevised | SetupOpened | CycleStarted | CycleEnded | LoadsEntered | Composition | Reading
    | Correction | MasterAccepted | Adjustment | SettingChanged | Break | Hold | Disposition | Note | Undone | RunClosed
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Event:
    """One line of the log.

    Args:
        seq: its number in the run, from 1.
        at: when, with time zone.
        who: initials.
        client_key: chosen by whoever sent it, so that sending it twice does nothing more.
        body: what happened.
    """

    seq: int
    at: datetime
    who: str
    client_key: str
    body: Body
