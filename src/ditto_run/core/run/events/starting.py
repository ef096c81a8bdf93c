"""The run begins with a frozen plan, in its first setup."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.errors import NotNow
from ditto_run.core.plan import Plan
from ditto_run.core.run.effects import open_cycle
from ditto_run.core.run.events.base import LogLine, apply, sentence
from ditto_run.core.run.state import RunState

RULES = 2  # 1: a made piece counted good until it was gauged; 2: good means gauged or covered


@dataclass(frozen=True, slots=True)
class RunStarted:
    """The run begins.

    Args:
        revision: of the plan.
        setup: key of the cycle that is opened first.
        rules: which rules its first line was written under.
        batch: which time the job is run, from 1.
        after: highest number a piece of an earlier batch has; no number is used twice in a job.
    """

    revision: int
    setup: int
    rules: int = 1
    batch: int = 1
    after: int = 0
    kind: Literal["run_started"] = "run_started"


def start_run(plan: Plan, revision: int, batch: int = 1, after: int = 0) -> RunStarted:
    """Return the first line of a run.

    Args:
        plan: as it is frozen.
        revision: its number.
        batch: which time the job is run, from 1.
        after: highest number a piece of an earlier batch has.

    Raises:
        NotNow: if the plan lacks what a run cannot do without.
    """
    if not plan.setups:
        raise NotNow("There is no setup to run.", "Add one on Hold.")
    first = plan.all_cycles[0]
    if not first.stations:
        raise NotNow(f"{first.name} has no station.", "Add where the piece sits on Place.")
    for part in plan.all_parts:
        of_it = f" of {part.plan.heading.part}" if plan.companions else ""
        if not part.plan.setups:
            raise NotNow(f"There is no setup{of_it} to run.", "Add one on Hold.")
        if not part.plan.characteristics:
            raise NotNow(f"There is no size{of_it} that must come out the same.", "Add a dimension on Part.")
    return RunStarted(revision, first.key, RULES, batch, after)


@apply.register
def _apply(body: RunStarted, state: RunState, line: LogLine) -> None:
    state.revision, state.started_at, state.rules = body.revision, line.at, body.rules
    state.batch, state.numbered_after = body.batch, body.after
    open_cycle(state, body.setup)


@sentence.register
def _say(body: RunStarted, _state: RunState, _seq: int) -> str:
    what = "The run" if body.batch == 1 else f"Batch {body.batch}"
    return f"{what} has begun with revision {body.revision}."
