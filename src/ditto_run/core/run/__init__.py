"""Repeat, clock, gauge: the run as a log, folded into what the pages show."""

from ditto_run.core.run.events import Body, Command, Event, Now, decide, start_run
from ditto_run.core.run.fold import extend, fold
from ditto_run.core.run.state import RunState

__all__ = [
    "Body",
    "Command",
    "Event",
    "Now",
    "RunState",
    "decide",
    "extend",
    "fold",
    "start_run",
]
