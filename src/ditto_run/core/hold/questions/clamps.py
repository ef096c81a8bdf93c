"""Clamps and bolts: what the screw pulls, what reaches the work, whether the thread in the fixture strips."""

from ditto_run.core.hold.grip_sheets import CLAMPS
from ditto_run.core.hold.questions.ground import SetupGround, said
from ditto_run.core.questions import Question, Sourced, practice


def _torque(ground: SetupGround) -> Sourced | None:
    return said(ground.setup.torque)


CLAMPS_ASKED: Question[SetupGround] = Question(
    "clamps",
    "hold",
    lambda ground: (
        bool(ground.setup.held.straps)
        or ground.kind in {"clamps", "fixture plate", "angle plate", "face plate"}
    ),
    {"torque": (_torque,), "k": (practice("0.2"),), "every": (practice("25"),)},
    CLAMPS,
)
