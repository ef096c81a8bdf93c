"""A cycle of the plan as a weave: its stations, at each the tool steps that cut there, in the order of Tools."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass

from ditto_run.core.errors import NotNow
from ditto_run.core.place import Station
from ditto_run.core.tools.tool_step import ToolStep
from ditto_run.core.tools.visits import Visits
from ditto_run.core.tools.weave.cost import WeaveCost, cost_of
from ditto_run.core.tools.weave.problem import Weave, by_id
from ditto_run.core.tools.weave.reading import MOST_OPS, read_weave

HAND = "hand"


@dataclass(frozen=True, slots=True)
class CycleTools:
    """What of a cycle makes its weave.

    Args:
        stations: where its pieces sit.
        tools: of each of its setups, the steps in order.
        finishing: setups that are the last of their part.
        handling_s: unload and load of a piece of each setup. [s]
    """

    stations: Sequence[Station]
    tools: Mapping[int, Sequence[ToolStep]]
    finishing: Collection[int]
    handling_s: Mapping[int, float]

    def at_stations(self) -> list[tuple[Station, list[ToolStep]]]:
        """Return each station that is visited with the steps that cut there; what is for the whole load is done at its first one."""
        found = [
            (station, [s for s in self.tools.get(station.setup, ()) if self._cuts(s, station)])
            for station in self.stations
        ]
        return [(station, steps) for station, steps in found if steps]

    def visits(self) -> dict[str, tuple[Station, ToolStep]]:
        """Return every visit by its name in an order: A.12."""
        return {visit_name(station, s): (station, s) for station, steps in self.at_stations() for s in steps}

    def _cuts(self, step: ToolStep, station: Station) -> bool:
        mine = [
            s.label
            for s in self.stations
            if s.setup == step.setup and s.label in (step.stations or (s.label,))
        ]
        return station.label in (mine if step.at_once else mine[:1])


def visit_name(station: Station, step: ToolStep) -> str:
    """Return what a visit is called in an order that is kept: station and key of the step."""
    return f"{station.label}.{step.key}"


def weave_of(cycle: CycleTools, move_s: float) -> Weave:
    """Return a cycle as a weave.

    Changing to a tool takes what its step says of change and moves, less the moves between the stations it visits; so one
    tool there, the next back, takes what Tools says.

    Args:
        cycle: its stations and tools.
        move_s: from one station to another. [s]

    Raises:
        NotNow: if there are no two stations with tool steps, or more visits than can be ordered.

    Source:
        Own derivation.
    """
    visited = cycle.at_stations()
    many = sum(len(steps) for _, steps in visited)
    if len(visited) < 2:  # noqa: PLR2004 - one is no order
        raise NotNow(
            "There are no two stations with tool steps: the order is that of the steps.",
            "Add stations on Place, and their tool steps here.",
        )
    if many > MOST_OPS:
        raise NotNow(f"{many} visits are too many to be ordered.", f"{MOST_OPS} are the most.")
    changes: dict[str, float] = {}
    for step in {step.key: step for _, steps in visited for step in steps}.values():
        visits = sum(step in steps for _, steps in visited)
        changes[_tool(step)] = max(changes.get(_tool(step), 0.0), step.change_s - (visits - 1) * move_s, 0.0)
    return read_weave(
        {
            "format": "weave/1",
            "stations": [
                {
                    "id": station.label,
                    "pieces": station.pieces,
                    "finished": station.pieces if station.setup in cycle.finishing else 0,
                    "ops": [
                        {
                            "id": visit_name(station, step),
                            "tool": _tool(step),
                            "cut": round(step.cut_for_s(station.pieces), 3),
                        }
                        for step in steps
                    ],
                }
                for station, steps in visited
            ],
            "tools": [{"id": tool, "fit": round(seconds, 3)} for tool, seconds in changes.items()],
            "moves": {"constant": round(move_s, 3)},
            "cycle": {
                "load": round(sum(cycle.handling_s.get(s.setup, 0.0) * s.pieces for s, _ in visited), 3)
            },
        }
    )


def _tool(step: ToolStep) -> str:
    """What a tool is called in the weave; each step by hand is a tool of its own."""
    return step.name if step.tool else f"{HAND} {step.key}"


def kept_cost(cycle: CycleTools, visits: Visits) -> WeaveCost | None:
    """Return what a kept order takes; None where it is for other stations or steps than there are now."""
    try:
        weave = weave_of(cycle, visits.move_s)
    except NotNow:
        return None
    numbers = by_id(weave)
    if sorted(visits.order) != sorted(numbers):
        return None
    return cost_of(weave, [numbers[name] for name in visits.order])
