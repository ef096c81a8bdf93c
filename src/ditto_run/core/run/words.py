"""What a reading is answered with, to the eye and to the ear."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.part import Characteristic
from ditto_run.core.run.state import Gauging, Piece, RunState
from ditto_run.core.run.verdict import Verdict, is_quiet, judge, slip, tone_hz
from ditto_run.core.sizes import Size, read_value
from ditto_run.core.units import Unit, bare_text, capital, said_small, small_text, value_text

FEW = 2  # so many pieces are named singly
MANY = 4  # so many stations in a row are said as a range


@dataclass(frozen=True, slots=True)
class ReadingAnswer:
    """What one reading is answered with.

    Args:
        words: the verdict in words.
        away: the distance from the middle, in both units.
        said: the same for the ear.
        quiet: True for a ditto.
        inside: False if it is out of limits or NO-GO.
        tone_hz: pitch of the second stroke. [Hz]
        slip: −1 to 1 between the limits, 0 at the master. [-]
        shown: the reading with its unit.
    """

    words: str
    away: str
    said: str
    quiet: bool
    inside: bool
    tone_hz: float
    slip: float
    shown: str


def decimals_for(size: Size, typed: int) -> int:
    """Return the decimals a reading is shown with: those typed, at least the drawing's."""
    return max(size.decimals, typed)


def verdict_words(verdict: Verdict, size: Size) -> str:
    """Return the verdict in words: `7 µm inside the lower limit`."""
    if verdict.inside_by is None:
        return "no limits"
    small = small_text(verdict.inside_by, size.unit).split(" (")[0]
    if not verdict.inside_by:
        return f"on the {verdict.near} limit, inside"
    if verdict.side == "inside":
        return f"{small} inside the {verdict.near} limit"
    return f"{small} {'over the upper' if verdict.side == 'over' else 'under the lower'} limit"


def away_words(from_middle: Decimal, size: Size) -> str:
    """Return how far a reading is from the middle, [the size's unit]: `23 µm (0.9 thou) under 20.000`."""
    middle = bare_text(size.middle, size.unit, max(size.decimals, 3 if size.unit == "mm" else 4))
    if not from_middle:
        return f"exactly {middle}"
    return f"{small_text(from_middle, size.unit)} {'over' if from_middle > 0 else 'under'} {middle}"


def answer_value(
    value: Decimal,
    decimals: int,
    characteristic: Characteristic,
    middle_line: Decimal,
    *,
    has_master: bool = True,
) -> ReadingAnswer:
    """Return the answer to a measured size.

    Args:
        value: the reading. [size's unit]
        decimals: decimals to show it with.
        characteristic: what was gauged.
        middle_line: the master's reading, or the middle before there is one. [size's unit]
        has_master: False before there is one: then nothing is ditto yet.
    """
    size = characteristic.size
    verdict = judge(value, size.unit, size)
    inside = verdict.side == "inside" or characteristic.grade == "free"
    quiet = inside and is_quiet(value, middle_line, size)
    slipped = slip(value, middle_line, size)
    away = value - middle_line
    if not inside:
        limit = said_small(verdict.inside_by or Decimal(0), size.unit)
        said = f"{'Over' if verdict.side == 'over' else 'Under'} the limit by {limit}. Stop."
    elif quiet:
        said = "Ditto." if has_master else "Near the middle."
    else:
        said = f"{'Up' if away > 0 else 'Down'} {said_small(away, size.unit)}."
        if verdict.inside_by is not None:
            said += f" {said_small(verdict.inside_by, size.unit)} inside the limit."
    return ReadingAnswer(
        verdict_words(verdict, size),
        away_words(verdict.from_middle, size),
        said,
        quiet,
        inside,
        tone_hz(slipped),
        slipped,
        value_text(value, size.unit, decimals),
    )


def answer(state: RunState, gauging: Gauging) -> ReadingAnswer:
    """Return the answer to a reading of the log."""
    piece = state.pieces[gauging.piece]
    characteristic = state.plan_of(piece, gauging.setup).characteristic(gauging.characteristic)
    if gauging.value is None:
        went = bool(gauging.go)
        words = "GO goes in, NO-GO does not" if went else "NO-GO: out of limits"
        return ReadingAnswer(
            words,
            "",
            "Go." if went else "No-go. Stop.",
            went,
            went,
            440.0 if went else 880.0,
            0.0 if went else 1.01,
            gauging.text,
        )
    decimals = decimals_for(characteristic.size, gauging.decimals)
    run = state.run_of(piece, gauging.setup)
    middle = state.middle_line(characteristic, gauging.setup, run)
    compared = state.master_value(characteristic, gauging.setup, run) is not None
    return answer_value(gauging.value, decimals, characteristic, middle, has_master=compared)


def mark_words(
    state: RunState, piece: Piece, setup: int, worst: tuple[Characteristic, Gauging, float] | None
) -> str:
    """Return the name of a piece's mark: where it was made, how it stands, its worst dimension and how far of its side that is, [1]."""
    made = piece.made[setup]
    text = f"Piece {piece.number}, station {made.station}, load {made.load}, "
    run = state.cycles[made.cycle]
    if run.masters.get(setup) == piece.number:
        text += "master, "
    if piece.standing not in {"good", "cutting", "not gauged"}:
        text += f"{piece.standing}, "
    if piece.outcome == "as_is":
        text += "accepted as it is, "
    if piece.outcome == "taken":
        text += "taken without gauging, "
    if piece.standing == "cutting":
        return text + "cutting"
    if worst is None:
        return text + ("not gauged" if piece.standing == "not gauged" else "covered by the checks beside it")
    characteristic, gauging, slipped = worst
    if gauging.value is None:
        return f"{text}{characteristic.number} {characteristic.name} {gauging.text}"
    shown = value_text(
        gauging.value, characteristic.size.unit, decimals_for(characteristic.size, gauging.decimals)
    )
    away = gauging.value - state.middle_line(characteristic, setup, run)
    if abs(slipped) and away:
        small = said_small(away, characteristic.size.unit)
        return f"{text}{characteristic.number} {characteristic.name} {shown}, {small} {'over' if away > 0 else 'under'} the master"
    return f"{text}{characteristic.number} {characteristic.name} {shown}"


def gauged_words(state: RunState, seq: int, text: str) -> str:
    """Return the sentence for the line of a reading: what was gauged where, the answer, and what it led to."""
    gauging = state.gaugings.get(seq)
    if gauging is None:
        return f"Reading {text}, undone."
    piece = state.pieces[gauging.piece]
    name = state.plan_of(piece, gauging.setup).characteristic(gauging.characteristic).name
    station = piece.made[gauging.setup].station
    start = f"{capital(name)}, piece {piece.number}, station {station}"
    reply = answer(state, gauging)
    if gauging.rough:
        return f"{start}, in mid-cut: {reply.shown}. {reply.away}. To be cut again."
    held = f" Held: piece {piece.number}." if gauging.made_held else ""
    return f"{start}: {reply.shown}. {reply.said}{held}"


def numbers_text(pieces: Sequence[int]) -> str:
    """Return piece numbers in words: 3, 4 and 5 as `3 to 5`."""
    if len(pieces) > FEW and pieces[-1] - pieces[0] == len(pieces) - 1:
        return f"{pieces[0]} to {pieces[-1]}"
    return " and ".join(map(str, pieces)) if len(pieces) <= FEW else ", ".join(map(str, pieces))


def ranges_text(pieces: Sequence[int]) -> str:
    """Return piece numbers as they are typed, runs as ranges: `8-12, 14`."""
    runs: list[list[int]] = []
    for number in pieces:
        if runs and number == runs[-1][-1] + 1:
            runs[-1][1:] = [number]
        else:
            runs.append([number])
    return ", ".join("-".join(map(str, run)) for run in runs)


def stations_text(labels: Sequence[str]) -> str:
    """Return stations as they are said, many in a row as a range.

    Example:
        >>> stations_text(["A1", "A2", "A3", "A4", "B1"])
        'A1 to A4, B1'
    """
    rows: list[list[str]] = []
    for label in labels:
        if rows and _next_label(rows[-1][-1]) == label:
            rows[-1].append(label)
        else:
            rows.append([label])
    return ", ".join(f"{row[0]} to {row[-1]}" if len(row) >= MANY else ", ".join(row) for row in rows)


def _next_label(label: str) -> str:
    """Return the label after one, such as A2 after A1 or B after A; empty where none follows."""
    letters = label.rstrip("0123456789")
    if letters != label:
        return f"{letters}{int(label[len(letters) :]) + 1}"
    return f"{label[:-1]}{chr(ord(label[-1]) + 1)}" if label[-1:].isalpha() else ""


def typed_value(text: str, unit: Unit) -> tuple[Decimal, int, Unit]:
    """Return a reading as typed: its value, how many decimals, and its unit.

    Raises:
        BadEntry: if it is no number.
    """
    try:
        return read_value(text, unit)
    except BadEntry:
        raise BadEntry(
            f"“{text[:30]}” is not a reading.", "Type the number on the gauge, such as 19.977.", "text"
        ) from None
