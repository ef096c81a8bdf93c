"""The questions of Method, asked of the part and of the way that is chosen or wins."""

from ditto_run.core.method.questions.feasible import RULES_ASKED
from ditto_run.core.method.questions.ground import MethodGround
from ditto_run.core.method.questions.hands import OVERLAP_ASKED
from ditto_run.core.method.questions.in_time import TIME_BOX_ASKED
from ditto_run.core.method.questions.minding import MINDING_ASKED
from ditto_run.core.method.questions.turns import ORDER_ASKED
from ditto_run.core.questions import Question

METHOD_QUESTIONS: tuple[Question[MethodGround], ...] = (
    ORDER_ASKED,
    OVERLAP_ASKED,
    MINDING_ASKED,
    RULES_ASKED,
    TIME_BOX_ASKED,
)

__all__ = ["METHOD_QUESTIONS", "MethodGround"]
