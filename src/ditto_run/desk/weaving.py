"""The order of visits worked out in the process for long work."""

from time import perf_counter

from ditto_run.core.tools.weave.problem import Weave
from ditto_run.core.tools.weave.solve import USUAL_S, Woven, weave_best
from ditto_run.desk.desk import Desk
from ditto_run.desk.worker import LIMIT_S

SLOWEST = 8  # times as long as a budget says; beyond it the process hangs and is ended
WAIT_S = 0.4  # a page waits so long for an order before it is shown without


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


def woven_soon(desk: Desk, weave: Weave) -> Woven:
    """Return the best order of a weave; it is kept, and asked again it is there at once.

    Raises:
        BeingWorkedOut: if it is not there yet.
        NotNow: if it was stopped, or took too long.
    """
    return desk.worker.solve(weave_best, weave, USUAL_S, wait_s=WAIT_S, patient=False)


def weave_stopped(desk: Desk, weave: Weave) -> None:
    """Stop working on a weave; it stays so until it is asked for again."""
    desk.worker.stop(weave_best, weave, USUAL_S)


def weave_again(desk: Desk, weave: Weave) -> None:
    """Work on a weave that was stopped once more."""
    desk.worker.again(weave_best, weave, USUAL_S)
