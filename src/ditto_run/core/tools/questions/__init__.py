"""The questions of Tools, asked of each hole, and of each setup."""

from ditto_run.core.part.questions import FeatureGround
from ditto_run.core.questions import Question
from ditto_run.core.tools.questions.hole import HOLE_ASKED
from ditto_run.core.tools.questions.lives import LIVES_ASKED, ToolsGround

TOOL_QUESTIONS: tuple[Question[FeatureGround], ...] = (HOLE_ASKED,)
TOOLING_QUESTIONS: tuple[Question[ToolsGround], ...] = (LIVES_ASKED,)

__all__ = ["TOOLING_QUESTIONS", "TOOL_QUESTIONS", "ToolsGround"]
