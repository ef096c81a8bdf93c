"""Limits of unified inch threads."""

from decimal import ROUND_HALF_EVEN, Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.threads.metric import MINOR_DEPTH, PITCH_DEPTH, ROOT_DEPTH
from ditto_run.core.threads.thread import Band, Side, Thread, ThreadLimits
from ditto_run.core.units import rounded

CLASSES = {"external": ("1A", "2A", "3A"), "internal": ("1B", "2B", "3B")}
PITCH_FACTOR = {"1A": "1.5", "2A": "1", "3A": "0.75", "1B": "1.95", "2B": "1.3", "3B": "0.975"}
LARGE = Decimal("0.25")  # from here on the minor diameter of 1B and 2B goes by pitch alone
COARSE_PER_INCH = 4  # coarser pitches than this
TWELVE = 12
BY_SIZE = {4, 6, 8}  # constant-pitch series whose length of engagement is the diameter
THREE_PLACES = Decimal("0.138")  # #6


def unified_limits(thread: Thread, side: Side, tolerance_class: str = "") -> ThreadLimits:
    """Return the limits of a unified thread.

    Args:
        thread: of family unified, or custom in inches, 60° form.
        side: internal or external.
        tolerance_class: 1A, 2A, 3A outside; 1B, 2B, 3B inside; class 2 if empty.

    Returns:
        The limits as the standard rounds and prints them. [in]

    Raises:
        BadEntry: if the class is unknown or on the wrong side.

    Source:
        [b1.1] formulas: Td2 = 0.0015 D^⅓ + 0.0015 √LE + 0.015 P^⅔ with LE = D for the coarse, fine, 4-, 6- and
        8-thread series and 9 P for the others. The rounding is from memory, held to printed rows by the tests.

    Example:
        >>> from ditto_run.core.threads import read_thread
        >>> unified_limits(read_thread("1/4-20 UNC"), "external", "2A").pitch
        Band(low=Decimal('0.2127'), high=Decimal('0.2164'))
    """
    name = (tolerance_class or ("2B" if side == "internal" else "2A")).strip().upper()
    if name not in CLASSES[side]:
        raise BadEntry(
            f"“{tolerance_class[:20]}” is no class of a unified {side} thread.",
            f"Known are {', '.join(CLASSES[side])}.",
            "tolerance_class",
        )
    td2 = rounded(pitch_tolerance(thread), 6)
    basic_pitch = _tenth(thread.major - PITCH_DEPTH * thread.pitch)
    width = _tenth(Decimal(PITCH_FACTOR[name]) * td2)
    if side == "external":
        allowance = Decimal(0) if name == "3A" else _allowance(td2)
        top, pitch_top = _tenth(thread.major) - allowance, basic_pitch - allowance
        root = thread.major - ROOT_DEPTH * thread.pitch - allowance
        return ThreadLimits(
            side,
            name,
            "in",
            Band(top - major_tolerance(thread, name), top),
            Band(pitch_top - width, pitch_top),
            Band(None, _tenth(root)),
        )
    pitch = Band(basic_pitch, basic_pitch + width)
    return ThreadLimits(side, name, "in", Band(_tenth(thread.major), None), pitch, _minor(thread, name))


def _allowance(td2: Decimal) -> Decimal:
    """Return 0.3 of the class 2A tolerance as printed, half a tenth to the even figure, [in].

    0.0055 of 5/8-11 gives 0.00165, and the standard prints 0.0016.
    """
    return (Decimal("0.3") * _tenth(td2)).quantize(Decimal("0.0001"), ROUND_HALF_EVEN)


def _minor(thread: Thread, name: str) -> Band:
    """Return the minor diameter's limits as the standard rounds them, [in].

    From #6 up, class 1B and 2B have three places, and the least diameter of 3B three places written with a nought;
    below #6, and for the largest of 3B, four places.
    """
    low = thread.major - MINOR_DEPTH * thread.pitch
    width = minor_tolerance(thread, name)
    fine = _tenth(low) + _tenth(width)
    if thread.major < THREE_PLACES:
        return Band(_tenth(low), fine)
    if name == "3B":
        return Band(_tenth(rounded(low, 3)), fine)
    return Band(rounded(low, 3), rounded(low + width, 3))


def _tenth(value: Decimal) -> Decimal:
    return rounded(value, 4)


def _power(value: Decimal, exponent: float) -> Decimal:
    return Decimal(repr(float(value) ** exponent))


def pitch_tolerance(thread: Thread) -> Decimal:
    """Return Td2, the pitch diameter tolerance of class 2A, before rounding, [in]. Source: [b1.1]."""
    by_size = thread.series in {"UNC", "UNF"} or (thread.series == "UN" and thread.per_inch in BY_SIZE)
    engaged = thread.major if by_size else 9 * thread.pitch
    return (
        Decimal("0.0015") * _power(thread.major, 1 / 3)
        + Decimal("0.0015") * _power(engaged, 0.5)
        + Decimal("0.015") * _power(thread.pitch, 2 / 3)
    )


def major_tolerance(thread: Thread, tolerance_class: str) -> Decimal:
    """Return the tolerance of the major diameter, 0.06 P^⅔, 0.09 for class 1A, [in]. Source: [b1.1]."""
    factor = Decimal("0.09") if tolerance_class == "1A" else Decimal("0.06")
    return rounded(factor * _power(thread.pitch, 2 / 3), 4)


def minor_tolerance(thread: Thread, tolerance_class: str) -> Decimal:
    """Return the tolerance of an internal thread's minor diameter before rounding, [in]. Source: [b1.1]."""
    pitch, per_inch = thread.pitch, thread.per_inch
    by_pitch = (
        Decimal("0.15") * pitch
        if per_inch < COARSE_PER_INCH
        else Decimal("0.25") * pitch - Decimal("0.4") * pitch**2
    )
    by_size = (
        Decimal("0.05") * _power(pitch, 2 / 3) + Decimal("0.03") * pitch / thread.major - Decimal("0.002")
    )
    most = Decimal("0.394") * pitch
    if tolerance_class != "3B":
        return by_pitch if thread.major >= LARGE else max(min(by_size, most), by_pitch)
    least = (
        Decimal("0.120") * pitch
        if per_inch <= TWELVE
        else Decimal("0.23") * pitch - Decimal("1.5") * pitch**2
    )
    return max(min(by_size, most), least)
