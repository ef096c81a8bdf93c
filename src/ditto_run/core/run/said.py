"""The sentence for each line of the log, as it is spoken, shown at the foot, and listed."""

from collections.abc import Sequence
from functools import singledispatch

from ditto_run.core.run import events as ev
from ditto_run.core.run.state import RunState
from ditto_run.core.run.words import answer
from ditto_run.core.units import clock_text

OUTCOME_WORDS = {"as_is": "accepted as it is", "rework": "sent to rework"}
FEW = 2  # so many are named singly


def numbers_text(pieces: Sequence[int]) -> str:
    """Return piece numbers in words: 3, 4 and 5 as `3 to 5`."""
    if len(pieces) > FEW and pieces[-1] - pieces[0] == len(pieces) - 1:
        return f"{pieces[0]} to {pieces[-1]}"
    return " and ".join(map(str, pieces)) if len(pieces) <= FEW else ", ".join(map(str, pieces))


def last_said(state: RunState) -> str:
    """Return the sentence for the newest line that counts."""
    if not state.recent_events:
        return "Nothing is recorded yet."
    event = state.recent_events[-1]
    return sentence(event.body, state, event.seq)


@singledispatch
def sentence(body: ev.Body, _state: RunState, _seq: int) -> str:
    """Return the sentence for one line of the log.

    Args:
        body: what happened.
        _state: the run it happened in.
        _seq: number of the line.
    """
    raise TypeError(body)


@sentence.register
def _reading(body: ev.Reading, state: RunState, seq: int) -> str:
    return _gauged(state, seq, body.text)


@sentence.register
def _correction(body: ev.Correction, state: RunState, seq: int) -> str:
    return f"{_gauged(state, seq, body.text)} Corrects line {body.corrects}: {body.reason}"


def _gauged(state: RunState, seq: int, text: str) -> str:
    gauging = state.gaugings.get(seq)
    if gauging is None:
        return f"Reading {text}, undone."
    piece = state.pieces[gauging.piece]
    name = state.plan_of(piece, gauging.setup).characteristic(gauging.characteristic).name
    reply = answer(state, gauging)
    held = f" Held: piece {piece.number}." if piece.standing == "held" else ""
    start = f"{name[:1].upper()}{name[1:]}, piece {piece.number}, station {piece.made[gauging.setup][1]}"
    return f"{start}: {reply.shown}. {reply.said}{held}"


@sentence.register
def _cycle_started(body: ev.CycleStarted, _state: RunState, _seq: int) -> str:
    return f"Load {body.load} started."


@sentence.register
def _cycle_ended(body: ev.CycleEnded, state: RunState, _seq: int) -> str:
    loads = state.setups[body.setup].loads
    load = next((found for found in loads if found.number == body.load), None)
    if load is None:
        return f"Load {body.load} done."
    took = f" It took {clock_text(load.cycle_s)}." if load.cycle_s is not None else ""
    return f"Load {body.load} done. Unload {', '.join(loaded.station for loaded in load.stations)}.{took}"


@sentence.register
def _loads_entered(body: ev.LoadsEntered, _state: RunState, _seq: int) -> str:
    return f"{len(body.loads)} {'load' if len(body.loads) == 1 else 'loads'} written down."


@sentence.register
def _composition(body: ev.Composition, _state: RunState, _seq: int) -> str:
    on = [label if pieces == 1 else f"{label} with {pieces}" for label, pieces in body.stations if pieces]
    return f"Stations on: {', '.join(on) or 'none'}."


@sentence.register
def _master_accepted(body: ev.MasterAccepted, _state: RunState, _seq: int) -> str:
    return f"Piece {body.piece} is the master."


@sentence.register
def _disposition(body: ev.Disposition, _state: RunState, _seq: int) -> str:
    reason = f", {body.reason}" if body.reason else ""
    return f"Piece {body.piece}: {OUTCOME_WORDS.get(body.outcome, body.outcome)}{reason}."


@sentence.register
def _hold(body: ev.Hold, _state: RunState, _seq: int) -> str:
    return f"Held: {numbers_text(body.pieces)}, {body.reason}."


@sentence.register
def _adjustment(body: ev.Adjustment, _state: RunState, _seq: int) -> str:
    where = f" at {body.station}" if body.station else ""
    return f"{body.what}{where}: {'+' if body.amount > 0 else '−'}{abs(body.amount):f} {body.unit} recorded."


@sentence.register
def _setting_changed(body: ev.SettingChanged, _state: RunState, _seq: int) -> str:
    change = f" from {body.before} to {body.after}" if body.before and body.after else ""
    return f"{body.what} changed{change}."


@sentence.register
def _break(body: ev.Break, _state: RunState, _seq: int) -> str:
    return f"New: {body.what}."


@sentence.register
def _plan_revised(body: ev.PlanRevised, _state: RunState, _seq: int) -> str:
    return f"Revision {body.revision} from here on: {body.reason}."


@sentence.register
def _setup_opened(body: ev.SetupOpened, state: RunState, _seq: int) -> str:
    name = next((setup.name for setup in state.plan.setups if setup.key == body.setup), "Another setup")
    return f"{name} opened."


@sentence.register
def _note(body: ev.Note, _state: RunState, _seq: int) -> str:
    about = f" about piece {body.piece}" if body.piece is not None else ""
    return f"Noted{about}: {body.text}"


@sentence.register
def _undone(body: ev.Undone, _state: RunState, _seq: int) -> str:
    return f"Line {body.undoes} undone."


@sentence.register
def _run_started(body: ev.RunStarted, _state: RunState, _seq: int) -> str:
    return f"The run has begun with revision {body.revision}."


@sentence.register
def _run_closed(_body: ev.RunClosed, _state: RunState, _seq: int) -> str:
    return "The batch is closed."
