"""Readings one after another, stations apart by their letter; limits, chart limits, turns; or their steps, or sums."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from markupsafe import Markup, escape

from ditto_run.core.run.charted import ChartedSize
from ditto_run.core.statistics.precontrol import Zone, zone
from ditto_run.web.drawings.scale import nice_step, svg

Kind = Literal["readings", "steps", "sums", "zones"]
WIDTH, HEIGHT = 1240, 300
LEFT, RIGHT, TOP, LOW = 84, 20, 16, 26
MOST_LETTERS = 80  # readings that bear the letter of their station
LIMIT, MEAN = "7 5", "16 5 3 5"
SUM_LIMIT = 5.0
Line = tuple[float, str, str]  # where, its words, its dashes


@dataclass(frozen=True, slots=True)
class ChartFrame:
    """Where a chart stands: how many points, and its ends along the height."""

    count: int
    low: float
    high: float

    def x(self, n: float) -> float:
        """Where a point stands along the width."""
        return LEFT + (n + 0.5) / max(self.count, 1) * (WIDTH - LEFT - RIGHT)

    def y(self, value: float) -> float:
        """Where a value stands along the height."""
        return TOP + (self.high - value) / (self.high - self.low) * (HEIGHT - TOP - LOW)


def draw_readings(found: ChartedSize, kind: Kind) -> Markup:
    """Return the picture of a dimension's readings.

    Args:
        found: them.
        kind: the readings with chart limits, their steps, cumulative sums, or zones of the limits.
    """
    values, lines = _shown(found, kind)
    of_limits = kind in {"readings", "zones"}
    reach = [*values, *((found.lower, found.upper) if of_limits else ()), *(at for at, _, _ in lines)] or [
        0.0
    ]
    room = (max(reach) - min(reach)) * 0.08 or 1.0
    frame = ChartFrame(len(values), min(reach) - room, max(reach) + room)
    body = (_limits(found, frame) if of_limits else "") + _scale(frame) + _lines(lines, frame)
    points = " ".join(f"{frame.x(n):.1f},{frame.y(value):.1f}" for n, value in enumerate(values))
    body += (
        f'<polyline class="hair" points="{points}"/>'
        + _turns(found, frame)
        + _points(found, values, frame, kind)
    )
    name = found.of.name if found.of is not None else "all sizes, as deviations"
    return Markup(svg(WIDTH, HEIGHT, f"{len(values)} of {escape(name)} in order", body))


def _shown(found: ChartedSize, kind: Kind) -> tuple[list[float], list[Line]]:
    """The values of a chart, and the lines across it."""
    values = [one.value for one in found.readings]
    if kind == "steps":
        steps = [abs(b - a) for a, b in pairwise(values)]
        chart = found.chart
        return steps, [
            (chart.moving, "mean step", MEAN),
            (chart.most_moving, "limit", LIMIT),
        ] if chart else []
    if kind == "sums" and found.sums is not None:
        sums = [up - down for up, down in zip(found.sums.up, found.sums.down, strict=True)]
        return sums, [(SUM_LIMIT, "limit", LIMIT), (0.0, "", ""), (-SUM_LIMIT, "limit", LIMIT)]
    if kind == "zones":
        quarter = (found.upper - found.lower) / 4
        return values, [(found.lower + quarter, "middle half", LIMIT), (found.upper - quarter, "", LIMIT)]
    if found.chart is None:
        return values, []
    chart = found.chart
    return values, [(chart.high, "three sigma", LIMIT), (chart.mean, "mean", MEAN), (chart.low, "", LIMIT)]


def _lines(lines: Sequence[Line], frame: ChartFrame) -> str:
    return "".join(
        f'<path class="sc" stroke-dasharray="{dash}" d="M{LEFT},{frame.y(at):.1f}H{WIDTH - RIGHT}"/>'
        f'<text class="dim" x="{WIDTH - RIGHT - 4}" y="{frame.y(at) - 4:.1f}" text-anchor="end">{words}</text>'
        for at, words, dash in lines
    )


def _turns(found: ChartedSize, frame: ChartFrame) -> str:
    """A notch before the first reading after each turn."""
    body, loads = "", [one.load for one in found.readings][: frame.count]
    for turn in found.turns:
        n = next((k for k, load in enumerate(loads) if load >= turn), None)
        if n is not None:
            body += f'<path class="sc-h" d="M{frame.x(n - 0.5) - 6:.1f},{TOP}h12l-6,9z"/>'
    return body


def _points(found: ChartedSize, values: Sequence[float], frame: ChartFrame, kind: Kind) -> str:
    body, of_limits = "", kind in {"readings", "zones"}
    apart = of_limits and len(values) <= MOST_LETTERS and len({one.station for one in found.readings}) > 1
    spoken = {signal.at for signal in found.signals} if kind == "readings" else set()
    for n, value in enumerate(values):
        at = f'cx="{frame.x(n):.1f}" cy="{frame.y(value):.1f}"'
        out = of_limits and zone(value, found.lower, found.upper) is Zone.RED
        body += f'<circle class="sc" fill="none" {at} r="9"/>' if n in spoken else ""
        body += f'<circle class="{"stop" if out else "fill"}" {at} r="4"/>'
        if apart:
            label = escape(found.readings[n].station)
            body += f'<text class="dim" x="{frame.x(n):.1f}" y="{frame.y(value) - 10:.1f}" text-anchor="middle">{label}</text>'
    return body


def _limits(found: ChartedSize, frame: ChartFrame) -> str:
    wide, upper, lower = WIDTH - LEFT - RIGHT, frame.y(found.upper), frame.y(found.lower)
    return (
        f'<rect x="{LEFT}" y="{TOP}" width="{wide}" height="{upper - TOP:.1f}" fill="url(#hat)"/>'
        f'<rect x="{LEFT}" y="{lower:.1f}" width="{wide}" height="{HEIGHT - LOW - lower:.1f}" fill="url(#hat)"/>'
        f'<path class="sc-h" d="M{LEFT},{upper:.1f}h{wide}M{LEFT},{lower:.1f}h{wide}"/>'
    )


def _scale(frame: ChartFrame) -> str:
    body = f'<path class="sc" d="M{LEFT},{TOP}V{HEIGHT - LOW}H{WIDTH - RIGHT}"/>'
    step = nice_step(frame.high - frame.low, 6)
    decimals = max(0, len(f"{step:.6f}".rstrip("0").partition(".")[2]))
    for n in range(int(frame.low / step) - 1, int(frame.high / step) + 2):
        if frame.low <= n * step <= frame.high:
            text = f"{n * step:.{decimals}f}"
            body += f'<text class="dim" x="{LEFT - 8}" y="{frame.y(n * step) + 6:.1f}" text-anchor="end">{text}</text>'
    return body
