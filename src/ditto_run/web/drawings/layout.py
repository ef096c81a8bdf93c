"""The layout of a machine's table, to scale: slots, reach, keep-outs, holders, stations, and what clashes hatched."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache

from markupsafe import Markup, escape

from ditto_run.core.place import Clash, Seat, Standing, ring, swing_ring
from ditto_run.core.place.placed import Ring, Spot
from ditto_run.core.shop import Bed
from ditto_run.core.units import LengthUnit, convert, number_text
from ditto_run.web.drawings.scale import svg

SIDE, TOP, BELOW = 30.0, 14.0, 58.0
LETTER_ROOM, LETTER, NAME_ROOM, LEAST_STEP = 18.0, 10.0, 60.0, 58.0
JAW_MM = 24.0  # how deep the drawn jaws are
MOST_LABELS = 60  # more nests than this are drawn without their numbers


@dataclass(frozen=True, slots=True)
class LayoutPicture:
    """What a layout's drawing shows.

    Args:
        bed: the table.
        standings: what stands on it.
        clashes: what is wrong, hatched.
        settled: labels of the stations whose offset is set.
        chosen: key of the chosen holder; 0 for none.
        quiet: keys of holders that belong to another setup.
        unit: the drawing's unit, for the figures.
    """

    bed: Bed
    standings: Sequence[Standing] = ()
    clashes: Sequence[Clash] = ()
    settled: Collection[str] = ()
    chosen: int = 0
    quiet: Collection[int] = ()
    unit: LengthUnit = "mm"


@dataclass(frozen=True, slots=True)
class _Frame:
    """Table coordinates to pixels."""

    scale: float
    left: float
    base: float

    def at(self, spot: Spot) -> str:
        return f"{self.x(spot[0]):.1f},{self.y(spot[1]):.1f}"

    def x(self, x: float) -> float:
        return self.left + x * self.scale

    def y(self, y: float) -> float:
        return self.base - y * self.scale

    def path(self, points: Sequence[Spot], close: str = "Z") -> str:
        return "M" + "L".join(self.at(spot) for spot in points) + close


def draw_layout(picture: LayoutPicture, width: int = 764, most: int = 400, *, movable: bool = True) -> Markup:
    """Return the drawing; its holders can be moved by hand where `movable`."""
    frame, height = _frame_of(picture, width, most)
    body = _table(picture.bed, frame, picture.unit)
    for standing in picture.standings:
        body += _standing(standing, picture, frame, movable=movable)
    body += "".join(
        _clash(clash, frame, picture.unit, (width, height)) for clash in picture.clashes if clash.outline
    )
    body += _dimensions(picture, frame)
    body += (
        f'<text class="tx dim" x="{frame.x(float(picture.bed.size_mm[0]) / 2):.0f}" '
        f'y="{height - 6:.0f}" text-anchor="middle">front: you stand here</text>'
    )
    says = str(escape(layout_says(picture)))
    if not movable:
        return Markup(svg(width, round(height), says, body))
    scale = f'data-scale="{frame.scale:.6f}"'
    return Markup(
        f'<svg id="layout" role="group" aria-label="{says}" width="{width}" '
        f'height="{height:.0f}" viewBox="0 0 {width} {height:.0f}" {scale}>{body}</svg>'
    )


def layout_says(picture: LayoutPicture) -> str:
    """Return what a layout shows, in one sentence."""
    unit = picture.unit
    names = ", ".join(
        f"{s.name} at X {own(s.placed.left_mm, unit)}, Y {own(s.placed.front_mm, unit)} {unit}"
        for s in picture.standings
    )
    wrong = sum(clash.weight == "stop" for clash in picture.clashes)
    table = f"The table, {_bare(picture.bed.size_mm[0], unit)} by {_bare(picture.bed.size_mm[1], unit)} {unit}, seen from above"
    asked = sum(clash.weight == "ask" for clash in picture.clashes)
    look = f", {asked} to look at" if asked else ""
    return f"{table}: {names or 'nothing stands on it'}. {f'{wrong} clash' if wrong else 'Nothing clashes'}{look}."


def own(value_mm: Decimal | float, unit: LengthUnit) -> str:
    """Return a length in the drawing's unit alone: one decimal in millimetres, three in inches."""
    value = convert(value_mm if isinstance(value_mm, Decimal) else Decimal(repr(value_mm)), "mm", unit)
    return number_text(value, 3 if unit == "in" else 1)


def _bare(value_mm: Decimal | float, unit: LengthUnit) -> str:
    return own(value_mm, unit).removesuffix(".0")


def _frame_of(picture: LayoutPicture, width: int, most: int) -> tuple[_Frame, float]:
    bed = picture.bed
    spots: list[Spot] = [(0.0, 0.0), (float(bed.size_mm[0]), float(bed.size_mm[1]))]
    spots += [
        (float(bed.reach_mm[0]), float(bed.reach_mm[1])),
        (float(bed.reach_mm[2]), float(bed.reach_mm[3])),
    ]
    for place in bed.keep_outs:
        spots += ring(place.points)
    for standing in picture.standings:
        spots += ring(standing.placed.corners)
    x1, x2 = min(x for x, _ in spots), max(x for x, _ in spots)
    y1, y2 = min(y for _, y in spots), max(y for _, y in spots)
    scale = min((width - 2 * SIDE) / (x2 - x1), (most - TOP - BELOW) / (y2 - y1))
    height = (y2 - y1) * scale + TOP + BELOW
    left = (width - (x2 - x1) * scale) / 2 - x1 * scale
    return _Frame(scale, left, height - BELOW + y1 * scale), height


def _table(bed: Bed, frame: _Frame, unit: LengthUnit) -> str:
    wide, deep = float(bed.size_mm[0]), float(bed.size_mm[1])
    half = float(bed.slot_mm) / 2
    body = f'<path class="sc-h" d="{frame.path(((0, 0), (wide, 0), (wide, deep), (0, deep)))}"/>'
    for slot in bed.slots_mm:
        for edge in (float(slot) - half, float(slot) + half):
            ends = ((0.0, edge), (wide, edge)) if bed.slots_run == "X" else ((edge, 0.0), (edge, deep))
            body += f'<path class="sc-l" d="{frame.path(ends, "")}"/>'
    x1, y1, x2, y2 = (float(part) for part in bed.reach_mm)
    body += f'<path class="sc-d" stroke-dasharray="16 5 3 5" d="{frame.path(((x1, y1), (x2, y1), (x2, y2), (x1, y2)))}"/>'
    body += (
        f'<text class="tx dim on-line" x="{frame.x(x2) - 8:.0f}" y="{frame.y(y2) + 20:.0f}" '
        f'text-anchor="end">reach {_bare(x2 - x1, unit)} × {_bare(y2 - y1, unit)} {unit}</text>'
    )
    for place in bed.keep_outs:
        points = ring(place.points)
        body += f'<path class="sc hatched" d="{frame.path(points)}"/>'
        xs, ys = [x for x, _ in points], [y for _, y in points]
        wide_px, deep_px = (max(xs) - min(xs)) * frame.scale, (max(ys) - min(ys)) * frame.scale
        if max(wide_px, deep_px) < len(place.name) * 9:
            continue
        x, y = frame.x((min(xs) + max(xs)) / 2), frame.y((min(ys) + max(ys)) / 2)
        turned = f' transform="rotate(-90 {x:.0f} {y:.0f})"' if deep_px > wide_px else ""
        body += f'<text class="tx on-line" x="{x:.0f}" y="{y + 6:.0f}" text-anchor="middle"{turned}>{escape(place.name)}</text>'
    return body


def _standing(standing: Standing, picture: LayoutPicture, frame: _Frame, *, movable: bool) -> str:
    placed = standing.placed
    chosen = placed.key == picture.chosen
    kind = f"placed{' is-chosen' if chosen else ''}{' is-quiet' if placed.key in picture.quiet else ''}"
    body = _shape(
        standing, frozenset(seat.label for seat in standing.seats if seat.label in picture.settled), frame
    )
    if not movable:
        return f'<g class="{kind}">{body}</g>'
    says = f"{standing.name}, left edge {own(placed.left_mm, picture.unit)}, front edge {own(placed.front_mm, picture.unit)} {picture.unit}, turned {placed.turn:f}°"
    mark = ' aria-current="true"' if chosen else ""
    return (  # an application: a screen reader hands its arrow keys on
        f'<g id="placed-{placed.key}" class="{kind}" role="application" '
        f'aria-roledescription="holder" tabindex="0" aria-label="{escape(says)}"{mark} '
        f'data-placed="{placed.key}" data-left="{placed.left_mm:f}" data-front="{placed.front_mm:f}">{body}</g>'
    )


@lru_cache(maxsize=256)
def _shape(standing: Standing, settled: frozenset[str], frame: _Frame) -> str:
    """Return a holder with its stations; those that did not move are not drawn again."""
    placed = standing.placed
    points = ring(placed.corners)
    body = f'<path class="body" d="{frame.path(points)}"/>'
    for bolt in ring(placed.spots(placed.body.bolts)):
        body += f'<circle class="sc" cx="{frame.x(bolt[0]):.1f}" cy="{frame.y(bolt[1]):.1f}" r="3.5"/>'
    if placed.body.chuck_mm is not None:
        middle = frame.x(float(placed.x_mm)), frame.y(float(placed.y_mm))
        body += _chuck(float(placed.body.chuck_mm) * frame.scale / 2, *middle)
    swing = swing_ring(standing)
    if swing and placed.body.handle is not None:
        ((x, y),) = ring(placed.spots((placed.body.handle,)))
        body += (
            f'<path class="sc" stroke-dasharray="5 5" d="{frame.path(swing)}"/>'
            f'<circle class="fill" cx="{frame.x(x):.1f}" cy="{frame.y(y):.1f}" r="4"/>'
        )
    few = len(standing.seats) <= MOST_LABELS
    for seat in standing.seats:
        body += _seat(seat, standing, frame, settled=seat.label in settled, named=few)
    codes = {seat.station.offset or "" for seat in standing.seats}
    if len(codes) == 1 and "" not in codes:
        x, y = frame.x(sum(x for x, _ in points) / len(points)), frame.y(min(y for _, y in points)) - 8
        body += f'<text class="b on-line" x="{x:.0f}" y="{y:.0f}" text-anchor="middle">{escape(min(codes))}</text>'
    return body


def _chuck(radius: float, x: float, y: float) -> str:
    return (
        f'<circle class="sc dye2" cx="{x:.1f}" cy="{y:.1f}" r="{radius:.1f}"/>'
        f'<circle class="sc" cx="{x:.1f}" cy="{y:.1f}" r="{radius / 3:.1f}"/>'
    )


def _seat(seat: Seat, standing: Standing, frame: _Frame, *, settled: bool, named: bool) -> str:
    body = _fixed_jaw(seat, frame) if seat.jaw else ""
    zero = (float(seat.zero_mm[0]), float(seat.zero_mm[1]))
    if seat.piece:
        points = ring(seat.piece)
        body += f'<path class="piece{" is-set" if settled else ""}" d="{frame.path(points)}"/>'
        body += _pieces(points, seat, standing.layout.pieces, frame)
    if seat.jaw and seat.piece:
        body += _moving_jaw(seat, frame)
    if seat.away is not None:
        body += _stop(seat, zero, frame)
    if named:
        body += _label(seat, zero, frame, settled=settled)
    x, y = frame.x(zero[0]), frame.y(zero[1])
    return f'{body}<circle class="zero" cx="{x:.1f}" cy="{y:.1f}" r="6"/><circle class="fill" cx="{x:.1f}" cy="{y:.1f}" r="2"/>'


def _label(seat: Seat, zero: Spot, frame: _Frame, *, settled: bool) -> str:
    """Return the station's letter on its piece, or above it where the piece is too small."""
    points = ring(seat.piece) or (zero,)
    xs, ys = [frame.x(x) for x, _ in points], [frame.y(y) for _, y in points]
    x, y, deep = sum(xs) / len(xs), sum(ys) / len(ys), max(ys) - min(ys)
    room = (max(xs) - min(xs)) * (1.0 if seat.jaw else 0.5) / max(len(seat.label), 1)
    size = min(28.0, max(16.0, deep - 4), max(16.0, room * 1.4))
    inside = deep >= LETTER_ROOM and room >= LETTER
    if not inside:
        y -= deep / 2 + 7
    elif not seat.jaw:
        x, y = min(xs) + room, min(ys) + size * 0.6  # in its corner, clear of the zero in the middle
    kind = "label is-set" if settled and inside else "label on-line"
    at = f'x="{x:.1f}" y="{y + size * 0.36:.1f}" text-anchor="middle"'
    return f'<text class="b {kind} t{round(size / 4) * 4}" {at}>{escape(seat.label)}</text>'


def _inward(seat: Seat) -> Spot:
    """Return the direction from the fixed jaw to the piece."""
    (x1, y1), (x2, y2) = ring(seat.jaw)
    long = ((x2 - x1) ** 2 + (y2 - y1) ** 2) ** 0.5 or 1.0
    normal = ((y2 - y1) / long, (x1 - x2) / long)
    points = ring(seat.piece)
    if points:
        x, y = sum(p[0] for p in points) / len(points), sum(p[1] for p in points) / len(points)
        if (x - x1) * normal[0] + (y - y1) * normal[1] < 0:
            return -normal[0], -normal[1]
    return normal


def _fixed_jaw(seat: Seat, frame: _Frame) -> str:
    one, other = ring(seat.jaw)
    nx, ny = _inward(seat)
    back = [(x - nx * JAW_MM, y - ny * JAW_MM) for x, y in (other, one)]
    return f'<path class="sc hatched" d="{frame.path((one, other, *back))}"/><path class="sc jaw" d="{frame.path((one, other), "")}"/>'


def _moving_jaw(seat: Seat, frame: _Frame) -> str:
    nx, ny = _inward(seat)
    one, other = ring(seat.jaw)
    deep = max((x - one[0]) * nx + (y - one[1]) * ny for x, y in ring(seat.piece))
    face = [(x + nx * deep, y + ny * deep) for x, y in (one, other)]
    far = [(x + nx * (deep + JAW_MM), y + ny * (deep + JAW_MM)) for x, y in (other, one)]
    return f'<path class="sc dye2" d="{frame.path((*face, *far))}"/>'


def _pieces(points: Ring, seat: Seat, count: int, frame: _Frame) -> str:
    """Return the lines between pieces side by side."""
    if count < 2 or not seat.jaw:
        return ""
    a, b, c, d = points
    body = ""
    for n in range(1, count):
        part = n / count
        one = (a[0] + (b[0] - a[0]) * part, a[1] + (b[1] - a[1]) * part)
        two = (d[0] + (c[0] - d[0]) * part, d[1] + (c[1] - d[1]) * part)
        body += f'<path class="between" d="{frame.path((one, two), "")}"/>'
    return body


def _stop(seat: Seat, zero: Spot, frame: _Frame) -> str:
    """Return the solid wedge that touches the piece on its stop side, a little in from the fixed jaw."""
    ax, ay = (float(part) for part in seat.away or (0, 0))
    nx, ny = _inward(seat)
    in_px = 14 / frame.scale
    tip = (zero[0] + nx * in_px, zero[1] + ny * in_px)
    back, half = 15 / frame.scale, 9 / frame.scale
    far = (tip[0] + ax * back, tip[1] + ay * back)
    return (
        '<path class="fill" '
        f'd="{frame.path((tip, (far[0] + nx * half, far[1] + ny * half), (far[0] - nx * half, far[1] - ny * half)))}"/>'
    )


def _clash(clash: Clash, frame: _Frame, unit: LengthUnit, size: tuple[int, float]) -> str:
    width, height = size
    points = clash.outline
    kind = "clash" if clash.weight == "stop" else "clash is-ask"
    xs, ys = [x for x, _ in points], [y for _, y in points]
    if max(ys) - min(ys) > 2 * (max(xs) - min(xs)):  # a tall strip is named above it, anything else beside it
        x, y = frame.x((min(xs) + max(xs)) / 2) - NAME_ROOM / 2, frame.y(max(ys)) - 8
    else:
        x, y = frame.x(max(xs)) + 10, frame.y(sum(ys) / len(ys))
    x = min(max(x, 8), width - NAME_ROOM)
    return (
        f'<path class="{kind}" d="{frame.path(points)}"/>'
        f'<text class="stop on-line b" x="{x:.0f}" '
        f'y="{min(max(y, 20), height - 70):.0f}">{own(clash.by_mm, unit)}<tspan dx="4">{unit}</tspan></text>'
    )


def _dimensions(picture: LayoutPicture, frame: _Frame) -> str:
    """Return the chain of distances along X from the table's edge from zero to zero, where the figures fit."""
    zeros = sorted(
        {float(seat.zero_mm[0]) for s in picture.standings if len(s.seats) == 1 for seat in s.seats}
    )
    y = frame.y(0) + 20
    body, at = "", 0.0
    for zero in zeros:
        if (zero - at) * frame.scale < LEAST_STEP:
            continue
        x1, x2 = frame.x(at), frame.x(zero)
        body += f'<path class="sc-l" d="M{x2:.1f},{frame.y(0):.1f}V{y + 8:.1f}"/><path class="sc-d" d="M{x1:.1f},{y:.1f}H{x2:.1f}"/>'
        body += f'<path class="tip" d="{_tip(x1, y, 1)}{_tip(x2, y, -1)}"/>'
        body += (
            f'<text class="b on-line" x="{(x1 + x2) / 2:.1f}" y="{y + 6:.1f}" '
            f'text-anchor="middle">{own(zero - at, picture.unit)}</text>'
        )
        at = zero
    return body


def _tip(x: float, y: float, way: int) -> str:
    return f"M{x:.1f},{y:.1f}l{way * 8},-4v8z"
