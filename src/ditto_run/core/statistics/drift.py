"""How fast a size drifts, and how many pieces are left until it leaves its limits, with the range.

Source: straight line by least squares, textbook; held to scipy's. The range of the crossing follows from the band of the line (Fieller).
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt
from statistics import fmean

from ditto_run.core.statistics.student import t_80

FEWEST = 3
RESERVE = 2.3263478740408408  # spreads kept from the limit: one piece in a hundred beyond it


@dataclass(frozen=True, slots=True)
class Drift:
    """A straight line through readings.

    Args:
        slope: change of size a piece. [mm or inch]
        slope_error: its standard error. [mm or inch]
        level: of the line at the middle piece. [mm or inch]
        middle: that piece. [pieces]
        scatter: of the readings about the line. [mm or inch]
        count: readings.
        squares: of the pieces about their middle.
    """

    slope: float
    slope_error: float
    level: float
    middle: float
    scatter: float
    count: int
    squares: float

    def at(self, piece: float) -> float:
        """Return where the line lies at a piece, [mm or inch]."""
        return self.level + self.slope * (piece - self.middle)

    def is_shown(self) -> bool:
        """Whether the drift is beyond its 80 % range about nought."""
        return abs(self.slope) > t_80(self.count - 2) * self.slope_error


@dataclass(frozen=True, slots=True)
class PiecesLeft:
    """Pieces that can still be cut before it has to be dialled.

    Args:
        likely: None where the line does not lead there.
        low: least of the 80 % range; None where nothing drifts or scatters.
        high: greatest of it; None where it may never come to that.
    """

    likely: float | None
    low: float | None
    high: float | None


def drift(readings: Sequence[tuple[int, float]]) -> Drift | None:
    """Return the straight line; None for fewer than three readings or all of one piece.

    Args:
        readings: piece and size, since the tool, the insert or the offset was last changed. [mm or inch]
    """
    if len(readings) < FEWEST:
        return None
    middle, level = fmean(p for p, _ in readings), fmean(v for _, v in readings)
    squares = sum((p - middle) ** 2 for p, _ in readings)
    if not squares:
        return None
    slope = sum((p - middle) * (v - level) for p, v in readings) / squares
    rest = sum((v - level - slope * (p - middle)) ** 2 for p, v in readings)
    scatter = sqrt(rest / (len(readings) - 2))
    return Drift(slope, scatter / sqrt(squares), level, middle, scatter, len(readings), squares)


def pieces_left(line: Drift, lower: float, upper: float, now: int, reserve: float = RESERVE) -> PiecesLeft:
    """Return after how many more pieces the line comes within its reserve of a limit.

    Args:
        line: the drift.
        lower: lower limit. [the line's unit]
        upper: upper limit. [the line's unit]
        now: pieces cut.
        reserve: how many spreads a piece's size is to stay from the limit. [-]
    """
    keep = reserve * line.scatter
    top, bottom = upper - keep, lower + keep
    here = line.at(now)
    if not bottom < here < top:
        return PiecesLeft(0.0, 0.0, 0.0)
    likely = None
    if line.slope:
        likely = ((top if line.slope > 0 else bottom) - here) / line.slope
    ends = (_crossed(line, top, now, 1), _crossed(line, bottom, now, -1))
    low = min((x for x in ends if x is not None), default=None)
    edge, side = (top, -1) if line.slope > 0 else (bottom, 1)
    high = _crossed(line, edge, now, side) if line.is_shown() else None
    return PiecesLeft(likely, low, high)


def _crossed(line: Drift, edge: float, now: int, side: int) -> float | None:
    """After how many more pieces the upper (1) or lower (−1) bound of the line is at an edge: a quadratic in the piece."""
    t = t_80(line.count - 2)
    gap, reach = edge - line.level, (t * line.scatter) ** 2
    # (slope u − gap)² = reach (1/n + u²/squares), u from the middle
    a = line.slope**2 - reach / line.squares
    b, c = -2 * line.slope * gap, gap * gap - reach / line.count
    roots = [-c / b] if not a and b else []
    if a and b * b >= 4 * a * c:
        root = sqrt(b * b - 4 * a * c)
        roots = [(-b - root) / (2 * a), (-b + root) / (2 * a)]
    start = now - line.middle
    ahead = [
        u - start
        for u in roots
        if u >= start and side * (gap - line.slope * u) >= -1e-12  # noqa: PLR2004 - the bound, not its mirror
    ]
    return min(ahead, default=None)
