"""The run goes on in another setup."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.errors import NotNow
from ditto_run.core.run.effects import open_cycle, stand
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.line import Identity
from ditto_run.core.run.require import require_cycle, require_standstill
from ditto_run.core.run.state import RunState

KEPT = {"marked": "Pieces were marked.", "tray": "Pieces were kept in order.", "lost": "Pieces were mixed."}


@dataclass(frozen=True, slots=True)
class OpenSetup:
    """Go on in another setup; how the pieces were kept apart until then is unstated unless somebody says."""

    setup: int
    identity: Identity = "unstated"
    kind: Literal["open_setup"] = "open_setup"


@dataclass(frozen=True, slots=True)
class SetupOpened:
    """The run goes on in another setup; `identity` says how the pieces were kept apart until then."""

    setup: int
    identity: Identity
    kind: Literal["setup_opened"] = "setup_opened"


@decide.register
def _decide(command: OpenSetup, state: RunState, _now: Now) -> SetupOpened:
    cycle = require_cycle(state, command.setup)
    if cycle.key == state.cycle:
        raise NotNow("This setup is being run already.", "Choose another one.")
    if state.running is not None and cycle.machine_id == state.plan.cycle(state.cycle).machine_id:
        require_standstill(state, "End it first.")
    return SetupOpened(cycle.key, command.identity)


@apply.register
def _apply(body: SetupOpened, state: RunState, _line: LogLine) -> None:
    state.identity = body.identity
    if body.identity == "lost":
        state.identity_lost_before = body.setup
    open_cycle(state, body.setup)
    state.last_load_ended = None
    for piece in state.pieces.values():
        stand(state, piece)


@sentence.register
def _say(body: SetupOpened, state: RunState, _seq: int) -> str:
    at = state.plan.position(body.setup)
    if state.plan.is_declared(body.setup):
        name = f"Cycle: {state.plan.cycle(body.setup).name}."
    elif at:
        name = f"Setup {at} of {len(state.plan.owner_of(body.setup).setups)}: {state.plan.setup(body.setup).name}."
    else:
        name = "Another setup."
    return f"{name} {KEPT.get(body.identity, '')}".strip()
