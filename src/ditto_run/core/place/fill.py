"""Free places on a table: for the next holder, for copies of one, and how many of one fit at all."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import TYPE_CHECKING

from ditto_run.core.place.clashes import Bounds, nearest, swing_ring
from ditto_run.core.place.placed import Layout, Placed, Standing, ring, stand
from ditto_run.core.place.station import Station
from ditto_run.core.shop import Bed

if TYPE_CHECKING:
    from shapely.geometry.base import BaseGeometry
    from shapely.prepared import PreparedGeometry

STEP_MM = 5.0  # how finely places are tried where no T-slot says it; [mm]
ZERO = Decimal(0)
TURNS = (0, 90, 180, 270)


@dataclass(frozen=True, slots=True)
class Fill:
    """How many of a holder fit on a table.

    Args:
        turn: as they are turned then. [°]
        spots: middle of each footprint. [mm]
    """

    turn: int
    spots: tuple[tuple[Decimal, Decimal], ...]


def snapped(placed: Placed, bed: Bed) -> Placed:
    """Return a holder moved to the nearest T-slot: its first bolt, else its middle, over the slot's middle."""
    if not bed.slots_mm:
        return placed
    ((x, y),) = placed.spots(
        (placed.body.bolts or ((placed.body.size_mm[0] / 2, placed.body.size_mm[1] / 2),))[:1]
    )
    if bed.slots_run == "X":
        return replace(placed, y_mm=placed.y_mm + min((slot - y for slot in bed.slots_mm), key=abs))
    return replace(placed, x_mm=placed.x_mm + min((slot - x for slot in bed.slots_mm), key=abs))


def free_spots(
    like: Placed,
    others: Sequence[Placed],
    bed: Bed,
    wanted: int,
    gap_mm: Decimal | None = None,
    layout: Layout | None = None,
) -> tuple[tuple[Decimal, Decimal], ...]:
    """Return where more of a holder can stand, as it is turned: in its own row first, then row by row from the front.

    A place is free if the body is on the table, in no keep-out and on nothing else, its handle swings free, and the
    spindle reaches its pieces.

    Args:
        like: the holder, where it is; one that is not on the table yet starts in the middle row.
        others: what stands there already, the holder itself too if it does.
        bed: the table.
        wanted: how many at most.
        gap_mm: least distance between bodies; 0 if None. [mm]
        layout: what the setup is checked with; only the holder itself is looked at without it.

    Returns:
        Middle of each footprint; fewer than wanted if no more fit. [mm]

    Source:
        Own method, row by row; it finds a full table, not always the fullest one.
    """
    on_table = any(other.key == like.key for other in others)
    seeker = _seek(like, others, bed, float(gap_mm or 0), layout)
    middle = float(bed.size_mm[1]) / 2  # also where one deeper than the table goes
    own = float(like.y_mm) if on_table else nearest(seeker.rows() or [middle], middle)
    first = [
        (x, own) for x in sorted(seeker.along(own), key=lambda x: (on_table and x < float(like.x_mm), x))
    ]
    places = first if len(first) >= wanted else [*first, *seeker.everywhere()]
    if len(places) < wanted:  # its own row may stand in the way of fuller ones
        places = max(places, [*_seek(like, others, bed, float(gap_mm or 0), layout).everywhere()], key=len)
    return tuple((Decimal(f"{x:.3f}"), Decimal(f"{y:.3f}")) for x, y in places[:wanted])


def fill_table(
    like: Placed,
    others: Sequence[Placed],
    bed: Bed,
    gap_mm: Decimal = ZERO,
    layout: Layout | None = None,
    most: int = 60,
) -> Fill:
    """Return how a table takes the most of a holder: the best of its four turns.

    Args:
        like: the holder.
        others: what stays where it is.
        bed: the table.
        gap_mm: least distance between bodies. [mm]
        layout: what the setup is checked with.
        most: no more than so many are looked for.
    """
    found = []
    for turn in TURNS:
        turned = replace(like, key=-1, turn=Decimal(turn))
        seeker = _seek(turned, others, bed, float(gap_mm), layout)
        spots = [(Decimal(f"{x:.3f}"), Decimal(f"{y:.3f}")) for x, y in seeker.everywhere()][:most]
        found.append(Fill(turn, tuple(spots)))
    return max(found, key=lambda one: (len(one.spots), -TURNS.index(one.turn)))


def _seek(like: Placed, others: Sequence[Placed], bed: Bed, gap: float, layout: Layout | None) -> "_Seeker":
    seeker = _Seeker(like, bed, gap, layout or Layout(like.setup))
    for other in others:
        seeker.block(other)
    return seeker


class _Seeker:
    """Tries places for one holder; each place it gives is taken from then on."""

    def __init__(self, like: Placed, bed: Bed, gap: float, layout: Layout) -> None:
        from shapely import Polygon  # noqa: PLC0415 - only a layout needs it

        self._bed, self._gap = bed, gap
        self._zero = replace(like, x_mm=ZERO, y_mm=ZERO)
        label = Station(like.setup, "A")
        self._needs = self._work(stand(self._zero, tuple(_stations(self._zero, label)), layout, bed), layout)
        self._body = Polygon(ring(self._zero.corners))
        swing = swing_ring(Standing(self._zero, (), layout))
        self._reach = self._body.union(Polygon(swing)) if swing else self._body
        self._taken: list[BaseGeometry] = [Polygon(ring(place.points)) for place in bed.keep_outs]

    def block(self, other: Placed) -> None:
        """Take the place of what stands there already, its handle's swing with it."""
        from shapely import Polygon  # noqa: PLC0415

        shape: BaseGeometry = Polygon(ring(other.corners)).buffer(self._gap, join_style="mitre")
        swing = swing_ring(Standing(other, (), Layout(other.setup)))
        self._taken.append(shape.union(Polygon(swing)) if swing else shape)

    @staticmethod
    def _work(standing: Standing, layout: Layout) -> Bounds:
        """Return what the spindle has to reach, from the middle of the holder."""
        radius = float(layout.cutter_mm) / 2
        spots = [spot for seat in standing.seats for spot in (ring(seat.piece) or ring([seat.zero_mm[:2]]))]
        xs, ys = [x for x, _ in spots], [y for _, y in spots]
        return min(xs) - radius, min(ys) - radius, max(xs) + radius, max(ys) + radius

    def rows(self) -> list[float]:
        """Return the Y to try: over each T-slot, else in steps, from the front."""
        low, high = -self._body.bounds[1], float(self._bed.size_mm[1]) - self._body.bounds[3]
        if self._bed.slots_run == "X" and self._bed.slots_mm:
            points = self._zero.body.bolts or (
                (self._zero.body.size_mm[0] / 2, self._zero.body.size_mm[1] / 2),
            )
            ((_, y),) = ring(self._zero.spots(points[:1]))
            rows = [float(slot) - y for slot in self._bed.slots_mm]
            return [row for row in rows if low - 1e-6 <= row <= high + 1e-6] or _steps(low, high)
        return _steps(low, high)

    def everywhere(self) -> Iterator[tuple[float, float]]:
        """Yield each free place, row by row from the front, and take it."""
        for y in self.rows():
            yield from ((x, y) for x in self.along(y))

    def along(self, y: float) -> Iterator[float]:
        """Yield each free X of a row, and take it."""
        from shapely import union_all  # noqa: PLC0415
        from shapely.affinity import translate  # noqa: PLC0415
        from shapely.prepared import prep  # noqa: PLC0415

        if not self._reaches_y(y):
            return
        taken = prep(union_all(self._taken)) if self._taken else None
        x = max(-self._body.bounds[0], float(self._bed.reach_mm[0]) - self._needs[0])
        end = min(
            float(self._bed.size_mm[0]) - self._body.bounds[2], float(self._bed.reach_mm[2]) - self._needs[2]
        )
        while x <= end + 1e-6:
            shape = translate(self._reach, x, y)
            if taken is None or not _clashes(taken, shape, translate(self._body, x, y)):
                body = translate(self._body, x, y).buffer(self._gap, join_style="mitre")
                self._taken.append(body.union(shape))
                yield x
                taken = prep(union_all(self._taken))
                x += max(self._body.bounds[2] - self._body.bounds[0] + self._gap, STEP_MM)
            else:
                x += STEP_MM

    def _reaches_y(self, y: float) -> bool:
        inside = float(self._bed.reach_mm[1]) <= y + self._needs[1] + 1e-6
        return inside and y + self._needs[3] <= float(self._bed.reach_mm[3]) + 1e-6


def _clashes(taken: "PreparedGeometry[BaseGeometry]", reach: "BaseGeometry", body: "BaseGeometry") -> bool:
    return bool(taken.intersects(reach) and not taken.touches(reach)) or bool(
        taken.intersects(body) and not taken.touches(body)
    )


def _stations(placed: Placed, like: Station) -> list[Station]:
    return [replace(like, nest=n) for n in range(len(placed.body.nests))] or [like]


def _steps(low: float, high: float) -> list[float]:
    count = int((high - low) / STEP_MM + 1e-9) + 1 if high >= low - 1e-6 else 0
    return [low + i * STEP_MM for i in range(count)]
