"""The thinnest wall of a part: between what is cut and the outside, and between two cuts."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import pairwise
from math import hypot

from ditto_run.core.part.shape.body import AXES, FLAT, TINY, Prism, Solid, radius_at
from ditto_run.core.part.shape.boxes import gaps_of
from ditto_run.core.part.shape.plane import Disc, Oblong, Shape


@dataclass(frozen=True)
class Wall:
    """A wall.

    Args:
        thick: [mm]
        between: the names of what it stands between.
    """

    thick: float
    between: tuple[str, str]


def thinnest_wall(body: Solid) -> Wall | None:
    """Return the thinnest wall there is; None where nothing leaves one. What touches or runs out of the part has none.

    Args:
        body: the part.

    Returns:
        The wall, [mm]: exact between cuts of one direction; between two directions no thicker than it is.
    """
    cuts = [_as_threaded(c) for c in body.cuts if c.shown and not c.keeps]
    single = _of_tube(body) if body.profile else (w for cut in cuts for w in _to_outside(body, cut))
    best = min((w for w in single if w.thick > TINY), key=lambda w: w.thick, default=None)
    if body.profile:
        return best
    for least, i, j in gaps_of([cut.box for cut in cuts], best.thick if best is not None else max(body.size)):
        if best is not None and least >= best.thick:
            break  # no pair farther apart can leave a thinner one
        one, other = cuts[i], cuts[j]
        if _on_one_axis(one, other):
            continue
        thick = between(body, one, other)
        if thick is not None and thick > TINY and (best is None or thick < best.thick):
            best = Wall(thick, (one.name, other.name))
    return best


def _on_one_axis(one: Prism, other: Prism) -> bool:
    """True for a hole and its own counterbore."""
    same = one.key == other.key and isinstance(one.shape, Disc) and isinstance(other.shape, Disc)
    return same and _spot(one.shape) == _spot(other.shape)


def _as_threaded(cut: Prism) -> Prism:
    """A tapped hole as wide as its thread."""
    if cut.thread_r is None or not isinstance(cut.shape, Disc):
        return cut
    return replace(cut, shape=replace(cut.shape, r=cut.thread_r))


def _spot(shape: Shape) -> tuple[float, float] | None:
    return (shape.x, shape.y) if isinstance(shape, Disc) else None


def _of_tube(body: Solid) -> Iterator[Wall]:
    """Walls of what is bored, at every corner of both profiles."""
    if not body.inner:
        return
    stops = sorted({z for z, _ in (*body.profile, *body.inner)})
    for a, b in pairwise(stops):
        for at in (a + TINY, b - TINY):
            inner = radius_at(body.inner, at)
            if inner > 0:
                yield Wall(radius_at(body.profile, at) - inner, ("bore", "outside"))
    low, high = body.inner[0][0], body.inner[-1][0]
    for end in (low - body.profile[0][0], body.profile[-1][0] - high):
        if end > TINY:
            yield Wall(end, ("bottom of the bore", "other end"))


def _to_outside(body: Solid, cut: Prism) -> Iterator[Wall]:
    """From one cut to the sides it does not run out of, and under its bottom."""
    index = AXES.index(cut.axis)
    low, high = max(cut.low, body.low[index]), min(cut.high, body.high[index])
    for gap in (low - body.low[index], body.high[index] - high):
        if gap > TINY:
            yield Wall(gap, (cut.name, "the other side"))
    keeper = next(
        (
            c
            for c in body.cuts
            if c.keeps and c.axis == cut.axis and c.low < low + TINY and c.high > high - TINY
        ),
        None,
    )
    if keeper is not None:
        if keeper.shape.polygon.contains(cut.shape.polygon):
            yield Wall(keeper.shape.polygon.exterior.distance(cut.shape.polygon), (cut.name, "outline"))
        return
    flat = [AXES.index(one) for one in FLAT[cut.axis]]
    bounds = cut.shape.bounds
    for i, axis in enumerate(flat):
        for gap in (bounds[i] - body.low[axis], body.high[axis] - bounds[i + 2]):
            if gap > TINY:
                yield Wall(gap, (cut.name, "side"))


def between(body: Solid, one: Prism, other: Prism) -> float | None:
    """Return the wall between two cuts, [mm]: 0 or below where they meet; None where they pass each other by at different depths.

    Args:
        body: the block they are cut from.
        one: a cut.
        other: another.
    """
    if one.axis == other.axis:
        index = AXES.index(one.axis)
        gap = max(one.low, other.low, body.low[index]) - min(one.high, other.high, body.high[index])
        flat = _apart(one.shape, other.shape)
        if gap < -TINY:
            return flat
        return max(gap, 0.0) if flat <= 0 else hypot(max(gap, 0.0), flat)
    gaps = [
        max(a[0], b[0], low) - min(a[1], b[1], high)
        for a, b, low, high in zip(one.box, other.box, body.low, body.high, strict=True)
    ]
    apart = [gap for gap in gaps if gap > 0]
    return hypot(*apart) if apart else max(gaps)


def _apart(one: Shape, other: Shape) -> float:
    """Distance of two flat shapes, below nought where they overlap, [mm]; exact for discs and rectangles with round corners."""
    if isinstance(other, Disc):
        one, other = other, one
    if isinstance(one, Disc) and isinstance(other, Disc):
        return hypot(one.x - other.x, one.y - other.y) - one.r - other.r
    if isinstance(one, Disc) and isinstance(other, Oblong):
        r = other.r
        x = max(other.left + r - one.x, 0.0, one.x - other.right + r)
        y = max(other.low + r - one.y, 0.0, one.y - other.high + r)
        return hypot(x, y) - r - one.r
    a, b = one.polygon, other.polygon
    return -1.0 if a.intersects(b) and a.intersection(b).area > TINY else float(a.distance(b))
