"""Readings of one dimension as the usual charts show them: to look at; the advice never depends on which is shown."""

from dataclasses import dataclass
from statistics import fmean, stdev

from ditto_run.core.part import Characteristic
from ditto_run.core.run.state import RunState
from ditto_run.core.statistics.capability import Capability, capability
from ditto_run.core.statistics.charts import Individuals, individuals
from ditto_run.core.statistics.cumulative import Sums, cumulative_sum
from ditto_run.core.statistics.indices import short_term
from ditto_run.core.statistics.precontrol import PreControl, is_qualified, pre_control
from ditto_run.core.statistics.run_rules import Signal, run_rules
from ditto_run.core.statistics.tolerance import share_within, two_sided
from ditto_run.core.units import to_base

FEW = 5  # readings, under which a chart says nothing; common practice, no source
SHARE, CONFIDENCE = 0.99, 0.95  # of a tolerance interval
MOST = 400  # newest readings that are charted


@dataclass(frozen=True, slots=True)
class ChartedReading:
    """One reading: its piece, load and station, and its size or deviation, [size's unit, or half tolerances]."""

    piece: int
    load: int
    station: str
    value: float


@dataclass(frozen=True, slots=True)
class ChartedSize:
    """The readings of one dimension with what the charts say.

    Args:
        of: the dimension; None where several are shown as deviations.
        readings: in the order in which they were taken.
        lower, middle, upper: limits and their middle. [as the values]
        turns: loads before which something was dialled.
        chart: individuals and moving range; None with too few.
        sums: cumulative sums about the middle.
        signals: run rules that spoke, the newest last.
        control: what pre-control says; None with too few.
        set_up: whether the last five lie in the middle half.
        overall: Pp, Ppk with intervals.
        cp, cpk: from step to step.
        within: share that keeps its limits: likely, low, high; None with too few.
        holds: so many of all pieces lie between: low, high; None with too few.
    """

    of: Characteristic | None
    readings: tuple[ChartedReading, ...]
    lower: float
    middle: float
    upper: float
    turns: tuple[int, ...]
    chart: Individuals | None
    sums: Sums | None
    signals: tuple[Signal, ...]
    control: PreControl | None
    set_up: bool
    overall: Capability | None
    cp: float | None
    cpk: float | None
    within: tuple[float, float, float] | None
    holds: tuple[float, float] | None


def charted(state: RunState, number: int, station: str = "") -> ChartedSize | None:
    """Return the readings of a dimension in the cycle that is looked at; None where none can be charted.

    Args:
        state: the run.
        number: of the dimension; 0 for all of them as deviations in half tolerances.
        station: only of this one; empty for all.
    """
    sizes = {
        c.number: c for c in state.gauged_here() if c.size.lower is not None and c.size.upper is not None
    }
    if number and number not in sizes:
        return None
    found = _readings(state, sizes if not number else {number: sizes[number]}, station, scaled=not number)
    if not found:
        return None
    of = sizes[number] if number else None
    lower, middle, upper = -1.0, 0.0, 1.0
    if of is not None and of.size.lower is not None and of.size.upper is not None:
        lower, middle, upper = float(of.size.lower), float(of.size.middle), float(of.size.upper)
    values = [one.value for one in found]
    enough = len(values) >= FEW
    chart = individuals(values) if enough else None
    sigma = chart.sigma if chart is not None else 0.0
    cp, cpk = short_term(values, lower, upper) if enough else (None, None)
    spread = stdev(values) if enough else 0.0
    reach = two_sided(len(values), SHARE, CONFIDENCE) * spread if spread else 0.0
    return ChartedSize(
        of,
        tuple(found),
        lower,
        middle,
        upper,
        tuple(
            sorted({one.load for one in state.here.dialled if one.station in {"", station} or not station})
        ),
        chart,
        cumulative_sum(values, middle, sigma) if sigma else None,
        tuple(run_rules(values, fmean(values), sigma)) if sigma else (),
        pre_control(values, lower, upper) if enough else None,
        is_qualified(values, lower, upper),
        capability(values, lower, upper) if enough else None,
        cp,
        cpk,
        share_within(values, lower, upper) if spread else None,
        (fmean(values) - reach, fmean(values) + reach) if spread else None,
    )


def _readings(
    state: RunState, sizes: dict[int, Characteristic], station: str, *, scaled: bool
) -> list[ChartedReading]:
    """The readings that count, in the order in which they were taken; the newest."""
    setups = set(state.here.setups)
    found: list[ChartedReading] = []
    for gauging in reversed(state.gaugings.values()):
        of = sizes.get(gauging.characteristic)
        if of is None or gauging.setup not in setups or gauging.value is None or gauging.rough:
            continue
        made = state.pieces[gauging.piece].made.get(gauging.setup)
        last = state.pieces[gauging.piece].last(gauging.setup, gauging.characteristic)
        if made is None or made.cycle != state.cycle or (station and made.station != station):
            continue
        if last is None or last.seq != gauging.seq:
            continue  # another reading of the piece counts
        value = float(gauging.value)
        if scaled and of.size.lower is not None and of.size.upper is not None:
            half = float(to_base(of.size.upper - of.size.lower, of.size.unit)) / 2
            value = float(to_base(gauging.value - of.size.middle, of.size.unit)) / half if half else 0.0
        found.append(ChartedReading(gauging.piece, made.load, made.station, value))
        if len(found) >= MOST:
            break
    found.reverse()
    return found
