"""Something of the ladder or the start list was gone through, or waived with a note."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.prove import proof_items
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.state import ProofMark, RunState

MOST_NOTE = 200  # letters


@dataclass(frozen=True, slots=True)
class TickProof:
    """Something was gone through; with `waived` it was not, for the reason in `note`."""

    item: str
    note: str = ""
    waived: bool = False
    kind: Literal["tick_proof"] = "tick_proof"


@dataclass(frozen=True, slots=True)
class ProofTicked:
    """Something of a cycle was gone through or waived, on the ground it had then."""

    cycle: int
    item: str
    words: str
    ground: str
    note: str = ""
    waived: bool = False
    kind: Literal["proof_ticked"] = "proof_ticked"


@decide.register
def _decide(command: TickProof, state: RunState, now: Now) -> ProofTicked:
    cycle = state.plan.cycle(state.cycle)
    items = proof_items(state.plan, cycle, now.machine, now.offsets, now.forgotten)
    item = next((one for one in items if one.key == command.item), None)
    if item is None:
        raise NotFound("item", command.item[:30], "Choose one of the list on Prove.")
    note = " ".join(command.note.split())[:MOST_NOTE]
    if command.waived and not note:
        raise BadEntry("The reason is empty.", "Type in one sentence why it may be left out.", "note")
    return ProofTicked(state.cycle, item.key, item.words, item.ground, note, command.waived)


@apply.register
def _apply(body: ProofTicked, state: RunState, line: LogLine) -> None:
    run = state.cycles.get(body.cycle, state.here)
    run.proof[body.item] = ProofMark(line.seq, line.at, line.who, body.ground, body.note, body.waived)


@sentence.register
def _say(body: ProofTicked, _state: RunState, _seq: int) -> str:
    words = body.words.rstrip(".")
    return f"Left out: {words}. {body.note}" if body.waived else f"Looked at: {words}."
