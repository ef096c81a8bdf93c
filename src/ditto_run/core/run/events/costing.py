"""What a thing costs at the machine, said by a person; the plan's or the practice's figure until then."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.state import RunState
from ditto_run.core.times import read_seconds

CostName = Literal["scrap", "escape", "turn", "gauge", "check_gauge", "stop"]
COSTS: dict[CostName, str] = {
    "scrap": "a piece scrapped",
    "escape": "a bad piece that leaves",
    "turn": "a knob turned once",
    "gauge": "a reading",
    "check_gauge": "a gauge tried on its master",
    "stop": "a look at what holds",
}
LEAST_MIN, MOST_MIN = Decimal("0.01"), 100_000


@dataclass(frozen=True, slots=True)
class SayCost:
    """What a thing costs, as a time: 12 min; empty for the figure it had before anybody said one."""

    name: CostName
    text: str = ""
    kind: Literal["say_cost"] = "say_cost"


@dataclass(frozen=True, slots=True)
class CostSaid:
    """What a thing costs in a cycle, [min]; None for the figure of plan or practice."""

    cycle: int
    name: CostName
    minutes: Decimal | None = None
    kind: Literal["cost_said"] = "cost_said"


@decide.register
def _decide(command: SayCost, state: RunState, _now: Now) -> CostSaid:
    if not command.text.strip():
        return CostSaid(state.cycle, command.name)
    minutes = Decimal(repr(round(read_seconds(command.text, "text", "m") / 60, 4)))
    if not LEAST_MIN <= minutes <= MOST_MIN:
        raise BadEntry(f"{minutes} min is no cost.", "Type minutes, such as 12 or 1 h 30.", "text")
    return CostSaid(state.cycle, command.name, minutes)


@apply.register
def _apply(body: CostSaid, state: RunState, _line: LogLine) -> None:
    said = state.cycles.get(body.cycle, state.here).costs
    if body.minutes is None:
        said.pop(body.name, None)
    else:
        said[body.name] = float(body.minutes)


@sentence.register
def _say(body: CostSaid, _state: RunState, _seq: int) -> str:
    words = COSTS[body.name]
    if body.minutes is None:
        return f"What {words} costs: as before anybody said it."
    return f"What {words} costs: {body.minutes.normalize():f} min."
