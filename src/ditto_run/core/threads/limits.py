"""The limits of any thread of 60° form."""

from ditto_run.core.errors import BadEntry
from ditto_run.core.threads.metric import metric_limits
from ditto_run.core.threads.thread import Side, Thread, ThreadLimits
from ditto_run.core.threads.unified import unified_limits


def thread_limits(thread: Thread, side: Side, tolerance_class: str = "") -> ThreadLimits:
    """Return the limits of a straight thread by the standard it belongs to.

    Args:
        thread: unified, metric or custom.
        side: internal or external.
        tolerance_class: such as 2B or 6g; the thread's own, else the usual one, if empty.

    Raises:
        BadEntry: if the class does not fit, or the thread is a taper pipe thread.

    Source:
        [b1.1] in inches, [iso965] in millimetres.
    """
    if thread.family in {"npt", "bspt"}:
        raise BadEntry(
            f"{thread.name} is taper: its size is its depth.",
            "Gauge it by how far the plug goes in.",
            "thread",
        )
    wanted = tolerance_class or thread.tolerance_class
    return (
        unified_limits(thread, side, wanted) if thread.unit == "in" else metric_limits(thread, side, wanted)
    )
