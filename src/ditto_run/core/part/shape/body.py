"""A body and what is cut from it, by straight cuts along its three directions; sections and volume.

A block lies with its left, front, bottom corner at the origin: x from left, y from front, z from bottom. A turned body
lies along x, its free end at the origin, its axis at y = z = 0.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import pairwise
from math import cos, pi, radians, sin
from typing import TYPE_CHECKING, Literal

from ditto_run.core.part.shape.boxes import groups_of
from ditto_run.core.part.shape.plane import Disc, Oblong, Shape, Span, joined, without

if TYPE_CHECKING:
    from shapely.geometry.base import BaseGeometry

Axis = Literal["x", "y", "z"]
AXES: tuple[Axis, ...] = ("x", "y", "z")
FLAT: dict[Axis, tuple[Axis, Axis]] = {"x": ("y", "z"), "y": ("x", "z"), "z": ("x", "y")}
Profile = tuple[tuple[float, float], ...]
FAR = 1e6
TINY = 1e-9
STEPS = 12  # slices between two places where a round shape begins or ends
GAUSS = (0.5 - 0.28867513459481287, 0.5 + 0.28867513459481287)  # of a slice


@dataclass(frozen=True)
class Prism:
    """What one feature takes away: a flat shape moved along one direction.

    Args:
        key: of the feature; None for stock that a face or the outside takes off.
        name: of the feature.
        axis: the direction it is moved along.
        shape: in the other two directions, in the order x, y, z. [mm]
        low, high: from where to where. [mm]
        face: the face it is cut from.
        keeps: True if what is inside the shape stays, and what is around it goes.
        thread_r: outside radius of an inside thread; None for none. [mm]
        tip: how far a drill's point runs on beyond it; not counted in volumes. [mm]
        shown: False for the inner steps of a cone.
        turn: how far the whole of it is turned round the axis of a turned part, from the top. [degrees]
    """

    key: int | None
    name: str
    axis: Axis
    shape: Shape
    low: float
    high: float
    face: str = ""
    keeps: bool = False
    thread_r: float | None = None
    tip: float = 0.0
    shown: bool = True
    turn: float = 0.0

    @cached_property
    def box(self) -> tuple[Span, Span, Span]:
        """From where to where it reaches along x, y and z, [mm]; one that keeps its inside reaches far."""
        a0, b0, a1, b1 = (-FAR, -FAR, FAR, FAR) if self.keeps else self.shape.bounds
        found = dict(zip(FLAT[self.axis], ((a0, a1), (b0, b1)), strict=True)) | {
            self.axis: (self.low, self.high)
        }
        y, z = found["y"], found["z"]
        if self.turn:
            y, z = _round_of([turned_by(self.turn, (a, b)) for a in y for b in z])
        return found["x"], y, z

    def reach(self, axis: Axis) -> Span:
        """Return from where to where its own lines run along a direction, [mm]."""
        if axis == self.axis:
            return self.low, self.high
        a0, b0, a1, b1 = self.shape.bounds
        return (a0, a1) if axis == FLAT[self.axis][0] else (b0, b1)

    @property
    def is_round(self) -> bool:
        """True if its shape has an arc."""
        return isinstance(self.shape, Disc) or (isinstance(self.shape, Oblong) and self.shape.r > 0)

    def spans(self, axis: Axis, at: float) -> list[Span]:
        """Return what a plane across one of its flat directions takes of it along the other one, [mm]."""
        found = self.shape.spans(at, upright=axis == FLAT[self.axis][0])
        return without([(-FAR, FAR)], found) if self.keeps else found


def turned_by(degrees: float, spot: tuple[float, float]) -> tuple[float, float]:
    """Return a place across the axis of a turned part, turned round it: y and z, clockwise as the free end is seen, [mm].

    Args:
        degrees: how far. [degrees]
        spot: y and z. [mm]
    """
    a = radians(degrees)
    y, z = spot
    return y * cos(a) - z * sin(a), y * sin(a) + z * cos(a)


def _round_of(spots: Sequence[tuple[float, float]]) -> tuple[Span, Span]:
    """Least and largest of places in two directions."""
    first, second = zip(*spots, strict=True)
    return (min(first), max(first)), (min(second), max(second))


@dataclass(frozen=True)
class Solid:
    """A block, a plate of any outline, or a turned body, with what is cut from it.

    Args:
        low, high: the box it is cut from. [mm]
        cuts: what is taken away.
        profile: of a turned body: distance from the free end and radius, outside; empty for a block. [mm]
        inner: the same of what is bored out along its axis. [mm]
    """

    low: tuple[float, float, float]
    high: tuple[float, float, float]
    cuts: tuple[Prism, ...] = ()
    profile: Profile = ()
    inner: Profile = ()

    @property
    def size(self) -> tuple[float, float, float]:
        """Along x, y and z, [mm]."""
        x, y, z = (b - a for a, b in zip(self.low, self.high, strict=True))
        return x, y, z

    def with_cuts(self, *cuts: Prism) -> "Solid":
        """Return it with more taken away."""
        return replace(self, cuts=(*self.cuts, *cuts))

    def section(self, axis: Axis, at: float) -> "BaseGeometry":
        """Return what a plane cuts of it, in the other two directions, [mm]."""
        from shapely import MultiPolygon, difference  # noqa: PLC0415 - shapely takes 0.2 s

        whole = self._whole(axis, at)
        if whole is None:
            return MultiPolygon()
        gone = _taken_at(self.cuts, axis, at)
        return whole if gone is None else difference(whole, gone)

    def _whole(self, axis: Axis, at: float) -> "BaseGeometry | None":
        """What the plane cuts before anything is taken away."""
        from shapely import box  # noqa: PLC0415 - as above

        index = AXES.index(axis)
        if not self.low[index] < at < self.high[index]:
            return None
        if not self.profile:
            a, b = (AXES.index(one) for one in FLAT[axis])
            return box(self.low[a], self.low[b], self.high[a], self.high[b])
        if axis != "x":
            raise ValueError("A turned body is cut across its axis only.")
        outer = radius_at(self.profile, at)
        ring = Disc(0, 0, outer).polygon if outer > 0 else None
        inner = radius_at(self.inner, at)
        return ring.difference(Disc(0, 0, inner).polygon) if ring is not None and inner > 0 else ring

    def volume(self) -> float:
        """Return its volume, [mm³]: exact for straight cuts and for round ones along one direction, else within some 0.1 %.

        Source:
            Own derivation: areas of slices between the places where something begins or ends, for each group of cuts
            that may meet by itself; a turned body without milled cuts by frustums.
        """
        keepers = tuple(cut for cut in self.cuts if cut.keeps)
        base = replace(self, cuts=keepers)
        left = _kept_of(base) if keepers else self._plain()
        return left - sum(_removed_of(base, group) for group in _apart([c for c in self.cuts if not c.keeps]))

    def centre(self, axis: Axis) -> tuple[tuple[float, float], float]:
        """Return where the middle of a block's mass lies as it is seen along a direction, [mm], and its volume, [mm³].

        Args:
            axis: the direction it is seen along.

        Source:
            Own derivation: areas and centres of slices, as for the volume.
        """
        index = AXES.index(axis)
        x = y = total = 0.0
        for at, w in _slices(self, self.cuts, axis, (self.low[index], self.high[index])):
            slice_ = self.section(axis, at)
            if not slice_.is_empty:
                area, middle = slice_.area * w, slice_.centroid
                x, y, total = x + area * middle.x, y + area * middle.y, total + area
        return (x / total, y / total), total

    def _plain(self) -> float:
        """Its volume with nothing cut from it."""
        if self.profile:
            return revolved(self.profile) - revolved(self.inner)
        x, y, z = self.size
        return x * y * z


def _kept_of(base: Solid) -> float:
    """The volume of a body within what its outlines keep."""
    axis: Axis = "x" if base.profile else min(AXES, key=lambda a: _curved(base.cuts, a))
    index = AXES.index(axis)
    slices = _slices(base, base.cuts, axis, (base.low[index], base.high[index]))
    return sum(w * base.section(axis, at).area for at, w in slices)


def _removed_of(base: Solid, group: Sequence[Prism]) -> float:
    """What a group of cuts takes of a body, [mm³]."""
    if len(group) == 1 and not base.profile and not base.cuts and (area := _area_inside(base, group[0])):
        index = AXES.index(group[0].axis)
        return area * max(min(group[0].high, base.high[index]) - max(group[0].low, base.low[index]), 0.0)
    axis: Axis = "x" if base.profile else min(AXES, key=lambda a: _curved(group, a))
    index = AXES.index(axis)
    low = max(min(c.reach(axis)[0] for c in group), base.low[index])
    high = min(max(c.reach(axis)[1] for c in group), base.high[index])
    total = 0.0
    for at, w in _slices(base, (*group, *base.cuts), axis, (low, high)):
        gone = _taken_at(group, axis, at)
        if gone is not None:
            total += w * base.section(axis, at).intersection(gone).area
    return total


def _area_inside(base: Solid, cut: Prism) -> float:
    """The area of a cut's shape where all of it lies within a block, by its own formula; nought where it does not."""
    first, second = (AXES.index(axis) for axis in FLAT[cut.axis])
    a, b, c, d = cut.shape.bounds
    if a < base.low[first] or b < base.low[second] or c > base.high[first] or d > base.high[second]:
        return 0.0
    if isinstance(cut.shape, Disc):
        return pi * cut.shape.r**2
    if isinstance(cut.shape, Oblong):
        return (c - a) * (d - b) - (4 - pi) * cut.shape.r**2
    return 0.0


def _slices(base: Solid, cuts: Sequence[Prism], axis: Axis, span: Span) -> Iterator[tuple[float, float]]:
    """Where to cut slices, and how thick each is, [mm]."""
    low, high = span
    edges = {low, high}
    bent: list[Span] = []
    for cut in cuts:
        start, end = cut.reach(axis)
        edges |= {e for e in (start, end) if low < e < high}
        if cut.axis != axis and (cut.is_round or not isinstance(cut.shape, Oblong)):
            bent.append((start, end))
    if base.profile:
        edges |= {z for z, _ in (*base.profile, *base.inner) if low < z < high}
        bent.append((low, high))
    for start, end in pairwise(sorted(edges)):
        if end - start < TINY:
            continue
        curved = any(a < end - TINY and b > start + TINY for a, b in bent)
        many = STEPS if curved else 1
        thick = (end - start) / many
        for step in range(many):
            for share in GAUSS if curved else (0.5,):
                yield start + (step + share) * thick, thick / (2 if curved else 1)


def _taken_at(cuts: Sequence[Prism], axis: Axis, at: float) -> "BaseGeometry | None":
    """What cuts take of a plane; None where they take nothing."""
    from shapely import box, union_all  # noqa: PLC0415 - shapely takes 0.2 s
    from shapely.affinity import rotate  # noqa: PLC0415 - as above

    gone: list[BaseGeometry] = []
    for cut in cuts:
        if cut.axis == axis:
            if cut.low < at < cut.high:
                gone.append(box(-FAR, -FAR, FAR, FAR) - cut.shape.polygon if cut.keeps else cut.shape.polygon)
            continue
        own = (cut.low, cut.high)
        for across in cut.spans(axis, at):
            a, b = (own, across) if FLAT[axis][0] == cut.axis else (across, own)
            whole = box(a[0], b[0], a[1], b[1])
            gone.append(rotate(whole, cut.turn, origin=(0, 0)) if cut.turn else whole)
    if len(gone) == 1:
        return gone[0]
    return union_all(gone) if gone else None


def _curved(cuts: Sequence[Prism], axis: Axis) -> int:
    """How many cuts change their width along a direction; the least are sliced along."""
    return sum(c.axis != axis and (c.is_round or not isinstance(c.shape, Oblong)) for c in cuts)


def _apart(cuts: Sequence[Prism]) -> list[list[Prism]]:
    """Cuts in groups whose boxes do not meet: what one takes, no other does."""
    return [[cuts[i] for i in group] for group in groups_of([cut.box for cut in cuts])]


def radius_at(profile: Profile, at: float) -> float:
    """Return the radius of a profile at a distance, 0 beyond its ends, [mm]; the larger side of a shoulder."""
    found = [
        ra + (rb - ra) * ((at - a) / (b - a) if b > a else 1.0)
        for (a, ra), (b, rb) in pairwise(profile)
        if a <= at <= b
    ]
    return max(found, default=0.0)


def revolved(profile: Profile) -> float:
    """Return the volume of a profile turned round its axis, [mm³].

    Source:
        Frustums of cones.
    """
    return sum(pi / 3 * (b - a) * (ra * ra + ra * rb + rb * rb) for (a, ra), (b, rb) in pairwise(profile))


def lower_of(one: Profile, other: Profile) -> Profile:
    """Return the profile that is inside both where both are, and the first where the second is not, [mm]."""
    return _edge(one, other, lower=True)


def higher_of(one: Profile, other: Profile) -> Profile:
    """Return the profile that encloses both, [mm]."""
    return _edge(one, other, lower=False)


def trimmed(profile: Profile, start: float, end: float) -> Profile:
    """Return what of a profile lies between two distances, [mm]."""
    found: list[tuple[float, float]] = []
    for (a, r), (b, s) in pairwise(profile):
        low, high = max(a, start), min(b, end)
        if high < low or (high == low and b > a):
            continue
        slope = (s - r) / (b - a) if b > a else 0.0
        found += [(low, r + slope * (low - a)), (high, s if b <= a else r + slope * (high - a))]
    return tuple(p for i, p in enumerate(found) if i == 0 or p != found[i - 1])


def _edge(one: Profile, other: Profile, *, lower: bool) -> Profile:
    """Walk along both and take the lower or the higher one, with a corner where they cross and where the second begins or ends."""
    stops = sorted({z for z, _ in (*one, *other)})
    found: list[tuple[float, float]] = []
    for a, b in pairwise(stops):
        if b - a < TINY:
            continue
        first, second = _piece(one, a, b), _piece(other, a, b)
        if second is None or first is None:
            found += _ends(first or (second if not lower else None), a, b)
            continue
        found += _crossed(first, second, a, b, lower=lower)
    return tuple(p for i, p in enumerate(found) if i == 0 or p != found[i - 1])


def _piece(profile: Profile, a: float, b: float) -> Span | None:
    """The radii of a profile just inside both ends of a stretch it covers."""
    for (z, r), (y, s) in pairwise(profile):
        if z <= a + TINY and y >= b - TINY and y > z:
            slope = (s - r) / (y - z)
            return r + slope * (a - z), r + slope * (b - z)
    return None


def _ends(piece: Span | None, a: float, b: float) -> list[tuple[float, float]]:
    return [(a, piece[0]), (b, piece[1])] if piece is not None else []


def _crossed(first: Span, second: Span, a: float, b: float, *, lower: bool) -> list[tuple[float, float]]:
    pick = min if lower else max
    left, right = pick(first[0], second[0]), pick(first[1], second[1])
    one, two = first[0] - second[0], first[1] - second[1]
    if one * two < 0:
        share = one / (one - two)
        middle = (a + share * (b - a), first[0] + share * (first[1] - first[0]))
        return [(a, left), middle, (b, right)]
    return [(a, left), (b, right)]


def material_along(body: Solid, axis: Axis, at: tuple[float, float]) -> list[Span]:
    """Return where a line in one direction runs through material of a block, [mm].

    Args:
        body: a block.
        axis: direction of the line.
        at: where it stands in the other two directions. [mm]
    """
    index = AXES.index(axis)
    first, second = FLAT[axis]
    gone: list[Span] = []
    for cut in body.cuts:
        if cut.axis == axis:
            inside = any(a < at[1] < b for a, b in cut.shape.spans(at[0], upright=True))
            if inside != cut.keeps:
                gone.append((cut.low, cut.high))
            continue
        third = second if cut.axis == first else first
        own, fixed = (at[0], at[1]) if cut.axis == first else (at[1], at[0])
        if cut.low < own < cut.high:
            gone += cut.spans(third, fixed)
    return without([(body.low[index], body.high[index])], joined(gone))
