"""Screw threads: how they are written, their limits, tapping and measuring."""

from ditto_run.core.threads.designation import read_thread
from ditto_run.core.threads.limits import thread_limits
from ditto_run.core.threads.pipe import PipeThread, pipe_thread
from ditto_run.core.threads.tapping import (
    BlindHole,
    Tap,
    TapDrill,
    blind_hole,
    engagement_to_break_screw,
    hole_for_percent,
    percent_of_hole,
    relative_torque,
    shear_area_per_length,
    tap_drills,
    tensile_area,
)
from ditto_run.core.threads.thread import Band, Side, Thread, ThreadLimits
from ditto_run.core.threads.wires import OverWires, over_wires

__all__ = [
    "Band",
    "BlindHole",
    "OverWires",
    "PipeThread",
    "Side",
    "Tap",
    "TapDrill",
    "Thread",
    "ThreadLimits",
    "blind_hole",
    "engagement_to_break_screw",
    "hole_for_percent",
    "over_wires",
    "percent_of_hole",
    "pipe_thread",
    "read_thread",
    "relative_torque",
    "shear_area_per_length",
    "tap_drills",
    "tensile_area",
    "thread_limits",
]
