"""How many pieces each station takes from the next load on."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.run.effects import note_change
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.require import require_standstill
from ditto_run.core.run.state import RunState


@dataclass(frozen=True, slots=True)
class SetComposition:
    """How many pieces each station takes from the next load on; 0 switches it off."""

    stations: dict[str, int]
    kind: Literal["set_composition"] = "set_composition"


@dataclass(frozen=True, slots=True)
class Composition:
    """How many pieces each station takes from the next load on; 0 switches it off."""

    setup: int
    stations: tuple[tuple[str, int], ...]
    kind: Literal["composition"] = "composition"


@decide.register
def _decide(command: SetComposition, state: RunState, _now: Now) -> Composition:
    require_standstill(state, "Change the stations after it.")
    rooms = {station.label: station.pieces for station in state.plan.cycle(state.cycle).stations}
    unknown = set(command.stations) - set(rooms)
    if unknown:
        raise BadEntry(
            f"There is no station {min(unknown)[:10]}.",
            "Choose among the stations of this setup.",
            "stations",
        )
    wanted = {label: command.stations.get(label, state.here.composition.get(label, 0)) for label in rooms}
    for label, pieces in wanted.items():
        if not 0 <= pieces <= rooms[label]:
            raise BadEntry(
                f"Station {label} takes up to {rooms[label]}, not {pieces}.",
                "Type fewer, 0 to switch it off.",
                "stations",
            )
    return Composition(state.cycle, tuple(wanted.items()))


@apply.register
def _apply(body: Composition, state: RunState, line: LogLine) -> None:
    state.cycles[body.setup].composition = dict(body.stations)
    note_change(state, line.seq, "stations", "stations", body.setup)


@sentence.register
def _say(body: Composition, _state: RunState, _seq: int) -> str:
    on = [label if pieces == 1 else f"{label} with {pieces}" for label, pieces in body.stations if pieces]
    return f"Stations on: {', '.join(on) or 'none'}."
