"""A program read in the process for long work."""

from ditto_run.core.program.given import Given
from ditto_run.core.program.reader import ProgramRead, read_program
from ditto_run.desk.desk import Desk
from ditto_run.store.programs import Program

__all__ = ["Program", "program_again", "program_read", "program_read_soon", "program_stopped"]
LIMIT_S = 120.0  # of a program of 20 MB
WAIT_S = 0.6  # a page waits so long before it is shown without


def program_read(desk: Desk, text: str, given: Given) -> ProgramRead:
    """Return what is taken from a program.

    Args:
        desk: the desk.
        text: of the program.
        given: what is told beside it.

    Raises:
        BadEntry: if it is no program.
        NotNow: if it takes too long.
    """
    return desk.worker.run_within(LIMIT_S, read_program, text, given)


def program_read_soon(desk: Desk, text: str, given: Given) -> ProgramRead:
    """Return the same; it is kept, and asked again it is there at once.

    Raises:
        BadEntry: if it is no program.
        BeingWorkedOut: if it is not read yet.
        NotNow: if it was stopped, or took too long.
    """
    return desk.worker.solve(read_program, text, given, wait_s=WAIT_S, patient=False)


def program_stopped(desk: Desk, text: str, given: Given) -> None:
    """Stop reading a program; it stays so until it is asked for again."""
    desk.worker.stop(read_program, text, given)


def program_again(desk: Desk, text: str, given: Given) -> None:
    """Read a program that was stopped once more."""
    desk.worker.again(read_program, text, given)
