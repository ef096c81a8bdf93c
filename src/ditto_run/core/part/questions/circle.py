"""Where the places of a circle of holes stand: presets for a read-out, from the middle of the circle."""

from ditto_run.core.part.features import Role
from ditto_run.core.part.pattern_sheet import PATTERN
from ditto_run.core.part.questions.cone import of_role
from ditto_run.core.part.questions.ground import FeatureGround
from ditto_run.core.questions import Question, Sourced


def _circle(ground: FeatureGround) -> Sourced | None:
    pattern = ground.feature.pattern
    if pattern is None or pattern.arrangement != "circle" or not pattern.by:
        return None
    return Sourced(f"{pattern.by[0].nominal:f} {pattern.by[0].unit}", "drawing", "features")


def _count(ground: FeatureGround) -> Sourced:
    return Sourced(str(ground.feature.count), "drawing", "features")


PATTERN_ASKED: Question[FeatureGround] = Question(
    "pattern",
    "part",
    lambda ground: _circle(ground) is not None and ground.feature.count > 1,
    {
        "shape": (lambda _ground: Sourced("circle", "drawing", "features"),),
        "count": (_count,),
        "diameter": (_circle,),
        "hole": (of_role(Role.DIAMETER),),
    },
    PATTERN,
)
