"""A reading was wrong: this stands in its place, the old line stays."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.errors import BadEntry, NotFound, NotNow
from ditto_run.core.run.effects import mark_out, settle, take_gauging
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.events.reading import gauging_of
from ditto_run.core.run.require import require_reason
from ditto_run.core.run.state import RunState
from ditto_run.core.run.words import gauged_words, typed_value
from ditto_run.core.units import Unit


@dataclass(frozen=True, slots=True)
class CorrectReading:
    """The reading in that line of the log was wrong. Its size in full, or GO or NO-GO."""

    corrects: int
    text: str
    reason: str
    kind: Literal["correct_reading"] = "correct_reading"


@dataclass(frozen=True, slots=True)
class Correction:
    """A reading was wrong; this stands in its place, the old line stays."""

    corrects: int
    text: str
    reason: str
    value: Decimal | None = None
    unit: Unit = "mm"
    decimals: int = 0
    go: bool | None = None
    kind: Literal["correction"] = "correction"


@decide.register
def _decide(command: CorrectReading, state: RunState, _now: Now) -> Correction:
    wrong = state.gaugings.get(command.corrects)
    if wrong is None:
        raise NotFound("reading in line", command.corrects, "Choose one from the list of readings.")
    reason = require_reason(command.reason)
    if wrong.seq != command.corrects:
        raise NotNow("That reading was corrected already.", f"Correct line {wrong.seq} instead.")
    if wrong.value is None:
        go = _read_go(command.text)
        return Correction(wrong.seq, "GO" if go else "NO-GO", reason, go=go)
    piece = state.pieces[wrong.piece]
    characteristic = state.plan_of(piece, wrong.setup).characteristic(wrong.characteristic)
    value, decimals, unit = typed_value(command.text, characteristic.size.unit)
    return Correction(wrong.seq, command.text.strip(), reason, value, unit, decimals)


def _read_go(text: str) -> bool:
    word = text.strip().upper().replace(" ", "-")
    if word not in {"GO", "NO-GO", "NOGO"}:
        raise BadEntry(f"“{text[:20]}” is neither GO nor NO-GO.", "Type GO or NO-GO.", "text")
    return word == "GO"


@apply.register
def _apply(body: Correction, state: RunState, line: LogLine) -> None:
    wrong = state.gaugings.get(body.corrects)
    if wrong is None:
        return
    history = state.pieces[wrong.piece].gaugings[(wrong.setup, wrong.characteristic)]
    place = history.index(wrong) if wrong in history else len(history)
    history[place : place + 1] = []
    found = gauging_of(body, state, line, (wrong.piece, wrong.characteristic, wrong.setup))
    found.rough, found.judged = wrong.rough, wrong.judged
    found.corrected = [*wrong.corrected, wrong.seq]
    state.gaugings[wrong.seq] = found
    take_gauging(state, found)
    history.insert(place, history.pop())  # it stands where the wrong one stood: a later reading still counts
    run = state.run_of(state.pieces[wrong.piece], wrong.setup)
    last = state.pieces[wrong.piece].last(wrong.setup, wrong.characteristic)
    if last is not None and last is not found:  # an earlier reading was corrected; the later one still counts
        lane = (state.pieces[wrong.piece].made[wrong.setup].station, wrong.characteristic)
        run.lanes[lane][wrong.piece] = last
        mark_out(state.pieces[wrong.piece], last)
        settle(state, run, lane, wrong.piece)
    found.made_held = not found.inside and state.pieces[wrong.piece].standing == "held"


@sentence.register
def _say(body: Correction, state: RunState, seq: int) -> str:
    return f"{gauged_words(state, seq, body.text)} Corrects line {body.corrects}: {body.reason}"
