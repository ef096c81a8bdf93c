"""What things cost at the machines of this shop, where somebody said it."""

from dataclasses import dataclass, fields

from ditto_run.core.entry.plain import read_plain
from ditto_run.core.errors import BadEntry
from ditto_run.core.times import read_seconds

SHOP_COSTS = {
    "turn": "A knob turned once",
    "gauge": "A reading",
    "check_gauge": "A gauge tried on its master",
    "stop": "A look at what holds",
}
"""Costs that are said as a time, with their words."""
LEAST_MIN, MOST_MIN = 0.01, 10_000.0
MOST_TIMES = 1000.0


@dataclass(frozen=True, slots=True)
class ShopCosts:
    """What things cost in the shop; None where nobody said it.

    Args:
        turn, gauge, check_gauge, stop: a knob turned, a reading, a gauge on its master, a look at what holds. [min]
        times: a bad piece that leaves, in pieces scrapped; of a part without consequence. [-]
    """

    turn: float | None = None
    gauge: float | None = None
    check_gauge: float | None = None
    stop: float | None = None
    times: float | None = None

    @property
    def said(self) -> dict[str, float]:
        """Those that were said, by name."""
        found = {one.name: getattr(self, one.name) for one in fields(self)}
        return {name: value for name, value in found.items() if value is not None}


NO_COSTS = ShopCosts()


def read_costs(typed: dict[str, str]) -> ShopCosts:
    """Return what things cost as typed; an empty entry is not said.

    Args:
        typed: turn, gauge, check_gauge and stop as times, a bare number as minutes; times as a number.

    Raises:
        BadEntry: at the field that is no time, or beyond what is possible.
    """
    found: dict[str, float] = {}
    for name in SHOP_COSTS:
        text = typed.get(name, "")
        if not text.strip():
            continue
        minutes = round(read_seconds(text, name, "m") / 60, 4)
        if not LEAST_MIN <= minutes <= MOST_MIN:
            raise BadEntry(f"{minutes:g} min is no cost.", "Type minutes, such as 2 or 30 s.", name)
        found[name] = minutes
    text = typed.get("times", "").strip()
    if text:
        found["times"] = _times(text)
    return ShopCosts(**found)


def _times(text: str) -> float:
    value = float(read_plain(text, "times"))
    if not 1 <= value <= MOST_TIMES:
        raise BadEntry(f"{value:g} scrapped pieces is no cost.", "Type a number from 1, such as 3.", "times")
    return value
