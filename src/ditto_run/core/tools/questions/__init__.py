"""The questions of Tools, asked of each hole, of each tool at work, and of each setup."""

from ditto_run.core.part.questions import FeatureGround
from ditto_run.core.questions import Question
from ditto_run.core.tools.questions.at_work import StepGround
from ditto_run.core.tools.questions.cutters import CUTTERS_ASKED
from ditto_run.core.tools.questions.cutting import CUTTING_ASKED
from ditto_run.core.tools.questions.hole import HOLE_ASKED
from ditto_run.core.tools.questions.lives import LIVES_ASKED, ToolsGround
from ditto_run.core.tools.questions.minutes import MINUTES_ASKED
from ditto_run.core.tools.questions.nose import DIRECTION_ASKED, NOSE_ASKED
from ditto_run.core.tools.questions.passes import PASSES_ASKED
from ditto_run.core.tools.questions.speed import SPEED_ASKED
from ditto_run.core.tools.questions.spindle import SPINDLE_ASKED
from ditto_run.core.tools.questions.stickout import STICKOUT_ASKED
from ditto_run.core.tools.questions.tapping import TAPPING_ASKED

TOOL_QUESTIONS: tuple[Question[FeatureGround], ...] = (HOLE_ASKED,)
TOOLING_QUESTIONS: tuple[Question[ToolsGround], ...] = (MINUTES_ASKED, LIVES_ASKED)
CUT_QUESTIONS: tuple[Question[StepGround], ...] = (
    SPEED_ASKED,
    SPINDLE_ASKED,
    STICKOUT_ASKED,
    CUTTING_ASKED,
    PASSES_ASKED,
    NOSE_ASKED,
    DIRECTION_ASKED,
    CUTTERS_ASKED,
    TAPPING_ASKED,
)
"""In the order in which each rests on those before it."""

__all__ = [
    "CUTTING_ASKED",
    "CUT_QUESTIONS",
    "SPEED_ASKED",
    "STICKOUT_ASKED",
    "TOOLING_QUESTIONS",
    "TOOL_QUESTIONS",
    "StepGround",
    "ToolsGround",
]
