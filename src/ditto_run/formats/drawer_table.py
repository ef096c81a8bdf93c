"""A register as a CSV table, out and in; rehearsed before it changes anything."""

from collections.abc import Iterable
from dataclasses import dataclass

from ditto_run.core.errors import DittoError
from ditto_run.core.shop.drawers import Drawer, Texts
from ditto_run.core.units import LengthUnit
from ditto_run.formats.csv_tables import read_rows, write_rows


def write_drawer(drawer: Drawer, rows: Iterable[Texts]) -> str:
    """Return a register as CSV, its column names in the first row."""
    names = [column.name for column in drawer.columns]
    return write_rows(names, ([texts.get(name, "") for name in names] for texts in rows))


@dataclass(frozen=True, slots=True)
class DrawerFault:
    """A row that cannot be taken in: its number, its column, and why."""

    row: int
    field: str
    message: str


@dataclass(frozen=True, slots=True)
class DrawerRehearsal:
    """What a table would add to a register.

    Args:
        rows: rows that can be taken in.
        faults: rows that cannot.
    """

    rows: tuple[dict[str, str], ...]
    faults: tuple[DrawerFault, ...]


def rehearse_drawer(text: str, drawer: Drawer, unit: LengthUnit) -> DrawerRehearsal:
    """Return what a table would add to a register, row by row, without adding it.

    Args:
        text: rows parted by tabs, semicolons or commas; a first row that names the columns may change their order.
        drawer: the register.
        unit: unit of lengths without one.
    """
    table = read_rows(text)
    names = [column.name for column in drawer.columns]
    head = [cell.strip().lower() for cell in table[0]] if table else []
    if head and head[0] in names and set(head) <= set(names):
        table = table[1:]
    else:
        head = names
    rows, faults = [], []
    for number, cells in enumerate(table, 1):
        texts = {name: _plain(cell) for name, cell in zip(head, cells, strict=False)}
        try:
            drawer.value(texts, unit)
            rows.append(texts)
        except DittoError as fault:
            faults.append(DrawerFault(number, fault.field or head[0], f"{fault.problem} {fault.remedy}"))
    return DrawerRehearsal(tuple(rows), tuple(faults))


def _plain(cell: str) -> str:
    """Return a cell without the apostrophe that keeps a spreadsheet from running it."""
    return cell[1:] if cell.startswith("'") and cell[1:2] in "=+-@" else cell
