"""The order of work: all pieces through one setup and then the next, or each piece complete."""

from ditto_run.core.method.order_sheet import ORDER
from ditto_run.core.method.questions.ground import MethodGround
from ditto_run.core.questions import Question, practice

ORDER_ASKED: Question[MethodGround] = Question(
    "order",
    "method",
    lambda ground: ground.setups > 1 and ground.operations_timed,
    {"lot": (practice("4"),)},
    ORDER,
    finds=frozenset({"rows", "pieces"}),
)
