"""The sheets of the Tools step, declared once."""

from ditto_run.core.sheets import SheetKind
from ditto_run.core.tools.centre_sheet import CENTRE
from ditto_run.core.tools.cutters_sheet import CUTTERS
from ditto_run.core.tools.cutting_sheet import CUTTING
from ditto_run.core.tools.direction_sheet import DIRECTION
from ditto_run.core.tools.hole_sheet import HOLE
from ditto_run.core.tools.lives_sheet import LIVES
from ditto_run.core.tools.minutes_sheet import MINUTES
from ditto_run.core.tools.nose_sheet import NOSE
from ditto_run.core.tools.passes_sheet import PASSES
from ditto_run.core.tools.speed_sheet import SPEED
from ditto_run.core.tools.spindle_sheet import SPINDLE
from ditto_run.core.tools.stickout_sheet import STICKOUT
from ditto_run.core.tools.tapping_sheet import TAPPING

TOOL_SHEETS: tuple[SheetKind, ...] = (
    STICKOUT,
    SPEED,
    SPINDLE,
    CUTTING,
    PASSES,
    NOSE,
    DIRECTION,
    CENTRE,
    CUTTERS,
    TAPPING,
    HOLE,
    LIVES,
    MINUTES,
)
