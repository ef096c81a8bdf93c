"""How the batch stands and when it may be done."""

from dataclasses import dataclass
from datetime import datetime

from ditto_run.core.run.forecast import Ends, ends_of
from ditto_run.core.run.loads import finished, finished_of, good, loads_to_go, to_begin, to_go, to_go_in
from ditto_run.core.run.pace import Left, steady, time_left
from ditto_run.core.run.state import CycleRun, RunState
from ditto_run.core.shop.day import ShopDay

NO_DAY = ShopDay()
THROUGH = "this setup"  # pieces that went through the setup being run and are good so far


@dataclass(frozen=True, slots=True)
class Pace:
    """How fast it goes and when it may be done, all setups that are still to come included.

    Args:
        known: False while neither the plan nor the clock says how long a load takes: then there is no finish.
        setups_to_come: setups that pieces still have to go through after this one.
    """

    left: Left
    finish: datetime
    earliest: datetime
    latest: datetime
    per_piece_s: float
    last_cycles_s: tuple[float, ...]
    planned_cycle_s: float
    planned_piece_s: float
    known: bool = True
    setups_to_come: int = 0


@dataclass(frozen=True, slots=True)
class PartCount:
    """How a part of the job stands, [pieces].

    Args:
        name: what tells it from the others.
        good: through every setup and good.
        on_way: begun, and neither good through all nor gone.
        to_go: still to be begun.
        wanted: of it.
        gone: scrapped, lost, trial pieces and spares.
    """

    name: str
    good: int
    on_way: int
    to_go: int
    wanted: int
    gone: int


GONE = ("scrap", "lost", "trial", "spare")


def part_counts(state: RunState) -> tuple[PartCount, ...]:
    """Return how each part of the job stands."""
    found = []
    for key, name in state.plan.part_names.items():
        there = state.by_part[key]
        whole = finished_of(state, key)
        gone = sum(there[standing] for standing in GONE)
        on_way = sum(there.values()) - gone - whole
        found.append(PartCount(name, whole, on_way, to_begin(state, key), state.plan.quantity_of(key), gone))
    return tuple(found)


def pace(state: RunState, now: datetime, day: ShopDay = NO_DAY) -> Pace:
    """Return the pace and when the batch may be done.

    Args:
        state: the run.
        now: the moment it is asked.
        day: when the shop works.
    """
    run = state.here
    room = max(sum(run.composition.values()), 1)
    planned = state.plan.times(state.cycle, room)
    share = _own_share(state)
    left = time_left(run.gaps_s, loads_to_go(state) * share, planned.load_to_load_s)
    base = now if state.closed_at is None else state.closed_at
    later = _later(state) if state.closed_at is None else []
    here = ends_of(state, now, day, share) if state.closed_at is None else None
    known = here is not None and all(span.seen or span.likely_s for span in later)
    begun = here or Ends(base, base, base)
    ends = [
        day.after(at, sum(part)) if sum(part) else at
        for at, part in zip(
            (begun.likely, begun.low, begun.high),
            zip(*((s.likely_s, s.low_s, s.high_s) for s in later), strict=True) if later else ((), (), ()),
            strict=True,
        )
    ]
    cycles = [load.cycle_s for load in run.loads[-4:] if load.cycle_s is not None]
    gaps = steady(run.gaps_s)  # a night is no pace
    each = sum(gaps) / len(gaps) / room if gaps else planned.per_piece_s
    return Pace(
        left,
        ends[0],
        ends[1],
        ends[2],
        each,
        tuple(cycles[-3:]),
        planned.cycle_s,
        planned.per_piece_s,
        known or state.closed_at is not None,
        len(later),
    )


def _own_share(state: RunState) -> float:
    """Return the share of the loads to go that this cycle cuts, where another machine cuts the same setups meanwhile, [-]."""
    mine = _rate(state, state.here)
    others = sum(
        _rate(state, run)
        for run in state.cycles.values()
        if run.key != state.cycle and run.setups == state.here.setups and (run.running or run.loads)
    )
    return mine / (mine + others) if mine else 1.0


def _rate(state: RunState, run: CycleRun) -> float:
    """Return how many pieces a cycle cuts in a second by its plan; its places where that has no times, [1/s]."""
    room = sum(run.composition.values())
    return room / (state.plan.times(run.key, max(room, 1)).load_to_load_s or 1.0)


def _later(state: RunState) -> list[Left]:
    """Return the time each later setup will take for the pieces that have still to go through it."""
    found = []
    here = set(state.here.setups)
    for part in state.plan.all_parts:
        chain = state.plan.chain_of(part.key)
        at = max((chain.index(setup) + 1 for setup in chain if setup in here), default=0)
        coming = sum(to_go_in(state, setup) for setup in chain[:at] if setup in here)
        coming += state.by_part[part.key]["cutting"]
        if not at:
            coming = to_begin(state, part.key)
        for before, setup in zip((chain[at - 1] if at else None, *chain[at:]), chain[at:], strict=False):
            cycle = next(cycle for cycle in state.plan.all_cycles if setup in cycle.setups)
            run = state.cycles.get(cycle.key)
            room = max(sum(station.pieces for station in cycle.stations_of(setup)), 1)
            if before is not None:
                coming += sum(
                    1
                    for p in state.pieces.values()
                    if before in p.made
                    and setup not in p.made
                    and p.standing in {"good", "reworked", "not gauged"}
                )
            if coming:
                gaps = run.gaps_s if run is not None else []
                found.append(time_left(gaps, coming / room, state.plan.times(cycle.key).load_to_load_s))
    return found


def counts(state: RunState) -> dict[str, int]:
    """Return the counts by name, those of the page first; good is good through every setup."""
    found = {"good": finished(state)}
    if len(state.plan.chain_of(state.plan.part_of(state.here.setups[-1]))) > 1:
        found[THROUGH] = good(state)
    found |= {"held": state.counts["held"], "scrap": state.counts["scrap"]}
    shown = ("not gauged", "rework", "trial", "spare", "lost")
    found |= {name: state.counts[name] for name in shown if state.counts[name]}
    if state.counts["cutting"]:
        found["cutting"] = state.counts["cutting"]
    return {**found, "to go": to_go(state)}
