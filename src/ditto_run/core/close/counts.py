"""Whether the counts of a batch add up, by part and by heat; and where a difference to the count by hand is likely to be."""

from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from math import ceil

from ditto_run.core.run.after_trips import outside_after
from ditto_run.core.run.by_hand import HAND_STEPS
from ditto_run.core.run.events.tried import HOW_FITS
from ditto_run.core.run.heats import heat_of
from ditto_run.core.run.loads import finished, good_here, to_begin
from ditto_run.core.run.state import Piece, RunState
from ditto_run.core.run.words import ranges_text
from ditto_run.core.units import counted, span_text

LEFT = ("scrap", "trial", "spare", "lost")  # what a piece becomes that is not good
WAITING = ("held", "rework", "not gauged", "cutting")


@dataclass(frozen=True, slots=True)
class CountLine:
    """How the pieces of one part or heat stand, [pieces].

    Args:
        name: of the part or heat; empty for all.
        begun: pieces.
        good: through every setup, and good.
        on_way: good so far, with setups still to come.
        left: scrap, trial, spare and lost, in this order.
        waits: held, to be reworked, not gauged or being cut.
    """

    name: str
    begun: int
    good: int
    on_way: int
    left: tuple[int, ...]
    waits: int

    @property
    def adds_up(self) -> bool:
        """True if every piece is somewhere, and nowhere twice."""
        return self.begun == self.good + self.on_way + sum(self.left) + self.waits


def count_lines(state: RunState) -> tuple[CountLine, ...]:
    """Return the counts of all pieces, then by part where there are several, then by heat where there are several.

    Args:
        state: the run.
    """
    pieces = [*state.pieces.values()]
    found = [_line(state, "", pieces)]
    names = state.plan.part_names
    if len(names) > 1:
        found += [_line(state, name, (p for p in pieces if p.part == key)) for key, name in names.items()]
    heats: dict[str, list[Piece]] = {}
    for piece in pieces:
        heats.setdefault(heat_of(state, piece), []).append(piece)
    if len(heats) > 1:
        found += [
            _line(state, f"heat {heat}" if heat else "heat not said", some) for heat, some in heats.items()
        ]
    return tuple(found)


def _line(state: RunState, name: str, pieces: Iterable[Piece]) -> CountLine:
    standings: Counter[str] = Counter()
    good = on_way = begun = 0
    for piece in pieces:
        begun += 1
        if piece.standing in {"good", "reworked"}:
            chain = state.plan.chain_of(piece.part)
            whole = not chain or chain[-1] in piece.made
            good, on_way = good + whole, on_way + (not whole)
        else:
            standings[piece.standing] += 1
    left = tuple(standings[one] for one in LEFT)
    return CountLine(name, begun, good, on_way, left, sum(standings[one] for one in WAITING))


def counted_by_hand(state: RunState) -> str:
    """Return how the count by hand stands to the log now, in a sentence; empty while nobody counted."""
    tray = state.tray
    if tray is None:
        return ""
    away = tray.pieces - good_here(state)
    if not away:
        return f"Counted by hand: {tray.pieces}, as the log says."
    how = f"{abs(away)} {'more' if away > 0 else 'fewer'}"
    return f"Counted by hand: {tray.pieces}, {how} than the log says."


def likely_places(state: RunState) -> tuple[str, ...]:
    """Return where the difference between the count by hand and the log is likely to be, the likeliest first; nothing without one.

    Args:
        state: the run.

    Source:
        Common practice, no source.
    """
    tray = state.tray
    away = 0 if tray is None else tray.pieces - good_here(state)
    if not away:
        return ()
    return tuple(_fewer(state) if away < 0 else _more(state))


def _fewer(state: RunState) -> list[str]:
    """Where pieces may be that the log holds good and nobody finds."""
    found = []
    rejects = sum(trip.rejects for trip in state.trips)
    away = sum(trip.away for trip in state.trips)
    if away:
        found.append(
            f"{counted(away, 'piece')} out for work done elsewhere: more may have gone than was written."
        )
    loads = [load for run in state.cycles.values() for load in run.loads]
    bare = [
        n
        for load in loads[-1:]
        for n in load.pieces
        if state.pieces[n].standing == "good" and not state.pieces[n].gaugings
    ]
    if bare:
        found.append(f"The last load, {ranges_text(bare)}: still in the machine, or never cut.")
    held = [p.number for p in state.pieces.values() if p.hold_reason and p.standing in {"good", "reworked"}]
    if held:
        found.append(f"Pieces once held, {ranges_text(held)}: on the shelf of those held.")
    noted = [n for _, _, _, n in state.notes if n is not None]
    if noted:
        found.append(f"Pieces with a note, {ranges_text(sorted(set(noted)))}: dinged, set aside, or lost.")
    entered = sum(load.entered for load in loads)
    if entered:
        found.append(f"{counted(entered, 'load')} written down late: one too many, or a short one.")
    if rejects:
        found.append(f"{counted(rejects, 'piece')} came back not good: thrown away with good ones.")
    found.append("The scrap bin, the trial pieces, under the machine. Mark what is not found as lost.")
    return found


def _more(state: RunState) -> list[str]:
    """Where pieces may come from that the log does not hold good."""
    found = []
    scrap = [p.number for p in state.pieces.values() if p.standing == "scrap"]
    if scrap:
        found.append(f"Scrap among the good: {ranges_text(scrap)}.")
    trial = [p.number for p in state.pieces.values() if p.standing in {"trial", "spare", "lost"}]
    if trial:
        found.append(f"Trial pieces, spares or lost ones found again: {ranges_text(trial)}.")
    away = sum(trip.away for trip in state.trips)
    if away:
        found.append(
            f"{counted(away, 'piece')} out for work done elsewhere: some came back and were not counted in."
        )
    found.append(
        "A load that was cut and never written down: Run, Late. Pieces of another batch in the tray."
    )
    return found


def left_to_do(
    state: RunState, kit_short: Sequence[str] = (), now: datetime | None = None
) -> tuple[str, ...]:
    """Return what is left to do before a batch is over, each in a sentence; nothing once all of it is done.

    Args:
        state: the run, closed or not.
        kit_short: what a kit is short of, each a sentence.
        now: the moment it is asked; what still cools or cures then is named.
    """
    found = []
    back = _back_outside(state)
    if state.closed_at is None:
        waiting = [
            p.number
            for p in state.pieces.values()
            if p.standing in {"held", "rework"} and p.number not in back
        ]
        bare = [p.number for p in state.pieces.values() if p.standing == "not gauged"]
        if waiting:
            found.append(f"Decide on {ranges_text(waiting)}.")
        if bare:
            found.append(f"Gauge {ranges_text(bare)}, or take them with the reason.")
        short = state.plan.wanted - finished(state)
        if short > 0:
            found.append(_top_up(state, short))
    if counted_by_hand(state) and likely_places(state):
        found.append("Find the difference to the count by hand.")
    for trip in state.trips:
        if trip.away:
            when = f", promised for {trip.promised}" if trip.promised else ""
            found.append(f"{counted(trip.away, 'piece')} not back from {trip.to}{when}.")
    how = "decide on it" if state.closed_at is None else "open the batch again and decide on it"
    found += [
        f"Piece {number} came back outside in {' and '.join(names)}: {how}." for number, names in back.items()
    ]
    found += _tried(state)
    found += _cooling(state, now)
    found += kit_short
    if state.closed_at is None:
        found.append("Close the batch.")
    return tuple(found)


def _back_outside(state: RunState) -> dict[int, list[str]]:
    """The pieces that are held as they came back outside, and in which dimensions."""
    gauged = {one.piece for one in state.sizes_after}
    return {
        piece.number: [c.name for c, _ in out]
        for piece in state.pieces.values()
        if piece.number in gauged and piece.standing == "held" and (out := outside_after(state, piece))
    }


def _tried(state: RunState) -> Iterator[str]:
    """What is to be tried before a finish goes on, and what was tried or proved last and does not do."""
    mated = [c for c in state.plan.all_characteristics if c.mate]
    if state.closed_at is None and mated and state.plan.finishes and not (state.fits or state.trips):
        names = ", ".join(f"{c.name} with {c.mate}" for c in mated)
        yield f"Try dry, before the finish goes on: {names}."
    newest = {(number, one.with_what.lower()): one for one in state.fits for number in one.pieces}
    open_tries: dict[int, list[int]] = {}
    for (number, _), tried in newest.items():
        if tried.how != "goes" and state.pieces[number].decided_at < tried.number:
            open_tries.setdefault(tried.number, []).append(number)
    for tried in state.fits:
        if tried.number in open_tries:
            which, how = ranges_text(open_tries[tried.number]), HOW_FITS[tried.how]  # type: ignore[index]
            yield f"{which}, tried with {tried.with_what}: {how}. Find another, or decide on it."
    proofs = {(number, one.what.lower()): one for one in state.functions for number in one.pieces}
    for (number, _), proved in proofs.items():
        if not proved.works and state.pieces[number].decided_at < proved.number:
            yield f"Piece {number} does not work, {proved.what}: decide on it."


def _cooling(state: RunState, now: datetime | None) -> Iterator[str]:
    """Pieces that cool or cure still."""
    for work in state.by_hand:
        if now is not None and work.ready_at > now:
            waits = HAND_STEPS[work.step].waits or "wait"  # type: ignore[index] # a line has one of its words
            until = f"{work.ready_at.astimezone():%a %H:%M}"
            yield f"{counted(len(work.pieces), 'piece')} {waits}: leave alone until {until}."


def _top_up(state: RunState, short: int) -> str:
    """How many are missing, and what they take by the plan, in the cycle they begin in."""
    on_way = sum(
        p.standing in {"good", "reworked"} and state.plan.chain_of(p.part)[-1:] != tuple(p.made)[-1:]
        for p in state.pieces.values()
    )
    begin = sum(to_begin(state, part.key) for part in state.plan.all_parts)
    said = [f"{short} missing to {state.plan.wanted}"]
    if on_way:
        said.append(f"{on_way} on their way")
    if begin:
        first = state.plan.all_cycles[0] if state.plan.all_cycles else None
        room = sum(one.pieces for one in first.stations) if first is not None else 0
        if first is not None and room:
            loads = ceil(begin / room)
            took = state.plan.times(first.key).load_to_load_s * loads
            time = f", {span_text(took)}" if took > 0 else ""
            said.append(
                f"{begin} to begin: {counted(loads, 'load')} of {first.name}{time}, {counted(begin, 'blank')}"
            )
        else:
            said.append(f"{begin} to begin")
    return f"{'; '.join(said)}."
