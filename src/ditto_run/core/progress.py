"""How far each of the nine steps is."""

from collections.abc import Collection, Sequence

from ditto_run.core.findings import Finding
from ditto_run.core.run import RunState
from ditto_run.core.run.loads import held, to_go
from ditto_run.core.steps import STEPS, Step, StepState


def step_states(
    findings: Sequence[Finding],
    state: RunState | None,
    not_begun: Collection[str] = (),
    to_prove: int | None = 0,
) -> tuple[StepState, ...]:
    """Return the state of each step, in order.

    Args:
        findings: what the plan still wants.
        state: the run, or None before there is one.
        not_begun: steps that may be left out and have not been looked at.
        to_prove: what is still to be gone through before the first load counts; None where nobody looked at any of it.
    """
    return tuple(
        StepState(step, "later") if step.name in not_begun else _state(step, findings, state, to_prove)
        for step in STEPS
    )


def _state(
    step: Step, findings: Sequence[Finding], state: RunState | None, to_prove: int | None
) -> StepState:
    if step.name == "prove":
        if state is None or to_prove is None:
            return StepState(step, "later")
        return StepState(step, "open" if to_prove else "settled", to_prove)
    if step.name == "run":
        return _run(step, state)
    if step.name == "close":
        return StepState(step, "settled" if state is not None and state.closed_at is not None else "later")
    count = sum(1 for f in findings if f.step == step.name and f.weight in {"stop", "ask"})
    return StepState(step, "open" if count else "settled", count)


def _run(step: Step, state: RunState | None) -> StepState:
    if state is None:
        return StepState(step, "later")
    waiting = held(state)
    if waiting:
        return StepState(step, "held", waiting)
    left = to_go(state) + state.counts["cutting"]
    return StepState(step, "open", left) if left and state.closed_at is None else StepState(step, "settled")
