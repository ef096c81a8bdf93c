"""Would another cutter be quicker: the cutters at hand that reach, on the same features, side by side."""

from ditto_run.core.questions import Question, Sourced
from ditto_run.core.tools.cutters_sheet import CUTTERS
from ditto_run.core.tools.questions.at_work import StepGround

FIELDS = frozenset({"face", "outline", "step"})


def is_field(ground: StepGround) -> bool:
    """Return whether a step mills nothing but fields that any cutter goes over: no slot or pocket it has to go into."""
    return ground.work == "mill" and bool(ground.made) and all(one.kind in FIELDS for one in ground.made)


def _rows(ground: StepGround) -> Sourced | None:
    lines = "\n".join(f"{name}; {seconds:.1f} s" for name, seconds in ground.others)
    return Sourced(lines, "computed", "Shop, Tools") if lines else None


def _used(ground: StepGround) -> Sourced | None:
    return Sourced(ground.others[0][0], "said", ground.step.name) if ground.others else None


def _pieces(ground: StepGround) -> Sourced | None:
    return Sourced(str(ground.pieces), "computed", "how many to start") if ground.pieces else None


CUTTERS_ASKED: Question[StepGround] = Question(
    "cutters",
    "tools",
    lambda ground: len(ground.others) > 1,
    {"rows": (_rows,), "used": (_used,), "pieces": (_pieces,)},
    CUTTERS,
)
