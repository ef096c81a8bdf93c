"""The questions of Part, asked of each size they are about."""

from ditto_run.core.part.questions.ground import SizeGround
from ditto_run.core.part.questions.thread import THREAD_ASKED
from ditto_run.core.questions import Question

PART_QUESTIONS: tuple[Question[SizeGround], ...] = (THREAD_ASKED,)

__all__ = ["PART_QUESTIONS", "SizeGround"]
