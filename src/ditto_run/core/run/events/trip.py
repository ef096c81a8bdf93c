"""Good pieces go out for work that is done elsewhere, and come back: counted out, counted in."""

from dataclasses import dataclass, replace
from typing import Literal

from ditto_run.core.entry.days import read_day_of
from ditto_run.core.entry.plain import read_count
from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.money import read_cents
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.loads import good_here
from ditto_run.core.run.require import require_text, require_trip
from ditto_run.core.run.state import RunState, Trip
from ditto_run.core.units import counted

LONGEST = 120


@dataclass(frozen=True, slots=True)
class SendOut:
    """Pieces go out: what is done to them, where, how many; the promised day and the price where they are known."""

    what: str
    to: str
    pieces: str
    promised: str = ""
    price: str = ""
    mask: str = ""
    kind: Literal["send_out"] = "send_out"


@dataclass(frozen=True, slots=True)
class SentOut:
    """Pieces went out for work that is done elsewhere. [pieces, cents]."""

    what: str
    to: str
    pieces: int
    promised: str = ""
    cents: int = 0
    mask: str = ""
    kind: Literal["sent_out"] = "sent_out"


@dataclass(frozen=True, slots=True)
class ComeBack:
    """Pieces of a trip came back: how many, and how many of them are not good."""

    trip: int
    pieces: str
    rejects: str = ""
    note: str = ""
    kind: Literal["come_back"] = "come_back"


@dataclass(frozen=True, slots=True)
class CameBack:
    """Pieces of a trip came back. [pieces]."""

    trip: int
    pieces: int
    rejects: int = 0
    note: str = ""
    kind: Literal["came_back"] = "came_back"


@decide.register
def _send(command: SendOut, state: RunState, _now: Now) -> SentOut:
    what = require_text(command.what, "what", "what is done, such as clear anodise")[:LONGEST]
    to = require_text(command.to, "to", "where they go, such as the plater")[:LONGEST]
    pieces = read_count(command.pieces, "pieces")
    here = good_here(state)
    if not 0 < pieces <= here:
        raise BadEntry(
            f"{counted(pieces, 'piece')} cannot go out: {counted(max(here, 0), 'good one')} {'is' if here == 1 else 'are'} here.",
            "Count what goes out.",
            "pieces",
        )
    cents = read_cents(command.price, "price") if command.price.strip() else 0
    promised = read_day_of(command.promised, "promised")
    return SentOut(
        what,
        to,
        pieces,
        promised.isoformat() if promised else "",
        cents,
        " ".join(command.mask.split())[:LONGEST],
    )


@decide.register
def _back(command: ComeBack, state: RunState, _now: Now) -> CameBack:
    trip = require_trip(state, command.trip)
    if not trip.away:
        raise NotNow("That trip is back whole.", "Take the line back if that is wrong.")
    pieces = read_count(command.pieces, "pieces")
    rejects = read_count(command.rejects, "rejects") if command.rejects.strip() else 0
    if not 0 < pieces <= trip.away:
        raise BadEntry(
            f"{counted(pieces, 'piece')} cannot come back: {trip.away} of {trip.pieces} are out.",
            "Count again; what came from another trip is written there.",
            "pieces",
        )
    if not 0 <= rejects <= pieces:
        raise BadEntry(f"{rejects} of {pieces} cannot be bad.", "Count those that are not good.", "rejects")
    return CameBack(trip.number, pieces, rejects, " ".join(command.note.split())[:LONGEST])


@apply.register
def _apply_sent(body: SentOut, state: RunState, line: LogLine) -> None:
    state.trips.append(
        Trip(
            line.seq, line.at, line.who, body.what, body.to, body.pieces, body.promised, body.cents, body.mask
        )
    )


@apply.register
def _apply_back(body: CameBack, state: RunState, line: LogLine) -> None:
    state.trips[:] = [
        replace(one, back=one.back + body.pieces, rejects=one.rejects + body.rejects, back_at=line.at)
        if one.number == body.trip
        else one
        for one in state.trips
    ]


@sentence.register
def _say_sent(body: SentOut, _state: RunState, _seq: int) -> str:
    promised = f", promised for {body.promised}" if body.promised else ""
    return f"{counted(body.pieces, 'piece')} to {body.to} for {body.what}{promised}."


@sentence.register
def _say_back(body: CameBack, state: RunState, _seq: int) -> str:
    trip = next((one for one in state.trips if one.number == body.trip), None)
    of = f" from {trip.to}, {trip.away} still out" if trip is not None else ""
    bad = f"; {body.rejects} not good" if body.rejects else ""
    return f"{counted(body.pieces, 'piece')} back{of}{bad}."
