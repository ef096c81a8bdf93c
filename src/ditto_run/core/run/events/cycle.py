"""A load starts to be cut, and is done: what the start key and the clock write."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal, NoReturn

from ditto_run.core.errors import NeedsAnswer, NotNow
from ditto_run.core.run.effects import made, put_in, seconds_between
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.line import Loaded
from ditto_run.core.run.loads import next_load, next_number, waiting_elsewhere
from ditto_run.core.run.require import require_free_machine, require_proven, require_standstill
from ditto_run.core.run.state import Dialled, Load, RunState
from ditto_run.core.run.words import stations_text
from ditto_run.core.units import LengthUnit, clock_text, convert

SHORTEST = 0.1  # of the planned cycle; a shorter one is a slip of the hand until somebody says otherwise


@dataclass(frozen=True, slots=True)
class LeftTurn:
    """A turn that was advised and not made before a load: what, how much in its unit, and the station; empty for every one."""

    what: str
    amount: Decimal
    unit: LengthUnit = "mm"
    station: str = ""


@dataclass(frozen=True, slots=True)
class StartCycle:
    """Start cutting the next load; `left` is a turn that was advised and was not made."""

    left: LeftTurn | None = None
    kind: Literal["start_cycle"] = "start_cycle"


@dataclass(frozen=True, slots=True)
class EndCycle:
    """The load is done. `confirm` says so once more where it was far too quick; `load` is the one that is meant."""

    confirm: str = ""
    load: int = 0
    kind: Literal["end_cycle"] = "end_cycle"


@dataclass(frozen=True, slots=True)
class CycleStarted:
    """A load starts to be cut; `machine` says where.

    `setup` is the key of its cycle, which is that of the setup where it is cut alone; `cycle` is 1 there, and the same key
    where somebody put the cycle together.
    """

    setup: int
    load: int
    revision: int
    stations: tuple[Loaded, ...]
    machine: int | None = None
    cycle: int = 1
    left: LeftTurn | None = None
    kind: Literal["cycle_started"] = "cycle_started"


@dataclass(frozen=True, slots=True)
class CycleEnded:
    """The load of a cycle is done; `setup` is the cycle's key."""

    setup: int
    load: int
    kind: Literal["cycle_ended"] = "cycle_ended"


@decide.register
def _start(command: StartCycle, state: RunState, _now: Now) -> CycleStarted:
    require_standstill(state, "End it first.")
    cycle = state.plan.cycle(state.cycle)
    require_free_machine(state, cycle)
    require_proven(state)
    stations = next_load(state)
    if not stations:
        _refuse_empty(state)
    return CycleStarted(
        cycle.key,
        next_number(state),
        state.revision,
        stations,
        cycle.machine_id,
        cycle.key if cycle.declared else 1,
        command.left,
    )


def _refuse_empty(state: RunState) -> NoReturn:
    """Say why there is nothing to load."""
    if not any(state.here.composition.values()):
        raise NotNow("Every station is switched off.", "Switch one on under Stations.")
    elsewhere = waiting_elsewhere(state)
    what = "cycle" if len(state.here.setups) > 1 else "setup"
    if elsewhere is not None:
        name = state.plan.cycle(elsewhere).name
        raise NotNow(f"No piece waits for this {what}; pieces wait for {name}.", f"Open {name} under Setup.")
    if any(state.plan.setup_before(setup) is not None for setup in state.here.setups):
        raise NotNow(f"No piece waits for this {what}.", "Run the setup before it first.")
    raise NotNow("All pieces are made.", "Decide on the held ones, then close the batch.")


@decide.register
def _end(command: EndCycle, state: RunState, now: Now) -> CycleEnded:
    load = state.running
    if load is None:
        raise NotNow("No load is cutting.", "Start the next load first.")
    if command.load and command.load != load.number:
        raise NotNow(f"Load {command.load} has ended already.", f"Load {load.number} is cutting now.")
    planned_s = state.plan.times(load.cycle, len(load.pieces)).cycle_s
    took_s = seconds_between(load.started_at, now.at) if load.started_at else None
    if (
        took_s is not None
        and planned_s
        and took_s < planned_s * SHORTEST
        and command.confirm != str(load.number)
    ):
        raise NeedsAnswer(
            f"Load {load.number} ran {clock_text(took_s)} of {clock_text(planned_s)} planned. Is it done?",
            "Say so again to end it; leave it to go on.",
            "confirm",
            {f"Load {load.number} is done": str(load.number)},
        )
    return CycleEnded(load.cycle, load.number)


@apply.register
def _started(body: CycleStarted, state: RunState, line: LogLine) -> None:
    load = Load(body.setup, body.load, body.revision, body.stations, started_at=line.at, seq=line.seq)
    run = state.cycles[body.setup]
    previous = run.loads[-1] if run.loads else None
    if previous is not None and previous.started_at is not None and not previous.entered:
        gap_s = seconds_between(previous.started_at, line.at)
        if gap_s is not None:
            run.gaps_s.append(gap_s)
    run.running = load
    if body.left is not None:
        amount_mm = float(convert(body.left.amount, body.left.unit, "mm"))
        run.turns_advised.append(Dialled(line.seq, body.load, body.left.what, amount_mm, body.left.station))
    put_in(state, load)


@apply.register
def _ended(body: CycleEnded, state: RunState, line: LogLine) -> None:
    run = state.cycles[body.setup]
    load = run.running
    if load is None:
        return
    load.ended_at = line.at
    run.running, state.last_load_ended = None, line.at
    made(state, load)


@sentence.register
def _say_started(body: CycleStarted, _state: RunState, _seq: int) -> str:
    return f"Load {body.load} started."


@sentence.register
def _say_ended(body: CycleEnded, state: RunState, _seq: int) -> str:
    load = next((found for found in state.cycles[body.setup].loads if found.number == body.load), None)
    if load is None:
        return f"Load {body.load} done."
    took = f" It took {clock_text(load.cycle_s)}." if load.cycle_s is not None else ""
    if load.cycle_s is None and load.started_at and load.ended_at and load.ended_at < load.started_at:
        took = " The clock was set back meanwhile, so its time is not known."
    stations = stations_text([loaded.station for loaded in load.stations])
    return f"Load {body.load} done. Unload {stations}.{took}"
