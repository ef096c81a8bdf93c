"""A block of offsets proven by the reader of programs: it sets what is meant, where it is meant, and nothing else."""

from collections.abc import Iterable

from ditto_run.core.errors import NotNow
from ditto_run.core.place.offsets import Axis, Offset
from ditto_run.core.plan.programmed import meanings_of, usual_dialect
from ditto_run.core.program.given import Given
from ditto_run.core.program.reader import read_program
from ditto_run.core.shop import Machine

NEARLY_MM = 0.002  # what writing a number in inches loses
BEFORE = (1000.0, 1000.0, 1000.0)  # what stands there before, so that a word that adds to it shows
AXES: tuple[Axis, ...] = ("x", "y", "z")


def prove_block(text: str, machine: Machine, offsets: Iterable[Offset]) -> None:
    """Read a text of G10 back by the machine's own table, and hold it to the register.

    Args:
        text: as it would be taken out.
        machine: whose control reads it.
        offsets: that it has to set, of those the dialect can.

    Raises:
        NotNow: if it does not set them so.
    """
    wanted = list(offsets)
    before = dict.fromkeys((one.code for one in wanted), BEFORE)
    tally = read_program(text, Given(meanings_of(machine, usual_dialect(machine)), offsets=before)).tally
    read = {code: axes for _, code, axes in tally.g10}
    wrong = next((one.line for one in tally.faults), next((line for line, _ in tally.unknown), 0))
    for offset in wanted:
        axes = {
            axis: value for axis in AXES if axis in offset.axes and (value := offset.mm(axis)) is not None
        }
        there = read.pop(offset.code, {})
        if axes.keys() - there.keys() or any(
            abs(there[axis] - float(mm)) > NEARLY_MM for axis, mm in axes.items()
        ):
            raise NotNow(
                f"{offset.code} does not read back as it stands in the register.",
                "Look at how the control reads G10 on Shop, Table; the block is not offered so.",
            )
    if read or wrong:
        raise NotNow(
            f"The block sets more than is meant, or has a word the control does not know, at line {wrong}.",
            "Look at how the control reads G10 on Shop, Table; the block is not offered so.",
        )
