"""How warm pieces and gauge are when they are measured; 20 °C until somebody says it."""

import re
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.state import RunState

DEGREES = re.compile(r"([+\-−]?\d{1,3}(?:[.,]\d{1,2})?) *(°? *[cCfF])?", re.ASCII)
COLDEST, WARMEST = Decimal(-20), Decimal(120)  # of a piece that is measured
REFERENCE = Decimal(20)


@dataclass(frozen=True, slots=True)
class SayWarmth:
    """How warm a piece and its gauge are, in °C, or °F where that is said; empty for 20 °C."""

    piece: str = ""
    gauge: str = ""
    kind: Literal["say_warmth"] = "say_warmth"


@dataclass(frozen=True, slots=True)
class WarmthSaid:
    """How warm pieces and gauge of a cycle are from now on, [°C]."""

    cycle: int
    piece_c: Decimal
    gauge_c: Decimal
    kind: Literal["warmth_said"] = "warmth_said"


def read_degrees(text: str, field: str) -> Decimal:
    """Return a temperature as typed, [°C]: 31, 31.5 °C, 88 F; 20 for nothing.

    Raises:
        BadEntry: if it is none, or no piece is measured so warm.
    """
    if not text.strip():
        return REFERENCE
    found = DEGREES.fullmatch(text.strip().replace("°", "").replace("−", "-"))
    if found is None:
        raise BadEntry(f"“{text.strip()[:20]}” is no temperature.", "Type it as 31, or 88 F.", field)
    value = Decimal(found[1].replace(",", "."))
    if (found[2] or "").strip().lower() == "f":
        value = ((value - 32) * 5 / 9).quantize(Decimal("0.1"))
    if not COLDEST <= value <= WARMEST:
        raise BadEntry(
            f"{value} °C is not how warm a piece is measured.", "Type it in °C, such as 31.", field
        )
    return value


@decide.register
def _decide(command: SayWarmth, state: RunState, _now: Now) -> WarmthSaid:
    return WarmthSaid(state.cycle, read_degrees(command.piece, "piece"), read_degrees(command.gauge, "gauge"))


@apply.register
def _apply(body: WarmthSaid, state: RunState, _line: LogLine) -> None:
    run = state.cycles.get(body.cycle, state.here)
    run.warmth = (float(body.piece_c), float(body.gauge_c))


@sentence.register
def _say(body: WarmthSaid, _state: RunState, _seq: int) -> str:
    if body.piece_c == body.gauge_c == REFERENCE:
        return "Pieces and gauge are at 20 °C."
    return f"Pieces are at {body.piece_c:f} °C, the gauge at {body.gauge_c:f} °C."
