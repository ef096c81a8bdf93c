"""Measuring a pitch diameter over three wires."""

from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.threads.thread import Band, Thread

BEST = Decimal("0.577350269")
LEAST, MOST = Decimal("0.505"), Decimal("1.010")  # wires that still touch the flanks, over the pitch
CLEARANCE = Decimal("0.866025404")


@dataclass(frozen=True, slots=True)
class OverWires:
    """What to read over three wires.

    Args:
        best: wire that touches at the pitch line. [unit]
        wire: wire used. [unit]
        reading: limits of the reading. [unit]
    """

    best: Decimal
    wire: Decimal
    reading: Band


def over_wires(thread: Thread, pitch_limits: Band, wire: Decimal | None = None) -> OverWires:
    """Return the reading over three wires, M = E − 0.866025 P + 3 W.

    Args:
        thread: of 60° form.
        pitch_limits: limits of the pitch diameter. [unit of the thread]
        wire: diameter of the wires; the best ones if None. [unit of the thread]

    Returns:
        Limits of the reading. The helix is left out: under 0.01 mm for single-start threads.

    Raises:
        BadEntry: if the wires would not touch the flanks.

    Source:
        [b1.2] three-wire measurement, 60°; own derivation from the triangle.

    Example:
        >>> from ditto_run.core.threads import read_thread
        >>> round(over_wires(read_thread("1/4-20"), Band(None, Decimal("0.2175"))).best, 5)
        Decimal('0.02887')
    """
    best = BEST * thread.pitch
    used = best if wire is None else wire
    if not LEAST * thread.pitch <= used <= MOST * thread.pitch:
        raise BadEntry(
            f"Wires of {used:f} {thread.unit} do not touch the flanks.",
            f"Use {LEAST * thread.pitch:.4f} to {MOST * thread.pitch:.4f} {thread.unit}; best is {best:.4f}.",
            "wire",
        )
    add = 3 * used - CLEARANCE * thread.pitch
    reading = Band(*(None if end is None else end + add for end in (pitch_limits.low, pitch_limits.high)))
    return OverWires(best, used, reading)
