"""Which pieces go into the next load."""

from collections.abc import Iterable
from itertools import islice

from ditto_run.core.run.line import Loaded
from ditto_run.core.run.state import RunState

NOT_COMING = {"scrap", "lost", "trial", "spare", "held", "rework", "cutting"}


def good(state: RunState) -> int:
    """Return the pieces that went through the setup being run and are good, reworked ones among them, [pieces]."""
    return state.through[state.setup]


def finished(state: RunState) -> int:
    """Return the pieces that went through every setup and are good, [pieces]."""
    return state.through[state.plan.setups[-1].key] if state.plan.setups else 0


def held(state: RunState) -> int:
    """Return the pieces that wait for a decision or for rework, [pieces]."""
    return state.counts["held"] + state.counts["rework"]


def waiting(state: RunState) -> list[int]:
    """Return the pieces that wait for the setup being run, oldest first; none in the first setup."""
    position = state.plan.position(state.setup)
    earlier = [s.key for s in state.plan.setups[: max(position - 1, 0)]]
    if not earlier:
        return []
    return [
        number
        for number, piece in state.pieces.items()
        if earlier[-1] in piece.made and state.setup not in piece.made and piece.standing not in NOT_COMING
    ]


def to_go(state: RunState) -> int:
    """Return how many pieces are still to be loaded in this setup.

    In the first setup it is what is wanted less what is good, held or being cut; later it is what waits.
    """
    if state.plan.position(state.setup) > 1:
        return len(waiting(state))
    unsure = held(state) + state.counts["cutting"] + state.counts["not gauged"]
    return max(0, state.plan.heading.quantity - _good_ones(state) - unsure)


def _good_ones(state: RunState) -> int:
    """Return the good pieces, wherever they are in the chain of setups, [pieces]."""
    return state.counts["good"] + state.counts["reworked"]


def waiting_elsewhere(state: RunState) -> int | None:
    """Return the first other setup that pieces wait for, or that could make those still missing; None if none."""
    plan = state.plan
    for before, setup in zip((None, *plan.setups), plan.setups, strict=False):
        if setup.key == state.setup:
            continue
        if before is None:
            missing = plan.heading.quantity - _good_ones(state) - held(state) - state.counts["not gauged"]
            if missing > state.counts["cutting"] and state.setups.get(setup.key) is not None:
                return setup.key
        elif any(
            before.key in piece.made and setup.key not in piece.made and piece.standing not in NOT_COMING
            for piece in state.pieces.values()
        ):
            return setup.key
    return None


def next_load(state: RunState, composition: dict[str, int] | None = None) -> tuple[Loaded, ...]:
    """Return the next load: stations in order, each as full as it may be; the last one may be short.

    Args:
        state: the run.
        composition: pieces by station, if not the run's own.

    Returns:
        Stations with their pieces; empty if nothing is to go or every station is off.
    """
    chosen = composition if composition is not None else state.here.composition
    if state.plan.position(state.setup) > 1:
        numbers: Iterable[int] = waiting(state)
    else:
        first = max(state.pieces, default=0) + 1
        numbers = range(first, first + to_go(state))
    queue = iter(numbers)
    found = []
    for label, room in chosen.items():
        pieces = tuple(islice(queue, room))
        if pieces:
            found.append(Loaded(label, pieces))
    return tuple(found)


def next_number(state: RunState) -> int:
    """Return the number of the next load in this setup."""
    loads = state.here.loads
    return loads[-1].number + 1 if loads else 1


def read_pieces(text: str) -> tuple[int, ...]:
    """Return piece numbers from a list with ranges, such as `11, 14-17`.

    Raises:
        ValueError: if it is no such list.
    """
    found: list[int] = []
    for part in filter(None, text.replace("–", "-").replace(",", " ").split()):
        first, _, last = part.partition("-")
        start, end = int(first), int(last or first)
        if not 0 < start <= end < 10**6 or end - start > 2000:  # noqa: PLR2004 - no batch is that long
            raise ValueError(part)
        found += range(start, end + 1)
    return tuple(dict.fromkeys(found))


def next_setup(state: RunState) -> int:
    """Return the setup to go on in: where pieces wait, else the one after this, else the first."""
    setups = state.plan.setups
    elsewhere = waiting_elsewhere(state)
    return elsewhere if elsewhere is not None else setups[state.plan.position(state.setup) % len(setups)].key
