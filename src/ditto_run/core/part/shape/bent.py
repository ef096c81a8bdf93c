"""A bent strip or plate: its bend lines on the flat, and the form it has once it is bent."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, pi, radians, sin
from typing import TYPE_CHECKING

from ditto_run.core.part.bend import neutral_factor
from ditto_run.core.part.features.described import Described
from ditto_run.core.part.features.kinds import Role
from ditto_run.core.part.shape.laid import NotSaid, Shaped, known_mm

if TYPE_CHECKING:
    from shapely.geometry.base import BaseGeometry

STEPS = 24  # chords an arc is drawn with
SECONDS = 3600


@dataclass(frozen=True)
class BendLine:
    """One bend on the flat.

    Args:
        key: of the feature.
        at: middle of the bend from the left end of the flat. [mm]
        angle: how far it is bent from flat, up. [°]
        radius: inside radius. [mm]
    """

    key: int
    at: float
    angle: float
    radius: float


@dataclass(frozen=True)
class Bent:
    """A part with bends.

    Args:
        lines: its bends, from the left.
        middle: its middle fibre once it is bent, from the left end. [mm]
        thick: [mm]
        short: bends whose arcs overlap each other or an end, by the keys of their features.
    """

    lines: tuple[BendLine, ...]
    middle: tuple[tuple[float, float], ...]
    thick: float
    short: tuple[int, ...] = ()

    @property
    def outline(self) -> "BaseGeometry":
        """Its form from the front, [mm]."""
        from shapely import LineString  # noqa: PLC0415 - shapely takes 0.2 s

        return LineString(self.middle).buffer(self.thick / 2, cap_style="flat", join_style="mitre")

    @property
    def size(self) -> tuple[float, float]:
        """How long and how high it is once it is bent, [mm]."""
        left, low, right, high = self.outline.bounds
        return right - left, high - low


def bend_line(feature: Described, key: int, long: float) -> BendLine:
    """Return a bend as it lies on the flat, across its width.

    Args:
        feature: as it was said, the middle of the bend from left or right.
        key: of the feature.
        long: of the flat. [mm]

    Raises:
        NotSaid: angle, inside radius or place.
    """
    angle, radius = feature.sizes.get(Role.ANGLE), known_mm(feature.sizes, Role.RADIUS)
    if angle is None:
        raise NotSaid("angle")
    if radius is None:
        raise NotSaid("radius")
    for place in feature.places:
        if place.distance is not None and place.face in {"left", "right"}:
            away = float(place.distance.nominal_base)
            at = away if place.face == "left" else long - away
            return BendLine(key, at, float(angle.nominal_base) / SECONDS, radius)
        if place.distance is None:
            return BendLine(key, long / 2, float(angle.nominal_base) / SECONDS, radius)
    raise NotSaid("where from left or right")


def bent(shaped: Shaped) -> Bent | None:
    """Return a part once it is bent; None where it has no bend, or none that is placed.

    Args:
        shaped: the part as described; its outline is the flat.

    Source:
        Own derivation: each bend takes angle × (inside radius + factor × thickness) of the flat, half on each side of its
        line; the factor by `neutral_factor`.
    """
    body = shaped.body
    if body is None or body.profile:
        return None
    long, _, thick = body.size
    lines = [
        bend_line(one.feature, one.key, long)
        for one in shaped.features
        if one.feature.kind == "bend" and not one.missing
    ]
    if not lines:
        return None
    lines.sort(key=lambda line: line.at)
    middle, short = _folded(lines, long, thick)
    return Bent(tuple(lines), middle, thick, short)


def _folded(
    lines: Sequence[BendLine], long: float, thick: float
) -> tuple[tuple[tuple[float, float], ...], tuple[int, ...]]:
    """Walk along the flat and turn at each bend; the arc is drawn on the middle fibre."""
    x, y, heading, along = 0.0, 0.0, 0.0, 0.0
    spots = [(x, y)]
    short: list[int] = []
    for line in lines:
        arc = radians(line.angle) * (line.radius + neutral_factor(line.radius, thick) * thick)
        straight = line.at - arc / 2 - along
        if straight < 0:
            short.append(line.key)
        x, y = x + max(straight, 0.0) * cos(heading), y + max(straight, 0.0) * sin(heading)
        spots.append((x, y))
        r, turn = line.radius + thick / 2, radians(line.angle)
        cx, cy = x - r * sin(heading), y + r * cos(heading)
        for step in range(1, STEPS + 1):
            at = heading - pi / 2 + turn * step / STEPS
            spots.append((cx + r * cos(at), cy + r * sin(at)))
        x, y = spots[-1]
        heading += turn
        along = line.at + arc / 2
    rest = long - along
    if rest < 0:
        short.append(lines[-1].key)
    spots.append((x + max(rest, 0.0) * cos(heading), y + max(rest, 0.0) * sin(heading)))
    return tuple(spots), tuple(dict.fromkeys(short))
