"""Which pieces go into the next load: new ones at a first setup, those that wait at a later one."""

from collections.abc import Iterator

from ditto_run.core.plan import FIRST_PART
from ditto_run.core.run.line import Loaded
from ditto_run.core.run.state import RunState


def good(state: RunState) -> int:
    """Return the pieces that went through the last setup of the cycle that is looked at and are good, [pieces]."""
    return max((state.through[setup] for setup in state.here.setups[-1:]), default=0)


def finished(state: RunState) -> int:
    """Return the pieces that went through every setup of their part and are good, [pieces]."""
    return sum(finished_of(state, part.key) for part in state.plan.all_parts)


def finished_of(state: RunState, part: int) -> int:
    """Return the pieces of a part that went through every setup and are good, [pieces]."""
    chain = state.plan.chain_of(part)
    return state.through[chain[-1]] if chain else 0


def good_here(state: RunState) -> int:
    """Return the finished good pieces that are not out for work done elsewhere, nor came back not good, [pieces]."""
    return finished(state) - sum(trip.away + trip.rejects for trip in state.trips)


def held(state: RunState) -> int:
    """Return the pieces that wait for a decision or for rework, [pieces]."""
    return state.counts["held"] + state.counts["rework"]


def waiting(state: RunState, setup: int) -> list[int]:
    """Return the pieces that wait for a setup, oldest first; none for the first setup of a part."""
    return sorted(state.waits.get(setup, ()))


def to_begin(state: RunState, part: int) -> int:
    """Return how many pieces of a part are still to be begun: what is wanted less what is good, held or being cut, [pieces]."""
    counts = state.by_part[part]
    there = ("good", "reworked", "held", "rework", "cutting", "not gauged")
    return max(0, state.plan.quantity_of(part) - sum(counts[standing] for standing in there))


def to_go_in(state: RunState, setup: int) -> int:
    """Return how many pieces could be loaded into a setup now: those to begin in a first one, else those that wait, [pieces]."""
    if state.before.get(setup) is None:
        return to_begin(state, state.parts.get(setup, FIRST_PART))
    return len(waiting(state, setup))


def to_go(state: RunState) -> int:
    """Return how many pieces are still to be loaded in the cycle that is looked at, [pieces]."""
    return sum(to_go_in(state, setup) for setup in state.here.setups)


def still_to_pass(state: RunState, setup: int) -> int:
    """Return how many pieces have still to go through a setup, those that are before it in the same cycle too, [pieces]."""
    found = to_go_in(state, setup)
    before = state.before.get(setup)
    if before is not None and before in state.here.setups:
        found += still_to_pass(state, before)
        found += sum(len(loaded.pieces) for loaded in _cutting(state) if loaded.setup == before)
    return found


def _cutting(state: RunState) -> tuple[Loaded, ...]:
    return state.running.stations if state.running is not None else ()


def loads_to_go(state: RunState) -> float:
    """Return how many loads the cycle that is looked at has still to cut; a short last one is a part of one, [loads]."""
    run, most = state.here, 0.0
    for setup in run.setups:
        room = sum(run.composition.get(label, 0) for label, at in run.setup_at.items() if at == setup)
        most = max(most, still_to_pass(state, setup) / max(room, 1) + loads_behind(state, setup))
    return most


def loads_behind(state: RunState, setup: int) -> int:
    """Return how many loads pass before a setup has its first piece: one where that is still in the same cycle, [loads]."""
    before = state.before.get(setup)
    if (
        before is None
        or before not in state.here.setups
        or waiting(state, setup)
        or not still_to_pass(state, setup)
    ):
        return 0
    return 1


def waiting_elsewhere(state: RunState) -> int | None:
    """Return the first other cycle that pieces wait for, or that could begin those still missing; None if none."""
    for cycle in state.plan.all_cycles:
        if cycle.key == state.cycle:
            continue
        for setup in cycle.setups:
            if state.before.get(setup) is not None:
                if waiting(state, setup):
                    return cycle.key
            elif cycle.stations and _begins_there(state, setup, cycle.key):
                return cycle.key
    return None


def _begins_there(state: RunState, setup: int, cycle: int) -> bool:
    """True where a cycle could begin the pieces of a part that are still missing, and nothing here begins them."""
    part = state.parts.get(setup, FIRST_PART)
    begun = state.cycles.get(cycle) is not None or part not in {p.part for p in state.pieces.values()}
    return begun and setup not in state.here.setups and to_begin(state, part) > 0


class Deal:
    """Deals the pieces of the next loads of a cycle, one after another, without changing the run.

    Args:
        state: the run, looked at from its cycle.
    """

    def __init__(self, state: RunState) -> None:
        run, plan = state.here, state.plan
        self._rooms = run.composition
        self._at = run.setup_at
        self._declared = plan.is_declared(state.cycle)
        self._part = {setup: state.parts.get(setup, FIRST_PART) for setup in run.setups}
        self._begin = {part: to_begin(state, part) for part in dict.fromkeys(self._part.values())}
        self._before = {setup: state.before.get(setup) for setup in run.setups}
        self._waits = {
            setup: waiting(state, setup) for setup, before in self._before.items() if before is not None
        }
        self._number = max(state.pieces, default=state.numbered_after)

    def next_load(self) -> tuple[Loaded, ...]:
        """Return the next load: stations in order, each as full as it may be; empty when nothing is left."""
        found = []
        for label, room in self._rooms.items():
            setup = self._at[label]
            pieces = tuple(self._taken(setup, room))
            if pieces:
                found.append(Loaded(label, pieces, self._part[setup], setup if self._declared else None))
        for loaded in found:  # what is cut now waits for its next setup from the load after this
            for after, before in self._before.items():
                if before is not None and before == self._at[loaded.station]:
                    self._waits[after] += loaded.pieces
        return tuple(found)

    def _taken(self, setup: int, room: int) -> Iterator[int]:
        if setup in self._waits:
            taken, self._waits[setup] = self._waits[setup][:room], self._waits[setup][room:]
            yield from taken
            return
        part = self._part[setup]
        for _ in range(min(room, self._begin[part])):
            self._begin[part] -= 1
            self._number += 1
            yield self._number


def next_load(state: RunState) -> tuple[Loaded, ...]:
    """Return the next load of the cycle that is looked at; empty if nothing is to go or every station is off."""
    return Deal(state).next_load()


def next_number(state: RunState) -> int:
    """Return the number of the next load in this cycle."""
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


def next_cycle(state: RunState) -> int:
    """Return the cycle to go on in: where pieces wait, else the one after this, else the first."""
    cycles = [cycle.key for cycle in state.plan.all_cycles]
    elsewhere = waiting_elsewhere(state)
    if elsewhere is not None:
        return elsewhere
    at = cycles.index(state.cycle) + 1 if state.cycle in cycles else 0
    return cycles[at % len(cycles)]
