"""The sheets of the Hold step, declared once."""

from ditto_run.core.hold.grip_sheets import CLAMPS, GRIP
from ditto_run.core.hold.nest_sheet import NEST
from ditto_run.core.hold.path_sheets import DIAL, SEGMENTS, STRIP
from ditto_run.core.hold.questions.depth import DEPTH
from ditto_run.core.hold.questions.marks import MARKS
from ditto_run.core.hold.questions.on_hole import ON_HOLE
from ditto_run.core.hold.questions.reach import REACH
from ditto_run.core.hold.questions.sawn import SAWN
from ditto_run.core.hold.questions.way_round import WAY_ROUND
from ditto_run.core.hold.spoil_sheets import OVERHANG, THIN, VACUUM
from ditto_run.core.hold.stop_sheets import BLOCKS, LADDER, STOP
from ditto_run.core.sheets import SheetKind

HOLD_SHEETS: tuple[SheetKind, ...] = (
    LADDER,
    STOP,
    BLOCKS,
    SAWN,
    DIAL,
    SEGMENTS,
    STRIP,
    GRIP,
    CLAMPS,
    NEST,
    ON_HOLE,
    THIN,
    VACUUM,
    OVERHANG,
    DEPTH,
    MARKS,
    REACH,
    WAY_ROUND,
)
