"""What a machine and a gauge say, written into the log of a run: cycle start and end, alarms, readings. Nothing is written twice."""

from dataclasses import dataclass
from datetime import timedelta

from ditto_run.core.errors import BadEntry, DittoError, NotNow
from ditto_run.core.run import Command, RunState
from ditto_run.core.run.board import board
from ditto_run.core.run.events import EndCycle, StartCycle, TakeReading, WriteStop
from ditto_run.desk import Desk
from ditto_run.formats.gauge_lines import GaugeLine
from ditto_run.formats.mtconnect import Observed, Streams

BEGINS = frozenset({"ACTIVE"})
ENDS = frozenset({"PROGRAM_COMPLETED", "READY"})
BETWEEN = frozenset(
    {
        "FEED_HOLD",
        "INTERRUPTED",
        "OPTIONAL_STOP",
        "PROGRAM_OPTIONAL_STOP",
        "PROGRAM_STOPPED",
        "STOPPED",
        "WAIT",
    }
)
"""States in which a load neither begins nor ends: a stop to gauge in mid-program, a hold, a reset."""
MISSED = timedelta(minutes=2)  # what is older was not heard when it happened: a person says what it was
WHO = "MCH"
GAUGE = "GAU"


@dataclass(frozen=True, slots=True)
class Heard:
    """What became of what a machine said.

    Args:
        written: how many lines of the log.
        refused: what the run did not take, each in a sentence.
        next_sequence: to ask for next.
    """

    written: int
    refused: tuple[str, ...]
    next_sequence: int


def listen(desk: Desk, run_id: int, cycle: int, streams: Streams) -> Heard:
    """Write what a machine said into the log of a run; what it said before is known by its number and passed by.

    Args:
        desk: the desk.
        run_id: of the run.
        cycle: it is cut in; 0 for the one opened last.
        streams: what it said.
    """
    written, refused = 0, []
    with desk.runs.folded(run_id) as lent:
        acted = _acted(lent, streams.instance)
    for one in streams.observed:
        if one.sequence <= acted:
            continue
        key = f"mt-{streams.instance}-{one.sequence}"
        with desk.runs.folded(run_id) as lent:
            command = _meant(one, lent.near(cycle))
        if command is None:
            continue
        if streams.created is not None and streams.created - one.at > MISSED:
            said = "The machine said {} at {:%H:%M}, while nobody listened. Write it down under Late, if it was so."
            refused.append(said.format(_words(one), one.at.astimezone()))
            continue
        try:
            written += desk.runs.record(run_id, command, WHO, key, cycle) is not None
        except DittoError as problem:
            refused.append(
                f"The machine says {_words(one)}; the run did not take it: {problem.problem} {problem.remedy}"
            )
    return Heard(written, tuple(refused), streams.next_sequence)


def _acted(state: RunState, instance: str) -> int:
    """The newest observation of an agent that was written down; 0 for none."""
    begins = f"mt-{instance}-"
    recent = [one.client_key for one in reversed(state.recent_events) if one.client_key.startswith(begins)]
    keys = recent[:1] or [key for key in state.client_keys if key.startswith(begins)]
    return max((int(key.removeprefix(begins)) for key in keys), default=0)


def _meant(one: Observed, state: RunState) -> Command | None:
    """What an observation means for the run as it stands."""
    if state.closed_at is not None:
        return None
    if one.item == "Execution" and one.value in BEGINS and state.running is None:
        return StartCycle()
    if one.item == "Execution" and one.value in ENDS and state.running is not None:
        return EndCycle(confirm=str(state.running.number))
    if one.item == "Fault":
        words = one.value or "no words"
        return WriteStop(f"alarm {one.native}: {words}" if one.native else f"alarm: {words}")
    return None


def _words(one: Observed) -> str:
    return {"ACTIVE": "it cuts", "READY": "it is done", "PROGRAM_COMPLETED": "it is done"}.get(
        one.value, one.value
    )


def take_reading(desk: Desk, run_id: int, cycle: int, line: GaugeLine, gauge_id: int, key: str) -> str:
    """Write what a gauge sent as the reading that is asked for. Returns what was said.

    Args:
        desk: the desk.
        run_id: of the run.
        cycle: it is gauged in; 0 for the one opened last.
        line: what the gauge sent.
        gauge_id: of the register; 0 for a gauge that nobody named.
        key: of this sending; the same again writes nothing more.

    Raises:
        NotNow: if no reading is asked for.
        BadEntry: if it is asked for from another gauge.
    """
    with desk.runs.folded(run_id) as lent:
        if key in lent.client_keys:
            return ""
        asked = board(lent.near(cycle), desk.now, strip=False)
        wanted = asked.asked
        if asked.call.next != "gauge" or wanted is None or asked.piece is None:
            raise NotNow("No reading is asked for now.", "Look at the page: what is next stands there.")
        if wanted.by_gauge_only:
            raise NotNow(f"The {wanted.name} is checked by GO and NO-GO.", "Press V or Shift V on the page.")
        if gauge_id and wanted.gauge_id and gauge_id != wanted.gauge_id:
            raise BadEntry(
                f"The {wanted.name} is asked for, from another gauge.",
                "Gauge it with the one the plan names.",
                "text",
            )
        piece = asked.piece.number
    desk.runs.record(run_id, TakeReading(piece, wanted.number, line.text, line.unit), GAUGE, key, cycle)
    with desk.runs.folded(run_id) as lent:
        return board(lent.near(cycle), desk.now, strip=False).last_said
