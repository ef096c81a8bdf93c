"""Folds the log into the state of the run. Folding the same lines again changes nothing.

The fold is extended by new lines only, and each line touches only the pieces it is about, so that the
thousandth piece costs as much as the first. An undo folds the whole log again, without what it undoes.
"""

from collections.abc import Iterable, Mapping, Sequence
from functools import singledispatch

from ditto_run.core.plan import Plan
from ditto_run.core.run import events as ev
from ditto_run.core.run.state import Gauging, Load, Piece, RunState, SetupRun, Standing, in_drawing_unit
from ditto_run.core.run.verdict import judge

KEPT_EVENTS = 60  # last lines kept in the state for undo and the log on the page


def fold(log: Iterable[ev.Event], plans: Mapping[int, Plan]) -> RunState:
    """Return the state that a log adds up to, whatever order its lines come in and however often.

    Args:
        log: lines of one run; repeated lines count once.
        plans: frozen plans by revision.

    Returns:
        A new state.
    """
    lines = sorted({event.seq: event for event in log}.values(), key=lambda event: event.seq)
    undone = _undone(lines)
    state = RunState(plans)
    for event in lines:
        _fold_line(state, event, counts=event.seq not in undone)
    return state


def extend(state: RunState, new: Sequence[ev.Event], whole_log: Iterable[ev.Event] | None = None) -> RunState:
    """Return the state after further lines; the given state is used up.

    Args:
        state: state so far.
        new: lines after it, oldest first; known ones are passed over.
        whole_log: all lines with the new ones; wanted only if one of the new lines is an undo.
    """
    fresh = [event for event in new if event.seq > state.seq]
    if any(isinstance(event.body, ev.Undone) for event in fresh):
        return fold(whole_log or (), state.plans)
    for event in fresh:
        _fold_line(state, event, counts=True)
    return state


def _undone(lines: Sequence[ev.Event]) -> set[int]:
    """Return the lines that no longer count. An undo is itself never undone."""
    return {event.body.undoes for event in lines if isinstance(event.body, ev.Undone)}


def _fold_line(state: RunState, event: ev.Event, *, counts: bool) -> None:
    if event.client_key and event.client_key in state.client_keys:
        return
    state.seq = max(state.seq, event.seq)
    state.last_at = event.at
    if event.client_key:
        state.client_keys[event.client_key] = event.seq
    if not counts or isinstance(event.body, ev.Undone):
        return
    state.recent_events.append(event)
    del state.recent_events[:-KEPT_EVENTS]
    apply(event.body, state, event)


@singledispatch
def apply(body: ev.Body, _state: RunState, _event: ev.Event) -> None:
    """Change the state by one line of the log."""
    raise TypeError(body)


@apply.register
def _run_started(body: ev.RunStarted, state: RunState, event: ev.Event) -> None:
    state.revision, state.started_at = body.revision, event.at
    _open(state, body.setup)


@apply.register
def _plan_revised(body: ev.PlanRevised, state: RunState, event: ev.Event) -> None:
    state.revision = body.revision
    _open(state, state.setup)
    _change(state, event, body)


@apply.register
def _setup_opened(body: ev.SetupOpened, state: RunState, _event: ev.Event) -> None:
    state.identity = body.identity
    if body.identity == "lost":
        state.identity_lost_before = body.setup
    _open(state, body.setup)
    state.last_load_ended = None
    for piece in state.pieces.values():
        _stand(state, piece)


def _open(state: RunState, setup: int) -> None:
    """Make a setup the one being run; stations of the plan that are new in it take their pieces."""
    state.setup = setup
    run = state.setups.setdefault(setup, SetupRun(setup))
    stations = state.plan.stations_of(setup)
    run.composition = {s.label: run.composition.get(s.label, s.pieces) for s in stations}
    run.places |= {s.label: max(run.places.get(s.label, 1), s.pieces) for s in stations}


@apply.register
def _cycle_started(body: ev.CycleStarted, state: RunState, event: ev.Event) -> None:
    load = Load(body.setup, body.load, body.revision, body.stations, started_at=event.at, seq=event.seq)
    run = state.setups[body.setup]
    previous = run.loads[-1] if run.loads else None
    if previous is not None and previous.started_at is not None and not previous.entered:
        run.gaps_s.append((event.at - previous.started_at).total_seconds())
    _load_pieces(state, load)
    state.running = load


@apply.register
def _cycle_ended(_body: ev.CycleEnded, state: RunState, event: ev.Event) -> None:
    load = state.running
    if load is None:
        return
    load.ended_at = event.at
    state.running, state.last_load_ended = None, event.at
    _made(state, load)


@apply.register
def _loads_entered(body: ev.LoadsEntered, state: RunState, event: ev.Event) -> None:
    for offset, stations in enumerate(body.loads):
        load = Load(
            body.setup, body.first_load + offset, body.revision, stations, None, event.at, entered=True,
            joined=body.joined, seq=event.seq,
        )  # fmt: skip
        _load_pieces(state, load)
        _made(state, load)
    state.last_load_ended = event.at
    if body.since is not None and body.loads:
        each = (event.at - body.since).total_seconds() / len(body.loads)
        state.setups[body.setup].gaps_s += [each] * len(body.loads)


def _load_pieces(state: RunState, load: Load) -> None:
    run = state.setups[load.setup]
    run.loads.append(load)
    for loaded in load.stations:
        run.places[loaded.station] = max(run.places.get(loaded.station, 1), len(loaded.pieces))
        for number in loaded.pieces:
            piece = state.pieces.setdefault(number, Piece(number))
            if not piece.made:
                state.counts[piece.standing] += 1
            piece.made[load.setup] = (load.number, loaded.station, load.revision)
            run.at_station.setdefault(loaded.station, []).append((load.number, number))
            _stand(state, piece)


def _made(state: RunState, load: Load) -> None:
    run = state.setups[load.setup]
    for loaded in load.stations:
        for lane in [lane for lane in run.outs if lane[0] == loaded.station]:
            _contain(state, run, lane)
    for number in load.pieces:
        _stand(state, state.pieces[number])


@apply.register
def _composition(body: ev.Composition, state: RunState, event: ev.Event) -> None:
    state.setups[body.setup].composition = dict(body.stations)
    state.setups[body.setup].changes.append((event.seq, _next_load(state, body.setup), body))


@apply.register
def _reading(body: ev.Reading, state: RunState, event: ev.Event) -> None:
    _gauged(state, event, body.piece, body.characteristic, body.setup, body)


@apply.register
def _correction(body: ev.Correction, state: RunState, event: ev.Event) -> None:
    wrong = state.gaugings.get(body.corrects)
    if wrong is None:
        return
    history = state.pieces[wrong.piece].gaugings[(wrong.setup, wrong.characteristic)]
    if wrong in history:
        history.remove(wrong)
    gauging = _gauged(state, event, wrong.piece, wrong.characteristic, wrong.setup, body)
    gauging.corrected = [*wrong.corrected, wrong.seq]
    state.gaugings[wrong.seq] = gauging


def _gauged(
    state: RunState,
    event: ev.Event,
    number: int,
    dimension: int,
    setup: int,
    body: ev.Reading | ev.Correction,
) -> Gauging:
    piece = state.pieces[number]
    plan = state.plan_of(piece, setup)
    characteristic = plan.characteristic(dimension)
    if body.value is None:
        value, inside = None, bool(body.go)
    else:
        value = in_drawing_unit(body.value, body.unit, characteristic)
        inside = judge(body.value, body.unit, characteristic.size).side == "inside"
    gauging = Gauging(
        event.seq, event.at, event.who, number, dimension, setup, value, inside, body.text, body.decimals, body.go,
        judged=characteristic.grade != "free",
    )  # fmt: skip
    state.gaugings[event.seq] = gauging
    piece.gaugings.setdefault((setup, dimension), []).append(gauging)
    run = state.setups[setup]
    _load_number, station, _ = piece.made[setup]
    lane = (station, dimension)
    run.lanes.setdefault(lane, {})[number] = gauging
    if gauging.judged and not inside:
        run.outs.add(lane)
    if inside:
        run.recent[dimension] = gauging
        run.full_entry_due.discard(dimension)
    if lane in run.outs:
        _contain(state, run, lane)
    _stand(state, piece)
    return gauging


def _contain(state: RunState, run: SetupRun, lane: tuple[str, int]) -> None:
    """Find the suspects of one lane: pieces not gauged between an outside piece and the good ones around it."""
    station, dimension = lane
    known = run.lanes.get(lane, {})
    order = [number for _, number in run.at_station.get(station, ())]
    suspects: set[int] = set()
    outs = [
        i
        for i, number in enumerate(order)
        if number in known and known[number].judged and not known[number].inside
    ]
    for index in outs:
        for step in (-1, 1):
            position = index + step
            while 0 <= position < len(order) and order[position] not in known:
                suspects.add(order[position])
                position += step
    if not outs:
        run.outs.discard(lane)
    for number in order:
        piece = state.pieces[number]
        marked = piece.suspect | {dimension} if number in suspects else piece.suspect - {dimension}
        if marked != piece.suspect:
            piece.suspect = marked
            _stand(state, piece)


@apply.register
def _master_accepted(body: ev.MasterAccepted, state: RunState, event: ev.Event) -> None:
    state.setups[body.setup].master = body.piece
    state.setups[body.setup].proven_at = event.at


def _next_load(state: RunState, setup: int) -> int:
    loads = state.setups[setup].loads
    return loads[-1].number + 1 if loads else 1


def _change(
    state: RunState, event: ev.Event, body: ev.Adjustment | ev.SettingChanged | ev.Break | ev.PlanRevised
) -> None:
    run = state.here
    run.changes.append((event.seq, _next_load(state, run.key), body))
    run.full_entry_due |= {c.number for c in state.gauged_here()}


@apply.register
def _adjustment(body: ev.Adjustment, state: RunState, event: ev.Event) -> None:
    _change(state, event, body)


@apply.register
def _setting_changed(body: ev.SettingChanged, state: RunState, event: ev.Event) -> None:
    _change(state, event, body)


@apply.register
def _break(body: ev.Break, state: RunState, event: ev.Event) -> None:
    _change(state, event, body)


@apply.register
def _hold(body: ev.Hold, state: RunState, event: ev.Event) -> None:
    for number in body.pieces:
        piece = state.pieces[number]
        piece.hold_reason, piece.outcome, piece.decided_at = body.reason, "", event.seq
        _stand(state, piece)


@apply.register
def _disposition(body: ev.Disposition, state: RunState, event: ev.Event) -> None:
    piece = state.pieces[body.piece]
    piece.outcome, piece.reason, piece.decided_at, piece.hold_reason = (
        body.outcome,
        body.reason,
        event.seq,
        "",
    )
    piece.was_reworked = piece.was_reworked or body.outcome == "rework"
    _stand(state, piece)


@apply.register
def _note(body: ev.Note, state: RunState, event: ev.Event) -> None:
    state.notes.append((event.at, event.who, body.text, body.piece))
    if body.piece is not None:
        state.pieces[body.piece].notes.append(body.text)


@apply.register
def _run_closed(_body: ev.RunClosed, state: RunState, event: ev.Event) -> None:
    state.closed_at = event.at


def _stand(state: RunState, piece: Piece) -> None:
    """Say how a piece stands now, and keep the counts right."""
    piece.touched = state.seq
    state.last_touched.append(piece.number)
    standing = _standing(state, piece)
    if standing != piece.standing:
        state.counts[piece.standing] -= 1
        state.counts[standing] += 1
        piece.standing = standing


def _standing(state: RunState, piece: Piece) -> Standing:
    outcome = piece.outcome
    if outcome in {"scrap", "lost", "trial"}:
        return outcome  # type: ignore[return-value]
    accepted_as_is = outcome == "as_is" and not any(g.seq > piece.decided_at for g in piece.out)
    undecided = piece.out and not accepted_as_is and outcome != "rework"
    suspect = piece.suspect and outcome not in {"as_is", "good", "rework", "spare"}
    if piece.hold_reason or undecided or suspect:
        return "held"
    if outcome == "rework":
        again = any(found[-1].seq > piece.decided_at for found in piece.gaugings.values())
        return "rework" if piece.out or not again else "reworked"
    if outcome == "spare":
        return "spare"
    good: Standing = "reworked" if piece.was_reworked else "good"
    return "cutting" if _still_cutting(state, piece) else good


def _still_cutting(state: RunState, piece: Piece) -> bool:
    made = piece.made.get(state.setup)
    if made is None:
        return False
    load = state.setups[state.setup].loads[-1]
    return load.number == made[0] and load.ended_at is None
