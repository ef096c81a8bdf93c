"""Pictures of the Place sheets: touches with their zero, the worth of more stations, a table filled."""

from math import hypot

from markupsafe import Markup, escape

from ditto_run.core.place.many_sheets import FullTable, WorthPicture
from ditto_run.core.place.touched import CutPicture, TouchPicture
from ditto_run.core.units import clock_text
from ditto_run.web.drawings.layout import LayoutPicture, draw_layout
from ditto_run.web.drawings.pictures import ROOM, WIDTH, draw_picture
from ditto_run.web.drawings.scale import nice_step, svg

TALL, LEAST_PROBE_PX, MOST_TOUCHES, LABEL_PX = 250, 6.0, 40, 24.0
CHART_TALL, FOOT, MINUTE = 230, 34, 60


@draw_picture.register
def _touches(picture: TouchPicture, says: str) -> Markup:
    """Draw the work's edges, the probe at each touch, and the zero as a ringed dot."""
    spots = [*picture.touches, picture.zero, *(spot for edge in picture.edges for spot in edge)]
    if picture.circle:
        x, y, r = picture.circle
        spots += [(x - r, y - r), (x + r, y + r)]
    x1, x2 = min(x for x, _ in spots), max(x for x, _ in spots)
    y1, y2 = min(y for _, y in spots), max(y for _, y in spots)
    pad = picture.probe_mm / 2
    scale = min(
        (WIDTH - 2 * ROOM) / max(x2 - x1 + 2 * pad, 1e-6), (TALL - 40) / max(y2 - y1 + 2 * pad, 1e-6), 30.0
    )
    left, base = WIDTH / 2 - (x1 + x2) / 2 * scale, TALL / 2 + (y1 + y2) / 2 * scale

    def at(spot: tuple[float, float]) -> str:
        return f"{left + spot[0] * scale:.1f},{base - spot[1] * scale:.1f}"

    body = "".join(
        f'<path class="sc-h" d="M{"L".join(at(spot) for spot in edge)}"/>' for edge in picture.edges
    )
    if picture.circle:
        x, y, r = picture.circle
        body += f'<circle class="sc-h" cx="{left + x * scale:.1f}" cy="{base - y * scale:.1f}" r="{r * scale:.1f}"/>'
    body += _probes(
        picture,
        max(pad * scale, LEAST_PROBE_PX),
        [(left + x * scale, base - y * scale) for x, y in picture.touches[:MOST_TOUCHES]],
    )
    zx, zy = left + picture.zero[0] * scale, base - picture.zero[1] * scale
    body += f'<circle class="zero" cx="{zx:.1f}" cy="{zy:.1f}" r="9"/><circle class="fill" cx="{zx:.1f}" cy="{zy:.1f}" r="3"/>'
    return Markup(svg(WIDTH, TALL, str(escape(says)), body))


def _probes(picture: TouchPicture, radius: float, at: list[tuple[float, float]]) -> str:
    """Return the probe at each touch, numbered where there is room; one that does not count is dashed."""
    body = ""
    last: tuple[float, float] | None = None
    for n, (px, py) in enumerate(at):
        dashed = ' stroke-dasharray="4 4"' if n in picture.left_out else ""
        body += f'<circle class="sc" cx="{px:.1f}" cy="{py:.1f}" r="{radius:.1f}"{dashed}/>'
        if len(at) > 1 and (last is None or hypot(px - last[0], py - last[1]) > LABEL_PX):
            last = (px, py)
            x, y = picture.touches[n]
            far = hypot(x - picture.zero[0], y - picture.zero[1]) or 1.0
            nx, ny = (x - picture.zero[0]) / far, (y - picture.zero[1]) / far
            body += (
                f'<text class="b on-line" x="{px + nx * (radius + 13):.1f}" '
                f'y="{py - ny * (radius + 13) + 6:.1f}" text-anchor="middle">{n + 1}</text>'
            )
    return body


@draw_picture.register
def _cut(picture: CutPicture, says: str) -> Markup:
    """Draw what was wanted solid and what was measured dashed; the difference larger than it is, or it could not be seen."""
    high, middle, half = 150.0, WIDTH / 2, 150.0
    differs = picture.measured_mm - picture.wanted_mm
    by = 0.0 if abs(differs) < 1e-9 else (28.0 if differs > 0 else -28.0)
    body = ""
    for x, way in ((middle - half, -1), (middle + half, 1)):
        solid = x + way * 60 if picture.inside else middle
        body += f'<rect x="{min(x, solid):.0f}" y="30" width="{abs(solid - x):.0f}" height="{high}" fill="url(#hat)"/>'
        body += (
            f'<path class="sc-h" d="M{x:.0f},20V{high + 40:.0f}"/>'
            f'<path class="sc" stroke-dasharray="5 5" d="M{x + way * by / 2:.0f},20V{high + 40:.0f}"/>'
        )
    body += (
        f'<text class="b on-line" x="{middle:.0f}" y="{high / 2 + 24:.0f}" '
        f'text-anchor="middle">wanted {picture.wanted_mm:.4g} mm</text>'
    )
    body += f'<text class="tx on-line" x="{middle:.0f}" y="{high / 2 + 50:.0f}" text-anchor="middle">dashed: as it came out</text>'
    return Markup(svg(WIDTH, round(high) + 60, str(escape(says)), body))


@draw_picture.register
def _worth(picture: WorthPicture, says: str) -> Markup:
    """Draw the time per piece against the number of stations, punched; the knee named."""
    rows = picture.rows
    top = max(row.piece_s for row in rows) * 1.08
    step = (WIDTH - 2 * ROOM - 40) / max(len(rows) - 1, 1)
    bottom = CHART_TALL - FOOT

    def x(n: int) -> float:
        return ROOM + 40 + (n - 1) * step

    def y(seconds: float) -> float:
        return bottom - seconds / top * (bottom - 16)

    body, line = "", nice_step(top / MINUTE, 4) * MINUTE if top > 2 * MINUTE else nice_step(top, 4)
    for i in range(int(top / line) + 1):
        level = y(i * line)
        body += (
            f'<path class="sc-l" d="M{ROOM + 20},{level:.1f}H{WIDTH - ROOM + 12}"/>'
            f'<text class="dim" x="{ROOM + 12}" y="{level + 6:.1f}" text-anchor="end">{clock_text(i * line)}</text>'
        )
    body += f'<path class="sc-h" d="M{"L".join(f"{x(r.stations):.1f},{y(r.piece_s):.1f}" for r in rows)}"/>'
    every = max(1, round(34 / step)) if step < 34 else 1
    for row in rows:
        px, py = x(row.stations), y(row.piece_s)
        body += f'<circle class="fill" cx="{px:.1f}" cy="{py:.1f}" r="4"/>'
        if row.stations % every == 0 or row.stations == 1:
            body += f'<text class="b" x="{px:.1f}" y="{CHART_TALL - 10}" text-anchor="middle">{row.stations}</text>'
    named = [(picture.knee, "the gain flattens", -18), (picture.best, "least time for this batch", -42)]
    for n, name, by in named if picture.best != picture.knee else named[:1]:
        px, py = x(n), y(rows[n - 1].piece_s)
        body += f'<circle class="sc-h" cx="{px:.1f}" cy="{py:.1f}" r="11"/>'
        body += f'<path class="sc" d="M{px:.1f},{py - 11:.1f}V{py + by + 4:.1f}"/>'
        anchor, dx = ("end", -6) if px > WIDTH * 0.62 else ("start", 6)
        body += f'<text class="tx on-line" x="{px + dx:.1f}" y="{max(py + by, 18):.1f}" text-anchor="{anchor}">{name}</text>'
    return Markup(svg(WIDTH, CHART_TALL, str(escape(says)), body))


@draw_picture.register
def _full_table(picture: FullTable, _says: str) -> Markup:
    """Draw the table with every holder that fits."""
    return draw_layout(LayoutPicture(picture.bed, picture.standings), 764, 380, movable=False)
