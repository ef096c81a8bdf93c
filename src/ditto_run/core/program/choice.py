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
        counts: tool changes, and length of its rapids, from which the machine's times are learned. [1, mm]
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
    counts: tuple[int, float] = (0, 0.0)

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
