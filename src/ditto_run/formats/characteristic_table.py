"""Many characteristics at once: a table is rehearsed before it changes anything."""

from dataclasses import dataclass

from ditto_run.core.edits import PlanRegisters, SetCharacteristic, apply_edit
from ditto_run.core.errors import DittoError
from ditto_run.core.plan import Plan
from ditto_run.core.sizes import understood
from ditto_run.formats.csv_tables import read_rows

HEADINGS = {
    "name": "name",
    "dimension": "name",
    "characteristic": "name",
    "size": "size",
    "grade": "grade",
    "class": "grade",
    "why": "why",
    "why it matters": "why",
}
ORDER = ("name", "size", "grade", "why")
GRADES = {
    "": "functional",
    "c": "critical",
    "f": "functional",
    "critical": "critical",
    "functional": "functional",
    "free": "free",
}


@dataclass(frozen=True, slots=True)
class Rehearsed:
    """One row as it would be taken in: how it was understood, or what is wrong with it."""

    row: int
    name: str
    size: str
    grade: str
    understood: str
    problem: str
    field: str


@dataclass(frozen=True, slots=True)
class Rehearsal:
    """What a table would change.

    Args:
        lines: every row with how it was understood or what is wrong.
        rows: the rows that can be added.
        faults: how many cannot.
    """

    lines: tuple[Rehearsed, ...]
    rows: tuple[SetCharacteristic, ...]
    faults: int


def rehearse(text: str, plan: Plan) -> Rehearsal:
    """Return what a pasted table would add to a plan, row by row, without adding it.

    Args:
        text: rows of name, size, grade and why, parted by tabs, semicolons or commas. A first row that
            names the columns may change their order.
        plan: the plan they would be added to.
    """
    table = read_rows(text)
    columns = [HEADINGS.get(cell.lower(), "") for cell in table[0]] if table else []
    if "name" in columns and "size" in columns:
        table = table[1:]
    else:
        columns = list(ORDER)
    lines, rows = [], []
    for number, cells in enumerate(table, 1):
        values = dict(zip(columns, cells, strict=False))
        grade = GRADES.get(values.get("grade", "").lower(), "")
        row = SetCharacteristic(
            values.get("name", ""),
            values.get("size", ""),
            grade or "functional",  # type: ignore[arg-type]
            why=values.get("why", ""),
        )
        problem, field, shown = "", "", ""
        try:
            if not grade:
                problem, field = (
                    f"“{values.get('grade', '')[:20]}” is neither critical, functional nor free.",
                    "grade",
                )
            plan = apply_edit(row, plan, PlanRegisters()).plan
            shown = understood(plan.characteristics[-1].size)
        except DittoError as fault:
            problem, field = f"{fault.problem} {fault.remedy}", fault.field or ""
        if not problem:
            rows.append(row)
        lines.append(Rehearsed(number, row.name, row.size, grade, shown, problem, field))
    return Rehearsal(tuple(lines), tuple(rows), len(lines) - len(rows))
