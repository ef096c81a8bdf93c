"""Work offsets as RS-274 text: written for a control's dialect, read back, and followed like the control would.

Source: RS-274/NGC version 3 for G10 L2, P1 to P9, G20, G21, G53 to G59.3, G90, G91; from memory, [ngc]. What
`L20` and `P0` mean, and G54.1 Pn, differs between controls and is asked once a machine.
"""

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from decimal import Decimal

from ditto_run.core.place.offsets import AXES, LINEAR, Axis, Offset, as_shown
from ditto_run.core.shop import Dialect
from ditto_run.core.shop.codes import BASIC, FINE
from ditto_run.core.units import MM_PER_INCH, LengthUnit

MOST_LINES, MOST_FAULTS, MOST_MOVES = 20_000, 50, 20_000
LONGEST_LINE, LONGEST_NUMBER = 500, 20  # signs; no control takes more
COMMENT = re.compile(r"\([^)]*\)|;.*")
WORD = re.compile(r"([A-Z])\s*([+-]?(?:\d+\.?\d*|\.\d+))")
NUMBERED = (*BASIC, *FINE)  # P1 to P9
ZERO = Decimal(0)


@dataclass(frozen=True, slots=True)
class Fault:
    """What cannot be read: line, word and why."""

    row: int
    field: str
    message: str


@dataclass(frozen=True, slots=True)
class ReadOffsets:
    """Offsets read from a file: axes by code in `unit`, and what could not be read."""

    axes: Mapping[str, Mapping[Axis, Decimal]] = field(default_factory=dict)
    unit: LengthUnit = "mm"
    faults: tuple[Fault, ...] = ()


def p_number(code: str, dialect: Dialect) -> tuple[str, int] | None:
    """Return L word and P number that set a code on a control: `("L2", 1)` for G54; None if it cannot be set.

    Example:
        >>> p_number("G54.1 P7", Dialect("extended"))
        ('L20', 7)
    """
    if code in BASIC or (code in FINE and dialect.fine):
        return "L2", NUMBERED.index(code) + 1
    extended = re.fullmatch(r"G54\.1 P(\d+)", code)
    if extended and dialect.l20 == "extended":
        return "L20", int(extended[1])
    return None


def write_offsets(
    offsets: Iterable[Offset], dialect: Dialect, unit: LengthUnit, title: str = ""
) -> tuple[str, list[str]]:
    """Return the offsets as text that sets them, and the codes this dialect cannot set.

    Units and absolute mode are written out; one block an offset, only the axes that are set.

    Args:
        offsets: in the order they are written.
        dialect: how the control reads G10.
        unit: the control's unit; every offset is in it.
        title: first comment.
    """
    lines = ["%", f"({_clean(title)})"] if title else ["%"]
    lines += [
        f"{'G20' if unit == 'in' else 'G21'} ({'inches' if unit == 'in' else 'millimetres'})",
        "G90 (absolute)",
    ]
    left_out = []
    for offset in offsets:
        at = p_number(offset.code, dialect)
        if at is None:
            left_out.append(offset.code)
            continue
        words = " ".join(
            f"{axis.upper()}{_figure(axis, offset.axes[axis], unit)}" for axis in AXES if axis in offset.axes
        )
        if words:
            named = f" KEPT {_clean(offset.name)}" if offset.kept else ""
            lines.append(f"G10 {at[0]} P{at[1]} {words} ({offset.code}{named})")
    return "\n".join([*lines, "M30", "%", ""]), left_out


def _figure(axis: str, value: Decimal, unit: LengthUnit) -> str:
    return f"{value:.{4 if axis in LINEAR and unit == 'in' else 3}f}"


def _clean(text: str) -> str:
    return re.sub(r"[^A-Za-z0-9 .,:+-]", "", text)[:60]


@dataclass(frozen=True, slots=True)
class _Modes:
    unit: LengthUnit
    said: bool = False  # the file names its unit
    incremental: bool = False


def read_offsets(
    text: str,
    dialect: Dialect,
    unit: LengthUnit,
    standing: Mapping[str, Mapping[Axis, Decimal]] | None = None,
) -> ReadOffsets:
    """Return the offsets that a text sets.

    Args:
        text: a program or a list of G10 blocks.
        dialect: how the control reads G10.
        unit: the control's unit; what is read is given in it, and it is taken where the text names none.
        standing: the offsets as they stand, in `unit`; needed where the text changes them by G91.

    Returns:
        Axes by code, and a fault for every block that cannot be taken; a block with a fault sets nothing.
    """
    modes, faults = _Modes(unit), []
    axes: dict[str, dict[Axis, Decimal]] = {}
    lines = text.upper().splitlines()
    long = next((row for row, line in enumerate(lines, 1) if len(line) > LONGEST_LINE), 0)
    if long:
        return ReadOffsets({}, unit, (Fault(long, "line", f"It is longer than {LONGEST_LINE} signs."),))
    if len(lines) > MOST_LINES:
        return ReadOffsets(
            {}, unit, (Fault(MOST_LINES, "file", f"{len(lines):,} lines are over {MOST_LINES:,}."),)
        )
    for row, line in enumerate(lines, 1):
        bare = COMMENT.sub(" ", line).strip().strip("%").strip()
        words = WORD.findall(bare)
        modes = _mode(words, modes)
        if ("G", "10") not in words:
            continue
        rest = WORD.sub("", bare).replace("/", "").strip()
        block = _block(words, dialect) if not rest else f"“{rest[:20]}” is not a word."
        if isinstance(block, str):
            faults.append(Fault(row, line.strip()[:40], block))
            continue
        code, values = block
        for axis, value in values.items():
            shown = _to_unit(axis, value, modes.unit, unit)
            was = axes.setdefault(code, {}).get(axis, (standing or {}).get(code, {}).get(axis, ZERO))
            axes[code][axis] = shown + was if modes.incremental else shown
    order = (*NUMBERED, *sorted(axes.keys() - {*NUMBERED}, key=_number))
    return ReadOffsets(
        {code: axes[code] for code in order if code in axes}, unit, tuple(faults[:MOST_FAULTS])
    )


def _number(code: str) -> int:
    return int(code.rsplit("P", 1)[-1])


def _mode(words: Sequence[tuple[str, str]], modes: _Modes) -> _Modes:
    for letter, number in words:
        if letter != "G":
            continue
        if number in {"20", "21"}:
            modes = replace(modes, unit="in" if number == "20" else "mm", said=True)
        elif number in {"90", "91"}:
            modes = replace(modes, incremental=number == "91")
    return modes


def _block(words: Sequence[tuple[str, str]], dialect: Dialect) -> tuple[str, dict[Axis, Decimal]] | str:
    """Return code and axes of one G10 block, or why it cannot be taken."""
    given = dict(words)
    doubled = {
        letter for letter, _ in words if [w for w, _ in words].count(letter) > 1 and letter not in {"G", "M"}
    }
    if doubled:
        return f"{min(doubled)} comes twice."
    if any(len(number) > LONGEST_NUMBER for number in given.values()):
        return "A number has more digits than a control takes."
    if "L" not in given or "P" not in given:
        return f"{'L' if 'L' not in given else 'P'} is missing."
    code = _code(given["L"], given["P"], dialect)
    if not code.startswith("G"):
        return code
    values = {axis: Decimal(given[axis.upper()]) for axis in AXES if axis.upper() in given}
    return (code, values) if values else "It names no axis."


def _code(l_word: str, p_word: str, dialect: Dialect) -> str:
    if "." in p_word.rstrip("0").rstrip(".") or Decimal(p_word) < 0:
        return f"P{p_word} is no offset."
    number = int(Decimal(p_word))
    if number == 0:
        return {
            "not used": "P0 is not known to this control; say on Shop, under Table, what it means.",
            "active": "P0 is the offset active at that moment, which the text does not tell.",
            "common": "P0 is the common shift, which this register does not hold.",
        }[dialect.p0]
    if l_word == "2":
        if number > (len(NUMBERED) if dialect.fine else len(BASIC)):
            return f"L2 P{number} is not an offset of this control."
        return NUMBERED[number - 1]
    if l_word == "20":
        return {
            "not used": "L20 is not known to this control; say on Shop, under Table, what it does.",
            "here": "L20 sets the place where the spindle stands, which the text does not tell.",
            "extended": f"G54.1 P{number}",
        }[dialect.l20]
    return f"L{l_word} is no work offset."


def _to_unit(axis: str, value: Decimal, unit: LengthUnit, wanted: LengthUnit) -> Decimal:
    if axis not in LINEAR or unit == wanted:
        return value
    return value * MM_PER_INCH if unit == "in" else as_shown(axis, value / MM_PER_INCH, wanted)


def positions(
    text: str, start: Mapping[str, Mapping[Axis, Decimal]] | None = None
) -> list[dict[Axis, Decimal]]:
    """Return where every move of a simple program ends, in machine coordinates, [mm].

    Followed are G0, G1, the bottom of G81, G10 L2, G20, G21, G53 (for its block only), G54 to G59.3, G90 and G91.

    Args:
        text: the program.
        start: offsets at the start, by code. [mm]

    Source:
        [ngc] RS-274/NGC version 3; held to hand-computed positions.
    """
    follower = _Follower({code: dict(axes) for code, axes in (start or {}).items()})
    found = []
    for line in text.upper().splitlines():
        words = WORD.findall(COMMENT.sub(" ", line))
        for at in follower.block(words):
            found.append(at)
            if len(found) >= MOST_MOVES:
                return found
    return found


class _Follower:
    """The state of a control that matters for where it goes."""

    def __init__(self, offsets: dict[str, dict[Axis, Decimal]]) -> None:
        self.offsets, self.active, self.motion = offsets, "G54", ""
        self.modes = _Modes("mm")
        self.work: dict[Axis, Decimal] = {}  # machine position of each axis that has moved
        self.depth: Decimal | None = None

    def block(self, words: Sequence[tuple[str, str]]) -> Iterable[dict[Axis, Decimal]]:
        self.modes = _mode(words, self.modes)
        codes = [f"G{number}" for letter, number in words if letter == "G"]
        given: dict[Axis, Decimal] = {
            axis: _to_unit(axis, Decimal(number), self.modes.unit, "mm")
            for axis in AXES
            for letter, number in words
            if letter == axis.upper()
        }
        if "G10" in codes:
            block = _block(words, Dialect())
            if not isinstance(block, str):
                code = block[0]
                for axis, value in given.items():
                    was = self.offsets.setdefault(code, {}).get(axis, ZERO)
                    self.offsets[code][axis] = value + (was if self.modes.incremental else ZERO)
            return
        self.active = next((code for code in codes if code in NUMBERED), self.active)
        self.motion = next(
            (code for code in codes if code in {"G0", "G00", "G1", "G01", "G81", "G80"}), self.motion
        )
        if not given or self.motion in {"", "G80"}:
            return
        offset = {} if "G53" in codes else self.offsets.get(self.active, {})
        if self.motion == "G81":
            self.depth = given.pop("z", self.depth) if "z" in given else self.depth
            self._move(given, offset)
            yield {**self.work, "z": (self.depth or ZERO) + offset.get("z", ZERO)}
            return
        self._move(given, offset)
        yield dict(self.work)

    def _move(self, given: Mapping[Axis, Decimal], offset: Mapping[Axis, Decimal]) -> None:
        for axis, value in given.items():
            if self.modes.incremental:
                self.work[axis] = self.work.get(axis, ZERO) + value
            else:
                self.work[axis] = value + offset.get(axis, ZERO)
