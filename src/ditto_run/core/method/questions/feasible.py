"""Will it go: the deepest hole and the slenderest stem of the part against the rules of the trade."""

from decimal import Decimal

from ditto_run.core.method.questions.ground import MethodGround
from ditto_run.core.method.rules import PECK, STEM
from ditto_run.core.method.rules_sheet import RULES
from ditto_run.core.part.features import Role
from ditto_run.core.questions import Question, Source, Sourced

HOLES = {"hole", "reamed hole", "tapped hole"}


def _deepest(ground: MethodGround) -> tuple[Decimal, Decimal] | None:
    """Depth and diameter of the hole that is deepest for its size, blind ones alone, [mm]; None without one."""
    found = [
        (feature.sizes[Role.DEPTH].nominal_base, feature.sizes[Role.DIAMETER].nominal_base)
        for feature in ground.described
        if feature.kind in HOLES
        and not feature.through
        and {Role.DEPTH, Role.DIAMETER} <= feature.sizes.keys()
    ]
    return max(found, key=lambda one: one[0] / one[1], default=None)


def _stem(ground: MethodGround) -> tuple[float, float] | None:
    """Length and largest diameter of a turned part, [mm]."""
    if ground.form != "turned" or ground.part is None:
        return None
    return ground.part.size[0], ground.part.size[1]


def _hole(index: int) -> Source[MethodGround]:
    def find(ground: MethodGround) -> Sourced | None:
        found = _deepest(ground)
        return Sourced(f"{found[index].normalize():f} mm", "drawing", "features") if found else None

    return find


def _of_stem(index: int) -> Source[MethodGround]:
    def find(ground: MethodGround) -> Sourced | None:
        found = _stem(ground)
        return Sourced(f"{found[index]:.6g} mm", "drawing", "features") if found else None

    return find


def _support(ground: MethodGround) -> Sourced:
    return Sourced("centre" if ground.centred else "none", "computed", "setups")


def _applies(ground: MethodGround) -> bool:
    """True for a hole that has to be pecked, or work too slender to stand by itself."""
    hole, stem = _deepest(ground), _stem(ground)
    deep = hole is not None and hole[0] > PECK * hole[1]
    return deep or (stem is not None and stem[0] > STEM["none"] * stem[1])


RULES_ASKED: Question[MethodGround] = Question(
    "rules",
    "method",
    _applies,
    {
        "hole_depth": (_hole(0),),
        "hole": (_hole(1),),
        "stem": (_of_stem(0),),
        "stem_across": (_of_stem(1),),
        "support": (_support,),
    },
    RULES,
)
