"""The order of visits worked out in the process for long work."""

from time import perf_counter

from ditto_run.core.tools.weave.problem import Weave
from ditto_run.core.tools.weave.solve import Woven, weave_best
from ditto_run.desk.desk import Desk
from ditto_run.desk.worker import LIMIT_S

SLOWEST = 8  # times as long as a budget says; beyond it the process hangs and is ended


def woven(desk: Desk, weave: Weave, seconds: float) -> tuple[Woven, float]:
    """Return the best order of a weave, and how long it took, [s].

    Args:
        desk: the desk.
        weave: the problem.
        seconds: how much work it may be. [s]
    """
    began = perf_counter()
    found = desk.worker.run_within(LIMIT_S + SLOWEST * seconds, weave_best, weave, seconds)
    return found, perf_counter() - began
