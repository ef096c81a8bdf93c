"""Holes and rows of them: on a block's faces and on the ends and the outside of a turned part."""

from collections.abc import Sequence
from math import cos, pi, sin

from ditto_run.core.errors import DittoError
from ditto_run.core.part.features.described import Described, Named
from ditto_run.core.part.features.kinds import Role
from ditto_run.core.part.shape.body import FAR, Axis, Prism
from ditto_run.core.part.shape.laid import POINT, NotSaid, known_mm, mm
from ditto_run.core.part.shape.plane import Disc, Spot
from ditto_run.core.sizes import Size
from ditto_run.core.threads import read_thread

CONE_STEPS = 6
DRILLED = {"hole", "tapped hole", "cross hole"}
ROUND = DRILLED | {"bore"}


def thread_pitch_mm(size: Size) -> float:
    """Return the pitch of a thread, [mm]; nought where its designation is not known."""
    try:
        thread = read_thread(size.name or size.text)
    except DittoError:
        return 0.0
    return float(thread.pitch) * (25.4 if thread.unit == "in" else 1.0)


def radii(feature: Described) -> tuple[float, float | None]:
    """Return the radius of a hole as drilled, and the outside of its thread; None without one, [mm].

    Raises:
        NotSaid: the diameter is not there.

    Source:
        Drill of a thread: diameter less pitch, as `tap_drills` aims at; common practice, no source.
    """
    thread = feature.sizes.get(Role.THREAD)
    if thread is None:
        return mm(feature.sizes, Role.DIAMETER) / 2, None
    major = float(thread.nominal_base)
    drilled = known_mm(feature.parts.get("drill", {}), Role.DIAMETER)
    return (drilled if drilled is not None else major - thread_pitch_mm(thread)) / 2, major / 2


def depth_of(feature: Described) -> float:
    """Return how deep it goes, [mm]; far beyond the part where it goes through.

    Raises:
        NotSaid: neither a depth nor through.
    """
    if feature.through:
        return FAR
    if (depth := known_mm(feature.sizes, Role.DEPTH)) is None:
        raise NotSaid("how deep, or through")
    return depth


def spots_of(feature: Described, wide: float, deep: float) -> list[Spot]:
    """Return where each of several stands from the middle of their pattern, along and across the face, [mm].

    Args:
        feature: with its count and pattern.
        wide: of the face; a row lies along the longer side unless the line says otherwise. [mm]
        deep: of the face, across. [mm]

    Raises:
        NotSaid: several that nothing says how they stand.
    """
    if feature.count == 1:
        return [(0.0, 0.0)]
    if feature.pattern is None:
        raise NotSaid("how they stand to each other")
    by = [float(size.nominal_base) for size in feature.pattern.by]
    if feature.pattern.arrangement == "circle":
        turns = [2 * pi * i / feature.count for i in range(feature.count)]
        return [(by[0] / 2 * cos(a), by[0] / 2 * sin(a)) for a in turns]
    if feature.pattern.arrangement == "grid":
        columns, rows = _grid(feature.count)
        if wide * (by[0] > 0) < deep * (by[0] > 0) and columns != rows:
            columns, rows = rows, columns
        return [
            ((i - (columns - 1) / 2) * by[0], (j - (rows - 1) / 2) * by[1])
            for j in range(rows)
            for i in range(columns)
        ]
    steps = [(i - (feature.count - 1) / 2) * by[0] for i in range(feature.count)]
    return [(step, 0.0) if wide >= deep else (0.0, step) for step in steps]


def _grid(count: int) -> tuple[int, int]:
    """Columns and rows of a grid, as near to a square as the count allows, more columns than rows."""
    rows = next(n for n in range(int(count**0.5), 0, -1) if count % n == 0)
    if rows == 1:
        raise NotSaid("how many rows the grid has")
    return count // rows, rows


def bored(one: Named, axis: Axis, spots: Sequence[Spot], start: float, inward: int, face: str) -> list[Prism]:
    """Return the cuts of holes that begin at a face: the hole, and what belongs to it.

    Args:
        one: the feature.
        axis: direction of the holes.
        spots: where they stand in the other two directions. [mm]
        start: where the face is, along the axis. [mm]
        inward: 1 where they run along the axis, −1 against it.
        face: its name.

    Raises:
        NotSaid: diameter or depth are not there.
    """
    feature = one.feature
    r, thread_r = radii(feature)
    depth = depth_of(feature)
    tip = 2 * r * POINT if feature.kind in DRILLED and not feature.through else 0.0
    rings = [(r, depth, thread_r, tip, True)]
    for part, sizes in feature.parts.items():
        across = known_mm(sizes, Role.DIAMETER)
        if across is None or part == "drill" or across / 2 <= r:
            continue
        if part == "countersink":
            angle = sizes.get(Role.ANGLE)
            half = float(angle.nominal_base) / 3600 / 2 if angle is not None else 45.0
            rings += _cone(across / 2, r, half)
        else:
            rings.append((across / 2, known_mm(sizes, Role.DEPTH) or 0.2, None, 0.0, True))
    found = []
    for x, y in spots:
        for radius, deep, thread, point, shown in rings:
            low, high = (start - FAR, start + deep) if inward > 0 else (start - deep, start + FAR)
            found.append(
                Prism(
                    one.key,
                    one.name,
                    axis,
                    Disc(x, y, radius),
                    low,
                    high,
                    face,
                    thread_r=thread,
                    tip=point,
                    shown=shown,
                )
            )
    return found


def _cone(outer: float, inner: float, half_deg: float) -> list[tuple[float, float, None, float, bool]]:
    """A countersink in steps of the same height, each as wide as the cone is in its middle."""
    from math import radians, tan  # noqa: PLC0415 - used here alone

    deep = (outer - inner) / tan(radians(half_deg))
    step = (outer - inner) / CONE_STEPS
    return [
        (outer - (i + 0.5) * step, deep * (i + 1) / CONE_STEPS, None, 0.0, i == 0) for i in range(CONE_STEPS)
    ]
