"""Judges one reading, exactly: on the limit is inside, for every inch and millimetre value."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.sizes import Size
from ditto_run.core.units import Unit, convert, to_base

Side = Literal["inside", "over", "under"]
QUIET = Decimal(1) / Decimal(3)  # the quiet band reaches a third of the way to the nearer limit
MIDDLE_HALF = Decimal("0.5")


@dataclass(frozen=True, slots=True)
class Verdict:
    """What a reading means.

    Args:
        side: inside the limits, over the upper or under the lower one.
        from_middle: reading minus the middle of the limits, else minus the nominal. [size's unit]
        inside_by: distance to the nearer limit, negative outside; None without limits. [size's unit]
        near: the limit it is nearer to, lower or upper; empty without limits.
    """

    side: Side
    from_middle: Decimal
    inside_by: Decimal | None
    near: Literal["", "lower", "upper"]


def side_of(value: Decimal, unit: Unit, size: Size) -> Side:
    """Return on which side of the limits a reading, [unit], lies; exact, and inside on a limit or without limits."""
    own = size.unit
    if unit != own:  # compared in the base unit, where both are whole decimals
        value = to_base(value, unit)
    upper, lower = size.upper, size.lower
    if upper is not None and value > (upper if unit == own else to_base(upper, own)):
        return "over"
    if lower is not None and value < (lower if unit == own else to_base(lower, own)):
        return "under"
    return "inside"


def judge(value: Decimal, unit: Unit, size: Size) -> Verdict:
    """Return the verdict on a reading. The comparison is exact in the base unit.

    Args:
        value: the reading. [unit]
        unit: unit of the reading; mm and in may be mixed with the drawing's.
        size: what the drawing says.

    Returns:
        The verdict; always inside if there are no limits.

    Example:
        >>> from ditto_run.core.sizes import read_size
        >>> judge(Decimal("20.03"), "mm", read_size("20 ±0.03", "mm")).side
        'inside'
    """
    own = convert(value, unit, size.unit)
    gaps = [
        (gap, name)
        for gap, name in (
            (None if size.lower is None else own - size.lower, "lower"),
            (None if size.upper is None else size.upper - own, "upper"),
        )
        if gap is not None
    ]
    inside_by, near = min(gaps) if gaps else (None, "")
    return Verdict(side_of(value, unit, size), own - size.middle, inside_by, near)  # type: ignore[arg-type]


def slip(value: Decimal, master: Decimal, size: Size) -> float:
    """Return where a reading stands between the master (0) and the limit (±1).

    Each side has its own scale, so that different dimensions share a lane.

    Args:
        value: the reading. [size's unit]
        master: the master's reading, else the middle of the limits. [size's unit]
        size: what the drawing says.

    Returns:
        0 at the master, 1 at the upper limit, −1 at the lower, beyond ±1 outside; 0 without limits. [-]

    Source:
        [design] §3, own derivation.
    """
    away = value - master
    if not away or not size.has_limits:
        return 0.0
    room_up = None if size.upper is None else size.upper - master
    room_down = None if size.lower is None else master - size.lower
    room = room_up if away > 0 else room_down
    if room is None:
        room = room_down if away > 0 else room_up
    if room is None or room <= 0:
        return 1.01 if away > 0 else -1.01  # the master itself is on or past the limit
    return float(away / room)


def is_quiet(value: Decimal, master: Decimal, size: Size) -> bool:
    """Return True if the reading repeats the master, both [the size's unit]: within a third of the smaller side."""
    sides = [
        abs(limit - master) for limit in (size.lower, size.upper) if limit is not None and limit != master
    ]
    return not sides or abs(value - master) <= min(sides) * QUIET


def tone_hz(slipped: float) -> float:
    """Return the pitch of the second stroke: 440 Hz at the master, one octave to the limit.

    The result is in hertz.

    Source: [design] §7.

    Example:
        >>> tone_hz(1.0)
        880.0
    """
    return float(440.0 * 2.0 ** max(-2.0, min(2.0, slipped)))
