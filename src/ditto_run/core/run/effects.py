"""What lines do to a state, where several events do the same: pieces put in, gauged, contained, covered, counted.

Each touches only the pieces it is about, so that the thousandth piece costs as much as the first.
"""

from collections.abc import Iterator
from datetime import datetime
from itertools import pairwise

from ditto_run.core.run.state import (
    ChangeKind,
    CycleRun,
    Gauging,
    Load,
    Piece,
    RunChange,
    RunState,
    Standing,
    WentThrough,
)

COUNTED = {"good", "reworked"}
DECIDED = {"as_is", "good", "rework", "spare"}  # a decision that ends a suspicion
NOT_COMING = {"scrap", "lost", "trial", "spare", "held", "rework", "cutting"}  # these wait for no setup


def open_cycle(state: RunState, key: int) -> None:
    """Make a cycle the one that is looked at; stations of the plan that are new in it take their pieces."""
    state.cycle = key
    chains = {part.key: [setup.key for setup in part.plan.setups] for part in state.plan.all_parts}
    state.after = {before: after for chain in chains.values() for before, after in pairwise(chain)}
    state.before = {after: before for before, after in state.after.items()}
    state.parts = {setup: part for part, chain in chains.items() for setup in chain}
    run = state.cycles.setdefault(key, CycleRun(key))
    cycle = state.plan.cycle(key)
    run.composition = {s.label: run.composition.get(s.label, s.pieces) for s in cycle.stations}
    run.places |= {s.label: max(run.places.get(s.label, 1), s.pieces) for s in cycle.stations}
    run.setup_at |= {s.label: s.setup for s in cycle.stations}


def put_in(state: RunState, load: Load) -> None:
    """Put the pieces of a load into their stations."""
    run = state.cycles[load.cycle]
    run.loads.append(load)
    for loaded in load.stations:
        setup = load.setup_of(loaded)
        wanted = {(setup, c.number) for c in state.gauged_in(setup) if c.grade != "free"}
        run.setup_at[loaded.station] = setup
        run.places[loaded.station] = max(run.places.get(loaded.station, 1), len(loaded.pieces))
        for number in loaded.pieces:
            piece = state.pieces.setdefault(number, Piece(number, loaded.part, heat=state.heat))
            if not piece.made:
                state.counts[piece.standing] += 1
                state.by_part[piece.part][piece.standing] += 1
            piece.made[setup] = WentThrough(load.number, loaded.station, load.revision, load.cycle)
            order = run.at_station.setdefault(loaded.station, [])
            run.position[loaded.station, number] = len(order)
            order.append((load.number, number))
            if load.joined:  # made before this log began: nobody asks for its readings
                piece.excused |= wanted
            piece.unproven |= wanted - piece.excused
            stand(state, piece)


def made(state: RunState, load: Load) -> None:
    """Take in that a load is done."""
    run = state.cycles[load.cycle]
    for loaded in load.stations:
        for lane in [lane for lane in run.outs if lane[0] == loaded.station]:
            contain(state, run, lane)
    for number in load.pieces:
        stand(state, state.pieces[number])


def next_load_number(run: CycleRun) -> int:
    """Return the number of the next load of a cycle."""
    return run.loads[-1].number + 1 if run.loads else 1


def note_change(
    state: RunState, seq: int, kind: ChangeKind, words: str, cycle: int, station: str = ""
) -> None:
    """Remember a change before the next load of a cycle; the whole number is typed again after it, except for stations."""
    run = state.cycles.get(cycle, state.here)
    run.changes.append(RunChange(seq, next_load_number(run), kind, words, station))
    if kind != "stations":
        run.full_entry_due |= {c.number for setup in run.setups for c in state.gauged_in(setup)}


def take_gauging(state: RunState, gauging: Gauging) -> None:
    """Take a reading in: what it says of its piece, and of those beside it at the same station."""
    piece = state.pieces[gauging.piece]
    state.gaugings[gauging.seq] = gauging
    piece.gaugings.setdefault((gauging.setup, gauging.characteristic), []).append(gauging)
    if gauging.rough:
        stand(state, piece)
        return
    run = state.run_of(piece, gauging.setup)
    lane = (piece.made[gauging.setup].station, gauging.characteristic)
    run.lanes.setdefault(lane, {})[gauging.piece] = gauging
    if gauging.judged and not gauging.inside:
        run.outs.add(lane)
    mark_out(piece, gauging)
    if gauging.inside:
        run.recent[gauging.characteristic] = gauging
        run.full_entry_due.discard(gauging.characteristic)
    settle(state, run, lane, gauging.piece)


def mark_out(piece: Piece, gauging: Gauging) -> None:
    """Remember whether the reading that counts for a dimension is outside."""
    key = (gauging.setup, gauging.characteristic)
    if gauging.judged and not gauging.inside:
        piece.out_keys.add(key)
    else:
        piece.out_keys.discard(key)


def settle(state: RunState, run: CycleRun, lane: tuple[str, int], number: int) -> None:
    """Work out again what a changed reading of a piece means for its lane."""
    if lane in run.outs:
        contain(state, run, lane)
    for found in {number, *cover(state, run, lane, number)}:
        stand(state, state.pieces[found])


def cover(state: RunState, run: CycleRun, lane: tuple[str, int], number: int) -> list[int]:
    """Work out again which pieces a gauged one proves: itself, and those up to the next check on each side.

    A piece is proven in a dimension if it was gauged inside, or lies between two pieces of its station that were, no
    more than the stated sampling apart.

    Returns:
        The pieces around it whose standing may have changed.

    Source:
        Common practice, no source: first, last and every k-th piece stand for those between.
    """
    station, dimension = lane
    known, order = run.lanes[lane], run.at_station[station]
    if not known[number].judged:
        return []
    key = (known[number].setup, dimension)
    at, reach = run.position[station, number], state.sampling(dimension) * max(run.places.get(station, 1), 1)
    _prove(state.pieces[number], key, proven=known[number].inside)
    changed = []
    for step, end in ((-1, max(at - reach, 0) - 1), (1, min(at + reach, len(order) - 1) + 1)):
        beside: list[int] = []
        for position in range(at + step, end, step):
            other = order[position][1]
            if other in known:
                proven = known[number].inside and known[other].inside
                for between in beside:
                    _prove(state.pieces[between], key, proven=proven)
                changed += beside
                break
            beside.append(other)
    return changed


def _prove(piece: Piece, key: tuple[int, int], *, proven: bool) -> None:
    if proven or key in piece.excused:
        piece.unproven -= {key}
    else:
        piece.unproven |= {key}


def contain(state: RunState, run: CycleRun, lane: tuple[str, int]) -> None:
    """Find the suspects of one lane: pieces not gauged between an outside piece and the good ones around it."""
    station, dimension = lane
    known = run.lanes.get(lane, {})
    order = [number for _, number in run.at_station.get(station, ())]
    outs = [i for i, number in enumerate(order) if _is_out(known.get(number))]
    suspects = {order[position] for index in outs for position in _around(index, order, known)}
    if not outs:
        run.outs.discard(lane)
    for number in order:
        piece = state.pieces[number]
        marked = piece.suspect | {dimension} if number in suspects else piece.suspect - {dimension}
        if marked != piece.suspect:
            piece.suspect = marked
            stand(state, piece)


def _is_out(gauging: Gauging | None) -> bool:
    return gauging is not None and gauging.judged and not gauging.inside


def _around(index: int, order: list[int], known: dict[int, Gauging]) -> Iterator[int]:
    """Give the positions beside one, both ways, until a gauged piece."""
    for step in (-1, 1):
        position = index + step
        while 0 <= position < len(order) and order[position] not in known:
            yield position
            position += step


def stand(state: RunState, piece: Piece) -> None:
    """Say how a piece stands now, and keep the counts right."""
    piece.touched = state.seq
    state.last_touched.append(piece.number)
    standing = standing_of(state, piece)
    if standing != piece.standing:
        mine = state.by_part[piece.part]
        for counts in (state.counts, mine):
            counts[piece.standing] -= 1
            counts[standing] += 1
        piece.standing = standing
    queue(state, piece)
    counted = frozenset(piece.made) if standing in COUNTED else frozenset()
    for setup in counted - piece.counted_in:
        state.through[setup] += 1
    for setup in piece.counted_in - counted:
        state.through[setup] -= 1
    piece.counted_in = counted


def queue(state: RunState, piece: Piece) -> None:
    """Put a piece among those that wait for their next setup, or take it from there."""
    after = state.after.get(next(reversed(piece.made))) if piece.made else None
    waits = after if after not in piece.made and piece.standing not in NOT_COMING else None
    if waits == piece.waits_for:
        return
    if piece.waits_for is not None:
        state.waits[piece.waits_for].discard(piece.number)
    if waits is not None:
        state.waits[waits].add(piece.number)
    piece.waits_for = waits


def standing_of(state: RunState, piece: Piece) -> Standing:
    """Return how a piece stands: what was decided, else what its readings and those around it say."""
    outcome = piece.outcome
    if not (outcome or piece.out_keys or piece.suspect or piece.hold_reason):  # nobody said a word against it
        return "cutting" if still_cutting(state, piece) else _counted(state, piece)
    if outcome in {"scrap", "lost", "trial"}:
        return outcome  # type: ignore[return-value]
    out_since = any(gauging.seq > piece.decided_at for gauging in piece.out)
    settled = outcome in {"as_is", "spare", "rework"} and not out_since
    suspect = piece.suspect and outcome not in DECIDED
    if piece.hold_reason or (piece.out and not settled) or suspect:
        return "held"
    if outcome == "rework":
        again = any(found[-1].seq > piece.decided_at for found in piece.gaugings.values())
        return "rework" if piece.out or not again else "reworked"
    if still_cutting(state, piece):
        return "cutting"
    return "spare" if outcome == "spare" else _counted(state, piece)


def _counted(state: RunState, piece: Piece) -> Standing:
    """Return how a made piece counts that nothing speaks against: good once it is gauged or covered."""
    bare = any(piece.last(*key) is None for key in piece.unproven)
    if bare and piece.outcome != "taken" and not state.grandfathered:
        return "not gauged"
    return "reworked" if piece.was_reworked and piece.outcome != "as_is" else "good"


def still_cutting(state: RunState, piece: Piece) -> bool:
    """Return True while the load a piece is in runs."""
    last = next(reversed(piece.made.values()), None)
    if last is None:
        return False
    load = state.cycles[last.cycle].running
    return load is not None and load.number == last.load


def seconds_between(start: datetime, end: datetime) -> float | None:
    """Return the time between two moments; None where a clock was set back between them, [s]."""
    seconds = (end - start).total_seconds()
    return seconds if seconds >= 0 else None
