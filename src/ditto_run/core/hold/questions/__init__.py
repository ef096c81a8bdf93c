"""The questions of Hold, asked of each setup in the order of the work."""

from ditto_run.core.hold.questions.clamps import CLAMPS_ASKED
from ditto_run.core.hold.questions.depth import DEPTH_ASKED
from ditto_run.core.hold.questions.grip import GRIP_ASKED
from ditto_run.core.hold.questions.ground import SetupGround
from ditto_run.core.hold.questions.ladder import LADDER_ASKED
from ditto_run.core.hold.questions.marks import MARKS_ASKED
from ditto_run.core.hold.questions.nest import NEST_ASKED
from ditto_run.core.hold.questions.on_hole import ON_HOLE_ASKED
from ditto_run.core.hold.questions.overhang import OVERHANG_ASKED
from ditto_run.core.hold.questions.pulled import SEGMENTS_ASKED
from ditto_run.core.hold.questions.reach import REACH_ASKED
from ditto_run.core.hold.questions.sawn import SAWN_ASKED
from ditto_run.core.hold.questions.spacers import SPACERS_ASKED
from ditto_run.core.hold.questions.stop import STOP_ASKED
from ditto_run.core.hold.questions.thin import THIN_ASKED
from ditto_run.core.hold.questions.vacuum import VACUUM_ASKED
from ditto_run.core.hold.questions.way_round import WAY_ROUND_ASKED
from ditto_run.core.questions import Question

HOLD_QUESTIONS: tuple[Question[SetupGround], ...] = (
    STOP_ASKED,
    LADDER_ASKED,
    SPACERS_ASKED,
    SAWN_ASKED,
    SEGMENTS_ASKED,
    GRIP_ASKED,
    DEPTH_ASKED,
    CLAMPS_ASKED,
    NEST_ASKED,
    ON_HOLE_ASKED,
    VACUUM_ASKED,
    THIN_ASKED,
    OVERHANG_ASKED,
    MARKS_ASKED,
    REACH_ASKED,
    WAY_ROUND_ASKED,
)

__all__ = ["HOLD_QUESTIONS", "SetupGround"]
