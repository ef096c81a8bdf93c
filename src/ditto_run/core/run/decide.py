"""Turns what a person wants into the line of the log that records it, or says why not.

The refusals that never yield are here: a second load before the first piece is proven, and a piece
out of limits counted good without a reason.
"""

from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import singledispatch

from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.plan import Plan
from ditto_run.core.run import commands as do
from ditto_run.core.run import events as ev
from ditto_run.core.run.loads import good, next_load, next_number, read_pieces
from ditto_run.core.run.require import LONGEST_TEXT, require_piece, require_reason, require_text
from ditto_run.core.run.state import Gauging, RunState
from ditto_run.core.sizes import read_value
from ditto_run.core.units import value_text

MOST_LATE_LOADS = 400
NEEDS_REASON = {"as_is", "rework", "scrap", "lost"}
LASTING = (ev.RunStarted, ev.PlanRevised, ev.RunClosed)


@dataclass(frozen=True, slots=True)
class Now:
    """The moment of a decision.

    Args:
        at: when, with the shop's time zone.
        who: initials.
        draft: the plan as it stands on the planning pages.
        draft_revision: the number the draft would get.
    """

    at: datetime
    who: str
    draft: Plan | None = None
    draft_revision: int = 0


@singledispatch
def decide(command: do.Command, _state: RunState, _now: Now) -> ev.Body:
    """Return the line of the log that records what a person did.

    Args:
        command: what they want; its type says which.
        _state: the run so far.
        _now: when and who.

    Raises:
        BadEntry: if an entry cannot be used; `field` names it.
        NeedsAnswer: if it is doubtful and was not said twice.
        NotFound: if a piece, dimension or station is not there.
        NotNow: if it is not possible at this moment.
    """
    raise TypeError(command)


def require_open(state: RunState) -> None:
    """Raise NotNow if the batch is closed."""
    if state.closed_at is not None:
        raise NotNow("This batch is closed.", "Copy the job to run the part again.")


@decide.register
def _start(_command: do.StartCycle, state: RunState, _now: Now) -> ev.Body:
    if state.running is not None:
        raise NotNow(f"Load {state.running.number} is cutting.", "End it first.")
    proven(state)
    stations = next_load(state)
    if not stations:
        if not any(state.here.composition.values()):
            raise NotNow("Every station is switched off.", "Switch one on under Stations.")
        if state.plan.position(state.setup) > 1:
            raise NotNow("No piece waits for this setup.", "Run the setup before it first.")
        raise NotNow("All pieces are made.", "Decide on the held ones, then close the batch.")
    return ev.CycleStarted(state.setup, next_number(state), state.revision, stations)


def proven(state: RunState) -> None:
    """Raise NotNow if a load was cut in this setup and its first piece is not accepted yet."""
    run = state.here
    if run.master is not None:
        return
    tried = [number for load in run.loads if not load.entered for number in load.pieces]
    candidates = [n for n in tried if state.pieces[n].standing not in {"scrap", "lost", "trial"}]
    if candidates:
        raise NotNow(
            f"Piece {candidates[0]} is not accepted as the first piece of this setup.",
            "Gauge every critical dimension on it, then accept it, or scrap it and cut another.",
        )


@decide.register
def _end(_command: do.EndCycle, state: RunState, _now: Now) -> ev.Body:
    if state.running is None:
        raise NotNow("No load is cutting.", "Start the next load first.")
    return ev.CycleEnded(state.running.setup, state.running.number)


@decide.register
def _accept(command: do.AcceptMaster, state: RunState, _now: Now) -> ev.Body:
    piece = require_piece(state, command.piece)
    if state.here.master is not None:
        raise NotNow(f"Piece {state.here.master} is the master already.", "Undo that first.")
    if state.setup not in piece.made:
        raise NotNow(
            f"Piece {piece.number} has not been through this setup.", "Choose one of the first load."
        )
    critical = [c for c in state.missing(piece) if c.grade == "critical"]
    if critical:
        names = " and ".join(c.name for c in critical)
        raise NotNow(
            f"{names} is not gauged on piece {piece.number}.", "Gauge every critical dimension first."
        )
    if piece.standing in {"held", "rework", "scrap", "lost", "trial"}:
        raise NotNow(
            f"Piece {piece.number} is {piece.standing}.", "A master is a good piece. Decide on it first."
        )
    return ev.MasterAccepted(state.setup, piece.number)


@decide.register
def _adjust(command: do.Adjust, state: RunState, _now: Now) -> ev.Body:
    what = require_text(command.what, "what", "what was moved, such as T03 diameter wear")
    try:
        amount, _, unit = read_value(command.amount, command.unit)
    except BadEntry:
        raise BadEntry(
            f"“{command.amount[:30]}” is not an amount.", "Type what you added, such as −0.0008.", "amount"
        ) from None
    if not amount or unit == "arcsec":
        raise BadEntry("The amount is nothing.", "Type what you added, such as −0.0008.", "amount")
    if command.station and command.station not in state.here.composition:
        raise BadEntry(
            f"There is no station {command.station[:10]}.", "Choose one of the stations, or all.", "station"
        )
    return ev.Adjustment(state.setup, what, amount, unit, command.station)


@decide.register
def _setting(command: do.ChangeSetting, state: RunState, _now: Now) -> ev.Body:
    what = require_text(command.what, "what", "what was changed, such as T03 feed")
    return ev.SettingChanged(state.setup, what, command.before.strip()[:80], command.after.strip()[:80])


@decide.register
def _break(command: do.MarkBreak, state: RunState, _now: Now) -> ev.Body:
    return ev.Break(state.setup, require_text(command.what, "what", "what is new, such as bar 2"))


@decide.register
def _hold(command: do.HoldPieces, state: RunState, _now: Now) -> ev.Body:
    try:
        numbers = read_pieces(command.pieces)
    except ValueError:
        numbers = ()
    if not numbers:
        raise BadEntry(
            f"“{command.pieces[:40]}” names no pieces.",
            "Type numbers and ranges, such as 11, 14-17.",
            "pieces",
        )
    for number in numbers:
        require_piece(state, number, "pieces")
    return ev.Hold(numbers, require_reason(command.reason))


@decide.register
def _dispose(command: do.Dispose, state: RunState, _now: Now) -> ev.Body:
    piece = require_piece(state, command.piece)
    reason = command.reason.strip()
    if piece.standing == "cutting":
        raise NotNow(f"Piece {piece.number} is being cut.", "End the load first.")
    if piece.standing == "reworked" and command.outcome == "good":
        raise NotNow(f"Piece {piece.number} is reworked and good already.", "Nothing is left to decide.")
    if command.outcome == "good" and piece.out:
        names = _outside_words(state, piece.out)
        raise NotNow(
            f"Piece {piece.number} is out of limits: {names}.",
            "Accept it as it is, with the reason, or correct the reading.",
        )
    if command.outcome in NEEDS_REASON or (command.outcome == "spare" and piece.out):
        require_reason(reason)
    if command.outcome == "as_is" and not piece.out and piece.standing != "held":
        raise NotNow(f"Piece {piece.number} is inside its limits.", "It counts as good without a reason.")
    return ev.Disposition(piece.number, command.outcome, reason[:LONGEST_TEXT])


def _outside_words(state: RunState, out: list[Gauging]) -> str:
    words = []
    for gauging in out:
        characteristic = state.plan.characteristic(gauging.characteristic)
        shown = (
            gauging.text
            if gauging.value is None
            else value_text(
                gauging.value, characteristic.size.unit, max(gauging.decimals, characteristic.size.decimals)
            )
        )
        words.append(f"{characteristic.name} {shown}")
    return ", ".join(words)


@decide.register
def _note(command: do.AddNote, state: RunState, _now: Now) -> ev.Body:
    if command.piece is not None:
        require_piece(state, command.piece)
    return ev.Note(require_text(command.text, "text", "one sentence"), command.piece)


@decide.register
def _composition(command: do.SetComposition, state: RunState, _now: Now) -> ev.Body:
    if state.running is not None:
        raise NotNow(f"Load {state.running.number} is cutting.", "Change the stations after it.")
    rooms = {station.label: station.pieces for station in state.plan.stations_of(state.setup)}
    unknown = set(command.stations) - set(rooms)
    if unknown:
        raise BadEntry(
            f"There is no station {min(unknown)[:10]}.",
            "Choose among the stations of this setup.",
            "stations",
        )
    wanted = {label: command.stations.get(label, state.here.composition.get(label, 0)) for label in rooms}
    for label, pieces in wanted.items():
        if not 0 <= pieces <= rooms[label]:
            raise BadEntry(
                f"Station {label} takes up to {rooms[label]}, not {pieces}.",
                "Type fewer, 0 to switch it off.",
                "stations",
            )
    return ev.Composition(state.setup, tuple(wanted.items()))


@decide.register
def _enter_loads(command: do.EnterLoads, state: RunState, now: Now) -> ev.Body:
    if state.running is not None:
        raise NotNow(f"Load {state.running.number} is cutting.", "End it, then write the others down.")
    if not 1 <= command.loads <= MOST_LATE_LOADS:
        raise BadEntry(f"{command.loads} loads cannot be written down at once.", "Type 1 to 400.", "loads")
    if command.joined and state.here.loads:
        raise NotNow("This setup has loads already.", "Joining is for work done before the first one here.")
    if not command.joined:
        proven(state)
    since = _clock_time(command.since, now.at)
    loads: list[tuple[ev.Loaded, ...]] = []
    pretend = _Counter(state)
    for _ in range(command.loads):
        stations = pretend.next_load()
        if not stations:
            raise BadEntry(
                f"{command.loads} loads are more than are left; {len(loads)} make up the batch.",
                "Type fewer loads.", "loads",
            )  # fmt: skip
        loads.append(stations)
    return ev.LoadsEntered(
        state.setup, next_number(state), state.revision, tuple(loads), since, command.joined
    )


class _Counter:
    """Deals the pieces of several loads at once, without changing the run."""

    def __init__(self, state: RunState) -> None:
        whole = next_load(state, {"": len(state.pieces) + state.plan.heading.quantity})
        self._queue = [number for loaded in whole for number in loaded.pieces]
        self._rooms = state.here.composition

    def next_load(self) -> tuple[ev.Loaded, ...]:
        """Return the next load, empty when nothing is left."""
        found = []
        for label, room in self._rooms.items():
            taken, self._queue = self._queue[:room], self._queue[room:]
            if taken:
                found.append(ev.Loaded(label, tuple(taken)))
        return tuple(found)


def _clock_time(text: str, now: datetime) -> datetime | None:
    typed = text.strip()
    if not typed:
        return None
    try:
        clock = datetime.strptime(typed, "%H:%M").replace(tzinfo=now.tzinfo)
    except ValueError:
        raise BadEntry(f"“{typed[:20]}” is not a clock time.", "Type it as 13:30.", "since") from None
    found = now.replace(hour=clock.hour, minute=clock.minute, second=0, microsecond=0)
    return found if found <= now else found - timedelta(days=1)


@decide.register
def _open_setup(command: do.OpenSetup, state: RunState, _now: Now) -> ev.Body:
    if state.running is not None:
        raise NotNow(f"Load {state.running.number} is cutting.", "End it first.")
    state.plan.setup(command.setup)
    if command.setup == state.setup:
        raise NotNow("This setup is being run already.", "Choose another one.")
    return ev.SetupOpened(command.setup, command.identity)


@decide.register
def _revision(command: do.TakeRevision, state: RunState, now: Now) -> ev.Body:
    if now.draft is None or now.draft == state.plan:
        raise NotNow("The plan is the one being run.", "Change it on its own page first.")
    if state.running is not None:
        raise NotNow(f"Load {state.running.number} is cutting.", "End it, then take the new plan.")
    if not now.draft.position(state.setup):
        raise NotNow("The changed plan has no such setup any more.", "Undo that change on Hold.")
    lost = [n for n in _gauged_numbers(state) if all(c.number != n for c in now.draft.characteristics)]
    if lost:
        raise NotNow(
            "The changed plan lacks a dimension that was gauged.",
            "Undo that change on Part, or make it free.",
        )
    return ev.PlanRevised(now.draft_revision, require_reason(command.reason))


def _gauged_numbers(state: RunState) -> set[int]:
    return {gauging.characteristic for gauging in state.gaugings.values()}


@decide.register
def _undo(_command: do.Undo, state: RunState, now: Now) -> ev.Body:
    mine = [event for event in state.recent_events if event.who == now.who]
    if not mine or isinstance(mine[-1].body, LASTING):
        raise NotNow(
            f"{now.who} has nothing left to undo here.", "Undo on the planning pages is beside each list."
        )
    last = mine[-1]
    later = [
        event for event in state.recent_events if event.seq > last.seq and _leans_on(event.body, last.body)
    ]
    if later:
        raise NotNow(
            f"{later[0].who} has recorded something that leans on it.", "Let them undo theirs first."
        )
    return ev.Undone(last.seq)


def _leans_on(later: ev.Body, earlier: ev.Body) -> bool:
    """Return True if a later line makes no sense without an earlier one."""
    if isinstance(
        earlier, ev.CycleStarted | ev.CycleEnded | ev.LoadsEntered | ev.SetupOpened | ev.Composition
    ):
        return not isinstance(later, ev.Note)
    if isinstance(earlier, ev.Reading | ev.Correction):
        return isinstance(later, ev.Correction | ev.MasterAccepted | ev.Disposition)
    return isinstance(earlier, ev.MasterAccepted) and isinstance(later, ev.CycleStarted)


@decide.register
def _close(command: do.CloseRun, state: RunState, _now: Now) -> ev.Body:
    if state.running is not None:
        raise NotNow(f"Load {state.running.number} is cutting.", "End it first.")
    waiting = [piece.number for piece in state.pieces.values() if piece.standing in {"held", "rework"}]
    if waiting:
        raise NotNow(f"Piece {waiting[0]} waits for a decision.", "Decide on every held piece first.")
    short = state.plan.heading.quantity - good(state)
    if short > 0 and not command.short:
        raise NotNow(
            f"{short} pieces are missing to {state.plan.heading.quantity}.", "Tick that it is closed short."
        )
    return ev.RunClosed()


def start_run(plan: Plan, revision: int) -> ev.RunStarted:
    """Return the first line of a run.

    Raises:
        NotNow: if the plan lacks what a run cannot do without.
    """
    if not plan.setups:
        raise NotNow("There is no setup to run.", "Add one on Hold.")
    first = plan.setups[0]
    if not plan.stations_of(first.key):
        raise NotNow(f"{first.name} has no station.", "Add where the piece sits on Place.")
    if not plan.characteristics:
        raise NotNow("Nothing says what must come out the same.", "Add a dimension on Part.")
    return ev.RunStarted(revision, first.key)
