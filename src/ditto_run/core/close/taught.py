"""What a batch teaches the shop for its next plans: pace, handling and scrap, by machine, way and material."""

from collections.abc import Mapping
from statistics import median

from ditto_run.core.run.state import CycleRun, RunState
from ditto_run.core.shop.taught import Taught

FEWEST_LOADS = 3  # under so many loads a cycle teaches no time; common practice, no source
NOT_MADE = {"trial", "spare", "lost", "cutting"}  # pieces that say nothing of scrap


def batch_teaches(state: RunState, machines: Mapping[int, str], named: str) -> tuple[Taught, ...]:
    """Return what a batch teaches.

    Args:
        state: the run, closed or not.
        machines: name of each machine, by number.
        named: how the batch is called in the register, as job and batch.

    Returns:
        Pace and handling of each machine with three loads or more whose times are known, as medians over its loads;
        scrap of the machine of the first setup. Nothing of a cycle whose machine is not said, and no figure that
        cannot be, as the pace of loads that were keyed and not cut.

    Source:
        Own derivation; medians, so that a night or a tea break teaches nothing.
    """
    plan = state.plan
    way = next((way.kind for way in plan.ways if plan.choice is not None and way.key == plan.choice.way), "")
    material = plan.heading.material
    paces: dict[str, list[float]] = {}
    handlings: dict[str, list[float]] = {}
    pieces: dict[str, int] = {}
    for key, run in state.cycles.items():
        name = machines.get(plan.cycle(key).machine_id or 0, "")
        if not name:
            continue
        paces.setdefault(name, []).extend(_paces(state, key, run))
        handlings.setdefault(name, []).extend(_handlings(run))
        pieces[name] = pieces.get(name, 0) + sum(len(load.pieces) for load in run.loads if not load.joined)
    found = []
    for name, count in pieces.items():
        if len(paces[name]) >= FEWEST_LOADS:
            found.append(Taught("pace", median(paces[name]), 1, count, way, name, material, (named,)))
        if len(handlings[name]) >= FEWEST_LOADS:
            found.append(Taught("handling", median(handlings[name]), 1, count, way, name, "", (named,)))
    made = [piece for piece in state.pieces.values() if piece.standing not in NOT_MADE]
    first = next(iter(pieces), "")
    if made and first:
        bad = sum(piece.standing == "scrap" for piece in made) / len(made) * 100
        found.append(Taught("scrap", round(bad, 1), 1, len(made), way, first, material, (named,)))
    return tuple(lesson for lesson in found if lesson.credible)


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
