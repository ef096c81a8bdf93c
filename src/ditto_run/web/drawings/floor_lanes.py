"""A batch on the floor: a lane for each machine and one for the hands, what each does by its pattern."""

from markupsafe import Markup, escape

from ditto_run.core.rehearse.floor import Doing, Floor, FloorSpan
from ditto_run.core.units import span_text
from ditto_run.web.drawings.part_frame import text
from ditto_run.web.drawings.scale import nice_step, svg

LEFT, RIGHT, TOP = 150.0, 16.0, 12
LANE, BAR = 54, 30
MOST = 900  # spans; beyond them only the beginning is drawn
WORDS: dict[Doing, str] = {
    "cuts": "cuts",
    "hands": "hands load",
    "gauges": "hands gauge",
    "tool": "a tool is changed",
}
HAND_S = 3600.0


def drawn_until(floor: Floor) -> float:
    """Return up to when a floor is drawn, [s]."""
    spans = sorted(floor.spans, key=lambda span: span.start)
    return spans[MOST].start if len(spans) > MOST else floor.ends_s


def draw_floor(floor: Floor, width: int) -> Markup:
    """Return the lanes of a floor.

    Args:
        floor: as it was played.
        width: of the picture. [px]
    """
    until = drawn_until(floor)
    scale = (width - LEFT - RIGHT) / max(until, 1.0)
    pairs = ("hands",) if floor.hands == 1 else tuple(f"hands {n}" for n in range(1, floor.hands + 1))
    lanes = (*floor.lanes, *pairs)
    high = TOP + LANE * len(lanes)
    body = "".join(
        f'<path class="hair" d="M{LEFT},{TOP + LANE * n + BAR}H{width - RIGHT}"/>'
        + text(LEFT - 12, TOP + LANE * n + BAR - 8, name[:16], "b", anchor="end")
        for n, name in enumerate(lanes)
    )
    body += "".join(_bar(span, lane, scale) for lane, span in _placed(floor) if span.start < until)
    body += _scale(until, scale, high)
    body += _legend(high + 30)
    says = (
        f"{span_text(floor.likely_s)} of work. "
        + "; ".join(
            f"{name} cuts {span_text(floor.spent_s('cuts', n))}" for n, name in enumerate(floor.lanes)
        )
        + "."
    )
    return Markup(svg(width, high + 42, str(escape(says)), body))


def _placed(floor: Floor) -> list[tuple[int, FloorSpan]]:
    """Each span in the lanes it is drawn in: its machine's, and that of the pair of hands that is at it."""
    by = {one.lane for one in floor.cycles if one.attended}
    free = [0.0] * floor.hands
    found: list[tuple[int, FloorSpan]] = []
    for span in sorted(floor.spans, key=lambda one: (one.start, one.end)):
        if span.doing not in WORDS:
            continue
        if span.doing != "gauges":
            found.append((span.lane, span))
        if span.doing != "cuts" or span.lane in by:
            pair = min(range(floor.hands), key=lambda n: (free[n] > span.start + 1e-6, n))
            free[pair] = span.end
            found.append((len(floor.lanes) + pair, span))
    return found


def _bar(span: FloorSpan, lane: int, scale: float) -> str:
    x, wide = LEFT + span.start * scale, max((span.end - span.start) * scale, 0.6)
    return _box(span.doing, x, TOP + LANE * lane, wide, BAR)


def _box(doing: Doing, x: float, y: float, wide: float, high: float) -> str:
    """A stretch by its pattern: full, empty, hatched, or crossed."""
    box = f"M{x:.1f},{y}h{wide:.1f}v{high}h-{wide:.1f}Z"
    if doing == "cuts":
        return f'<path class="fill" d="{box}"/>'
    drawn = f'<path class="hatched" d="{box}"/>' if doing == "gauges" else ""
    cross = f"M{x:.1f},{y}l{wide:.1f},{high}M{x:.1f},{y + high}l{wide:.1f},-{high}" if doing == "tool" else ""
    return f'{drawn}<path class="sc-h" d="{box}{cross}"/>'


def _scale(until: float, scale: float, high: int) -> str:
    """Hours of work along the foot, minutes where a step is less than one."""
    hours = until / HAND_S
    step = nice_step(hours, 8) if hours >= 1 else hours
    drawn, n = "", 0
    while n * step <= hours + 1e-9 and step > 0:
        x = LEFT + n * step * HAND_S * scale
        words = f"{n * step:g} h" if step >= 1 else span_text(n * step * HAND_S)
        drawn += f'<path class="hair" d="M{x:.1f},{TOP}V{high - LANE + BAR + 8}"/>'
        drawn += text(x, high, words, "mk", anchor="end" if n and n * step > hours * 0.95 else "middle")
        n += 1
    return drawn


def _legend(y: int) -> str:
    drawn, x = "", LEFT
    for doing, words in WORDS.items():
        drawn += _box(doing, x, y - 13, 22, 16) + text(x + 30, y, words, anchor="start")
        x += 60 + 10 * len(words)
    return drawn
