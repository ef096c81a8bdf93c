"""How a plan is changed: one small value a change, one function that makes the next plan of it."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import singledispatch
from typing import Any

from ditto_run.core.plan import Changed, Plan, ShopKnown
from ditto_run.core.plan.ways import WaySays
from ditto_run.core.plan.worked import known_of
from ditto_run.core.sheets import Solve, directly
from ditto_run.core.shop import Machine
from ditto_run.core.shop.taught import Taught
from ditto_run.core.stock.mass import MASS_FOUND


@dataclass(frozen=True, slots=True)
class PlanRegisters:
    """What of the shop a plan may refer to: machines, gauges, materials, holders, what it learned and costs; who does long work."""

    machines: Mapping[int, Machine] = field(default_factory=dict)
    gauge_ids: frozenset[int] = frozenset()
    materials: Mapping[str, Any] = field(default_factory=dict)
    holders: Mapping[str, Any] = field(default_factory=dict)
    solve: Solve = directly
    taught: tuple[Taught, ...] = ()
    rates: Mapping[str, int] = field(default_factory=dict)

    def says_of(self, plan: Plan) -> WaySays:
        """Return what speaks about the ways of a plan: it, its material's price, and the shop."""
        known = known_of(plan, self.machines, self.materials, self.solve)
        shop = ShopKnown(self.machines, has_drawers=False, taught=self.taught, rates=self.rates)
        return WaySays(plan, shop, known.of(MASS_FOUND))


@singledispatch
def apply_edit(edit: object, _plan: Plan, _shop: PlanRegisters) -> Changed:
    """Return the plan with one change made.

    Args:
        edit: what to change, one of `Edit`; its type says how.
        _plan: the plan as it is.
        _shop: machines and gauges the plan may name.

    Returns:
        The next plan, and the change in words.

    Raises:
        BadEntry: if a field cannot be used; `field` names it.
        NeedsAnswer: if a size is doubtful and was not said twice.
        NotFound: if it changes something that is not there.
    """
    raise TypeError(edit)
