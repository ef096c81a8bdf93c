"""What goes where before a load of unlike stations: vises from above, new blanks, what comes out, what goes on."""

from collections.abc import Sequence

from markupsafe import Markup, escape

from ditto_run.core.run.where import Handled
from ditto_run.core.run.words import numbers_text

HEIGHT = 130
MOST = 8  # stations; more are said in words only
NARROW = 100  # px; below it an arrow bears no more than a number
HOLDER, JAW, PIECE, BODY, ARROW = 0.82, 9, 30, 22, 18


def hands_say(hands: Sequence[Handled]) -> str:
    """Return the picture in words, for who cannot see it."""
    said = []
    for one in hands:
        parts = [f"{numbers_text(one.out)} out"] if one.out else []
        if one.over:
            parts.append(f"{numbers_text(one.over)} in" + (f" from {one.came_from}" if one.came_from else ""))
        if one.new:
            parts.append(f"new, {numbers_text(one.new)}")
        said.append(f"{one.station}: {', '.join(parts) or 'stays empty'}")
    return "; ".join(said) + "."


def draw_hands(hands: Sequence[Handled], width: int) -> Markup:
    """Return the stations in a row with what the hands do at each, drawn at this width, [px]."""
    if len(hands) > MOST:
        return Markup("")
    room = width / len(hands)
    middles = {one.station: (index + 0.5) * room for index, one in enumerate(hands)}
    arcs = [one for one in hands if one.over and one.came_from in middles and one.came_from != one.station]
    top = 30.0 if arcs else 4.0
    parts = "".join(_station(one, middles[one.station], room * HOLDER, top) for one in hands)
    parts += "".join(_arc(one, middles[one.came_from], middles[one.station], top) for one in arcs)
    return Markup(
        f'<svg role="img" aria-label="{escape(hands_say(hands))}" width="{width}" height="{HEIGHT}"'
        f' viewBox="0 0 {width} {HEIGHT}"><g aria-hidden="true">{parts}</g></svg>'
    )


def _station(one: Handled, x: float, wide: float, top: float) -> str:
    """Return one vise from above: the fixed jaw, the piece that comes in, the moving jaw with its letter, arrows below."""
    left, narrow = x - wide / 2, wide < NARROW
    across = f'x="{left:.1f}" y="{top}" width="{wide:.1f}" height="{JAW}"'
    parts = f'<rect fill="url(#hat)" {across}/><rect class="sc" {across}/>'
    y, inner = top + JAW, wide * 0.6
    pieces = numbers_text((*one.over, *one.new))
    if pieces:
        parts += f'<rect class="fill" x="{x - inner / 2:.1f}" y="{y}" width="{inner:.1f}" height="{PIECE}"/>'
        parts += f'<text class="g-m" x="{x:.1f}" y="{y + 21}" text-anchor="middle">{escape(pieces)}</text>'
    y += PIECE
    parts += f'<rect class="sc" x="{left:.1f}" y="{y}" width="{wide:.1f}" height="{BODY}"/>'
    parts += f'<text class="b" x="{x:.1f}" y="{y + 17}" text-anchor="middle">{escape(one.station)}</text>'
    y += BODY + 3
    into = ("new" if not narrow else "+") if one.new else ""
    out = (f"{numbers_text(one.out)} out" if not narrow else numbers_text(one.out)) if one.out else ""
    shift = wide / 4 if into and out else 0.0
    if into:
        parts += _arrow(x - shift, y, into, up=True)
    if out:
        parts += _arrow(x + shift, y, out, up=False)
    return parts


def _arrow(x: float, y: float, words: str, *, up: bool) -> str:
    tip, tail = (y, y + ARROW) if up else (y + ARROW, y)
    back = tip + 9 if up else tip - 9
    return (
        f'<path class="sc-h" d="M{x:.1f},{tail}V{back}"/>'
        f'<path class="fill" d="M{x:.1f},{tip}L{x - 6:.1f},{back}h12z"/>'
        f'<text class="tx" x="{x:.1f}" y="{y + ARROW + 15}" text-anchor="middle">{escape(words)}</text>'
    )


def _arc(one: Handled, start: float, end: float, top: float) -> str:
    """Return the way of a piece from one station to its next, with its number on it."""
    said = f"{numbers_text(one.over)} goes on" if len(one.over) == 1 else f"{numbers_text(one.over)} go on"
    middle, wide = (start + end) / 2, len(said) * 8.6 + 10
    return (
        f'<path class="sc-h" d="M{start:.1f},{top - 2}C{start:.1f},6 {end:.1f},6 {end:.1f},{top - 8}"/>'
        f'<path class="fill" d="M{end:.1f},{top}l-6,-9h12z"/>'
        f'<rect class="dye" x="{middle - wide / 2:.1f}" y="0" width="{wide:.1f}" height="21"/>'
        f'<text class="tx b" x="{middle:.1f}" y="16" text-anchor="middle">{escape(said)}</text>'
    )
