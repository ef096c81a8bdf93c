"""One setup: the machine, what holds the piece, what it sits on."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass

from ditto_run.core.findings import Finding
from ditto_run.core.hold.held import Holding

NOT_MEASURED = Holding()


@dataclass(frozen=True, slots=True)
class Setup:
    """One setup of the chain.

    Args:
        key: its lasting number in the job; the order is the order of the list.
        name: what is done in it, such as first side.
        machine_id: machine it runs on; None while open.
        holds: what holds the piece.
        locates: what the piece sits and stops against.
        handling_s: unload and load of one piece. [s]
        locates_on: faces or features the piece locates on, the first carries it.
        clamps_on: faces or features the holder presses on.
        cuts: keys of the features it makes, in order.
        relay: True if clamps are moved during the setup: straps outside, bolts through holes, straps off.
        centres: ends held by a centre.
        proof: what keeps the piece from being loaded the wrong way round.
        stop: where the stop is and how it is set.
        torque: how tight, by the holder's own rating.
        held: jaws, parallels and grip as far as they are measured, and which way the piece lies.
    """

    key: int
    name: str
    machine_id: int | None = None
    holds: str = ""
    locates: str = ""
    handling_s: float = 0.0
    locates_on: tuple[str, ...] = ()
    clamps_on: tuple[str, ...] = ()
    cuts: tuple[int, ...] = ()
    relay: bool = False
    centres: tuple[str, ...] = ()
    proof: str = ""
    stop: str = ""
    torque: str = ""
    held: Holding = NOT_MEASURED


def hold_findings(setups: Sequence[Setup], machine_ids: Collection[int]) -> list[Finding]:
    """Return what Hold still wants: a setup, its machine, what holds and what locates."""
    if not setups:
        return [
            Finding("hold", "ask", "no-setup", "No setup says how the piece is held.", "Add the first setup.")
        ]
    found = []
    for setup in setups:
        if setup.machine_id not in machine_ids:
            found.append(
                Finding("hold", "ask", "no-machine", f"{setup.name} has no machine.", "Choose the machine.")
            )
        if not setup.holds:
            found.append(
                Finding(
                    "hold",
                    "ask",
                    "no-holder",
                    f"Nothing says what holds the piece in {setup.name}.",
                    "Type the vise, chuck or fixture.",
                )
            )
    return found
