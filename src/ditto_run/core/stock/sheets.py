"""The sheets of the Stock step, declared once, in the order they build on each other."""

from ditto_run.core.sheets import SheetKind
from ditto_run.core.stock.blank_sheet import BLANK
from ditto_run.core.stock.cuts_sheet import CUTS
from ditto_run.core.stock.incoming_sheet import INCOMING
from ditto_run.core.stock.mass_sheet import MASS
from ditto_run.core.stock.mixed_sheet import MIXED
from ditto_run.core.stock.starts_sheet import STARTS

STOCK_SHEETS: tuple[SheetKind, ...] = (BLANK, STARTS, CUTS, MIXED, MASS, INCOMING)
