"""CSV and pasted tables: rows of text, whatever the sheet they came from."""

import csv
import io
from collections.abc import Iterable, Sequence

from ditto_run.core.errors import FileNotRead

MOST_BYTES = 2_000_000
MOST_ROWS = 20_000


def decode(content: bytes) -> str:
    """Return the text of a file: UTF-8, else as an old PC writes it.

    Raises:
        FileNotRead: if it is too large, or no text at all.
    """
    if len(content) > MOST_BYTES:
        raise FileNotRead("That file is larger than 2 MB.", "Split it, or paste the rows.")
    if b"\0" in content:
        raise FileNotRead("That file is no text.", "Save the sheet as CSV first.")
    try:
        return content.decode("utf-8-sig")
    except UnicodeDecodeError:
        return content.decode("cp1252", errors="replace")


def read_rows(text: str) -> list[list[str]]:
    """Return the rows of a table parted by tabs, semicolons or commas; empty rows left out."""
    lines = [line for line in text.splitlines() if line.strip()][:MOST_ROWS]
    if not lines:
        return []
    sign = "\t" if any("\t" in line for line in lines) else ";" if any(";" in line for line in lines) else ","
    return [[cell.strip() for cell in row] for row in csv.reader(lines, delimiter=sign)]


def write_rows(header: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    """Return a CSV table. A cell that a spreadsheet would run as a formula is written as text."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(header)
    for row in rows:
        writer.writerow([_harmless(cell) for cell in row])
    return out.getvalue()


def _harmless(cell: object) -> object:
    if not isinstance(cell, str) or not cell or cell[0] not in "=+-@\t":
        return cell
    try:
        float(cell)
    except ValueError:
        return f"'{cell}"
    return cell
