"""The sheets of the Hold step, declared once."""

from ditto_run.core.hold.grip_sheets import CLAMPS, GRIP, OVERHANG, THIN, VACUUM
from ditto_run.core.hold.stop_sheets import BLOCKS, DIAL, LADDER, SEGMENTS, STOP, STRIP
from ditto_run.core.sheets import SheetKind

HOLD_SHEETS: tuple[SheetKind, ...] = (
    LADDER,
    STOP,
    BLOCKS,
    DIAL,
    SEGMENTS,
    STRIP,
    GRIP,
    CLAMPS,
    THIN,
    VACUUM,
    OVERHANG,
)
