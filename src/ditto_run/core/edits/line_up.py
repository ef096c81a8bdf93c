"""Lining up a setup's holders, and spreading them evenly."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.edits.place import at_edges, swapped
from ditto_run.core.errors import NotNow
from ditto_run.core.place import Placed
from ditto_run.core.plan import Changed, Plan

ZERO = Decimal(0)
Line = Literal["left", "right", "front", "back", "spread x", "spread y"]


@dataclass(frozen=True, slots=True)
class LineUp:
    """Line a setup's holders up with the first of them, or spread them evenly between the outer two."""

    setup: int
    line: Line
    kind: Literal["line_up"] = "line_up"


@apply_edit.register
def _line_up(edit: LineUp, plan: Plan, _shop: PlanRegisters) -> Changed:
    plan.setup(edit.setup)
    mine = [placed for placed in plan.placed if placed.setup == edit.setup]
    if len(mine) < 2:  # noqa: PLR2004 - one is in line with itself
        raise NotNow("There is nothing to line up with.", "Place a second holder first.")
    lined = (
        _spread(mine, edit.line)
        if edit.line.startswith("spread")
        else [_lined(placed, mine[0], edit.line) for placed in mine]
    )
    for new in lined:
        plan = swapped(plan, new)
    words = (
        f"spread along {edit.line[-1].upper()}"
        if edit.line.startswith("spread")
        else f"lined up at the {edit.line}"
    )
    return Changed(plan, words)


def _lined(placed: Placed, first: Placed, line: str) -> Placed:
    left, front = placed.left_mm, placed.front_mm
    wide, deep = placed.across_mm
    if line == "left":
        left = first.left_mm
    elif line == "right":
        left = first.left_mm + first.across_mm[0] - wide
    elif line == "front":
        front = first.front_mm
    else:
        front = first.front_mm + first.across_mm[1] - deep
    return at_edges(placed, left, front)


def _spread(mine: Sequence[Placed], line: str) -> Iterator[Placed]:
    """Space the holders so that the gaps between them are equal; the outer two stay."""
    axis = 0 if line.endswith("x") else 1

    def low(placed: Placed) -> Decimal:
        return placed.front_mm if axis else placed.left_mm

    ordered = sorted(mine, key=low)
    span = low(ordered[-1]) + ordered[-1].across_mm[axis] - low(ordered[0])
    gap = (span - sum((p.across_mm[axis] for p in ordered), ZERO)) / (len(ordered) - 1)
    at = low(ordered[0])
    for placed in ordered:
        yield at_edges(placed, placed.left_mm, at) if axis else at_edges(placed, at, placed.front_mm)
        at += placed.across_mm[axis] + gap
