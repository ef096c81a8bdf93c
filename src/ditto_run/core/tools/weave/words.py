"""The answer to a weave in one sentence, computed from what it stands for."""

from collections.abc import Mapping
from decimal import Decimal

from ditto_run.core.tools.weave.cost import WeaveCost
from ditto_run.core.tools.weave.habits import HABITS
from ditto_run.core.tools.weave.solve import Woven
from ditto_run.core.units import clock_text, counted, number_text

MINUTE_MS = 60_000


def sentence_of(woven: Woven, habits: Mapping[str, WeaveCost]) -> str:
    """Return what was found, how sure it is, and what it saves against the best habit that breaks no rule."""
    if woven.status == "impossible":
        return f"No order keeps all rules: {_listed(woven.clash)} cannot be kept together."
    if woven.cost is None:
        return "No order that keeps all rules was found, and none was shown not to be."
    kept = {name: one.cycle_ms for name, one in habits.items() if not one.broken}
    name = min(kept, key=kept.__getitem__, default="")
    sure = _sure(woven.cost.cycle_ms, woven.bound_ms)
    said = f"{spoken(woven.cost.cycle_ms)} in {counted(woven.cost.changes, 'tool change')}"
    if name and kept[name] == woven.cost.cycle_ms:
        return f"There is nothing to save against {HABITS[name]}: {said}, {sure}."
    if name:
        return f"{said}, {spoken(kept[name] - woven.cost.cycle_ms)} less than {HABITS[name]}, {sure}."
    return f"{said}, {sure}; each of the three habits breaks a rule."


def spoken(ms: int) -> str:
    """Return a time as it is read: 9:24, 41.5 s."""
    return clock_text(ms / 1000) if ms >= MINUTE_MS else f"{number_text(Decimal(ms) / 1000, 1)} s"


def _sure(cycle_ms: int, bound_ms: int) -> str:
    if bound_ms >= cycle_ms:
        return "and no allowed order is shorter: proven"
    return f"and no allowed order takes less than {spoken(bound_ms)}"


def _listed(names: tuple[str, ...]) -> str:
    if len(names) == 1:
        return f"{names[0]} and the stations’ own order"
    return f"{', '.join(names[:-1])} and {names[-1]}"
