"""How long moves take: by length and feed alone, and by a machine that gathers speed."""

import itertools
from dataclasses import dataclass, field
from math import cos, inf, pi, radians, sqrt

from ditto_run.core.program.given import Slides, Three
from ditto_run.core.program.paths import Arc, Path

MM_PER_M = 1000.0
GAUSS = (  # points and weights of ten-point Gauss-Legendre quadrature on 0 to 1
    (0.013046735741414128, 0.033335672154344),
    (0.06746831665550773, 0.0747256745752903),
    (0.16029521585048778, 0.109543181257991),
    (0.2833023029353764, 0.1346333596549985),
    (0.4255628305091844, 0.1477621123573765),
    (0.5744371694908156, 0.1477621123573765),
    (0.7166976970646236, 0.1346333596549985),
    (0.8397047841495122, 0.109543181257991),
    (0.9325316833444923, 0.0747256745752903),
    (0.9869532642585859, 0.033335672154344),
)


@dataclass(frozen=True, slots=True)
class FeedRate:
    """How fast a cut is fed.

    Args:
        mm_min: a minute; 0 where it goes by turns. [mm/min]
        mm_rev: a turn; 0 where it goes by minutes. [mm]
        rpm: of the spindle; 0 where the surface speed is held. [rev/min]
        m_min: surface speed that is held; 0 for none. [m/min]
        cap_rpm: of a held speed; 0 for none. [rev/min]
    """

    mm_min: float = 0.0
    mm_rev: float = 0.0
    rpm: float = 0.0
    m_min: float = 0.0
    cap_rpm: float = 0.0

    def seconds(self, path: Path, low: float = 0.0, high: float = 1.0) -> float | None:
        """Return how long a part of a path takes, [s]; None where nothing says how fast.

        Args:
            path: which.
            low: where the part begins, as a share.
            high: where it ends.

        Source:
            1/n = max(π D / 1000 V, 1/cap), integrated along the path; own derivation.
        """
        long = path.length * (high - low)
        if self.mm_min > 0:
            return long / self.mm_min * 60
        if self.mm_rev <= 0 or (self.rpm <= 0 and self.m_min <= 0):
            return None
        if self.m_min <= 0:
            return long / (self.mm_rev * self.rpm) * 60
        turn = self._turn_min(path, low, high)
        return None if turn is None else long / self.mm_rev * turn * 60

    def _turn_min(self, path: Path, low: float, high: float) -> float | None:
        """The mean time of a turn along a part, [min]; None where it would be none at all."""
        edge = self.cap_rpm and self.m_min * MM_PER_M / (
            2 * pi * self.cap_rpm
        )  # radius at which the cap begins
        ends = [
            0.0,
            *(path.crossings(0, edge) + path.crossings(0, -edge) if edge else []),
            *path.crossings(0, 0.0),
            1.0,
        ]
        cuts = sorted({min(max(t, low), high) for t in (*ends, low, high)})
        total = 0.0
        for a, b in itertools.pairwise(cuts):
            mean = sum(weight * abs(path.at(a + (b - a) * t)[0]) for t, weight in GAUSS)
            turn = 2 * pi * mean / (MM_PER_M * self.m_min)
            total += (b - a) * max(turn, 1 / self.cap_rpm if self.cap_rpm else 0.0)
        return total / (high - low) if total > 0 else None


_Fed = tuple[float, float, float]
"""One feed move of a run that is driven without a stop: its length [mm], speed and speed at its start. [mm/s, mm/s]."""


@dataclass(slots=True)
class Clock:
    """Adds up times.

    Args:
        slides: of the machine.
        simple_s, trapezoid_s: so far. [s]
        dwell_s, change_s, rapid_s: parts of them; rapids as by length and rate alone. [s]
    """

    slides: Slides
    simple_s: float = 0.0
    trapezoid_s: float = 0.0
    dwell_s: float = 0.0
    change_s: float = 0.0
    rapid_s: float = 0.0
    _run: list[_Fed] = field(default_factory=list)
    _leaves: Three | None = None
    _turn: float = 0.0

    def __post_init__(self) -> None:
        self._turn = cos(radians(self.slides.corner_deg)) - 1e-9

    @property
    def so_far_s(self) -> float:
        """How long it took so far, changes not counted: of a machine that gathers speed where that is known. [s]."""
        self.stop()
        known = self.slides.rapid_mm_min is not None and self.slides.accel_mm_s2 is not None
        return (self.trapezoid_s if known else self.simple_s) - self.change_s

    def wait(self, seconds: float) -> None:
        """Add a dwell."""
        self.stop()
        self.dwell_s += seconds
        self.simple_s += seconds
        self.trapezoid_s += seconds

    def change(self) -> None:
        """Add a tool change."""
        self.stop()
        self.change_s += self.slides.change_s
        self.simple_s += self.slides.change_s
        self.trapezoid_s += self.slides.change_s

    def rapid(self, by: Three) -> None:
        """Add a rapid by so much along each axis, from rest to rest."""
        self.stop()
        rates, accel = self.slides.rapid_mm_min, self.slides.accel_mm_s2
        long = sqrt(by[0] ** 2 + by[1] ** 2 + by[2] ** 2)
        if rates is None or long <= 0:
            return
        took = max(abs(d) / rate for d, rate in zip(by, rates, strict=True)) * 60
        self.simple_s += took
        self.rapid_s += took
        if accel is not None:
            self.trapezoid_s += _from_rest(long, long / took, accel * long / max(abs(d) for d in by))

    def stroke(self, long: float, seconds: float) -> None:
        """Add a stroke of a cycle at feed, from rest to rest."""
        self.stop()
        self.simple_s += seconds
        if long > 0 and self.slides.accel_mm_s2 is not None:
            self.trapezoid_s += _from_rest(long, long / seconds, self.slides.accel_mm_s2)

    def even(self, seconds: float) -> None:
        """Add what goes at one speed with the spindle: a thread, a tap."""
        self.stop()
        self.simple_s += seconds
        self.trapezoid_s += seconds

    def feed(self, path: Path, long: float, seconds: float) -> None:
        """Add a feed move to those that are driven on without a stop.

        Args:
            path: its way.
            long: of it, above 0. [mm]
            seconds: it takes at its feed. [s]
        """
        if isinstance(path, Arc):
            begins, ends = path.tangents()
            self.fed(long, seconds, begins, ends, path.radius)
            return
        (a, b, c), (u, v, w) = path.start, path.end
        way = (u - a) / long, (v - b) / long, (w - c) / long
        self.fed(long, seconds, way, way, inf)

    def fed(self, long: float, seconds: float, begins: Three, ends: Three, radius: float) -> None:
        """Add a feed move to those that are driven on without a stop.

        Args:
            long: of it. [mm]
            seconds: it takes at its feed. [s]
            begins: unit direction at its start.
            ends: at its end.
            radius: of an arc; infinite for a straight one. [mm]
        """
        self.simple_s += seconds
        accel = self.slides.accel_mm_s2
        if accel is None or seconds <= 0:
            return
        speed = long / seconds
        if speed * speed > accel * radius:
            speed = sqrt(accel * radius)
        run, leaves, enters = self._run, self._leaves, 0.0
        if run and leaves is not None:
            turn = leaves[0] * begins[0] + leaves[1] * begins[1] + leaves[2] * begins[2]
            if turn >= self._turn:
                enters = min(run[-1][1], speed)
        if not enters:
            self.stop()
            run = self._run
        run.append((long, speed, enters))
        self._leaves = ends

    def stop(self) -> None:
        """End the moves that are driven without a stop, and add how long they take."""
        run, accel = self._run, self.slides.accel_mm_s2
        if not run or accel is None:
            return
        if len(run) == 1:
            long, speed, _ = run[0]
            self.trapezoid_s += _from_rest(long, speed, accel)
            self._run, self._leaves = [], None
            return
        squares = [enters * enters for _, _, enters in run] + [0.0]  # of the speeds between the moves
        twice, most = 2 * accel, 0.0
        for n in range(len(run) - 1, -1, -1):
            most += twice * run[n][0]
            if squares[n] > most:
                squares[n] = most
            else:
                most = squares[n]
        now = squares[0]
        for n, (long, speed, _) in enumerate(run, 1):
            then = min(squares[n], now + twice * long)
            self.trapezoid_s += _between(long, speed, now, then, accel)
            now = then
        self._run, self._leaves = [], None


def _from_rest(long: float, speed: float, accel: float) -> float:
    """How long a way takes from rest to rest, [s]."""
    return long / speed + speed / accel if long >= speed * speed / accel else 2 * sqrt(long / accel)


def _between(long: float, speed: float, enters: float, leaves: float, accel: float) -> float:
    """How long a move takes between two speeds whose squares are given, [s]."""
    peak = (2 * accel * long + enters + leaves) / 2
    if peak < speed * speed:
        speed = sqrt(peak)
    else:
        peak = speed * speed
    rest = long - (2 * peak - enters - leaves) / (2 * accel)
    return (2 * speed - sqrt(enters) - sqrt(leaves)) / accel + (rest / speed if speed > 0 else 0.0)
