"""The questions of Tools, asked of each hole."""

from ditto_run.core.part.questions import FeatureGround
from ditto_run.core.questions import Question
from ditto_run.core.tools.questions.hole import HOLE_ASKED

TOOL_QUESTIONS: tuple[Question[FeatureGround], ...] = (HOLE_ASKED,)

__all__ = ["TOOL_QUESTIONS"]
