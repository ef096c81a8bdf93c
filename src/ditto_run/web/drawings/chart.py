"""Ways side by side: total against quantity, and the quantity ladder."""

from collections.abc import Sequence
from itertools import product
from math import atan2, cos, degrees, hypot, log, sin

from markupsafe import Markup, escape

from ditto_run.core.method import MethodVerdict, MethodWanted, Way, amount_text
from ditto_run.core.method.crossings import LADDER_HIGH, LADDER_LOW
from ditto_run.core.method.totals import HOUR_S
from ditto_run.core.units import counted
from ditto_run.web.drawings.scale import nice_step, svg

HEIGHT, TOP, LEFT, BOTTOM, RIGHT = 400, 44, 66, 44, 18
DASHES = ("14 5 2 5", "9 6", "3 5", "18 6", "10 4 2 4 2 4", "5 4")
LADDER_HEIGHT = 108
LETTER = 9.2  # width of a letter of the drawing's text, px
LETTER_HIGH = 14  # and its height
Ends = tuple[float, float, float, float]


def _unit(verdict: MethodVerdict, wanted: MethodWanted) -> tuple[float, str]:
    """Return what one unit of the upright scale is worth, and what it is called."""
    if verdict.measure == "time":
        return HOUR_S, "hours in all"
    return (
        (100.0, f"{wanted.money or 'money'} in all")
        if verdict.measure == "cost"
        else (1.0, "working days until all are there")
    )


def _reach(verdict: MethodVerdict, wanted: MethodWanted) -> float:
    """Return how far the chart goes to the right, [pieces]."""
    far = [wanted.quantity * 2.0]
    if wanted.batches > 1 and wanted.quantity * wanted.batches <= wanted.quantity * 6:
        far.append(wanted.quantity * wanted.batches * 1.12)
    far += [c.at * 1.25 for c in verdict.crossings[:2] if c.at <= wanted.quantity * 4]
    return max(far)


def draw_chart(ways: Sequence[Way], verdict: MethodVerdict, wanted: MethodWanted, width: int = 800) -> Markup:
    """Return total against quantity, one line a way, drawn at this width, [px]."""
    scale, name = _unit(verdict, wanted)
    reach = _reach(verdict, wanted)
    ends = [line.at(reach) / scale for line in verdict.lines]
    high = min(max(ends), 3.2 * verdict.lines[verdict.winner].at(reach) / scale) * 1.06 or 1.0
    step = nice_step(high, 6)
    high = step * (int(high / step) + 1)
    right, floor_y = width - RIGHT, HEIGHT - BOTTOM

    def x_of(pieces: float) -> float:
        return LEFT + (right - LEFT) * pieces / reach

    def y_of(amount: float) -> float:
        return floor_y - (floor_y - TOP) * amount / scale / high

    body = _grid((x_of, y_of), (reach, high, step, scale), name, width)
    body += _crossing(verdict, (x_of, y_of), reach)
    body += _wanted(verdict, wanted, (x_of, y_of), width)
    body += _lines(ways, verdict, (x_of, y_of), reach, width)
    best = escape(ways[verdict.winner].name)
    says = f"Total against quantity, {counted(len(ways), 'way')}. At {counted(wanted.quantity, 'piece')} {best} is the least."
    return Markup(svg(width, HEIGHT, says, body))


def _grid(at, ends, name: str, width: int) -> str:  # type: ignore[no-untyped-def]
    x_of, y_of = at
    reach, high, step, scale = ends
    body = f'<text class="tx dim" x="{LEFT + 8}" y="{TOP - 12}">{escape(name)}</text>'
    for i in range(round(high / step) + 1):
        y = y_of(i * step * scale)
        body += (
            f'<path class="sc-l" d="M{LEFT},{y:.1f}H{width - RIGHT}"/>'
            f'<text class="dim" x="{LEFT - 8}" y="{y + 5:.1f}" text-anchor="end">{i * step:g}</text>'
        )
    across = nice_step(reach, 8)
    for i in range(int(reach / across) + 1):
        x = x_of(i * across)
        body += (
            f'<path class="sc" d="M{x:.1f},{HEIGHT - BOTTOM}v7"/>'
            f'<text class="dim" x="{x:.1f}" y="{HEIGHT - BOTTOM + 24}" text-anchor="middle">{i * across:g}</text>'
        )
    body += f'<text class="tx dim" x="{width - RIGHT}" y="{HEIGHT - 3}" text-anchor="end">pieces</text>'
    return body + f'<path class="sc" d="M{LEFT},{TOP - 6}V{HEIGHT - BOTTOM}H{width - RIGHT}"/>'


def _crossing(verdict: MethodVerdict, at, reach: float) -> str:  # type: ignore[no-untyped-def]
    """Return the nearest crossing with its range hatched."""
    x_of, y_of = at
    inside = [crossing for crossing in verdict.crossings if crossing.at < reach]
    if not inside:
        return ""
    near = inside[0]
    body = ""
    if near.low is not None and near.high is not None:
        left, right = x_of(min(near.low, reach)), x_of(min(near.high, reach))
        body += (
            f'<rect x="{left:.1f}" y="{TOP}" width="{max(right - left, 2):.1f}" '
            f'height="{HEIGHT - BOTTOM - TOP}" fill="url(#hat)" opacity=".55"/>'
        )
    x, y = x_of(near.at), y_of(verdict.lines[verdict.winner].at(near.at))
    body += f'<path class="sc" d="M{x:.1f},{y:.1f}V{HEIGHT - BOTTOM}"/>'
    body += (
        f'<rect class="dye" x="{x - 24:.1f}" y="{HEIGHT - BOTTOM - 42}" width="48" height="24"/>'
        f'<text class="b" x="{x:.1f}" y="{HEIGHT - BOTTOM - 24}" text-anchor="middle">{near.pieces}</text>'
    )
    return body + f'<path class="sc-h dye" d="M{x:.1f},{y - 10:.1f}l10,10l-10,10l-10,-10z"/>'


def _wanted(verdict: MethodVerdict, wanted: MethodWanted, at, width: int) -> str:  # type: ignore[no-untyped-def]
    """Return the wanted quantity, punched where it meets each way, and the likely repeats."""
    x_of, y_of = at
    x = x_of(wanted.quantity)
    text = f"wanted {wanted.quantity}"
    wide = len(text) * LETTER + 16
    left = min(max(x - wide / 2, LEFT), width - RIGHT - wide)
    body = f'<path class="sc-h" d="M{x:.1f},26V{HEIGHT - BOTTOM}"/><rect class="fill" x="{left:.1f}" y="2" width="{wide:.1f}" height="25"/>'
    body += f'<text class="g-m" x="{left + wide / 2:.1f}" y="20" text-anchor="middle">{text}</text>'
    for i, line in enumerate(verdict.lines):
        y = y_of(line.at(wanted.quantity))
        if y >= TOP:
            body += (
                f'<circle class="fill" cx="{x:.1f}" cy="{y:.1f}" r="{7 if i == verdict.winner else 4.5}"/>'
            )
    if wanted.batches > 1:
        far = x_of(wanted.quantity * wanted.batches)
        if far <= width - RIGHT:
            body += f'<path class="sc" stroke-dasharray="2 6" d="M{far:.1f},{TOP}V{HEIGHT - BOTTOM}"/>'
            body += (
                f'<text class="tx dim" x="{far - 6:.1f}" y="{TOP - 12}" '
                f'text-anchor="end">{wanted.batches} batches {wanted.quantity * wanted.batches}</text>'
            )
    return body


def _lines(ways: Sequence[Way], verdict: MethodVerdict, at, reach: float, width: int) -> str:  # type: ignore[no-untyped-def]
    x_of, y_of = at
    body, drawn = "", []
    order = sorted(range(len(ways)), key=lambda i: i == verdict.winner)
    for place, i in enumerate(order):
        line = verdict.lines[i]
        x1, y1, x2, y2 = x_of(0), y_of(line.at(0)), x_of(reach), y_of(line.at(reach))
        if y1 < TOP and y2 < TOP:  # wholly above the picture: only its name stands at the upper edge
            drawn.append((f"{ways[i].name}, above", (x1, TOP + 14.0, x2, TOP + 14.0)))
            continue
        if y1 < TOP:  # it comes into the picture from above
            x1, y1 = x1 + (x2 - x1) * (TOP - y1) / (y2 - y1), TOP
        if y2 < TOP:  # it leaves the picture at the top
            x2, y2 = x1 + (x2 - x1) * (y1 - TOP) / (y1 - y2), TOP
        style = (
            'class="sc-h way is-best"'
            if i == verdict.winner
            else f'class="sc-h way" stroke-dasharray="{DASHES[place % len(DASHES)]}"'
        )
        body += f'<path {style} d="M{x1:.1f},{y1:.1f}L{x2:.1f},{y2:.1f}"/>'
        drawn.append((ways[i].name, (x1, y1, x2, y2)))
    at_hand = [crossing for crossing in verdict.crossings if crossing.at < reach][:1]
    taken = [(x_of(c.at), y_of(verdict.lines[verdict.winner].at(c.at))) for c in at_hand]
    for name, ends in reversed(drawn):
        others = [other for _, other in drawn if other is not ends]
        body += _label(str(escape(name)), ends, others, taken, width)
    return body


def _label(
    name: str, ends: Ends, others: Sequence[Ends], taken: list[tuple[float, float]], width: int
) -> str:
    """Return a name along its line, above or below it, where it touches no other name, and no other line if it can."""
    x1, y1, x2, y2 = ends
    long = len(name) * LETTER
    along = atan2(y2 - y1, x2 - x1)
    for clear in (LETTER_HIGH / 2 + 4, 0):
        for shares in (range(98, 48, -3), range(47, 16, -3)):
            for below, share in product((False, True), shares):
                x, y = x1 + (x2 - x1) * share / 100, y1 + (y2 - y1) * share / 100
                off = LETTER_HIGH if below else -LETTER_HIGH / 2 - 8  # middle of the letters, across the line
                spots = [
                    (x - back * cos(along) - off * sin(along), y - back * sin(along) + off * cos(along))
                    for back in (*range(0, round(long), 12), long)
                ]
                if (
                    all(LEFT < a < width and TOP / 2 < b < HEIGHT - BOTTOM - 4 for a, b in spots)
                    and all(hypot(a - c, b - d) > LETTER_HIGH + 6 for a, b in spots for c, d in taken)
                    and all(_beside(spot, line) >= clear for spot in spots for line in others)
                ):
                    taken += spots
                    return (
                        f'<text class="tx b on-line" x="{x:.1f}" y="{y:.1f}" '
                        f'transform="rotate({degrees(along):.1f} {x:.1f} {y:.1f})" '
                        f'dy="{21 if below else -9}" text-anchor="end">{name}</text>'
                    )
    return ""


def _beside(spot: tuple[float, float], line: Ends) -> float:
    """Return how far a spot lies from a line, [px]."""
    x1, y1, x2, y2 = line
    along = ((spot[0] - x1) * (x2 - x1) + (spot[1] - y1) * (y2 - y1)) / max(
        hypot(x2 - x1, y2 - y1) ** 2, 1e-9
    )
    share = min(max(along, 0.0), 1.0)
    return hypot(spot[0] - x1 - share * (x2 - x1), spot[1] - y1 - share * (y2 - y1))


def draw_ladder(
    ways: Sequence[Way], verdict: MethodVerdict, wanted: MethodWanted, width: int = 800
) -> Markup:
    """Return which way is best from 4 to 1,000 pieces, on a logarithmic ladder, [px]."""
    left, right, top, tall = 16, width - 16, 44, 30

    def x_of(pieces: float) -> float:
        share = log(max(LADDER_LOW, min(LADDER_HIGH, pieces)) / LADDER_LOW) / log(LADDER_HIGH / LADDER_LOW)
        return left + (right - left) * share

    body, marks = "", {4: False, 10: False, 30: False, 100: False, 300: False, 1000: False}
    for rung in verdict.rungs:
        x1, x2 = x_of(rung.low), x_of(rung.high + (0 if rung.high == LADDER_HIGH else 1))
        best = rung.low <= wanted.quantity <= rung.high or (
            rung is verdict.rungs[-1] and wanted.quantity > LADDER_HIGH
        )
        body += (
            f'<rect class="{"fill" if best else "dye"}" x="{x1:.1f}" y="{top}" width="{x2 - x1:.1f}" height="{tall}"/>'
            f'<path class="sc" d="M{x1:.1f},{top}H{x2:.1f}V{top + tall}H{x1:.1f}Z"/>'
        )
        name = ways[rung.way].name
        if len(name) * LETTER < x2 - x1 - 10:
            body += (
                f'<text class="tx {"g-m" if best else ""}" x="{(x1 + x2) / 2:.1f}" '
                f'y="{top + 21}" text-anchor="middle">{escape(name)}</text>'
            )
        if rung.low > LADDER_LOW:
            marks[rung.low] = True
    body += _ladder_marks(marks, x_of, top + tall)
    x = x_of(wanted.quantity)
    side = "end" if x > width - 90 else "start"
    body += (
        f'<path class="fill" d="M{x - 9:.1f},{top - 16}h18l-9,15z"/>'
        f'<text class="b" x="{x + (-14 if side == "end" else 14):.1f}" y="{top - 5}" text-anchor="{side}">{wanted.quantity}</text>'
    )
    spans = ", ".join(f"{rung.low} to {rung.high} {ways[rung.way].name}" for rung in verdict.rungs)
    return Markup(
        svg(
            width,
            LADDER_HEIGHT,
            f"Best way by quantity: {escape(spans)}.",
            f'<text class="tx" x="{left}" y="20">Best way, 4 to 1,000 pieces</text>{body}',
        )
    )


def _ladder_marks(marks: dict[int, bool], x_of, y: int) -> str:  # type: ignore[no-untyped-def]
    """Return the figures below the ladder; a crossing's own figure goes before a round one near it."""
    body = ""
    taken: list[float] = []
    for pieces in sorted(marks, key=lambda n: not marks[n]):
        x = x_of(pieces)
        if any(abs(x - other) < 40 for other in taken):
            continue
        taken.append(x)
        anchor = "start" if pieces == LADDER_LOW else "end" if pieces == LADDER_HIGH else "middle"
        body += (
            f'<path class="sc" d="M{x:.1f},{y}v6"/><text class="{"b" if marks[pieces] else "dim"}" '
            f'x="{x:.1f}" y="{y + 23}" text-anchor="{anchor}">{pieces:,}</text>'
        )
    return body


def total_words(verdict: MethodVerdict, wanted: MethodWanted, way: int) -> str:
    """Return a way's likely total at the wanted quantity, in words."""
    return amount_text(verdict.lines[way].at(wanted.quantity), verdict.measure, wanted.money)


def range_words(verdict: MethodVerdict, wanted: MethodWanted, way: int) -> str:
    """Return the 80 % range of a way's total at the wanted quantity, in words."""
    low, high = verdict.totals[way]
    return f"{amount_text(low, verdict.measure, wanted.money)} to {amount_text(high, verdict.measure, wanted.money)}"
