"""A changed plan is taken: from here on pieces are made to the next revision."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.errors import NotNow
from ditto_run.core.run.effects import note_change, open_cycle, queue
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.require import require_reason, require_standstill
from ditto_run.core.run.state import RunState


@dataclass(frozen=True, slots=True)
class TakeRevision:
    """Take the changed plan as the next revision."""

    reason: str
    kind: Literal["take_revision"] = "take_revision"


@dataclass(frozen=True, slots=True)
class PlanRevised:
    """From here on pieces are made to this revision; `cycles` are those it changes, none for the one looked at."""

    revision: int
    reason: str
    cycles: tuple[int, ...] = ()
    kind: Literal["plan_revised"] = "plan_revised"


@decide.register
def _decide(command: TakeRevision, state: RunState, now: Now) -> PlanRevised:
    if now.draft is None or now.draft == state.plan:
        raise NotNow("The plan is the one being run.", "Change it on its own page first.")
    for run in state.cycles.values():
        require_standstill(state.at(run.key), "End it, then take the new plan.")
    opened = {setup for run in state.cycles.values() for setup in run.setups if run.loads}
    gone = [setup for setup in {*opened, *state.here.setups} if not now.draft.position(setup)]
    if gone or not any(cycle.key == state.cycle for cycle in now.draft.all_cycles):
        raise NotNow("The changed plan has no such setup any more.", "Undo that change on Hold.")
    gauged = {gauging.characteristic for gauging in state.gaugings.values()}
    if gauged - {c.number for c in now.draft.all_characteristics}:
        raise NotNow(
            "The changed plan lacks a dimension that was gauged.",
            "Undo that change on Part, or make it free.",
        )
    cycles = tuple(state.cycles) if len(state.cycles) > 1 else ()
    return PlanRevised(now.draft_revision, require_reason(command.reason), cycles)


@apply.register
def _apply(body: PlanRevised, state: RunState, line: LogLine) -> None:
    state.revision = body.revision
    looked_at = state.cycle
    for key in body.cycles or (looked_at,):
        open_cycle(state, key)
        note_change(state, line.seq, "plan", f"revision {body.revision}", key)
    state.cycle = looked_at
    for piece in state.pieces.values():  # the order of the setups may be another one now
        queue(state, piece)


@sentence.register
def _say(body: PlanRevised, _state: RunState, _seq: int) -> str:
    return f"Revision {body.revision} from here on: {body.reason}."
