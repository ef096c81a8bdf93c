"""Holders placed on a machine's table, and where each station's zero comes to lie."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from math import cos, radians, sin
from typing import Literal

from ditto_run.core.place.station import Station
from ditto_run.core.sheets import Knows
from ditto_run.core.shop import Bed, Body
from ditto_run.core.shop.outlines import Point

Spot = tuple[float, float]
Ring = tuple[Spot, ...]
How = Literal["centred", "packed"]
RIGHT_ANGLES = {0: (1, 0), 90: (0, 1), 180: (-1, 0), 270: (0, -1)}
HALF = Decimal("0.5")
FINEST = Decimal("0.0001")  # positions are kept to a tenth of a micron; [mm]
ZERO = Decimal(0)


@dataclass(frozen=True, slots=True)
class Layout:
    """What a setup's layout is checked with.

    Args:
        setup: key of the setup.
        piece_mm: X, Y and Z of the piece as it sits; None while not known. [mm]
        pieces: pieces side by side between one pair of jaws.
        how: centred on the jaws, or packed against the stop side.
        gap_mm: between those pieces. [mm]
        cutter_mm: diameter of the largest cutter. [mm]
        longest_mm, shortest_mm: tools, from the spindle nose; None while not known. [mm]
        clear_mm: what the longest tool has to clear everything by. [mm]
        raised_mm: parallels or a riser under the piece. [mm]
    """

    setup: int
    piece_mm: tuple[Decimal, Decimal, Decimal] | None = None
    pieces: int = 1
    how: How = "centred"
    gap_mm: Decimal = ZERO
    cutter_mm: Decimal = ZERO
    longest_mm: Decimal | None = None
    shortest_mm: Decimal | None = None
    clear_mm: Decimal = Decimal(5)
    raised_mm: Decimal = ZERO

    @property
    def row_mm(self) -> Decimal:
        """Length of the pieces between one pair of jaws, [mm]."""
        long = self.piece_mm[0] if self.piece_mm else ZERO
        return long * self.pieces + self.gap_mm * (self.pieces - 1)


@dataclass(frozen=True, slots=True)
class Placed:
    """One holder on the table.

    Args:
        key: its lasting number in the job.
        setup: key of the setup it serves.
        holder: its name in the register.
        body: its body as it was measured when it was placed.
        x_mm, y_mm: middle of its footprint, in table coordinates. [mm]
        turn: turned to the left, seen from above. [°]
        mirrored: True if its stop and handle are on the other hand.
        handle_off: True if its handle is taken off once it is clamped.
        stays: True if it stays on the table in the machine's other setups.
        cycle: the cycle it serves, where its setup is cut in several; 0 for the first, or as its stations say.
    """

    key: int
    setup: int
    holder: str
    body: Body
    x_mm: Decimal
    y_mm: Decimal
    turn: Decimal = ZERO
    mirrored: bool = False
    handle_off: bool = False
    stays: bool = True
    cycle: int = 0

    def __hash__(self) -> int:
        """Few of its values are enough to tell it from others."""
        return hash((self.key, self.x_mm, self.y_mm, self.turn, self.mirrored))

    def spots(self, points: Iterable[Point]) -> tuple[Point, ...]:
        """Return points of the body in table coordinates; exact at right angles, [mm]."""
        wide, deep = self.body.size_mm
        c, s = _turned(self.turn)
        found = []
        for x, y in points:
            u, v = (wide - x if self.mirrored else x) - wide * HALF, y - deep * HALF
            found.append((self.x_mm + c * u - s * v, self.y_mm + s * u + c * v))
        return tuple(found)

    @property
    def corners(self) -> tuple[Point, ...]:
        """Its footprint in table coordinates, [mm]."""
        return self.spots(self.body.corners)

    @property
    def left_mm(self) -> Decimal:
        """Its left edge, from the table's, [mm]."""
        return min(x for x, _ in self.corners).quantize(FINEST)

    @property
    def front_mm(self) -> Decimal:
        """Its front edge, from the table's, [mm]."""
        return min(y for _, y in self.corners).quantize(FINEST)

    @property
    def across_mm(self) -> Point:
        """How far its footprint reaches along X and Y as it is turned, [mm]."""
        xs, ys = zip(*self.corners, strict=True)
        return max(xs) - min(xs), max(ys) - min(ys)

    def shift_mm(self, nest: int) -> Point:
        """Return a nest's place from the origin as the holder is turned, [mm]."""
        (ox, oy), (x, y) = self.spots((self.body.origin, self.body.nests[nest]))
        return (x - ox).quantize(FINEST), (y - oy).quantize(FINEST)


@dataclass(frozen=True, slots=True)
class Seat:
    """Where the piece of one station sits.

    Args:
        station: the station.
        zero_mm: its zero in table coordinates, X, Y, Z. [mm]
        piece: corners of the piece, or of the row of pieces; empty while no size is known. [mm]
        jaw: both ends of the fixed jaw's face; empty without jaws. [mm]
        away: from the piece to its stop along X and Y; None without a stop.
        corner: which corner of the piece the zero is; empty in the middle.
    """

    station: Station
    zero_mm: tuple[Decimal, Decimal, Decimal]
    piece: tuple[Point, ...] = ()
    jaw: tuple[Point, ...] = ()
    away: Point | None = None
    corner: str = ""

    @property
    def label(self) -> str:
        """Label of the station."""
        return self.station.label


@dataclass(frozen=True, slots=True)
class Standing:
    """A placed holder with its stations.

    Args:
        placed: the holder.
        seats: where its pieces sit.
        layout: what its setup is checked with.
    """

    placed: Placed
    seats: tuple[Seat, ...]
    layout: Layout

    def __hash__(self) -> int:
        """Few of its values are enough to tell it from others."""
        return hash((self.placed, len(self.seats)))

    @property
    def name(self) -> str:
        """What it is called: the holder, with its stations."""
        labels = [seat.label for seat in self.seats]
        if not labels:
            return self.placed.holder
        return (
            f"{self.placed.holder} {labels[0]}"
            if len(labels) == 1
            else f"{self.placed.holder} ({labels[0]} to {labels[-1]})"
        )


@lru_cache(maxsize=256)
def stand(placed: Placed, stations: tuple[Station, ...], layout: Layout, bed: Bed) -> Standing:
    """Return a placed holder with its stations' seats.

    With jaws the zero is where the stop meets the fixed jaw; in a nest it is the nest's own point; elsewhere the
    middle of the holder. Its Z is the top of the piece or its seat, as the house has it.

    Args:
        placed: the holder.
        stations: those of the holder, in order.
        layout: what its setup is checked with.
        bed: the table.
    """
    high = placed.body.seat_mm + layout.raised_mm
    if layout.piece_mm is not None and bed.zero_at != "seat":
        high += layout.piece_mm[2]
    return Standing(placed, tuple(_seat(placed, station, layout, high, bed) for station in stations), layout)


def _seat(placed: Placed, station: Station, layout: Layout, high: Decimal, bed: Bed) -> Seat:
    body = placed.body
    if body.jaw_mm is not None:
        return _between_jaws(placed, station, layout, high, bed)
    middle = (body.size_mm[0] * HALF, body.size_mm[1] * HALF)
    at = body.nests[station.nest] if station.nest < len(body.nests) else middle
    ((x, y),) = placed.spots((at,))
    piece: tuple[Point, ...] = ()
    if layout.piece_mm is not None:
        half_x, half_y = layout.piece_mm[0] * HALF, layout.piece_mm[1] * HALF
        piece = placed.spots(_box(at[0] - half_x, at[1] - half_y, at[0] + half_x, at[1] + half_y))
    return Seat(station, (x, y, high), piece)


def _between_jaws(placed: Placed, station: Station, layout: Layout, high: Decimal, bed: Bed) -> Seat:
    body = placed.body
    jaw = body.jaw_mm or ZERO
    wide, deep = body.size_mm
    row = layout.row_mm
    # The stop side is meant as seen from the front; in the body's own frame a mirrored holder has it on the other hand.
    on_left = ((station.stop or bed.stop_side) == "left") != placed.mirrored
    inset = (jaw - row) * HALF if layout.how == "centred" else ZERO
    start = (wide - jaw) * HALF + inset if on_left else (wide + jaw) * HALF - inset
    end = start + row if on_left else start - row
    face = deep - body.jaw_at_mm
    ((x, y),) = placed.spots(((start, face),))
    ends = placed.spots((((wide - jaw) * HALF, face), ((wide + jaw) * HALF, face)))
    piece: tuple[Point, ...] = ()
    if layout.piece_mm is not None:
        piece = placed.spots(_box(min(start, end), face - layout.piece_mm[1], max(start, end), face))
    one, other = placed.spots(((ZERO, ZERO), (Decimal(-1) if on_left else Decimal(1), ZERO)))
    return Seat(
        station,
        (x, y, high),
        piece,
        ends,
        (other[0] - one[0], other[1] - one[1]),
        _corner((x, y), piece),
    )


def _box(x1: Decimal, y1: Decimal, x2: Decimal, y2: Decimal) -> tuple[Point, ...]:
    return ((x1, y1), (x2, y1), (x2, y2), (x1, y2))


def _corner(zero: Point, piece: tuple[Point, ...]) -> str:
    if not piece:
        return ""
    x = sum(p[0] for p in piece) / len(piece)
    y = sum(p[1] for p in piece) / len(piece)
    return f"{'back' if zero[1] > y else 'front'} {'left' if zero[0] < x else 'right'}"


def _turned(turn: Decimal) -> tuple[Decimal, Decimal]:
    """Return cosine and sine; exact at right angles."""
    quarter = RIGHT_ANGLES.get(int(turn) % 360) if turn == turn.to_integral_value() else None
    if quarter is not None:
        return Decimal(quarter[0]), Decimal(quarter[1])
    angle = radians(float(turn))
    return Decimal(repr(cos(angle))), Decimal(repr(sin(angle)))


def expected_mm(seat: Seat, bed: Bed) -> tuple[Decimal, Decimal, Decimal]:
    """Return what a station's offset should read, from the drawing: its zero less its shift, in machine coordinates.

    Machine zero is where the spindle stands at home, its nose at the top of Z.

    Args:
        seat: where the piece sits.
        bed: the table.

    Returns:
        X, Y, Z. [mm]

    Source:
        Own derivation: machine position = table position − home.
    """
    shift = seat.station.shift_mm
    home = (*bed.home_mm, bed.nose_high_mm)
    x, y, z = (
        (zero - at - part).quantize(FINEST) for zero, at, part in zip(seat.zero_mm, home, shift, strict=True)
    )
    return x, y, z


def ring(points: Iterable[Point]) -> Ring:
    """Return points as floats, for geometry and drawing."""
    return tuple((float(x), float(y)) for x, y in points)


NO_LAYOUTS: Mapping[int, Layout] = {}
NO_PLACED: Mapping[int, tuple[Placed, ...]] = {}
LAYOUTS = Knows("layouts", NO_LAYOUTS)
"""What each setup's layout is checked with."""
PLACED = Knows("placed", NO_PLACED)
"""Holders on the table of each setup."""
