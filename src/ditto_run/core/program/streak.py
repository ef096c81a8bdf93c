"""Moves in a row: blocks that only feed on inside the blank, or only go at rapid over all that stands there, are run here at once.

The same as block by block, and far quicker. A block is taken only where nothing could be said of it: in place, spindle and
length on, inside the travel, a cut inside the blank and over every jaw, a rapid over both or straight up. Every other one goes
the long way.
"""

import re
from collections.abc import Sequence
from math import atan2, ceil, floor, hypot, inf, pi, sqrt
from typing import TYPE_CHECKING

from ditto_run.core.program.given import BoxBlank, Three
from ditto_run.core.program.paths import ALIKE, FULL, ON_MM, Arc, Line, Path
from ditto_run.core.program.trace import points_of

if TYPE_CHECKING:
    from ditto_run.core.program.interpret import Interpreter

NUMBER = r"([-+]?(?:\d{1,7}\.?\d{0,6}|\.\d{1,6}))"
MOVE = re.compile(
    r"(?:N\d{1,8} ?)?(?:G0?([0123]) ?)?"
    + "".join(rf"(?:{letter}{NUMBER} ?)?" for letter in "XYZIJ")
    + rf"(?:F{NUMBER})?[ \t]*"
)
FEEDS = frozenset({"1", "2", "3"})
MOST_MM, MOST_FEED = 9_000.0, 1e6  # beyond them a block goes the long way
TINY_MM = 1e-9
QUARTERS = ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))
Turned = tuple[Three, Three, tuple[float, float], float, float, float]


class Streak:
    """Runs blocks that only feed on.

    Args:
        reader: whose state it goes on from, and leaves as the long way would.
    """

    def __init__(self, reader: "Interpreter") -> None:
        self.reader = reader
        dialect = reader.dialect
        self.can = not dialect.turns and dialect.codes == "ngc" and dialect.arc_centre == "incremental"
        self.pointed = dialect.no_point == "least"  # a number has to have a point
        self.on = False  # the next block may go on from here
        self.cuts = self.dirty = False
        self.at: Three = (0.0, 0.0, 0.0)  # while it is on, and motion, feed and lines with it
        self.motion = ""
        self.feed = 0.0
        self.line_no = self.feed_line = self.untraced = 0
        self.scale = 1.0  # of its unit; a block that changes it goes the long way
        self.seen = -1  # the state of the mover for which the room was worked out
        self.fits = False
        self.low: Three = (0.0, 0.0, 0.0)  # of a cut
        self.high: Three = (0.0, 0.0, 0.0)
        self.least: Three = (0.0, 0.0, 0.0)  # of a rapid
        self.most: Three = (0.0, 0.0, 0.0)
        self.over = 0.0  # from where on a rapid meets nothing
        self.base: Three = (0.0, 0.0, 0.0)  # where the offset stands, machine coordinates
        self.box: list[list[float]] = []  # what was fed at so far under it
        self.line: tuple[Three, Three] | None = None  # the last move, where it was straight
        self.arc: Turned | None = None

    def look(self) -> None:
        """Look whether the next block may go on from here."""
        self.on = self.cuts = False
        reader = self.reader
        if not self.can or reader.ended:
            return
        modes, mover, tally = reader.modes, reader.mover, reader.tally
        if not (modes.absolute and modes.length_said and tally.offsets and reader.skip is None):
            return
        if None in mover.at or mover.in_air or not self._room():
            return
        x, y, z = mover.at
        self.at = (x, y, z)  # type: ignore[assignment] # just asked
        self.on, self.scale, self.motion, self.feed = True, modes.scale, modes.motion, modes.feed or 0.0
        self.line_no, self.feed_line = mover.line, mover.feed_line
        self.cuts = mover.last_feed is not None and self._cutting()
        if self.cuts:
            self.box = tally.boxes[modes.offset]["feed"]

    def leave(self) -> None:
        """Leave the last move as the long way would, before it takes over."""
        if not self.dirty:
            return
        mover, modes = self.reader.mover, self.reader.modes
        mover.last_feed = self._last()
        mover.at, mover.line, mover.feed_line = [*self.at], self.line_no, self.feed_line
        mover.trace.more += self.untraced
        modes.motion, modes.feed = self.motion, self.feed or modes.feed
        self.line = self.arc = None
        self.dirty, self.untraced = False, 0

    def _last(self) -> Path | None:
        """The last move, where it was fed."""
        if self.line is not None:
            return Line(*self.line)
        if self.arc is not None:
            start, end, centre, radius, begin, sweep = self.arc
            return Arc(start, end, "17", centre, radius, begin, sweep)
        return None

    def _cutting(self) -> bool:
        """True in the middle of a cut that may go on."""
        modes, mover = self.reader.modes, self.reader.mover
        steady = (
            modes.motion in FEEDS
            and not modes.absolute_arcs
            and modes.feed_mode == "94"
            and modes.plane == "17"
            and (modes.feed or 0.0) > 0
            and bool(modes.turns)
            and (modes.speed or 0.0) > 0
            and self.reader.tally.use is not None
            and mover.cuts_on
        )
        return steady and self._within(self.at)

    def _room(self) -> bool:
        """Work out within what a move may go, once for each offset and tool."""
        mover = self.reader.mover
        if self.seen == mover.settings:
            return self.fits
        self.seen, self.fits = mover.settings, False
        base, blank = mover.base, mover.blank
        if not (blank is None or isinstance(blank, BoxBlank)):
            return False
        low, high = [-MOST_MM] * 3, [MOST_MM] * 3
        travel = mover.given.slides.travel_mm
        if travel is not None and base is not None:
            for n, (begin, end) in enumerate(travel):
                low[n], high[n] = max(low[n], begin - base[n]), min(high[n], end - base[n])
        least, most = [*low], [*high]
        if blank is not None:
            far, bottom = mover.far_of(blank)
            for n, grown in enumerate((mover.grown, mover.grown, 0.0)):
                low[n] = max(low[n], blank.low[n] - grown + ON_MM)
                high[n] = min(high[n], blank.high[n] + grown - ON_MM)
                least[n] = max(least[n], blank.low[n] - far[n] if n < 2 else bottom)  # noqa: PLR2004 - X and Y
                most[n] = min(most[n], blank.high[n] + far[n]) if n < 2 else most[n]  # noqa: PLR2004 - X and Y
        self.base = base or (0.0, 0.0, 0.0)
        up = self.base[2]
        if mover.jaws.there:
            low[2] = max(low[2], mover.jaws.top - up)
        self.over = max(mover.blocks.top, mover.jaws.top) - up - ON_MM
        self.low, self.high = (low[0], low[1], low[2]), (high[0], high[1], high[2])
        self.least, self.most = (least[0], least[1], least[2]), (most[0], most[1], most[2])
        self.fits = True
        return True

    def take(self, line: int, text: str) -> bool:
        """Run a block, if it only goes on; False, and nothing is done, where it does not.

        Args:
            line: its number.
            text: as it stands.
        """
        found = MOVE.fullmatch(text)
        if found is None:
            return False
        code, x, y, z, i, j, f = found.groups()
        if self.pointed and not all(one is None or "." in one for one in (x, y, z, i, j)):
            return False
        start, scale, shift = self.at, self.scale, self.reader.mover.shift
        end = (
            start[0] if x is None else float(x) * scale + shift[0],
            start[1] if y is None else float(y) * scale + shift[1],
            start[2] if z is None else float(z) * scale + shift[2],
        )
        motion = code or self.motion
        if motion == "0":
            return i is j is f is None and self._fly(line, start, end, (x, y, z))
        feed = self.feed if f is None else float(f) * scale
        done = self.cuts and 0 < feed <= MOST_FEED
        if done and motion == "1":
            done = self._straight(start, end, feed)
        elif done:
            flat = end[2] == start[2] and (i or j) is not None and (x or y) is not None
            centre = (float(i or 0) * scale + start[0], float(j or 0) * scale + start[1])
            done = (
                flat and self._within(end) and self._round(start, end, centre, feed, clockwise=motion == "2")
            )
        if done:
            if f is not None:
                self.feed = feed
                self.reader.fed(line, "94", feed)
            if self.pointed:
                self._pointed((x, y, z, i, j))
            self._went(line, motion, end)
        return done

    def _pointed(self, texts: Sequence[str | None]) -> None:
        self.reader.points[1] += sum(float(one) != 0 for one in texts if one is not None)

    def _fly(self, line: int, start: Three, end: Three, texts: Sequence[str | None]) -> bool:
        """Go at rapid, if it is over all that stands there or straight up."""
        dx, dy, dz = end[0] - start[0], end[1] - start[1], end[2] - start[2]
        up = dz > 0 and abs(dx) + abs(dy) < ON_MM
        if not (up or (start[2] >= self.over and end[2] >= self.over)) or not (dx or dy or dz):
            return False
        least, most = self.least, self.most
        if not (least[0] < end[0] < most[0] and least[1] < end[1] < most[1] and least[2] < end[2] < most[2]):
            return False
        if self.pointed:
            self._pointed(texts)
        reader, self.cuts = self.reader, False
        mover, tally = reader.mover, reader.tally
        reader.clock.rapid((dx, dy, dz))
        tally.rapid_mm += sqrt(dx * dx + dy * dy + dz * dz)
        if not mover.trace.is_full:
            mover.line = line
            mover.traced("rapid", (start, end))
        else:
            self.untraced += 1
        self.motion, self.at, self.line_no, self.dirty = "0", end, line, True
        self.line = self.arc = None
        tally.box(reader.modes.offset, "rapid", end)
        return True

    def _within(self, at: Three) -> bool:
        low, high = self.low, self.high
        return low[0] < at[0] < high[0] and low[1] < at[1] < high[1] and low[2] < at[2] < high[2]

    def _went(self, line: int, motion: str, end: Three) -> None:
        """Leave what holds from block to block."""
        self.motion, self.at, self.line_no, self.feed_line, self.dirty = motion, end, line, line, True
        mover, base = self.reader.mover, self.base
        mover.fed.to((end[0] + base[0], end[1] + base[1], end[2] + base[2]))
        if mover.trace.is_full:
            self.untraced += 1
        else:
            mover.line = line
            self._trace()

    def _widen(self, axis: int, value: float) -> None:
        side = self.box[axis]
        if value < side[0]:
            side[0] = value
        elif value > side[1]:
            side[1] = value

    def _straight(self, start: Three, end: Three, feed: float) -> bool:
        (a, b, c), (x, y, z), low, high, box = start, end, self.low, self.high, self.box
        dx, dy, dz = x - a, y - b, z - c
        # it begins inside: only an axis that moves can leave the room, or widen what was fed at
        if (
            (dx and not low[0] < x < high[0])
            or (dy and not low[1] < y < high[1])
            or (dz and not low[2] < z < high[2])
        ):
            return False
        long = sqrt(dx * dx + dy * dy + dz * dz)
        if long <= TINY_MM:
            return False
        if dx and not box[0][0] <= x <= box[0][1]:
            self._widen(0, x)
        if dy and not box[1][0] <= y <= box[1][1]:
            self._widen(1, y)
        if dz and not box[2][0] <= z <= box[2][1]:
            self._widen(2, z)
        reader = self.reader
        reader.tally.cut_mm += long
        reader.mover.mark(end, feed, ())
        way = (dx / long, dy / long, dz / long)
        reader.clock.fed(long, long / feed * 60, way, way, inf)
        self.line, self.arc = (start, end), None
        return True

    def _round(
        self, start: Three, end: Three, centre: tuple[float, float], feed: float, *, clockwise: bool
    ) -> bool:
        (u, v), reader = centre, self.reader
        a, b, c, d = start[0] - u, start[1] - v, end[0] - u, end[1] - v
        radius, other = hypot(a, b), hypot(c, d)
        if abs(radius - other) > reader.dialect.arc_tol_mm or radius < TINY_MM or other < TINY_MM:
            return False
        begin = atan2(b, a)
        sweep = (atan2(d, c) - begin) % FULL
        if sweep < TINY_MM or FULL - sweep < TINY_MM or hypot(c - a, d - b) < TINY_MM:
            return False
        if clockwise:
            sweep -= FULL
        turned = self._turns(centre, radius, begin, sweep)
        low, high = self.low, self.high
        if any(not (low[0] < x < high[0] and low[1] < y < high[1]) for x, y in turned):
            return False
        for x, y in (*turned, (end[0], end[1])):
            self._widen(0, x)
            self._widen(1, y)
        long, way = radius * abs(sweep), 1.0 if sweep > 0 else -1.0
        reader.tally.cut_mm += long
        reader.mover.mark(end, feed, (centre, round(sweep * ALIKE)))
        leads = (-b / radius * way, a / radius * way, 0.0)
        leaves = (-d / other * way, c / other * way, 0.0)
        reader.clock.fed(long, long / feed * 60, leads, leaves, radius)
        self.line, self.arc = None, (start, end, centre, radius, begin, sweep)
        return True

    @staticmethod
    def _turns(
        centre: tuple[float, float], radius: float, begin: float, sweep: float
    ) -> list[tuple[float, float]]:
        """Where an arc turns round along X or Y."""
        low, high = (begin, begin + sweep) if sweep > 0 else (begin + sweep, begin)
        first, last = ceil(low / (pi / 2) - 1e-9), floor(high / (pi / 2) + 1e-9)
        return [
            (centre[0] + radius * QUARTERS[n % 4][0], centre[1] + radius * QUARTERS[n % 4][1])
            for n in range(first, last + 1)
        ]

    def _trace(self) -> None:
        path = self._last()
        if path is not None:
            self.reader.mover.traced("feed", points_of(path))
