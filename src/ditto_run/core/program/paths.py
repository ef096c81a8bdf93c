"""Lines and arcs of a tool's tip: how long, where each point is, and how much of them lies inside a blank; exact at each crossing."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import atan2, ceil, cos, dist, floor, hypot, pi, sin, sqrt

from ditto_run.core.program.given import BoxBlank, RoundBlank, Three

ON_MM = 1e-6  # on the surface is outside
FULL = 2 * pi
ALIKE = 1e6  # places and turns are the same to a part of this of a millimetre or radian
PLANES: dict[str, tuple[int, int, int]] = {"17": (0, 1, 2), "18": (2, 0, 1), "19": (1, 2, 0)}
"""First and second axis of a plane, counter-clockwise from one to the other, and the third."""


@dataclass(frozen=True, slots=True)
class Line:
    """A straight move between two points. [mm]."""

    start: Three
    end: Three

    @property
    def length(self) -> float:
        """How long it is, [mm]."""
        return dist(self.start, self.end)

    def at(self, t: float) -> Three:
        """Return a point of it, 0 at its start and 1 at its end."""
        (x, y, z), (u, v, w) = self.start, self.end
        return x + (u - x) * t, y + (v - y) * t, z + (w - z) * t

    def tangents(self) -> tuple[Three, Three]:
        """Return the unit directions at its two ends; its length is above 0."""
        (a, b, c), (u, v, w) = self.start, self.end
        long = dist(self.start, self.end)
        way = (u - a) / long, (v - b) / long, (w - c) / long
        return way, way

    def crossings(self, axis: int, at: float) -> list[float]:
        """Return where an axis has a value, as shares of the way."""
        a, b = self.start[axis], self.end[axis]
        return [(at - a) / (b - a)] if (a - at) * (b - at) < 0 else []

    def turns(self) -> list[Three]:
        """Return points at which an axis turns round: none."""
        return []


@dataclass(frozen=True, slots=True)
class Arc:
    """An arc or helix.

    Args:
        start, end: its ends. [mm]
        plane: its code: 17, 18 or 19.
        centre: along the two axes of the plane. [mm]
        radius: that is followed. [mm]
        begin, sweep: angle at its start, and how far it goes round, clockwise below 0. [rad]
    """

    start: Three
    end: Three
    plane: str
    centre: tuple[float, float]
    radius: float
    begin: float
    sweep: float

    @property
    def length(self) -> float:
        """How long it is, [mm]."""
        third = PLANES[self.plane][2]
        return hypot(self.radius * self.sweep, self.end[third] - self.start[third])

    def at(self, t: float) -> Three:
        """Return a point of it, 0 at its start and 1 at its end."""
        first, second, third = PLANES[self.plane]
        found = [0.0, 0.0, 0.0]
        angle = self.begin + self.sweep * t
        found[first] = self.centre[0] + self.radius * cos(angle)
        found[second] = self.centre[1] + self.radius * sin(angle)
        found[third] = self.start[third] + (self.end[third] - self.start[third]) * t
        return found[0], found[1], found[2]

    def tangents(self) -> tuple[Three, Three]:
        """Return the unit directions at its two ends."""
        return self._tangent(self.begin), self._tangent(self.begin + self.sweep)

    def _tangent(self, angle: float) -> Three:
        first, second, third = PLANES[self.plane]
        flat = self.radius * self.sweep / self.length
        found = [0.0, 0.0, 0.0]
        found[first], found[second] = -sin(angle) * flat, cos(angle) * flat
        found[third] = (self.end[third] - self.start[third]) / self.length
        return found[0], found[1], found[2]

    def crossings(self, axis: int, at: float) -> list[float]:
        """Return where an axis has a value, as shares of the way."""
        first, second, third = PLANES[self.plane]
        if axis == third:
            a, b = self.start[third], self.end[third]
            return [(at - a) / (b - a)] if (a - at) * (b - at) < 0 else []
        off = (at - self.centre[axis == second]) / self.radius if self.radius else 2.0
        if abs(off) >= 1:
            return []
        base = atan2(sqrt(1 - off * off), off) if axis == first else atan2(off, sqrt(1 - off * off))
        other = -base if axis == first else pi - base
        return [t for angle in (base, other) for t in self._shares(angle)]

    def _shares(self, angle: float) -> Iterator[float]:
        """Every time round at which it passes an angle."""
        low, high = sorted((0.0, self.sweep))
        for n in range(
            ceil((low + self.begin - angle) / FULL), floor((high + self.begin - angle) / FULL) + 1
        ):
            yield (angle + n * FULL - self.begin) / self.sweep

    def turns(self) -> list[Three]:
        """Return the points at which an axis of its plane turns round."""
        low, high = sorted((self.begin, self.begin + self.sweep))
        first = ceil(low / (pi / 2) - 1e-9)
        last = min(floor(high / (pi / 2) + 1e-9), first + 3)
        return [self.at((n * pi / 2 - self.begin) / self.sweep) for n in range(first, last + 1)]


Path = Line | Arc
LOOKED_AT = (0.37, 0.71)  # shares of a part: one of them may just touch a side
WITHIN = ((0.0, 1.0, True),)
OUTSIDE = ((0.0, 1.0, False),)


def inside_box(blank: BoxBlank, at: Three, grown: float) -> bool:
    """Return whether a point lies inside a block; on its surface is outside.

    Args:
        blank: the block.
        at: the point. [mm]
        grown: its sides by this. [mm]
    """
    return (
        blank.low[0] - grown + ON_MM < at[0] < blank.high[0] + grown - ON_MM
        and blank.low[1] - grown + ON_MM < at[1] < blank.high[1] + grown - ON_MM
        and blank.low[2] + ON_MM < at[2] < blank.high[2] - ON_MM
    )


def inside_round(blank: RoundBlank, at: Three) -> bool:
    """Return whether a point lies inside a bar: within its diameter and length, and not in its hole."""
    radius = abs(at[0])
    return (
        max(blank.hole_mm / 2 - ON_MM, -1.0) < radius < blank.across_mm / 2 - ON_MM
        and not radius < blank.hole_mm / 2 + ON_MM * (blank.hole_mm > 0)
        and blank.z_mm[0] + ON_MM < at[2] < blank.z_mm[1] - ON_MM
    )


def _surfaces(blank: BoxBlank | RoundBlank, grown: float) -> list[tuple[int, float]]:
    """Axis and value of each surface of a blank."""
    if isinstance(blank, RoundBlank):
        radii = [r for r in (blank.across_mm / 2, blank.hole_mm / 2) if r > 0]
        return [(0, side * r) for r in radii for side in (1, -1)] + [(2, z) for z in blank.z_mm]
    more = (grown, grown, 0.0)
    return [(n, blank.low[n] - more[n]) for n in range(3)] + [(n, blank.high[n] + more[n]) for n in range(3)]


def _inside(blank: BoxBlank | RoundBlank, at: Three, grown: float) -> bool:
    return inside_round(blank, at) if isinstance(blank, RoundBlank) else inside_box(blank, at, grown)


def parts_of(
    path: Path, blank: BoxBlank | RoundBlank | None, grown: float
) -> Sequence[tuple[float, float, bool]]:
    """Return a path in parts: from and to as shares of the way, and whether each lies inside the blank.

    Args:
        path: with a length.
        blank: None where there is none; all of it is inside then.
        grown: the sides of a block by this. [mm]

    Source:
        Own derivation: between two crossings a point says where the part lies; a second one, where the first just touches a side.
    """
    if blank is None:
        return WITHIN
    if isinstance(path, Line) and isinstance(blank, BoxBlank):
        if inside_box(blank, path.start, grown) and inside_box(blank, path.end, grown):
            return WITHIN  # a block has no hollow
        if min(path.start[2], path.end[2]) >= blank.high[2] - ON_MM:
            return OUTSIDE
    cuts = sorted({t for axis, at in _surfaces(blank, grown) for t in path.crossings(axis, at) if 0 < t < 1})
    found: list[tuple[float, float, bool]] = []
    for low, high in zip((0.0, *cuts), (*cuts, 1.0), strict=True):
        within = any(_inside(blank, path.at(low + (high - low) * share), grown) for share in LOOKED_AT)
        if found and found[-1][2] is within:
            found[-1] = (found[-1][0], high, within)
        else:
            found.append((low, high, within))
    return found
