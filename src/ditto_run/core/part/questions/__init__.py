"""The questions of Part, asked of each size or feature they are about."""

from ditto_run.core.part.questions.bends import BEND_ASKED
from ditto_run.core.part.questions.circle import PATTERN_ASKED
from ditto_run.core.part.questions.cone import TAPER_ASKED
from ditto_run.core.part.questions.fit import CLASS, FIT_ASKED, fits_into
from ditto_run.core.part.questions.gauging import GAUGING_ASKED
from ditto_run.core.part.questions.ground import FeatureGround, SizeGround
from ditto_run.core.part.questions.thread import THREAD_ASKED
from ditto_run.core.questions import Question

SIZE_QUESTIONS: tuple[Question[SizeGround], ...] = (THREAD_ASKED, FIT_ASKED, GAUGING_ASKED)
FEATURE_QUESTIONS: tuple[Question[FeatureGround], ...] = (TAPER_ASKED, PATTERN_ASKED, BEND_ASKED)

__all__ = ["CLASS", "FEATURE_QUESTIONS", "SIZE_QUESTIONS", "FeatureGround", "SizeGround", "fits_into"]
