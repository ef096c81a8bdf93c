"""How a hole is made: its tools in order, as lines for the setup that cuts it."""

from collections.abc import Mapping
from decimal import Decimal

from ditto_run.core.part.features import Role
from ditto_run.core.part.questions import CLASS, FeatureGround
from ditto_run.core.questions import Question, Source, Sourced, practice
from ditto_run.core.sheets import Answer, Entries
from ditto_run.core.sizes import Size
from ditto_run.core.tools.hole import HoleTool
from ditto_run.core.tools.hole_sheet import HOLE

HOLES = frozenset({"hole", "bore", "cross hole"})
ALONG = {"left": 0, "right": 0, "front": 1, "back": 1, "bottom": 2, "top": 2}
AXIAL = frozenset({"free end", "chuck end"})


def _size(ground: FeatureGround) -> Size | None:
    return ground.feature.sizes.get(Role.DIAMETER)


def _hole(ground: FeatureGround) -> Sourced | None:
    """Its size as it reads the same in any job: a class by its name, limits as limits."""
    size = _size(ground)
    if size is None:
        return None
    unit, text = size.unit, f"{size.nominal:f} {size.unit}"
    if CLASS.fullmatch(size.name):
        text = f"{text} {size.name}"
    elif size.as_limits:
        text = f"{size.lower:f} {unit} to {size.upper:f} {unit}"
    elif size.lower is not None and size.upper is not None:
        text = f"{text} {size.upper - size.nominal:+f}/{size.lower - size.nominal:+f} {unit}"
    return Sourced(text, "drawing", "features")


def _through(ground: FeatureGround) -> Sourced:
    return Sourced("through" if ground.feature.through else "blind", "drawing", "features")


def _behind(ground: FeatureGround) -> Decimal | None:
    """How far the part goes on behind the hole's mouth, [mm]; None while its size is not said."""
    part, feature = ground.size_mm, ground.feature
    if part is None:
        return None
    if ground.form == "turned":
        at = 0 if feature.face in AXIAL else 1
    elif feature.face in ALONG:
        at = ALONG[feature.face]
    else:
        return None
    return Decimal(repr(round(part[at], 3)))


def _depth(ground: FeatureGround) -> Sourced | None:
    """As said; of a through hole the part behind its mouth."""
    depth = ground.feature.sizes.get(Role.DEPTH)
    if depth is not None and not ground.feature.through:
        return Sourced(f"{depth.nominal:f} {depth.unit}", "drawing", "features")
    behind = _behind(ground) if ground.feature.through else None
    return None if behind is None else Sourced(f"{behind:f} mm", "computed", "the part’s size")


def _room(ground: FeatureGround) -> Sourced | None:
    behind = None if ground.feature.through else _behind(ground)
    return None if behind is None else Sourced(f"{behind:f} mm", "computed", "the part’s size")


def _entry(ground: FeatureGround) -> Sourced | None:
    """A cross hole starts on the round; a face that a setup machines is machined; one nobody machines is as it came."""
    feature = ground.feature
    if ground.form == "turned" and feature.face not in AXIAL:
        return Sourced("round", "drawing", "features")
    if not feature.face or not ground.is_cut:
        return None
    return Sourced("machined" if feature.face in ground.machined else "raw", "computed", "setups")


def _place(ground: FeatureGround) -> Sourced | None:
    asked = [one for one in ground.feature.geometry if one.name == "position" and one.upper is not None]
    if not asked:
        return None
    return Sourced(f"{asked[0].upper:f} {asked[0].unit}", "drawing", "features")


def _line(tool: HoleTool, hole: str, deep: str) -> str:
    if tool.does == "spot":
        return f"spot {hole}"
    if tool.does == "pilot":
        return f"pilot {tool.name}"
    return f"{tool.does} {tool.name or hole}{deep}"


def _gives(ground: FeatureGround, answer: Answer, entries: Entries) -> Mapping[str, str]:
    """Its tools as lines for its setup; nothing while no setup makes it, or no drill fits."""
    if not ground.is_cut or answer.result.drill is None:
        return {}
    through = ground.feature.through
    deep = f" {entries.text('depth')} deep" if entries.has("depth") and not through else ""
    return {"tools": "\n".join(_line(tool, ground.name, deep) for tool in answer.result.tools)}


def _is_hole(ground: FeatureGround) -> bool:
    return ground.feature.kind in HOLES and not ground.feature.supplied and ground.is_cut


SOURCES: Mapping[str, tuple[Source[FeatureGround], ...]] = {
    "hole": (_hole,),
    "through": (_through,),
    "depth": (_depth,),
    "room": (_room,),
    "entry": (_entry,),
    "drill": (practice("jobber"),),
    "place": (_place,),
}
HOLE_ASKED: Question[FeatureGround] = Question("hole", "tools", _is_hole, SOURCES, HOLE, _gives)
