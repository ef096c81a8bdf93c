"""Loads written down later, or made before this log began."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Literal

from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.run.effects import made, put_in, seconds_between
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.line import Loaded
from ditto_run.core.run.loads import Deal, next_number
from ditto_run.core.run.require import require_proven, require_standstill
from ditto_run.core.run.state import Load, RunState
from ditto_run.core.units import counted

MOST_LATE_LOADS = 400


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
class LoadsEntered:
    """Loads written down later; `since` is when the first began, None when nobody knows."""

    setup: int
    first_load: int
    revision: int
    loads: tuple[tuple[Loaded, ...], ...]
    since: datetime | None = None
    joined: bool = False
    kind: Literal["loads_entered"] = "loads_entered"


@decide.register
def _decide(command: EnterLoads, state: RunState, now: Now) -> LoadsEntered:
    require_standstill(state, "End it, then write the others down.")
    if not 1 <= command.loads <= MOST_LATE_LOADS:
        raise BadEntry(f"{command.loads} loads cannot be written down at once.", "Type 1 to 400.", "loads")
    if command.joined and state.here.loads:
        raise NotNow("This setup has loads already.", "Joining is for work done before the first one here.")
    if not command.joined:
        require_proven(state)
    since = _clock_time(command.since, now.at)
    loads: list[tuple[Loaded, ...]] = []
    deal = Deal(state)
    for _ in range(command.loads):
        stations = deal.next_load()
        if not stations:
            raise BadEntry(
                f"{counted(command.loads, 'load')} would be more than are left: {len(loads)}.",
                "Type fewer loads.",
                "loads",
            )
        loads.append(stations)
    first = next_number(state)
    return LoadsEntered(state.cycle, first, state.revision, tuple(loads), since, command.joined)


def _clock_time(text: str, now: datetime) -> datetime | None:
    """Return the last moment that a clock showed the time typed; never one to come."""
    typed = text.strip()
    if not typed:
        return None
    try:
        clock = datetime.strptime(typed, "%H:%M").replace(tzinfo=now.tzinfo)
    except ValueError:
        raise BadEntry(f"“{typed[:20]}” is not a clock time.", "Type it as 13:30.", "since") from None
    found = now.replace(hour=clock.hour, minute=clock.minute, second=0, microsecond=0)
    return found if found <= now else found - timedelta(days=1)


@apply.register
def _apply(body: LoadsEntered, state: RunState, line: LogLine) -> None:
    for later, stations in enumerate(body.loads):
        load = Load(
            body.setup,
            body.first_load + later,
            body.revision,
            stations,
            None,
            line.at,
            entered=True,
            joined=body.joined,
            seq=line.seq,
        )
        put_in(state, load)
        made(state, load)
    state.last_load_ended = line.at
    spent_s = seconds_between(body.since, line.at) if body.since is not None else None
    if spent_s is not None and body.loads:
        state.cycles[body.setup].gaps_s += [spent_s / len(body.loads)] * len(body.loads)


@sentence.register
def _say(body: LoadsEntered, _state: RunState, _seq: int) -> str:
    return f"{len(body.loads)} {'load' if len(body.loads) == 1 else 'loads'} written down."
