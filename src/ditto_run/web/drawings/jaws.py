"""The tolerance as jaws: hatched blocks are the limits, the scriber is the reading."""

from decimal import Decimal

from markupsafe import Markup, escape

from ditto_run.core.run.board import Jaws
from ditto_run.core.run.verdict import QUIET
from ditto_run.core.units import bare_text

HEIGHT = 124
LINE = 86  # the scale's line
SIDE = 0.163  # share of the width behind each limit
NARROW = 70

STEPS = tuple(Decimal(text) for text in ("0.1", "1", "2", "5", "10", "20", "50", "100", "200", "500", "1000"))
WIDE = 28  # px between two ticks at least


def draw_jaws(jaws: Jaws, width: int = 516) -> Markup:
    """Return the jaws for one dimension, drawn at this width, [px]."""
    size = jaws.characteristic.size
    if size.lower is None or size.upper is None or size.lower == size.upper:
        return _one_line(jaws, width)
    span = size.upper - size.lower
    scale = Decimal(width * (1 - 2 * SIDE)) / span

    def at(value: Decimal) -> float:
        """Return where a value stands; beyond the picture it stands at its edge."""
        return max(10.0, min(width - 10.0, width * SIDE + float((value - size.lower) * scale)))  # type: ignore[operator]

    low, high = at(size.lower), at(size.upper)
    parts = (
        f'<rect x="0" y="22" width="{low:.1f}" height="{LINE - 22}" fill="url(#hat)"/>'
        f'<rect x="{high:.1f}" y="22" width="{width - high:.1f}" height="{LINE - 22}" fill="url(#hat)"/>'
        f'<path class="sc-h jaw" d="M{low:.1f},14V{LINE}M{high:.1f},14V{LINE}"/>'
    )
    decimals = max(size.decimals, 3 if size.unit == "mm" else 4)
    for value, x in ((size.lower, low / 2), (size.upper, (width + high) / 2)):
        text = bare_text(value, size.unit, decimals)
        wide = len(text) * 9.6 + 8
        parts += f'<rect class="dye" x="{x - wide / 2:.1f}" y="40" width="{wide:.1f}" height="24"/>'
        parts += f'<text class="b" x="{x:.1f}" y="58" text-anchor="middle">{text}</text>'
    parts += _quiet_band(jaws, at)
    parts += _earlier(jaws, at)
    parts += f'<path class="sc" d="M0,{LINE}H{width}"/>{_scale(jaws, at, width, decimals)}'
    if jaws.value is not None:
        x = at(jaws.value)
        parts += f'<path class="fill" d="M{x - 13:.1f},8h26v46l-13,{LINE - 56}l-13,-{LINE - 56}z"/>'
        parts += f'<text class="g-m" x="{x:.1f}" y="30" text-anchor="middle">{escape(jaws.station)}</text>'
    return _svg(jaws, width, parts)


def _quiet_band(jaws: Jaws, at) -> str:  # type: ignore[no-untyped-def]
    size, master = jaws.characteristic.size, jaws.master
    if master is None or size.lower is None or size.upper is None:
        return ""
    reach = min(abs(size.upper - master), abs(master - size.lower)) * QUIET
    left, right = at(master - reach), at(master + reach)
    return (
        f'<rect class="dye2 band" x="{left:.1f}" y="60" width="{max(right - left, 2):.1f}" height="{LINE - 60}"/>'
        f'<text class="b" x="{at(master):.1f}" y="79" text-anchor="middle">M</text>'
    )


def _earlier(jaws: Jaws, at) -> str:  # type: ignore[no-untyped-def]
    parts, taken = "", [at(jaws.value)] if jaws.value is not None else []
    for load, value in reversed(jaws.earlier):
        x = at(value)
        parts += f'<path class="sc-d" d="M{x:.1f},{LINE}V50"/>'
        if all(abs(x - other) > NARROW / 2 for other in taken):
            parts += f'<text class="dim" x="{x:.1f}" y="44" text-anchor="middle">{load}</text>'
            taken.append(x)
    return parts


def _scale(jaws: Jaws, at, width: int, decimals: int) -> str:  # type: ignore[no-untyped-def]
    """Return ticks in the drawing's own small unit, µm or thou; the middle bears its value."""
    size = jaws.characteristic.size
    middle = size.middle
    text = bare_text(middle, size.unit, decimals)
    x = at(middle)
    parts = (
        f'<path class="sc" d="M{x:.1f},{LINE}v9"/>'
        f'<text class="b" x="{x:.1f}" y="{LINE + 26}" text-anchor="middle">{text}</text>'
    )
    if size.unit == "arcsec" or size.lower is None or size.upper is None:
        return parts
    thou, word = Decimal("0.001"), "µm" if size.unit == "mm" else "thou"
    step = next(
        (s for s in STEPS if float(thou * s / (size.upper - size.lower)) * width * 0.67 > WIDE), STEPS[-1]
    )
    for count in range(-12, 13):
        value = middle + thou * step * count
        x = at(value)
        if count and 12 < x < width - 12:
            parts += f'<path class="sc" d="M{x:.1f},{LINE}v5"/>'
    for sign in (-1, 1):
        for count in (3, 2, 1):
            x = at(middle + sign * thou * step * count)
            if 60 < x < width - 60 and abs(x - at(middle)) > NARROW:
                label = f"{'+' if sign > 0 else '−'}{(step * count).normalize():f}"
                parts += (
                    f'<text class="dim" x="{x:.1f}" y="{LINE + 26}" '
                    f'text-anchor="middle">{label}{" " + word if sign > 0 else ""}</text>'
                )
                break
    return parts


def _one_line(jaws: Jaws, width: int) -> Markup:
    """Return the picture for a size with one limit or none: the line, the limit, the reading beside it."""
    size = jaws.characteristic.size
    words = "one limit" if size.has_limits else "no limits, only kept"
    parts = (
        f'<path class="sc" d="M0,{LINE}H{width}"/><text class="tx" x="12" y="36">{escape(jaws.title)}</text>'
    )
    parts += f'<text class="tx dim" x="12" y="66">{words}</text>'
    return _svg(jaws, width, parts)


def _svg(jaws: Jaws, width: int, parts: str) -> Markup:
    words = jaws.title + (f". {jaws.answer.words}; {jaws.answer.away}." if jaws.answer else "")
    if jaws.earlier:
        decimals = max(jaws.characteristic.size.decimals, 3)
        past = ", ".join(
            f"{bare_text(v, jaws.characteristic.size.unit, decimals)} in load {n}" for n, v in jaws.earlier
        )
        words += f" Station {jaws.station} earlier: {past}."
    return Markup(
        f'<svg role="img" aria-label="{escape(words)}" width="{width}" height="{HEIGHT}" viewBox="0 0 {width} {HEIGHT}">'
        f'<g aria-hidden="true">{parts}</g></svg>'
    )
