"""The time there is: asked where the job is meant to hurry; nobody but the person knows how long there is."""

from ditto_run.core.method.questions.ground import MethodGround
from ditto_run.core.method.time_box_sheet import TIME_BOX
from ditto_run.core.questions import Question

TIME_BOX_ASKED: Question[MethodGround] = Question(
    "time_box",
    "method",
    lambda ground: ground.hurried and ground.ways > 0,
    {},
    TIME_BOX,
    finds=frozenset({"pieces", "rows"}),
)
