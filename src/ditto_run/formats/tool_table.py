"""The tools of a job as CSV: one row a tool step."""

from collections.abc import Iterator, Sequence
from decimal import Decimal

from ditto_run.core.hold import Setup
from ditto_run.core.plan.tool_sheet import ToolLine
from ditto_run.core.units import LengthUnit, convert, tidy
from ditto_run.formats.csv_tables import write_rows

HEAD = (
    *("setup", "tool", "does", "makes", "stations", "diameter [{u}]", "stick-out needed [{u}]"),
    *("stands out [{u}]", "flutes", "spindle [rev/min]", "feed [{u}/min]", "cuts a piece [s]"),
    *("change a load [s]", "register", "in the machine"),
)

KEPT = 4  # decimals of a computed length [mm]


def tools_csv(setups: Sequence[tuple[Setup, Sequence[ToolLine]]], unit: LengthUnit) -> bytes:
    """Return the tools as CSV that a spreadsheet opens with its signs intact.

    Args:
        setups: each with its tools.
        unit: of lengths.
    """
    return ("\ufeff" + write_rows([name.format(u=unit) for name in HEAD], _rows(setups, unit))).encode()


def _rows(setups: Sequence[tuple[Setup, Sequence[ToolLine]]], unit: LengthUnit) -> Iterator[list[object]]:
    def length(mm: Decimal | float | None) -> str:
        if mm is None:
            return ""
        exact = mm if isinstance(mm, Decimal) else Decimal(repr(round(mm, KEPT)))
        return f"{tidy(convert(exact, 'mm', unit)).normalize():f}"

    for setup, lines in setups:
        for line in lines:
            step, out, speed = line.step, line.out, line.speed
            there = step.reach_mm or (line.row.out_mm if line.row is not None else None)
            yield [
                *(setup.name, step.name, step.does, ", ".join(line.made), " ".join(step.stations)),
                *(length(line.across_mm), length(out.reach.needed_mm if out is not None else None)),
                *(length(there), line.row.flutes or "" if line.row is not None else ""),
                f"{speed.speed.rpm:.0f}" if speed is not None else "",
                length(speed.feed_mm_min if speed is not None else None),
                *(f"{step.cut_s:g}", f"{step.change_s:g}", line.row.name if line.row is not None else ""),
                {True: "yes", False: "no", None: ""}[line.in_machine],
            ]
