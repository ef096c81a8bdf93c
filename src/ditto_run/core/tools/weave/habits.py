"""The three ways in which a cycle is usually ordered by habit: station by station, one tool round all, there and back."""

from collections.abc import Mapping, Sequence

from ditto_run.core.tools.weave.cost import WeaveCost, cost_of
from ditto_run.core.tools.weave.problem import Weave

HABITS = {
    "each": "finish each station",
    "round": "one tool round all",
    "back": "there and back",
}


def habit_orders(weave: Weave) -> Mapping[str, tuple[int, ...]]:
    """Return the order of each habit, whether or not a rule forbids it; every operation once.

    Together, once, cool, first and last do not steer a habit.

    Source:
        The habits are common practice, no source; the wording of them is ours.
    """
    return {
        "each": tuple(range(len(weave.ops))),
        "round": _rounds(weave, turning=False),
        "back": _rounds(weave, turning=True),
    }


def habit_costs(weave: Weave) -> Mapping[str, WeaveCost]:
    """Return what each habit takes, and which rules it breaks."""
    return {name: cost_of(weave, order) for name, order in habit_orders(weave).items()}


def _tools_read_across(lists: Sequence[Sequence[int]], weave: Weave) -> list[int]:
    """Tools as they first appear: in the first operations of all stations, then in the second ones."""
    across = [mine[n] for n in range(max(map(len, lists))) for mine in lists if n < len(mine)]
    return list(dict.fromkeys(weave.ops[i].tool for i in across))


def _rounds(weave: Weave, *, turning: bool) -> tuple[int, ...]:
    """Tool after tool through the stations, over and over until nothing is left."""
    lists: list[list[int]] = [[] for _ in weave.stations]
    by_tool: dict[int, list[list[int]]] = {}
    for i, op in enumerate(weave.ops):
        lists[op.station].append(i)
        by_tool.setdefault(op.tool, [[] for _ in weave.stations])[op.station].append(i)
    order: list[int] = []
    done, forward = 0, True
    tools = _tools_read_across(lists, weave)
    while len(order) < len(weave.ops):
        for tool in tools:
            waiting = by_tool[tool]
            visited = _with(waiting if forward else waiting[::-1], weave, done)
            for i in visited:
                done |= 1 << i
            order += visited
            if visited and turning:
                forward = not forward
    return tuple(order)


def _with(waiting: Sequence[list[int]], weave: Weave, done: int) -> list[int]:
    """What one tool does in one walk through the stations: at each all that is ready, and what becomes so there."""
    found: list[int] = []
    for mine in waiting:
        while (ready := next((i for i in mine if not weave.before[i] & ~done), None)) is not None:
            mine.remove(ready)
            done |= 1 << ready
            found.append(ready)
    return found
