"""Pictures of stops: stacks of blocks, hand-wheels, segments, bars."""

from math import cos, pi, sin

from markupsafe import Markup, escape

from ditto_run.core.hold.blocks import Stacks
from ditto_run.core.hold.segments import Segmented
from ditto_run.core.hold.stops import Dials, SideStop, TipGap
from ditto_run.core.units import number_text
from ditto_run.web.drawings.pictures import ROOM, WIDTH, draw_picture
from ditto_run.web.drawings.scale import svg

STACK_ROW, DIAL_ACROSS = 66, 120
WIDE_ENOUGH = 54  # a block's own figure fits


@draw_picture.register
def _stacks(picture: Stacks, says: str) -> Markup:
    """Draw each stack to scale from the stop, the shoulder's size at its end."""
    longest = max(float(size) for size, _ in picture.rows)
    scale = (WIDTH - 2 * ROOM - 80) / longest
    body = ""
    for row, (size, blocks) in enumerate(picture.rows):
        x, y = float(ROOM), row * STACK_ROW + 14
        body += f'<path class="fill" d="M{ROOM - 16},{y + 40}h16v-30z"/>'
        for block in blocks:
            wide = max(float(block) * scale, 1.5)
            body += (
                f'<rect class="dye2" x="{x:.1f}" y="{y}" width="{wide:.1f}" height="40"/>'
                f'<path class="sc" d="M{x:.1f},{y}h{wide:.1f}v40h-{wide:.1f}z"/>'
            )
            if wide > WIDE_ENOUGH:
                body += f'<text x="{x + wide / 2:.1f}" y="{y + 26}" text-anchor="middle">{block.normalize():f}</text>'
            x += wide
        body += f'<text class="b" x="{x + 8:.1f}" y="{y + 26}">{size.normalize():f} {picture.unit}</text>'
    return Markup(svg(WIDTH, len(picture.rows) * STACK_ROW + 10, str(escape(says)), body))


@draw_picture.register
def _dials(picture: Dials, says: str) -> Markup:
    """Draw a hand-wheel for each place: turns in the middle, the mark where it stands on a clock face."""
    body = ""
    for n, (travel, dial) in enumerate(picture.rows):
        cx, cy, r = 78 + n * (DIAL_ACROSS + 34), 78, DIAL_ACROSS / 2
        body += f'<circle class="sc-h dye2" cx="{cx}" cy="{cy}" r="{r}"/>'
        for hour in range(12):
            a = hour * pi / 6
            body += (
                '<path class="sc" '
                f'd="M{cx + (r - 8) * sin(a):.1f},{cy - (r - 8) * cos(a):.1f}L{cx + r * sin(a):.1f},{cy - r * cos(a):.1f}"/>'
            )
        a = float(dial.clock_h) * pi / 6
        body += (
            '<path class="sc-h" stroke-width="4" '
            f'd="M{cx + 22 * sin(a):.1f},{cy - 22 * cos(a):.1f}L{cx + (r - 4) * sin(a):.1f},{cy - (r - 4) * cos(a):.1f}"/>'
        )
        body += f'<text class="b" x="{cx}" y="{cy + 6}" text-anchor="middle">{dial.turns}</text>'
        body += f'<text class="tx" x="{cx}" y="{cy + r + 24}" text-anchor="middle">{number_text(travel, 2)} mm</text>'
    return Markup(svg(WIDTH, 176, str(escape(says)), body))


@draw_picture.register
def _segments(picture: Segmented, says: str) -> Markup:
    """Draw the segments to scale, each numbered, with the pull after it."""
    end = float(picture.stretches[-1].end_mm)
    across = max(float(stretch.passes_mm[-1]) for stretch in picture.stretches)
    scale, tall = (WIDTH - 2 * ROOM) / end, 90.0
    body, last = (
        f'<path class="sc-d" stroke-dasharray="16 5 3 5" d="M{ROOM - 20},90H{WIDTH - ROOM + 20}"/>',
        -99.0,
    )
    for number, stretch in enumerate(picture.stretches, 1):
        x1, x2 = ROOM + float(stretch.start_mm) * scale, ROOM + float(stretch.end_mm) * scale
        half = tall / 2 * float(stretch.passes_mm[-1]) / across
        body += (
            f'<rect class="dye2" x="{x1:.1f}" y="{90 - half:.1f}" width="{x2 - x1:.1f}" height="{2 * half:.1f}"/>'
            f'<path class="sc" d="M{x1:.1f},{90 - half:.1f}H{x2:.1f}V{90 + half:.1f}H{x1:.1f}Z"/>'
        )
        if (x1 + x2) / 2 - last > 26:
            last = (x1 + x2) / 2
            body += f'<text class="b" x="{last:.1f}" y="30" text-anchor="middle">{number}</text>'
    return Markup(
        svg(
            WIDTH,
            160,
            str(escape(says)),
            body
            + f'<text class="tx dim" x="{ROOM}" y="154">free end</text><text class="tx dim" x="{WIDTH - ROOM}" y="154" text-anchor="end">collet</text>',
        )
    )


@draw_picture.register
def _side_stop(picture: SideStop, says: str) -> Markup:
    """Draw the blank on its parallels against the stop, a shorter one dashed, hole and middle marked."""
    length, tall = float(picture.length_mm), float(picture.tall_mm)
    scale = min((WIDTH - 2 * ROOM - 160) / length, 170 / tall)
    wide, high = length * scale, tall * scale
    left, top = (WIDTH - wide) / 2, 26.0
    base, y = top + high, top + high - float(picture.at_mm) * scale
    out = -1 if picture.side == "left" else 1  # the way from the piece to its stop
    near, far = (left, left + wide) if out < 0 else (left + wide, left)
    body = (
        f'<rect class="dye2" x="{left:.1f}" y="{top}" width="{wide:.1f}" height="{high:.1f}"/>'
        f'<path class="sc-h" d="M{left:.1f},{top}h{wide:.1f}v{high:.1f}h-{wide:.1f}z"/>'
    )
    body += f'<path class="sc" d="M{left - 60:.1f},{base:.1f}H{left + wide + 60:.1f}"/>'
    if picture.pin_mm is None:
        body += f'<path class="fill" d="M{near:.1f},{y:.1f}l{out * 16},-8h{out * 44}v16h{out * -44}z"/>'
    else:
        r = max(float(picture.pin_mm) * scale / 2, 2)
        body += f'<circle class="fill" cx="{near + out * r:.1f}" cy="{y:.1f}" r="{r:.1f}"/>'
    body += f'<text class="b" x="{near + out * 66:.1f}" y="{y - 16:.1f}" text-anchor="middle">stop</text>'
    push = far - out * 62
    body += (
        f'<path class="sc-h" d="M{push:.1f},{y:.1f}h{out * 50}m{out * -12},-8l{out * 12},8l{out * -12},8"/>'
        f'<text class="tx" x="{push:.1f}" y="{y - 16:.1f}" text-anchor="middle">push</text>'
    )
    middle = left + wide / 2
    body += (
        f'<path class="sc-d" stroke-dasharray="16 5 3 5" d="M{middle:.1f},{top - 12}V{base + 12:.1f}"/>'
        f'<text class="tx" x="{middle:.1f}" y="{top - 12}" dx="6">hole</text>'
    )
    if picture.shorter_mm:
        gone = float(picture.shorter_mm) * scale
        own = middle + out * gone / 2
        body += (
            '<path class="sc" stroke-dasharray="4 5" '
            f'd="M{far + out * gone:.1f},{top}V{base:.1f}M{own:.1f},{base - 26:.1f}V{base + 12:.1f}"/>'
        )
    return Markup(svg(WIDTH, round(base) + 24, str(escape(says)), body))


@draw_picture.register
def _tip_gap(picture: TipGap, says: str) -> Markup:
    """Draw the bar's edge, where it hangs in its slack, and the tip over it after the collet has closed."""
    overlap, slack, gap = float(picture.overlap_mm), float(picture.slack_mm), float(picture.gap_mm)
    scale = 110 / max(overlap, slack, gap)
    face, edge, bottom = 380.0, 60.0, 200
    body = (
        f'<path class="dye2" d="M60,{edge}H{face}V{bottom}H60z"/>'
        f'<path class="sc-h" d="M60,{edge}H{face}V{bottom}"/><text class="b" x="150" y="{bottom - 20}">bar</text>'
    )
    if slack:
        body += (
            f'<path class="sc" stroke-dasharray="4 5" d="M60,{edge + slack * scale:.1f}H{face}"/>'
            f'<text class="tx" x="64" y="{edge + slack * scale + 22:.1f}">hangs in its slack</text>'
        )
    x, tip = face + gap * scale, edge + overlap * scale
    body += f'<path class="fill" d="M{x:.1f},{tip:.1f}V14h70v{tip - 44:.1f}z"/><text class="b" x="{x + 84:.1f}" y="{edge}">tip</text>'
    if gap * scale > 1:
        body += f'<text class="tx" x="{face + 8:.1f}" y="{tip + 24:.1f}">gap after closing</text>'
    return Markup(svg(WIDTH, bottom + 14, str(escape(says)), body))
