"""The way of a program: under one offset from above and in front, or over all stations; rapids apart from feed, one move picked."""

from collections.abc import Mapping, Sequence
from dataclasses import replace

from markupsafe import Markup, escape

from ditto_run.core.program.given import BoxBlank, RoundBlank, Three
from ditto_run.core.program.trace import TracedMove
from ditto_run.web.drawings.scale import svg

WIDE, HIGH, GAP, EDGE, HEAD = 560.0, 270.0, 60.0, 16.0, 34.0
AROUND = 36.0  # px round what is fed
DOTS = ' stroke-dasharray="2 6"'
Flat = tuple[float, float]
View = tuple[str, int, int]
MILLED: tuple[View, ...] = (("from above", 0, 1), ("from the front", 0, 2))
TURNED: tuple[View, ...] = (("from the side, the chuck at the left", 2, 0),)


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
    wide = WIDE if len(views) > 1 else 2 * WIDE + GAP
    frames = [_frame(moves, blank, view, wide) for view in views]
    by = min(frame.by for frame in frames)  # both views are drawn as large as each other
    body = "".join(
        _view(moves, blank, picked, view, frame.as_large_as(by), EDGE + n * (WIDE + GAP))
        for n, (view, frame) in enumerate(zip(views, frames, strict=True))
    )
    width = 2 * EDGE + 2 * WIDE + GAP
    says = f"Path under one offset: {_counts(moves)}"
    chosen = next((move for move in moves if move.line == picked), None)
    if chosen is not None:
        x, y, z = chosen.points[-1]
        says += f" Line {picked}: {chosen.kind} to X{x:.2f} Y{y:.2f} Z{z:.2f}."
    return Markup(svg(round(width), round(HIGH + HEAD + EDGE), str(escape(says)), body))


def draw_stations(
    moves: Sequence[TracedMove],
    blanks: Mapping[str, BoxBlank | RoundBlank],
    offsets: Mapping[str, Three],
    picked: int,
) -> Markup:
    """Return the way at every station from above, in machine coordinates.

    Args:
        moves: of the program.
        blanks: by offset.
        offsets: where each stands.
        picked: line of the program that is picked; 0 for none.
    """
    there = [_moved(move, offsets[move.offset]) for move in moves if move.offset in offsets]
    boxes = {code: one for code, one in blanks.items() if code in offsets and isinstance(one, BoxBlank)}
    corners = [
        (
            one.low[0] + offsets[code][0],
            one.low[1] + offsets[code][1],
            one.high[0] + offsets[code][0],
            one.high[1] + offsets[code][1],
        )
        for code, one in boxes.items()
    ]
    ends = [spot for a, b, c, d in corners for spot in ((a, b), (c, d))]
    fed = [(p[0], p[1]) for move in there if move.kind == "feed" for p in move.points]
    at = _Scale([*ends, *fed] or [(0.0, 0.0), (1.0, 1.0)], 2 * WIDE + GAP)
    body = ""
    for code, (a, b, c, d) in zip(boxes, corners, strict=True):
        body += _rect(at((a, b)), at((c, d)))
        x, y = at((a, b))
        body += f'<text class="tx" x="{x + 4:.1f}" y="{y - 6:.1f}">{escape(code)}</text>'
    body += _ways(there, 0, 1, at, picked)
    frame = (
        f'<svg x="{EDGE:.0f}" y="{HEAD:.0f}" width="{2 * WIDE + GAP:.0f}" height="{HIGH:.0f}">{body}</svg>'
    )
    says = f"All {len(boxes)} stations from above: {_counts(there)}"
    head = f'<text class="tx" x="{EDGE:.0f}" y="20">all stations from above</text>'
    return Markup(svg(round(2 * EDGE + 2 * WIDE + GAP), round(HIGH + HEAD + EDGE), says, head + frame))


def _moved(move: TracedMove, by: Three) -> TracedMove:
    return replace(move, points=tuple((x + by[0], y + by[1], z + by[2]) for x, y, z in move.points))


def _counts(moves: Sequence[TracedMove]) -> str:
    fed = sum(move.kind == "feed" for move in moves)
    return f"{fed} feed moves, {len(moves) - fed} rapids."


def _frame(
    moves: Sequence[TracedMove], blank: BoxBlank | RoundBlank | None, view: View, wide: float
) -> "_Scale":
    _, across, up = view
    fed = [(p[across], p[up]) for move in moves if move.kind == "feed" for p in move.points]
    every = [(p[across], p[up]) for move in moves for p in move.points]
    return _Scale([*fed, *_sides(blank, across, up)] or every or [(0.0, 0.0), (1.0, 1.0)], wide)


def _view(
    moves: Sequence[TracedMove],
    blank: BoxBlank | RoundBlank | None,
    picked: int,
    view: View,
    at: "_Scale",
    left: float,
) -> str:
    name, across, up = view
    sides = _sides(blank, across, up)
    body = _rect(at(sides[0]), at(sides[1])) if sides else ""
    body += _ways(moves, across, up, at, picked)
    # what leads out of the frame ends at its edge
    frame = f'<svg x="{left:.0f}" y="{HEAD:.0f}" width="{at.wide:.0f}" height="{HIGH:.0f}">{body}</svg>'
    return f'<text class="tx" x="{left:.0f}" y="20">{escape(name)}</text>{frame}'


def _rect(one: Flat, other: Flat) -> str:
    (x, y), (u, v) = one, other
    return f'<rect class="dye2 sc-l" x="{min(x, u):.1f}" y="{min(y, v):.1f}" width="{abs(u - x):.1f}" height="{abs(v - y):.1f}"/>'


def _ways(moves: Sequence[TracedMove], across: int, up: int, at: "_Scale", picked: int) -> str:
    """Rapids dotted, feeds drawn out; once a line is picked, those of other tools step back."""
    mine = next((move.tool for move in moves if move.line == picked), None)
    styles = (
        ("rapid", True, f'class="sc-d"{DOTS}'),
        ("feed", False, 'class="sc-l"'),
        ("feed", True, 'class="sc"'),
    )
    body = ""
    for kind, front, style in styles:
        way = "".join(
            _way(move, across, up, at)
            for move in moves
            if move.kind == kind and (kind == "rapid" or (mine is None or move.tool == mine) == front)
        )
        body += f'<path {style} d="{way}"/>' if way else ""
    for move in moves:
        if move.line == picked:
            x, y = at((move.points[-1][across], move.points[-1][up]))
            body += f'<path class="sc-h" d="{_way(move, across, up, at)}"/><circle class="fill" cx="{x:.1f}" cy="{y:.1f}" r="6"/>'
    return body


def _sides(blank: BoxBlank | RoundBlank | None, across: int, up: int) -> list[Flat]:
    """Two opposite corners of the blank in a view."""
    if isinstance(blank, BoxBlank):
        return [(blank.low[across], blank.low[up]), (blank.high[across], blank.high[up])]
    if isinstance(blank, RoundBlank):
        radius = blank.across_mm / 2
        return [(blank.z_mm[0], -radius), (blank.z_mm[1], radius)]
    return []


class _Scale:
    """Puts points of a view into its frame, upward up."""

    def __init__(self, points: Sequence[Flat], wide: float) -> None:
        self.low = [min(p[n] for p in points) for n in (0, 1)]
        high = [max(p[n] for p in points) for n in (0, 1)]
        self.span = [max(high[n] - self.low[n], 1e-6) for n in (0, 1)]
        self.wide = wide
        self.by = min((wide - 2 * AROUND) / self.span[0], (HIGH - 2 * AROUND) / self.span[1])

    def as_large_as(self, by: float) -> "_Scale":
        """Return it drawn in another scale, still in the middle."""
        self.by = by
        return self

    def __call__(self, point: Flat) -> Flat:
        """Return where a point is drawn, [px]."""
        left = (self.wide - self.span[0] * self.by) / 2
        bottom = HIGH - (HIGH - self.span[1] * self.by) / 2
        return left + (point[0] - self.low[0]) * self.by, bottom - (point[1] - self.low[1]) * self.by


def _way(move: TracedMove, across: int, up: int, at: _Scale) -> str:
    found: list[str] = []
    for n, point in enumerate(move.points):
        x, y = at(_flat(point, across, up))
        found.append(f"{'L' if n else 'M'}{x:.1f},{y:.1f}")
    return "".join(found)


def _flat(point: Three, across: int, up: int) -> Flat:
    return point[across], point[up]
