"""The readings of a batch as CSV, as a workbook, and the log as JSON Lines."""

import io
import json
import re
from collections.abc import Iterable, Iterator, Sequence
from typing import Any

from ditto_run.core.close import Report
from ditto_run.core.plan import Plan
from ditto_run.core.run import Event
from ditto_run.core.sizes import size_text
from ditto_run.core.units import UNIT_MARKS
from ditto_run.formats.csv_tables import write_rows
from ditto_run.formats.line_documents import BODY

CONTROL = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\ud800-\udfff\ufffe\uffff]")
LONGEST_CELL = 32_000  # signs; a workbook takes a few more
FIXED = ("piece", "load", "station", "revision", "made at", "stands", "reason", "heat")


def table(report: Report, plan: Plan) -> tuple[list[str], Iterator[list[object]]]:
    """Return the header and the rows: one a piece, two columns a dimension (reading and verdict)."""
    header = [*FIXED, *(("part",) if plan.companions else ())]
    for characteristic in plan.all_characteristics:
        unit = UNIT_MARKS[characteristic.size.unit]
        header += [
            f"{characteristic.number} {characteristic.name} {size_text(characteristic.size)} [{unit}]",
            "verdict",
        ]
    return header, _rows(report, plan)


def _rows(report: Report, plan: Plan) -> Iterator[list[object]]:
    for row in report.pieces:
        _, load, station = row.made[-1]
        when = row.at.isoformat(timespec="seconds") if row.at else ""
        cells: list[object] = [
            *(row.piece, load, station, row.revision, when),
            *(row.standing, row.reason, row.heat),
            *((plan.part_plan(row.part).heading.part,) if plan.companions else ()),
        ]
        for characteristic in plan.all_characteristics:
            gauging, words = row.readings.get(characteristic.number, (None, ""))
            if gauging is None:
                cells += ["", ""]
            else:
                cells += [gauging.text if gauging.value is None else f"{gauging.value:f}", words]
        yield cells


def readings_csv(report: Report, plan: Plan) -> bytes:
    """Return the readings as CSV that a spreadsheet opens with its signs intact."""
    return ("\ufeff" + write_rows(*table(report, plan))).encode()


def readings_xlsx(header: Sequence[str], rows: Iterable[Sequence[object]]) -> bytes:
    """Return the rows of `table` as a workbook; readings are numbers in it."""
    from openpyxl import Workbook  # noqa: PLC0415 - heavy, and wanted on this button only
    from openpyxl.styles import Font  # noqa: PLC0415

    book = Workbook(write_only=True)
    sheet = book.create_sheet("Readings")
    sheet.freeze_panes = "B2"
    bold = []
    for title in header:
        cell = _cell(sheet, title)
        cell.font = Font(bold=True)
        bold.append(cell)
    sheet.append(bold)
    for row in rows:
        sheet.append([_cell(sheet, _number(cell, index)) for index, cell in enumerate(row)])
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _cell(sheet: Any, value: Any) -> Any:  # noqa: ANN401 - openpyxl's own
    """Return a cell that shows a value: a text is never a formula, and holds no sign a workbook cannot."""
    from openpyxl.cell import WriteOnlyCell  # noqa: PLC0415

    if not isinstance(value, str):
        return WriteOnlyCell(sheet, value)
    cell = WriteOnlyCell(sheet)
    cell.value = CONTROL.sub(" ", value)[:LONGEST_CELL]
    cell.data_type = "s"
    return cell


def _number(cell: object, column: int) -> object:
    if column < len(FIXED) or not isinstance(cell, str) or not cell:
        return cell
    try:
        return float(cell)
    except ValueError:
        return cell


def log_lines(events: Iterable[Event]) -> bytes:
    """Return the log as JSON Lines: seq, at, who, client_key, body."""
    lines = [
        json.dumps(
            {
                "seq": event.seq,
                "at": event.at.isoformat(),
                "who": event.who,
                "client_key": event.client_key,
                "body": BODY.dump_python(event.body, mode="json"),
            },
            ensure_ascii=False,
        )
        for event in events
    ]
    return "".join(f"{line}\n" for line in lines).encode()
