"""What the Run page says: the call, the reading asked for, the answer, the held pieces, the pace."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from typing import Literal

from ditto_run.core.part import Characteristic
from ditto_run.core.run import events as ev
from ditto_run.core.run.due import due_pieces, due_sizes, is_final
from ditto_run.core.run.events.reading import recent_value, setup_for, setups_for
from ditto_run.core.run.loads import finished, good, next_load, next_number, waiting_elsewhere
from ditto_run.core.run.outlook import NO_DAY, Pace, PartCount, counts, pace, part_counts
from ditto_run.core.run.require import tried
from ditto_run.core.run.said import last_said
from ditto_run.core.run.state import Gauging, Piece, RunState
from ditto_run.core.run.strip import Strip, build
from ditto_run.core.run.where import Handled, are_unlike, handled, moves, side_words
from ditto_run.core.run.words import (
    ReadingAnswer,
    answer,
    answer_value,
    decimals_for,
    numbers_text,
    stations_text,
)
from ditto_run.core.shop.day import ShopDay
from ditto_run.core.units import counted, value_text

Next = Literal["gauge", "accept", "start", "end", "decide", "close", "closed", "open_setup"]
EARLIER = 3  # earlier loads shown in the jaws


@dataclass(frozen=True, slots=True)
class Call:
    """The one thing to do next.

    Args:
        next: which thing it is; it gets the brass.
        say: the sentence.
        why: the quiet line below it.
        piece: the piece meant; 0 if none.
        station: the station meant; empty if none.
    """

    next: Next
    say: str
    why: str
    piece: int = 0
    station: str = ""


@dataclass(frozen=True, slots=True)
class ReadingLine:
    """One dimension of the piece in hand: its mark in words, its reading."""

    characteristic: Characteristic
    gauging: Gauging | None
    answer: ReadingAnswer | None
    text: str


@dataclass(frozen=True, slots=True)
class Jaws:
    """The tolerance as jaws: limits, the reading, the master's quiet band, earlier readings of the station."""

    characteristic: Characteristic
    station: str
    value: Decimal | None
    master: Decimal | None
    earlier: tuple[tuple[int, Decimal], ...]
    answer: ReadingAnswer | None
    title: str
    decimals: int = 3


@dataclass(frozen=True, slots=True)
class HeldGroup:
    """Held pieces and why."""

    pieces: tuple[int, ...]
    why: str


@dataclass(frozen=True, slots=True)
class Board:
    """Everything the Run page draws.

    Args:
        starts: number of the load that can be started now; 0 if none can.
        not_gauged: pieces that block closing because no check covers them, once that matters.
        by_part: how each part stands; nothing where a job has one.
        hands: what the hands do at each station before the load that comes next, where stations are unlike.
    """

    call: Call
    piece: Piece | None
    lines: tuple[ReadingLine, ...]
    asked: Characteristic | None
    short_from: str
    jaws: Jaws | None
    held: tuple[HeldGroup, ...]
    counts: dict[str, int]
    pace: Pace
    strip: Strip | None
    due: tuple[int, ...]
    last_said: str
    last_reading: bool
    starts: int
    not_gauged: tuple[int, ...]
    by_part: tuple[PartCount, ...] = ()
    hands: tuple[Handled, ...] = ()


def held_groups(state: RunState) -> list[HeldGroup]:
    """Return the held pieces, those held for one reason together, and why.

    Only pieces that stand held are looked at when there are any, so a clean run costs nothing.
    """
    if not state.counts["held"] + state.counts["rework"]:
        return []
    groups: dict[str, list[int]] = {}
    for number, piece in state.pieces.items():
        if piece.standing == "rework":
            groups.setdefault(f"sent to rework: {piece.reason}", []).append(number)
        elif piece.standing == "held":
            groups.setdefault(_why_held(state, piece), []).append(number)
    return [HeldGroup(tuple(numbers), why) for why, numbers in groups.items()]


def _why_held(state: RunState, piece: Piece) -> str:
    if piece.hold_reason:
        return piece.hold_reason
    if piece.out:
        gauging = piece.out[0]
        characteristic = state.plan_of(piece, gauging.setup).characteristic(gauging.characteristic)
        return f"{piece.number} at {piece.made[gauging.setup].station}: {characteristic.name} {answer(state, gauging).words}"
    names = ", ".join(c.name for c in state.plan.all_characteristics if c.number in piece.suspect)
    return f"not gauged beside a piece with {names} out of limits; gauge to release"


def call(state: RunState, due: Sequence[int], piece: Piece | None, asked: Characteristic | None) -> Call:
    """Return the one thing to do next, with its reason."""
    if state.closed_at is not None:
        return Call("closed", "This batch is closed.", "Its report is on Close.")
    cutting = state.running
    running = f"Load {cutting.number} is cutting." if cutting else ""
    if piece is not None and asked is not None:
        setup = setup_for(state, piece, asked.number)
        load, station, _, _ = piece.made[setup]
        side = f", {side_words(state, setup)}" if are_unlike(state) or state.plan.companions else ""
        origin = f"From station {station}, load {load}{side}. {running}".strip()
        verb = "Check" if asked.by_gauge_only else "Gauge"
        return Call(
            "gauge", f"{verb} the {asked.name} on piece {piece.number}.", origin, piece.number, station
        )
    if cutting is None and (wanted := _before_the_next_load(state)):
        return wanted
    if cutting is not None:
        return Call(
            "end",
            running.removesuffix(".") + ": end it when done.",
            f"{_pieces_words(cutting.pieces)}. {len(due) or 'Nothing'} to gauge.",
            0,
            cutting.stations[0].station,
        )
    stations = next_load(state)
    if stations:
        labels = stations_text(
            sorted(loaded.station for loaded in stations)
            if are_unlike(state)
            else [loaded.station for loaded in stations]
        )
        pieces = [n for loaded in stations for n in loaded.pieces]
        return Call(
            "start",
            f"Load {labels}, then start load {next_number(state)}.",
            moves(state, stations) if are_unlike(state) else f"{_pieces_words(pieces)}.",
            0,
            stations[0].station,
        )
    return _finished(state)


def _pieces_words(pieces: Sequence[int]) -> str:
    return f"{'Piece' if len(pieces) == 1 else 'Pieces'} {numbers_text(pieces)}"


def _before_the_next_load(state: RunState) -> Call | None:
    """Return what a person must do before another load: accept the master, or decide on an outside piece."""
    for setup in state.here.setups:
        if setup in state.here.masters:
            continue
        able = [n for n in tried(state, setup) if _may_be_master(state, state.pieces[n])]
        ready = sorted(able, key=lambda n: bool(state.pieces[n].out))
        if ready:
            return _to_accept(state, state.pieces[ready[0]], setup)
    undecided = (
        [p for p in state.pieces.values() if p.standing == "held" and p.out] if state.counts["held"] else []
    )
    if not undecided:
        return None
    first = undecided[0]
    why = _why_held(state, first)
    return Call(
        "decide", f"Decide on piece {first.number}.", why, first.number, _station(state, first.number)
    )


def _to_accept(state: RunState, piece: Piece, setup: int) -> Call:
    why = "Everything after it is compared with it."
    if len(state.here.setups) > 1:
        why = f"What {state.plan.setup(setup).name} makes after it is compared with it."
    if piece.out:
        why = "It is out of limits and was accepted as it is; cutting another is safer."
    say = f"Accept piece {piece.number} as the master?"
    return Call("accept", say, why, piece.number, _station(state, piece.number))


def _may_be_master(state: RunState, piece: Piece) -> bool:
    """Return True if a piece is good so far and every critical size of this setup is gauged on it."""
    fit = piece.standing in {"good", "reworked", "spare", "not gauged"}
    return fit and not any(c.grade == "critical" for c in state.missing(piece))


def _finished(state: RunState) -> Call:
    if state.counts["held"] + state.counts["rework"]:
        return Call("decide", "Decide on the held pieces.", "Then it is known how many are missing.")
    if not any(state.here.composition.values()):
        return Call("decide", "Every station is off.", "Switch one on under Stations.")
    elsewhere = waiting_elsewhere(state)
    if elsewhere is not None:
        why = f"{counted(good(state), 'good piece')} went through this setup."
        return Call("open_setup", f"Go on with {state.plan.cycle(elsewhere).name}.", why)
    wanted, whole = state.plan.wanted, finished(state)
    if state.counts["not gauged"]:
        bare = [piece.number for piece in state.pieces.values() if piece.standing == "not gauged"]
        return Call(
            "decide", f"{_pieces_words(bare)} not gauged.", "Gauge them, or take them with the reason."
        )
    taken = sum(p.outcome == "taken" and p.standing == "good" for p in state.pieces.values())
    trust = f", {taken} of them taken without gauging" if taken else ""
    count = f"{'All ' if whole >= wanted else ''}{whole} of {wanted} are good{trust}."
    return Call("close", f"{count} Close the batch.", "Count, report, and keep what was learned.")


def _station(state: RunState, number: int) -> str:
    piece = state.pieces[number]
    return piece.made[state.setup_of(piece)].station


def jaws(
    state: RunState, piece: Piece, characteristic: Characteristic, value: Decimal | None, decimals: int
) -> Jaws:
    """Return the jaws for a dimension of a piece; the value, [the size's unit], may be only typed yet, or missing."""
    setup = setup_for(state, piece, characteristic.number)
    load, station, _, _ = piece.made[setup]
    run = state.run_of(piece, setup)
    lane = run.lanes.get((station, characteristic.number), {})
    made_there = run.at_station[station]
    earlier = [
        (number, gauging.value)
        for number, other in made_there[-60:]
        if number < load and (gauging := lane.get(other)) is not None and gauging.value is not None
    ]
    middle = state.middle_line(characteristic, setup, run)
    found = answer_value(value, decimals, characteristic, middle) if value is not None else None
    shown = (
        value_text(value, characteristic.size.unit, decimals) if value is not None else "nothing typed yet"
    )
    title = f"{characteristic.name}, piece {piece.number}: {shown}"
    return Jaws(
        characteristic,
        station,
        value,
        state.master_value(characteristic, setup, run),
        tuple(earlier[-EARLIER:]),
        found,
        title,
        decimals,
    )


def _lines(state: RunState, piece: Piece) -> tuple[ReadingLine, ...]:
    found = []
    for setup in reversed(setups_for(state, piece)):
        plan = state.plan_of(piece, setup)
        here = {c.number for c in state.gauged_in(setup, plan)}
        for characteristic in plan.owner_of(setup).characteristics:
            gauging = piece.last(setup, characteristic.number)
            if characteristic.number not in here and gauging is None:
                continue
            reply = answer(state, gauging) if gauging else None
            found.append(ReadingLine(characteristic, gauging, reply, reply.shown if reply else ""))
    return tuple(found)


def board(  # noqa: PLR0913 - what a page looks at
    state: RunState,
    now: datetime,
    piece: int = 0,
    dimension: int = 0,
    first_load: int | None = None,
    *,
    strip: bool = True,
    day: ShopDay = NO_DAY,
) -> Board:
    """Return everything the Run page draws.

    Args:
        state: the run.
        now: the moment it is asked.
        piece: a piece chosen by hand; 0 takes the next one due.
        dimension: a dimension chosen by hand; 0 takes the first not gauged.
        first_load: first load of the strip's window in a long run.
        day: when the shop works.
        strip: False leaves the strip out, for an answer that redraws only what changed.

    Returns:
        The board. Its cost depends on what is shown, not on the length of the run.
    """
    due = due_pieces(state) if state.closed_at is None else []
    chosen = state.pieces.get(piece) or (state.pieces[due[0]] if due else None)
    if chosen is None and state.here.recent:
        chosen = state.pieces[max(state.here.recent.values(), key=lambda gauging: gauging.seq).piece]
    asked: Characteristic | None = None
    lines: tuple[ReadingLine, ...] = ()
    if chosen is not None:
        lines = _lines(state, chosen)
        due_now = {c.number for c in due_sizes(state, chosen)} if chosen.number in due else set()
        open_sizes = {c.number for c in state.missing(chosen)} if piece else due_now
        missing = [line.characteristic for line in lines if line.characteristic.number in open_sizes]
        missing.sort(key=lambda c: c.number not in due_now)
        named = [line.characteristic for line in lines if line.characteristic.number == dimension]
        if named:
            asked = named[0]
        elif missing and (chosen.number in due or piece):
            asked = missing[0]
    last = _last_gauging(state)
    picture = _picture(state, last, chosen, asked, lines)
    recent = (
        recent_value(state, chosen, asked, setup_for(state, chosen, asked.number))
        if asked is not None and chosen is not None
        else None
    )
    wanted = call(state, due, chosen, asked)
    return Board(
        wanted,
        chosen,
        lines,
        asked,
        "" if recent is None else f"{recent:f}",
        picture,
        tuple(held_groups(state)),
        counts(state),
        pace(state, now, day),
        build(state, due, first_load) if strip else None,
        tuple(due),
        last_said(state),
        last is not None,
        _starts(state),
        _not_gauged(state),
        part_counts(state) if state.plan.companions else (),
        _hands(state) if wanted.next == "start" else (),
    )


def _hands(state: RunState) -> tuple[Handled, ...]:
    return handled(state, next_load(state)) if are_unlike(state) else ()


def _not_gauged(state: RunState) -> tuple[int, ...]:
    """Return the pieces that no check covers: when nothing is left to cut, or if they counted good when the run began."""
    if not state.counts["not gauged"] or not (is_final(state) or state.rules == 1):
        return ()
    return tuple(piece.number for piece in state.pieces.values() if piece.standing == "not gauged")


def _starts(state: RunState) -> int:
    """Return the load that can be started now; 0 while one is cutting or no piece waits."""
    if state.running is not None or state.closed_at is not None or not next_load(state):
        return 0
    return next_number(state)


def _picture(
    state: RunState,
    last: Gauging | None,
    chosen: Piece | None,
    asked: Characteristic | None,
    lines: Sequence[ReadingLine],
) -> Jaws | None:
    """Return the jaws: of the reading just recorded, else of what is asked for, else of the piece in hand."""
    if last is not None and last.value is not None:
        return _jaws_of(state, last)
    if chosen is None:
        return None
    if asked is not None:
        return None if asked.by_gauge_only else jaws(state, chosen, asked, None, 0)
    measured = [line.gauging for line in lines if line.gauging is not None and line.gauging.value is not None]
    return _jaws_of(state, measured[0]) if measured else None


def _jaws_of(state: RunState, gauging: Gauging) -> Jaws:
    piece = state.pieces[gauging.piece]
    characteristic = state.plan_of(piece, gauging.setup).characteristic(gauging.characteristic)
    return jaws(
        state, piece, characteristic, gauging.value, decimals_for(characteristic.size, gauging.decimals)
    )


def _last_gauging(state: RunState) -> Gauging | None:
    for event in reversed(state.recent_events):
        if isinstance(event.body, ev.Reading | ev.Correction):
            return state.gaugings.get(event.seq)
        if not isinstance(event.body, ev.Note):
            return None
    return None
