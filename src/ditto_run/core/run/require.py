"""What every decision may ask for: a piece that is there, a text that says something, a machine that stands."""

from ditto_run.core.errors import BadEntry, NotFound, NotNow
from ditto_run.core.plan.cycles import Press
from ditto_run.core.run.loads import read_pieces
from ditto_run.core.run.state import Piece, RunState, Trip

LONGEST_TEXT = 500
NO_FIRST_PIECE = {"scrap", "lost", "trial"}


def require_piece(state: RunState, number: int, field: str = "piece") -> Piece:
    """Return a piece of the run.

    Raises:
        BadEntry: if there is none of that number.
    """
    piece = state.pieces.get(number)
    if piece is None:
        made = max(state.pieces, default=0)
        first = state.numbered_after + 1
        raise BadEntry(
            f"There is no piece {number} yet.",
            f"Pieces {first} to {made} are made or being cut." if made else "Start the first load.",
            field,
        )
    return piece


def require_pieces(state: RunState, text: str) -> tuple[int, ...]:
    """Return the pieces a list with ranges names, such as 11, 14-17.

    Raises:
        BadEntry: if it names none, or one that is not there.
    """
    try:
        numbers = read_pieces(text)
    except ValueError:
        numbers = ()
    if not numbers:
        raise BadEntry(
            f"“{text[:40]}” names no pieces.", "Type numbers and ranges, such as 11, 14-17.", "pieces"
        )
    for number in numbers:
        require_piece(state, number, "pieces")
    return numbers


def require_trip(state: RunState, number: int) -> Trip:
    """Return a trip of the run.

    Raises:
        NotFound: if there is none of that number.
    """
    trip = next((one for one in state.trips if one.number == number), None)
    if trip is None:
        raise NotFound("trip", number, "Choose one that is out.")
    return trip


def require_reason(text: str) -> str:
    """Return the reason, without the blanks around it.

    Raises:
        BadEntry: if it is empty.
    """
    return require_text(text, "reason", "the reason in one sentence")


def require_text(text: str, field: str, what: str) -> str:
    """Return the text, without the blanks around it.

    Raises:
        BadEntry: if it is empty.
    """
    if not text.strip():
        raise BadEntry("It is empty.", f"Type {what}.", field)
    return text.strip()[:LONGEST_TEXT]


def require_standstill(state: RunState, remedy: str) -> None:
    """Raise NotNow while a load is cutting."""
    if state.running is not None:
        raise NotNow(f"Load {state.running.number} is cutting.", remedy)


def require_cycle(state: RunState, key: int) -> Press:
    """Return a cycle of the plan: by its own key, or by that of a setup that is cut in one alone.

    Raises:
        NotFound: if there is none.
        NotNow: if that setup is cut only together with others.
    """
    found = next((cycle for cycle in state.plan.all_cycles if cycle.key == key), None)
    if found is not None:
        return found
    setup = state.plan.setup(key)
    names = " and ".join(cycle.name for cycle in state.plan.all_cycles if key in cycle.setups)
    raise NotNow(f"{setup.name} is cut in {names}.", "Open that one.")


def require_free_machine(state: RunState, cycle: Press) -> None:
    """Raise NotNow while another cycle cuts on the machine of one."""
    for run in state.cycles.values():
        if run.key == cycle.key or run.running is None:
            continue
        other = state.plan.cycle(run.key)
        if other.machine_id == cycle.machine_id:
            raise NotNow(
                f"Load {run.running.number} of {other.name or 'another setup'} is cutting on the same machine.",
                "End it first, or choose another machine for one of them.",
            )


def require_proven(state: RunState) -> None:
    """Raise NotNow if a load was cut in this cycle and the first piece of one of its setups is not accepted yet."""
    run = state.here
    for setup in run.setups:
        if setup in run.masters:
            continue
        candidates = [n for n in tried(state, setup) if state.pieces[n].standing not in NO_FIRST_PIECE]
        if candidates:
            name = f" of {state.plan.setup(setup).name}" if len(run.setups) > 1 else " of this setup"
            raise NotNow(
                f"Piece {candidates[0]} is not accepted as the first piece{name}.",
                "Gauge every critical dimension on it, then accept it, or scrap it and cut another.",
            )


def tried(state: RunState, setup: int) -> list[int]:
    """Return the pieces that were cut in a setup in the cycle that is looked at, but for those written down later."""
    return [
        number
        for load in state.here.loads
        if not load.entered
        for loaded in load.stations
        if load.setup_of(loaded) == setup
        for number in loaded.pieces
    ]
