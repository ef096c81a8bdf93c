"""Runs a program block by block, as its dialect means it."""

import re
from array import array
from collections.abc import Callable, Mapping, Sequence
from math import atan2, hypot, sqrt
from statistics import median

from ditto_run.core.program.blocks import MOST_LINE, Block, block_of
from ditto_run.core.program.clock import Clock
from ditto_run.core.program.codes import (
    ARCS,
    FINE_OFFSETS,
    LATHE_A,
    MOST_EXTENDED,
    PLAIN_OFFSETS,
    STRAIGHT,
    CodesMean,
    meant,
)
from ditto_run.core.program.cycles import (
    HOLES,
    MOST_REPEATS,
    PECKS,
    TAPS,
    face_cycle,
    hole,
    one_block_depths,
    pecks_of,
    thread_pass,
    threaded,
    turn_cycle,
    two_block_depths,
)
from ditto_run.core.program.dialect import MILL
from ditto_run.core.program.given import Given, Three
from ditto_run.core.program.modes import M_PER_FT, CycleWords, modes_of
from ditto_run.core.program.mover import Mover, Place
from ditto_run.core.program.paths import FULL, PLANES, Arc, Line, Path
from ditto_run.core.program.streak import Streak
from ditto_run.core.program.tally import Tally, ToolUse

MOST_MM = 10_000.0
MOST_FEED, MOST_SPEED, MOST_NUMBER = 1e6, 1e6, 99_999
AXES = {"X": 0, "Y": 1, "Z": 2}
ALONG = {"U": 0, "V": 1, "W": 2}
CENTRES = ("I", "J", "K")
LEAST_MM, LEAST_IN = 0.001, 0.0001
TINY_MM = 1e-9
SLIP_TIMES = 8  # over or under the median, from which a feed word is asked about
FEW = 3
MOST_TIMED = 1_000  # tools
MICRON = 0.001
TOOL_ALONE = re.compile(r"T(\d{1,5}) ?M0?6[ \t]*")
LATHE_FEEDS = {"98": "94", "99": "95"}
NOTHING = meant((), (), MILL)


class Interpreter:
    """Somebody at the control, reading.

    Args:
        given: what is told beside the text.
        written: offsets as the program leaves them, where it writes some.
    """

    def __init__(self, given: Given, written: Mapping[str, Three] | None = None) -> None:
        self.given, self.dialect = given, given.dialect
        self.tally = Tally()
        self.clock = Clock(given.slides)
        self.modes = modes_of(given.dialect)
        self.mover = Mover(given, self.modes, self.tally, self.clock, written or {})
        self.says: dict[tuple[str, ...], CodesMean] = {}
        self.simple = given.dialect.no_point == "as is" and given.dialect.codes == "ngc"
        self.prepares = given.dialect.t_word == "prepare"
        self.streak = Streak(self)
        self.ended = False
        self.timed_s = 0.0  # up to the last tool change
        self.words_seen = 0
        self.blocks_seen = False
        self.feeds: dict[tuple[int, str], tuple[array[int], array[float]]] = {}
        self.no_points: array[int] = array("q")
        self.points = [0, 0]  # axis words without and with a point
        self.skip: tuple[str, str] | None = None
        self.skipping = False
        self.spring = self.least = self.finish = 0.0  # of a thread in two blocks

    def read(self, line: int, text: str) -> None:
        """Read one line that is not taken in a streak."""
        self.streak.leave()
        if not self._tool_alone(line, text):
            self._read(line, text)
        self.streak.look()

    def _tool_alone(self, line: int, text: str) -> bool:
        """Run a line on which nothing but a tool is put in; False for any other."""
        alone = self.prepares and text[0] == "T" and self.skip is None
        found = TOOL_ALONE.fullmatch(text) if alone else None
        if found is None:
            return False
        self.words_seen += 2
        self.mover.line = line
        self.modes.next_tool = int(found[1])
        self._change(line, self.modes.next_tool)
        self.clock.stop()
        return True

    def _read(self, line: int, text: str) -> None:
        """Read one line the long way."""
        if len(text) > MOST_LINE:
            self.words_seen += 1
            self.tally.keep(self.tally.limits, "limits", (line, "longer than any control takes"))
            self.mover.at = [None, None, None]
            return
        block = block_of(line, text)
        self.words_seen += len(block.g) + len(block.m) + len(block.words)
        self.mover.line = line
        for word in block.unknown:
            self.tally.not_known(line, word)
        for kind, word in block.faults:
            self.tally.fault(line, kind, word)
        if block.deleted:
            self.tally.keep(self.tally.block_delete, "block_delete", line)
        if not block.is_empty and not self._skipped(block):
            self._run(block)

    def _skipped(self, block: Block) -> bool:
        """True inside the contour of a cycle that is not followed."""
        if self.skip is None:
            return False
        number = block.texts.get("N", "").lstrip("0")
        self.skipping = self.skipping or number == self.skip[0]
        if self.skipping and number == self.skip[1]:
            self.skipping, self.skip = False, None
            return True
        return self.skipping

    def _run(self, block: Block) -> None:
        if block.twice:
            self.tally.fault(block.line, "doubled_word", min(block.twice))
        if self.dialect.no_point == "least":
            self._points(block)
        if block.g or block.m or "S" in block.words or "T" in block.words:
            self._coded(block)
            return
        if "F" in block.words:
            self._feed_mode(block)
        self._motion(block)

    def _coded(self, block: Block) -> None:
        """Run a block with codes, in the order of the standard."""
        key = (*block.g, "", *block.m)
        says = self.says.get(key)
        if says is None:
            says = self.says[key] = meant(tuple(block.g), tuple(block.m), self.dialect)
        words = block.words
        if says.plain and "S" not in words and "T" not in words:
            if "F" in words:
                self._feed_mode(block, says)
            self._motion(block, says)
            return
        if says.clash:
            self.tally.fault(block.line, "two_of_one_group")
        if says.unknown:
            self._unknown_codes(block, says)
        self._units(says)
        self._words(block, says)
        if block.g:
            self._set_up(block, says)
        if says.two_motions:
            self._lose(block)
        elif not says.own or not self._own_axes(block, says):
            self._motion(block, says)
        if says.stops or says.end:
            self._ends(block, says)

    def _words(self, block: Block, says: CodesMean) -> None:
        """Feed, speed, tool, switches and dwell, in this order."""
        if says.feed_mode or "F" in block.words:
            self._feed_mode(block, says)
        if says.held or "S" in block.words:
            self._spindle(block, says)
        if "T" in block.words or "6" in block.m:
            self._tool(block)
        if says.switches or "S" in block.words:
            self._switches(block, says)
        if says.dwells:
            self._dwell(block)

    def _lose(self, block: Block) -> None:
        """Two motions at once: nothing is moved, and nothing is known of the axes named."""
        self.clock.stop()
        for letter in "XYZUVW":
            if letter in block.words or letter in block.computed:
                self.mover.at[AXES.get(letter, ALONG.get(letter, 0))] = None
        self.modes.motion = ""

    def _unknown_codes(self, block: Block, says: CodesMean) -> None:
        for word in says.unknown:
            self.tally.not_known(block.line, word)
        if says.not_followed:
            self.tally.keep(self.tally.not_followed, "not_followed", block.line)
            self._skip_contour(block)

    def _skip_contour(self, block: Block) -> None:
        begin, end = (block.texts.get(letter, "").lstrip("0") for letter in "PQ")
        if begin and end:
            self.skip = (begin, end)

    # units, feed, speed

    def _units(self, says: CodesMean) -> None:
        if says.units:
            self.modes.unit = "in" if says.units in {"20", "70"} else "mm"
            if self.modes.unit not in self.tally.units:
                self.tally.units.append(self.modes.unit)
        if says.diameter:
            self.modes.diameter = says.diameter == "7"

    def _points(self, block: Block) -> None:
        for letter, text in block.texts.items():
            if letter not in "XYZUVWABCIJKR" or not float(text):
                continue
            self.points["." in text] += 1
            if "." not in text and (not self.no_points or self.no_points[-1] != block.line):
                self.no_points.append(block.line)

    def _feed_mode(self, block: Block, says: CodesMean = NOTHING) -> None:
        if says.feed_mode:
            mode = LATHE_FEEDS.get(says.feed_mode, says.feed_mode)
            if mode != self.modes.feed_mode:
                self.modes.feed_mode, self.modes.feed = mode, None
        if "F" not in block.words:
            return
        value = block.words["F"]
        if abs(value) > MOST_FEED:
            self.tally.not_known(block.line, f"F{block.texts['F']}")
            return
        self.modes.feed = value * (1.0 if self.modes.feed_mode == "93" else self.modes.scale)
        if not self._threads(says.motion or self.modes.motion) and value > 0:
            self.fed(block.line, self.modes.feed_mode, self.modes.feed)

    def fed(self, line: int, mode: str, feed: float) -> None:
        """Keep a feed word of the tool that is in; of the first tools, where there are more than are looked at."""
        key = (self.tally.tool, mode)
        kept = self.feeds.get(key)
        if kept is None:
            if len(self.feeds) >= MOST_TIMED:
                return
            kept = self.feeds[key] = (array("q"), array("d"))
        kept[0].append(line)
        kept[1].append(feed)

    def _threads(self, code: str) -> bool:
        a = self.dialect.codes == "A"
        return code in {"33", "32", "76", "A92"} or (code == "92" if a else code in TAPS)

    def _spindle(self, block: Block, says: CodesMean) -> None:
        held = says.held
        caps = "50" in block.g or ("92" in block.g and self.dialect.codes == "ngc" and "S" in block.words)
        if held:
            self.modes.held = held == "96"
            if "S" not in block.words:
                self.modes.speed = None
            if self.modes.held and "D" in block.words:
                self.modes.cap = block.words["D"]
        if "S" in block.words:
            self._speed(block, caps=caps)
        if held == "96" and not self.modes.cap:
            self.tally.fault(block.line, "no_rpm_cap")

    def _speed(self, block: Block, *, caps: bool) -> None:
        value, text = block.words["S"], block.texts["S"]
        most = self.given.slides.most_rpm
        if abs(value) > MOST_SPEED:
            self.tally.not_known(block.line, f"S{text[:20]}")
        elif caps:
            self.modes.cap = max(value, 0.0)
        elif self.modes.held:
            self.modes.speed = value * (M_PER_FT if self.modes.unit == "in" else 1.0)
        else:
            self.modes.speed = value
            if most is not None and value > most:
                self.tally.fault(block.line, "rpm_over", f"S{text}")

    # tools, coolant, dwell

    def _tool(self, block: Block) -> None:
        if "T" in block.words:
            value = block.words["T"]
            if not 0 <= value <= MOST_NUMBER or value != int(value):
                self.tally.not_known(block.line, f"T{block.texts['T'][:20]}")
            elif self.dialect.t_word == "change":
                self._change_at_once(block, int(value))
            else:
                self.modes.next_tool = int(value)
        if "6" in block.m and self.dialect.t_word == "prepare":
            if self.modes.next_tool is None:
                self.tally.fault(block.line, "no_tool_word")
            else:
                self._change(block.line, self.modes.next_tool)

    def _change_at_once(self, block: Block, value: int) -> None:
        base = 100 if len(block.texts["T"]) > 2 else 10  # noqa: PLR2004 - two digits of each, or one
        tool, wear = divmod(value, base)
        self._change(block.line, tool)
        use = self.tally.use
        if wear and use is not None:
            self.tally.keep_new(use.d, "wears", wear)
            if wear != tool:
                self.tally.fault(block.line, "other_length", f"T{block.texts['T']}")

    def _change(self, line: int, tool: int) -> None:
        if not tool or tool == self.tally.tool:
            return
        self.mover.end_air()
        self.mover.end_section(line)
        self._time_tool()
        self.clock.change()
        modes = self.modes
        on = [*(["M7"] if modes.mist else ()), *(["M8"] if modes.flood else ())]
        self.tally.changed(ToolUse(tool, line, coolant=on))
        self.mover.tool_in()
        modes.length_said = False
        if self.given.plan.tools and tool not in self.given.plan.tools:
            self.tally.fault(line, "tool_not_planned", f"T{tool}")

    def _time_tool(self) -> None:
        """Add what was spent since the last change to the tool that was in."""
        now = self.clock.so_far_s
        tool = self.tally.tool
        if tool in self.tally.tool_s or len(self.tally.tool_s) < MOST_TIMED:
            self.tally.tool_s[tool] = self.tally.tool_s.get(tool, 0.0) + now - self.timed_s
        self.timed_s = now

    def _switches(self, block: Block, says: CodesMean) -> None:
        use, turns = self.tally.use, says.turns
        if turns:
            self.modes.turns = "" if turns == "5" else turns
        if (turns in {"3", "4"} or "S" in block.words) and self.modes.turns and self.modes.speed:
            said = self._spindle_words()
            if use is not None and self.modes.speed > 0:
                self.tally.keep_new(use.spindle, "speeds", said)
        for code in block.m:
            if code in {"7", "8"} and use is not None and f"M{code}" not in use.coolant:
                use.coolant.append(f"M{code}")
        self.modes.mist = "7" in block.m or (self.modes.mist and "9" not in block.m)
        self.modes.flood = "8" in block.m or (self.modes.flood and "9" not in block.m)
        if block.m:
            self.clock.stop()

    def _spindle_words(self) -> str:
        speed = f"M{self.modes.turns} {self.modes.speed:g}"
        if not self.modes.held:
            return f"{speed} rpm"
        return f"{speed} m/min" + (f" cap {self.modes.cap:g}" if self.modes.cap else "")

    def _dwell(self, block: Block) -> None:
        seconds = None
        if "P" in block.words and abs(block.words["P"]) <= MOST_NUMBER:
            seconds = block.words["P"] / (1000 if self.dialect.dwell_p == "ms" else 1)
        elif self.dialect.turns and ("X" in block.words or "U" in block.words):
            seconds = block.words.get("X", block.words.get("U", 0.0))
        if seconds is None or seconds < 0:
            self.tally.fault(block.line, "no_dwell_time")
            return
        self.mover.end_air()
        self.clock.wait(seconds)

    # plane, lengths, offsets

    def _set_up(self, block: Block, says: CodesMean) -> None:
        modes = self.modes
        modes.plane = says.plane or modes.plane
        if says.wear and "D" in block.words and self.tally.use is not None:
            wear = int(min(abs(block.words["D"]), MOST_NUMBER))
            self.tally.use.d += [wear] if wear not in self.tally.use.d else []
        if says.length in {"43", "43.1"}:
            self._length(block)
        if says.offset:
            self._offset(block, says.offset)
        if says.distance:
            modes.absolute = says.distance == "90"
        if says.centres:
            modes.absolute_arcs = says.centres == "90.1"
        if says.level:
            modes.to_level = says.level == "98"

    def _length(self, block: Block) -> None:
        self.modes.length_said = True
        use = self.tally.use
        if use is None:
            return
        number = int(min(abs(block.words["H"]), MOST_NUMBER)) if "H" in block.words else use.tool
        self.tally.keep_new(use.h, "lengths", number)
        if number != use.tool:
            self.tally.fault(block.line, "other_length", f"H{number}")

    def _offset(self, block: Block, code: str) -> None:
        name = f"G{code}"
        if code == "54.1":
            number = block.words.get("P", 0.0)
            if number != int(number) or not 1 <= number <= MOST_EXTENDED:
                self.tally.not_known(block.line, f"G54.1P{block.texts.get('P', '')}")
                return
            name = f"G54.1 P{int(number)}"
        self.modes.offset_said = True
        self.mover.to_offset(name)

    # what takes the axis words for itself

    def _own_axes(self, block: Block, says: CodesMean) -> bool:
        """Do what a code does with the axis words of its block; True where there is one."""
        does: Mapping[str, Callable[[Block], None]] = {
            "10": self._writes,
            "28": self._home,
            "30": self._home,
            "92": self._shifts,
            "50": self._shifts,
            "52": self._local,
        }
        if says.own in does:
            does[says.own](block)
        if says.clears:
            self.mover.shift = [0.0, 0.0, 0.0]
        return True

    def _writes(self, block: Block) -> None:
        self.clock.stop()
        kind, number = block.words.get("L"), block.words.get("P", 0.0)
        code = self._written(kind, number)
        if not code:
            self.tally.not_known(block.line, "G10")
            return
        axes = {}
        for letter, n in AXES.items():
            value = self._value(block, letter)
            if value is not None:
                old = self.mover.offsets.get(code, (0.0, 0.0, 0.0))[n]
                axes[n] = value if self.modes.absolute else old + value
        if axes:
            self.mover.write_offset(code, axes)
            self.tally.keep(
                self.tally.g10,
                "g10",
                (block.line, code, {"xyz"[n]: round(value, 6) for n, value in axes.items()}),
            )

    def _written(self, kind: float | None, number: float) -> str:
        """The offset that G10 writes; empty for none."""
        if number != int(number):
            return ""
        which = int(number)
        if kind == 20 and self.dialect.l20 == "extended" and 1 <= which <= MOST_EXTENDED:  # noqa: PLR2004 - its code
            return f"G54.1 P{which}"
        codes = (*PLAIN_OFFSETS, *(FINE_OFFSETS if self.dialect.fine else ()))
        if kind == 2 and 1 <= which <= len(codes):  # noqa: PLR2004 - its code
            return f"G{codes[which - 1]}"
        return self.modes.offset if kind == 2 and not which and self.dialect.p0 == "active" else ""  # noqa: PLR2004 - its code

    def _home(self, block: Block) -> None:
        second = "30" in block.g
        home = self.given.second_home if second else self.given.home
        named = [n for table in (AXES, ALONG) for letter, n in table.items() if self._named(block, letter)]
        through = self._target(block)
        if through != self.mover.at:
            self.mover.rapid(through, boxed=False)
        base, to = self.mover.base, list(self.mover.at)
        for n in range(3) if self.dialect.g28 == "all" else named:
            to[n] = None if base is None else home[n] - base[n]
        self.mover.rapid(to, boxed=False)

    def _shifts(self, block: Block) -> None:
        self.clock.stop()
        for letter, n in AXES.items():
            value, at = self._value(block, letter), self.mover.at[n]
            if value is not None and at is not None:
                self.mover.shift[n] = at - value

    def _local(self, block: Block) -> None:
        self.clock.stop()
        for letter, n in AXES.items():
            value = self._value(block, letter)
            if value is not None:
                self.mover.shift[n] = value

    # numbers

    def _named(self, block: Block, letter: str) -> bool:
        return letter in block.words or letter in block.computed

    def _value(self, block: Block, letter: str, *, halved: bool = True) -> float | None:
        """The length a word says, [mm]; None where it says none that is known."""
        if letter not in block.words or letter in block.computed or letter in block.twice:
            return None
        text, value = block.texts[letter], block.words[letter]
        if self.dialect.no_point == "least" and "." not in text:
            value *= LEAST_IN * 25.4 if self.modes.unit == "in" else LEAST_MM
        else:
            value *= self.modes.scale
        if abs(value) > MOST_MM:
            self.tally.not_known(block.line, f"{letter}{text}")
            return None
        return value / self.modes.by_diameter if letter in "XU" and halved else value

    def _plain_target(self, words: Mapping[str, float]) -> Place | None:
        """The same for words that are as they are; None where one is beyond any machine."""
        x, y, z = words.get("X"), words.get("Y"), words.get("Z")
        (a, b, c), (u, v, w), scale = self.mover.at, self.mover.shift, self.modes.scale
        most = MOST_MM / scale
        if not (-most <= (x or 0.0) <= most and -most <= (y or 0.0) <= most and -most <= (z or 0.0) <= most):
            return None
        return [
            a if x is None else x * scale / self.modes.by_diameter + u,
            b if y is None else y * scale + v,
            c if z is None else z * scale + w,
        ]

    def _target(self, block: Block) -> Place:
        """Where the axis words of a block lead."""
        if self.simple and self.modes.absolute and not block.computed and not block.twice:
            plain = self._plain_target(block.words)
            if plain is not None:
                return plain
        to = list(self.mover.at)
        for letter, n in AXES.items():
            if not self._named(block, letter):
                continue
            value = self._value(block, letter)
            if value is None:
                to[n] = None
            elif self.modes.absolute:
                to[n] = value + self.mover.shift[n]
            else:
                to[n] = None if to[n] is None else to[n] + value  # type: ignore[operator] # just asked
        if self.dialect.codes == "A":
            for letter, n in ALONG.items():
                value, at = self._value(block, letter), to[n]
                if self._named(block, letter):
                    to[n] = None if value is None or at is None else at + value
        return to

    # motion

    def _motion(self, block: Block, says: CodesMean = NOTHING) -> None:
        code = says.motion
        if code:
            self._begin(LATHE_A.get(code, code) if self.dialect.codes == "A" else code)
        if says.not_followed:
            return
        words = block.words
        moves = "X" in words or "Y" in words or "Z" in words or not block.computed.isdisjoint(AXES)
        if self.dialect.codes == "A" and not moves:
            moves = any(self._named(block, letter) for letter in ALONG)
        circles = self._circles(block, moves=moves)
        if not moves and not circles:
            if self.modes.motion == "76" and self.dialect.g76 == "two blocks" and code == "76":
                self._thread_begins(block)
            return
        if says.machine:
            self._machine_move(block)
            return
        if not self.modes.motion:
            self.tally.fault(block.line, "no_motion_mode")
            return
        to = self._target(block)
        if not self.dialect.turns:
            self._before(block, to[2])
        self._move(block, to)

    def _circles(self, block: Block, *, moves: bool) -> bool:
        """True for an arc that names no end, where that is a full circle; where it is not, it is said."""
        if moves or self.modes.motion not in ARCS or not any(letter in block.words for letter in CENTRES):
            return False
        if not self.dialect.bare_circle:
            self.tally.keep(
                self.tally.limits,
                "limits",
                (block.line, "an arc without X and Y is not run: some controls make a full circle of it"),
            )
        return self.dialect.bare_circle

    def _begin(self, code: str) -> None:
        old = self.modes.motion
        new = "" if code == "80" else code
        if (new in HOLES and not self._threading(new)) and old not in HOLES:
            self.modes.cycle = CycleWords(level=self.mover.at[2])
        elif new.startswith("A") and new != old:
            self.modes.cycle = CycleWords()
        if new != old and (new in HOLES or old in HOLES):
            self.clock.stop()
        self.modes.motion = new

    def _threading(self, code: str) -> bool:
        return code == "76" and self.dialect.g76 != "fine bore"

    def _before(self, block: Block, to: float | None) -> None:
        """Say what is missing before a move that leads to such a Z."""
        if not self.modes.offset_said and not self.tally.offsets:
            self.tally.fault(block.line, "no_offset_word")
            self.modes.offset_said = True
        if self.modes.length_said:
            return
        at = self.mover.at[2]
        cycle = self.modes.motion in HOLES
        down = cycle or (at is not None and to is not None and to < at - TINY_MM)
        if down and self.tally.use is not None:
            self.tally.fault(block.line, "no_length")

    def _move(self, block: Block, to: Place) -> None:
        motion = self.modes.motion
        if motion == "0":
            self.mover.rapid(to)
        elif motion == "1":
            self.mover.feed(self.mover.known_line(to), to, self._inverse(block))
        elif motion in ARCS:
            self._arc(block, to, clockwise=motion == "2")
        elif motion in {"33", "32"}:
            self._single_thread(block)
        elif motion.startswith("A"):
            self._lathe_cycle(block)
        elif self._threading(motion):
            self._thread(block)
        elif motion in HOLES:
            self._hole_cycle(block, motion)

    def _inverse(self, block: Block) -> float | None:
        """How long the block takes in G93, [s]; None in another mode."""
        if self.modes.feed_mode != "93":
            return None
        feed = block.words.get("F", 0.0)
        if feed <= 0:
            self.tally.fault(block.line, "no_feed")
            return None
        return 60 / feed

    def _machine_move(self, block: Block) -> None:
        if self.modes.motion not in STRAIGHT:
            self.tally.fault(block.line, "g53_motion")
            return
        base, to = self.mover.base, list(self.mover.at)
        for letter, n in AXES.items():
            if self._named(block, letter):
                value = self._value(block, letter)
                to[n] = None if value is None or base is None else value - base[n]
        if self.modes.motion == "0":
            self.mover.rapid(to, boxed=False)
        else:
            self.mover.feed(self.mover.known_line(to), to, self._inverse(block))

    def _arc(self, block: Block, to: Place, *, clockwise: bool) -> None:
        line = self.mover.known_line(to)
        path = self._arc_path(block, line, clockwise=clockwise)
        self.mover.feed(path, to, self._inverse(block))

    def _arc_path(self, block: Block, line: Line, *, clockwise: bool) -> Path:
        first, second, _ = PLANES[self.modes.plane]
        start, end = (line.start[first], line.start[second]), (line.end[first], line.end[second])
        centre = self._centre(block, start, end, clockwise=clockwise)
        if centre is None:
            return line
        (u, v), (a, b), (c, d) = centre, start, end
        radius, other = hypot(a - u, b - v), hypot(c - u, d - v)
        if abs(radius - other) > self.dialect.arc_tol_mm or radius < TINY_MM:
            self.tally.fault(block.line, "arc_radius", r=[round(radius, 4), round(other, 4)])
        if radius < TINY_MM:
            return line
        begin, stop = atan2(b - v, a - u), atan2(d - v, c - u)
        sweep = (stop - begin) % FULL
        if sweep < TINY_MM or FULL - sweep < TINY_MM or hypot(c - a, d - b) < TINY_MM:
            sweep = FULL
        if clockwise:
            sweep -= FULL if sweep < FULL else 2 * FULL
        turns = self._turns(block)
        sweep += (turns - 1) * FULL * (-1 if clockwise else 1)
        return Arc(line.start, line.end, self.modes.plane, centre, radius, begin, sweep)

    def _turns(self, block: Block) -> int:
        """How often an arc goes round, counting the last part as one."""
        turns = block.words.get("P", 1.0)
        if not 1 <= turns <= MOST_REPEATS:
            if turns > MOST_REPEATS:
                self.tally.keep(self.tally.limits, "limits", (block.line, f"P{block.texts['P'][:20]} turns"))
            return 1
        return int(turns)

    def _centre(
        self, block: Block, start: tuple[float, float], end: tuple[float, float], *, clockwise: bool
    ) -> tuple[float, float] | None:
        """The centre of an arc; None where nothing says it."""
        first, second, _ = PLANES[self.modes.plane]
        letters = CENTRES[first], CENTRES[second]
        if any(letter in block.words for letter in letters):
            values = [self._value(block, letter) or 0.0 for letter in letters]
            absolute = self.modes.absolute_arcs or self.dialect.arc_centre == "absolute"
            shift = (self.mover.shift[first], self.mover.shift[second]) if absolute else start
            return values[0] + shift[0], values[1] + shift[1]
        radius = self._value(block, "R", halved=False)
        if radius is None:
            self.tally.fault(block.line, "arc_no_centre")
            return None
        chord = hypot(end[0] - start[0], end[1] - start[1])
        if chord < TINY_MM or abs(radius) < chord / 2 - self.dialect.arc_tol_mm:
            self.tally.fault(block.line, "arc_radius", "R")
            if chord < TINY_MM:
                return None
        high = sqrt(max(radius**2 - chord**2 / 4, 0.0))
        side = -1 if clockwise is (radius > 0) else 1
        return (
            (start[0] + end[0]) / 2 - side * high * (end[1] - start[1]) / chord,
            (start[1] + end[1]) / 2 + side * high * (end[0] - start[0]) / chord,
        )

    # holes

    def _hole_cycle(self, block: Block, code: str) -> None:
        cycle = self.modes.cycle
        self._cycle_words(block, cycle)
        missing = next((name for name, value in (("R", cycle.r), ("Z", cycle.z)) if value is None), "")
        if not missing and code in PECKS and not cycle.q:
            missing = "Q"
        if missing:
            self.tally.fault(block.line, "cycle_word_missing", missing)
            return
        if cycle.r is None or cycle.z is None or cycle.z > cycle.r + TINY_MM:
            self.tally.fault(block.line, "cycle_z_above_r")
            return
        repeats = block.words.get("L", 1.0)
        if repeats > MOST_REPEATS or (
            code in PECKS and cycle.q and pecks_of(cycle.r - cycle.z, cycle.q) > MOST_REPEATS
        ):
            self.tally.keep(
                self.tally.limits, "limits", (block.line, "more repeats or pecks than are followed")
            )
            return
        self.clock.stop()
        for _ in range(max(int(repeats), 0)):
            hole(self.mover, code, self._target_flat(block))
        if code in TAPS:
            self._tapped(block.line)

    def _target_flat(self, block: Block) -> Place:
        """X and Y of the next hole; Z of the block is its bottom."""
        to = self._target(block)
        return [to[0], to[1], self.mover.at[2]]

    def _cycle_words(self, block: Block, cycle: CycleWords) -> None:
        r, z, q = (self._value(block, letter, halved=False) for letter in "RZQ")
        at = self.mover.at[2]
        if r is not None:
            cycle.r = r + self.mover.shift[2] if self.modes.absolute else None if at is None else at + r
        if z is not None:
            relative = None if cycle.r is None else cycle.r + z
            cycle.z = z + self.mover.shift[2] if self.modes.absolute else relative
        if q is not None:
            cycle.q = abs(q)
        if "P" in block.words:
            cycle.p = abs(min(block.words["P"], MOST_NUMBER)) / (1000 if self.dialect.dwell_p == "ms" else 1)

    def _tapped(self, line: int) -> None:
        feed, speed = self.modes.feed, self.modes.speed
        if not feed or (self.modes.feed_mode == "94" and not speed):
            return
        pitch = feed / speed if self.modes.feed_mode == "94" and speed else feed
        self.tally.tap(pitch, line)

    # threads and cycles of a lathe

    def _single_thread(self, block: Block) -> None:
        lead = self._value(block, self.dialect.thread_word, halved=False)
        if lead is None and self.dialect.thread_word == "F":
            lead = self.modes.feed
        begin = list(self.mover.at)
        threaded(self.mover, self._target(block), lead or 0.0)
        name = "G32" if self.dialect.codes == "A" else "G33"
        self._note_thread(name, lead or 0.0, self.mover.at[0], (begin[2], self.mover.at[2]), 1)

    def _note_thread(
        self, cycle: str, lead: float, x: float | None, z: Sequence[float | None], passes: int
    ) -> None:
        self.tally.keep(
            self.tally.threads,
            "threads",
            {
                "line": self.mover.line,
                "cycle": cycle,
                "pitch": round(lead, 4),
                "x": round((x or 0.0) * self.modes.by_diameter, 4),
                "z": [round(one or 0.0, 4) for one in z],
                "passes": passes,
                "tool": self.tally.tool,
            },
        )

    def _lathe_cycle(self, block: Block) -> None:
        cycle, to, begin = self.modes.cycle, self._target(block), list(self.mover.at)
        if self._named(block, "X") or self._named(block, "U"):
            cycle.x = to[0]
        if self._named(block, "Z") or self._named(block, "W"):
            cycle.z = to[2]
        if "R" in block.words:
            cycle.taper = self._value(block, "R", halved=False) or 0.0
        if cycle.x is None or cycle.z is None or None in {begin[0], begin[2]}:
            self.tally.fault(block.line, "cycle_word_missing", "X" if cycle.x is None else "Z")
            return
        self.clock.stop()
        if self.modes.motion == "A90":
            turn_cycle(self.mover, cycle.x, cycle.z)
        elif self.modes.motion == "A94":
            face_cycle(self.mover, cycle.x, cycle.z)
        else:
            thread_pass(self.mover, cycle.x, cycle.z, self.modes.feed or 0.0)
            self._note_pass(cycle.x, (begin[2], cycle.z))

    def _note_pass(self, x: float, z: Sequence[float | None]) -> None:
        lead, last = self.modes.feed or 0.0, self.tally.threads[-1] if self.tally.threads else None
        new = (self.tally.tool, round(lead, 4), [round(one or 0.0, 4) for one in z])
        if last and last["cycle"] == "G92" and (last["tool"], last["pitch"], last["z"]) == new:
            last["passes"] += 1
            last["x"] = round(x * self.modes.by_diameter, 4)
        else:
            self._note_thread("G92", lead, x, z, 1)

    def _thread_begins(self, block: Block) -> None:
        """The first block of a thread in two: passes at full height, least step, what is left for them."""
        small = MICRON if self.modes.unit == "mm" else LEAST_IN * 25.4
        self.spring = block.words.get("P", 10_000.0) // 10_000
        self.least = block.words.get("Q", 0.0) * small
        self.finish = self._value(block, "R", halved=False) or 0.0

    def _thread(self, block: Block) -> None:
        if self.dialect.g76 == "two blocks":
            self._two_blocks(block)
        else:
            self._one_block(block)

    def _two_blocks(self, block: Block) -> None:
        small = MICRON if self.modes.unit == "mm" else LEAST_IN * 25.4
        to, begin = self._target(block), self.mover.at
        high, first = (block.words.get(letter, 0.0) * small for letter in "PQ")
        missing = next((name for name, value in (("P", high), ("Q", first)) if value <= 0), "")
        if missing or None in {to[0], to[2], begin[0], begin[2]}:
            self.tally.fault(block.line, "cycle_word_missing", missing or "X")
            return
        if (high / first) ** 2 > MOST_REPEATS:
            self.tally.keep(self.tally.limits, "limits", (block.line, "more passes than are followed"))
            return
        depths = two_block_depths(high, first, self.least, self.finish, int(self.spring))
        root, start = to[0] or 0.0, begin[0] or 0.0
        side = 1 if start >= root else -1
        self._passes(
            "G76", [root + side * (high - deep) for deep in depths], to[2] or 0.0, self.modes.feed or 0.0
        )

    def _one_block(self, block: Block) -> None:
        needed = [self._value(block, letter, halved=False) for letter in "PZIJK"]
        missing = next((letter for letter, value in zip("PZIJK", needed, strict=True) if value is None), "")
        begin, to = self.mover.at, self._target(block)
        if missing or begin[0] is None or to[2] is None:
            self.tally.fault(block.line, "cycle_word_missing", missing or "Z")
            return
        pitch, _, crest, first, full = (value or 0.0 for value in needed)
        degression = block.words.get("R", 1.0) or 1.0
        spring = block.words.get("H", 0.0)
        if first <= 0 or full <= 0 or spring > MOST_REPEATS or (full / first) ** degression > MOST_REPEATS:
            self.tally.keep(self.tally.limits, "limits", (block.line, "more passes than are followed"))
            return
        by = self.modes.by_diameter if self.dialect.depths_as_x else 1.0
        depths = one_block_depths(full / by, first / by, degression, int(spring))
        side = -1 if crest < 0 else 1
        self._passes("G76", [begin[0] + crest / by + side * deep for deep in depths], to[2], pitch)

    def _passes(self, cycle: str, radii: Sequence[float], z: float, lead: float) -> None:
        self.clock.stop()
        begin = self.mover.at[2]
        for radius in radii:
            thread_pass(self.mover, radius, z, lead)
        if radii:
            self._note_thread(cycle, lead, radii[-1], (begin, z), len(radii))

    # ends

    def _ends(self, block: Block, says: CodesMean) -> None:
        for code in says.stops:
            self.tally.keep(self.tally.stops, "stops", (block.line, f"M{code}", self.tally.tool))
            self.mover.stopped = self.mover.stopped or code != "60"
        code = says.end
        if code:
            coolant = self.modes.mist or self.modes.flood
            self.tally.end = (block.line, f"M{code}", bool(self.modes.turns), coolant)
            if coolant:
                self.tally.fault(block.line, "coolant_on_at_end")
            if self.modes.turns:
                self.tally.fault(block.line, "spindle_on_at_end")
            self.ended = True

    def finish_up(self) -> None:
        """Say what can be said only at the end."""
        self.streak.leave()
        self.mover.end_air()
        self.mover.check_stop(ended=True)
        self.mover.end_section(self.tally.lines)
        self._time_tool()
        self.clock.stop()
        if self.tally.end is None:
            self.tally.fault(self.tally.lines, "no_end")
        without, with_point = self.points
        if 0 < without < with_point:
            for line in self.no_points:
                self.tally.fault(line, "no_point")
        self._slipped_feeds()
        self._planned()

    def _slipped_feeds(self) -> None:
        for key, (lines, values) in self.feeds.items():
            middle = median(values)
            self.tally.fed[key] = (lines[0], middle)
            if len(lines) < FEW:
                continue
            for line, value in zip(lines, values, strict=True):
                if value >= SLIP_TIMES * middle or value < middle / SLIP_TIMES:
                    self.tally.fault(line, "feed_slip", "F")

    def _planned(self) -> None:
        plan, last = self.given.plan, self.tally.lines
        used: dict[int, int] = {}
        for one in self.tally.tools:
            used.setdefault(one.tool, one.line)
        for tool in plan.tools:
            if tool not in used:
                self.tally.fault(last, "planned_tool_missing", f"T{tool}")
        for code in plan.offsets:
            if code not in self.tally.offsets:
                self.tally.fault(last, "planned_offset_missing", code)
        order = [tool for tool in used if tool in plan.tools]
        wanted = [tool for tool in dict.fromkeys(plan.tools) if tool in used]
        wrong = next((tool for tool, right in zip(order, wanted, strict=False) if tool != right), None)
        if wrong is not None:
            self.tally.fault(used[wrong], "other_order", f"T{wrong}")
