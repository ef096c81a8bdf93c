"""What the plan says that is wanted at the machine: how the piece is held, what is gauged how often, what was agreed."""

from collections.abc import Iterable

from ditto_run.core.part import Characteristic
from ditto_run.core.plan.visited import taken_says
from ditto_run.core.prove import MANUAL, hazards_of
from ditto_run.core.run.state import RunState
from ditto_run.core.sheets import Answer
from ditto_run.core.shop import Machine
from ditto_run.core.sizes import limits_text, size_text
from ditto_run.core.units import counted


def plan_words(
    state: RunState, held: Iterable[tuple[str, Answer]] = (), machine: Machine | None = None
) -> list[tuple[str, str]]:
    """Return what the plan says of the setup being run, each with its word; what it does not say is left out.

    Args:
        state: the run.
        held: what Hold worked out for the setup, by name: part-off ladder, stops, grip.
        machine: it is cut on; None while nobody said it.
    """
    heading, found = state.plan.heading, []
    for key in state.here.setups:
        setup = state.plan.setup(key)
        said = [
            ("Holds", setup.holds),
            ("Sits on", setup.locates),
            ("Stop", setup.stop),
            ("Tight", setup.torque),
            ("Right way round", setup.proof),
        ]
        which = f", {setup.name}" if len(state.here.setups) > 1 else ""
        found += [(f"{word}{which}", text) for word, text in said if text]
    orders = (taken_says(state.plan, key) for key in state.here.setups)
    found += [("Order of visits", order) for order in orders if order]
    found += [(name, answer.say) for name, answer in held]
    found += [(f"{c.number} {c.name}", _size_words(state, c)) for c in state.gauged_here()]
    if heading.spares:
        found.append(("Spares agreed", f"{heading.spares}"))
    cautions = [
        hazard.words
        for key in state.here.setups
        for hazard in hazards_of(state.plan, state.plan.setup(key), machine, "run")
    ]
    found += [("Caution", words) for words in (*dict.fromkeys(cautions), MANUAL)]
    return found


def often_words(loads: int) -> str:
    """Return how often a size is gauged: every load; first, last and every 5 loads."""
    return "every load" if loads == 1 else f"first, last and every {counted(loads, 'load')}"


def _size_words(state: RunState, characteristic: Characteristic) -> str:
    if characteristic.grade == "free":
        return "free: gauged if you like"
    parts = []
    if characteristic.mate:
        parts.append(f"tried with {characteristic.mate}")
    if characteristic.finished is not None:
        parts.append(
            f"machine to {limits_text(characteristic.size)}, finished it is {size_text(characteristic.finished)}"
        )
    parts.append(f"gauged {often_words(state.sampling(characteristic.number))}")
    if characteristic.why:
        parts.append(characteristic.why)
    return "; ".join(parts)
