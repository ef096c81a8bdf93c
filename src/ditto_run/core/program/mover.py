"""The tool's tip as it is moved by a program: where it is, what each move takes, what it meets."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from itertools import pairwise
from math import sqrt
from typing import Literal

from ditto_run.core.program.clock import Clock
from ditto_run.core.program.given import BoxBlank, Given, RoundBlank, Three, ToolFigures
from ditto_run.core.program.hits import WORTH_MM, Blocks, Fed, goes_back, legs, moved
from ditto_run.core.program.modes import Modes
from ditto_run.core.program.outline import BarOutline
from ditto_run.core.program.paths import ALIKE, ON_MM, Arc, Line, Path, inside_box, parts_of
from ditto_run.core.program.tally import Tally
from ditto_run.core.program.trace import Trace, TracedMove, points_of

Place = list[float | None]
FAR_MM = 25.0  # outside a blank, from which an end of a move is a slip; own judgement
BELOW_MM = 5.0  # under its bottom
MOST_SECTIONS = 100_000  # that are looked at for repeats
NAMES = "XYZ"
NO_FIGURES = ToolFigures()
NOTHING = Blocks({})


@dataclass(slots=True)
class _Air:
    """Feed moves in a row without a cut: line of the first, how long so far. [s]."""

    line: int = 0
    seconds: float = 0.0


@dataclass(slots=True)
class _Section:
    """The feed moves since the last word for an offset or a tool."""

    line: int
    count: int = 0
    mark: int = 0


@dataclass
class Mover:
    """Where the tip is, in the coordinates of the work offset; X of a lathe as radius.

    Args:
        given: what was told.
        modes: what holds.
        tally: what is taken.
        clock: times.
        written: offsets as the program leaves them, where it writes some: the blanks stand there.
    """

    given: Given
    modes: Modes
    tally: Tally
    clock: Clock
    written: Mapping[str, Three] = field(default_factory=dict)
    at: Place = field(default_factory=lambda: [None, None, None])
    machine: Place = field(default_factory=lambda: [None, None, None])  # while the offset is not known
    shift: list[float] = field(default_factory=lambda: [0.0, 0.0, 0.0])
    offsets: dict[str, Three] = field(default_factory=dict)
    line: int = 0
    turns: bool = False  # of a lathe
    trace: Trace = field(default_factory=Trace)
    figures: ToolFigures = NO_FIGURES  # of the tool that is in
    grown: float = 0.0  # of a block's sides, for it
    fed: Fed = field(default_factory=Fed)
    last_feed: Path | None = None
    feed_line: int = 0  # of the last feed block
    feed_use: int = 0  # tool changes before it
    feed_tool: int = 0  # tool that was in
    stopped: bool = False  # since then
    settings: int = 0  # how often the offset, where offsets stand, or the tool was changed
    _air: _Air = field(default_factory=_Air)
    _section: _Section = field(default_factory=lambda: _Section(0))
    _seen: set[tuple[int, str, int]] = field(default_factory=set)
    _blocks: Blocks | None = None
    _jaws: Blocks | None = None
    _outlines: dict[str, BarOutline] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.turns = self.given.dialect.turns
        self.offsets = dict(self.given.offsets)
        self.machine = list(self.given.start)
        self.at = self._from_machine(self.base)

    def _from_machine(self, base: Three | None) -> Place:
        if base is None:
            return [None, 0.0 if self.turns else None, None]  # a lathe's tip stays in the plane of X and Z
        return [None if v is None else v - b for v, b in zip(self.machine, base, strict=True)]

    @property
    def base(self) -> Three | None:
        """Where the work offset stands, machine coordinates; None while not known. [mm]."""
        return self.offsets.get(self.modes.offset)

    def tool_in(self) -> None:
        """Look up what is known of the tool that is in, and how much the sides of a block grow for it."""
        self.figures = self.given.plan.figures.get(self.tally.tool) or NO_FIGURES
        self.grown = (self.figures.across_mm or 0.0) / 2
        self.last_feed = None
        self.settings += 1

    # offsets

    def to_offset(self, code: str) -> None:
        """Go over to another work offset: the tip stays where it is; where one of both is not known, it has no place."""
        self.clock.stop()
        self.settings += 1
        self.end_section(self.line)
        if code != self.modes.offset:
            old, new = self.base, self.offsets.get(code)
            if old is not None:
                self.machine = [None if v is None else v + a for v, a in zip(self.at, old, strict=True)]
            else:  # what was moved under an offset that is not known has no place
                self.machine = [m if v is None else None for m, v in zip(self.machine, self.at, strict=True)]
            self.at = self._from_machine(new)
            self.modes.offset = code
        if not self.tally.offsets or self.tally.offsets[-1] != code:
            self.tally.keep(self.tally.offsets, "offsets", code)
        if self.given.offsets and code not in self.offsets:
            self.tally.fault(self.line, "offset_not_set", code)
        if self.given.plan.offsets and code not in self.given.plan.offsets:
            self.tally.fault(self.line, "offset_not_planned", code)

    def write_offset(self, code: str, axes: dict[int, float]) -> None:
        """Write an offset: boxes and the tip stay where they stand."""
        self.clock.stop()
        old = self.offsets.get(code)
        new = list(old or (0.0, 0.0, 0.0))
        for axis, value in axes.items():
            if old is not None:
                self.tally.moved_offset(code, axis, value - old[axis])
                if code == self.modes.offset and self.at[axis] is not None:
                    self.at[axis] = self.at[axis] + old[axis] - value  # type: ignore[operator] # just asked
            new[axis] = value
        self.offsets[code] = (new[0], new[1], new[2])
        self._blocks = self._jaws = None
        self.settings += 1

    def use_offset(self) -> None:
        """Note that a move is made under the offset, also where no word said it."""
        if not self.tally.offsets:
            self.tally.offsets.append(self.modes.offset)

    # rapids

    def rapid(self, to: Place, *, boxed: bool = True, checked: bool = True) -> None:
        """Move at rapid; an axis that is not known at both ends counts nothing."""
        (a, b, c), (x, y, z) = self.at, to
        by = (
            0.0 if a is None or x is None else x - a,
            0.0 if b is None or y is None else y - b,
            0.0 if c is None or z is None else z - c,
        )
        if a is None or b is None or c is None:
            self.tally.unknown_starts += self._appearing(to)
        long = sqrt(by[0] ** 2 + by[1] ** 2 + by[2] ** 2)
        self.end_air()
        self.clock.rapid(by)
        if long > 0 and checked:
            self._check_rapid(to)
        self.tally.rapid_mm += long
        if long > 0 and None not in self.at and None not in to:
            self.traced("rapid", (_three(self.at), _three(to)))
        self.at = list(to)
        self.last_feed = None
        if boxed:
            self.use_offset()
            self.tally.box(self.modes.offset, "rapid", to)
            self.check_end(by, fed=False)

    def _check_rapid(self, to: Place) -> None:
        if None in self.at or None in to:
            return
        start, end = _three(self.at), _three(to)
        if self.turns:
            self._check_turned(start, end)
            return
        straight = Line(start, end)
        flat = abs(end[0] - start[0]) + abs(end[1] - start[1]) < ON_MM
        if (flat and end[2] > start[2]) or goes_back(straight, self.last_feed):
            return
        x, y, z = self.world(end)
        if flat and z >= self.fed.lowest(x, y) - ON_MM:
            return
        rates = self.given.slides.rapid_mm_min if self.given.dialect.rapid_path == "dogleg" else None
        way = legs(self.world(start), self.world(end), rates)
        if self.blocks.meets(way, self.grown) > WORTH_MM:
            self.tally.fault(self.line, "rapid_in_blank")
        if self.jaws.there and self.jaws.meets(way, self.grown) > WORTH_MM:
            self.tally.fault(self.line, "rapid_in_jaw")

    def world(self, at: Three) -> Three:
        """Return a point in machine coordinates where the offset is known, else in its own. [mm]."""
        base = self.base
        return at if base is None else (at[0] + base[0], at[1] + base[1], at[2] + base[2])

    @property
    def blocks(self) -> Blocks:
        """The blocks a rapid may meet: all whose place is known, else that of the offset."""
        if self._blocks is None or self.base is None:
            boxes = {code: one for code, one in self.given.blanks.items() if isinstance(one, BoxBlank)}
            if self.base is None:
                return Blocks({code: one for code, one in boxes.items() if code == self.modes.offset})
            there = {**self.offsets, **self.written}
            self._blocks = Blocks(
                {code: moved(one, there[code]) for code, one in boxes.items() if code in there}
            )
        return self._blocks

    @property
    def jaws(self) -> Blocks:
        """What no tool may touch: at every station whose place is known, else at that of the offset."""
        if not self.given.guards:
            return NOTHING
        if self._jaws is None or self.base is None:
            every = {(code, n): one for code, some in self.given.guards.items() for n, one in enumerate(some)}
            if self.base is None:
                return Blocks({key: one for key, one in every.items() if key[0] == self.modes.offset})
            there = {**self.offsets, **self.written}
            self._jaws = Blocks(
                {key: moved(one, there[key[0]]) for key, one in every.items() if key[0] in there}
            )
        return self._jaws

    def _check_turned(self, start: Three, end: Three) -> None:
        outline = self.outline
        bores = self.figures.kind in {"bore", "drill", "tap"}
        away = abs(end[2] - start[2]) < ON_MM and abs(end[0]) > abs(start[0]) and self.figures.kind != "bore"
        out = bores and abs(end[0] - start[0]) < ON_MM and end[2] > start[2]
        if outline is None or away or out or goes_back(Line(start, end), self.last_feed):
            return
        rates = self.given.slides.rapid_mm_min if self.given.dialect.rapid_path == "dogleg" else None
        if outline.meets(legs(start, end, rates)) > WORTH_MM:
            self.tally.fault(self.line, "rapid_in_blank")

    @property
    def blank(self) -> BoxBlank | RoundBlank | None:
        """The blank under the offset, in its coordinates as they are now; None where none is told."""
        code = self.modes.offset
        blank, final, now = self.given.blanks.get(code), self.written.get(code), self.offsets.get(code)
        if final is None or now is None or final == now or not isinstance(blank, BoxBlank):
            return blank
        return moved(blank, (final[0] - now[0], final[1] - now[1], final[2] - now[2]))

    @property
    def outline(self) -> BarOutline | None:
        """The outline of the bar under the offset; None where none is told."""
        code = self.modes.offset
        blank = self.given.blanks.get(code)
        if code not in self._outlines and isinstance(blank, RoundBlank):
            self._outlines[code] = BarOutline(blank)
        return self._outlines.get(code)

    def _appearing(self, to: Place) -> int:
        """How many axes are known from here on and were not."""
        (a, b, c), (x, y, z) = self.at, to
        return (a is None and x is not None) + (b is None and y is not None) + (c is None and z is not None)

    # feed

    def known_line(self, to: Place) -> Line:
        """Return the straight way to a place; an axis that is not known at both ends stays where the other end is."""
        at = self.at
        if None not in at and None not in to:
            return Line((at[0], at[1], at[2]), (to[0], to[1], to[2]))  # type: ignore[arg-type] # just asked
        (a, b, c), (x, y, z) = at, to
        a, b, c = x if a is None else a, y if b is None else b, z if c is None else c
        x, y, z = a if x is None else x, b if y is None else y, c if z is None else z
        return Line((a or 0.0, b or 0.0, c or 0.0), (x or 0.0, y or 0.0, z or 0.0))

    def feed(self, path: Path, to: Place, seconds: float | None = None, *, stroke: bool = False) -> None:
        """Move at feed.

        Args:
            path: the way, of what is known of it.
            to: where it ends.
            seconds: that the block says it takes; else it goes by its feed. [s]
            stroke: of a cycle, from rest to rest.
        """
        if None in self.at:
            self.tally.unknown_starts += self._appearing(to)
        self._feed_box(path, to)
        long, rate = path.length, self.modes.rate()
        whole = seconds if seconds is not None else rate.seconds(path) if long > 0 else 0.0
        if long > 0:
            if self._is_within(path):
                self._cut(long)
            else:
                cut = self._split(
                    path,
                    lambda low, high: (
                        rate.seconds(path, low, high) if seconds is None else seconds * (high - low)
                    ),
                )
                self._check_feed(cut)
            self._section_move(path)
            if whole is not None and stroke:
                self.clock.stroke(long, whole)
            elif whole is not None:
                self.clock.feed(path, long, whole)
        if whole is None:
            self.clock.stop()
            self.tally.not_timed += 1
            if seconds is None and not self._has_feed():
                self.tally.fault(self.line, "no_feed")
        self._ended_feed(path, to)

    def in_step(self, path: Path, to: Place, seconds: float | None) -> None:
        """Move in step with the spindle: a thread, a tap.

        Args:
            path: the way.
            to: where it ends.
            seconds: it takes; None where nothing says how fast. [s]
        """
        self._feed_box(path, to)
        if path.length > 0:
            if self._is_within(path):
                self._cut(path.length)
            else:
                self._check_feed(self._split(path, lambda low, high: (seconds or 0.0) * (high - low)))
            self._section_move(path)
        if seconds is None:
            self.clock.stop()
            self.tally.not_timed += 1
        else:
            self.clock.even(seconds)
        self._ended_feed(path, to)

    def _has_feed(self) -> bool:
        return self.modes.feed is not None and self.modes.feed > 0 and self.modes.feed_mode != "93"

    def _ended_feed(self, path: Path, to: Place) -> None:
        (a, b, c), (x, y, z) = path.start, path.end
        by = (x - a, y - b, z - c)
        if any(by) or isinstance(path, Arc):
            if self.given.guards and self.jaws.meets(self._legs_of(path), self.grown) > WORTH_MM:
                self.tally.fault(self.line, "feed_in_jaw")
            self.last_feed = path
            if self.trace.is_full:
                self.trace.more += 1
            else:
                self.traced("feed", points_of(path))
            outline = self.outline if self.turns else None
            if outline is not None:
                outline.cut(path, self.figures)
            elif not self.turns:
                self.fed.to(self.world(path.end))
        self.at = list(to)
        self.note_feed()
        self.check_end(by, fed=True)

    def _legs_of(self, path: Path) -> list[Line]:
        """A path as straight legs, where the blanks are."""
        points = [self.world(point) for point in points_of(path)]
        return [Line(a, b) for a, b in pairwise(points)]

    def traced(self, kind: Literal["rapid", "feed"], points: tuple[Three, ...]) -> None:
        """Keep a move for the picture."""
        move = TracedMove(self.line, kind, self.tally.tool, self.modes.offset, points, self.clock.simple_s)
        self.trace.add(move)

    def note_feed(self) -> None:
        """Note a feed block: whether a stop was missing before it."""
        self.check_stop()
        self.feed_line, self.feed_use, self.stopped = self.line, self.tally.changes, False
        self.feed_tool = self.tally.tool

    def check_stop(self, *, ended: bool = False) -> None:
        """Say that a piece was to be gauged after a tool and nothing stops there."""
        if not self.feed_line or self.stopped or (not ended and self.feed_use == self.tally.changes):
            return
        tool = self.feed_tool
        if tool in self.given.plan.stops_after:
            self.tally.fault(self.feed_line, "no_stop", f"T{tool}")

    def _feed_box(self, path: Path, to: Place) -> None:
        self.use_offset()
        code = self.modes.offset
        if self.last_feed is None and self.at != to:
            self.tally.box(code, "feed", self.at)
        self.tally.box(code, "feed", to)
        if isinstance(path, Arc):
            known = [b if a is None else a for a, b in zip(self.at, to, strict=True)]
            for point in path.turns():
                self.tally.box(
                    code, "feed", [None if k is None else v for k, v in zip(known, point, strict=True)]
                )

    def _is_within(self, path: Path) -> bool:
        """True if all of a path lies inside the blank, or no blank is told."""
        blank = self.blank
        return blank is None or (
            isinstance(blank, BoxBlank)
            and isinstance(path, Line)
            and inside_box(blank, path.start, self.grown)
            and inside_box(blank, path.end, self.grown)
        )

    def _cut(self, long: float) -> None:
        """Add a move that cuts all along, [mm]."""
        if self._air.line:
            self.end_air()
        self.tally.cut_mm += long
        self._check_feed(long)

    def _split(self, path: Path, seconds: Callable[[float, float], float | None]) -> float:
        """Add what lies inside the blank and what does not; return how much does, [mm]."""
        blank, cut = self.blank, 0.0
        for low, high, within in parts_of(path, blank, self.grown) if blank is not None else ():
            long = path.length * (high - low)
            if within:
                cut += long
                self.end_air()
            else:
                self.tally.air_mm += long
                self._air.line = self._air.line or self.line
                self._air.seconds += seconds(low, high) or 0.0
        self.tally.cut_mm += cut
        return cut

    def end_air(self) -> None:
        """End a row of feed moves in the air, and say it where it took long."""
        if self._air.seconds > self.given.air_s:
            self.tally.fault(self._air.line, "slow_air", seconds=round(self._air.seconds, 2))
        self._air.line, self._air.seconds = 0, 0.0

    def _check_feed(self, cut: float) -> None:
        if cut <= ON_MM:
            return
        if not self.modes.turns:
            self.tally.fault(self.line, "spindle_off")
        elif not self.modes.speed or self.modes.speed <= 0:
            self.tally.fault(self.line, "no_speed")
        if self.tally.use is None:
            self.tally.fault(self.line, "no_tool")

    # ends of moves

    def check_end(self, by: Sequence[float], *, fed: bool) -> None:
        """Look at where a move ended, of the axes it moved: beyond the travel, or far from the blank.

        Args:
            by: how far each axis moved. [mm]
            fed: True at feed.
        """
        base, travel = self.base, self.given.slides.travel_mm
        if base is not None and travel is not None:
            for n, (value, (low, high)) in enumerate(zip(self.at, travel, strict=False)):
                if by[n] and value is not None and not low - ON_MM <= value + base[n] <= high + ON_MM:
                    self.tally.fault(self.line, "beyond_travel", NAMES[n])
        blank = self.given.blanks.get(self.modes.offset)
        if isinstance(blank, BoxBlank):
            self._check_box_slip(blank, by)
        elif isinstance(blank, RoundBlank):
            self._check_round_slip(blank, by, fed=fed)

    def _check_box_slip(self, blank: BoxBlank, by: Sequence[float]) -> None:
        far, bottom = self.far_of(blank)
        for n in (0, 1):
            value, room = self.at[n], far[n]
            if by[n] and value is not None and not blank.low[n] - room <= value <= blank.high[n] + room:
                self.tally.fault(self.line, "slip", NAMES[n])
        z = self.at[2]
        if by[2] and z is not None and z < bottom:
            self.tally.fault(self.line, "slip", "Z")

    def _check_round_slip(self, blank: RoundBlank, by: Sequence[float], *, fed: bool) -> None:
        radius, (low, high) = blank.across_mm / 2, sorted(blank.z_mm)
        x, z = self.at[0] if by[0] else None, self.at[2] if by[2] else None
        if x is not None and x < -max(BELOW_MM, radius / 4):
            self.tally.fault(self.line, "slip", "X")
        if x is not None and fed and x > radius + max(FAR_MM, radius):
            self.tally.fault(self.line, "slip", "X")
        if z is not None and z < low - max(BELOW_MM, (high - low) / 4):
            self.tally.fault(self.line, "slip", "Z")

    # parts that repeat

    def _section_move(self, path: Path) -> None:
        bend = (path.centre, round(path.sweep * ALIKE)) if isinstance(path, Arc) else ()
        if not self._section.count:
            x, y, z = path.start
            bend = (*bend, round(x * ALIKE), round(y * ALIKE), round(z * ALIKE))
        self.mark(path.end, self.modes.feed, bend)

    def mark(self, end: Three, feed: float | None, bend: tuple[object, ...]) -> None:
        """Note a feed move of the part between two words for an offset or a tool.

        Args:
            end: of it. [mm]
            feed: that is on.
            bend: what tells an arc from others.
        """
        section = self._section
        section.count += 1
        x, y, z = end
        section.mark = hash((section.mark, round(x * ALIKE), round(y * ALIKE), round(z * ALIKE), feed, bend))

    @property
    def cuts_on(self) -> bool:
        """True in the middle of a cut: the last move fed inside the blank, with the tool that is in, and nothing stopped since."""
        goes_on = bool(self.feed_line) and not self.stopped and self.feed_use == self.tally.changes
        return goes_on and bool(self._section.count)

    @property
    def in_air(self) -> bool:
        """True while feed moves go through the air."""
        return bool(self._air.line)

    def far_of(self, blank: BoxBlank) -> tuple[tuple[float, float], float]:
        """Return how far outside a block an end of a move along X and Y is a slip, and under which Z, [mm]."""
        sides = [(high - low) / 2 for low, high in zip(blank.low, blank.high, strict=True)]
        room = FAR_MM + self.grown
        return (max(room, sides[0]), max(room, sides[1])), blank.low[2] - max(BELOW_MM, sides[2] / 2)

    def end_section(self, line: int) -> None:
        """End the part between two words for an offset or a tool; say it where it was there already, under the same of both."""
        section = self._section
        if section.count >= 3:  # noqa: PLR2004 - fewer repeat by chance
            key = (self.tally.tool, self.modes.offset, section.mark)
            if key in self._seen:
                self.tally.fault(section.line, "same_offset_twice", self.modes.offset)
            if len(self._seen) < MOST_SECTIONS:
                self._seen.add(key)
        section.line, section.count, section.mark = line, 0, 0


def _three(values: list[float | None]) -> Three:
    x, y, z = (v or 0.0 for v in values)
    return x, y, z
