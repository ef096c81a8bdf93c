"""Hands and machine over one load, two rows over one axis of time."""

from markupsafe import Markup, escape

from ditto_run.core.method.overlap import Overlap, Span
from ditto_run.core.units import clock_text
from ditto_run.web.drawings.pictures import draw_picture
from ditto_run.web.drawings.scale import nice_step, svg

WIDTH, LEFT, RIGHT = 764, 84, 24
ROWS = {"hands": 14, "machine": 66}
TALL = 40
LETTER = 9.0  # width of a letter at 16 px, about
TICKS = 6


@draw_picture.register
def _overlap(picture: Overlap, says: str) -> Markup:
    """Draw one load; what is free or waits stands open, what is done is filled."""
    scale = (WIDTH - LEFT - RIGHT) / max(picture.period_s, 1e-9)
    body = "".join(
        f'<text class="tx" x="{LEFT - 8}" y="{y + 26}" text-anchor="end">{row}</text>'
        for row, y in ROWS.items()
    )
    keys: list[str] = []
    for span in picture.spans:
        body += _span(span, scale, keys)
    axis = ROWS["machine"] + TALL + 10
    body += f'<path class="sc" d="M{LEFT},{axis}H{WIDTH - RIGHT}"/>'
    step = nice_step(picture.period_s, TICKS)
    at = 0.0
    while at <= picture.period_s + 1e-9:
        x = LEFT + at * scale
        body += (
            f'<path class="sc" d="M{x:.1f},{axis}v6"/>'
            f'<text class="tx" x="{x:.1f}" y="{axis + 24}" text-anchor="middle">{clock_text(at)}</text>'
        )
        at += step
    for place, name in enumerate(keys):
        body += f'<text class="tx" x="{LEFT}" y="{axis + 48 + 20 * place}">{place + 1} {escape(name)}</text>'
    return Markup(svg(WIDTH, axis + 34 + 20 * len(keys), str(escape(says)), body))


def _span(span: Span, scale: float, keys: list[str]) -> str:
    """One stretch; its word inside where it fits, else a number that is told below."""
    x, wide, y = LEFT + span.start_s * scale, max((span.end_s - span.start_s) * scale, 1.5), ROWS[span.doing]
    free = span.what == "free"
    shade = "" if free else f'<rect class="dye2" x="{x:.1f}" y="{y}" width="{wide:.1f}" height="{TALL}"/>'
    dashes = ' stroke-dasharray="4 4"' if free else ""
    word = span.what
    if len(word) * LETTER > wide:
        keys.append(f"{word} {clock_text(span.end_s - span.start_s)}")
        word = str(len(keys))
    return (
        f'{shade}<path class="sc"{dashes} d="M{x:.1f},{y}h{wide:.1f}v{TALL}h-{wide:.1f}z"/>'
        f'<text class="b" x="{x + wide / 2:.1f}" y="{y + 26}" text-anchor="middle">{escape(word)}</text>'
    )
