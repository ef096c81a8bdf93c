"""A cycle of the plan as a weave: its stations, at each the tool steps that cut there, in the order of Tools."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from ditto_run.core.errors import NotNow
from ditto_run.core.place import Station
from ditto_run.core.tools.tool_step import ToolStep
from ditto_run.core.tools.visits import MOVE_S, Going, Meant, VisitRule, Visits
from ditto_run.core.tools.weave.cost import WeaveCost, cost_of
from ditto_run.core.tools.weave.problem import Weave, by_id
from ditto_run.core.tools.weave.reading import MOST_OPS, WrongWeave, read_weave

HAND = "hand"


@dataclass(frozen=True, slots=True)
class CycleTools:
    """What of a cycle makes its weave.

    Args:
        stations: where its pieces sit.
        tools: of each of its setups, the steps in order.
        finishing: setups that are the last of their part.
        handling_s: unload and load of a piece of each setup. [s]
        going: how the machine goes from station to station.
        rules: what an order has to keep besides the order of the steps.
    """

    stations: Sequence[Station]
    tools: Mapping[int, Sequence[ToolStep]]
    finishing: Collection[int]
    handling_s: Mapping[int, float]
    going: Going
    rules: Sequence[VisitRule] = ()

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

    def chosen(self, which: Meant) -> list[str]:
        """Return the visits that a rule speaks of, by their names; none where what it names is gone."""
        return [name for name, (station, step) in self.visits().items() if _is(which, station, step)]

    def words(self, which: Meant) -> str:
        """Return what a rule speaks of in words: A, T03, T03 drill."""
        steps = [step for mine in self.tools.values() for step in mine]
        found = (step for step in steps if which.by == "step" and str(step.key) == which.name)
        return next((f"{step.name} {step.does}" for step in found), which.name)

    def says(self, rule: VisitRule) -> str:
        """Return a rule in words."""
        return rule.says(self.words(rule.first), self.words(rule.then) if rule.then is not None else "")

    def stands(self, rule: VisitRule) -> bool:
        """Return whether all that a rule names is still there."""
        return bool(self.chosen(rule.first)) and (rule.then is None or bool(self.chosen(rule.then)))

    def _cuts(self, step: ToolStep, station: Station) -> bool:
        mine = [
            s.label
            for s in self.stations
            if s.setup == step.setup and s.label in (step.stations or (s.label,))
        ]
        return station.label in (mine if step.at_once else mine[:1])


def _is(which: Meant, station: Station, step: ToolStep) -> bool:
    """True if a visit is one of those that are meant."""
    names = {"station": station.label, "tool": step.name if step.tool else "", "step": str(step.key)}
    return names[which.by] == which.name


def visit_name(station: Station, step: ToolStep) -> str:
    """Return what a visit is called in an order that is kept: station and key of the step."""
    return f"{station.label}.{step.key}"


@dataclass(frozen=True, slots=True)
class Moves:
    """How long a move from one station to another takes.

    Args:
        usual_s: where no pair says it. [s]
        pairs: between two stations by name, the same both ways. [s]
    """

    usual_s: float = MOVE_S
    pairs: tuple[tuple[str, str, float], ...] = ()

    def between(self, one: str, other: str) -> float:
        """Return how long it takes from one station to another, [s]."""
        if one == other:
            return 0.0
        return next((s for a, b, s in self.pairs if {a, b} == {one, other}), self.usual_s)


def weave_of(cycle: CycleTools, moves: Moves) -> Weave:
    """Return a cycle as a weave.

    Changing to a tool takes what its step says of change and moves, less the moves between the stations it visits in turn, less
    the way to where tools are changed and back; so one tool there, the next back, takes what Tools says. A rule of which
    something is gone is left out.

    Args:
        cycle: its stations and tools.
        moves: from one station to another.

    Raises:
        NotNow: if there are no two stations with tool steps, more visits than can be ordered, or rules that go round in a circle.

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
    try:
        return read_weave(_document(cycle, moves, visited))
    except WrongWeave as wrong:
        raise _in_words(cycle, wrong) from None


def _document(
    cycle: CycleTools, moves: Moves, visited: Sequence[tuple[Station, list[ToolStep]]]
) -> dict[str, Any]:
    """The cycle as it is written in weave/1."""
    going = cycle.going
    labels = [station.label for station, _ in visited]
    tools = [
        {"id": tool, "fit": round(seconds, 3)} for tool, seconds in _changes(going, moves, visited).items()
    ]
    handling = sum(cycle.handling_s.get(s.setup, 0.0) * s.pieces for s, _ in visited)
    change = {} if going.away_s is None else {"away": dict.fromkeys(labels, round(going.away_s, 3))}
    return {
        "format": "weave/1",
        "stations": [_station(cycle, station, steps) for station, steps in visited],
        "tools": tools,
        "change": {"kind": "constant", "seconds": 0, **change},
        "moves": {
            "stations": labels,
            "seconds": [[round(moves.between(a, b), 3) for b in labels] for a in labels],
        },
        "index": {"kind": "constant", "seconds": round(going.index_s, 3)},
        "cycle": {"kind": "loop" if going.runs_on else "load", "load": round(handling, 3)},
        "rules": [_rule(cycle, rule) for rule in cycle.rules if cycle.stands(rule)],
    }


def _station(cycle: CycleTools, station: Station, steps: Sequence[ToolStep]) -> dict[str, Any]:
    return {
        "id": station.label,
        "pieces": station.pieces,
        "finished": station.pieces if station.setup in cycle.finishing else 0,
        "face": cycle.going.face_of(station.label),
        "ops": [
            {
                "id": visit_name(station, step),
                "tool": _tool(step),
                "cut": round(step.cut_for_s(station.pieces), 3),
            }
            for step in steps
        ],
    }


def _changes(
    going: Going, moves: Moves, visited: Sequence[tuple[Station, list[ToolStep]]]
) -> dict[str, float]:
    """How long it takes to put each tool in, by its name, [s]."""
    found: dict[str, float] = {}
    for step in {step.key: step for _, steps in visited for step in steps}.values():
        at = [station.label for station, steps in visited if step in steps]
        travel = sum(
            moves.between(a, b) + going.index_s * (going.face_of(a) != going.face_of(b))
            for a, b in pairwise(at)
        )
        own = step.change_s - travel - 2 * (going.away_s or 0.0)
        found[_tool(step)] = max(found.get(_tool(step), 0.0), own, 0.0)
    return found


def _rule(cycle: CycleTools, rule: VisitRule) -> dict[str, Any]:
    """A rule as it is written in weave/1."""
    said: dict[str, Any] = {"rule": rule.kind, "id": cycle.says(rule), "why": rule.why}
    mine = cycle.chosen(rule.first)
    if rule.kind in {"before", "rest"}:
        said |= {"a": mine, "b": cycle.chosen(rule.then) if rule.then is not None else []}
        said |= {"same": "station"} if rule.at_each else {}
    elif rule.kind in {"once", "cool"}:
        said |= {"tool": rule.first.name}
    else:
        said |= {"ops": mine}
    return said | ({"seconds": round(rule.seconds, 3)} if rule.kind in {"rest", "cool"} else {})


def _in_words(cycle: CycleTools, wrong: WrongWeave) -> NotNow:
    """A refusal with its visits and rules named as the page names them."""
    there = cycle.visits()
    ring = [
        f"{there[one][1].name} {there[one][1].does} at {there[one][0].label}"
        for one in wrong.ring
        if one in there
    ]
    if len(ring) == 1:
        return NotNow(f"The rule “{wrong.rules[0]}” puts {ring[0]} before itself.", "Take it out.")
    if not ring:
        return NotNow(wrong.problem, wrong.remedy)
    rules = " and ".join(f"“{one}”" for one in wrong.rules)
    return NotNow(
        f"{' before '.join([*ring, ring[0]])}: that is a circle, made by {rules or 'the orders of the steps'}.",
        "Take one of the rules out.",
    )


def _tool(step: ToolStep) -> str:
    """What a tool is called in the weave; each step by hand is a tool of its own."""
    return step.name if step.tool else f"{HAND} {step.key}"


def kept_cost(cycle: CycleTools, visits: Visits) -> WeaveCost | None:
    """Return what a kept order takes; None where it is for other stations or steps than there are now."""
    try:
        weave = weave_of(cycle, Moves(visits.move_s, visits.pairs))
    except NotNow:
        return None
    numbers = by_id(weave)
    if sorted(visits.order) != sorted(numbers):
        return None
    return cost_of(weave, [numbers[name] for name in visits.order])
