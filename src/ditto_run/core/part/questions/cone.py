"""How a taper of the part is set on the machine."""

from ditto_run.core.part.features import Role
from ditto_run.core.part.questions.ground import FeatureGround
from ditto_run.core.part.taper_sheet import TAPER
from ditto_run.core.questions import Question, Source, Sourced
from ditto_run.core.units import angle_text


def of_role(role: Role) -> Source[FeatureGround]:
    """Return a source that looks for a size of the feature.

    Args:
        role: what the size is.
    """

    def find(ground: FeatureGround) -> Sourced | None:
        size = ground.feature.sizes.get(role)
        if size is None:
            return None
        text = angle_text(size.nominal_base) if size.unit == "arcsec" else f"{size.nominal:f} {size.unit}"
        return Sourced(text, "drawing", "features")

    return find


TAPER_ASKED: Question[FeatureGround] = Question(
    "taper",
    "part",
    lambda ground: ground.feature.kind == "taper",
    {
        "large": (of_role(Role.DIAMETER),),
        "small": (of_role(Role.BOTTOM),),
        "length": (of_role(Role.LENGTH),),
        "angle": (of_role(Role.ANGLE),),
    },
    TAPER,
)
