"""The sheets of the Tools step, declared once."""

from ditto_run.core.sheets import SheetKind
from ditto_run.core.tools.hole_sheet import HOLE

TOOL_SHEETS: tuple[SheetKind, ...] = (HOLE,)
