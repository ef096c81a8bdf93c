"""The way a tool goes at feed to make a feature: how long, in how many passes, with how many moves between."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from math import ceil, pi, sqrt, tan

from ditto_run.core.part.features.described import Described
from ditto_run.core.part.features.kinds import Role
from ditto_run.core.part.shape.laid import known_mm
from ditto_run.core.tools.cutting.passes import layers_of, turned_passes
from ditto_run.core.tools.cutting.work import Work

CLEAR_MM = 2.0  # before and behind a cut; common practice, no source
OVERLAP = 0.7  # of a cutter's diameter taken beside the last stroke; common practice
SLOT_DEPTH = (0.5, 1.0)  # of a cutter's diameter at full width: hard and soft; common practice
SIDE_DEPTH = (1.0, 1.5)  # the same beside a wall
TURN_DEPTH = (1.5, 2.0)  # on the radius, hard and soft; common practice. [mm]
FINISH_DEPTH = 0.25  # on the radius, left for the last pass; common practice. [mm]
BORE_OFF_MM = 1.0  # on the diameter, that a drill leaves a bar; common practice
FACE_DEPTH = 1.0  # of a face; common practice. [mm]
SIDES = {"hexagon": 6, "square": 4}
Three = tuple[float, float, float]
AREA: dict[str, tuple[int, int]] = {
    "top": (0, 1),
    "bottom": (0, 1),
    "front": (0, 2),
    "back": (0, 2),
    "left": (1, 2),
    "right": (1, 2),
}


@dataclass(frozen=True, slots=True)
class CutWay:
    """The way of one tool for one feature of one piece.

    Args:
        feed_mm: at feed. [mm]
        moves: moves in the air besides, there and back.
        move_mm: length of one, taken alike. [mm]
        deep_mm: depth of a pass, on the radius of a lathe. [mm]
        wide_mm: of a milling cutter that engages; 0 for other work. [mm]
        passes: how often it goes over it.
        turns_back: the spindle reverses so often.
    """

    feed_mm: float
    moves: int
    move_mm: float
    deep_mm: float
    wide_mm: float = 0.0
    passes: int = 1
    turns_back: int = 0

    def and_then(self, other: "CutWay") -> "CutWay":
        """Return this way and another after it; the heavier cut of the two counts."""
        moves = self.moves + other.moves
        run = self.moves * self.move_mm + other.moves * other.move_mm
        heavy = max((self, other), key=lambda one: (one.deep_mm * (one.wide_mm or 1.0), one.deep_mm))
        return CutWay(
            self.feed_mm + other.feed_mm,
            moves,
            run / moves if moves else 0.0,
            heavy.deep_mm,
            heavy.wide_mm,
            self.passes + other.passes,
            self.turns_back + other.turns_back,
        )


@dataclass(frozen=True, slots=True)
class Cutter:
    """What is known of the tool and the work for its way.

    Args:
        work: kind of cutting.
        across_mm: of the tool, a blade's width; 0 for an edge that has none. [mm]
        soft: True for aluminium, brass and plastics.
        point_mm: of it, that does not cut full size. [mm]
        times: how often a drill comes up for chips, or a thread is gone over; 0 for not at all.
        raw_mm: taken off a face, or the diameter before it is turned; None while not known. [mm]
        pitch_mm: of a thread. [mm]
        rough, finish: what the step's words say of it; both where they say neither.
        last_mm: depth of the last pass of a lathe, on the radius: an edge with a large nose rubs on less. [mm]
        deepest_mm: a pass the machine has the power for; None where it is not in the way. [mm]
    """

    work: Work
    across_mm: float
    soft: bool = False
    point_mm: float = 0.0
    times: int = 0
    raw_mm: float | None = None
    pitch_mm: float = 0.0
    rough: bool = True
    finish: bool = True
    deepest_mm: float | None = None
    last_mm: float = FINISH_DEPTH

    def most(self, usual_mm: float) -> float:
        """Return how deep a pass is at most: as usual, or as the machine has the power for, [mm]."""
        return usual_mm if self.deepest_mm is None else min(usual_mm, self.deepest_mm)


def way_of(feature: Described, size_mm: Three | None, cutter: Cutter) -> CutWay | None:
    """Return the way of a tool for a feature; None where it does not follow from what is known.

    Args:
        feature: as its line says it.
        size_mm: of the part along x, y and z; of a turned part its length and twice the diameter. [mm]
        cutter: the tool.

    Source:
        Own derivation from the feature's sizes; steps beside and down are common practice, no source.
    """
    if cutter.work in {"drill", "spot", "ream", "tap"}:
        return _down(feature, size_mm, cutter)
    if (cutter.work == "knurl") is not (feature.kind == "knurl"):
        return None
    found = (MILLED if cutter.work == "mill" else TURNED).get(feature.kind)
    return None if found is None else found(feature, size_mm, cutter)


def deep_of(feature: Described, size_mm: Three | None) -> float | None:
    """Return how deep a feature is, [mm]; of a through one the part behind its face, None where nothing says.

    Args:
        feature: as its line says it.
        size_mm: of the part along x, y and z. [mm]
    """
    deep = known_mm(feature.sizes, Role.DEPTH)
    if deep is not None and not feature.through:
        return deep
    if size_mm is None or not feature.through:
        return None
    if feature.face not in AREA:
        return size_mm[0] if feature.face else size_mm[1]
    return size_mm[3 - sum(AREA[feature.face])]


def _down(feature: Described, size_mm: Three | None, cutter: Cutter) -> CutWay | None:
    """Spot, drill, ream or tap: down and up at each place; a tap comes back at feed."""
    if cutter.work == "spot":
        deep: float | None = cutter.across_mm / 4
    else:
        deep = deep_of(feature, size_mm)
    if deep is None:
        return None
    way = deep + cutter.point_mm + CLEAR_MM
    if cutter.work == "tap":
        return CutWay(2 * way * feature.count, feature.count, 10 * CLEAR_MM, deep, 0.0, 1, 2 * feature.count)
    moves = 2 * (1 + cutter.times) * feature.count
    run = way if cutter.work == "ream" else way / 2 if cutter.times else way
    feed = way * feature.count * (2 if cutter.work == "ream" else 1)
    return CutWay(feed, moves, run, deep, 0.0, 1 + cutter.times)


def _strokes(wide: float, cutter: Cutter) -> int:
    """How often a cutter goes beside itself to cover a width; once where it is as wide."""
    if wide <= cutter.across_mm * (1 + 1e-9):
        return 1
    return 1 + ceil((wide - cutter.across_mm) / (OVERLAP * cutter.across_mm) - 1e-9)


def _strips(long: float, wide: float, deep: float, cutter: Cutter, most: float) -> CutWay:
    """A field milled in strokes, layer by layer."""
    layers, strokes = layers_of(deep, cutter.most(most)), _strokes(wide, cutter)
    each = long + cutter.across_mm + 2 * CLEAR_MM
    engaged = min(wide, cutter.across_mm)
    return CutWay(
        each * strokes * layers, strokes * layers, each / 2, deep / layers, engaged, strokes * layers
    )


def _round(once: float, deep: float, cutter: Cutter) -> CutWay:
    """Once round a wall at full depth, with a little left on it."""
    return CutWay(once + cutter.across_mm + 2 * CLEAR_MM, 2, deep + 10 * CLEAR_MM, deep, FINISH_DEPTH)


def _sum(ways: list[CutWay]) -> CutWay | None:
    found = ways[0] if ways else None
    for way in ways[1:]:
        found = found.and_then(way) if found is not None else way
    return found


def _faced(feature: Described, size_mm: Three | None, cutter: Cutter) -> CutWay | None:
    if size_mm is None or feature.face not in AREA:
        return None
    first, second = (size_mm[axis] for axis in AREA[feature.face])
    long, wide = max(first, second), min(first, second)
    return _strips(long, wide, cutter.raw_mm or FACE_DEPTH, cutter, max(FACE_DEPTH, cutter.raw_mm or 0.0))


def _outlined(_feature: Described, size_mm: Three | None, cutter: Cutter) -> CutWay | None:
    if size_mm is None:
        return None
    long, wide, deep = size_mm
    once = 2 * (long + wide)
    off = cutter.raw_mm if cutter.raw_mm is not None else 2 * FACE_DEPTH
    layers = layers_of(deep, cutter.most(SIDE_DEPTH[cutter.soft] * cutter.across_mm))
    rough = CutWay(
        once * layers, 2, deep + 10 * CLEAR_MM, deep / layers, min(off / 2, cutter.across_mm), layers
    )
    finish = _round(once, deep, cutter)
    return _sum([way for way, wanted in ((rough, cutter.rough), (finish, cutter.finish)) if wanted])


def _pocketed(feature: Described, size_mm: Three | None, cutter: Cutter) -> CutWay | None:
    deep, long, wide = (
        deep_of(feature, size_mm),
        known_mm(feature.sizes, Role.LENGTH),
        known_mm(feature.sizes, Role.WIDTH),
    )
    across = known_mm(feature.sizes, Role.DIAMETER)
    long, wide = (across, across) if across is not None else (long, wide)
    if deep is None or long is None or wide is None or min(long, wide) < cutter.across_mm:
        return None
    inside = (max(long - cutter.across_mm, 0.0), max(wide - cutter.across_mm, 0.0))
    rough = _strips(inside[0], wide, deep, cutter, SLOT_DEPTH[cutter.soft] * cutter.across_mm)
    once = pi * inside[0] if across is not None else 2 * sum(inside)
    return _sum(
        [
            way
            for way, wanted in ((rough, cutter.rough), (_round(once, deep, cutter), cutter.finish))
            if wanted
        ]
    )


def _slotted(feature: Described, size_mm: Three | None, cutter: Cutter) -> CutWay | None:
    deep, wide = deep_of(feature, size_mm), known_mm(feature.sizes, Role.WIDTH)
    long = known_mm(feature.sizes, Role.LENGTH) or _along(feature, size_mm)
    if deep is None or wide is None or long is None or wide < cutter.across_mm * (1 - 1e-9):
        return None
    rough = _strips(long, wide, deep, cutter, SLOT_DEPTH[cutter.soft] * cutter.across_mm)
    walls = _round(2 * long, deep, cutter)
    same = wide <= cutter.across_mm * (1 + 1e-9)
    ways = [(rough, cutter.rough or same), (walls, cutter.finish and not same)]
    each = _sum([way for way, wanted in ways if wanted])
    return _sum([each] * feature.count) if each is not None else None


def _along(feature: Described, size_mm: Three | None) -> float | None:
    """The part's length along which an open slot or step runs, where that is said."""
    if size_mm is None:
        return None
    axis = {"length": 0, "width": 1, "height": 2}.get(feature.run)
    if axis is None and feature.extent == "full length":
        axis = 0
    if axis is None and feature.extent == "full width":
        axis = 1
    if axis is None and feature.open_at in AREA:
        axis = {"left": 1, "right": 1, "front": 0, "back": 0}.get(feature.open_at)
    return None if axis is None else size_mm[axis]


def _stepped(feature: Described, size_mm: Three | None, cutter: Cutter) -> CutWay | None:
    deep, wide = known_mm(feature.sizes, Role.DEPTH), known_mm(feature.sizes, Role.WIDTH)
    long = known_mm(feature.sizes, Role.LENGTH) or _along(feature, size_mm)
    if deep is None or wide is None or long is None:
        return None
    rough = _strips(long, wide, deep, cutter, SIDE_DEPTH[cutter.soft] * cutter.across_mm)
    walls = _round(long, deep, cutter)
    each = _sum([way for way, wanted in ((rough, cutter.rough), (walls, cutter.finish)) if wanted])
    return _sum([each] * feature.count) if each is not None else None


def _broken(feature: Described, size_mm: Three | None, _cutter: Cutter) -> CutWay | None:
    size = known_mm(feature.sizes, Role.SIZE)
    if size_mm is None or size is None:
        return None
    long, wide = (size_mm[axis] for axis in AREA.get(feature.face, (0, 1)))
    return CutWay(2 * (long + wide) + 2 * CLEAR_MM, 2, 10 * CLEAR_MM, size, size)


def _milled_hole(feature: Described, size_mm: Three | None, cutter: Cutter) -> CutWay | None:
    """A hole that is milled out round and round, a layer at a time."""
    deep, across = deep_of(feature, size_mm), known_mm(feature.sizes, Role.DIAMETER)
    if deep is None or across is None or across <= cutter.across_mm:
        return None
    layers = layers_of(deep, cutter.most(SLOT_DEPTH[cutter.soft] * cutter.across_mm))
    once = pi * (across - cutter.across_mm)
    rough = CutWay(once * (layers + 1), 2, deep + 10 * CLEAR_MM, deep / layers, cutter.across_mm, layers)
    return _sum([rough] * feature.count)


def _off(raw: float, across: float, cutter: Cutter) -> tuple[int, float]:
    """Passes from one diameter to another, and how deep the deepest is, on the radius, [mm]."""
    found = turned_passes(
        max(raw, across),
        across,
        cutter.most(TURN_DEPTH[cutter.soft]) if cutter.rough else max(raw - across, 1.0),
        cutter.last_mm if cutter.finish else 0.0,
    )
    if not cutter.rough:
        found = found[-1:]
    return max(len(found), 1), max((one.takes_mm for one in found), default=0.0)


def _turned_to(feature: Described, _size_mm: Three | None, cutter: Cutter) -> CutWay | None:
    across, long = known_mm(feature.sizes, Role.DIAMETER), known_mm(feature.sizes, Role.LENGTH)
    if across is None or long is None or cutter.raw_mm is None:
        return None
    passes, deep = _off(cutter.raw_mm, across, cutter)
    return CutWay((long + CLEAR_MM) * passes, passes, long + CLEAR_MM, deep, 0.0, passes)


def _bored_to(feature: Described, size_mm: Three | None, cutter: Cutter) -> CutWay | None:
    across, long = known_mm(feature.sizes, Role.DIAMETER), deep_of(feature, size_mm)
    if across is None or long is None:
        return None
    passes, deep = _off(across, across - BORE_OFF_MM, cutter)
    way = CutWay((long + CLEAR_MM) * passes, passes, long + CLEAR_MM, deep, 0.0, passes)
    return _sum([way] * feature.count)


def _faced_end(_feature: Described, size_mm: Three | None, cutter: Cutter) -> CutWay | None:
    across = cutter.raw_mm if cutter.raw_mm is not None else size_mm[1] if size_mm is not None else None
    return None if across is None else CutWay(across / 2 + CLEAR_MM, 2, across / 2, FACE_DEPTH)


def _grooved(feature: Described, _size_mm: Three | None, cutter: Cutter) -> CutWay | None:
    bottom, wide = known_mm(feature.sizes, Role.BOTTOM), known_mm(feature.sizes, Role.WIDTH)
    if bottom is None or cutter.raw_mm is None or cutter.raw_mm <= bottom:
        return None
    down = (cutter.raw_mm - bottom) / 2 + CLEAR_MM
    plunges = _strokes(wide, cutter) if wide and cutter.across_mm else 1
    return CutWay(
        down * plunges * feature.count,
        2 * plunges * feature.count,
        down,
        min(wide or cutter.across_mm, cutter.across_mm or wide or 0.0),
        0.0,
        plunges,
    )


def _parted(_feature: Described, size_mm: Three | None, cutter: Cutter) -> CutWay | None:
    across = cutter.raw_mm if cutter.raw_mm is not None else size_mm[1] if size_mm is not None else None
    return None if across is None else CutWay(across / 2 + CLEAR_MM, 2, across / 2, cutter.across_mm)


def _threaded(feature: Described, _size_mm: Three | None, cutter: Cutter) -> CutWay | None:
    """A thread by single point: one way for each infeed."""
    long = known_mm(feature.sizes, Role.LENGTH)
    if long is None or not cutter.pitch_mm or not cutter.times:
        return None
    run = long + 2 * cutter.pitch_mm + CLEAR_MM
    return CutWay(run * cutter.times, cutter.times, run, 0.0, 0.0, cutter.times)


def _flattened(feature: Described, size_mm: Three | None, cutter: Cutter) -> CutWay | None:
    """A flat on a round: as deep as a chord of its width lies under the outside."""
    wide = known_mm(feature.sizes, Role.WIDTH)
    if size_mm is None or wide is None:
        return None
    radius, long = size_mm[1] / 2, known_mm(feature.sizes, Role.LENGTH) or wide
    if wide >= 2 * radius:
        return None
    deep = radius - sqrt(radius**2 - wide**2 / 4)
    each = _strips(long, wide, deep, cutter, SIDE_DEPTH[cutter.soft] * cutter.across_mm)
    return _sum([each] * feature.count)


def _many_sided(feature: Described, size_mm: Three | None, cutter: Cutter) -> CutWay | None:
    """Flats of a hexagon or a square round a round, each as wide as the round or its neighbours leave it."""
    across, long = known_mm(feature.sizes, Role.ACROSS), known_mm(feature.sizes, Role.LENGTH)
    if size_mm is None or across is None or long is None or across >= size_mm[1]:
        return None
    sides = SIDES[feature.kind]
    wide = min(across * tan(pi / sides), sqrt(size_mm[1] ** 2 - across**2))
    deep = (size_mm[1] - across) / 2
    return _sum([_strips(long, wide, deep, cutter, SIDE_DEPTH[cutter.soft] * cutter.across_mm)] * sides)


def _knurled(feature: Described, _size_mm: Three | None, _cutter: Cutter) -> CutWay | None:
    """A knurl: along and back under pressure."""
    long = known_mm(feature.sizes, Role.LENGTH)
    return None if long is None else CutWay(2 * (long + CLEAR_MM), 2, 10 * CLEAR_MM, 0.0, 0.0, 2)


def _edged(feature: Described, _size_mm: Three | None, _cutter: Cutter) -> CutWay | None:
    """A chamfer that is turned: down its own size."""
    size = known_mm(feature.sizes, Role.SIZE)
    return None if size is None else CutWay(size + 2 * CLEAR_MM, 2, 10 * CLEAR_MM, size)


Follows = Callable[[Described, Three | None, Cutter], CutWay | None]
MILLED: Mapping[str, Follows] = {
    "face": _faced,
    "outline": _outlined,
    "pocket": _pocketed,
    "slot": _slotted,
    "step": _stepped,
    "chamfer": _broken,
    "broken edge": _broken,
    "slit": _slotted,
    "flat": _flattened,
    "hexagon": _many_sided,
    "square": _many_sided,
    "hole": _milled_hole,
    "bore": _milled_hole,
}
TURNED: Mapping[str, Follows] = {
    "face": _faced_end,
    "shoulder": _turned_to,
    "taper": _turned_to,
    "body": _turned_to,
    "hole": _bored_to,
    "bore": _bored_to,
    "groove": _grooved,
    "undercut": _grooved,
    "part off": _parted,
    "knurl": _knurled,
    "outside thread": _threaded,
    "chamfer": _edged,
    "broken edge": _edged,
}
