"""The sheets of the Tools step, declared once."""

from ditto_run.core.sheets import SheetKind
from ditto_run.core.tools.hole_sheet import HOLE
from ditto_run.core.tools.lives_sheet import LIVES

TOOL_SHEETS: tuple[SheetKind, ...] = (HOLE, LIVES)
