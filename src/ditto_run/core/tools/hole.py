"""How a hole is made: drilled alone, reamed or bored; spotted, piloted, pecked; and how deep each tool goes.

Every limit here is common practice, no source, unless it says another; each stands by its name so that it can be argued with.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from math import radians, tan
from typing import Literal

from ditto_run.core.method.rules import DEEP, PECK
from ditto_run.core.part.fit import drill_before, match_reamers, ream_allowance_mm
from ditto_run.core.sizes.iso286 import BANDS_MM, GRADES

Finish = Literal["drill", "ream", "bore"]
FINER = min(GRADES) - 1  # stands for every grade finer than those of the table
EntryFace = Literal["machined", "raw", "round"]
Drill = Literal["jobber", "stub"]

WANDERS_MM = Decimal("0.2")  # a position asked closer than this wants a spot, whatever the drill
PILOT_FROM_MM = Decimal(13)  # from here a pilot; half an inch is just below
PILOT_SHARE = Decimal("0.2")  # of the drill: about its web, which does not cut but push
POINT_DEG = 118
BREAK_OUT_MM = Decimal(1)  # past the far face of a through hole
REAMER_LEAD_MM = Decimal(2)  # of a machine reamer that does not cut full size
BORE_LEAVES_MM = Decimal("0.5")  # on the diameter, at least
REAMED = range(7, 10)  # grades for which reamers are sold, from the nominal size upward
FINEST_BORED = 6  # grade a boring bar holds with care
OVER_MM, OVER_SHARE = Decimal("0.05"), Decimal("0.005")  # what a drill cuts over its size
CLEARS_FROM = 6  # depth over diameter from which chips have to come out; up to it they are broken


@dataclass(frozen=True, slots=True)
class Hole:
    """A hole as it is wanted.

    Args:
        nominal_mm: its size, above 0. [mm]
        limits_mm: least and largest; None where the drawing gives none. [mm]
        deep_mm: depth at full diameter, or the wall it goes through; None while not known. [mm]
        through: it goes through.
        entry: face it starts on.
        drill: kind of drill at hand.
        place_mm: how far its place may be off; None where nothing says. [mm]
    """

    nominal_mm: Decimal
    limits_mm: tuple[Decimal, Decimal] | None = None
    deep_mm: Decimal | None = None
    through: bool = False
    entry: EntryFace = "machined"
    drill: Drill = "jobber"
    place_mm: Decimal | None = None


@dataclass(frozen=True, slots=True)
class HoleTool:
    """One tool of a hole, in the order of the work.

    Args:
        does: spot, pilot, drill, ream or bore.
        name: as the drawer calls it; empty for a spot and a boring bar.
        across_mm: its diameter; None for a spot. [mm]
        why: the rule that put it there.
    """

    does: Literal["spot", "pilot", "drill", "ream", "bore"]
    name: str
    across_mm: Decimal | None
    why: str


@dataclass(frozen=True, slots=True)
class Pecks:
    """How a deep hole is pecked, in diameters of its drill.

    Args:
        how: through in one, broken chips, or out each time.
        first: first bite. [diameters]
        then: each after it. [diameters]
    """

    how: Literal["in one", "break the chip", "out of the hole"]
    first: Decimal
    then: Decimal


@dataclass(frozen=True, slots=True)
class HoleMade:
    """How a hole is made.

    Args:
        finish: what makes its size.
        tools: in order; without a drill where the drawer has none that fits before the finish.
        grade: the widest standard tolerance grade within its limits; None without limits or beyond 500 mm.
        lacks: what the shop has not, or has not listed: drill or reamer; empty where it has all.
        point_mm: of the drill. [mm]
        to_mm: depth of the drill's point; None while the depth is not known. [mm]
        pecks: None while the depth is not known.
        slender: depth over the drill's diameter; None while the depth is not known.
    """

    finish: Finish
    tools: tuple[HoleTool, ...]
    grade: int | None
    lacks: tuple[str, ...]
    point_mm: Decimal | None = None
    to_mm: Decimal | None = None
    pecks: Pecks | None = None
    slender: Decimal | None = None

    @property
    def drill(self) -> HoleTool | None:
        """The drill; None where the drawer has none that fits."""
        return next((tool for tool in self.tools if tool.does == "drill"), None)


def grade_of(nominal_mm: Decimal, width_mm: Decimal) -> int | None:
    """Return the widest standard tolerance grade that is within a width, FINER where even the finest is wider; None beyond 500 mm.

    Args:
        nominal_mm: size of the hole. [mm]
        width_mm: upper less lower limit. [mm]

    Source:
        [iso286-1], its table of standard tolerances.
    """
    band = next((at for at, end in enumerate(BANDS_MM) if nominal_mm <= end), None)
    if band is None:
        return None
    within = (grade for grade, row in GRADES.items() if row[band] <= width_mm * 1000)
    return max(within, default=FINER)


def drilled_mm(drill_mm: Decimal) -> Decimal:
    """Return the largest hole a drill is likely to make, [mm]: 0.05 mm and a two-hundredth over it.

    Source:
        Common practice, no source.
    """
    return drill_mm + OVER_MM + drill_mm * OVER_SHARE


def point_mm(drill_mm: Decimal) -> Decimal:
    """Return how long the point of a 118° drill is, [mm]: half its diameter over the tangent of half the angle.

    Source:
        Own derivation.
    """
    return drill_mm / 2 / Decimal(repr(tan(radians(POINT_DEG / 2))))


def pecks_of(slender: Decimal) -> Pecks:
    """Return how a hole is pecked.

    Args:
        slender: depth over diameter. [-]

    Source:
        Common practice, no source.
    """
    if slender <= PECK:
        return Pecks("in one", slender, slender)
    if slender <= CLEARS_FROM:
        return Pecks("break the chip", Decimal(1), Decimal(1))
    return Pecks("out of the hole", Decimal(3), Decimal(1) if slender <= DEEP else Decimal("0.5"))


@lru_cache(maxsize=1024)
def make_hole(
    hole: Hole, drills: tuple[tuple[str, Decimal], ...], reamers: tuple[tuple[str, Decimal], ...]
) -> HoleMade:
    """Return how a hole is made.

    Args:
        hole: what is wanted.
        drills: name and diameter of each drill of the drawer. [mm]
        reamers: name and the diameter each cuts. [mm]

    Source:
        Common practice, no source; grades by [iso286-1].
    """
    nominal, limits = hole.nominal_mm, hole.limits_mm
    finish, last, lacks = _finish(nominal, limits, drills, reamers)
    grade = grade_of(nominal, limits[1] - limits[0]) if limits is not None else None
    found = _drill_for(finish, nominal, limits, last, drills)
    if found is None:
        return HoleMade(finish, _tools(None, last, "", "", ()), grade, (*lacks, "drill"))
    tools = _tools(found, last, _spot(hole), _drill_why(finish), _pilot(found[1], drills))
    point = point_mm(found[1])
    if hole.deep_mm is None:
        return HoleMade(finish, tools, grade, lacks, point)
    lead = REAMER_LEAD_MM if finish == "ream" and not hole.through else Decimal(0)
    to = hole.deep_mm + lead + point + (BREAK_OUT_MM if hole.through else Decimal(0))
    slender = hole.deep_mm / found[1]
    return HoleMade(finish, tools, grade, lacks, point, to, pecks_of(slender), slender)


def _finish(
    nominal: Decimal,
    limits: tuple[Decimal, Decimal] | None,
    drills: Sequence[tuple[str, Decimal]],
    reamers: Sequence[tuple[str, Decimal]],
) -> tuple[Finish, HoleTool | None, tuple[str, ...]]:
    """What makes the size, its tool where that is not the drill, and what is not there for it."""
    if limits is None or _alone(nominal, limits, drills) is not None:
        return "drill", None, ()
    best = next(iter(match_reamers(limits, reamers)), None)
    if best is None and limits[0] == nominal and (grade_of(nominal, limits[1] - limits[0]) or 0) in REAMED:
        why = "a drill cuts over its size and would leave the limits; reamers are sold for such a hole"
        return "ream", HoleTool("ream", "", nominal, why), ("reamer",)
    if best is not None and not best.off_mm:
        why = "a drill cuts over its size and would leave the limits; this reamer cuts inside them"
        return "ream", HoleTool("ream", best.name, best.cuts_mm, why), ()
    why = "no drill alone keeps the limits, and " + (
        "no reamer owned cuts inside them" if reamers else "no reamer is sold for them"
    )
    return "bore", HoleTool("bore", "", nominal, why), ()


def _alone(
    nominal: Decimal, limits: tuple[Decimal, Decimal], drills: Sequence[tuple[str, Decimal]]
) -> tuple[str, Decimal] | None:
    """The drill nearest the nominal size that keeps the limits by itself; None without one."""
    fits = [d for d in drills if limits[0] <= d[1] and drilled_mm(d[1]) <= limits[1]]
    return min(fits, key=lambda d: abs(d[1] - nominal), default=None)


def _drill_for(
    finish: Finish,
    nominal: Decimal,
    limits: tuple[Decimal, Decimal] | None,
    last: HoleTool | None,
    drills: Sequence[tuple[str, Decimal]],
) -> tuple[str, Decimal] | None:
    if finish == "ream" and last is not None and last.across_mm is not None:
        return drill_before(last.across_mm, ream_allowance_mm(nominal), drills)
    if finish == "bore":
        low = limits[0] if limits is not None else nominal
        return max((d for d in drills if d[1] <= low - BORE_LEAVES_MM), key=lambda d: d[1], default=None)
    if limits is not None:
        return _alone(nominal, limits, drills)
    return min(drills, key=lambda d: abs(d[1] - nominal), default=None)


def _pilot(drill: Decimal, drills: Sequence[tuple[str, Decimal]]) -> tuple[tuple[str, Decimal], ...]:
    """The pilot of a wide drill, as the one of a few there are; none for a narrow one."""
    if drill < PILOT_FROM_MM:
        return ()
    wide = [d for d in drills if PILOT_SHARE * drill <= d[1] < drill / 2]
    return (min(wide, key=lambda d: d[1]),) if wide else ()


def _spot(hole: Hole) -> str:
    """Why it is spotted; empty where it is not."""
    if hole.entry == "raw":
        return "the face is not machined: a drill slides on it"
    if hole.entry == "round":
        return "it starts on a round: a drill walks off it, so spot it, or mill a flat first"
    if hole.place_mm is not None and hole.place_mm <= WANDERS_MM:
        return "its place is asked closer than a drill finds by itself"
    return "" if hole.drill == "stub" else "a jobber drill wanders before it cuts"


def _drill_why(finish: Finish) -> str:
    return {
        "drill": "it keeps what the drawing asks by itself",
        "ream": "leaves the reamer enough to cut and not too much",
        "bore": "the largest that leaves the bar something to cut",
    }[finish]


def _tools(
    drill: tuple[str, Decimal] | None,
    last: HoleTool | None,
    spot: str,
    why: str,
    pilot: tuple[tuple[str, Decimal], ...],
) -> tuple[HoleTool, ...]:
    found = [HoleTool("spot", "", None, spot)] if spot else []
    found += [
        HoleTool("pilot", name, across, "about the web of the drill after it, which pushes and does not cut")
        for name, across in pilot
    ]
    if drill is not None:
        found.append(HoleTool("drill", *drill, why))
    return (*found, last) if last is not None else tuple(found)
