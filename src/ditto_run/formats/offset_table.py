"""Work offsets as a CSV table: code, axes, unit, kept, name, purpose, who, when, how."""

import csv
import io
from collections.abc import Iterable
from decimal import Decimal

from ditto_run.core.errors import BadEntry, NeedsAnswer
from ditto_run.core.place.offsets import AXES, LINEAR, Axis, Offset, as_shown
from ditto_run.core.sheets.reader import read_as
from ditto_run.core.shop.codes import read_code
from ditto_run.core.units import LengthUnit, convert
from ditto_run.formats.rs274 import Fault, ReadOffsets

HEAD = ("code", *AXES, "unit", "kept", "name", "purpose", "who", "at", "how")


def write_offset_table(offsets: Iterable[Offset]) -> str:
    """Return the offsets as CSV; what `read_offset_table` reads back the same."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(HEAD)
    for o in offsets:
        axes = [f"{o.axes[axis]:f}" if axis in o.axes else "" for axis in AXES]
        at = o.at.isoformat() if o.at else ""
        row = [o.code, *axes, o.unit, "kept" if o.kept else "", o.name, o.purpose, o.who, at, o.how]
        writer.writerow([f"'{cell}" if cell[:1] in {"=", "@"} else cell for cell in row])
    return out.getvalue()


def read_offset_table(text: str, unit: LengthUnit) -> ReadOffsets:
    """Return the offsets of a CSV table, in the control's unit, and what could not be read.

    Args:
        text: with a first row that names at least code and one axis.
        unit: the control's unit, taken where the table names none.
    """
    rows = csv.DictReader(io.StringIO(text.replace(";", ",") if ";" in text.split("\n", 1)[0] else text))
    names = {(name or "").strip().lower(): name for name in rows.fieldnames or ()}
    if "code" not in names or not names.keys() & set(AXES):
        return ReadOffsets({}, unit, (Fault(1, "code", "The first row names no code, or no axis."),))
    axes: dict[str, dict[Axis, Decimal]] = {}
    faults = []
    for number, row in enumerate(rows, 2):
        cells = {name: (row.get(column) or "").strip() for name, column in names.items()}
        try:
            code = read_code(cells["code"])
            found: dict[Axis, Decimal] = {
                axis: _value(cells[axis], axis, cells.get("unit", ""), unit)
                for axis in AXES
                if cells.get(axis)
            }
        except (BadEntry, NeedsAnswer) as refusal:
            faults.append(Fault(number, refusal.field or "code", refusal.problem))
            continue
        if code in axes:
            faults.append(Fault(number, "code", f"{code} comes twice."))
        axes[code] = found
    return ReadOffsets(axes, unit, tuple(faults))


def _value(text: str, axis: Axis, typed: str, wanted: LengthUnit) -> Decimal:
    if typed not in {"", "mm", "in"}:
        raise BadEntry(f"“{typed[:10]}” is no unit.", "Type mm or in.", "unit")
    given: LengthUnit = "in" if typed == "in" else "mm" if typed == "mm" else wanted
    bare = text.lstrip("'")
    if axis not in LINEAR:
        return Decimal(read_as("angle", bare, given, axis))
    value = convert(read_as("length", bare, given, axis), "mm", wanted)
    return value if given == wanted else as_shown(axis, value, wanted)
