"""Tapping: the drill, the share of thread it leaves, what that does to torque and strength, and how deep."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from math import pi, sqrt
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.threads.thread import Thread

TAN_30 = 1 / sqrt(3)
FLAT = 0.125  # width of the tap's crest over the pitch
SHEAR_OF_TENSILE = 0.5  # equal materials shear at half their tensile strength; [machinery]
Tap = Literal["taper", "plug", "bottoming"]
CHAMFER_THREADS: dict[Tap, Decimal] = {"taper": Decimal(9), "plug": Decimal(4), "bottoming": Decimal("1.5")}


def hole_for_percent(thread: Thread, percent: Decimal) -> Decimal:
    """Return the hole that leaves so much thread: major − percent × 1.299 P at 60°, [unit of the thread].

    Raises:
        BadEntry: if `percent` is not between 1 and 100.

    Source:
        [machinery] tap drill formula; 100 % is 3/4 of the height of a sharp 60° thread.

    Example:
        >>> from ditto_run.core.threads import read_thread
        >>> round(hole_for_percent(read_thread("1/4-20"), Decimal(75)), 4)
        Decimal('0.2013')
    """
    if not 1 <= percent <= 100:  # noqa: PLR2004 - per cent
        raise BadEntry(
            f"{percent} % of thread is not possible.", "Type 1 to 100; 60 to 75 is usual.", "percent"
        )
    return thread.major - percent / 100 * thread.full_depth


def percent_of_hole(thread: Thread, hole: Decimal) -> Decimal:
    """Return the share of thread that a hole leaves; below 0 if it is larger than the thread, [%].

    Args:
        thread: the thread.
        hole: diameter of the hole. [unit of the thread]

    Source:
        [machinery] tap drill formula, the other way round.
    """
    return 100 * (thread.major - hole) / (thread.full_depth)


def relative_torque(thread: Thread, percent: Decimal, against: Decimal) -> float:
    """Return how many times the cutting torque of one share of thread is that of another.

    The tap takes out a trapezium from the hole to the major diameter; torque goes as its area times its
    mean radius; of 60° form. Friction on the flanks, which grows too, is left out, so the truth is rather more.

    Args:
        thread: the thread.
        percent: the one share, 1 to 100. [%]
        against: the other. [%]

    Source:
        Own derivation.
    """
    return _moment(thread, percent) / _moment(thread, against)


def _moment(thread: Thread, percent: Decimal) -> float:
    pitch, radius = float(thread.pitch), float(thread.major) / 2
    height = radius - float(hole_for_percent(thread, percent)) / 2
    area = height * (FLAT * pitch + height * TAN_30)
    return area * (radius - height / 2)


def tensile_area(thread: Thread) -> float:
    """Return the tensile stress area, [unit²].

    Inch: π/4 (D − 0.9743 P)²; metric: π/4 ((d2 + d3)/2)² = π/4 (d − 0.938194 P)².

    Source:
        [b1.1] appendix B for inch threads, [iso898] for metric ones.

    Example:
        >>> from ditto_run.core.threads import read_thread
        >>> round(tensile_area(read_thread("1/4-20")), 4)
        0.0318
    """
    lost = 0.9743 if thread.unit == "in" else 0.938194
    return pi / 4 * (float(thread.major) - lost * float(thread.pitch)) ** 2


def shear_area_per_length(thread: Thread, hole: Decimal, smallest_pitch: Decimal) -> float:
    """Return the area over which the screw's thread shears, per unit of engaged length, [unit²/unit].

    AS = π n K (1/(2n) + 0.57735 (E − K)), with K the hole and E the screw's least pitch diameter.

    Args:
        thread: the thread.
        hole: minor diameter of the internal thread. [unit of the thread]
        smallest_pitch: least pitch diameter of the external thread. [unit of the thread]

    Source:
        [h28] section 2; the package of docs/sources.md prints the same.
    """
    per_unit, minor = 1 / float(thread.pitch), float(hole)
    return max(0.0, pi * per_unit * minor * (1 / (2 * per_unit) + TAN_30 * (float(smallest_pitch) - minor)))


def engagement_to_break_screw(thread: Thread, hole: Decimal, smallest_pitch: Decimal) -> float:
    """Return the engagement from which the screw breaks before its thread strips, [unit of the thread].

    For a screw and a hole of equal strength: L = At / (0.5 AS per length). A softer hole wants more.

    Raises:
        BadEntry: if the hole leaves no thread to hold.

    Source:
        [machinery] length of engagement, Le = 2 At / (π K (1/2 + 0.57735 n (E − K))).
    """
    area = shear_area_per_length(thread, hole, smallest_pitch)
    if area <= 0:
        raise BadEntry("That hole leaves no thread to hold.", "Choose a smaller drill.", "hole")
    return tensile_area(thread) / (SHEAR_OF_TENSILE * area)


@dataclass(frozen=True, slots=True)
class BlindHole:
    """How deep a blind hole must be drilled.

    Args:
        chamfer: length of the tap's lead. [unit]
        drilled: depth of full diameter: thread, lead and one pitch of room for chips. [unit]
        with_point: the same with the drill's point. [unit]
    """

    chamfer: Decimal
    drilled: Decimal
    with_point: Decimal


def blind_hole(thread: Thread, full_thread: Decimal, tap: Tap, hole: Decimal) -> BlindHole:
    """Return how deep to drill for a depth of full thread.

    Args:
        thread: the thread.
        full_thread: depth of full thread wanted. [unit of the thread]
        tap: taper (9 threads of lead), plug (4) or bottoming (1.5).
        hole: drill, of 118° point. [unit of the thread]

    Raises:
        BadEntry: if the depth is not above zero.

    Source:
        Leads: common practice, no source. Point: 0.3004 of the drill at 118°, own derivation.
    """
    if full_thread <= 0:
        raise BadEntry(
            "The depth of full thread is above zero.", "Type how deep the thread must be full.", "depth"
        )
    chamfer = CHAMFER_THREADS[tap] * thread.pitch
    drilled = full_thread + chamfer + thread.pitch
    return BlindHole(chamfer, drilled, drilled + Decimal("0.3004") * hole)


@dataclass(frozen=True, slots=True)
class TapDrill:
    """One drill for a thread.

    Args:
        name: as it is called, such as #7, F, 13/64 or 5.1 mm.
        diameter_mm: exact. [mm]
        percent: share of thread it leaves. [%]
        within: True if the hole lies within the minor diameter limits.
    """

    name: str
    diameter_mm: Decimal
    percent: Decimal
    within: bool


def tap_drills(
    thread: Thread, drills: Sequence[tuple[str, Decimal]], limits_mm: tuple[Decimal, Decimal], wanted: Decimal
) -> list[TapDrill]:
    """Return the drills of a drawer for a thread, nearest to the wanted share first.

    Args:
        thread: the thread.
        drills: name and diameter of each. [mm]
        limits_mm: least and largest minor diameter. [mm]
        wanted: share of thread wanted. [%]

    Returns:
        Those that leave 30 to 100 % of thread.

    Source:
        [machinery] tap drill formula.
    """
    found = []
    scale = thread.mm(Decimal(1))
    for name, diameter in drills:
        percent = percent_of_hole(thread, diameter / scale)
        if 30 <= percent <= 100:  # noqa: PLR2004 - per cent
            found.append(TapDrill(name, diameter, percent, limits_mm[0] <= diameter <= limits_mm[1]))
    return sorted(found, key=lambda drill: abs(drill.percent - wanted))
