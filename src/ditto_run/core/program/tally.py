"""What is taken from a program, added up as it is read."""

from collections import OrderedDict
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Any, NamedTuple, TypeVar

MOST_KEPT = 5_000  # of a list; the rest is counted
MOST_WORDS = 100  # different speeds, lengths or wears of one tool change
ONCE = frozenset({"spindle_off", "no_feed", "no_speed", "no_length"})
"""Faults that are said once for each tool."""
EACH = frozenset({"planned_tool_missing", "planned_offset_missing"})
"""Faults of one line that are said for each word."""
AXES = "xyz"
T = TypeVar("T")
Box = dict[str, list[list[float]]]


@dataclass(slots=True)
class ToolUse:
    """One tool change: its number and line, lengths and wear used with it, spindle words, coolant words."""

    tool: int
    line: int
    h: list[int] = field(default_factory=list)
    d: list[int] = field(default_factory=list)
    spindle: list[str] = field(default_factory=list)
    coolant: list[str] = field(default_factory=list)


@dataclass(slots=True)
class ProgramFault:
    """Something that may hurt, or is not as planned.

    Args:
        line: where.
        kind: any of the kinds in `said`.
        word: that it is about; empty for none.
        figures: more of it: seconds, radii.
    """

    line: int
    kind: str
    word: str = ""
    figures: dict[str, Any] = field(default_factory=dict)


class HoleAt(NamedTuple):
    """Where a cycle made a hole: its line, tool, work offset, X and Y there. [mm, mm]."""

    line: int
    tool: int
    offset: str
    x: float
    y: float


@dataclass(slots=True)
class Tally:
    """All that is taken from a program; lengths in mm, times in s.

    Beside what a document of it shows: where each hole of a cycle stands, and the middle one of each tool's feed words by
    feed mode, with the line of the first.
    """

    lines: int = 0
    units: list[str] = field(default_factory=list)
    tools: list[ToolUse] = field(default_factory=list)
    offsets: list[str] = field(default_factory=list)
    stops: list[tuple[int, str, int]] = field(default_factory=list)
    end: tuple[int, str, bool, bool] | None = None
    block_delete: list[int] = field(default_factory=list)
    boxes: dict[str, Box] = field(default_factory=dict)
    holes: dict[tuple[int, str, str, float, float], int] = field(default_factory=dict)
    hole_at: list[HoleAt] = field(default_factory=list)
    fed: dict[tuple[int, str], tuple[int, float]] = field(default_factory=dict)
    taps: dict[tuple[int, float], int] = field(default_factory=dict)
    threads: list[dict[str, Any]] = field(default_factory=list)
    g10: list[tuple[int, str, dict[str, float]]] = field(default_factory=list)
    cut_mm: float = 0.0
    air_mm: float = 0.0
    rapid_mm: float = 0.0
    not_timed: int = 0
    unknown_starts: int = 0
    faults: list[ProgramFault] = field(default_factory=list)
    unknown: list[tuple[int, str]] = field(default_factory=list)
    limits: list[tuple[int, str]] = field(default_factory=list)
    not_followed: list[int] = field(default_factory=list)
    notes: list[tuple[int, str]] = field(default_factory=list)
    tool_s: dict[int, float] = field(default_factory=dict)  # that each tool is in, changes not counted
    more: dict[str, int] = field(default_factory=dict)  # of each list, beyond what is kept
    changes: int = 0  # of tools
    use: ToolUse | None = None
    tool: int = 0
    _said: OrderedDict[int, set[str]] = field(default_factory=OrderedDict)
    _once: set[str] = field(default_factory=set)

    def keep(self, there: list[T], name: str, one: T) -> None:
        """Add to a list; beyond what is kept it is counted."""
        if len(there) < MOST_KEPT:
            there.append(one)
        else:
            self.more[name] = self.more.get(name, 0) + 1

    def keep_new(self, there: list[T], name: str, one: T) -> None:
        """Add to a list of one tool change what is not in it; beyond what is kept it is counted."""
        if one in there:
            return
        if len(there) < MOST_WORDS:
            there.append(one)
        else:
            self.more[name] = self.more.get(name, 0) + 1

    def changed(self, use: ToolUse) -> None:
        """Take a tool change in."""
        self.keep(self.tools, "tools", use)
        self.use, self.tool = use, use.tool
        self.changes += 1
        self._once = set()

    def not_known(self, line: int, word: str) -> None:
        """Add a word that is not understood."""
        self.keep(self.unknown, "unknown", (line, word))

    def fault(self, line: int, kind: str, word: str = "", **figures: object) -> None:
        """Add a fault; the same of a line, and some of a tool, once."""
        if kind in ONCE and kind in self._once:
            return
        if kind in ONCE and len(self.faults) >= MOST_KEPT and line not in self._said:
            self._once.add(kind)
            self.more["faults"] = self.more.get("faults", 0) + 1
            return
        said = self._said.get(line)
        if said is None:
            if len(self._said) > MOST_KEPT:
                self._said.popitem(last=False)
            said = self._said[line] = set()
        name = f"{kind} {word}" if kind in EACH else kind
        if name in said:
            return
        said.add(name)
        self._once.add(kind)
        self.keep(self.faults, "faults", ProgramFault(line, kind, word, figures))

    def box(self, code: str, kind: str, at: Sequence[float | None]) -> None:
        """Widen the box of an offset to a point; an axis that is not known is left out."""
        kinds = self.boxes.get(code)
        if kinds is None:
            kinds = self.boxes[code] = {}
        sides = kinds.get(kind)
        if sides is None:
            sides = kinds[kind] = [[], [], []]
        (a, b, c), (x, y, z) = sides, at
        if x is not None:
            _widen(a, x)
        if y is not None:
            _widen(b, y)
        if z is not None:
            _widen(c, z)

    def moved_offset(self, code: str, axis: int, by: float) -> None:
        """Carry the boxes of an offset along where it is written anew: they stand where they stood."""
        for sides in self.boxes.get(code, {}).values():
            sides[axis][:] = [one - by for one in sides[axis]]

    def tap(self, pitch: float, line: int) -> None:
        """Keep where a tool first taps at a pitch."""
        key = (self.tool, round(pitch, 4))
        if key in self.taps or len(self.taps) < MOST_KEPT:
            self.taps.setdefault(key, line)
        else:
            self.more["taps"] = self.more.get("taps", 0) + 1

    def stands(self, line: int, offset: str, x: float | None, y: float | None) -> None:
        """Keep where a hole stands, if that is known."""
        if x is not None and y is not None:
            self.keep(self.hole_at, "hole_at", HoleAt(line, self.tool, offset, x, y))

    def hole(self, code: str, cycle: str, r: float, z: float, count: int) -> None:
        """Count holes."""
        key = (self.tool, code, cycle, round(r, 6), round(z, 6))
        if key in self.holes or len(self.holes) < MOST_KEPT:
            self.holes[key] = self.holes.get(key, 0) + count
        else:
            self.more["holes"] = self.more.get("holes", 0) + count


def _widen(side: list[float], value: float) -> None:
    if not side:
        side[:] = value, value
    elif value < side[0]:
        side[0] = value
    elif value > side[1]:
        side[1] = value


def as_document(tally: Tally, times: dict[str, float | None], *, turned: bool, by: float) -> dict[str, Any]:
    """Return what was taken in the form of an answer.

    Args:
        tally: of the program.
        times: simple, trapezoid, dwell, tool_change. [s]
        turned: True for a lathe: its boxes have no Y.
        by: X in a box over what was kept: 2 where it is a diameter. [-]
    """

    def sides(box: list[list[float]]) -> dict[str, list[float]]:
        scale: Callable[[int, float], float] = lambda n, v: round(v * by if n == 0 else v, 4) + 0.0  # noqa: E731
        return {
            AXES[n]: [scale(n, v) for v in (side or [0.0, 0.0])]
            for n, side in enumerate(box)
            if not (turned and n == 1)
        }

    end = tally.end
    return {
        "lines": tally.lines,
        "units": tally.units,
        "tools": [
            {"t": one.tool, "line": one.line, "h": one.h, "d": one.d, "spindle": one.spindle, "coolant": one.coolant}
            for one in tally.tools
        ],
        "offsets": tally.offsets,
        "stops": [{"line": line, "code": code, "tool": tool} for line, code, tool in tally.stops],
        "end": None
        if end is None
        else {"line": end[0], "code": end[1], "spindle": "on" if end[2] else "off", "coolant": "on" if end[3] else "off"},
        "block_delete": tally.block_delete,
        "boxes": {code: {kind: sides(box) for kind, box in kinds.items()} for code, kinds in tally.boxes.items()},
        "holes": [
            {"tool": tool, "offset": code, "cycle": cycle, "r": r, "z": z, "count": count}
            for (tool, code, cycle, r, z), count in tally.holes.items()
        ],
        "taps": [{"line": line, "tool": tool, "pitch": pitch} for (tool, pitch), line in tally.taps.items()],
        "threads": tally.threads,
        "g10": [{"line": line, "code": code, "axes": axes} for line, code, axes in tally.g10],
        "length_mm": {
            "cut": round(tally.cut_mm, 4),
            "air": round(tally.air_mm, 4),
            "rapid": round(tally.rapid_mm, 4),
        },
        "time_s": {name: None if value is None else round(value, 3) for name, value in times.items()},
        "not_timed": tally.not_timed,
        "unknown_starts": tally.unknown_starts,
        "faults": [
            {"line": one.line, "kind": one.kind, **({"word": one.word} if one.word else {}), **one.figures}
            for one in sorted(tally.faults, key=lambda one: (one.line, one.kind))
        ],
        "unknown": [{"line": line, "word": word} for line, word in tally.unknown],
    }  # fmt: skip
