"""The sheets of the Place step, declared once, in three groups."""

from ditto_run.core.place.edge_sheets import CORNER, EDGE, HALVES, HEIGHT
from ditto_run.core.place.many_sheets import FILL, STATIONS
from ditto_run.core.place.round_sheets import BORE, LINE, REVERSAL, TEST_CUT
from ditto_run.core.place.turned_sheets import FEATURES, ROTARY
from ditto_run.core.sheets import SheetKind

FIND_SHEETS: tuple[SheetKind, ...] = (EDGE, HALVES, BORE, CORNER, HEIGHT, LINE, REVERSAL, TEST_CUT)
MANY_SHEETS: tuple[SheetKind, ...] = (STATIONS, FILL)
PALLET_SHEETS: tuple[SheetKind, ...] = (FEATURES, ROTARY)
PLACE_SHEETS: tuple[SheetKind, ...] = (*FIND_SHEETS, *MANY_SHEETS, *PALLET_SHEETS)
