"""Measuring a pitch diameter over three wires."""

from dataclasses import dataclass
from decimal import Decimal
from math import cos, radians, sin, tan

from ditto_run.core.errors import BadEntry
from ditto_run.core.threads.thread import Band, Thread
from ditto_run.core.units import rounded

LEAST, MOST = Decimal("0.505"), Decimal("1.010")  # wires that still touch the flanks at 60°, over the pitch
NEAR_BEST = (Decimal("0.94"), Decimal("1.25"))  # the same of other forms, over the best wire; own judgement
SIXTY = 60


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
    """Return the reading over three wires: M = E − P/2 cot(α/2) + W (1 + 1/sin(α/2)), at 60° E − 0.866025 P + 3 W.

    Args:
        thread: of any form, α between its flanks.
        pitch_limits: limits of the pitch diameter. [unit of the thread]
        wire: diameter of the wires; the best ones, P/2 / cos(α/2), if None. [unit of the thread]

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
    half = radians(thread.form / 2)
    best = _exact(0.5 / cos(half)) * thread.pitch
    used = best if wire is None else wire
    least, most = (
        (LEAST * thread.pitch, MOST * thread.pitch)
        if thread.form == SIXTY
        else (NEAR_BEST[0] * best, NEAR_BEST[1] * best)
    )
    if not least <= used <= most:
        raise BadEntry(
            f"Wires of {used:f} {thread.unit} do not touch the flanks.",
            f"Use {least:.4f} to {most:.4f} {thread.unit}; best is {best:.4f}.",
            "wire",
        )
    add = _exact(1 + 1 / sin(half)) * used - _exact(0.5 / tan(half)) * thread.pitch
    reading = Band(*(None if end is None else end + add for end in (pitch_limits.low, pitch_limits.high)))
    return OverWires(best, used, reading)


def _exact(value: float) -> Decimal:
    """Return a factor to twelve places, so that 3 is 3, [-]."""
    return rounded(Decimal(repr(value)), 12)
