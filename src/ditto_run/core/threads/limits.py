"""The limits of any straight thread, by its family."""

from ditto_run.core.errors import BadEntry
from ditto_run.core.threads.metric import metric_limits
from ditto_run.core.threads.other_forms import parallel_pipe_limits, trapezoidal_limits, whitworth_limits
from ditto_run.core.threads.thread import Side, Thread, ThreadLimits
from ditto_run.core.threads.unified import unified_limits

SIXTY, WHITWORTH_FORM = 60, 55


def thread_limits(thread: Thread, side: Side, tolerance_class: str = "") -> ThreadLimits:
    """Return the limits of a straight thread by the standard it belongs to.

    Args:
        thread: any but a taper pipe thread.
        side: internal or external.
        tolerance_class: such as 2B or 6g; the thread's own, else the usual one, if empty.

    Raises:
        BadEntry: if the class does not fit, or the thread is a taper pipe thread.

    Source:
        [b1.1] in inches, [iso965] in millimetres; [iso228], [iso2904] and [bs84] for the other forms.
    """
    if thread.taper:
        raise BadEntry(
            f"{thread.name} is taper: its size is its depth.",
            "Gauge it by how far the plug goes in.",
            "thread",
        )
    wanted = tolerance_class or thread.tolerance_class
    if thread.family == "bspp":
        return parallel_pipe_limits(
            thread, side, wanted if side == "external" or wanted not in {"A", "B"} else ""
        )
    if thread.family == "trapezoidal":
        return trapezoidal_limits(thread, side)
    if thread.form == WHITWORTH_FORM:
        return whitworth_limits(thread, side)
    if thread.form != SIXTY:
        raise BadEntry(
            f"{thread.name} has no table of ours.", "Type its limits as sizes, from the drawing.", "thread"
        )
    return (
        unified_limits(thread, side, wanted) if thread.unit == "in" else metric_limits(thread, side, wanted)
    )
