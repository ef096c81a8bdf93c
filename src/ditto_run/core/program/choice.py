"""The program a cycle runs, as somebody chose it: its text's seal, how it was read, what was said of it; and its troubles."""

from dataclasses import dataclass

MOST_FAULTS = 100  # that are kept with a choice; the rest is counted


@dataclass(frozen=True, slots=True)
class KeptFault:
    """A fault as it was said when the program was chosen: line, kind, the word it is about, seconds in the air."""

    line: int
    kind: str
    word: str = ""
    seconds: float = 0.0


@dataclass(frozen=True, slots=True)
class TimeParts:
    """What the time of a program is made of.

    Args:
        feed_s: moves at feed and dwells, by length and feed alone. [s]
        changes: of tools.
        rapid_mm: along the axis that takes longest, of each rapid. [mm]
        gather_mm_s: what gathering speed costs, times the acceleration; 0 while that is not known. [mm/s]
    """

    feed_s: float
    changes: int
    rapid_mm: float
    gather_mm_s: float


@dataclass(frozen=True, slots=True)
class ProgramChoice:
    """The program of one cycle.

    Args:
        key: of the cycle.
        file: its name.
        seal: of its text.
        dialect: table of meanings by which it was read.
        zero, top: where its zero stands on the piece.
        seconds: it takes. [s]
        is_whole: nothing in it was left out that could have changed a figure.
        faults: that were said.
        more: faults beyond those that are kept.
        tools, offsets: of the plan it was compared with.
        drawing: revision of the drawing it was chosen for.
        parts: what its time is made of, from which the machine's times are learned; None of an older choice.
    """

    key: int
    file: str
    seal: str
    dialect: str
    zero: str = ""
    top: str = "finished"
    seconds: float = 0.0
    is_whole: bool = True
    faults: tuple[KeptFault, ...] = ()
    more: int = 0
    tools: tuple[int, ...] = ()
    offsets: tuple[str, ...] = ()
    drawing: str = ""
    parts: TimeParts | None = None

    @property
    def name(self) -> str:
        """What it is called where a change of it is told."""
        return "program"


@dataclass(frozen=True, slots=True)
class Trouble:
    """Something that went wrong with a program at the machine, and what mended it.

    Args:
        key: its lasting number in the job.
        cycle: whose program it was.
        what: went wrong.
        file: the program, and the line it stood at.
        mended: what helped; empty while nobody knows.
    """

    key: int
    cycle: int
    what: str
    file: str = ""
    mended: str = ""

    @property
    def name(self) -> str:
        """What it is called where a change of it is told."""
        return f"trouble {self.what}"
