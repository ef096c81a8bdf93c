"""A touch probe, and a stand-in for it that touches the drawing's own pieces, a little out of place as in a shop."""

from dataclasses import dataclass
from math import cos, radians, sin
from random import Random
from typing import TYPE_CHECKING, Any, Protocol

from ditto_run.core.errors import NotNow
from ditto_run.core.place import Seat, Standing, ring
from ditto_run.core.place.placed import Spot
from ditto_run.core.place.touch import about
from ditto_run.core.shop import Bed

if TYPE_CHECKING:
    from shapely.geometry.base import BaseGeometry

REACH_MM = 400.0
BUSHING_MM = 20.0  # the bushing of a pallet's origin, and the bore of a round holder; made up
SLOPPY = 0.6  # share of the placing tolerance by which a simulated holder may really stand off
USUAL_SKEW_DEG, CROOKED_DEG = 0.008, 0.3


class Probe(Protocol):
    """What touches: a ball on a stylus, or an edge finder."""

    @property
    def ball_mm(self) -> float:
        """Diameter of its ball. [mm]."""
        ...

    def touch(self, start: Spot, towards: Spot) -> Spot:
        """Move from a place along a direction until it touches. Returns the middle of the ball, [mm].

        Raises:
            NotNow: if nothing is there.
        """
        ...

    def down(self, at: Spot) -> float:
        """Move down until it touches. Returns the height of the tip, [mm]."""
        ...


@dataclass(frozen=True, slots=True)
class Faults:
    """What can go wrong on request.

    Args:
        noise_mm: spread of a single touch. [mm]
        crooked: the holder stands 0.3° out of true.
        chip: the third touch sits on a chip.
        wrong: the next station is touched instead.
    """

    noise_mm: float = 0.002
    crooked: bool = False
    chip: bool = False
    wrong: bool = False


class SimulatedProbe:
    """Touches a drawn station in machine coordinates, with noise, as it would really stand.

    Args:
        standing: the holder.
        seat: the station's seat.
        bed: the table.
        faults: what goes wrong.
        seed: the same seed gives the same touches.
    """

    ball_mm = 6.0

    def __init__(self, standing: Standing, seat: Seat, bed: Bed, faults: Faults, seed: str) -> None:
        stands, self._touches = Random(f"stands {seed}"), Random(f"touches {seed}")  # noqa: S311 - made-up places, no secrets
        by = float(bed.placing_mm) * SLOPPY
        self._off = stands.uniform(-by, by), stands.uniform(-by, by)
        self._skew = stands.uniform(-1, 1) * USUAL_SKEW_DEG + (CROOKED_DEG if faults.crooked else 0.0)
        self._home = float(bed.home_mm[0]), float(bed.home_mm[1])
        self._pivot = float(standing.placed.x_mm), float(standing.placed.y_mm)
        self._top = float(seat.zero_mm[2]) - float(bed.nose_high_mm) + stands.uniform(-by, by) / 4
        self._faults, self._count = faults, 0
        self._solid = self._shape(standing, seat)

    def machine(self, spot: Spot) -> Spot:
        """Return where a place of the drawing really is, in machine coordinates, [mm]."""
        x, y = about(self._pivot, spot, self._skew)
        return x + self._off[0] - self._home[0], y + self._off[1] - self._home[1]

    def _shape(self, standing: Standing, seat: Seat) -> "BaseGeometry":
        from shapely import Point, Polygon, union_all  # noqa: PLC0415 - only while probing

        parts: list[Any] = []
        if seat.piece and seat.jaw:
            parts.append(Polygon([self.machine(spot) for spot in ring(seat.piece)]))
        if seat.jaw:
            one, other = ring(seat.jaw)
            middle = ring(seat.piece or (seat.zero_mm[:2],))
            nx, ny = sum(x for x, _ in middle) / len(middle), sum(y for _, y in middle) / len(middle)
            back = [(2 * x - nx, 2 * y - ny) for x, y in (other, one)]
            parts.append(Polygon([self.machine(spot) for spot in (one, other, *back)]).buffer(0))
        else:
            plate = Polygon([self.machine(spot) for spot in ring(standing.placed.corners)])
            middle_spot = self.machine(self.middle(standing, seat))
            parts.append(plate.buffer(60).difference(Point(middle_spot).buffer(BUSHING_MM / 2, 64)))
        return union_all(parts)

    @staticmethod
    def middle(standing: Standing, seat: Seat) -> Spot:
        """Return the middle of the bore that is touched: the origin's bushing of a pallet, else the zero itself."""
        if standing.placed.body.nests:
            ((x, y),) = ring(standing.placed.spots((standing.placed.body.origin,)))
            return x, y
        return float(seat.zero_mm[0]), float(seat.zero_mm[1])

    def _noise(self) -> float:
        self._count += 1
        chip = 0.15 if self._faults.chip and self._count == 3 else 0.0  # noqa: PLR2004 - the third touch
        return self._touches.gauss(0, self._faults.noise_mm) - chip

    def touch(self, start: Spot, towards: Spot) -> Spot:
        """Move from a place along a direction until it touches."""
        from shapely import LineString, Point  # noqa: PLC0415

        grown = self._solid.buffer(self.ball_mm / 2, 64)
        end = start[0] + towards[0] * REACH_MM, start[1] + towards[1] * REACH_MM
        hit = LineString([start, end]).intersection(grown.boundary)
        if hit.is_empty or grown.contains(Point(start)):
            raise NotNow(
                "The probe found nothing to touch there.", "Lay the station out, with the size of its piece."
            )
        near: Any = min(getattr(hit, "geoms", [hit]), key=lambda part: part.distance(Point(start)))
        by = self._noise()
        return near.coords[0][0] + towards[0] * by, near.coords[0][1] + towards[1] * by

    def down(self, at: Spot) -> float:
        """Move down until it touches: everything under it is as high as the piece."""
        del at
        return self._top - self._noise()


def probe_edge(probe: Probe, near: Spot, towards: Spot, times: int) -> list[Spot]:
    """Return repeat touches of one edge, from outside towards it."""
    start = near[0] - towards[0] * 60, near[1] - towards[1] * 60
    return [probe.touch(start, towards) for _ in range(times)]


def probe_round(probe: Probe, middle: Spot, count: int) -> list[Spot]:
    """Return touches round the inside of a bore."""
    angles = [radians(360 * i / count + 20) for i in range(count)]
    return [probe.touch(middle, (cos(a), sin(a))) for a in angles]
