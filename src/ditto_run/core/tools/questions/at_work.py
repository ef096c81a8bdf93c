"""What the questions of a tool at work may look at, and what follows for it from the job: its sizes, its way, its tip."""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property
from math import ceil

from ditto_run.core.errors import DittoError
from ditto_run.core.hold.questions.ground import mm
from ditto_run.core.part.features import Described, Role
from ditto_run.core.questions import Sourced
from ditto_run.core.shop import Machine
from ditto_run.core.shop.drawers import Material
from ditto_run.core.shop.groups import MaterialGroup, group_of
from ditto_run.core.shop.shop_tools import ShopTool
from ditto_run.core.sizes import read_size
from ditto_run.core.threads import Thread, read_thread
from ditto_run.core.threads.tapping import hole_for_percent
from ditto_run.core.tools.cutting.motion import infeeds_mm
from ditto_run.core.tools.cutting.paths import FINISH_DEPTH, Cutter, CutWay, Three, deep_of, way_of
from ditto_run.core.tools.cutting.spent import Spent
from ditto_run.core.tools.cutting.work import IN_A_HOLE, ON_AN_EDGE, Work, work_of
from ditto_run.core.tools.hole import BREAK_OUT_MM, REAMER_LEAD_MM, pecks_of, point_mm
from ditto_run.core.tools.passes_sheet import NOSE_SHARE
from ditto_run.core.tools.speed_sheet import CutSpeed
from ditto_run.core.tools.tapping_sheet import SIXTY_DEGREES, USUAL_PERCENT
from ditto_run.core.tools.tool_step import ToolStep
from ditto_run.core.units import LengthUnit

SIZED = re.compile(r"\b(?:drill|pilot|ream)\s+(?:to\s+)?(#?[\w./]+(?:\s*(?:mm|in)\b)?)", re.IGNORECASE)
THREADED = re.compile(r"\b(?:tap|thread)\s+(\S+(?:\s+\S+)?)", re.IGNORECASE)
PLUG_LEAD = 4  # threads of a plug tap that do not cut full depth; common practice, no source
THREAD_DEEP = 0.6134  # of the pitch: an outside thread to its root; docs/sources.md
FIRST_INFEED, LEAST_INFEED = 0.25, 0.03  # of a thread; common practice. [mm]


@dataclass(frozen=True)
class StepGround:
    """One tool step with what is known of it.

    Args:
        step: the tool step.
        row: of the register for its tool; None where it has none.
        machine: of its setup; None while not chosen.
        turns: True on a lathe.
        material: of the job, as typed.
        metal: its row of the register; None where it has none.
        unit: of the job.
        made: the features it makes, as their lines say them.
        size_mm: of the part along x, y and z; None while not known. [mm]
        raw_mm: the diameter before the setup turns it, or what it takes off the face that is up; None while not known. [mm]
        tip_mm: from what is highest there down to the tool's tip, by the heights of the setup; None while not known. [mm]
        learned: speed that closed batches proved for this tool, machine and material, and how many; None for none. [rev/min]
        turning: how fast it turns, once that is answered.
        spent: what it takes of the machine, once that is answered.
        over_mm: what stands above the finished top there; None while heights are not known. [mm]
        others: the cutter it has and others at hand that would do the same, with the time of each, once that is worked out. [s]
        pieces: to start. [pieces]
        deepest_mm: a pass the machine has the power for, where the usual one is too deep; None where it is not. [mm]
    """

    step: ToolStep
    row: ShopTool | None
    machine: Machine | None
    turns: bool
    material: str
    metal: Material | None
    unit: LengthUnit
    made: Sequence[Described] = ()
    size_mm: Three | None = None
    raw_mm: float | None = None
    tip_mm: float | None = None
    learned: tuple[float, str] | None = None
    turning: CutSpeed | None = None
    spent: Spent | None = None
    over_mm: float | None = None
    deepest_mm: float | None = None
    others: tuple[tuple[str, float], ...] = ()
    pieces: int = 0

    @cached_property
    def work(self) -> Work | None:
        """What kind of cutting it is; None for none, and for a hand tool."""
        by_hand = not self.step.tool and (self.machine is None or not self.machine.is_manual)
        kind = self.row.kind if self.row is not None else ""
        return None if by_hand else work_of(self.step.does, kind, turns=self.turns)

    @property
    def group(self) -> MaterialGroup | None:
        """Materials it is cut like; None where the material's name does not tell."""
        return group_of(self.material)

    @property
    def rough_only(self) -> bool:
        """True where its words say rough and not finish."""
        return "rough" in self.step.does.lower() and "finish" not in self.step.does.lower()

    @property
    def finish_only(self) -> bool:
        """True where its words say finish and not rough."""
        return "finish" in self.step.does.lower() and "rough" not in self.step.does.lower()

    @cached_property
    def thread(self) -> Thread | None:
        """The thread it cuts: by its words, else of the feature it makes; None where neither says one."""
        said = THREADED.search(self.step.does)
        texts = [said[1], said[1].split()[0]] if said is not None else []
        texts += [one.sizes[Role.THREAD].name for one in self.made if Role.THREAD in one.sizes]
        for text in texts:
            try:
                return read_thread(text)
            except DittoError:
                continue
        return None

    @cached_property
    def tool_across(self) -> Sourced | None:
        """Diameter of the tool, or width of a blade."""
        if self.step.across_mm is not None:
            return Sourced(mm(self.step.across_mm), "said", self.step.name)
        if self.row is not None and self.row.across_mm is not None:
            return Sourced(mm(self.row.across_mm), "register", self.row.name)
        if self.work == "tap" and self.thread is not None:
            return Sourced(mm(self.thread.mm(self.thread.major)), "drawing", self.thread.name)
        said = SIZED.search(self.step.does)
        if said is not None and self.work in {"drill", "ream"}:
            try:
                size = read_size(said[1], self.unit).nominal_base
            except DittoError:
                size = Decimal(0)
            if size > 0:
                return Sourced(mm(size), "said", self.step.name)
        return self._tap_drill()

    def _tap_drill(self) -> Sourced | None:
        """The drill of a thread where its words name no other one."""
        thread = self.thread if self.work == "drill" else None
        if thread is None or thread.form != SIXTY_DEGREES or thread.taper:
            return None
        hole = thread.mm(hole_for_percent(thread, USUAL_PERCENT))
        return Sourced(mm(round(hole, 2)), "computed", f"{thread.name} at {USUAL_PERCENT:f} %")

    @cached_property
    def across_mm(self) -> float | None:
        """Diameter of the tool, or width of a blade, [mm]; None while not known."""
        return float(Decimal(self.tool_across.text.removesuffix(" mm"))) if self.tool_across else None

    @cached_property
    def work_across(self) -> Sourced | None:
        """Diameter of the work at the edge that cuts it."""
        if self.work == "thread" and self.thread is not None:
            return Sourced(mm(self.thread.mm(self.thread.major)), "drawing", self.thread.name)
        sizes = [one.sizes[Role.DIAMETER] for one in self.made if Role.DIAMETER in one.sizes]
        if self.work == "bore" and sizes:
            return Sourced(mm(sizes[0].nominal_base), "drawing", "features")
        if self.turns and self.raw_mm is not None and not self.finish_only:
            return Sourced(mm(self.raw_mm), "computed", "piece as it goes in")
        return Sourced(mm(sizes[0].nominal_base), "drawing", "features") if sizes else None

    @property
    def across(self) -> Sourced | None:
        """The diameter that counts for its speed: of the work for an edge, else of the tool."""
        return self.work_across if self.work in ON_AN_EDGE else self.tool_across

    @cached_property
    def point_mm(self) -> float:
        """What of the tool does not cut full size, past the far face counted, [mm]."""
        through = any(one.through for one in self.made)
        beyond = float(BREAK_OUT_MM) if through else 0.0
        if self.work not in IN_A_HOLE:
            return 0.0
        if self.row is not None and self.row.lead_mm is not None:
            return float(self.row.lead_mm) + beyond
        if self.work == "drill" and self.across_mm is not None:
            return float(point_mm(Decimal(repr(self.across_mm)))) + beyond
        if self.work == "ream":
            return float(REAMER_LEAD_MM) + beyond
        if self.work == "tap" and self.thread is not None:
            return PLUG_LEAD * float(self.thread.mm(self.thread.pitch)) + beyond
        return beyond

    @property
    def deep_mm(self) -> float | None:
        """How deep it cuts at full size; the deepest of what it makes, [mm]; None while not known."""
        if self.work == "spot":
            return self.across_mm / 4 if self.across_mm is not None else None
        deep = [deep_of(one, self.size_mm) for one in self.made]
        known = [one for one in deep if one is not None]
        return max(known) if known and len(known) == len(deep) else None

    @cached_property
    def way(self) -> CutWay | None:
        """Its way for one piece; None where it does not follow for all it makes."""
        if self.work is None or not self.made:
            return None
        cutter = Cutter(
            self.work,
            self.across_mm or 0.0,
            self.group.soft if self.group is not None else False,
            self.point_mm,
            self._times(),
            self.raw_mm,
            float(self.thread.mm(self.thread.pitch)) if self.thread is not None else 0.0,
            not self.finish_only,
            not self.rough_only,
            self.deepest_mm,
            self.last_mm,
        )
        if self.work in {"mill", *IN_A_HOLE} and not cutter.across_mm:
            return None
        ways = [way_of(one, self.size_mm, cutter) for one in self.made]
        found = ways[0]
        for way in ways[1:]:
            found = found.and_then(way) if found is not None and way is not None else None
        return found

    @property
    def last_mm(self) -> float:
        """What the last pass of a lathe takes, on the radius, [mm]."""
        return max(FINISH_DEPTH, NOSE_SHARE * self.nose_mm)

    @property
    def nose_mm(self) -> float:
        """Radius of the edge's nose: of the register, else of its insert; 0 while not known, [mm]."""
        if self.row is None:
            return 0.0
        insert = self.row.insert.radius_mm if self.row.insert is not None else None
        return float(self.row.radius_mm or insert or 0)

    def _times(self) -> int:
        """How often a drill comes out for chips, or a thread is gone over."""
        if self.work == "thread" and self.thread is not None:
            pitch = float(self.thread.mm(self.thread.pitch))
            return len(infeeds_mm(THREAD_DEEP * pitch, FIRST_INFEED, LEAST_INFEED))
        if self.work != "drill" or not self.across_mm or self.deep_mm is None:
            return 0
        pecks = pecks_of(Decimal(repr(self.deep_mm / self.across_mm)))
        if pecks.how != "out of the hole":
            return 0
        return max(ceil((self.deep_mm / self.across_mm - float(pecks.first)) / float(pecks.then)), 0)


def computed(value: float | None, of: str) -> Sourced | None:
    """Return a length that follows from the job, [mm]; None where it does not."""
    return None if value is None or value <= 0 else Sourced(mm(round(value, 3)), "computed", of)


def of_machine(ground: StepGround, text: str) -> Sourced | None:
    """Return a figure of the machine; None where nobody has typed it."""
    return Sourced(text, "register", ground.machine.name) if ground.machine is not None and text else None


def plain(value: Decimal | float | None) -> str:
    """Return a number as it would be typed, [any unit]; empty for none."""
    return "" if value is None else f"{Decimal(repr(value)) if isinstance(value, float) else value:f}"


def edge(ground: StepGround) -> Sourced | None:
    """Return what it cuts with: by the register, by its insert, else as such tools mostly are."""
    row = ground.row
    if row is not None and row.edge:
        return Sourced(row.edge, "register", row.name)
    if row is not None and row.insert is not None:
        return Sourced("carbide", "register", row.name)
    by_hand = ground.machine is not None and ground.machine.is_manual
    return Sourced("HSS" if ground.work in IN_A_HOLE or by_hand else "carbide", "practice")
