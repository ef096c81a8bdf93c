"""Flat shapes of features: a disc, a rectangle with or without round corners, and any ring of corners."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from math import cos, pi, sin, sqrt
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from shapely import Polygon

Spot = tuple[float, float]
Span = tuple[float, float]
SIDES = 96  # corners a circle is drawn with where areas are cut from each other
QUARTER = SIDES // 4
ARC = pi / 2 / sin(pi / 2 / QUARTER)
FULL = (sqrt(1 + (QUARTER - 2) * ARC) - 1) / (
    QUARTER - 2
)  # the same for a corner whose two ends stay where they are
EVEN = sqrt(2 * pi / SIDES / sin(2 * pi / SIDES))  # radius at which the corners enclose the circle's own area


@dataclass(frozen=True)
class Disc:
    """A circle."""

    x: float
    y: float
    r: float

    @property
    def bounds(self) -> tuple[float, float, float, float]:
        """Least x and y, largest x and y, [mm]."""
        return self.x - self.r, self.y - self.r, self.x + self.r, self.y + self.r

    @cached_property
    def polygon(self) -> "Polygon":
        """The same area with corners."""
        from shapely import Polygon  # noqa: PLC0415 - shapely takes 0.2 s, and few pages need it

        r = self.r * EVEN
        turns = [2 * pi * (i + 0.5) / SIDES for i in range(SIDES)]
        return Polygon([(self.x + r * cos(a), self.y + r * sin(a)) for a in turns])

    def spans(self, at: float, *, upright: bool) -> list[Span]:
        """Return what a line cuts of it: upright at this x, else level at this y, [mm]."""
        middle, other = (self.x, self.y) if upright else (self.y, self.x)
        half = self.r**2 - (at - middle) ** 2
        return [(other - sqrt(half), other + sqrt(half))] if half > 0 else []

    def moved(self, x: float, y: float) -> "Disc":
        """Return it moved."""
        return Disc(self.x + x, self.y + y, self.r)


@dataclass(frozen=True)
class Oblong:
    """A rectangle whose corners may be round."""

    left: float
    low: float
    right: float
    high: float
    r: float = 0.0

    @property
    def bounds(self) -> tuple[float, float, float, float]:
        """Least x and y, largest x and y, [mm]."""
        return self.left, self.low, self.right, self.high

    @cached_property
    def polygon(self) -> "Polygon":
        """The same area with corners."""
        from shapely import Polygon, box  # noqa: PLC0415 - as above

        if not self.r:
            return box(*self.bounds)
        middles = (
            (self.right - self.r, self.high - self.r, 0.0),
            (self.left + self.r, self.high - self.r, pi / 2),
            (self.left + self.r, self.low + self.r, pi),
            (self.right - self.r, self.low + self.r, 3 * pi / 2),
        )
        corners: list[Spot] = []
        for x, y, start in middles:
            for i in range(QUARTER + 1):
                r = self.r * (FULL if 0 < i < QUARTER else 1.0)
                turn = start + pi / 2 * i / QUARTER
                corners.append((x + r * cos(turn), y + r * sin(turn)))
        return Polygon(corners)

    def spans(self, at: float, *, upright: bool) -> list[Span]:
        """Return what a line cuts of it: upright at this x, else level at this y, [mm]."""
        low, high, start, end = (
            (self.left, self.right, self.low, self.high)
            if upright
            else (self.low, self.high, self.left, self.right)
        )
        if not low < at < high:
            return []
        into = max(low + self.r - at, at - (high - self.r), 0.0)
        lost = self.r - sqrt(max(self.r**2 - into**2, 0.0))
        return [(start + lost, end - lost)]

    def moved(self, x: float, y: float) -> "Oblong":
        """Return it moved."""
        return Oblong(self.left + x, self.low + y, self.right + x, self.high + y, self.r)


@dataclass(frozen=True)
class Contour:
    """An area by its corners, once round."""

    corners: tuple[Spot, ...]

    @cached_property
    def bounds(self) -> tuple[float, float, float, float]:
        """Least x and y, largest x and y, [mm]."""
        xs, ys = zip(*self.corners, strict=True)
        return min(xs), min(ys), max(xs), max(ys)

    @cached_property
    def polygon(self) -> "Polygon":
        """It as a polygon."""
        from shapely import Polygon  # noqa: PLC0415 - as above

        return Polygon(self.corners)

    def spans(self, at: float, *, upright: bool) -> list[Span]:
        """Return what a line cuts of it: upright at this x, else level at this y, [mm]."""
        this, other = (0, 1) if upright else (1, 0)
        hits: list[float] = []
        for a, b in zip(self.corners, (*self.corners[1:], self.corners[0]), strict=True):
            low, high = min(a[this], b[this]), max(a[this], b[this])
            if low <= at < high:
                share = (at - a[this]) / (b[this] - a[this])
                hits.append(a[other] + share * (b[other] - a[other]))
        hits.sort()
        return list(zip(hits[::2], hits[1::2], strict=False))

    def moved(self, x: float, y: float) -> "Contour":
        """Return it moved."""
        return Contour(tuple((a + x, b + y) for a, b in self.corners))


Shape = Disc | Oblong | Contour


def joined(spans: Sequence[Span]) -> list[Span]:
    """Return stretches that overlap or touch as one each, in order, [mm]."""
    found: list[Span] = []
    for low, high in sorted(spans):
        if found and low <= found[-1][1]:
            found[-1] = found[-1][0], max(found[-1][1], high)
        else:
            found.append((low, high))
    return found


def without(whole: Sequence[Span], gone: Sequence[Span]) -> list[Span]:
    """Return what is left of stretches once others are taken out, [mm]."""
    left = list(whole)
    for low, high in gone:
        left = [
            part
            for start, end in left
            for part in ((start, min(end, low)), (max(start, high), end))
            if part[1] - part[0] > 0
        ]
    return left
