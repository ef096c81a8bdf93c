"""The order of visits of a cycle, taken or given up."""

from dataclasses import dataclass, replace
from typing import Literal

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.plan import Changed, Plan
from ditto_run.core.plan.woven import weave_of
from ditto_run.core.sheets import Entries
from ditto_run.core.tools.visits import MOVE_S, Visits
from ditto_run.core.tools.weave.problem import by_id

MOST_MOVE_S = 3600


@dataclass(frozen=True, slots=True)
class SetVisits:
    """Take an order of visits for a cycle; an empty one is given up, and each tool goes round all again.

    Args:
        cycle: its key.
        order: every visit once, station and tool step: A.12.
        move: from station to station, as typed; the usual one if empty.
    """

    cycle: int
    order: tuple[str, ...] = ()
    move: str = ""
    kind: Literal["set_visits"] = "set_visits"


def read_move(text: str) -> float:
    """Return the time from station to station as typed, [s]; the usual one if empty.

    Raises:
        BadEntry: at the field `move`.
    """
    if not text.strip():
        return MOVE_S
    seconds = Entries({"move": text}, "mm", {"move": "From station to station"}).seconds("move")
    if seconds > MOST_MOVE_S:
        raise BadEntry("A move of more than an hour is not possible.", "Type seconds, such as 3.", "move")
    return round(seconds, 3)


@apply_edit.register
def _set_visits(edit: SetVisits, plan: Plan, _shop: PlanRegisters) -> Changed:
    cycle = next((one for one in plan.all_cycles if one.key == edit.cycle), None)
    if cycle is None:
        raise NotFound("cycle", edit.cycle, "Choose one of the cycles of this job.")
    others = tuple(one for one in plan.visits if one.key != edit.cycle)
    if not edit.order:
        return Changed(replace(plan, visits=others), f"each tool goes round all stations of {cycle.name}")
    move_s = read_move(edit.move)
    weave = weave_of(plan.cycle_tools(cycle), move_s)
    if sorted(edit.order) != sorted(by_id(weave)):
        raise BadEntry(
            "The order is for other stations or tools than there are now.",
            "Open the order of visits again.",
            "order",
        )
    visits = Visits(edit.cycle, edit.order, move_s)
    return Changed(replace(plan, visits=(*others, visits)), f"order of visits of {cycle.name}")
