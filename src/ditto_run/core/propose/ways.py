"""Ways to make a feature: works one after another, and the finest tolerance grade each way holds.

Grades are common practice, no source: what a rigid machine of its kind holds without special care.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal, get_args

from ditto_run.core.errors import BadEntry
from ditto_run.core.part.faces import OPPOSITE
from ditto_run.core.part.features import Named, Role
from ditto_run.core.sizes import Size
from ditto_run.core.threads import read_thread, thread_limits
from ditto_run.core.threads.tapping import tap_drills
from ditto_run.core.tools.hole import FINEST_BORED, REAMED, Hole, grade_of, make_hole
from ditto_run.core.units import to_base

Does = Literal[
    "face",
    "rough",
    "finish",
    "saw",
    "spot",
    "pilot",
    "drill",
    "bore",
    "ream",
    "tap",
    "groove",
    "thread",
    "knurl",
    "chamfer",
    "part off",
]
ORDER: tuple[Does, ...] = get_args(Does)
"""What comes before what on a mill; as the order rules of Tools want it."""
TURNED_ORDER: tuple[Does, ...] = tuple(
    sorted(ORDER, key=lambda one: ORDER.index("tap") + 0.5 if one == "finish" else ORDER.index(one))
)
"""The same on a lathe: holes are made while the wall around them is thick."""

ONCE_OVER, SAME_TOOL, OTHER_TOOL = (
    10,
    9,
    8,
)  # grades of milling: at once, roughed and finished by one tool, by two
TURNED_ONCE, TURNED_SAME, TURNED_OTHER = 10, 8, 7  # the same of turning
SAWN, GROOVED, ROUND_MILLED = 13, 10, 9
PLACED_BY: dict[
    str, tuple[Decimal, Decimal]
] = {  # how near its place a work leaves a feature, ±, by control and by hand [mm]
    "drill": (Decimal("0.1"), Decimal("0.15")),  # a reamer and a tap follow the drilled hole, wherever it is
    "bore": (Decimal("0.02"), Decimal("0.03")),
    "milled": (Decimal("0.03"), Decimal("0.05")),
}
LEAVES_UM: dict[
    str, Decimal
] = {  # arithmetic mean roughness that the last work of a way leaves as a rule; common practice, no source [µm]
    "drill": Decimal("6.3"),
    "saw": Decimal("6.3"),
    "ream": Decimal("1.6"),
    "bore": Decimal("1.6"),
    "face": Decimal("3.2"),
    "groove": Decimal("3.2"),
    "once": Decimal("3.2"),
    "finish": Decimal("1.6"),
}
BAR_SHARE = Decimal("0.8")  # of a hole, that a boring bar or an end mill going round in it may be across
NARROWER = Decimal("0.95")  # of a slot: a cutter as wide as it leaves no wall to finish; own judgement
USUAL_THREAD = Decimal(70)  # share of thread, per cent
MILLED = {"outline", "step", "pocket", "slot", "flat", "hexagon", "square"}
HOLES = {"hole", "bore", "cross hole"}
MILLED_ROUND = "drilled, then milled round"
HAND_KINDS = {"by hand", "bend"}
FLAT_MOUTHS = {"counterbore", "spot"}
BY_TOOL = {"diameter", "thread"}  # sizes that the tool itself makes
MILL_KINDS, TURN_KINDS = ("end mill",), ("turning",)


How = Literal["once", "same", "other"]


@dataclass(frozen=True, slots=True)
class Work:
    """One work of a way.

    Args:
        does: what is done.
        kinds: of tool that do it, the usual one first.
        least_mm, most_mm: its diameter, where that is bound. [mm]
        deep_mm: it has to reach; None while not known. [mm]
        thread: that it cuts, such as M6; empty where its diameter says it.
    """

    does: Does
    kinds: tuple[str, ...]
    least_mm: Decimal | None = None
    most_mm: Decimal | None = None
    deep_mm: Decimal | None = None
    thread: str = ""

    @property
    def exact_mm(self) -> Decimal | None:
        """Its diameter, where only one will do. [mm]."""
        return self.least_mm if self.least_mm is not None and self.least_mm == self.most_mm else None


@dataclass(frozen=True, slots=True)
class WayToMake:
    """A way to make a feature.

    Args:
        name: what is done, in words.
        works: in order.
        grade: finest standard tolerance grade it holds; None where its tool makes the size, or none hangs on it.
        apart: True if roughing and finishing want two tools.
        place_mm: how near its place it leaves the feature, ±; None where nothing hangs on it. [mm]
        leaves_um: how rough a surface it leaves as a rule, Ra; None where that is not spoken of, as of threads and edges. [µm]
        shown_on: pieces on which this shop showed its grade; 0 where the table stands for it.
    """

    name: str
    works: tuple[Work, ...]
    grade: int | None = None
    apart: bool = False
    shown_on: int = 0
    place_mm: Decimal | None = None
    leaves_um: Decimal | None = None

    @property
    def how(self) -> How | None:
        """At once, roughed and finished by the same tool, or by another; None for any other way."""
        does = tuple(work.does for work in self.works)
        if does[:2] == ("rough", "finish"):
            return "other" if self.apart else "same"
        return "once" if does[:1] in {("finish",), ("face",)} else None


@dataclass(frozen=True, slots=True)
class Wanted:
    """The tightest size of a feature: what it is, its grade, and how wide its limits are. [mm]."""

    role: str
    grade: int
    wide_mm: Decimal


def wanted_of(feature: Named) -> Wanted | None:
    """Return the tightest size of a feature by its tolerance grade; None where none has two limits.

    Args:
        feature: as described.

    Source:
        [iso286-1], its table of standard tolerances.
    """
    found: list[Wanted] = []
    for role, size in feature.feature.sizes.items():
        limits = _limits(size)
        if limits is None or size.kind == "thread":
            continue
        grade = grade_of(size.nominal_base, limits[1] - limits[0])
        if grade is not None:
            found.append(Wanted(str(role), grade, limits[1] - limits[0]))
    return min(found, key=lambda one: (one.grade, one.wide_mm), default=None)


def place_of(feature: Named) -> Decimal | None:
    """Return how near its place a feature has to be, the tightest of its distances; None where none has two limits, ±[mm].

    Args:
        feature: as described.
    """
    described = feature.feature
    distances = [at.distance for at in described.places if at.distance is not None]
    distances += described.pattern.by if described.pattern is not None else ()
    found = [limits for size in distances if (limits := _limits(size)) is not None]
    return min(((high - low) / 2 for low, high in found), default=None)


def held_in_place(way: WayToMake, within_mm: Decimal | None) -> bool:
    """Return whether a way leaves a feature as near its place as it has to be.

    Args:
        way: of making it.
        within_mm: how near, ±; None without limits. [mm]
    """
    return within_mm is None or way.place_mm is None or way.place_mm <= within_mm


def held_by(way: WayToMake, wanted: Wanted | None) -> bool:
    """Return whether a way holds a feature's tightest size: by its tool where that makes it, else by its grade.

    Args:
        way: of making it.
        wanted: its tightest size; None without one.
    """
    if wanted is None:
        return True
    if way.grade is None:
        return wanted.role in BY_TOOL or wanted.grade >= ONCE_OVER
    return way.grade <= wanted.grade


def said_by(feature: Named, size: Size) -> Named:
    """Return a feature with the limits of a size of the part in place of its own, where it has none there.

    Args:
        feature: as described.
        size: that the feature carries, as it is gauged.
    """
    sizes = dict(feature.feature.sizes)
    for role, one in sizes.items():
        if one.unit != "arcsec" and not one.has_limits and one.nominal_base == size.nominal_base:
            sizes[role] = size
            return replace(feature, feature=replace(feature.feature, sizes=sizes))
    return feature


def beside(feature: Named, up: str, described: Sequence[Named]) -> Named:
    """Return a feature as a cutter meets it while a face is up: a face that stands beside it is a wall as high as the part there.

    Args:
        feature: as described.
        up: the face that is up; empty while not said.
        described: every feature of the part, for the size of its outline.
    """
    one = feature.feature
    if one.kind != "face" or not up or one.face in {"", up} or one.face not in OPPOSITE:
        return feature
    roles = {"top": Role.HEIGHT, "bottom": Role.HEIGHT, "left": Role.LENGTH, "right": Role.LENGTH}
    role = roles.get(up, Role.WIDTH)
    whole = next((other.feature for other in described if other.feature.kind == "outline"), None)
    high = whole.sizes.get(role) if whole is not None else None
    sizes = {**one.sizes, **({Role.DEPTH: replace(high, lower=None, upper=None)} if high is not None else {})}
    return replace(feature, feature=replace(one, kind="step", sizes=sizes))


def ways_of(
    feature: Named,
    *,
    turned: bool,
    drills: tuple[tuple[str, Decimal], ...] = (),
    reamers: tuple[tuple[str, Decimal], ...] = (),
    by_hand: bool = False,
) -> tuple[WayToMake, ...]:
    """Return the ways to make a feature on a class of machine, the shortest first; none where it is left to the hand or another machine.

    Args:
        feature: as described.
        turned: True on a lathe, False on a mill.
        by_hand: True on a machine without a control: it goes along one axis at a time, so no cutter goes round.
        drills: name and diameter of each there is. [mm]
        reamers: name and what it cuts of each there is. [mm]

    Source:
        Common practice, no source.
    """
    kind = feature.feature.kind
    across = kind == "cross hole" or feature.feature.face == "outside"
    if turned and across and kind in {*HOLES, "tapped hole"}:
        return ()
    if kind in HOLES:
        found = _hole_ways(feature, drills, reamers, turned=turned)
        if not turned:
            found = _bored_for_place(feature, found, by_hand=by_hand)
    elif kind == "tapped hole":
        found = _tapped_ways(feature, drills)
    else:
        found = _turned_ways(feature) if turned else _milled_ways(feature)
    if by_hand and not turned:
        round_pocket = kind == "pocket" and Role.DIAMETER in feature.feature.sizes
        found = () if round_pocket else tuple(way for way in found if way.name != MILLED_ROUND)
    if not turned and not across:
        found = tuple(replace(way, place_mm=_placed(way, by_hand=by_hand)) for way in found)
    found = tuple(replace(way, leaves_um=_leaves(way)) for way in found)
    more = _works_beside(feature, turned=turned)
    return tuple(replace(way, works=(*way.works, *more)) for way in found) if more else found


def _placed(way: WayToMake, *, by_hand: bool) -> Decimal:
    """How near its place a way leaves a feature, ±[mm]: a bore is where the spindle is, a drilled hole where the drill went."""
    does = {work.does for work in way.works}
    last = "bore" if "bore" in does else "milled" if does & {"finish", "face", "saw", "chamfer"} else "drill"
    return PLACED_BY[last][by_hand]


def _leaves(way: WayToMake) -> Decimal | None:
    """How rough a surface the last work of a way leaves as a rule, Ra, [µm]; None of threads and edges."""
    main = [work.does for work in way.works if work.does not in {"spot", "chamfer"}]
    if not main or main[-1] == "tap":
        return None
    return LEAVES_UM.get("once" if main == ["finish"] else main[-1])


def _bored_for_place(feature: Named, ways: tuple[WayToMake, ...], *, by_hand: bool) -> tuple[WayToMake, ...]:
    """Ways of a hole, and that it is bored, where its place is closer than drilling leaves it."""
    within = place_of(feature)
    size = feature.feature.sizes.get(Role.DIAMETER)
    if within is None or size is None or within >= PLACED_BY["drill"][by_hand]:
        return ways
    if any(work.does == "bore" for way in ways for work in way.works):
        return ways
    deep, under = _mm(feature, Role.DEPTH), size.nominal_base * BAR_SHARE
    spot = tuple(work for work in ways[0].works if work.does == "spot")[:1] if ways else ()
    works = (
        *spot,
        Work("drill", ("drill",), None, under, deep),
        Work("bore", ("boring bar",), None, under, deep),
    )
    return (*ways, WayToMake("drilled, then bored", works, FINEST_BORED))


def _works_beside(feature: Named, *, turned: bool) -> tuple[Work, ...]:
    """Works for what belongs to a feature: a counterbore, a countersink, a chamfer at its mouth."""
    found: list[Work] = []
    for word, sizes in feature.feature.parts.items():
        across, deep = sizes.get(Role.DIAMETER), sizes.get(Role.DEPTH)
        most = None if across is None else across.nominal_base
        if word in FLAT_MOUTHS:
            kinds = ("boring bar", *MILL_KINDS) if turned else MILL_KINDS
            found.append(Work("finish", kinds, None, most, None if deep is None else deep.nominal_base))
        else:
            found.append(Work("chamfer", ("turning", "chamfer") if turned else ("chamfer", "spot drill")))
    return tuple(found)


def _milled_ways(feature: Named) -> tuple[WayToMake, ...]:
    kind, deep = feature.feature.kind, _mm(feature, Role.DEPTH)
    if kind == "face":
        return (WayToMake("milled over", (Work("face", ("face mill", "end mill")),), ONCE_OVER),)
    if kind == "slit":
        width = _mm(feature, Role.WIDTH)
        return (
            WayToMake("sawn", (Work("saw", ("saw",), width, width),), SAWN),
            WayToMake("milled at once", (Work("finish", MILL_KINDS, None, width, deep),), ONCE_OVER),
        )
    if kind in {"chamfer", "broken edge"}:
        return (WayToMake("by a chamfer tool", (Work("chamfer", ("chamfer", "spot drill")),)),)
    if kind not in MILLED:
        return ()
    most = _widest_cutter(feature)
    once = Work("finish", MILL_KINDS, None, most, deep)
    if kind == "slot" and most is not None:
        most *= NARROWER
    rough, finish = (Work(does, MILL_KINDS, None, most, deep) for does in ("rough", "finish"))
    return (
        WayToMake("milled at once", (once,), ONCE_OVER),
        WayToMake("roughed and finished by one tool", (rough, finish), SAME_TOOL),
        WayToMake("roughed, then finished by another", (rough, finish), OTHER_TOOL, apart=True),
    )


def _widest_cutter(feature: Named) -> Decimal | None:
    """The widest cutter that goes into a feature, [mm]; None where nothing bounds it."""
    if feature.feature.kind == "slot":
        return _mm(feature, Role.WIDTH)
    if feature.feature.kind != "pocket":
        return None
    radius = _mm(feature, Role.RADIUS)
    sides = [
        side
        for side in (_mm(feature, Role.LENGTH), _mm(feature, Role.WIDTH), _mm(feature, Role.DIAMETER))
        if side is not None
    ]
    return 2 * radius if radius else min(sides, default=None)


def _turned_ways(feature: Named) -> tuple[WayToMake, ...]:
    kind = feature.feature.kind
    alone: dict[str, tuple[str, Work, int | None]] = {
        "face": ("faced", Work("face", TURN_KINDS), TURNED_ONCE),
        "outside thread": ("cut by a threading tool", Work("thread", ("threading",)), None),
        "knurl": ("knurled", Work("knurl", ("knurl",)), None),
        "part off": ("parted off", Work("part off", ("parting",)), None),
        "centre hole": ("centre drilled", Work("spot", ("spot drill", "drill")), None),
        "chamfer": ("turned", Work("chamfer", ("turning", "chamfer")), None),
        "broken edge": ("turned", Work("chamfer", ("turning", "chamfer")), None),
    }
    if kind in alone:
        name, work, grade = alone[kind]
        return (WayToMake(name, (work,), grade),)
    if kind in {"groove", "undercut"}:
        width = _mm(feature, Role.WIDTH)
        return (WayToMake("grooved", (Work("groove", ("grooving", "parting"), None, width),), GROOVED),)
    if kind not in {"body", "shoulder", "taper"}:
        return ()
    rough, finish = Work("rough", TURN_KINDS), Work("finish", TURN_KINDS)
    return (
        WayToMake("turned at once", (finish,), TURNED_ONCE),
        WayToMake("roughed and finished by one tool", (rough, finish), TURNED_SAME),
        WayToMake("roughed, then finished by another", (rough, finish), TURNED_OTHER, apart=True),
    )


def _hole_ways(
    feature: Named,
    drills: tuple[tuple[str, Decimal], ...],
    reamers: tuple[tuple[str, Decimal], ...],
    *,
    turned: bool,
) -> tuple[WayToMake, ...]:
    size = feature.feature.sizes.get(Role.DIAMETER)
    if size is None:
        return ()
    nominal, limits, deep = size.nominal_base, _limits(size), _mm(feature, Role.DEPTH)
    made = make_hole(Hole(nominal, limits, deep, feature.feature.through), drills, reamers)
    works = [_hole_work(tool.does, tool.across_mm, nominal, deep) for tool in made.tools]
    if "drill" in made.lacks:
        works.insert(0, Work("drill", ("drill",), None, nominal, deep))
    grade = {"drill": None, "ream": min(REAMED), "bore": FINEST_BORED}[made.finish]
    said = {"drill": "drilled", "ream": "drilled, then reamed", "bore": "drilled, then bored"}[made.finish]
    found = [WayToMake(said, tuple(works), grade)]
    if not turned and made.finish != "drill":
        under = nominal * BAR_SHARE
        round_it = (
            Work("drill", ("drill",), None, under, deep),
            Work("finish", MILL_KINDS, None, under, deep),
        )
        found.append(WayToMake(MILLED_ROUND, round_it, ROUND_MILLED))
    return tuple(found)


def _hole_work(does: Does, across: Decimal | None, nominal: Decimal, deep: Decimal | None) -> Work:
    if does == "spot":
        return Work("spot", ("spot drill", "chamfer"))
    if does == "bore":
        return Work("bore", ("boring bar",), None, nominal * BAR_SHARE, deep)
    kind = "reamer" if does == "ream" else "drill"
    return Work(does, (kind,), across, across, deep)


def _tapped_ways(feature: Named, drills: Sequence[tuple[str, Decimal]]) -> tuple[WayToMake, ...]:
    size, deep = feature.feature.sizes.get(Role.THREAD), _mm(feature, Role.DEPTH)
    if size is None:
        return ()
    try:
        thread = read_thread(size.name)
        minor = thread_limits(thread, "internal").minor
    except BadEntry:
        return ()
    if minor.low is None or minor.high is None:
        return ()
    scale = thread.mm(Decimal(1))
    limits = minor.low * scale, minor.high * scale
    drill = next((one for one in tap_drills(thread, drills, limits, USUAL_THREAD) if one.within), None)
    low, high = (drill.diameter_mm, drill.diameter_mm) if drill is not None else limits
    works = (
        Work("spot", ("spot drill", "chamfer")),
        Work("drill", ("drill",), low, high, deep),
        Work("tap", ("tap",), deep_mm=deep, thread=size.name),
    )
    return (WayToMake("drilled, then tapped", works),)


def _limits(size: Size) -> tuple[Decimal, Decimal] | None:
    if size.unit == "arcsec" or size.lower is None or size.upper is None or size.upper <= size.lower:
        return None
    return to_base(size.lower, size.unit), to_base(size.upper, size.unit)


def _mm(feature: Named, role: Role) -> Decimal | None:
    size = feature.feature.sizes.get(role)
    return None if size is None or size.unit == "arcsec" else size.nominal_base
