"""How the batch stands and when it may be done."""

from dataclasses import dataclass
from datetime import datetime, timedelta

from ditto_run.core.run.loads import good, to_go
from ditto_run.core.run.pace import Left, time_left
from ditto_run.core.run.state import RunState


@dataclass(frozen=True, slots=True)
class Pace:
    """How fast it goes and when it may be done."""

    left: Left
    finish: datetime
    earliest: datetime
    latest: datetime
    per_piece_s: float
    last_cycles_s: tuple[float, ...]
    planned_cycle_s: float
    planned_piece_s: float


def pace(state: RunState, now: datetime) -> Pace:
    """Return the pace and when the batch may be done.

    Args:
        state: the run.
        now: the moment it is asked.
    """
    run = state.here
    room = max(sum(run.composition.values()), 1)
    planned = state.plan.cycle(state.setup, room)
    loads_left = to_go(state) / room
    left = time_left(run.gaps_s, loads_left, planned.load_to_load_s)
    rest_s = 0.0
    if state.running is not None and state.running.started_at is not None:
        rest_s = max(0.0, planned.cycle_s - (now - state.running.started_at).total_seconds())
    base = now if state.closed_at is None else state.closed_at
    ends = [base + timedelta(seconds=rest_s + s) for s in (left.likely_s, left.low_s, left.high_s)]
    cycles = [load.cycle_s for load in run.loads[-4:] if load.cycle_s is not None]
    gaps = run.gaps_s[-12:]
    each = sum(gaps) / len(gaps) / room if gaps else planned.per_piece_s
    return Pace(
        left, ends[0], ends[1], ends[2], each, tuple(cycles[-3:]), planned.cycle_s, planned.per_piece_s
    )


def counts(state: RunState) -> dict[str, int]:
    """Return the counts by name, those of the page first."""
    found = {"good": good(state), "held": state.counts["held"], "scrap": state.counts["scrap"]}
    found |= {name: state.counts[name] for name in ("rework", "trial", "spare", "lost") if state.counts[name]}
    if state.counts["cutting"]:
        found["cutting"] = state.counts["cutting"]
    return {**found, "to go": to_go(state)}
