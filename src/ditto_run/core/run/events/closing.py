"""The batch is closed, with its counts as they stood."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.errors import NotNow
from ditto_run.core.run.effects import stand
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.heats import heat_of
from ditto_run.core.run.loads import finished_of
from ditto_run.core.run.require import require_standstill
from ditto_run.core.run.state import RunState
from ditto_run.core.run.words import ranges_text
from ditto_run.core.units import counted

UNDECIDED = {"held", "rework"}
STAYS = {"scrap", "lost", "trial"}  # pieces that do not leave the shop as good


@dataclass(frozen=True, slots=True)
class CloseRun:
    """Close the batch. `short` agrees to closing with fewer good pieces than wanted."""

    short: bool = False
    kind: Literal["close_run"] = "close_run"


@dataclass(frozen=True, slots=True)
class RunClosed:
    """The batch is closed; `counts` is how its pieces stood. A line written under older rules has none."""

    counts: tuple[tuple[str, int], ...] | None = None
    kind: Literal["run_closed"] = "run_closed"


@decide.register
def _decide(command: CloseRun, state: RunState, _now: Now) -> RunClosed:
    require_standstill(state, "End it first.")
    heading = state.plan.heading
    pieces = state.pieces.values()
    waiting = [piece.number for piece in pieces if piece.standing in UNDECIDED]
    if waiting:
        raise NotNow(f"Piece {waiting[0]} waits for a decision.", "Decide on every held piece first.")
    for part in state.plan.all_parts:
        wanted = part.plan.heading.quantity
        short = wanted - finished_of(state, part.key)
        if short > 0 and not command.short:
            of_it = f" of {part.plan.heading.part}" if state.plan.companions else ""
            missing = f"{counted(short, 'piece')}{of_it} {'is' if short == 1 else 'are'} missing to {wanted}."
            raise NotNow(missing, "Tick that it is closed short.")
    bare = [piece.number for piece in pieces if piece.standing == "not gauged"]
    if bare:
        many = f"Pieces {ranges_text(bare)} are" if len(bare) > 1 else f"Piece {bare[0]} is"
        ways = "Gauge them." if heading.has_consequence else "Gauge them, or take them with the reason."
        raise NotNow(f"{many} not gauged.", ways)
    if heading.has_consequence:
        _require_records(state)
    return RunClosed(tuple(sorted((+state.counts).items())))


def _require_records(state: RunState) -> None:
    """Refuse to close a part with a consequence without its approval, and the heat of every piece that leaves the shop."""
    heading = state.plan.heading
    if not heading.approved_by:
        raise NotNow(
            f"This part {heading.consequence_words}, and its approval is not recorded.",
            "Type it in the job's head on Part, then take the changed plan on Run.",
        )
    bare = [p.number for p in state.pieces.values() if p.standing not in STAYS and not heat_of(state, p)]
    if bare:
        many = f"pieces {ranges_text(bare)} are" if len(bare) > 1 else f"piece {bare[0]} is"
        raise NotNow(
            f"This part {heading.consequence_words}, and the heat that {many} of is not recorded.",
            "Say it on Run with New bar, or type it in the job's head on Part and take the changed plan.",
        )


@apply.register
def _apply(body: RunClosed, state: RunState, line: LogLine) -> None:
    state.closed_at = line.at
    if body.counts is None:  # closed when a made piece counted good: its counts stay what they were
        state.grandfathered = True
        for piece in state.pieces.values():
            stand(state, piece)


@sentence.register
def _say(_body: RunClosed, _state: RunState, _seq: int) -> str:
    return "The batch is closed."
