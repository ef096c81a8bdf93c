"""Reads a program: bytes and what is told beside them to what was taken."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from ditto_run.core.errors import BadEntry
from ditto_run.core.program.blocks import MOST_BYTES, block_of, lines_of, text_of
from ditto_run.core.program.given import Given
from ditto_run.core.program.interpret import Interpreter
from ditto_run.core.program.tally import Tally, as_document
from ditto_run.core.program.trace import Trace

EVERY = 5_000  # lines between two words of progress
MOST_LEADER = 200  # lines before the first mark that are looked at


@dataclass(frozen=True, slots=True)
class ProgramRead:
    """What was taken from a program.

    Args:
        tally: all of it.
        simple_s: by length and feed alone; without rapids where their rate is not known. [s]
        trapezoid_s: by a machine that gathers speed; None where that is not known. [s]
        dwell_s, change_s: parts of both. [s]
        rapid_s: part of the first. [s]
        given: what was told.
        trace: its way, for a picture.
    """

    tally: Tally
    simple_s: float
    trapezoid_s: float | None
    dwell_s: float
    change_s: float
    given: Given
    trace: Trace
    rapid_s: float = 0.0

    @property
    def is_whole(self) -> bool:
        """True if nothing in it was left out that could have changed a figure."""
        tally = self.tally
        return not (tally.unknown or tally.not_followed or tally.not_timed or tally.limits)

    def as_document(self) -> dict[str, Any]:
        """Return it in the form of an answer."""
        dialect = self.given.dialect
        times = {
            "simple": self.simple_s,
            "trapezoid": self.trapezoid_s,
            "dwell": self.dwell_s,
            "tool_change": self.change_s,
        }
        by = 2.0 if dialect.turns and dialect.x == "diameter" else 1.0
        return as_document(self.tally, times, turned=dialect.turns, by=by)


def read_program(raw: bytes | str, given: Given, told: Callable[[float], None] | None = None) -> ProgramRead:
    """Return what is taken from a program.

    Args:
        raw: its text, or its bytes.
        given: what is told beside it.
        told: is told how much of it was read, 0 to 1.

    Raises:
        BadEntry: if it is too large, no text, or no program.

    Source:
        RS-274/NGC version 3 and what shops' controls make of it, from memory; held to [programs].
    """
    if len(raw) > MOST_BYTES:
        raise BadEntry("The file is over 20 MB.", "Read it in parts.", "program")
    text = text_of(raw) if isinstance(raw, bytes) else raw
    if text is None:
        raise BadEntry("This is not a text.", "Choose the program as the control reads it.", "program")
    begin = _begin(text)
    reader = _read(text, begin, Interpreter(given), told)
    if not reader.blocks_seen:
        raise BadEntry("There is no block in it.", "Choose the program that is run.", "program")
    if not reader.words_seen:
        raise BadEntry(
            "This is not a program: no line of it holds a word of one.", "Choose another file.", "program"
        )
    if reader.tally.g10:  # the blanks stand where the offsets are left
        reader = _read(text, begin, Interpreter(given, reader.mover.offsets), told)
    clock = reader.clock
    known = given.slides.rapid_mm_min is not None and given.slides.accel_mm_s2 is not None
    return ProgramRead(
        reader.tally,
        clock.simple_s,
        clock.trapezoid_s if known else None,
        clock.dwell_s,
        clock.change_s,
        given,
        reader.mover.trace,
        clock.rapid_s,
    )


def _read(text: str, begin: int, reader: Interpreter, told: Callable[[float], None] | None) -> Interpreter:
    """Read line by line; what stands before the first mark and behind the end is said once and not run."""
    number = 0
    read, streak, about = reader.read, reader.streak, max(text.count("\n"), 1)
    for number, line in enumerate(lines_of(text), 1):
        if told is not None and not number % EVERY:
            told(number / about)
        if number <= begin or not line or (streak.on and streak.take(number, line)):
            continue
        bare = line.strip()
        if reader.ended:
            if bare not in {"", "%"}:
                reader.tally.fault(number, "after_end")
        elif bare == "%":
            reader.ended = number > begin + 1
        elif bare:
            reader.blocks_seen = True
            read(number, line)
    if begin > 1:
        reader.tally.notes.append((1, "What stands before the first % is not run."))
    reader.tally.lines = number
    reader.finish_up()
    return reader


def _begin(text: str) -> int:
    """How many lines stand before the program: all to its first mark, unless a block stands before that one."""
    for n, line in enumerate(lines_of(text), 1):
        bare = line.strip()
        if bare == "%":
            return n
        block = block_of(n, line[:1000])
        if n > MOST_LEADER or (not block.is_empty and not block.unknown):
            return 0
    return 0
