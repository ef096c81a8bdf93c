"""Pieces were tried together with what they go with, or proved in their function: what on what, and how it went."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.entry.plain import read_plain
from ditto_run.core.errors import BadEntry
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.require import require_pieces, require_text
from ditto_run.core.run.state import FitTried, FunctionProved, RunState
from ditto_run.core.run.words import ranges_text

LONGEST = 120
LONGEST_UNIT = 12
HowFits = Literal["goes", "snug", "loose", "not"]
HOW_FITS: dict[HowFits, str] = {
    "goes": "goes as it should",
    "snug": "goes with force",
    "loose": "has too much play",
    "not": "does not go",
}
"""How pieces go together, in words."""


@dataclass(frozen=True, slots=True)
class TryFit:
    """Pieces were tried with what they go with, before a finish or packing: which, with what, how it went."""

    pieces: str
    with_what: str
    how: HowFits = "goes"
    note: str = ""
    kind: Literal["try_fit"] = "try_fit"


@dataclass(frozen=True, slots=True)
class TriedFit:
    """Pieces were tried with what they go with."""

    pieces: tuple[int, ...]
    with_what: str
    how: HowFits
    note: str = ""
    kind: Literal["tried_fit"] = "tried_fit"


@dataclass(frozen=True, slots=True)
class ProveFunction:
    """A function was proved on pieces: what, its limits and unit, what it read; without a figure whether it works."""

    pieces: str
    what: str
    least: str = ""
    most: str = ""
    unit: str = ""
    reading: str = ""
    works: str = ""
    kind: Literal["prove_function"] = "prove_function"


@dataclass(frozen=True, slots=True)
class ProvedFunction:
    """A function was proved on pieces. [unit as said]."""

    pieces: tuple[int, ...]
    what: str
    least: Decimal | None
    most: Decimal | None
    unit: str
    reading: Decimal | None
    works: bool
    kind: Literal["proved_function"] = "proved_function"


def _alive(state: RunState, text: str) -> tuple[int, ...]:
    pieces = require_pieces(state, text)
    for number in pieces:
        if state.pieces[number].standing in {"scrap", "lost"}:
            raise BadEntry(f"Piece {number} is {state.pieces[number].standing}.", "Leave it out.", "pieces")
    return pieces


@decide.register
def _try(command: TryFit, state: RunState, _now: Now) -> TriedFit:
    pieces = _alive(state, command.pieces)
    with_what = require_text(command.with_what, "with_what", "what it was tried with, such as pin 3")
    return TriedFit(
        pieces, " ".join(with_what.split())[:LONGEST], command.how, " ".join(command.note.split())[:LONGEST]
    )


@decide.register
def _prove(command: ProveFunction, state: RunState, _now: Now) -> ProvedFunction:
    pieces = _alive(state, command.pieces)
    what = require_text(command.what, "what", "what is proved, such as turns by hand")
    least, most, reading = (
        read_plain(text, name) if text.strip() else None
        for name, text in (("least", command.least), ("most", command.most), ("reading", command.reading))
    )
    if least is not None and most is not None and least > most:
        raise BadEntry(f"The least, {least}, is above the most, {most}.", "Swap them.", "most")
    if reading is None and not (least is most is None):
        raise BadEntry("The reading is missing.", "Type what it read, or leave the limits out.", "reading")
    if reading is not None and least is most is None:
        raise BadEntry("No limit is said for it.", "Type the least, the most, or both.", "most")
    if reading is None and command.works not in {"yes", "no"}:
        raise BadEntry("Whether it works is not said.", "Choose yes or no, or type a reading.", "works")
    works = command.works == "yes"
    if reading is not None:
        works = (least is None or reading >= least) and (most is None or reading <= most)
    unit = " ".join(command.unit.split())[:LONGEST_UNIT]
    return ProvedFunction(pieces, " ".join(what.split())[:LONGEST], least, most, unit, reading, works)


@apply.register
def _apply_fit(body: TriedFit, state: RunState, line: LogLine) -> None:
    state.fits.append(FitTried(line.seq, line.at, line.who, body.pieces, body.with_what, body.how, body.note))


@apply.register
def _apply_function(body: ProvedFunction, state: RunState, line: LogLine) -> None:
    state.functions.append(
        FunctionProved(
            line.seq,
            line.at,
            line.who,
            body.pieces,
            body.what,
            body.least,
            body.most,
            body.unit,
            body.reading,
            body.works,
        )
    )


@sentence.register
def _say_fit(body: TriedFit, _state: RunState, _seq: int) -> str:
    many = "Pieces" if len(body.pieces) > 1 else "Piece"
    note = f"; {body.note.rstrip('.')}" if body.note else ""
    return f"{many} {ranges_text(body.pieces)} with {body.with_what}: {HOW_FITS[body.how]}{note}."


@sentence.register
def _say_function(body: ProvedFunction, _state: RunState, _seq: int) -> str:
    many = "Pieces" if len(body.pieces) > 1 else "Piece"
    unit = f" {body.unit}" if body.unit else ""
    read = ""
    if body.reading is not None:
        ends = [f"{body.least:f} or more"] if body.most is None else [f"{body.most:f} or less"]
        if body.least is not None and body.most is not None:
            ends = [f"{body.least:f} to {body.most:f}"]
        read = f" {body.reading:f}{unit} of {ends[0]},"
    return (
        f"{many} {ranges_text(body.pieces)}, {body.what}:{read} {'works' if body.works else 'does not work'}."
    )
