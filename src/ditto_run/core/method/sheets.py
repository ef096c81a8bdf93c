"""The sheets of the Method step, declared once."""

from ditto_run.core.method.ability_sheet import ABILITY
from ditto_run.core.method.minding_sheet import MINDING
from ditto_run.core.method.order_sheet import ORDER
from ditto_run.core.method.overlap_sheet import OVERLAP
from ditto_run.core.method.rules_sheet import RULES
from ditto_run.core.method.time_box_sheet import TIME_BOX
from ditto_run.core.sheets import SheetKind

METHOD_SHEETS: tuple[SheetKind, ...] = (ORDER, OVERLAP, MINDING, TIME_BOX, RULES, ABILITY)
