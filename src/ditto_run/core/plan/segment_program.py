"""A slender bar turned in segments as a program: the tool far off, the spindle still before each pull; proven by reading it back."""

from collections.abc import Sequence
from dataclasses import dataclass

from ditto_run.core.errors import NotNow
from ditto_run.core.hold.segments import Stretch
from ditto_run.core.plan.asked import hold_asked
from ditto_run.core.plan.at_work import step_ground
from ditto_run.core.plan.cycles import Press
from ditto_run.core.plan.held import contacts
from ditto_run.core.plan.program_differs import speeds_of
from ditto_run.core.plan.program_room import ProgramZero
from ditto_run.core.plan.programmed import given_of, usual_dialect
from ditto_run.core.plan.skeleton import TableWords, comment_of
from ditto_run.core.plan.worked import Worked, thing_of
from ditto_run.core.program.dialect import Meanings
from ditto_run.core.program.given import Given, Planned, RoundBlank, Slides, ToolFigures
from ditto_run.core.program.reader import ProgramRead, read_program
from ditto_run.core.tools import ToolStep
from ditto_run.core.tools.speed_sheet import CutSpeed
from ditto_run.core.units import MM_PER_INCH, LengthUnit

LEAD_MM = 1.0  # before a cut, and over a diameter that is come up to at feed
OUT_MM = 20.0  # from the bar on the radius while it is pulled; own judgement
BEHIND_MM = 20.0  # of the bar behind the last cut that is looked at
NEARLY = 0.002  # what writing a number loses, [mm]


@dataclass(frozen=True, slots=True)
class SegmentProgram:
    """A program of segments with what reading it back has shown.

    Args:
        text: of it.
        dialect: table of meanings by which it was read back.
        tool: that turns.
        pulls: how far the bar is pulled before each segment but the first. [mm]
        ends_mm: where every segment ends, before Z0. [mm]
        first_mm: where the free end stands at first. [mm]
    """

    text: str
    dialect: str
    tool: int
    pulls: tuple[float, ...]
    ends_mm: float
    first_mm: float


def segments_asked(worked: Worked, cycle: Press) -> tuple[Stretch, ...]:
    """Return the segments that Hold has for a cycle's first setup; none where it asks for none."""
    things = {thing_of(worked.plan.setup(key)) for key in cycle.setups[:1]}
    found = next(
        (
            one.answer.result["segments"]
            for one in hold_asked(worked, contacts(worked))
            if one.question == "segments" and one.thing in things and one.answer is not None
        ),
        (),
    )
    return tuple(found)


def write_segments(worked: Worked, cycle: Press) -> SegmentProgram:
    """Return the program that turns the segments of a cycle's first setup, with a hard stop before each pull.

    Args:
        worked: the plan worked out.
        cycle: which.

    Raises:
        NotNow: if the machine is no lathe with a control, there are no segments, no tool turns, or reading it back shows a fault.

    Source:
        Rule of the Hold step for the segments; the bar is pulled by the length of the next one, so that every segment ends
        at the same place before the collet: own derivation.
    """
    machine = worked.machines.get(cycle.machine_id or 0)
    if machine is None or not machine.turns or machine.is_manual:
        raise NotNow("Segments are written for a lathe with a control.", "Choose the machine on Hold.")
    stretches = segments_asked(worked, cycle)
    if not stretches:
        raise NotNow("No bar of this setup is cut in segments.", "Answer the segments on Hold first.")
    step, speed = _turning(worked, cycle)
    dialect = usual_dialect(machine)
    given = given_of(worked, cycle, dialect, {}, ProgramZero())
    bar = _bar(worked, cycle)
    shape = _Shape(stretches, bar, given.dialect, worked.plan.heading.unit)
    head = [
        comment_of(f"{worked.plan.heading.part}, {cycle.name}: {len(stretches)} segments"),
        "(PROVE IT DRY, IN SINGLE BLOCK. THE SPINDLE STANDS BEFORE A HAND GOES IN)",
        comment_of(f"every segment ends at Z{shape.length(-shape.ends)}"),
        comment_of(f"first the free end stands at Z{shape.length(shape.start(0))}"),
    ]
    frame = _SegmentFrame(
        TableWords(given.dialect), shape.unit, step.tool, speed.speed.rpm, cycle.stations[0].offset or "G54"
    )
    parts = [shape.segment(n, speed.feed_mm) for n in range(len(stretches))]
    pulled = [f"{shape.length(shape.long(n))} {shape.unit}" for n in range(1, len(parts))]
    text = frame.whole(head, parts, pulled)
    for n, part in enumerate(parts):
        told = shape.told(n, given, step.tool, frame.offset)
        _prove_segment(frame.whole([], [part], []), told, float(min(stretches[n].ends_mm)))
    _prove_pulls(read_program(text, _bare(given, frame.offset)), bar, len(parts) - 1)
    pulls = tuple(shape.long(n) for n in range(1, len(stretches)))
    return SegmentProgram(text, dialect, step.tool, pulls, shape.ends, shape.start(0))


@dataclass(frozen=True, slots=True)
class _SegmentFrame:
    """What stands round the segments: safe start and end, tool and spindle, the stops."""

    words: TableWords
    unit: LengthUnit
    tool: int
    rpm: float
    offset: str

    def whole(self, head: Sequence[str], parts: Sequence[Sequence[str]], pulled: Sequence[str]) -> str:
        """A program of some segments, the bar pulled by so much before each but the first."""
        words, on = self.words, f"G97 S{self.rpm:.0f} M3"
        lines = ["%", *head, words.start(self.unit), *words.away, words.tool(self.tool), on]
        lines += [self.offset, *words.length(self.tool), *parts[0]]
        for pull, part in zip(pulled, parts[1:], strict=True):
            lines += ["M5", f"M0 {comment_of(f'pull the bar {pull}, tighten')}", on, *part]
        return "\n".join([*lines, *words.away, "M5", "M9", "M30", "%"]) + "\n"


def _turning(worked: Worked, cycle: Press) -> tuple[ToolStep, CutSpeed]:
    """The tool that turns, with its speed and feed."""
    speeds = speeds_of(worked)
    for step in worked.plan.tools_of(cycle.setups[0]):
        if step.tool and step_ground(worked, step).work == "turn" and step.tool in speeds:
            return step, speeds[step.tool]
    raise NotNow(
        "No tool of this setup turns at a known speed.",
        "Put it on Tools, with its register row and material.",
    )


def _bar(worked: Worked, cycle: Press) -> float:
    contact = next(one for one in contacts(worked) if one.setup.key == cycle.setups[0])
    return 2 * max(radius for _, radius in contact.piece.before.profile)


@dataclass(frozen=True, slots=True)
class _Shape:
    """Segments in the coordinates of their program: every one ends at the same Z."""

    stretches: Sequence[Stretch]
    bar: float
    table: Meanings
    unit: LengthUnit

    @property
    def ends(self) -> float:
        """Where every segment ends before Z0: as far as the longest is long, [mm]."""
        return max(self.long(n) for n in range(len(self.stretches)))

    def long(self, n: int) -> float:
        return float(self.stretches[n].end_mm - self.stretches[n].start_mm)

    def start(self, n: int) -> float:
        return self.long(n) - self.ends

    def length(self, mm: float) -> str:
        """A length as the program writes it."""
        text = f"{mm / float(MM_PER_INCH):.4f}" if self.unit == "in" else f"{mm:.3f}"
        return text.rstrip("0") if float(text) else "0."

    def x(self, across: float) -> str:
        return f"X{self.length(across if self.table.x == 'diameter' else across / 2)}"

    def segment(self, n: int, feed_mm: float) -> list[str]:
        """The blocks of one segment: up to it, pass by pass, and far out again."""
        one = self.stretches[n]
        start, out = self.start(n), self.x(self.bar + 2 * OUT_MM)
        touch = start + float(one.overlap_mm)
        end, far = f"Z{self.length(-self.ends)}", f"Z{self.length(start + LEAD_MM)}"
        lines = [comment_of(f"segment {n + 1}"), f"G0 {out}", f"G0 {far}"]
        feed = f"F{feed_mm / float(MM_PER_INCH):.4f}" if self.unit == "in" else f"F{feed_mm:.3f}"
        passes: list[tuple[float, float]] = [(float(across), float(across)) for across in one.passes_mm]
        first, last = map(float, one.ends_mm)
        if first != last:
            passes.append((first, last))
        for begin, finish in passes:
            lines += [
                f"G0 {self.x(begin + 2 * LEAD_MM)}",
                f"G1 {self.x(begin + 2 * LEAD_MM)} Z{self.length(touch)} {feed}",
                f"G1 {self.x(begin)}",
                f"G1 {self.x(finish)} {end}",
                f"G1 {self.x(self.bar + 2 * LEAD_MM)}",
                f"G0 {far}",
            ]
        return [*lines, f"G0 {out}"]

    def told(self, n: int, given: Given, tool: int, code: str) -> Given:
        """What the proof of one segment is told: the bar as it stands by then, its thinner front left out."""
        blank = RoundBlank(self.bar, (-self.ends - BEHIND_MM, self.start(n)))
        figures = {tool: ToolFigures(None, "turn", 0.0)}
        return Given(
            given.dialect, Slides(), {code: (0.0, 0.0, 0.0)}, {code: blank}, plan=Planned(figures=figures)
        )


def _bare(given: Given, code: str) -> Given:
    return Given(given.dialect, Slides(), {code: (0.0, 0.0, 0.0)})


def _not_proven(line: int) -> NotNow:
    return NotNow(
        f"The segments do not read back as planned, at line {line}.",
        "Look at the profile on Hold; they are not offered so.",
    )


def _prove_segment(text: str, told: Given, least: float) -> None:
    """No word unknown, no fault, and nothing thinner than it is finished.

    Raises:
        NotNow: if that is not so.
    """
    found = read_program(text, told)
    wrong = next(iter(found.tally.faults), None)
    if wrong is not None or not found.is_whole:
        raise _not_proven(wrong.line if wrong is not None else 0)
    thin = next(
        (
            move
            for move in found.trace.moves
            if move.kind == "feed" and min(p[0] for p in move.points) * 2 < least - NEARLY
        ),
        None,
    )
    if thin is not None:
        raise _not_proven(thin.line)


def _prove_pulls(found: ProgramRead, bar: float, pulls: int) -> None:
    """A stop before each pull, the tool far outside the bar by then.

    Raises:
        NotNow: if that is not so.
    """
    stops = [line for line, code, _ in found.tally.stops if code == "M0"]
    if len(stops) != pulls or not found.is_whole:
        raise _not_proven(stops[-1] if stops else 0)
    for line in stops:
        last = [move for move in found.trace.moves if move.line < line][-1]
        if last.points[-1][0] < bar / 2 + OUT_MM - NEARLY:
            raise _not_proven(line)
