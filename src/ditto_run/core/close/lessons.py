"""What a batch suggests for the next time, read from its log: each with the place where it will be seen."""

from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from math import isclose

from ditto_run.core.run.events import CAUSES
from ditto_run.core.run.events.lesson import PlaceName
from ditto_run.core.run.state import RunState
from ditto_run.core.shop import Machine
from ditto_run.core.units import capital, counted, small_mm_text

AGAIN = 2  # times, from which a small thing is a lesson; own judgement
MOST = 12
ALARM = "alarm"


@dataclass(frozen=True, slots=True)
class Suggested:
    """A lesson that the log suggests.

    Args:
        key: its lasting name in the log.
        words: the sentence, to be kept as it is or said better.
        place: where it goes.
        of: of what there: the tool, the holder, the machine; empty for none.
        why: from what it was read.
    """

    key: str
    words: str
    place: PlaceName
    of: str = ""
    why: str = ""


def suggested(state: RunState, machines: Mapping[int, Machine]) -> tuple[Suggested, ...]:
    """Return the lessons that a batch suggests and nobody put anywhere yet, the weightiest first.

    Args:
        state: the run.
        machines: of the register, by number.

    Source:
        Common practice, no source.
    """
    found = [
        *_stops(state, machines),
        *_turned(state),
        *_corrected(state),
        *_caused(state),
        *_felt(state),
        *_late(state),
    ]
    return tuple(one for one in found if one.key not in state.lessons)[:MOST]


def _corrections(state: RunState) -> dict[int, int]:
    """How often readings of each dimension were corrected."""
    found: Counter[int] = Counter()
    for line, one in state.gaugings.items():
        if line == one.seq:  # a corrected one is found under each of its lines
            found[one.characteristic] += len(one.corrected)
    return dict(found)


def _machine_of(state: RunState, key: int, machines: Mapping[int, Machine]) -> str:
    machine = machines.get(state.plan.cycle(key).machine_id or 0)
    return machine.name if machine is not None else ""


def _stops(state: RunState, machines: Mapping[int, Machine]) -> Iterator[Suggested]:
    """What stopped it: an alarm is the machine's, the rest is looked at before the next start."""
    for key, run in state.cycles.items():
        machine = _machine_of(state, key, machines)
        for stop in run.stopped:
            what = stop.what.rstrip(".")
            when = f"Stopped before load {stop.load}{'; something was hit' if stop.hit else ''}."
            place: PlaceName = "machine" if what.lower().startswith(ALARM) else "start list"
            yield Suggested(f"stop {stop.seq}", what, place, machine, when)


def _turned(state: RunState) -> Iterator[Suggested]:
    """Where the knobs of a tool stand in the end: the next batch begins nearer."""
    for run in state.cycles.values():
        total: dict[str, tuple[float, int]] = {}
        for one in run.dialled:
            if not one.station:
                amount, times = total.get(one.what, (0.0, 0))
                total[one.what] = amount + one.amount_mm, times + 1
        pieces = sum(len(load.pieces) for load in run.loads)
        for what, (amount, times) in total.items():
            if isclose(amount, 0, abs_tol=1e-9):  # turned and turned back
                continue
            sign = "+" if amount > 0 else "−"
            shown = f"{sign}{small_mm_text(Decimal(repr(round(abs(amount), 6))), state.plan.heading.unit)}"
            words = f"{what}: {shown} in all over {counted(pieces, 'piece')}"
            tool = what.split()[0]
            place: PlaceName = "tool" if tool[:1].upper() == "T" and tool[1:].isdigit() else "start list"
            yield Suggested(
                f"turned {run.key} {what}",
                words,
                place,
                tool if place == "tool" else "",
                f"Turned {counted(times, 'time')}.",
            )


def _corrected(state: RunState) -> Iterator[Suggested]:
    for number, times in _corrections(state).items():
        if times >= AGAIN:
            name = state.plan.characteristic(number).name
            yield Suggested(
                f"corrected {number}",
                f"Read the {name} twice before typing it",
                "start list",
                "",
                f"Corrected {counted(times, 'time')}.",
            )


def _caused(state: RunState) -> Iterator[Suggested]:
    """What pieces that were out were put down to, more than once."""
    for run in state.cycles.values():
        for cause, times in Counter(run.causes.values()).items():
            if times >= AGAIN:
                words = next((said for name, said in CAUSES.items() if name == cause), cause)
                yield Suggested(
                    f"cause {run.key} {cause}",
                    f"Look out for {words}",
                    "start list",
                    "",
                    f"{counted(times, 'piece')} out by it.",
                )


def _felt(state: RunState) -> Iterator[Suggested]:
    """Notes that were taken more than once."""
    said = Counter(text.strip().rstrip(".") for _, _, text, _ in state.notes if text.strip())
    for words, times in said.items():
        if times >= AGAIN:
            yield Suggested(
                f"note {words}"[:80], capital(words), "start list", "", f"Noted {counted(times, 'time')}."
            )


def _late(state: RunState) -> Iterator[Suggested]:
    """Work done elsewhere that came back after its day."""
    for trip in state.trips:
        if not trip.promised or trip.back_at is None:
            continue
        days = (trip.back_at.astimezone().date() - date.fromisoformat(trip.promised)).days
        if days > 0:
            yield Suggested(
                f"late {trip.number}",
                f"{trip.what}: {counted(days, 'day')} late",
                "supplier",
                trip.to,
                f"Promised for {trip.promised}.",
            )
