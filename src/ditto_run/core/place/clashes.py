"""What is wrong with a layout: overlaps, the table's edge, travel, reach, keep-outs, handles, T-slots.

Each clash names both things, by how much, and a way out; its outline is what the drawing hatches.
"""

import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from math import ceil, cos, pi, sin
from typing import TYPE_CHECKING, Any

from ditto_run.core.findings import Finding, Weight
from ditto_run.core.place.placed import Ring, Seat, Spot, Standing, ring
from ditto_run.core.shop import Bed
from ditto_run.core.units import LengthUnit, capital, counted, length_text

if TYPE_CHECKING:
    from shapely import Polygon

TOUCHES_MM = 0.001  # two things that only touch do not clash
OTHER_UNIT = re.compile(r" \([\d.]+ (?:in|mm)\)")
ROUND = 48  # corners a swing is drawn with


@dataclass(frozen=True, slots=True)
class Clash:
    """One thing wrong with a layout.

    Args:
        code: short fixed name of the check.
        weight: stop, ask or note.
        says: what and where.
        way_out: what to do.
        by_mm: how far; 0 where there is no distance. [mm]
        outline: what is hatched, in table coordinates; empty for nothing. [mm]
        about: keys of the placed holders it is about.
    """

    code: str
    weight: Weight
    says: str
    way_out: str
    by_mm: float = 0.0
    outline: Ring = ()
    about: tuple[int, ...] = ()

    @property
    def brief(self) -> str:
        """What and where, in the drawing's unit alone, for the large sentence."""
        return OTHER_UNIT.sub("", self.says)

    @property
    def finding(self) -> Finding:
        """The same as a finding of Place."""
        return Finding("place", self.weight, self.code, self.says, self.way_out)


@dataclass(frozen=True, slots=True)
class _Part:
    """One convex or outlined part of what stands: its body or one of its pieces."""

    standing: Standing
    name: str
    shape: "Polygon"


def clashes(standings: Sequence[Standing], bed: Bed, unit: LengthUnit = "mm") -> list[Clash]:
    """Return everything wrong with a layout, the worst first.

    Args:
        standings: what stands on the table at the same time.
        bed: the table.
        unit: the drawing's unit, for the words.
    """
    return [*_found(tuple(standings), bed, unit)]


@lru_cache(maxsize=16)
def _found(standings: tuple[Standing, ...], bed: Bed, unit: LengthUnit) -> tuple[Clash, ...]:
    """Work the clashes out; a page asks twice, for its step line and for its drawing."""
    parts = _parts(standings)
    found = [*_overlaps(parts, unit), *_keep_outs(parts, bed, unit), *_handles(standings, parts, bed, unit)]
    for standing in standings:
        found += [*_off_table(standing, bed, unit), *_slots(standing, bed, unit), *_jaws(standing, unit)]
        for seat in standing.seats:
            found += [*_travel(standing, seat, bed, unit), *_habits(standing, seat, bed)]
        found += _reach(standing, standings, bed, unit)
    return tuple(sorted(found, key=_worst_first))


def _worst_first(clash: Clash) -> tuple[int, float]:
    return ("stop", "ask", "note").index(clash.weight), -clash.by_mm


def _parts(standings: Sequence[Standing]) -> list[_Part]:
    from shapely import Polygon  # noqa: PLC0415 - shapely takes 0.2 s, and only a layout needs it

    found = []
    for standing in standings:
        found.append(_Part(standing, standing.name, Polygon(ring(standing.placed.corners))))
        found += [
            _Part(standing, f"the piece at {s.label}", Polygon(ring(s.piece)))
            for s in standing.seats
            if s.piece
        ]
    return found


def _overlaps(parts: Sequence[_Part], unit: LengthUnit) -> Iterator[Clash]:
    from shapely import STRtree  # noqa: PLC0415

    if not parts:
        return  # the tree wants something to hold
    tree = STRtree([part.shape for part in parts])
    worst: dict[tuple[int, int], Clash] = {}
    for first, second in zip(
        *tree.query([part.shape for part in parts], predicate="intersects"), strict=True
    ):
        if first >= second:
            continue
        one, other = parts[first], parts[second]
        same = one.standing is other.standing
        if same and (one.name == one.standing.name or other.name == other.standing.name):
            continue  # a piece on its own holder
        depth, (dx, dy) = push_out(_hull(one.shape), _hull(other.shape))
        common = one.shape.intersection(other.shape)
        if depth <= TOUCHES_MM or common.area <= TOUCHES_MM:
            continue
        key = (one.standing.placed.key, other.standing.placed.key)
        if key not in worst or worst[key].by_mm < depth:
            worst[key] = Clash(
                "overlap",
                "stop",
                f"{capital(one.name)} and {other.name} overlap by {_by(depth, unit)}.",
                f"{'Space the nests out' if same else f'Move {other.standing.name} {_by(depth, unit)} {_way(dx, dy)}'}.",
                depth,
                _outline(common),
                key,
            )
    yield from worst.values()


def _keep_outs(parts: Sequence[_Part], bed: Bed, unit: LengthUnit) -> Iterator[Clash]:
    from shapely import Polygon  # noqa: PLC0415

    for place in bed.keep_outs:
        shape = Polygon(ring(place.points))
        for part in parts:
            if not part.shape.intersects(shape):
                continue
            depth, (dx, dy) = push_out(_hull(shape), _hull(part.shape))
            common = part.shape.intersection(shape)
            if depth > TOUCHES_MM and common.area > TOUCHES_MM:
                yield Clash(
                    "keep-out",
                    "stop",
                    f"{capital(part.name)} stands {_by(depth, unit)} in the {place.name}.",
                    f"Move it {_by(depth, unit)} {_way(dx, dy)}.",
                    depth,
                    _outline(common),
                    (part.standing.placed.key,),
                )


def swing_ring(standing: Standing) -> Ring:
    """Return the circle a handle swings through; empty without a handle, or with it taken off, [mm]."""
    placed = standing.placed
    if placed.body.handle is None or placed.handle_off:
        return ()
    ((x, y),) = ring(placed.spots((placed.body.handle,)))
    radius = float(placed.body.swing_mm)
    return tuple(
        (x + radius * cos(2 * pi * i / ROUND), y + radius * sin(2 * pi * i / ROUND)) for i in range(ROUND)
    )


def _handles(
    standings: Sequence[Standing], parts: Sequence[_Part], bed: Bed, unit: LengthUnit
) -> Iterator[Clash]:
    from shapely import Polygon  # noqa: PLC0415

    others: list[tuple[str, Polygon, Standing | None]] = [
        (part.name, part.shape, part.standing) for part in parts
    ]
    others += [(f"the {place.name}", Polygon(ring(place.points)), None) for place in bed.keep_outs]
    for standing in standings:
        circle = swing_ring(standing)
        if not circle:
            continue
        shape = Polygon(circle)
        for name, other, owner in others:
            if owner is standing or not shape.intersects(other):
                continue
            depth, _ = push_out(circle, _hull(other))
            common = shape.intersection(other)
            if depth > TOUCHES_MM and common.area > TOUCHES_MM:
                yield Clash(
                    "handle",
                    "stop",
                    f"The handle of {standing.name} hits {name} by {_by(depth, unit)}.",
                    "Turn the holder half round, move it, or take the handle off once it is clamped.",
                    depth,
                    _outline(common),
                    (standing.placed.key,),
                )


def _off_table(standing: Standing, bed: Bed, unit: LengthUnit) -> Iterator[Clash]:
    x1, y1, x2, y2 = _bounds(ring(standing.placed.corners))
    over = _over((x1, y1, x2, y2), (0.0, 0.0, float(bed.size_mm[0]), float(bed.size_mm[1])))
    if over:
        side, by = max(over.items(), key=lambda item: item[1])
        yield Clash(
            "off-table",
            "ask",
            f"{capital(standing.name)} hangs {_by(by, unit)} over the table's {side} edge.",
            f"Move it {_by(by, unit)} {INWARD[side]}, or see that its bolts hold what stands on the table.",
            by,
            (),
            (standing.placed.key,),
        )


def _travel(standing: Standing, seat: Seat, bed: Bed, unit: LengthUnit) -> Iterator[Clash]:
    """The middle of the spindle has to go round the whole piece, a cutter's radius outside it."""
    radius = float(standing.layout.cutter_mm) / 2
    x1, y1, x2, y2 = _bounds(ring(seat.piece) or ring([seat.zero_mm[:2]]))
    needs = (x1 - radius, y1 - radius, x2 + radius, y2 + radius)
    reach = (float(bed.reach_mm[0]), float(bed.reach_mm[1]), float(bed.reach_mm[2]), float(bed.reach_mm[3]))
    over = _over(needs, reach)
    if not over:
        return
    side, by = max(over.items(), key=lambda item: item[1])
    sides = " and ".join(f"{_by(far, unit)} {TOWARDS[where]}" for where, far in over.items())
    yield Clash(
        "travel",
        "stop",
        f"The spindle cannot go round the piece at {seat.label}: it lacks {sides}.",
        f"Move {standing.name} {_by(by, unit)} {INWARD[side]}, or take a smaller cutter.",
        by,
        _strip(needs, reach, side),
        (standing.placed.key,),
    )


def _reach(standing: Standing, standings: Sequence[Standing], bed: Bed, unit: LengthUnit) -> Iterator[Clash]:
    layout = standing.layout
    longest = max(
        (one.layout.longest_mm for one in standings if one.layout.longest_mm is not None), default=None
    )
    tall = float(layout.piece_mm[2]) if layout.piece_mm else 0.0
    body = standing.placed.body
    top = max(float(body.tall_mm), float(body.seat_mm + layout.raised_mm) + tall)
    if longest is not None:
        lacks = top + float(longest) + float(layout.clear_mm) - float(bed.nose_high_mm)
        if lacks > TOUCHES_MM:
            yield Clash(
                "tool-too-long",
                "stop",
                f"At the top of Z the longest tool does not clear {standing.name}: {_by(lacks, unit)} are missing.",
                "Take a shorter tool or holder, or a lower holder for the piece.",
                lacks,
                (),
                (standing.placed.key,),
            )
    if layout.shortest_mm is not None and standing.seats:
        lacks = float(bed.nose_low_mm) - float(layout.shortest_mm) - float(body.seat_mm + layout.raised_mm)
        if lacks > TOUCHES_MM:
            yield Clash(
                "tool-too-short",
                "stop",
                f"At the bottom of Z the shortest tool ends {_by(lacks, unit)} above the seat of {standing.name}.",
                "Raise the piece on a plate, or let the tool out.",
                lacks,
                (),
                (standing.placed.key,),
            )


def _slots(standing: Standing, bed: Bed, unit: LengthUnit) -> Iterator[Clash]:
    """At least two bolts want a slot under them; one, if there is only one."""
    bolts = ring(standing.placed.spots(standing.placed.body.bolts))
    if not bolts or not bed.slots_mm:
        return
    axis = 1 if bed.slots_run == "X" else 0
    slots = [float(slot) for slot in bed.slots_mm]
    away = sorted((nearest(slots, bolt[axis]) - bolt[axis] for bolt in bolts), key=abs)
    second = away[min(1, len(away) - 1)]
    if abs(second) > float(bed.slot_mm) / 2 + TOUCHES_MM:
        way = _way(*((0.0, second) if axis else (second, 0.0)))
        yield Clash(
            "slots",
            "ask",
            f"{capital(standing.name)} has no T-slot under its bolts: {_by(abs(second), unit)} away.",
            f"Move it {_by(abs(second), unit)} {way}, or clamp it with straps.",
            abs(second),
            (),
            (standing.placed.key,),
        )


def nearest(values: Sequence[float], at: float) -> float:
    """Return the value nearest to another one, [any one unit]."""
    return min(values, key=lambda value: abs(value - at))


def _jaws(standing: Standing, unit: LengthUnit) -> Iterator[Clash]:
    body, layout = standing.placed.body, standing.layout
    if body.jaw_mm is None or layout.piece_mm is None:
        return
    if body.opens_mm and layout.piece_mm[1] > body.opens_mm:
        by = float(layout.piece_mm[1] - body.opens_mm)
        yield Clash(
            "jaws",
            "stop",
            f"{capital(standing.name)} opens {length_text(body.opens_mm, unit, 1)}, the piece is {_by(by, unit)} wider.",
            "Turn the piece, or take a wider holder.",
            by,
            (),
            (standing.placed.key,),
        )
    if layout.pieces > 1 and layout.row_mm > body.jaw_mm:
        by = float(layout.row_mm - body.jaw_mm)
        yield Clash(
            "row",
            "ask",
            f"{counted(layout.pieces, 'piece')} {'is' if layout.pieces == 1 else 'are'} {_by(by, unit)} longer than the jaws of {standing.name}.",
            "Hold fewer side by side, or see that the outer ones are gripped.",
            by,
            (),
            (standing.placed.key,),
        )


def _habits(standing: Standing, seat: Seat, bed: Bed) -> Iterator[Clash]:
    stop = seat.station.stop
    if stop and stop != bed.stop_side:
        yield Clash(
            "habit-stop",
            "note",
            f"{seat.label} has its stop on the {stop}; here it is usually on the {bed.stop_side}.",
            "Say so on the layout sheet, or change it.",
            0.0,
            (),
            (standing.placed.key,),
        )
    elif seat.corner and seat.corner != bed.corner:
        yield Clash(
            "habit-corner",
            "note",
            f"{seat.label} has its zero at the {seat.corner}; here it is usually at the {bed.corner}.",
            "Say so on the layout sheet, or turn the holder.",
            0.0,
            (),
            (standing.placed.key,),
        )


INWARD = {"left": "to the right", "right": "to the left", "front": "away from you", "back": "towards you"}
TOWARDS = {"left": "to the left", "right": "to the right", "front": "towards you", "back": "away from you"}
Bounds = tuple[float, float, float, float]


def _over(inner: Bounds, outer: Bounds) -> dict[str, float]:
    """Return by how much the inner bounds pass the outer ones, side by side; only where they do."""
    by = {
        "left": outer[0] - inner[0],
        "front": outer[1] - inner[1],
        "right": inner[2] - outer[2],
        "back": inner[3] - outer[3],
    }
    return {side: far for side, far in by.items() if far > TOUCHES_MM}


def _bounds(points: Ring) -> Bounds:
    xs, ys = [x for x, _ in points], [y for _, y in points]
    return min(xs), min(ys), max(xs), max(ys)


def _strip(needs: Bounds, reach: Bounds, side: str) -> Ring:
    """Return the part of what is needed that lies beyond one side of the reach."""
    x1, y1, x2, y2 = needs
    if side == "left":
        x2 = reach[0]
    elif side == "right":
        x1 = reach[2]
    elif side == "front":
        y2 = reach[1]
    else:
        y1 = reach[3]
    return ((x1, y1), (x2, y1), (x2, y2), (x1, y2))


def push_out(fixed: Ring, moved: Ring) -> tuple[float, Spot]:
    """Return the least push that parts two convex outlines: how far, and along which direction the second one goes.

    By the separating axis: of all edge normals the one along which they overlap least.

    Args:
        fixed: corners in order. [mm]
        moved: corners in order. [mm]

    Returns:
        Distance, 0 if they do not overlap [mm], and a unit direction.

    Source:
        Separating axis theorem; own derivation.
    """
    least, way = float("inf"), (1.0, 0.0)
    for points in (fixed, moved):
        for (x1, y1), (x2, y2) in zip(points, (*points[1:], points[0]), strict=True):
            long = ((x2 - x1) ** 2 + (y2 - y1) ** 2) ** 0.5
            if long < 1e-12:  # noqa: PLR2004 - a corner typed twice
                continue
            nx, ny = (y2 - y1) / long, (x1 - x2) / long
            a, b = [x * nx + y * ny for x, y in fixed], [x * nx + y * ny for x, y in moved]
            ahead, behind = max(a) - min(b), max(b) - min(a)
            if min(ahead, behind) <= 0:
                return 0.0, (1.0, 0.0)
            if min(ahead, behind) < least:
                least = min(ahead, behind)
                way = (nx, ny) if ahead <= behind else (-nx, -ny)
    return least, way


def _hull(shape: "Polygon") -> Ring:
    hull: Any = shape.convex_hull
    return tuple((x, y) for x, y in hull.exterior.coords[:-1])


def _outline(shape: object) -> Ring:
    """Return the outline of a common part; of several, the largest."""
    parts: Iterable[Polygon] = getattr(shape, "geoms", [shape])
    largest = max(parts, key=lambda part: part.area)
    return tuple((x, y) for x, y in largest.exterior.coords[:-1]) if largest.geom_type == "Polygon" else ()


def _way(dx: float, dy: float) -> str:
    if abs(dx) >= abs(dy):
        return "to the right" if dx > 0 else "to the left"
    return "away from you" if dy > 0 else "towards you"


def _by(value: float, unit: LengthUnit) -> str:
    """Return a distance in words, rounded up so that following it is enough."""
    return length_text(Decimal(ceil(value * 10 - 1e-6)) / 10, unit, 1)
