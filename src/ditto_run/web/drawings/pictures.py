"""Pictures of sheets, to scale: a turned profile, a cone, a pattern of places."""

from functools import singledispatch
from math import hypot

from markupsafe import Markup, escape

from ditto_run.core.part.pattern import Pattern
from ditto_run.core.part.profile import Profile
from ditto_run.core.part.taper import Taper
from ditto_run.core.stock.bars import BarCut
from ditto_run.core.stock.mixed import Nesting
from ditto_run.web.drawings.scale import svg

WIDTH = 780
ROOM = 46  # round the drawing, for figures
MOST_HEIGHT = 300
ROW, MOST_ROWS = 74, 12  # height of a drawn bar, and how many are drawn


@singledispatch
def draw_picture(_picture: object, _says: str) -> Markup:
    """Return the drawing of a sheet's picture; nothing for a picture there is no drawing of."""
    return Markup("")


@draw_picture.register
def _profile(picture: Profile, says: str) -> Markup:
    """Draw a turned profile in half section, free end at the left, the chuck at the right."""
    points = [
        (float(s.start_mm), float(s.end_mm), float(s.first_mm), float(s.last_mm), s.row, s.groove)
        for s in picture.segments
    ]
    start = points[0][0]
    scale = min(
        (WIDTH - 2 * ROOM) / float(picture.length_mm),
        (MOST_HEIGHT - 2 * ROOM) / max(float(picture.largest_mm), 1e-6),
    )
    height = round(float(picture.largest_mm) * scale + 2 * ROOM)
    middle = height / 2
    upper = " ".join(
        f"L{ROOM + (x1 - start) * scale:.1f},{middle - d1 * scale / 2:.1f} L{ROOM + (x2 - start) * scale:.1f},{middle - d2 * scale / 2:.1f}"
        for x1, x2, d1, d2, _, _ in points
    )
    lower = " ".join(
        f"L{ROOM + (x2 - start) * scale:.1f},{middle + d2 * scale / 2:.1f} L{ROOM + (x1 - start) * scale:.1f},{middle + d1 * scale / 2:.1f}"
        for x1, x2, d1, d2, _, _ in reversed(points)
    )
    end = ROOM + (points[-1][1] - start) * scale
    body = f'<path class="sc-h dye2" d="M{ROOM},{middle:.1f} {upper} {lower}Z"/>'
    body += f'<path class="sc-d" stroke-dasharray="16 5 3 5" d="M{ROOM - 24},{middle:.1f}H{end + 24:.1f}"/>'
    for x1, _, d1, _, _, _ in points[1:]:
        body += f'<path class="sc" d="M{ROOM + (x1 - start) * scale:.1f},{middle - d1 * scale / 2:.1f}V{middle + d1 * scale / 2:.1f}"/>'
    last = -99.0
    for x1, x2, _, _, row, _ in points:
        x = ROOM + ((x1 + x2) / 2 - start) * scale
        if x - last > 20:
            body += f'<text class="b" x="{x:.1f}" y="18" text-anchor="middle">{row}</text>'
            last = x
    body += (
        f'<text class="tx dim" x="{ROOM}" y="{height - 8}">free end</text>'
        f'<text class="tx dim" x="{end:.1f}" y="{height - 8}" text-anchor="end">chuck</text>'
    )
    return Markup(svg(WIDTH, height, str(escape(says)), body))


@draw_picture.register
def _taper(picture: Taper, says: str) -> Markup:
    """Draw a cone to scale, small end at the left."""
    scale = min((WIDTH - 2 * ROOM) / picture.length_mm, (MOST_HEIGHT - 2 * ROOM) / picture.large_mm)
    height = round(picture.large_mm * scale + 2 * ROOM)
    middle, right = height / 2, ROOM + picture.length_mm * scale
    small, large = picture.small_mm * scale / 2, picture.large_mm * scale / 2
    body = (
        '<path class="sc-h dye2" '
        f'd="M{ROOM},{middle - small:.1f}L{right:.1f},{middle - large:.1f}V{middle + large:.1f}L{ROOM},{middle + small:.1f}Z"/>'
    )
    body += f'<path class="sc-d" stroke-dasharray="16 5 3 5" d="M{ROOM - 24},{middle:.1f}H{right + 24:.1f}"/>'
    body += (
        f'<text class="b" x="{ROOM}" y="20">Ø {picture.small_mm:.3f}</text>'
        f'<text class="b" x="{right:.1f}" y="20" text-anchor="end">Ø {picture.large_mm:.3f}</text>'
    )
    body += (
        f'<text class="tx" x="{(ROOM + right) / 2:.1f}" y="{height - 10}" '
        f'text-anchor="middle">{picture.length_mm:.3f} mm, {picture.slide_deg:.3f}° a side</text>'
    )
    return Markup(svg(WIDTH, height, str(escape(says)), body))


@draw_picture.register
def _pattern(picture: Pattern, says: str) -> Markup:
    """Draw the places to scale, numbered."""
    xs, ys = [p[0] for p in picture.points_mm], [p[1] for p in picture.points_mm]
    wide, tall = max(xs) - min(xs), max(ys) - min(ys)
    scale = min((WIDTH - 2 * ROOM) / max(wide, 1e-9), (MOST_HEIGHT - 2 * ROOM) / max(tall, 1e-9), 40.0)
    height = round(tall * scale + 2 * ROOM)
    hole = max(3.0, (picture.step_mm - picture.wall_mm) * scale / 2)
    left = (WIDTH - wide * scale) / 2
    body, last = "", (-99.0, -99.0)
    for number, (x, y) in enumerate(picture.points_mm, 1):
        px, py = left + (x - min(xs)) * scale, height - ROOM - (y - min(ys)) * scale
        body += f'<circle class="sc-h dye2" cx="{px:.1f}" cy="{py:.1f}" r="{hole:.1f}"/>'
        if hypot(px - last[0], py - last[1]) > 26:
            body += (
                f'<text class="b" x="{px:.1f}" y="{py - hole - 6:.1f}" text-anchor="middle">{number}</text>'
            )
            last = (px, py)
    return Markup(svg(WIDTH, height, str(escape(says)), body))


@draw_picture.register
def _bar(picture: BarCut, says: str) -> Markup:
    """Draw one bar to scale: facing, pieces, kerfs, and what the holder keeps hatched."""
    pieces = [(float(at), float(at + picture.piece_mm)) for at in picture.starts_mm]
    body = _bar_row(
        0, float(picture.bar_mm), pieces, [str(n) for n in range(1, len(pieces) + 1)], float(picture.left_mm)
    )
    return Markup(svg(WIDTH, 100, str(escape(says)), body))


@draw_picture.register
def _nested(picture: Nesting, says: str) -> Markup:
    """Draw every kind of cut bar to scale, longest first, equal ones once with their number."""
    rows, longest = "", max((bar.left_mm + sum(bar.pieces_mm) for bar in picture.drawn), default=1.0)
    for row, bar in enumerate(picture.drawn[:MOST_ROWS]):
        at, pieces = 0.0, []
        for long in bar.pieces_mm:
            pieces.append((at, at + long))
            at += long + picture.kerf_mm
        whole = at + bar.left_mm
        rows += _bar_row(
            row * ROW,
            max(longest, whole),
            pieces,
            [f"{long:g}" for long in bar.pieces_mm],
            bar.left_mm,
            f"{bar.times} ×",
        )
    height = min(len(picture.drawn), MOST_ROWS) * ROW + 30
    return Markup(svg(WIDTH, height, str(escape(says)), rows))


def _bar_row(
    y: int, whole: float, pieces: list[tuple[float, float]], names: list[str], left: float, times: str = ""
) -> str:
    """Return one bar; a name stands in its piece where it fits."""
    scale, top, tall = (WIDTH - ROOM - 16) / whole, y + 26, 40
    start = ROOM
    body = (
        f'<text class="b" x="{start - 8}" y="{top + 26}" text-anchor="end">{escape(times)}</text>'
        if times
        else ""
    )
    end = start + whole * scale
    for (x1, x2), name in zip(pieces, names, strict=True):
        px1, px2 = start + x1 * scale, start + x2 * scale
        body += (
            f'<rect class="dye2" x="{px1:.1f}" y="{top}" width="{px2 - px1:.1f}" height="{tall}"/>'
            f'<path class="sc" d="M{px1:.1f},{top}V{top + tall}M{px2:.1f},{top}V{top + tall}"/>'
        )
        if px2 - px1 > len(name) * 10 + 4:
            body += f'<text class="b" x="{(px1 + px2) / 2:.1f}" y="{top + 26}" text-anchor="middle">{escape(name)}</text>'
    if left > 0:
        px = end - left * scale
        body += f'<rect x="{px:.1f}" y="{top}" width="{left * scale:.1f}" height="{tall}" fill="url(#hat)"/>'
        if left * scale > 70:
            body += (
                f'<text class="dim" x="{end:.1f}" y="{top - 7}" text-anchor="end">{left:.1f} mm left</text>'
            )
    return body + f'<path class="sc-h" d="M{start},{top}H{end:.1f}V{top + tall}H{start}Z"/>'
