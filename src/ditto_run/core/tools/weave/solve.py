"""The order of visits that makes a cycle shortest: proven, or the best found with what none can beat."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.tools.weave.bound import NEVER, bound_of
from ditto_run.core.tools.weave.cost import WeaveCost, cost_of
from ditto_run.core.tools.weave.feasible import TooMany, any_order, clash_of
from ditto_run.core.tools.weave.habits import habit_orders
from ditto_run.core.tools.weave.layers import Search, UsedUp, Value
from ditto_run.core.tools.weave.model import model_of
from ditto_run.core.tools.weave.problem import Weave
from ditto_run.core.tools.weave.units import alike_in_a_row

STATES_A_SECOND = (
    400_000  # what a second of the request buys, on any machine; one of 2020 takes about so long for them
)
USUAL_S = 2.0
WIDTHS = (
    100,
    1_000,
    10_000,
    100_000,
)  # states kept of a layer, walk after walk; the last keeps within 150 MB

Status = Literal["proven", "best", "impossible"]


@dataclass(frozen=True, slots=True)
class Woven:
    """The answer to a weave.

    Args:
        status: proven, best, impossible; best without an order where none was found and none was shown not to be.
        order: of all operations; None without one.
        cost: of that order.
        bound_ms: no allowed order takes less. [ms]
        ties_proven: True if of the shortest orders none is done with a station sooner, or risks fewer pieces as soon.
        clash: ids of rules that cannot be kept together, where there is no order.
        spent: states looked at.
    """

    status: Status
    order: tuple[int, ...] | None = None
    cost: WeaveCost | None = None
    bound_ms: int = 0
    ties_proven: bool = False
    clash: tuple[str, ...] = ()
    spent: int = 0


def weave_best(weave: Weave, seconds: float = USUAL_S) -> Woven:
    """Return the shortest order that keeps all rules.

    Args:
        weave: the problem.
        seconds: turned into a budget of states at a fixed rate, so that the same request gives the same answer on any machine. [s]

    Returns:
        The order, proven where the search ended or nothing it left out can be shorter.

    Source:
        Own derivation: best first through layers of done operations; held to every order of small problems by a test.
    """
    order = _begin_with(weave)
    if order is None:
        try:
            order = any_order(weave)
        except TooMany:
            order = ()
        if order is None:
            return Woven("impossible", clash=tuple(rule.id for rule in clash_of(weave)))
    return _searched(weave, order or (), max(1, round(seconds * STATES_A_SECOND)))


def _begin_with(weave: Weave) -> tuple[int, ...] | None:
    """The best of the habits that break no rule; None where all do."""
    kept = [
        (cost, order) for order in habit_orders(weave).values() if not (cost := cost_of(weave, order)).broken
    ]
    return min(kept, key=lambda one: _value(one[0]), default=(None, None))[1]


def _value(cost: WeaveCost) -> Value:
    return cost.cycle_ms, cost.first_ms, cost.at_risk


def _searched(weave: Weave, order: tuple[int, ...], budget: int) -> Woven:
    model = model_of(alike_in_a_row(weave))
    search = Search(model, bound_of(model), budget)
    if order:
        search.best = _value(cost_of(weave, order))
    bound, whole = 0, False
    for width in WIDTHS:
        try:
            found = search.through(width)
        except UsedUp:
            bound = max(bound, min(search.lost, search.frontier, search.best[0]))
            break
        if found.order is not None and found.value is not None and found.value < search.best:
            order, search.best = found.order, found.value
        bound, whole = max(bound, min(found.bound, search.best[0])), found.whole
        if whole:
            bound = search.best[0]
            break
    spent = budget - max(search.budget, 0)
    if not order:
        if whole:
            return Woven("impossible", clash=tuple(rule.id for rule in clash_of(weave)), spent=spent)
        return Woven("best", bound_ms=bound if bound < NEVER else 0, spent=spent)
    cost = cost_of(weave, order)
    status: Status = "proven" if bound >= cost.cycle_ms else "best"
    return Woven(status, order, cost, min(bound, cost.cycle_ms), whole, (), spent)
