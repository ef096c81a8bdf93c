"""The good pieces are counted by hand, beside what the log says there are."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.entry.plain import read_count
from ditto_run.core.errors import BadEntry
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.loads import good_here
from ditto_run.core.run.require import require_standstill
from ditto_run.core.run.state import RunState, TrayCount
from ditto_run.core.units import counted

MOST_PIECES = 1_000_000


@dataclass(frozen=True, slots=True)
class CountTray:
    """The good pieces that are here, counted by hand."""

    pieces: str
    kind: Literal["count_tray"] = "count_tray"


@dataclass(frozen=True, slots=True)
class TrayCounted:
    """So many good pieces were counted by hand where the log said so many are here. [pieces]."""

    pieces: int
    logged: int
    kind: Literal["tray_counted"] = "tray_counted"


@decide.register
def _decide(command: CountTray, state: RunState, _now: Now) -> TrayCounted:
    require_standstill(state, "End it first, then count.")
    pieces = read_count(command.pieces, "pieces")
    if pieces > MOST_PIECES:
        raise BadEntry(f"{pieces:,} pieces cannot be here.", "Count again.", "pieces")
    return TrayCounted(pieces, good_here(state))


@apply.register
def _apply(body: TrayCounted, state: RunState, line: LogLine) -> None:
    state.tray = TrayCount(line.at, line.who, body.pieces, body.logged)


@sentence.register
def _say(body: TrayCounted, _state: RunState, _seq: int) -> str:
    away = body.pieces - body.logged
    if not away:
        return f"{counted(body.pieces, 'good piece')} counted by hand, as the log says."
    how = "more" if away > 0 else "fewer"
    return f"{counted(body.pieces, 'good piece')} counted by hand, {abs(away)} {how} than the log says."
