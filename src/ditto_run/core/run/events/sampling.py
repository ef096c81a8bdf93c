"""Which setup gauges a size, how often, and that it does not apply to a piece: said at the machine."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.part.heading import MOST_LOADS
from ditto_run.core.run.at_machine import often_words
from ditto_run.core.run.effects import cover, stand
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.events.reading import setup_for
from ditto_run.core.run.require import require_piece, require_reason
from ditto_run.core.run.state import CycleRun, RunState


@dataclass(frozen=True, slots=True)
class GiveSize:
    """Gauge a size in another setup from now on."""

    characteristic: int
    setup: int
    kind: Literal["give_size"] = "give_size"


@dataclass(frozen=True, slots=True)
class SizeGiven:
    """A size is gauged in that setup, and no other, from now on."""

    characteristic: int
    setup: int
    kind: Literal["size_given"] = "size_given"


@dataclass(frozen=True, slots=True)
class GaugeEvery:
    """Gauge a size every so many loads from now on, and first and last."""

    characteristic: int
    loads: int
    kind: Literal["gauge_every"] = "gauge_every"


@dataclass(frozen=True, slots=True)
class SamplingSet:
    """A size is gauged every so many loads."""

    characteristic: int
    loads: int
    kind: Literal["sampling_set"] = "sampling_set"


@dataclass(frozen=True, slots=True)
class Excuse:
    """A size does not apply to a piece."""

    piece: int
    characteristic: int
    reason: str
    kind: Literal["excuse"] = "excuse"


@dataclass(frozen=True, slots=True)
class Excused:
    """A size does not apply to a piece."""

    piece: int
    characteristic: int
    setup: int
    reason: str
    kind: Literal["excused"] = "excused"


@decide.register
def _give(command: GiveSize, state: RunState, _now: Now) -> SizeGiven:
    characteristic = state.plan.characteristic(command.characteristic)
    state.plan.setup(command.setup)
    if characteristic.number in {c.number for c in state.gauged_in(command.setup)}:
        raise NotNow(f"{characteristic.name} is gauged in that setup already.", "Choose another one.")
    return SizeGiven(characteristic.number, command.setup)


@decide.register
def _often(command: GaugeEvery, state: RunState, _now: Now) -> SamplingSet:
    characteristic = state.plan.characteristic(command.characteristic)
    if state.plan.heading.has_consequence:
        raise NotNow(
            f"This part {state.plan.heading.consequence_words}: every piece is gauged.",
            "It stays at every load.",
        )
    if not 1 <= command.loads <= MOST_LOADS:
        raise BadEntry("Gauging is every 1 to 1,000 loads.", "Type 1 to gauge every load.", "loads")
    return SamplingSet(characteristic.number, command.loads)


@decide.register
def _excuse(command: Excuse, state: RunState, _now: Now) -> Excused:
    piece = require_piece(state, command.piece)
    characteristic = state.plan.characteristic(command.characteristic)
    if characteristic.grade == "critical":
        raise NotNow(
            f"{characteristic.name} is critical: it applies to every piece.",
            "Give it to another setup, or change it on Part.",
        )
    setup = setup_for(state, piece, characteristic.number)
    return Excused(piece.number, characteristic.number, setup, require_reason(command.reason))


@apply.register
def _given(body: SizeGiven, state: RunState, _line: LogLine) -> None:
    state.given_to[body.characteristic] = body.setup
    judged = state.is_judged(body.characteristic)
    for piece in state.pieces.values():
        others = {key for key in piece.unproven if key[1] == body.characteristic and key[0] != body.setup}
        piece.unproven -= others
        key = (body.setup, body.characteristic)
        if judged and body.setup in piece.made and piece.last(*key) is None and key not in piece.excused:
            piece.unproven |= {key}
    for run in state.cycles.values():
        _settle_again(state, run, body.characteristic)


@apply.register
def _sampled(body: SamplingSet, state: RunState, _line: LogLine) -> None:
    state.every[body.characteristic] = body.loads
    for run in state.cycles.values():
        for (station, dimension), known in run.lanes.items():
            if dimension == body.characteristic:
                for _, number in run.at_station[station]:
                    if number in known:
                        continue
                    key = (run.setup_at[station], dimension)
                    if key not in state.pieces[number].excused and state.is_judged(dimension):
                        state.pieces[number].unproven |= {key}
        _settle_again(state, run, body.characteristic)


def _settle_again(state: RunState, run: CycleRun, dimension: int) -> None:
    """Work out anew which pieces of a setup the checks of a dimension cover, after its rule has changed."""
    for lane, known in run.lanes.items():
        if lane[1] == dimension:
            for number in known:
                cover(state, run, lane, number)
    for _, number in run.position:
        stand(state, state.pieces[number])


@apply.register
def _excused(body: Excused, state: RunState, _line: LogLine) -> None:
    piece = state.pieces[body.piece]
    key = (body.setup, body.characteristic)
    piece.excused |= {key}
    piece.unproven -= {key}
    stand(state, piece)


@sentence.register
def _say_given(body: SizeGiven, state: RunState, _seq: int) -> str:
    name = state.plan.characteristic(body.characteristic).name
    return f"{name} is gauged in {state.plan.setup(body.setup).name}."


@sentence.register
def _say_sampled(body: SamplingSet, state: RunState, _seq: int) -> str:
    name = state.plan.characteristic(body.characteristic).name
    return f"{name} is gauged {often_words(body.loads)}."


@sentence.register
def _say_excused(body: Excused, state: RunState, _seq: int) -> str:
    name = state.plan.characteristic(body.characteristic).name
    return f"{name} does not apply to piece {body.piece}: {body.reason}"
