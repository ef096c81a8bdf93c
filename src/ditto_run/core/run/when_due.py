"""When each dimension is worth a reading at each station: by the advice, and by the plan's plain rule beside it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import ceil

from ditto_run.core.run.judged import HistoryHere
from ditto_run.core.run.loads import loads_to_go
from ditto_run.core.run.state import RunState
from ditto_run.core.units import counted


@dataclass(frozen=True, slots=True)
class GaugeWhen:
    """When one dimension is to be gauged at one station.

    Args:
        name: of the dimension.
        station: its label; empty where the cycle has one only.
        last: load whose piece was gauged last; 0 for none yet.
        advised: load after which it is worth a reading, for itself; 0 for not again in this batch.
        planned: load after which the plan asks for it; 0 for not again.
        times: readings to the end by the advice, each for itself.
        times_planned: readings to the end by the plan.
    """

    name: str
    station: str
    last: int
    advised: int
    planned: int
    times: int
    times_planned: int


def when_due(
    state: RunState, history: HistoryHere, intervals: Mapping[tuple[int, str], int]
) -> tuple[GaugeWhen, ...]:
    """Return when each dimension is to be gauged at each station, in the order of dimensions.

    Args:
        state: the run, looked at from the cycle.
        history: of the setup.
        intervals: pieces from the last reading of the history on, by station from 1 and dimension.

    Source:
        `judge.decide`; loads by own derivation.
    """
    loads = state.here.loads
    newest, pieces = loads[-1].number if loads else 0, max(history.job.stations, 1)
    left = ceil(loads_to_go(state))
    last: dict[tuple[int, str], int] = {}
    for one in history.readings:
        load, station = history.places[one.piece]
        last[station, one.dimension] = max(last.get((station, one.dimension), 0), loads[load - 1].number)
    found = []
    for dimension in history.job.dimensions:
        every = state.sampling(history.of[dimension.name].number)
        to_rule = -newest % every + 1
        for n, label in enumerate(history.labels, 1):
            wait = intervals[n, dimension.name]
            ahead = max(ceil((history.spoken + wait - history.pieces_done) / pieces), 1)
            found.append(
                GaugeWhen(
                    history.of[dimension.name].name,
                    label if len(state.here.composition) > 1 else "",
                    last.get((n, dimension.name), 0),
                    newest + ahead if ahead <= left else 0,
                    newest + to_rule if to_rule <= left else 0,
                    _times(left, ahead, ceil(wait / pieces)),
                    _times(left, to_rule, every),
                )
            )
    return tuple(found)


def _times(left: int, first: int, every: int) -> int:
    """How often something is done in so many loads, from the first on every so many."""
    return 0 if first > left else (left - first) // every + 1


def difference(found: Sequence[GaugeWhen]) -> str:
    """Return how the advice and the plan differ to the end of the batch, in one sentence; empty where nothing is left.

    Args:
        found: every dimension and station.
    """
    mine, plan = sum(one.times for one in found), sum(one.times_planned for one in found)
    if not found or (not mine and not plan):
        return ""
    how = "as many" if mine == plan else f"{abs(mine - plan)} {'fewer' if mine < plan else 'more'}"
    return f"To the end {counted(mine, 'reading')} by the advice, {plan} by the plan’s every so many loads: {how}."
