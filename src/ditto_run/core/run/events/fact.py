"""What nobody clocks and no plan knows, said once of a batch: how long setting up took, what is paid for a piece."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.money import read_cents
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.state import RunState
from ditto_run.core.times import read_seconds
from ditto_run.core.units import span_text

FactName = Literal["setting_up", "price"]


@dataclass(frozen=True, slots=True)
class SayFact:
    """How long setting up took, all setups together; or what is paid for one piece. Empty: not known."""

    name: FactName
    text: str = ""
    kind: Literal["say_fact"] = "say_fact"


@dataclass(frozen=True, slots=True)
class FactSaid:
    """A fact of the batch: setting up [s], or the price of a piece [cents]; None where it is not known any more."""

    name: FactName
    value: int | None = None
    kind: Literal["fact_said"] = "fact_said"


@decide.register
def _decide(command: SayFact, _state: RunState, _now: Now) -> FactSaid:
    if not command.text.strip():
        return FactSaid(command.name)
    if command.name == "price":
        return FactSaid("price", read_cents(command.text, "text"))
    return FactSaid("setting_up", round(read_seconds(command.text, "text", "m")))


@apply.register
def _apply(body: FactSaid, state: RunState, _line: LogLine) -> None:
    if body.value is None:
        state.facts.pop(body.name, None)
    else:
        state.facts[body.name] = body.value


@sentence.register
def _say(body: FactSaid, _state: RunState, _seq: int) -> str:
    what = "What is paid for a piece" if body.name == "price" else "How long setting up took"
    if body.value is None:
        return f"{what}: not known."
    shown = f"{body.value / 100:.2f}" if body.name == "price" else span_text(body.value)
    return f"{what}: {shown}."
