"""The way of a program under one offset: from above and from the front, rapids apart from feed, one move picked."""

from collections.abc import Sequence

from markupsafe import Markup, escape

from ditto_run.core.program.given import BoxBlank, RoundBlank, Three
from ditto_run.core.program.trace import TracedMove
from ditto_run.web.drawings.scale import svg

WIDE, HIGH, GAP, EDGE, HEAD = 560.0, 360.0, 60.0, 16.0, 34.0
AROUND = 60.0  # px round what is fed
DOTS = ' stroke-dasharray="2 6"'
Flat = tuple[float, float]
MILLED = (("from above", 0, 1), ("from the front", 0, 2))
TURNED = (("from the side, the chuck at the left", 2, 0),)


def draw_path(
    moves: Sequence[TracedMove], blank: BoxBlank | RoundBlank | None, picked: int, *, turned: bool
) -> Markup:
    """Return the way under one offset.

    Args:
        moves: under it.
        blank: there; None while not told.
        picked: line of the program that is picked; 0 for none.
        turned: True for a lathe.
    """
    views = TURNED if turned else MILLED
    body = "".join(_view(moves, blank, picked, view, EDGE + n * (WIDE + GAP)) for n, view in enumerate(views))
    width = 2 * EDGE + len(views) * WIDE + (len(views) - 1) * GAP
    fed = sum(move.kind == "feed" for move in moves)
    chosen = next((move for move in moves if move.line == picked), None)
    says = f"Path under one offset: {fed} feed moves, {len(moves) - fed} rapids."
    if chosen is not None:
        x, y, z = chosen.points[-1]
        says += f" Line {picked}: {chosen.kind} to X{x:.2f} Y{y:.2f} Z{z:.2f}."
    return Markup(svg(round(width), round(HIGH + HEAD + EDGE), str(escape(says)), body))


def _view(
    moves: Sequence[TracedMove],
    blank: BoxBlank | RoundBlank | None,
    picked: int,
    view: tuple[str, int, int],
    left: float,
) -> str:
    name, across, up = view
    sides = _sides(blank, across, up)
    fed = [(p[across], p[up]) for move in moves if move.kind == "feed" for p in move.points] + sides
    every = [(p[across], p[up]) for move in moves for p in move.points]
    at = _scale(fed or every or [(0.0, 0.0), (1.0, 1.0)])
    body = ""
    if sides:
        (x, y), (u, v) = at(sides[0]), at(sides[1])
        body += f'<rect class="dye2 sc-l" x="{min(x, u):.1f}" y="{min(y, v):.1f}" width="{abs(u - x):.1f}" height="{abs(v - y):.1f}"/>'
    for kind, style in (("rapid", f'class="sc-d"{DOTS}'), ("feed", 'class="sc"')):
        way = "".join(_way(move, across, up, at) for move in moves if move.kind == kind)
        body += f'<path {style} d="{way}"/>' if way else ""
    for move in moves:
        if move.line == picked:
            x, y = at((move.points[-1][across], move.points[-1][up]))
            body += f'<path class="sc-h" d="{_way(move, across, up, at)}"/><circle class="fill" cx="{x:.1f}" cy="{y:.1f}" r="6"/>'
    # what leads out of the frame ends at its edge
    frame = f'<svg x="{left:.0f}" y="{HEAD:.0f}" width="{WIDE:.0f}" height="{HIGH:.0f}">{body}</svg>'
    return f'<text class="tx" x="{left:.0f}" y="20">{escape(name)}</text>{frame}'


def _sides(blank: BoxBlank | RoundBlank | None, across: int, up: int) -> list[Flat]:
    """Two opposite corners of the blank in a view."""
    if isinstance(blank, BoxBlank):
        return [(blank.low[across], blank.low[up]), (blank.high[across], blank.high[up])]
    if isinstance(blank, RoundBlank):
        radius = blank.across_mm / 2
        return [(blank.z_mm[0], -radius), (blank.z_mm[1], radius)]
    return []


class _scale:  # noqa: N801 - used as a function
    """Puts points of a view into its frame, upward up."""

    def __init__(self, points: Sequence[Flat]) -> None:
        self.low = [min(p[n] for p in points) for n in (0, 1)]
        high = [max(p[n] for p in points) for n in (0, 1)]
        span = [max(high[n] - self.low[n], 1e-6) for n in (0, 1)]
        self.by = min((WIDE - 2 * AROUND) / span[0], (HIGH - 2 * AROUND) / span[1])
        self.left = (WIDE - span[0] * self.by) / 2
        self.bottom = HIGH - (HIGH - span[1] * self.by) / 2

    def __call__(self, point: Flat) -> Flat:
        """Return where a point is drawn, [px]."""
        return self.left + (point[0] - self.low[0]) * self.by, self.bottom - (
            point[1] - self.low[1]
        ) * self.by


def _way(move: TracedMove, across: int, up: int, at: _scale) -> str:
    found: list[str] = []
    for n, point in enumerate(move.points):
        x, y = at(_flat(point, across, up))
        found.append(f"{'L' if n else 'M'}{x:.1f},{y:.1f}")
    return "".join(found)


def _flat(point: Three, across: int, up: int) -> Flat:
    return point[across], point[up]
