"""Every kind of sheet, by its name."""

from ditto_run.core.errors import NotFound
from ditto_run.core.hold.sheets import HOLD_SHEETS
from ditto_run.core.method.sheets import METHOD_SHEETS
from ditto_run.core.part.sheets import PART_SHEETS
from ditto_run.core.place.sheets import PLACE_SHEETS
from ditto_run.core.sheets import SheetKind
from ditto_run.core.stock.sheets import STOCK_SHEETS
from ditto_run.core.tools.sheets import TOOL_SHEETS

SHEETS: tuple[SheetKind, ...] = (
    *PART_SHEETS,
    *METHOD_SHEETS,
    *STOCK_SHEETS,
    *HOLD_SHEETS,
    *PLACE_SHEETS,
    *TOOL_SHEETS,
)
BY_KIND = {sheet.kind: sheet for sheet in SHEETS}


def sheet_of(kind: str) -> SheetKind:
    """Return a kind of sheet by its name.

    Raises:
        NotFound: if there is none.
    """
    if kind not in BY_KIND:
        raise NotFound("sheet", kind, f"Choose one of {', '.join(BY_KIND)}.")
    return BY_KIND[kind]
