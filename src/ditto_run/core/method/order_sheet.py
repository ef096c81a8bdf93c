"""The order sheet: by operation, by lots, or each piece complete."""

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.method.guess import read_guess
from ditto_run.core.method.order import OPERATIONS, Operation, OrderPlan, order_plan, visits
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, SheetKind
from ditto_run.core.units import clock_text, counted, span_text

DRAWN = 6  # pieces shown in the picture
COLUMNS = 5
NO_SETTING = Finding(
    "method",
    "ask",
    "setting-up-unknown",
    "Nobody has said how long setting up takes, so it is left out.",
    "Choose a way with its setting up, or type the lines here with it.",
)


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the order sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    operations = _operations(entries) or [*known.of(OPERATIONS)]
    if len(operations) < 2:  # noqa: PLR2004 - one operation has no order
        raise BadEntry(
            "One operation has no order.", "Type two lines or more, or add setups on Hold.", "rows"
        )
    pieces = entries.whole("pieces", 1, 20_000, known.quantity)
    lot = entries.whole("lot", 1, pieces, min(pieces, 4))
    plans = [order_plan(operations, pieces, size) for size in dict.fromkeys((pieces, lot, 1))]
    quick = min(plans, key=lambda plan: plan.total_s)
    first = min(plans, key=lambda plan: plan.first_s)
    say = f"{_name(quick, pieces)}: {span_text(quick.total_s)} in all."
    why = f"The first finished piece comes after {span_text(quick.first_s)}; a mistake found late costs {counted(quick.at_risk, 'piece')} and {span_text(quick.lost_s)}."
    if first is not quick:
        extra = first.total_s - quick.total_s
        why += f" {_name(first, pieces)} shows the first after {span_text(first.first_s)}, for {span_text(extra)} more."
    unknown = not any(operation.change_s for operation in operations)
    return Answer(
        say,
        why,
        (
            Fact("Handling of all pieces", span_text(quick.handling_s), "the same in every order"),
            Fact("Setting up", f"{quick.changes} times", f"{plans[-1].changes} times piece by piece"),
        ),
        (_compare(plans, pieces), *(_matrix(operations, min(pieces, DRAWN), plan, pieces) for plan in plans)),
        findings=(NO_SETTING,) if unknown else (),
        result=tuple(plans),
        source="own derivation, one pair of hands",
    )


def _operations(entries: Entries) -> list[Operation]:
    found = []
    for row, line in enumerate(entries.lines("rows"), 1):
        parts = [part.strip() for part in line.split(";")]
        if not 2 <= len(parts) <= COLUMNS or not parts[0]:  # noqa: PLR2004 - a name and a time at least
            raise BadEntry(
                f"Line {row}, “{line[:30]}”, has no name and time.",
                "Type name; time a piece; handling; setting up; machine.",
                "rows",
            )
        parts += [""] * (COLUMNS - len(parts))
        piece, handling, change = (
            read_guess(part, "rows", bare).likely_s
            for part, bare in zip(parts[1:4], ("s", "s", "min"), strict=True)
        )
        machine = parts[4].lower() or f"own {row}"
        found.append(Operation(f"{row} {parts[0][:30]}", piece, handling, change, machine))
    return found


def _name(plan: OrderPlan, pieces: int) -> str:
    if plan.lot == pieces:
        return "Operation by operation"
    return "Each piece complete" if plan.lot == 1 else f"Lots of {plan.lot}"


def _compare(plans: list[OrderPlan], pieces: int) -> Grid:
    rows = tuple(
        (
            _name(p, pieces),
            span_text(p.total_s),
            span_text(p.first_s),
            str(p.changes),
            str(p.waiting),
            f"{p.at_risk} pieces, {span_text(p.lost_s)}",
        )
        for p in plans
    )
    return Grid(
        f"{counted(pieces, 'piece')}",
        ("Order", "In all", "First done", "Set up", "Waiting between", "A late mistake costs"),
        rows,
    )


def _matrix(operations: list[Operation], pieces: int, plan: OrderPlan, whole: int) -> Grid:
    turns = visits(len(operations), pieces, min(plan.lot, pieces))
    rows = tuple(
        (op.name, clock_text(op.piece_s + op.handling_s), *(str(turn) for turn in row))
        for op, row in zip(operations, turns, strict=True)
    )
    return Grid(
        f"{_name(plan, whole)}: the turns of the first {pieces}",
        ("Operation", "Each", *(f"Piece {n}" for n in range(1, pieces + 1))),
        rows,
    )


ORDER = SheetKind(
    "order",
    "method",
    "Order of work",
    (
        Entry("rows", "Operations, one a line", kind="area"),
        Entry("pieces", "Pieces"),
        Entry("lot", "Lot to try"),
    ),
    compute,
)
