"""A cut pass by pass: diameters of a lathe, infeeds of a thread, layers of a mill, pecks of a drill."""

from dataclasses import dataclass
from math import ceil, cos, radians

from ditto_run.core.tools.cutting.motion import infeeds_mm

NEARLY = 1e-9


@dataclass(frozen=True, slots=True)
class Pass:
    """One pass.

    Args:
        at_mm: the diameter it leaves on a lathe, else how deep it goes from where it began. [mm]
        takes_mm: depth it takes, on the radius of a lathe. [mm]
        last: True for one that finishes.
    """

    at_mm: float
    takes_mm: float
    last: bool = False


def layers_of(deep_mm: float, deepest_mm: float) -> int:
    """Return in how many even layers a depth is cut.

    Args:
        deep_mm: in all. [mm]
        deepest_mm: of one layer at most; above 0. [mm]
    """
    return max(1, ceil(deep_mm / deepest_mm - NEARLY))


def turned_passes(start_mm: float, end_mm: float, deepest_mm: float, last_mm: float) -> tuple[Pass, ...]:
    """Return the passes from one diameter to another; boring goes from the smaller to the larger.

    Args:
        start_mm: diameter before. [mm]
        end_mm: diameter after. [mm]
        deepest_mm: of one roughing pass at most, on the radius. [mm]
        last_mm: left for the last pass, on the radius; 0 for roughing alone. [mm]

    Returns:
        Roughing passes of even depth, then the last one; the last one alone where no more is there.

    Source:
        Own derivation.
    """
    whole, way = abs(start_mm - end_mm) / 2, 1 if end_mm > start_mm else -1
    last = min(last_mm, whole)
    rough = whole - last
    many = layers_of(rough, deepest_mm) if rough > NEARLY else 0
    found = [Pass(start_mm + way * 2 * rough * n / many, rough / many) for n in range(1, many + 1)]
    return (*found, Pass(end_mm, last, last=True)) if last > NEARLY else tuple(found)


def thread_passes(high_mm: float, first_mm: float, least_mm: float, spring: int) -> tuple[Pass, ...]:
    """Return the infeeds of a thread, each taking the same area of chip, and passes over it at full depth.

    Args:
        high_mm: of the thread. [mm]
        first_mm: the deepest first pass. [mm]
        least_mm: a pass takes at least so much. [mm]
        spring: passes at full depth.

    Source:
        Own derivation.
    """
    depths = infeeds_mm(high_mm, first_mm, least_mm)
    found = [Pass(at, at - before) for at, before in zip(depths, (0.0, *depths), strict=False)]
    return (*found, *[Pass(high_mm, 0.0, last=True)] * spring)


def layer_passes(deep_mm: float, deepest_mm: float) -> tuple[Pass, ...]:
    """Return even layers down to a depth.

    Args:
        deep_mm: in all. [mm]
        deepest_mm: of one layer at most. [mm]
    """
    many = layers_of(deep_mm, deepest_mm)
    return tuple(Pass(deep_mm * n / many, deep_mm / many) for n in range(1, many + 1))


def peck_passes(deep_mm: float, first_mm: float, then_mm: float) -> tuple[Pass, ...]:
    """Return how deep a drill goes before it comes up each time.

    Args:
        deep_mm: in all, its point not counted. [mm]
        first_mm: the first peck. [mm]
        then_mm: each after it at most; above 0. [mm]
    """
    at = min(first_mm, deep_mm)
    found = [Pass(at, at)]
    while deep_mm - at > NEARLY:
        takes = min(then_mm, deep_mm - at)
        at += takes
        found.append(Pass(at, takes))
    return tuple(found)


def on_the_compound_mm(deep_mm: float, turned_deg: float) -> float:
    """Return how far a compound slide goes that is turned from square to the axis, so that the tool goes so deep, [mm].

    Args:
        deep_mm: square to the axis. [mm]
        turned_deg: from the cross slide's way; below 90. [°]

    Source:
        Own derivation: the slide is the long side.

    Example:
        >>> round(on_the_compound_mm(1, 60), 9)
        2.0
    """
    return deep_mm / cos(radians(turned_deg))
