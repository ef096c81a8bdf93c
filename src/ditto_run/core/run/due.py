"""Which pieces are to be gauged now, and in which sizes: first, last, every so many loads, and after any change."""

from collections.abc import Iterable

from ditto_run.core.part import Characteristic
from ditto_run.core.run.loads import to_go_in
from ditto_run.core.run.state import Load, Piece, RunState

GONE = {"scrap", "lost", "trial"}
NOT_ASKED = {*GONE, "rework", "cutting"}


def due_pieces(state: RunState) -> list[int]:
    """Return the pieces to be gauged now, in the order they came off.

    The newest load that is due for gauging decides: the first, every k-th, and the first after any change. Before
    the master is accepted only the first piece is asked for, so that it is judged before the others matter. When
    nothing is left to cut, the last piece of each station is asked for, then whatever no check covers.
    """
    if state.closed_at is not None:
        return []
    run = state.here
    reach = max((state.sampling(c.number) for c in _judged(state)), default=1)
    for load in reversed(run.loads[-max(2, reach) - 2 :]):
        if load.ended_at is None or load.entered or not _is_gauged(state, load):
            continue
        missing = [n for n in load.pieces if due_sizes(state, state.pieces[n])]
        if len(run.masters) < len(run.setups):
            first = _first_ones(state, load)
            missing = [n for n in missing if state.setup_of(state.pieces[n]) in run.masters or n in first]
        if missing or not is_final(state):
            return missing
        break
    return _uncovered(state) if is_final(state) else []


def _first_ones(state: RunState, load: Load) -> set[int]:
    """Return the first usable piece of each setup in a load: it is judged before the others matter."""
    found: dict[int, int] = {}
    for loaded in load.stations:
        for number in loaded.pieces:
            if state.pieces[number].standing not in GONE:
                found.setdefault(load.setup_of(loaded), number)
    return set(found.values())


def due_sizes(state: RunState, piece: Piece) -> list[Characteristic]:
    """Return the sizes in which a piece is to be gauged now, in the cycle looked at; none where it is not asked for."""
    if piece.standing in NOT_ASKED or piece.hold_reason or not (here := state.setups_here(piece)):
        return []
    if piece.outcome == "taken":  # it was said that nobody gauges it
        return []
    load, station, _, _ = piece.made[here[0]]
    every_size = _after_change(state, load, station) or state.here.position[station, piece.number] == 0
    final = is_final(state)
    return [
        c
        for c in state.missing(piece)
        if every_size
        or is_regular(state, c, load)
        or (final and any((setup, c.number) in piece.unproven for setup in here))
    ]


def is_final(state: RunState) -> bool:
    """Return True if nothing is cutting and nothing is left to cut in this setup."""
    return (
        state.running is None
        and bool(state.here.loads)
        and not any(to_go_in(state, s) for s in state.here.setups)
    )


def _judged(state: RunState) -> Iterable[Characteristic]:
    return (c for c in state.gauged_here() if c.grade != "free")


def is_regular(state: RunState, characteristic: Characteristic, load: int) -> bool:
    """Return True if the plan's plain rule asks for a size in a load of the cycle looked at, whatever else happened."""
    loads = state.here.loads
    first = loads[0].number if loads else 1
    return (load - 1) % state.sampling(characteristic.number) == 0 or load == first


def _is_gauged(state: RunState, load: Load) -> bool:
    """Return True if something of a load is to be gauged, whether it was or not."""
    return any(is_regular(state, c, load.number) for c in _judged(state)) or any(
        _after_change(state, load.number, loaded.station) or _is_first(state, loaded.pieces)
        for loaded in load.stations
    )


def _is_first(state: RunState, pieces: tuple[int, ...]) -> bool:
    return bool(pieces) and any(
        state.here.position.get((made.station, pieces[0])) == 0
        for made in state.pieces[pieces[0]].made.values()
        if made.cycle == state.cycle
    )


def _after_change(state: RunState, load: int, station: str) -> bool:
    """Return True if something that concerns a station was changed just before a load."""
    for change in reversed(state.here.changes):
        if change.load < load:
            return False
        if change.load == load and change.kind != "stations" and change.station in {"", station}:
            return True
    return False


def _uncovered(state: RunState) -> list[int]:
    """Return the pieces no check covers in this setup: the last one of each station first."""
    run = state.here
    bare = [
        number
        for number in dict.fromkeys(number for _, number in run.position)
        if state.pieces[number].standing == "not gauged" and due_sizes(state, state.pieces[number])
    ]
    last = {order[-1][1] for order in run.at_station.values() if order}
    return sorted(bare, key=lambda number: (number not in last, number))
