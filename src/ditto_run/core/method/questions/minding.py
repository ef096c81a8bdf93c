"""One pair of hands at several machines: the cycles of the job that run on different ones."""

from ditto_run.core.method.minding_sheet import MINDING
from ditto_run.core.method.questions.ground import MethodGround
from ditto_run.core.questions import Question, Sourced

FEWEST = 2  # machines


def _rows(ground: MethodGround) -> Sourced | None:
    lines = [f"{name}; {runs:.6g} s; {hands:.6g} s" for name, runs, hands in ground.machines]
    return Sourced("\n".join(lines), "computed", "tool steps and setups") if len(lines) >= FEWEST else None


MINDING_ASKED: Question[MethodGround] = Question(
    "minding",
    "method",
    lambda ground: len(ground.machines) >= FEWEST,
    {"rows": (_rows,)},
    MINDING,
)
