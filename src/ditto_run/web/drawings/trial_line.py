"""Trial pieces: setting along, size up, the limits hatched, the line through the trials, brass corners round the next."""

from decimal import Decimal

from markupsafe import Markup, escape

from ditto_run.core.run.trials import Trials
from ditto_run.core.units import LengthUnit, bare_text, convert
from ditto_run.web.drawings.scale import nice_step, svg

WIDTH, HEIGHT = 790, 470
LEFT, RIGHT, TOP, LOW = 86, 14, 14, 52
NARROW = 16


def draw_trials(found: Trials, unit: LengthUnit) -> Markup:
    """Return the picture of a dimension's trials.

    Args:
        found: the trials.
        unit: of the control; the size stands in the drawing's.
    """
    size = found.of.size
    xs = [one.setting_mm for one in found.trials] + [found.now_mm, found.now_mm + found.amount_mm]
    ys = [one.size_mm for one in found.trials] + [
        found.dimension.lower,
        found.dimension.upper,
        found.expect_mm,
    ]
    room_x = max((max(xs) - min(xs)) * 0.15, found.knob.increment * 4)
    room_y = max((max(ys) - min(ys)) * 0.12, found.zone_mm * 0.25)
    left, right, low, high = min(xs) - room_x, max(xs) + room_x, min(ys) - room_y, max(ys) + room_y

    def at(x: float, y: float) -> tuple[float, float]:
        across = LEFT + (x - left) / (right - left) * (WIDTH - LEFT - RIGHT)
        return across, TOP + (high - y) / (high - low) * (HEIGHT - TOP - LOW)

    body = _limits(found, at, (low, high)) + _scales(found, at, (left, right, low, high), unit)
    reach = [
        at(x, found.expect_mm + found.slope * (x - found.now_mm - found.amount_mm)) for x in (left, right)
    ]
    body += (
        f'<path class="sc-d" stroke-dasharray="7 5" d="M{"L".join(f"{x:.1f},{y:.1f}" for x, y in reach)}"/>'
    )
    for one in found.trials:
        x, y = at(one.setting_mm, one.size_mm)
        end = x > WIDTH - 110
        body += f'<circle class="fill" cx="{x:.1f}" cy="{y:.1f}" r="8"/>'
        body += (
            f'<text class="b" x="{x + (-14 if end else 14):.1f}" y="{y + 22:.1f}"'
            f' text-anchor="{"end" if end else "start"}">trial {one.number}</text>'
        )
    if found.verdict in {"set", "cut"}:
        x, y = at(found.now_mm + found.amount_mm, found.expect_mm)
        body += f'<circle class="sc" fill="none" cx="{x:.1f}" cy="{y:.1f}" r="7"/>'
        body += f'<text class="b" x="{x - 20:.1f}" y="{y + 38:.1f}" text-anchor="end">next</text>'
        body += "".join(
            f'<path class="g-due" d="M{x + 15 * a:.1f},{y + 6 * b:.1f}v{9 * b:.1f}h{-9 * a:.1f}"/>'
            for a in (-1, 1)
            for b in (-1, 1)
        )
    unit_of: LengthUnit = "in" if size.unit == "in" else "mm"
    last = bare_text(convert(_exact(found.trials[-1].size_mm), "mm", unit_of), size.unit, 3)
    says = f"{len(found.trials)} trials of the {found.of.name}, the last {last} {size.unit}"
    return Markup(svg(WIDTH, HEIGHT, str(escape(says)), body))


def _exact(value: float) -> Decimal:
    return Decimal(repr(round(value, 6)))


def _limits(found: Trials, at, ends: tuple[float, float]) -> str:  # type: ignore[no-untyped-def]
    one, size = found.dimension, found.of.size
    wide = WIDTH - LEFT - RIGHT
    top, upper = at(0, ends[1])[1], at(0, one.upper)[1]
    lower, low = at(0, one.lower)[1], at(0, ends[0])[1]
    middle = at(0, one.target)[1]
    body = f'<rect x="{LEFT}" y="{top:.1f}" width="{wide}" height="{upper - top:.1f}" fill="url(#hat)"/>'
    body += f'<rect x="{LEFT}" y="{lower:.1f}" width="{wide}" height="{low - lower:.1f}" fill="url(#hat)"/>'
    body += f'<path class="sc-h" d="M{LEFT},{upper:.1f}h{wide}M{LEFT},{lower:.1f}h{wide}"/>'
    body += f'<path class="sc" stroke-dasharray="16 5 3 5" d="M{LEFT},{middle:.1f}h{wide}"/>'
    for y, mm, word in ((upper + 20, one.upper, "upper limit"), (lower - 9, one.lower, "lower limit")):
        text = bare_text(convert(_exact(mm), "mm", size.unit), size.unit, max(size.decimals, 3))
        body += f'<text class="b" x="{WIDTH - RIGHT - 6}" y="{y:.1f}" text-anchor="end">{word} {text}</text>'
    return body


def _scales(  # type: ignore[no-untyped-def]
    found: Trials, at, ends: tuple[float, float, float, float], unit: LengthUnit
) -> str:
    left, right, low, high = ends
    size = found.of.size
    body = f'<path class="sc" d="M{LEFT},{TOP}V{HEIGHT - LOW}H{WIDTH - RIGHT}"/>'
    for lowest, highest, of, up in ((low, high, size.unit, True), (left, right, unit, False)):
        scale = 25.4 if of == "in" else 1.0
        step = nice_step((highest - lowest) / scale, 7 if up else 5)
        n = int(lowest / scale / step) - 1
        decimals = max(2, len(f"{step:.6f}".rstrip("0").partition(".")[2]))
        while n * step * scale < highest:
            value = n * step
            n += 1
            if value * scale < lowest:
                continue
            x, y = at(left, value * scale) if up else at(value * scale, low)
            if up:
                body += f'<path class="hair" d="M{LEFT},{y:.1f}h{WIDTH - LEFT - RIGHT}"/>'
                body += f'<text class="dim" x="{LEFT - 8}" y="{y + 6:.1f}" text-anchor="end">{value:.{decimals}f}</text>'
            else:
                sign = "+" if value > step / 2 else "−" if value < -step / 2 else ""
                body += f'<path class="hair" d="M{x:.1f},{TOP}V{HEIGHT - LOW}"/>'
                body += f'<text class="dim" x="{x:.1f}" y="{HEIGHT - LOW + 21}" text-anchor="middle">{sign}{abs(value):.{decimals}f}</text>'
    words = escape(f"{found.knob.what}, dialled since the first, {unit}")
    body += f'<text class="dim" x="{WIDTH - RIGHT}" y="{HEIGHT - 6}" text-anchor="end">{words}</text>'
    return body
