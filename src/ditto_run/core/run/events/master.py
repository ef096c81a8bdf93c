"""The first piece of a setup is accepted: everything after it is compared with it."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.errors import NeedsAnswer, NotNow
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.require import require_piece
from ditto_run.core.run.state import RunState

NO_MASTER = {"held", "rework", "scrap", "lost", "trial"}


@dataclass(frozen=True, slots=True)
class AcceptMaster:
    """Accept the first piece of this setup as the master. `confirm` repeats its number where it is doubtful."""

    piece: int
    confirm: str = ""
    kind: Literal["accept_master"] = "accept_master"


@dataclass(frozen=True, slots=True)
class MasterAccepted:
    """The first piece of a setup is accepted: everything after it is compared with it."""

    setup: int
    piece: int
    kind: Literal["master_accepted"] = "master_accepted"


@decide.register
def _decide(command: AcceptMaster, state: RunState, _now: Now) -> MasterAccepted:
    piece = require_piece(state, command.piece)
    setups = state.setups_here(piece)
    if not setups:
        if state.here.masters:
            raise NotNow(
                f"Piece {next(iter(state.here.masters.values()))} is the master already.", "Undo that first."
            )
        raise NotNow(
            f"Piece {piece.number} has not been through this setup.", "Choose one of the first load."
        )
    setup = next((one for one in setups if one not in state.here.masters), None)
    if setup is None:
        raise NotNow(f"Piece {state.here.masters[setups[0]]} is the master already.", "Undo that first.")
    critical = [c for c in state.missing(piece) if c.grade == "critical"]
    if critical:
        names = " and ".join(c.name for c in critical)
        raise NotNow(
            f"{names} is not gauged on piece {piece.number}.", "Gauge every critical dimension first."
        )
    if piece.standing in NO_MASTER:
        raise NotNow(
            f"Piece {piece.number} is {piece.standing}.", "A master is a good piece. Decide on it first."
        )
    if piece.out and command.confirm != str(piece.number):
        raise NeedsAnswer(
            f"Piece {piece.number} is out of limits and was accepted as it is. Compare every piece with it?",
            "Cut another first piece, or say again to take this one.",
            "confirm",
            {f"Take piece {piece.number} all the same": str(piece.number)},
        )
    return MasterAccepted(setup, piece.number)


@apply.register
def _apply(body: MasterAccepted, state: RunState, line: LogLine) -> None:
    run = state.run_of(state.pieces[body.piece], body.setup)
    run.masters[body.setup], run.proven[body.setup] = body.piece, line.at


@sentence.register
def _say(body: MasterAccepted, _state: RunState, _seq: int) -> str:
    return f"Piece {body.piece} is the master."
