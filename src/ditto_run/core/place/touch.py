"""The arithmetic of finding zero: repeat touches, lines, circles, corners, rigid fits, reversal.

Plain least squares in plain Python; tests hold it to numpy and scipy.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2, cos, degrees, hypot, radians, sin, sqrt
from statistics import fmean, median, stdev

from ditto_run.core.errors import BadEntry
from ditto_run.core.place.placed import Spot
from ditto_run.core.statistics.student import t_80

FEW_FOR_OUTLIER, MAD_TO_SPREAD, FAR = 4, 1.4826, 3.5  # modified z-score of 3.5; [nist] 1.3.5.17
LEAST_SPREAD_MM = 0.0005  # below this a difference is the read-out's last digit, not an outlier; [mm]
APART_MM = 0.05  # two or three touches this far apart are asked about; [mm], common practice, no source
ON_A_LINE = 1e-7  # smallest share of its length by which points may leave a line and still give a circle
ROUNDS = 60


@dataclass(frozen=True, slots=True)
class Repeats:
    """Repeat touches of one place.

    Args:
        mean: of the touches that count.
        spread: largest less smallest of them.
        half: half width of the 80 % range of the mean; None for one touch.
        left_out: positions of touches that do not fit the others.
        differ: True if two or three touches do not agree, and nobody can say which is wrong.
    """

    mean: float
    spread: float
    half: float | None
    left_out: tuple[int, ...] = ()
    differ: bool = False


def repeats(values: Sequence[float]) -> Repeats:
    """Return what repeat touches say; one that does not fit the others is left out and named.

    mean ± t s / √n, t for 80 %

    Args:
        values: one touch or more. [mm]

    Raises:
        ValueError: if there is none.

    Source:
        [nist] 1.3.5.17, modified z-score, from memory; 3.5 as given there.
    """
    left_out: tuple[int, ...] = ()
    if len(values) >= FEW_FOR_OUTLIER:
        middle = median(values)
        usual = max(median(abs(v - middle) for v in values) * MAD_TO_SPREAD, LEAST_SPREAD_MM)
        left_out = tuple(i for i, v in enumerate(values) if abs(v - middle) > FAR * usual)
    kept = [v for i, v in enumerate(values) if i not in left_out]
    half = t_80(len(kept) - 1) * stdev(kept) / sqrt(len(kept)) if len(kept) > 1 else None
    spread = max(kept) - min(kept)
    return Repeats(fmean(kept), spread, half, left_out, len(values) < FEW_FOR_OUTLIER and spread > APART_MM)


@dataclass(frozen=True, slots=True)
class FittedLine:
    """A straight line through points: one point on it, its angle from X, and the farthest point from it.

    Args:
        at: a point on the line. [mm]
        angle: from the X axis, −90 to 90. [°]
        off: largest distance of a point from it. [mm]
        half: half width of the 80 % range of its place; None through two points, which always fit. [mm]
    """

    at: Spot
    angle: float
    off: float
    half: float | None = None


def fit_line(points: Sequence[Spot], field: str = "points") -> FittedLine:
    """Return the line that has the least sum of squared distances from the points.

    tan 2θ = 2 Sxy / (Sxx − Syy)

    Raises:
        BadEntry: if fewer than two places were touched.

    Source:
        Total least squares; own derivation.
    """
    if len({(round(x, 6), round(y, 6)) for x, y in points}) < 2:  # noqa: PLR2004 - a line has two points
        raise BadEntry("A line wants two places at least.", "Touch a second one, far from the first.", field)
    cx, cy = fmean(x for x, _ in points), fmean(y for _, y in points)
    sxx = sum((x - cx) ** 2 for x, _ in points)
    syy = sum((y - cy) ** 2 for _, y in points)
    sxy = sum((x - cx) * (y - cy) for x, y in points)
    angle = atan2(2 * sxy, sxx - syy) / 2
    left = [(y - cy) * cos(angle) - (x - cx) * sin(angle) for x, y in points]
    spare = len(points) - 2
    half = t_80(spare) * sqrt(sum(one**2 for one in left) / spare / len(points)) if spare > 0 else None
    return FittedLine((cx, cy), degrees(angle), max(map(abs, left)), half)


def meet(one: FittedLine, other: FittedLine) -> Spot:
    """Return where two lines meet.

    Raises:
        BadEntry: if they run the same way.
    """
    a, b = _way(one), _way(other)
    cross = a[0] * b[1] - a[1] * b[0]
    if abs(cross) < 0.02:  # noqa: PLR2004 - about one degree
        raise BadEntry("The two edges run the same way.", "Touch one along X and one along Y.", "points")
    dx, dy = other.at[0] - one.at[0], other.at[1] - one.at[1]
    along = (dx * b[1] - dy * b[0]) / cross
    return one.at[0] + along * a[0], one.at[1] + along * a[1]


def _way(line: FittedLine) -> Spot:
    angle = radians(line.angle)
    return cos(angle), sin(angle)


@dataclass(frozen=True, slots=True)
class Circle:
    """A circle through points.

    Args:
        x: its middle. [mm]
        y: its middle. [mm]
        r: its radius. [mm]
        off: distance of each point from it, outside positive. [mm]
    """

    x: float
    y: float
    r: float
    off: tuple[float, ...]

    @property
    def out_of_round(self) -> float:
        """Farthest outside and farthest inside together; 0 through three points, which always fit, [mm]."""
        return max(self.off) - min(self.off)

    @property
    def half(self) -> float | None:
        """Half width of the 80 % range of its middle, touches spread evenly; None for three, which always fit, [mm]."""
        spare = len(self.off) - 3
        if spare < 1:
            return None
        return t_80(spare) * sqrt(sum(off**2 for off in self.off) / spare * 2 / len(self.off))


def fit_circle(points: Sequence[Spot], field: str = "points") -> Circle:
    """Return the circle that has the least sum of squared distances from the points.

    Starts from the algebraic circle and improves it by Gauss-Newton until nothing moves.

    Args:
        points: three or more. [mm]
        field: named by a refusal.

    Raises:
        BadEntry: if there are fewer than three, or they lie on one line.

    Source:
        Geometric least squares; held to scipy least_squares by a test, and to the bolt circle of [circle].
    """
    if len(points) < 3:  # noqa: PLR2004 - a circle has three points
        raise BadEntry("A circle wants three touches at least.", "Touch it at a third place.", field)
    size = max(max(abs(x - points[0][0]), abs(y - points[0][1])) for x, y in points)
    if size == 0 or fit_line(points, field).off < ON_A_LINE * size:
        raise BadEntry("The touches lie on one line.", "Touch round the bore, not along it.", field)
    mx, my = fmean(x for x, _ in points), fmean(y for _, y in points)
    near = [(x - mx, y - my) for x, y in points]
    x, y, r = _algebraic(near, field)
    for _ in range(ROUNDS):
        step = _improve(near, x, y, r)
        x, y, r = x + step[0], y + step[1], r + step[2]
        if max(map(abs, step)) < 1e-13 * (1 + r):
            break
    return Circle(mx + x, my + y, r, tuple(hypot(px - x, py - y) - r for px, py in near))


def _algebraic(points: Sequence[Spot], field: str) -> tuple[float, float, float]:
    rows = [(2 * x, 2 * y, 1.0) for x, y in points]
    right = [x * x + y * y for x, y in points]
    a, b, c = _least_squares(rows, right, field)
    return a, b, sqrt(max(c + a * a + b * b, 0))


def _improve(points: Sequence[Spot], x: float, y: float, r: float) -> tuple[float, float, float]:
    rows, right = [], []
    for px, py in points:
        far = hypot(px - x, py - y) or 1e-12
        rows.append(((px - x) / far, (py - y) / far, 1.0))
        right.append(far - r)
    return _least_squares(rows, right, "points")


def _least_squares(
    rows: Sequence[tuple[float, float, float]], right: Sequence[float], field: str
) -> tuple[float, float, float]:
    """Solve three unknowns by their normal equations, pivoting."""
    m = [
        [sum(row[i] * row[j] for row in rows) for j in range(3)]
        + [sum(row[i] * v for row, v in zip(rows, right, strict=True))]
        for i in range(3)
    ]
    for i in range(3):
        pivot = max(range(i, 3), key=lambda k: abs(m[k][i]))
        m[i], m[pivot] = m[pivot], m[i]
        if abs(m[i][i]) < 1e-18:  # noqa: PLR2004 - no digit is left
            raise BadEntry("The touches are too close together.", "Touch further round.", field)
        for k in range(i + 1, 3):
            part = m[k][i] / m[i][i]
            m[k] = [a - part * b for a, b in zip(m[k], m[i], strict=True)]
    z = m[2][3] / m[2][2]
    y = (m[1][3] - m[1][2] * z) / m[1][1]
    return (m[0][3] - m[0][1] * y - m[0][2] * z) / m[0][0], y, z


@dataclass(frozen=True, slots=True)
class Rigid:
    """How a set of places was shifted and turned.

    Args:
        x: shift of the origin. [mm]
        y: shift of the origin. [mm]
        angle: turned to the left. [°]
        off: what is left at each place: X, Y. [mm]
    """

    x: float
    y: float
    angle: float
    off: tuple[Spot, ...]

    @property
    def worst(self) -> float:
        """Largest distance that is left at a place, [mm]."""
        return max(hypot(dx, dy) for dx, dy in self.off)

    def moved(self, spot: Spot) -> Spot:
        """Return where a nominal place is found."""
        a = radians(self.angle)
        return self.x + spot[0] * cos(a) - spot[1] * sin(a), self.y + spot[0] * sin(a) + spot[1] * cos(a)


def fit_rigid(nominal: Sequence[Spot], measured: Sequence[Spot], field: str = "features") -> Rigid:
    """Return the shift and turn that bring nominal places onto measured ones with the least squares left.

    tan θ = Σ(n × m) / Σ(n · m), both from their middles; shift = middle of m − turned middle of n

    Args:
        nominal: places as drawn, two or more, not all the same. [mm]
        measured: the same as found. [mm]
        field: named by a refusal.

    Raises:
        BadEntry: if there are fewer than two, or the nominal places coincide.

    Source:
        Rigid alignment in the plane, closed form; held to numpy's SVD and to a case worked by hand; [rigid].
    """
    if len(nominal) < 2 or len(nominal) != len(measured):  # noqa: PLR2004 - a turn wants two places
        raise BadEntry(
            "A turn wants two features at least.", "Measure a second one, far from the first.", field
        )
    nx, ny = fmean(x for x, _ in nominal), fmean(y for _, y in nominal)
    mx, my = fmean(x for x, _ in measured), fmean(y for _, y in measured)
    pairs = [((x - nx, y - ny), (u - mx, v - my)) for (x, y), (u, v) in zip(nominal, measured, strict=True)]
    dot = sum(a * c + b * d for (a, b), (c, d) in pairs)
    cross = sum(a * d - b * c for (a, b), (c, d) in pairs)
    if hypot(dot, cross) < 1e-12:  # noqa: PLR2004 - all in one place
        raise BadEntry("The features lie in one place.", "Take features far from each other.", field)
    turn = atan2(cross, dot)
    c, s = cos(turn), sin(turn)
    x, y = mx - c * nx + s * ny, my - s * nx - c * ny
    off = tuple(
        (u - (x + c * a - s * b), v - (y + s * a + c * b))
        for (a, b), (u, v) in zip(nominal, measured, strict=True)
    )
    return Rigid(x, y, degrees(turn), off)


def about(centre: Spot, spot: Spot, angle: float) -> Spot:
    """Return a place turned about a centre by an angle to the left, [mm].

    Args:
        centre: of rotation. [mm]
        spot: at 0°. [mm]
        angle: [°]
    """
    a = radians(angle)
    dx, dy = spot[0] - centre[0], spot[1] - centre[1]
    return centre[0] + dx * cos(a) - dy * sin(a), centre[1] + dx * sin(a) + dy * cos(a)
