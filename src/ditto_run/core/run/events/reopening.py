"""A closed batch is opened again, with the reason."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.errors import NotNow
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.require import require_text
from ditto_run.core.run.state import RunState

LONGEST = 200


@dataclass(frozen=True, slots=True)
class ReopenRun:
    """Open a closed batch again; why."""

    reason: str
    kind: Literal["reopen_run"] = "reopen_run"


@dataclass(frozen=True, slots=True)
class RunReopened:
    """A closed batch was opened again."""

    reason: str
    kind: Literal["run_reopened"] = "run_reopened"


@decide.register
def _decide(command: ReopenRun, state: RunState, _now: Now) -> RunReopened:
    if state.closed_at is None:
        raise NotNow("The batch is open.", "Go on.")
    if state.grandfathered:
        raise NotNow(
            "This batch was closed when a made piece counted good; opened again its counts would change.",
            "Write a note instead.",
        )
    return RunReopened(require_text(command.reason, "reason", "why it is opened again")[:LONGEST])


@apply.register
def _apply(_body: RunReopened, state: RunState, _line: LogLine) -> None:
    state.closed_at = None


@sentence.register
def _say(body: RunReopened, _state: RunState, _seq: int) -> str:
    return f"The batch is open again: {body.reason}."
