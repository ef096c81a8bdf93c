"""How a bent part is bent: its flat, die and rollers, from the bends that stand on the flat. Asked at the first bend."""

from math import radians

from ditto_run.core.part.bend import neutral_factor
from ditto_run.core.part.bend_sheet import BEND
from ditto_run.core.part.features import Described, Role
from ditto_run.core.part.questions.cone import of_role
from ditto_run.core.part.questions.ground import FeatureGround
from ditto_run.core.part.shape.bent import bend_line
from ditto_run.core.part.shape.laid import NotSaid
from ditto_run.core.questions import Question, Sourced


def _alike(feature: Described) -> tuple[object, object]:
    angle, radius = feature.sizes.get(Role.ANGLE), feature.sizes.get(Role.RADIUS)
    return angle and angle.nominal_base, radius and radius.nominal_base


def _applies(ground: FeatureGround) -> bool:
    """True at the first bend of a part whose bends are alike, as the sheet takes one angle and one radius."""
    if ground.feature.kind != "bend" or not ground.bends or ground.bends[0].key != ground.key:
        return False
    return len({_alike(one.feature) for one in ground.bends}) == 1


def _thick(ground: FeatureGround) -> Sourced | None:
    return Sourced(f"{ground.thick_mm:.6g} mm", "drawing", "features") if ground.thick_mm else None


def _straights(ground: FeatureGround) -> Sourced | None:
    """The stretches between the arcs, as they lie on the flat; an arc takes its neutral length of it."""
    if ground.long_mm is None or ground.thick_mm is None:
        return None
    try:
        lines = sorted(
            (bend_line(one.feature, one.key, ground.long_mm) for one in ground.bends), key=lambda one: one.at
        )
    except NotSaid:
        return None
    ends, at = [], 0.0
    for line in lines:
        half = (
            radians(line.angle)
            * (line.radius + neutral_factor(line.radius, ground.thick_mm) * ground.thick_mm)
            / 2
        )
        ends.append(line.at - half - at)
        at = line.at + half
    ends.append(ground.long_mm - at)
    if min(ends) < 0:
        return None
    return Sourced("; ".join(f"{end:.4f} mm" for end in ends), "computed", "flat")


BEND_ASKED: Question[FeatureGround] = Question(
    "bend",
    "part",
    _applies,
    {
        "thickness": (_thick,),
        "radius": (of_role(Role.RADIUS),),
        "angle": (of_role(Role.ANGLE),),
        "straights": (_straights,),
    },
    BEND,
)
