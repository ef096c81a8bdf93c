"""What a batch teaches the shop for its next plans: pace, handling, drift and scrap, by machine, way and material."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from decimal import Decimal
from statistics import median

from ditto_run.core.errors import DittoError
from ditto_run.core.run.state import CycleRun, Gauging, RunState
from ditto_run.core.sheets.reader import read_as
from ditto_run.core.shop.taught import Taught, Teaches
from ditto_run.core.statistics.drift import drift
from ditto_run.core.units import to_base

FEWEST_LOADS = 3  # under so many loads a cycle teaches no time; common practice, no source
FEWEST_READINGS = (
    5  # of a station between two changes, under which they teach no drift; common practice, no source
)
LEAST_SPAN = 10  # pieces of a station that they reach over, to say what a hundred do; own judgement
NOT_MADE = {"trial", "spare", "lost", "cutting"}  # pieces that say nothing of scrap


def batch_teaches(state: RunState, machines: Mapping[int, str], named: str) -> tuple[Taught, ...]:
    """Return what a batch teaches.

    Args:
        state: the run, closed or not.
        machines: name of each machine, by number.
        named: how the batch is called in the register, as job and batch.

    Returns:
        Pace and handling of each machine with three loads or more whose times are known, as medians over its loads;
        drift of the size that moved most on it, the median of its stations between changes; scrap of the machine of
        the first setup; the speeds of tools that somebody said. Nothing of a cycle whose machine is not said, and no figure that
        cannot be, as the pace of loads that were keyed and not cut.

    Source:
        Own derivation; medians, so that a night or a tea break teaches nothing.
    """
    plan = state.plan
    way = plan.chosen_way.kind if plan.chosen_way is not None else ""
    material = plan.heading.material
    clocked: dict[str, _Clocked] = {}
    for key, run in state.cycles.items():
        name = machines.get(plan.cycle(key).machine_id or 0, "")
        if name:
            clocked.setdefault(name, _Clocked()).take(state, key, run)
    found = []
    for name, one in clocked.items():
        for figure, value, of_material in one.lessons():
            of = material if of_material else ""
            found.append(Taught(figure, value, 1, one.pieces, way, name, of, (named,)))
    made = [piece for piece in state.pieces.values() if piece.standing not in NOT_MADE]
    first = next(iter(clocked), "")
    if made and first:
        bad = sum(piece.standing == "scrap" for piece in made) / len(made) * 100
        found.append(Taught("scrap", round(bad, 1), 1, len(made), way, first, material, (named,)))
    found += _speeds(state, clocked, machines, named)
    return tuple(lesson for lesson in found if lesson.credible)


def _speeds(
    state: RunState, clocked: Mapping[str, "_Clocked"], machines: Mapping[int, str], named: str
) -> Iterator[Taught]:
    """Give the speed of each tool that somebody said, where its machine cut enough loads with it: so it is proven."""
    for part in state.plan.all_parts:
        plan = part.plan
        steps = {f"tool {step.key}": step for step in plan.tool_steps if step.tool}
        for figure in plan.figures:
            step = steps.get(figure.thing)
            if step is None or (figure.question, figure.name) != ("speed", "rpm"):
                continue
            machine = machines.get(plan.setup(step.setup).machine_id or 0, "")
            cut = clocked.get(machine)
            try:
                rpm = read_as("count", figure.text, plan.heading.unit, "rpm")
            except DittoError:  # a file may say anything
                continue
            if cut is not None and len(cut.paces) >= FEWEST_LOADS:
                material = plan.heading.material
                yield Taught("speed", float(rpm), 1, cut.pieces, step.name, machine, material, (named,))


@dataclass(slots=True)
class _Clocked:
    """What the cycles on one machine say."""

    paces: list[float] = field(default_factory=list)
    handlings: list[float] = field(default_factory=list)
    drifts: list[float] = field(default_factory=list)
    pieces: int = 0

    def take(self, state: RunState, key: int, run: CycleRun) -> None:
        """Take in a cycle."""
        self.paces += _paces(state, key, run)
        self.handlings += _handlings(run)
        self.drifts += _drifts(state, run)
        self.pieces += sum(len(load.pieces) for load in run.loads if not load.joined)

    def lessons(self) -> Iterator[tuple[Teaches, float, bool]]:
        """Give each figure there is enough of, and whether it hangs on the material."""
        if len(self.paces) >= FEWEST_LOADS:
            yield "pace", median(self.paces), True
        if len(self.handlings) >= FEWEST_LOADS:
            yield "handling", median(self.handlings), False
        if self.drifts:
            yield "drift", round(max(self.drifts), 5), True


def _paces(state: RunState, key: int, run: CycleRun) -> list[float]:
    """Real over planned time of each load, [-]."""
    found = []
    for load in run.loads:
        if load.joined or load.cycle_s is None or not load.pieces or not state.plan.cycle(key).stations:
            continue
        planned = state.plan.times(key, len(load.pieces)).cycle_s
        if planned > 0:
            found.append(load.cycle_s / planned)
    return found


def _handlings(run: CycleRun) -> list[float]:
    """From the end of a load to the start of the next, a piece, [s]."""
    found = []
    for load, after in zip(run.loads, run.loads[1:], strict=False):
        if (
            load.ended_at is None
            or after.started_at is None
            or load.entered
            or after.entered
            or not after.pieces
        ):
            continue
        seconds = (after.started_at - load.ended_at).total_seconds()
        if seconds >= 0:
            found.append(seconds / len(after.pieces))
    return found


def _drifts(state: RunState, run: CycleRun) -> list[float]:
    """How far each size of a cycle moved in 100 pieces of a station, whichever way: the median over stations and changes, [mm].

    Nothing of a size with fewer readings, or where they reach over fewer pieces than a hundred can be told from; none where no
    line is shown by them, which is a drift of nothing.
    """
    sizes = {c.number: c for c in state.plan.characteristics if c.is_measured_length}
    found: dict[int, list[float]] = {}
    for (station, number), lane in run.lanes.items():
        if number not in sizes:
            continue
        unit = sizes[number].size.unit
        for readings in _between_changes(state, run, station, lane):
            if len(readings) < FEWEST_READINGS or readings[-1][0] - readings[0][0] < LEAST_SPAN:
                continue
            line = drift([(at, float(to_base(value, unit))) for at, value in readings])
            if line is not None:
                found.setdefault(number, []).append(abs(line.slope) * 100 if line.is_shown() else 0.0)
    return [median(slopes) for slopes in found.values()]


def _between_changes(
    state: RunState, run: CycleRun, station: str, lane: Mapping[int, Gauging]
) -> list[list[tuple[int, Decimal]]]:
    """The readings of a size at a station, place in its order and value, in lots between changes that touch it."""
    changes = [change.load for change in run.changes if change.station in {"", station}]
    lots: dict[int, list[tuple[int, Decimal]]] = {}
    for number, gauging in lane.items():
        went = next((way for way in state.pieces[number].made.values() if way.cycle == run.key), None)
        at = run.position.get((station, number))
        if went is None or at is None or gauging.value is None:
            continue
        lots.setdefault(sum(load <= went.load for load in changes), []).append((at, gauging.value))
    return [sorted(lot) for lot in lots.values()]
